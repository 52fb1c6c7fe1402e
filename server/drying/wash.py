"""The wash card of a part as this household has it: what it is, what was seen of it, its school, who lives here."""

from dataclasses import dataclass
from uuid import UUID

from care.bench.washing import WashCard, card
from care.parts import Slot
from care.washability import Marks
from server.due.state import machine_states
from server.household.models import Member
from server.machines.services import machine_of


@dataclass(frozen=True, slots=True)
class CardOfPart:
    """A wash card with the part it is of, and what is kept as seen of it."""

    slot: Slot
    marks: Marks
    card: WashCard


def wash_card(member: Member, machine_id: UUID, slot_key: str, also: Marks) -> CardOfPart:
    """The card of a part; `also` is taken as seen on top of what is kept. Raises `InvalidValue`, `NotFound`."""
    machine_of(member, machine_id)
    [state] = machine_states(member, machine_id)
    slot = state.machine.archetype.slot(slot_key)
    marks = {**slot.over.marks, **also}
    school = slot.school_in(state.context.school)
    return CardOfPart(slot, slot.over.marks, card(slot, marks, school, allergy=state.home.allergy))
