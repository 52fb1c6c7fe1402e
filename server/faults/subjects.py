"""A machine of the household as the fault finder sees it: its kind with its dock's, its records, who looks."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from uuid import UUID

from care.book import load_book
from care.faults.background import Background
from care.faults.hands import Hands
from care.faults.subject import DOCK, Subject, subject
from care.model import Machine
from server.base import clock
from server.due.state import machine_states
from server.faults.background import background_of
from server.household.models import Member
from server.household.services import answers_at
from server.machines.services import with_dock
from server.work.cases import earlier_causes
from server.work.lately import LATELY


@dataclass(frozen=True, slots=True)
class KnownMachine:
    """A machine, and its dock if it has one, as something to find faults in; `hands` are those of the household."""

    subject: Subject
    hands: Hands
    machines: tuple[Machine, ...] = ()


def known(member: Member, machine_id: UUID) -> KnownMachine:
    """The machine with its dock; of a dock, the robot that it serves. Raises `NotFound`, `Conflict` if put away."""
    machines = with_dock(member, machine_id)
    mine, dock = machines[0], machines[1] if len(machines) > 1 else None
    book = load_book()
    of = subject(
        book,
        mine.archetype,
        dock.archetype if dock else None,
        mine.features,
        dock.features if dock else frozenset(),
    )
    home = answers_at(member.household_id, clock.now()).at_the_bench
    return KnownMachine(of, Hands.of(home, book.tools.values()), machines)


def on_record(member: Member, about: KnownMachine) -> list[str]:
    """What the records of the last days tell unasked of a machine (keys of ticks): something wet, fine dust."""
    [state] = machine_states(member, only=[about.machines[0].id])
    since = clock.now() - LATELY
    lately = {str(kind) for at, kind in state.context.mishaps if at >= since}
    return [tick.key for tick in about.subject.ticks if tick.mishap in lately]


def records_of(member: Member, machines: Sequence[Machine], symptoms: Iterable[str] = ()) -> Background:
    """What the records say of a machine and its dock beforehand, where these symptoms are noticed."""
    states = {state.machine.id: state for state in machine_states(member, only=[m.id for m in machines])}
    whole = {role: states[m.id] for role, m in zip(("", DOCK), machines, strict=False)}
    return background_of(member, whole, earlier_causes(member, machines[0].id, symptoms))
