"""Places whose parts are renewed: when the one in place is expected to go, and what its drying keeps waiting.

What of it takes the due engine is stored with what Round shows of a machine.
"""

from dataclasses import dataclass
from typing import Any

from pydantic import TypeAdapter

from care.bench.rotation import gap_h
from care.book import load_book
from care.due.upkeep import times_a_year
from care.due_state import DueState
from care.faults.cure import put_right_by_new
from care.items import State
from care.model import Level
from care.parts import Slot
from care.shelf.demand import Renewal
from care.shelf.renewals import YEAR_DAYS, anywhere, renewal, washes_a_year
from care.vocabulary import Action
from server.due.state import MachineState


@dataclass(frozen=True, slots=True)
class Turns:
    """A place whose part is washed: how it dries (a key of the book), how often it is washed, the gap between runs [h].

    `have` counts the parts meant for it that are not thrown away.
    """

    drying: str
    wash_every_h: float
    gap_h: float
    have: int


@dataclass(frozen=True, slots=True)
class Renewing:
    """A place that is renewed: the part in it, how it stands, what is coming, and whether sets take turns there.

    `faults` are those that a new part puts right.
    """

    machine_name: str
    slot_name: str
    part: str
    item_name: str
    level: Level
    renewal: Renewal
    turns: Turns | None = None
    faults: tuple[str, ...] = ()


_stored: TypeAdapter[Renewing] = TypeAdapter(Renewing)


def renewals_of(state: MachineState) -> list[dict[str, Any]]:
    """The places of a machine that are renewed, as JSON."""
    due = {one.slot: one for one in state.due if one.action is Action.REPLACE}
    machine = state.machine
    slots = machine.archetype.parts(machine.features)
    empty = [slot for slot in slots if slot.is_renewed and slot.key not in machine.fitted]
    made = [_renewing(state, one) for one in due.values()] + [_empty(state, slot) for slot in empty]
    return [_stored.dump_python(one, mode="json") for one in made]


def from_stored(value: dict[str, Any]) -> Renewing:
    """A place as it was stored."""
    return _stored.validate_python(value)


def _renewing(state: MachineState, due: DueState) -> Renewing:
    machine = state.machine
    slot = machine.archetype.slot(due.slot)
    item = state.items[due.item_id].name if due.item_id else slot.name
    coming = renewal(machine.id, due, machine.archetype, state.context.pace, _washes(state, slot))
    return _place(state, slot, item, due.level, coming)


def _empty(state: MachineState, slot: Slot) -> Renewing:
    """A place that stands empty while its part is on the rack, or gone."""
    machine, context = state.machine, state.context
    load = context.loads.own(context.now)
    often = times_a_year(slot, Action.REPLACE, machine.archetype, context.pace, load, context.school)
    coming = anywhere(machine.id, slot.key, YEAR_DAYS / often if often else None, today=context.today)
    return _place(state, slot, slot.name, Level.MISSING, coming)


def _place(state: MachineState, slot: Slot, item: str, level: Level, coming: Renewal) -> Renewing:
    faults = put_right_by_new(slot, load_book().faults.faults)
    return Renewing(state.machine.name, slot.name, slot.part, item, level, coming, turns_of(state, slot), faults)


def _washes(state: MachineState, slot: Slot) -> float:
    context, kind = state.context, state.machine.archetype
    return washes_a_year(slot, kind, context.pace, context.loads.own(context.now), context.school)


def turns_of(state: MachineState, slot: Slot) -> Turns | None:
    """What keeps a machine waiting while a part of this place dries.

    None where nothing does: it is not washed, or not any more, or the machine has no usual week.
    """
    gap = gap_h(state.schedule, today=state.context.today, zone=state.context.zone)
    dries, washes = slot.slowest_drying, _washes(state, slot)
    if gap is None or not washes or dries is None or not slot.needed_to_run:
        return None
    have = sum(1 for i in state.items.values() if state.homes[i.id] == slot.key and i.state is not State.RETIRED)
    return Turns(dries.key, YEAR_DAYS * 24 / washes, gap, have)
