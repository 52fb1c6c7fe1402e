"""A season: the days it has, its visits, what it cannot do and what it weighs, as frozen values.

Days are counted from today (0) to the end of the season; shares are of a task's interval [-]; money is whole cents.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum
from uuid import UUID

from care.season.chore import Chore
from care.season.weights import Weights
from care.season.wishes import Pin
from care.vocabulary import Consequence, Skill

SEASON_DAYS = 182
"""How far a season reaches: 26 weeks [days]."""


@dataclass(frozen=True, slots=True)
class Day:
    """A day on which a visit may be: how many days from today, and the minutes that hands of each skill have [min]."""

    index: int
    date: date
    minutes: Mapping[Skill, float]

    @property
    def most(self) -> float:
        """Minutes that all hands have together [min]."""
        return sum(self.minutes.values())

    def reaching(self, skill: Skill) -> float:
        """Minutes of those who go as far as `skill` [min]."""
        return sum(minutes for own, minutes in self.minutes.items() if own.reaches(skill))


@dataclass(frozen=True, slots=True)
class Job:
    """A chore of a visit: the share of its interval that is gone by then [-], and by how many days it is early (more
    than 0) or late (less).
    """

    chore: Chore
    share: float
    early_days: int


@dataclass(frozen=True, slots=True)
class Visit:
    """What is done on one day in one go, machine by machine, and its hands-on minutes [min]."""

    day: Day
    jobs: tuple[Job, ...]
    minutes: float

    @property
    def machines(self) -> tuple[UUID, ...]:
        """The machines that are worked on."""
        return tuple(dict.fromkeys(job.chore.key.machine_id for job in self.jobs))


@dataclass(frozen=True, slots=True)
class Score:
    """What a way of doing things takes over a season: hands-on minutes and those of getting ready [min], visits, runs
    missed while parts dry, what was past its date by what is at stake (days, and intervals [-]), what was thrown away
    early (in minutes of work, and the price of parts [cents]).
    """

    visits: int
    minutes: float
    ready_min: float
    missed_runs: int
    late_days: Mapping[Consequence, int]
    late: Mapping[Consequence, float]
    early_min: float
    early_cents: float

    def cost(self, weights: Weights) -> float:
        """All of it in minutes of work [min]."""
        late = sum(share * weights.late[stake] for stake, share in self.late.items())
        cents = self.early_cents * (60 / weights.hour_value if weights.hour_value else 0.0)
        waits = self.missed_runs * weights.wait_min
        return self.minutes + self.ready_min + late + cents + waits + weights.early * self.early_min


class Helps(StrEnum):
    """What would help where a task cannot be done in time."""

    ANOTHER_DAY = "another_day"
    MORE_MINUTES = "more_minutes"
    MORE_SKILL = "more_skill"
    WAIT = "wait"
    """Nothing but waiting: its part has to come or dry, or it was put off."""


@dataclass(frozen=True, slots=True)
class Unmet:
    """A chore that comes later than it may: the day from which it waits too long, the day it is done on (None: not at
    all), and the least bad way out, with the day and the minutes that it needs.
    """

    chore: Chore
    since: date
    done_on: date | None
    way: Helps
    on: date | None = None
    minutes: float = 0.0


@dataclass(frozen=True, slots=True)
class Between:
    """A chore that comes too often for visits: done beside the machine, about so many times in the season."""

    chore: Chore
    times: float
    minutes: float


@dataclass(frozen=True, slots=True)
class Season:
    """Visits in order, what is done between them, what cannot be met, how it compares, and how well it is proven.

    `planned` are the chores that visits are made for. `bound` is what no plan can go below, in the weighed minutes of
    `cost`; `moved` are days of the last plan on which
    there is no visit any more; `dropped` are pins that contradict something, with what.
    """

    start: date
    days: int
    planned: tuple[Chore, ...]
    visits: tuple[Visit, ...]
    between: tuple[Between, ...]
    handed_over: tuple[Chore, ...]
    unmet: tuple[Unmet, ...]
    score: Score
    cost: float
    bound: float
    moved: tuple[date, ...] = ()
    dropped: tuple[tuple[Pin, str], ...] = ()

    @property
    def gap(self) -> float:
        """How far above the bound it may be, as a share [-]: 0 where it is proven that none is better."""
        return max(0.0, (self.cost - self.bound) / self.cost) if self.cost > 0 else 0.0

    def on(self, index: int) -> date:
        """The day that is so many days from its start."""
        return self.start + timedelta(days=index)
