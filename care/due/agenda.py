"""The order of work over all machines, and what it takes: due first by what is at stake, then by date."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from care.model import Archetype, DueState


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
    def effort_min(self) -> float:
        """Hands-on minutes without opening the machine [min]."""
        return self.archetype.slot(self.state.slot).rule(self.state.action).card.effort_min


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
    due = _without_superseded(due)
    coming = sorted(
        (t for t in known if not t.state.is_due and t.state.due_on is not None),
        key=lambda t: (t.state.due_on or date.max, t.state.stake),
    )
    return Agenda(tuple(due), tuple(coming), minutes(due))


def minutes(tasks: Iterable[Task]) -> float:
    """Hands-on minutes of `tasks` [min]: each one's effort, each opening of each machine once."""
    chosen = list(tasks)
    openings = {(t.machine_id, t.opening): t.archetype.opening(t.opening).setup_min for t in chosen if t.opening}
    return sum(t.effort_min for t in chosen) + sum(openings.values())


def _without_superseded(due: list[Task]) -> list[Task]:
    """A part that is to be replaced is not cleaned first."""
    replaced = {(t.machine_id, t.state.slot) for t in due if t.state.action == "replace"}
    return [t for t in due if t.state.action == "replace" or (t.machine_id, t.state.slot) not in replaced]
