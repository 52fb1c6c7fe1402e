"""What a season is planned from and what comes of it, as frozen values.

Days are counted from today (0) to the end of the season; shares are of a task's interval [-]; money is whole cents.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from datetime import date, timedelta
from enum import StrEnum
from typing import NamedTuple
from uuid import UUID

import numpy as np
from numpy.typing import NDArray

from care.errors import require
from care.vocabulary import Action, Consequence, Skill

SEASON_DAYS = 182
"""How far a season reaches: 26 weeks [days]."""
WEEKDAYS = ("MO", "TU", "WE", "TH", "FR", "SA", "SU")

Floats = NDArray[np.float64]


class ChoreKey(NamedTuple):
    """Which recurring task it is: machine, slot key, action."""

    machine_id: UUID
    slot: str
    action: Action


class Waits(StrEnum):
    """Why a chore cannot be done before a day."""

    PUT_OFF = "put_off"
    ORDER = "order"
    """No part for it is there; the earliest is the day on which one ordered today would come."""
    RACK = "rack"
    """Its part dries."""


@dataclass(frozen=True, slots=True)
class Chore:
    """A task that comes again and again, as the season sees it.

    `gone` is the share of its interval that is gone at the start of today, `growth[k, n]` what its trigger `k` takes of
    it from then to the start of day `n`. It is not done before day `not_before`, because it `waits`. Where its machine
    stands still while the part dries, `missed[n]` counts the runs that it misses when done on day `n`; a part that
    `turns` has a dry one to take its place. Doing it sets back what it `covers`. `price` is what a new part costs
    [cents], `spread` how far its pace may be off, in log space [-].
    """

    key: ChoreKey
    stake: Consequence
    effort_min: float
    gone: float
    growth: Floats
    opening: str | None = None
    opening_min: float = 0.0
    skill: Skill = Skill.MODULES
    not_before: int = 0
    waits: Waits | None = None
    missed: tuple[int, ...] = ()
    turns: bool = False
    dries_h: float = 0.0
    covers: frozenset[ChoreKey] = frozenset()
    price: int | None = None
    spread: float = 0.0

    def reach(self, start: int, end: int) -> float:
        """The share of its interval that passes from the start of day `start` to that of day `end`, done on `start`."""
        return float((self.growth[:, end] - self.growth[:, start]).max())

    def first(self, day: int) -> float:
        """The share of its interval that will be gone at the start of `day`, if nobody does it before."""
        return self.gone + self.reach(0, day)

    @property
    def days(self) -> int:
        """The last day that it is worked out for."""
        return int(self.growth.shape[1]) - 1


@dataclass(frozen=True, slots=True)
class Hands:
    """Somebody who has time on certain weekdays: minutes a day [min], and how far they go into a machine."""

    who: str
    weekdays: tuple[str, ...]
    minutes: float
    skill: Skill = Skill.STRIP_DOWN

    def __post_init__(self) -> None:
        require(0 < len(self.who.strip()) <= 60, "who", repr(self.who), "a name of 1 to 60 characters")
        require(bool(self.weekdays), "weekdays", "none", "at least one weekday")
        require(set(self.weekdays) <= set(WEEKDAYS), "weekdays", self.weekdays, "weekdays such as TH")
        require(5 <= self.minutes <= 480, "minutes", f"{self.minutes:g}", "5 to 480 minutes a day")

    def within(self, home: Skill) -> "Hands":
        """These hands where the household opens things no further than `home`: sheets hand over the rest."""
        return self if home.reaches(self.skill) else replace(self, skill=home)


@dataclass(frozen=True, slots=True)
class Barred:
    """Days without a visit, both included, and why in the household's words."""

    first: date
    last: date
    why: str = ""

    def __post_init__(self) -> None:
        require(self.last >= self.first, "last", self.last, f"a day not before the first ({self.first})")

    def holds(self, day: date) -> bool:
        """Whether no visit is made on `day`."""
        return self.first <= day <= self.last


