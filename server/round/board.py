"""Round: the whole household at one moment, for one answer."""

from dataclasses import dataclass
from uuid import UUID

from care.due import Agenda, agenda
from care.items import Item
from server.bench.services import SheetState, open_sheets
from server.household.models import Member
from server.machines.state import MachineState, machine_states


@dataclass(frozen=True, slots=True)
class OnRack:
    """A part on the rack, the machine and slot it belongs to, and whether that slot is empty meanwhile."""

    item: Item
    state: MachineState
    slot: str
    slot_empty: bool


@dataclass(frozen=True, slots=True)
class Round:
    """All machines with their states, the order of work, the rack and the open sheets."""

    states: list[MachineState]
    agenda: Agenda
    rack: list[OnRack]
    sheets: list[SheetState]

    @property
    def names(self) -> dict[UUID, str]:
        """Machine names by id."""
        return {state.machine.id: state.machine.name for state in self.states}


def round_of(member: Member) -> Round:
    """The household as it stands now."""
    states = machine_states(member)
    rack = [
        OnRack(item, state, slot, slot not in state.machine.fitted) for state in states for slot, item in state.on_rack
    ]
    rack.sort(key=lambda on: (on.item.damp_until is None, on.item.damp_until))
    tasks = [task for state in states for task in state.tasks]
    return Round(states, agenda(tasks), rack, open_sheets(member))
