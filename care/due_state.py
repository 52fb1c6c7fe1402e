"""How a task stands: its clocks, the day it will be due, and why."""

from dataclasses import dataclass
from datetime import date, datetime
from uuid import UUID

from care.model import Level
from care.reasons import Because
from care.vocabulary import Action, Consequence, Meter


@dataclass(frozen=True, slots=True)
class Clock:
    """How far a meter has gone towards a limit; both in the unit of `meter`."""

    meter: Meter
    used: float
    limit: float

    @property
    def share(self) -> float:
        """Used over limit [-]; above 1 when past it."""
        return self.used / self.limit

    @property
    def left(self) -> float:
        """What is left before the limit, never below 0."""
        return max(0.0, self.limit - self.used)

    @property
    def share_left(self) -> float:
        """Left over limit [-], 0 to 1: what a machine's own countdown shows."""
        return self.left / self.limit


@dataclass(frozen=True, slots=True)
class DueDate:
    """When it is expected: the local days before which 10, 50 and 90 % of the futures reach it.

    `certain` means a pure calendar date.
    """

    p10: date
    p50: date
    p90: date
    certain: bool = False


def earlier(one: DueDate, other: DueDate) -> DueDate:
    """The earlier of two dates at each share of cases; as certain as both are."""
    first, middle, last = min(one.p10, other.p10), min(one.p50, other.p50), min(one.p90, other.p90)
    return DueDate(first, middle, last, certain=one.certain and other.certain)


@dataclass(frozen=True, slots=True)
class PaceKnown:
    """How well the pace of a task is known: whether one more look could move its figure either way, how many looks it
    rests on, and since when the last ones contradict what was believed before.
    """

    may_move: bool = False
    looks: int = 0
    contradicted_since: datetime | None = None


NOTHING_KNOWN = PaceKnown()


@dataclass(frozen=True, slots=True)
class DueState:
    """How one rule of one slot stands now.

    `clocks` has the governing one first; `share` is its share [-]; `due` says when the first of them is expected to
    reach 1, None when that never comes (not while unused). `unsure` tells that nobody knows where its clock started,
    `pace` how well it is known how fast that runs.
    """

    slot: str
    action: Action
    item_id: UUID | None
    level: Level
    share: float
    clocks: tuple[Clock, ...]
    due: DueDate | None
    stake: Consequence
    because: Because
    unsure: bool = False
    pace: PaceKnown = NOTHING_KNOWN

    @property
    def due_on(self) -> date | None:
        """The middle of the expectation."""
        return self.due.p50 if self.due else None

    @property
    def is_due(self) -> bool:
        """Whether it wants hands now."""
        return self.level in (Level.DUE, Level.OVERDUE)
