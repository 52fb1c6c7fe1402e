"""How full bags and bins were found, after how much use since they were emptied or new."""

from dataclasses import dataclass
from datetime import datetime, timedelta
from uuid import UUID

from care.due.upkeep import WEEKS, times_a_year
from care.kinds import Action, Column, Found, LoadKind, Slot
from care.shelf.dust import Seen, heavier
from server.household.models import Member
from server.logbook.services import standing
from server.machines.models import Inspection, Service
from server.machines.state import MachineState

EMPTYING = (Action.REPLACE, Action.EMPTY)
SAME_WORK = timedelta(hours=12)
"""An emptying so soon after a look was done because of it."""


@dataclass(frozen=True, slots=True)
class Holder:
    """A bag or bin of a machine: what empties it, how it was found, and how many usual weeks ago that last was.

    `book_weeks` is how long the book gives it at this use; None where nothing tells.
    """

    slot: Slot
    action: Action
    seen: tuple[Seen, ...]
    weeks_since: float
    book_weeks: float | None


def holders(member: Member, state: MachineState) -> list[Holder]:
    """The bags and bins of a machine that fill with what it takes up; none while nobody knows how much it runs."""
    machine = state.machine
    if not state.context.pace.hours_per_week:
        return []
    columns = {station.key: station.column for station in machine.archetype.stations}
    parts = (s for s in machine.archetype.parts(machine.features) if columns[s.station] is Column.BIN)
    emptied = ((slot, _emptied_by(slot, machine.features)) for slot in parts)
    return [_holder(member, state, slot, action) for slot, action in emptied if action is not None]


def _emptied_by(slot: Slot, features: frozenset[str]) -> Action | None:
    """What a person does to empty it: a new bag, or else emptying it; None where a dock does."""
    moved = {r.action for r in slot.rules if r.moved_by is LoadKind.VOLUME and r.holds_with(features)}
    return next((action for action in EMPTYING if action in moved), None)


def _holder(member: Member, state: MachineState, slot: Slot, action: Action) -> Holder:
    emptied, looks = _told(member, state.machine.id, slot)
    first = min((f.start for f in state.fittings if f.slot == slot.key), default=state.context.now)
    seen = tuple(_seen(state, at, found, emptied, first) for at, found in looks if at > first)
    last = emptied[-1] if emptied else first
    context, kind = state.context, state.machine.archetype
    often = times_a_year(slot, action, kind, context.pace, context.loads.own(context.now), context.school)
    return Holder(slot, action, seen, usual_weeks(state, last, context.now), WEEKS / often if often else None)


def _told(member: Member, machine_id: UUID, slot: Slot) -> tuple[list[datetime], list[tuple[datetime, Found]]]:
    of = {"machine": machine_id, "slot": slot.key}
    done = standing(Service.objects.of(member.household_id).filter(**of, action__in=EMPTYING))
    saw = standing(Inspection.objects.of(member.household_id).filter(**of, about__in=EMPTYING))
    return [row.entry.happened_at for row in done], [(row.entry.happened_at, Found(row.found)) for row in saw]


def _seen(state: MachineState, at: datetime, found: Found, emptied: list[datetime], first: datetime) -> Seen:
    since = max((one for one in emptied if one < at), default=first)
    return Seen(usual_weeks(state, since, at), found, any(at <= one <= at + SAME_WORK for one in emptied))


def usual_weeks(state: MachineState, start: datetime, end: datetime) -> float:
    """How many weeks of usual use and dirt lie between [usual weeks]."""
    context = state.context
    now = context.loads.own(context.now).volume
    stretches = context.loads.stretches(LoadKind.VOLUME, start, end, context.zone)
    hours = (context.usage.between(s.start, s.end).run_hours * heavier(s.index, now) for s in stretches)
    return sum(hours) / context.pace.hours_per_week
