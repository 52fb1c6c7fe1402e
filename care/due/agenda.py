"""The order of work over all machines, and what it takes: due first by what is at stake, then by date."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from care.due.intervals import OVERDUE_FROM
from care.due_state import DueState
from care.kinds import Archetype, without_superseded
from care.model import PutOff
from care.vocabulary import Action, Consequence, Meter

LOOK_MIN = 1.0
"""What a look takes once the part can be seen [min]. Ours."""
WORTH_A_LOOK = 3.0
"""Doing has to take this many times as long as looking before looking first pays [-]. Ours."""
FIRM_AFTER = 3
"""Looks after which a part's own pace is known well enough to do without one more [-]. Ours."""


@dataclass(frozen=True, slots=True)
class Task:
    """A due state of one machine, whether it was put off, and who took it on."""

    machine_id: UUID
    archetype: Archetype
    state: DueState
    put_off: PutOff | None = None
    taken_by: str | None = None

    @property
    def opening(self) -> str | None:
        """What must be undone to reach the part."""
        return self.archetype.slot(self.state.slot).opening

    @property
    def small(self) -> bool:
        """Whether it may wait while others are due: nobody is hurt, no motor suffers and no machine stops for it.

        What somebody found in need of it, or what a mishap brought forward, is what they just saw: that is not small.
        """
        seen = any(clock.meter in (Meter.CONDITION, Meter.MISHAPS) for clock in self.state.clocks[:1])
        return self.state.stake >= Consequence.PICK_UP and not seen

    @property
    def key(self) -> tuple[str, Action]:
        """Which task of its machine it is: slot key and action."""
        return self.state.slot, self.state.action

    @property
    def look_first(self) -> bool:
        """Whether a look is cheaper than the work, and could spare it: its start or its pace is not known well.

        Where the interval stands at the longest that its school allows, a look can only bring work forward: there it is
        worth one only where the start is unknown.
        """
        state, slot = self.state, self.archetype.slot(self.state.slot)
        if state.action in (Action.INSPECT, Action.EMPTY, Action.SWAP) or not (state.is_due or state.unsure):
            return False
        guessed = state.pace.may_move and state.pace.looks < FIRM_AFTER and state.share < OVERDUE_FROM
        opening = self.archetype.opening(slot.opening).setup_min if slot.opening else 0.0
        effort = slot.rule(state.action).card.effort_min
        rests = slot.drying_of(state.action) is not None
        return (state.unsure or guessed) and (rests or effort + opening >= WORTH_A_LOOK * (LOOK_MIN + opening))


@dataclass(frozen=True, slots=True)
class Agenda:
    """Due tasks in order, the next ones, what was put off, and the hands-on minutes of the due ones [min].

    `small_min` is what is spared of them while the small ones wait [min].
    """

    due: tuple[Task, ...]
    coming: tuple[Task, ...]
    minutes: float
    put_off: tuple[Task, ...] = ()
    small_min: float = 0.0


def agenda(tasks: Iterable[Task]) -> Agenda:
    """Split tasks into due (by stake, then how far past) and coming (by date); an opening is counted once."""
    known = [task for task in tasks if task.state.item_id is not None]
    wanting = sorted((t for t in known if t.state.is_due), key=lambda t: (t.state.stake, -t.state.share))
    due = [task for task in wanting if task.put_off is None]
    sensible = {machine_id: without_superseded(keys) for machine_id, keys in _by_machine(due).items()}
    due = [t for t in due if t.key in sensible[t.machine_id]]
    coming = sorted(
        (t for t in known if not t.state.is_due and t.state.due_on is not None),
        key=lambda t: (t.state.due_on or date.max, t.state.stake),
    )
    waiting = tuple(task for task in wanting if task.put_off is not None)
    every = minutes(due)
    return Agenda(tuple(due), tuple(coming), every, waiting, every - minutes(task for task in due if not task.small))


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
