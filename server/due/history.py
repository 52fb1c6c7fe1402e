"""What happened to a machine, newest first, for its page."""

from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime
from itertools import chain
from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import Field

from care.book import load_book
from care.model import Provenance
from care.units import Quantity
from care.vocabulary import Action, Found
from server.due.state import MachineState
from server.household.models import Member
from server.logbook.memo import of_all, remembered
from server.logbook.models import Detail, Entry
from server.logbook.services import standing
from server.machines.models import (
    CaseRecord,
    DangerRecord,
    DryCheck,
    HomeChanged,
    Hung,
    Inspection,
    Reading,
    Run,
    Service,
    Weight,
)
from server.machines.records import archetype_of
from server.machines.services import machine_of


@dataclass(frozen=True, slots=True, kw_only=True)
class HistoryBase:
    """What every line of a machine's history tells: which entry it is, when it happened, who entered it.

    Lines of one `deed` are told as one: what one person did to one part on one day. What a `sheet` recorded goes back
    only with all of its sitting.
    """

    entry_id: UUID
    at: datetime
    day: date
    by: str
    deed: str
    sheet: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class RunLine(HistoryBase):
    """A run."""

    minutes: float
    provenance: Provenance
    kind: Literal["run"] = "run"


@dataclass(frozen=True, slots=True, kw_only=True)
class PartLine(HistoryBase):
    """Something about a part: its place, and its name where it is told."""

    slot: str
    item: str


@dataclass(frozen=True, slots=True, kw_only=True)
class ServiceLine(PartLine):
    """Work that was done."""

    action: Action
    kind: Literal["service"] = "service"


@dataclass(frozen=True, slots=True, kw_only=True)
class InspectionLine(PartLine):
    """What was found at a look, about which task."""

    action: Action
    found: Found
    kind: Literal["inspection"] = "inspection"


@dataclass(frozen=True, slots=True, kw_only=True)
class HungLine(PartLine):
    """Where a wet part was hung."""

    place: str
    kind: Literal["hung"] = "hung"


@dataclass(frozen=True, slots=True, kw_only=True)
class WeightLine(PartLine):
    """What a part weighed [g]."""

    grams: float
    kind: Literal["weight"] = "weight"


@dataclass(frozen=True, slots=True, kw_only=True)
class CheckLine(PartLine):
    """Whether a part felt damp."""

    damp: bool
    kind: Literal["check"] = "check"


@dataclass(frozen=True, slots=True, kw_only=True)
class ChangedLine(PartLine):
    """Whether something changed at home."""

    changed: bool
    kind: Literal["changed"] = "changed"


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadingLine(HistoryBase):
    """A reading, as it was told, before or after the work."""

    quantity: Quantity
    value: float
    unit: str
    moment: str
    kind: Literal["reading"] = "reading"


@dataclass(frozen=True, slots=True, kw_only=True)
class CaseLine(HistoryBase):
    """A search for a fault: what was noticed, what it came to, and where it ended."""

    symptoms: list[str]
    causes: list[str]
    stand: str
    kind: Literal["case"] = "case"


@dataclass(frozen=True, slots=True, kw_only=True)
class DangerLine(HistoryBase):
    """A danger that was told of, or what ended it."""

    words: str
    kind: Literal["danger"] = "danger"


HistoryLine = Annotated[
    RunLine
    | ServiceLine
    | InspectionLine
    | HungLine
    | WeightLine
    | CheckLine
    | ChangedLine
    | ReadingLine
    | CaseLine
    | DangerLine,
    Field(discriminator="kind"),
]


def history(member: Member, state: MachineState, most: int = 40) -> list[HistoryLine]:
    """What happened to a machine: the latest runs, services and findings that stand (`most` of each), newest first."""
    key = ("history", of_all(member.household_id), state.machine.id, most)
    return remembered(key, lambda: _history(member, state, most))


def _history(member: Member, state: MachineState, most: int) -> list[HistoryLine]:
    made = list(chain(_of_the_machine(member.household_id, state, most), _of_parts(member.household_id, state, most)))
    since = _told_since(made, most)
    return sorted((line for line in made if line.at >= since), key=_order, reverse=True)


IN_HAND = ("inspection", "service", "hung", "weight", "check")
"""In which order a part goes through somebody's hands, where all of it is told at once."""


