"""The order of work over all machines, and what it takes: due first by what is at stake, then by date."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from care.kinds import Action, Archetype, without_superseded
from care.model import DueState


@dataclass(frozen=True, slots=True)
class Task:
    """A due state of one machine."""

    machine_id: UUID
    archetype: Archetype
    state: DueState

    @property
    def opening(self) -> str | None:
        """What must be undone to reach the part."""
        return self.archetype.slot(self.state.slot).opening

    @property
    def key(self) -> tuple[str, Action]:
        """Which task of its machine it is: slot key and action."""
        return self.state.slot, self.state.action


@dataclass(frozen=True, slots=True)
class Agenda:
    """Due tasks in order, the next ones after them, and the hands-on minutes of the due ones [min]."""

    due: tuple[Task, ...]
    coming: tuple[Task, ...]
    minutes: float


def agenda(tasks: Iterable[Task]) -> Agenda:
    """Split tasks into due (by stake, then how far past) and coming (by date); an opening is counted once."""
    known = [task for task in tasks if task.state.item_id is not None]
    due = sorted((t for t in known if t.state.is_due), key=lambda t: (t.state.stake, -t.state.share))
    sensible = {machine_id: without_superseded(keys) for machine_id, keys in _by_machine(due).items()}
    due = [t for t in due if t.key in sensible[t.machine_id]]
    coming = sorted(
        (t for t in known if not t.state.is_due and t.state.due_on is not None),
        key=lambda t: (t.state.due_on or date.max, t.state.stake),
    )
    return Agenda(tuple(due), tuple(coming), minutes(due))


def minutes(tasks: Iterable[Task]) -> float:
    """Hands-on minutes of `tasks` [min], each machine's in one go."""
    chosen = list(tasks)
    kinds = {task.machine_id: task.archetype for task in chosen}
    return sum(kinds[machine_id].hands_on_min(keys) for machine_id, keys in _by_machine(chosen).items())


def _by_machine(tasks: Iterable[Task]) -> dict[UUID, list[tuple[str, Action]]]:
    keys: dict[UUID, list[tuple[str, Action]]] = {}
    for task in tasks:
        keys.setdefault(task.machine_id, []).append(task.key)
    return keys
