"""How worn the parts of a machine are: use, washes, what was found and measured, set beside set."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime
from uuid import UUID

from django.db import transaction

from care.book import load_book
from care.due_state import DueState
from care.errors import require
from care.items import Fitting, Item, State
from care.measures import Measure
from care.parts import Slot
from care.shelf.wear import Point, Recovery, Trend, recovery, trend
from care.units import Quantity
from care.vocabulary import Action, Found
from server.base import clock
from server.base.problems import NotFound
from server.due.state import MachineState, machine_states
from server.household.models import Member
from server.household.services import require_writer
from server.logbook.models import Entry
from server.logbook.services import Journal, standing
from server.machines.items import item_row, write_inspection
from server.machines.services import item_of, machine_of, told_at
from server.notes.readings import charges_of
from server.shelf.models import Measured
from server.shelf.services import journal_of
from server.work.looks import life_looks, pulls_after_washes, why_gone

WEEK_DAYS = 7
GONE_SHOWN = 1
"""How many parts that were thrown away are shown beside those in use, at each place."""


@dataclass(frozen=True, slots=True)
class Gauge:
    """A measure of a part: its readings with their entries, and how it goes."""

    measure: Measure
    points: tuple[tuple[UUID | None, Point], ...]
    trend: Trend | None


@dataclass(frozen=True, slots=True)
class Wear:
    """One part: where it is, its use, what was found of its life, what was measured, how far through it is.

    `life` is the due state of its replacing, for the part that is in the machine; `why_gone` is of one that went.
    """

    item: Item
    slot: Slot
    since: date | None
    used_h: float
    runs: float
    found: tuple[tuple[date, Found], ...]
    gauges: tuple[Gauge, ...]
    life: DueState | None
    recovery: Recovery | None
    why_gone: str


def wear_of(member: Member, machine_id: UUID) -> list[Wear]:
    """The parts of a machine that are renewed, those in use first, place by place. Raises `NotFound`."""
    machine_of(member, machine_id)
    [state] = machine_states(member, machine_id)
    look = _Look(member, state)
    slots = (slot for slot in state.machine.archetype.parts(state.machine.features) if slot.is_renewed)
    return [wear for slot in slots for wear in look.at(slot)]


class _Look:
    """One look at a machine's parts: what they share is read once."""

    def __init__(self, member: Member, state: MachineState) -> None:
        self._member, self._state = member, state
        self._found = life_looks(member, state.machine.id)
        self._charges = charges_of(member, state.machine.id)
        rows = standing(Measured.objects.of(member.household_id).filter(item_id__in=list(state.items)))
        self._measured: dict[UUID, list[Measured]] = {}
        for row in rows:
            self._measured.setdefault(row.item_id, []).append(row)
        self._pulls = pulls_after_washes(member, state.machine.id)
        self._gone = why_gone(member, state.items)

    def at(self, slot: Slot) -> list[Wear]:
        """The parts of a place: the one in it, those that take turns, and the last that went."""
        mine = [item for item in self._state.items.values() if self._state.homes[item.id] == slot.key]
        gone = sorted((i for i in mine if i.state is State.RETIRED), key=_moved, reverse=True)[:GONE_SHOWN]
        here = sorted(
            (i for i in mine if i.state is not State.RETIRED), key=lambda i: (i.state != State.FITTED, i.name)
        )
        return [self._wear(slot, item) for item in (*here, *gone)]

    def _wear(self, slot: Slot, item: Item) -> Wear:
        context = self._state.context
        fittings = [f for f in self._state.fittings if f.item_id == item.id]
        used = [context.usage.between(f.start, f.end or context.now) for f in fittings]
        since = min((context.local_day(f.start) for f in fittings), default=None)
        fitted = item.state is State.FITTED
        life = [due for due in self._state.due if due.slot == slot.key and due.action is Action.REPLACE]
        measures = load_book().measures_of(slot.use)
        return Wear(
            item=item,
            slot=slot,
            since=since,
            used_h=sum(u.run_hours for u in used),
            runs=sum(u.runs for u in used),
            found=tuple((context.local_day(at), found) for at, found in self._found.get(item.id, ())),
            gauges=tuple(self._gauge(item, one, fittings) for one in measures),
            life=life[0] if fitted and life else None,
            recovery=recovery(self._pulls.get(item.id, ())),
            why_gone=self._gone.get(item.id, ""),
        )

    def _gauge(self, item: Item, measure: Measure, fittings: list[Fitting]) -> Gauge:
        context = self._state.context
        readings: list[tuple[UUID | None, datetime, float]] = [
            (row.entry_id, row.entry.happened_at, row.value)
            for row in self._measured.get(item.id, ())
            if row.measure == measure.key
        ]
        if measure.key == Quantity.CHARGE:
            readings += [(None, at, value) for at, value in self._charges if any(_in(f, at) for f in fittings)]
        points = [
            (entry, Point(self._used_by(fittings, at), context.local_day(at), value))
            for entry, at, value in sorted(readings, key=lambda one: one[1])
        ]
        made = trend(
            measure,
            [point for _, point in points],
            used_h=self._used_by(fittings, context.now),
            hours_a_day=context.pace.hours_per_week / WEEK_DAYS if item.state is State.FITTED else 0.0,
            today=context.today,
        )
        return Gauge(measure, tuple(points), made)

    def _used_by(self, fittings: Iterable[Fitting], at: datetime) -> float:
        spans = ((f.start, min(f.end or at, at)) for f in fittings if f.start < at)
        return sum(self._state.context.usage.between(start, end).run_hours for start, end in spans)


