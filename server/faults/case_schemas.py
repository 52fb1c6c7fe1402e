"""Cases, readings and the air lab over HTTP."""

from __future__ import annotations

from datetime import date, datetime, timedelta
from typing import Literal
from uuid import UUID

from pydantic import Field

from care.due.chambers import chambers
from care.faults.next_check import spent
from care.faults.subject import DOCK
from care.model import Machine
from care.vocabulary import Column
from server.base import bounds, clock
from server.base.schema import Schema
from server.due.strip_schemas import ChamberOut, chamber_out
from server.faults.cases import After, CaseState
from server.faults.models import Case
from server.faults.schemas import AssessmentOut, SymptomOut, TickOut, assessment_out
from server.faults.services import NewEvent


class RouteOut(Schema):
    """A fixed order of checks, for those who prefer a list; keys of probes."""

    school: str
    name: str
    why: str
    probes: list[str]


class CheapOut(Schema):
    """A look that costs next to nothing [min]."""

    name: str
    minutes: float


class StartOut(Schema):
    """What a case of a machine can begin with; `open` is one that is open, `cheap` what was not looked at lately."""

    machine_id: UUID
    machine: str
    dock: str | None
    symptoms: list[SymptomOut]
    ticks: list[TickOut]
    open: UUID | None
    cheap: list[CheapOut]
    earlier: list[str]


class CaseIn(Schema):
    """A case to open: its id, the machine, what is noticed, and what is told unasked (keys of ticks)."""

    id: UUID
    machine_id: UUID
    symptoms: list[bounds.Key] = Field(max_length=8)
    unasked: list[bounds.Key] = Field(default=[], max_length=8)


class ToldIn(Schema):
    """One more thing told: after how many, what; a gauge's reading in kPa instead of an answer."""

    id: UUID
    after: bounds.Count
    kind: Literal["noticed", "answered", "cured", "retested", "rests", "back"]
    key: bounds.Key = ""
    says: bounds.Key = ""
    kpa: bounds.Amount | None = None
    clean_kpa: bounds.Amount | None = None
    day: bounds.Day | None = None

    def event(self) -> NewEvent:
        """As the services take it."""
        return NewEvent(self.id, self.after, self.kind, self.key, self.says, self.kpa, self.clean_kpa, self.day)


class CloseIn(Schema):
    """Why a case ends that is not settled."""

    reason: bounds.Line = ""


class WaitsOut(Schema):
    """A part that a try waits for: on the rack, its place empty; `until` when it has rested."""

    item_id: UUID
    name: str
    until: datetime | None


class RestsOut(Schema):
    """A check whose wait has begun, a machine that cools: since when and until when, how many minutes are left."""

    probe: str
    name: str
    since: datetime
    until: datetime
    left_min: float


class SaidOut(Schema):
    """What a machine said of itself; `case_id` is the search for a fault at which it stands."""

    entry_id: UUID
    machine_id: UUID
    machine: str
    code: str
    words: str
    at: datetime
    case_id: UUID | None


class CaseOut(AssessmentOut):
    """A case and where it stands; `sheet_id` is the open sheet that puts right what it found, `said` what the machine
    said of itself meanwhile.
    """

    id: UUID
    machine_id: UUID
    machine: str
    kind: str
    dock: str | None
    dock_id: UUID | None
    status: str
    opened_at: datetime
    entry_id: UUID | None
    today: date
    sheet_id: UUID | None
    waits: list[WaitsOut]
    rests: list[RestsOut]
    said: list[SaidOut]
    told: int
    minutes: float
    chambers: list[ChamberOut]
    dock_chambers: list[ChamberOut]
    routes: list[RouteOut]


class OpenCaseOut(Schema):
    """A case that is open, in a line."""

    id: UUID
    machine_id: UUID
    machine: str
    symptoms: list[str]
    stand: str
    opened_at: datetime


def case_out(state: CaseState, after: After) -> CaseOut:
    """A case, where it stands, and what the work on it waits for."""
    row, subject = state.row, state.known.subject
    mine, *docks = state.known.machines
    base = assessment_out(state.case, state.belief, state.now, state.known.hands)
    return CaseOut(
        **dict(base),
        id=row.pk,
        machine_id=row.machine_id,
        machine=mine.name,
        kind=mine.archetype.name,
        dock=docks[0].name if docks else None,
        dock_id=docks[0].id if docks else None,
        status=row.status,
        opened_at=row.opened_at,
        entry_id=row.record_id if row.status == Case.Status.CLOSED else None,
        today=after.today,
        sheet_id=after.sheet_id,
        waits=[WaitsOut(item_id=on.item.id, name=on.item.name, until=on.item.locked_until) for on in after.waits],
        rests=[_rests_out(state, key, since, until) for key, (since, until) in state.rests.items()],
        said=[SaidOut.model_validate(one) for one in after.said],
        told=state.event_count,
        minutes=round(spent(state.case), 1),
        chambers=_chambers(state, mine, ""),
        dock_chambers=[one for dock in docks for one in _chambers(state, dock, DOCK)],
        routes=[
            RouteOut(school=r.school, name=r.name, why=r.why, probes=[p.key for p in subject.in_order(r)])
            for r in subject.routes
        ],
    )


def _rests_out(state: CaseState, key: str, since: datetime, until: datetime) -> RestsOut:
    left = max(0.0, (until - clock.now()) / timedelta(minutes=1))
    name = state.known.subject.probe(key).name
    return RestsOut(probe=key, name=name, since=since, until=until, left_min=round(left, 1))


def _chambers(state: CaseState, machine: Machine, role: str) -> list[ChamberOut]:
    """The strip of a machine, of what lies beside its path only the parts that a fault may be at."""
    beside = {s.at.key for s in state.known.subject.suspects if s.at.role == role}
    drawn = chambers(machine, [], {})
    return [chamber_out(one) for one in drawn if one.column is not Column.OFF_PATH or one.key in beside]


def open_case_out(state: CaseState) -> OpenCaseOut:
    """A case in a line."""
    return OpenCaseOut(
        id=state.row.pk,
        machine_id=state.row.machine_id,
        machine=state.known.machines[0].name,
        symptoms=[state.case.subject.symptom(key).name for key in state.case.symptoms],
        stand=state.now.verdict.stand,
        opened_at=state.row.opened_at,
    )
