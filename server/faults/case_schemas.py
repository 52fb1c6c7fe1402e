"""Cases, readings and the air lab over HTTP."""

from __future__ import annotations

from datetime import date, datetime, timedelta
from typing import Literal
from uuid import UUID

from pydantic import Field

from care.due.chambers import chambers
from care.faults.airflow import At
from care.faults.lab import Setting
from care.faults.next_check import spent
from care.faults.subject import DOCK
from care.model import Machine
from care.units import Quantity
from care.vocabulary import Column
from server.base import bounds, clock
from server.base.schema import Schema
from server.due.schemas import ChamberOut, chamber_out
from server.faults.lab import Lab
from server.faults.models import Case
from server.faults.schemas import AssessmentOut, SymptomOut, TickOut, assessment_out
from server.faults.services import After, CaseState, Told
from server.notes.readings import Figure, Row


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

    def told(self) -> Told:
        """As the services take it."""
        return Told(self.id, self.after, self.kind, self.key, self.says, self.kpa, self.clean_kpa, self.day)


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


class CaseOut(AssessmentOut):
    """A case and where it stands; `sheet_id` is the open sheet that puts right what it found."""

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


class ReadingIn(Schema):
    """A reading: what of, the figure in its unit, on which opening, when in the work, on which day."""

    quantity: Quantity
    value: bounds.Amount
    unit: bounds.Key = ""
    opening: At | None = None
    moment: Literal["", "before", "after"] = ""
    day: bounds.Day | None = None

    def figure(self) -> Figure:
        """As the services take it."""
        return Figure(self.quantity, self.value, self.unit, self.opening or "", self.moment, day=self.day)


class PointOut(Schema):
    """A reading."""

    entry_id: UUID
    at: datetime
    value: float
    moment: str


class WorkOut(Schema):
    """A task done between two readings."""

    slot: str
    action: str


class BetweenOut(Schema):
    """What lies before a reading: the change since the one before it, the work meanwhile, whether that helped."""

    after: UUID
    change: float
    helped: bool | None
    work: list[WorkOut]


class ReadingRowOut(Schema):
    """Like readings of a machine."""

    quantity: Quantity
    opening: str
    unit: str
    points: list[PointOut]
    between: list[BetweenOut]


class SettingIn(Schema):
    """What is set in the lab, by station."""

    fills: bounds.Table[bounds.Share] = {}
    opens: bounds.Table[bounds.Share] = {}
    leaks: bounds.Table[bounds.Amount] = {}
    power: bounds.Share = 1.0

    def setting(self) -> Setting:
        """As the core takes it."""
        return Setting(self.fills, self.opens, self.leaks, self.power)


class PlaceOut(Schema):
    """A station of the path in the lab: what may be set there."""

    key: str
    label: str
    column: Column
    fills: bool
    blocks: bool
    suction_kpa: float | None


class HeardOut(Schema):
    """What somebody would notice."""

    key: str
    name: str
    feel: str


class LabOut(Schema):
    """The air of a machine as set: flow [L/s], suction ahead of the fan [kPa], pull, pitch, heat beside clean [-].

    `present` is how full its filters are by its records.
    """

    places: list[PlaceOut]
    powers: list[float]
    present: dict[str, float]
    nozzle_l_s: float
    suction_kpa: float
    pull: float
    pitch: float
    heat: float
    heard: list[HeardOut]


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
        told=state.told,
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


def row_out(row: Row) -> ReadingRowOut:
    """Like readings."""
    return ReadingRowOut(
        quantity=row.quantity,
        opening=row.opening,
        unit=row.unit,
        points=[PointOut.model_validate(p) for p in row.points],
        between=[
            BetweenOut(
                after=b.after,
                change=b.change,
                helped=b.helped,
                work=[WorkOut(slot=slot, action=action) for slot, action in b.work],
            )
            for b in row.between
        ],
    )


def lab_out(of: Lab) -> LabOut:
    """The air lab."""
    seen = of.seen
    labels = {s.key: s for s in of.archetype.stations}
    places = (*of.path.before, *of.path.behind)
    words = {s.key: s for s in of.symptoms}
    return LabOut(
        places=[
            PlaceOut(
                key=p.key,
                label=labels[p.key].label,
                column=p.column,
                fills=p.key in of.filters,
                blocks=p.key in of.blocks,
                suction_kpa=round(seen.suctions[p.key] / 1000, 2) if p.key in seen.suctions else None,
            )
            for p in places
        ],
        powers=list(of.powers),
        present=of.present,
        nozzle_l_s=round(seen.nozzle, 2),
        suction_kpa=round(seen.suction / 1000, 2),
        pull=round(seen.pull, 3),
        pitch=round(seen.pitch, 3),
        heat=round(seen.heat, 2),
        heard=[HeardOut(key=key, name=words[key].name, feel=words[key].feel) for key in seen.heard],
    )