def _moved(item: Item) -> datetime:
    return item.at or clock.now()


def _in(fitting: Fitting, at: datetime) -> bool:
    return fitting.start <= at and (fitting.end is None or at <= fitting.end)


@transaction.atomic
def measure(
    *,
    member: Member,
    machine_id: UUID,
    item_id: UUID,
    key: str,
    value: float,
    unit: str = "",
    day: date | None = None,
) -> Entry:
    """What somebody measured on a part of a machine, in `unit` or else in the measure's own.

    Past its limit it is a find like any other: a new part is due. Raises `InvalidValue` for a measure it does not have,
    another unit or what cannot be, `NotFound` for a part that belongs to another machine.
    """
    require_writer(member)
    machine, item = machine_of(member, machine_id), item_of(member, item_id)
    if item.home_machine_id != machine.pk:
        raise NotFound(
            f"part: {item.name} is no part of {machine.name}", field="item_id", fix="Open the machine it belongs to."
        )
    [state] = machine_states(member, item.home_machine_id)
    measures = {one.key: one for one in load_book().measures_of(state.machine.archetype.slot(item.home_slot).use)}
    require(key in measures, "measure", key, "one of " + (", ".join(measures) or "none for this part"))
    kept = measures[key].accepted(value, unit)
    journal = journal_of(member.household_id, member.pk)
    entry = journal.tell(
        Measured,
        told_at(member, machine, day),
        item_id=item_id,
        measure=key,
        value=kept,
        typed=value,
        unit=unit or measures[key].scale,
    )
    _note_its_end(state, item_id, item.home_slot, measures[key], kept, entry)
    return entry


def _note_its_end(
    state: MachineState, item_id: UUID, at_slot: str, measure: Measure, value: float, entry: Entry
) -> None:
    """Note that a part has to go where what was measured is past its limit; undone with the measurement."""
    slot = state.machine.archetype.slot(at_slot)
    if state.machine.fitted.get(slot.key) != item_id or not slot.is_renewed:
        return
    rows = standing(Measured.objects.of(entry.household_id).filter(item_id=item_id, measure=measure.key))
    first = rows.order_by("entry__happened_at").values_list("value", flat=True)[0]
    if measure.is_past(value, first):
        journal = Journal(entry.household_id, by_id=entry.by_id, subject_id=state.machine.id, action_id=entry.action_id)
        at = entry.happened_at
        item = item_row(entry.household_id, item_id)
        write_inspection(journal, item, slot=slot.key, about=Action.REPLACE, found=Found.DUE, at=at)
