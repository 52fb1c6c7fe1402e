"""Who has time, and what is asked of a season."""

from dataclasses import dataclass, replace
from datetime import date

from care.due.schedule import WEEKDAYS
from care.errors import require
from care.season.chore import ChoreKey
from care.vocabulary import Skill


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