@dataclass(frozen=True, slots=True)
class Pin:
    """Chores that are done on a day because somebody said so."""

    day: date
    chores: frozenset[ChoreKey]


@dataclass(frozen=True, slots=True)
class NotOn:
    """A chore that is not done on certain days, both included, because somebody left it out there."""

    chore: ChoreKey
    first: date
    last: date


@dataclass(frozen=True, slots=True)
class Wishes:
    """What a household likes and what it asked of this season."""

    hands: tuple[Hands, ...]
    barred: tuple[Barred, ...] = ()
    pins: tuple[Pin, ...] = ()
    left_out: tuple[NotOn, ...] = ()

    def minutes_on(self, day: date) -> float:
        """Minutes that somebody has on that weekday [min]."""
        return sum(one.minutes for one in self.hands if WEEKDAYS[day.weekday()] in one.weekdays)

    def bars(self, day: date) -> Barred | None:
        """What keeps a visit from a day."""
        return next((one for one in self.barred if one.holds(day)), None)


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


LATEST: Mapping[Consequence, float] = {
    Consequence.SAFETY: 0.95,
    Consequence.MOTOR: 0.95,
    Consequence.STOPS: 1.1,
    Consequence.PICK_UP: 1.22,
    Consequence.SMELL: 1.22,
    Consequence.LOOKS: 1.5,
}
"""Up to which share of its interval a task may wait by what is at stake [-]: where somebody or a motor would be hurt,
a little before it is due, since a busy week comes unasked; else up to where it would show as overdue. Ours."""
STRICT = (Consequence.SAFETY, Consequence.MOTOR, Consequence.STOPS)
"""What is at stake where no plan of its own accord lets a task wait longer than it may."""
LATE_MIN: Mapping[Consequence, float] = {
    Consequence.SAFETY: 600.0,
    Consequence.MOTOR: 300.0,
    Consequence.STOPS: 60.0,
    Consequence.PICK_UP: 15.0,
    Consequence.SMELL: 10.0,
    Consequence.LOOKS: 5.0,
}
"""What waiting a whole interval past its date weighs by what is at stake, in minutes of work [min]. Ours."""


@dataclass(frozen=True, slots=True)
class Weights:
    """What a season is weighed by, all in minutes of work. Ours, and the household's to change.

    `visit_min` is getting ready and tidying up once a visit, `machine_min` making one machine safe and putting it back;
    `early` how much of the work counts as thrown away with the part of an interval that was not used [-]; `wait_min` a
    run that a machine misses while its part dries; `hour_value` what an hour is worth [cents], by which the price of a
    part that goes early is weighed; `late` a whole interval past its date.
    """

    visit_min: float = 6.0
    machine_min: float = 1.0
    early: float = 0.5
    wait_min: float = 8.0
    hour_value: int = 12_00
    late: Mapping[Consequence, float] = field(default_factory=lambda: dict(LATE_MIN))
    latest: Mapping[Consequence, float] = field(default_factory=lambda: dict(LATEST))

    def __post_init__(self) -> None:
        for name in ("visit_min", "machine_min", "wait_min"):
            require(0 <= getattr(self, name) <= 240, name, getattr(self, name), "0 to 240 minutes")
        require(0 <= self.early <= 5, "early", self.early, "0 to 5")
        require(0 <= self.hour_value <= 500_00, "hour_value", self.hour_value, "0 to 500 an hour")

    def worth(self, chore: Chore) -> float:
        """What a whole interval of a chore weighs when it is thrown away [min]."""
        minutes_a_cent = 60 / self.hour_value if self.hour_value else 0.0
        return self.early * chore.effort_min + (chore.price or 0) * minutes_a_cent

    def limit(self, chore: Chore) -> float:
        """Up to which share of its interval a chore may wait [-]."""
        return self.latest[chore.stake]


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
