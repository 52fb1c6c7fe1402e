"""A machine of the household as the fault finder sees it: its kind with its dock's, its records, who looks."""

from dataclasses import dataclass
from uuid import UUID

from care.book import load_book
from care.trace import Background, Hands, Subject, subject
from care.trace.subject import DOCK
from server.household.models import Member
from server.machines.cases import earlier_causes
from server.machines.state import MachineState, machine_states
from server.trace.background import background_of


@dataclass(frozen=True, slots=True)
class Known:
    """What is known of a machine beforehand; of a kind of the book alone, nothing of a machine."""

    subject: Subject
    background: Background
    hands: Hands
    machine_id: UUID | None = None
    dock_id: UUID | None = None
    states: tuple[MachineState, ...] = ()


def known(member: Member, *, machine_id: UUID | None = None, name: str | None = None) -> Known | None:
    """The machine with this id or name, its dock with it; None where the household has none such in use."""
    states = machine_states(member)
    mine = next((s for s in states if machine_id == s.machine.id or name == s.machine.name), None)
    if mine is None:
        return None
    dock = next((s for s in states if s.robot == mine.machine.id), None)
    return known_of(member, mine, dock)


def known_of(member: Member, mine: MachineState, dock: MachineState | None) -> Known:
    """What is known of a machine, and of its dock if it has one."""
    whole = {"": mine, **({DOCK: dock} if dock else {})}
    of = subject(
        load_book(),
        mine.machine.archetype,
        dock.machine.archetype if dock else None,
        mine.machine.features,
        dock.machine.features if dock else frozenset(),
    )
    cases = earlier_causes(member, mine.machine.id)
    told = background_of(member, whole, cases)
    return Known(
        of, told, Hands.of(mine.home), mine.machine.id, dock.machine.id if dock else None, tuple(whole.values())
    )
