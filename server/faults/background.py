"""What the records of a machine say beforehand, as the core reads it when something is wrong."""

from collections.abc import Mapping

from care.due_state import DueState
from care.faults.background import Background, PartBackground
from care.vocabulary import Action, Meter
from server.due.state import MachineState
from server.household.models import Member
from server.work.cases import Earlier
from server.work.lately import Lately, lately


def background_of(member: Member, states: Mapping[str, MachineState], earlier: Earlier) -> Background:
    """The records of a machine (role "") and its dock, and how often each fault was the cause before."""
    records = {role: lately(member, state.machine.id, state.machine.fitted) for role, state in states.items()}
    parts = {
        (role, slot): _part(state, slot, records[role])
        for role, state in states.items()
        for slot in state.machine.fitted
    }
    worked = {role: min(one.handled.values()) for role, one in records.items() if one.handled}
    return Background(parts, earlier.cases, earlier.again, worked)


def _part(state: MachineState, slot: str, recent: Lately) -> PartBackground:
    item = state.items.get(state.machine.fitted[slot])
    due = [one for one in state.due if one.slot == slot and _is_clock(one)]
    clocks: dict[Action, float] = {one.action: one.share for one in due if one.action is not Action.INSPECT}
    life = next((one.share for one in due if one.action is Action.REPLACE), None)
    return PartBackground(
        clocks=clocks,
        life=life,
        found=recent.found.get(slot),
        washes=item.wash_count if item else 0,
        refitted_early=bool(item and item.refitted_early),
        dried_slowly=recent.slow_air.get(slot),
        serviced=recent.handled.get(slot),
        use=next((one.use for one in state.machine.archetype.slots if one.key == slot), ""),
        cleaned=recent.done.get(slot, frozenset()),
    )


def _is_clock(one: DueState) -> bool:
    """Whether it says how far a part has gone: something is counted, from a start that is known."""
    return not one.unsure and bool(one.clocks) and one.clocks[0].meter is not Meter.CONDITION