def _order(line: HistoryLine) -> tuple[datetime, int]:
    return line.at, IN_HAND.index(line.kind) if line.kind in IN_HAND else 0


def _told_since(made: Sequence[HistoryLine], most: int) -> datetime:
    """Since when every kind is told in full: older lines of one kind alone would tell half of what happened."""
    kinds = defaultdict(list)
    for line in made:
        kinds[line.kind].append(line.at)
    return max((min(at) for at in kinds.values() if len(at) >= most), default=datetime.min.replace(tzinfo=UTC))


def _of_the_machine(household_id: UUID, state: MachineState, most: int) -> Iterator[HistoryLine]:
    """Its runs, readings, searches for faults and dangers."""

    def latest(model: type[Detail]) -> Any:
        return _latest(model, household_id, most, machine=state.machine.id)

    for run in latest(Run):
        fields = {**_head(run, state), "day": run.day}
        yield RunLine(**fields, minutes=run.run_s / 60, provenance=Provenance(run.provenance))
    for read in latest(Reading):
        quantity, head = Quantity(read.quantity), _head(read, state)
        yield ReadingLine(**head, quantity=quantity, value=read.typed, unit=read.unit, moment=read.moment)
    for case in latest(CaseRecord):
        noticed, causes = ([one["name"] for one in group] for group in (case.symptoms, case.causes))
        yield CaseLine(**_head(case, state), symptoms=noticed, causes=causes, stand=case.stand)
    for record in latest(DangerRecord):
        danger = load_book().dangers[record.danger]
        yield DangerLine(**_head(record, state), words=danger.over if record.over else danger.name)


def _of_parts(household_id: UUID, state: MachineState, most: int) -> Iterator[HistoryLine]:
    """What was done to its parts and found; where they hung, what they weighed, and what a feel told."""

    def latest(model: type[Detail], **where: object) -> Any:
        return _latest(model, household_id, most, **where).select_related("item")

    here, mine = {"machine": state.machine.id}, {"item__home_machine": state.machine.id}
    for service in latest(Service, **here):
        yield ServiceLine(**_part(service, service.slot, state), action=Action(service.action))
    for saw in latest(Inspection, **here):
        about, found = Action(saw.about), Found(saw.found)
        yield InspectionLine(**_part(saw, saw.slot, state), action=about, found=found)
    for answer in _latest(HomeChanged, household_id, most, **here):
        yield ChangedLine(**_head(answer, state), slot=answer.slot, item="", changed=answer.changed)
    for hung in latest(Hung, **mine):
        yield HungLine(**_part(hung, hung.item.home_slot, state), place=hung.place)
    for weight in latest(Weight, **mine):
        yield WeightLine(**_part(weight, weight.item.home_slot, state), grams=weight.grams)
    for check in latest(DryCheck, **mine):
        yield CheckLine(**_part(check, check.item.home_slot, state), damp=check.damp)


def _latest(model: type[Detail], household_id: UUID, most: int, **where: object) -> Any:
    rows = standing(model.objects.of(household_id).filter(**where)).select_related("entry__by")
    return rows.order_by("-entry__happened_at", "-entry__sequence")[:most]


def _head(row: Detail, state: MachineState) -> dict[str, Any]:
    entry, by = row.entry, row.entry.by
    day = state.context.local_day(entry.happened_at)
    name = by.name if by else ""
    sheet = entry.source == Entry.Source.SHEET
    return {
        "entry_id": entry.pk,
        "at": entry.happened_at,
        "day": day,
        "by": name,
        "deed": str(entry.pk),
        "sheet": sheet,
    }


def _part(row: Any, slot: str, state: MachineState) -> dict[str, Any]:
    head = _head(row, state)
    return {**head, "deed": f"{slot}/{head['day']}/{row.entry.by_id}", "slot": slot, "item": row.item.name}


def washed_since(member: Member, machine_id: UUID, since: datetime) -> int:
    """How often parts that could have been renewed instead were washed since: what that kept out of the bin."""
    rows = standing(Service.objects.of(member.household_id).filter(machine=machine_id, action=Action.WASH))
    used_up = {slot.key for slot in archetype_of(machine_of(member, machine_id)).slots if slot.is_used_up}
    return rows.filter(entry__happened_at__gte=since, slot__in=used_up).count()
