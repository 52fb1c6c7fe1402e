"""How fast a machine fills its bag or bin, and when that is full: from a known container, then from what is found.

Time is counted in usual weeks: the hours a machine runs in a week of its own, with as much dirt as usual. The rate is
held as the logarithm's normal curve; each emptying and each look inside moves it, newer ones more than old ones.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from functools import cache
from math import exp, log, sqrt
from statistics import NormalDist
from typing import Any

from care.errors import require
from care.kinds import Found
from care.model import Because, DueDate
from care.water import NO_UNKNOWN_KEYS

USABLE = 0.9
"""Share of a container's volume that fills before it counts as full [-]. A rule of thumb of the field."""
LEVELS = {Found.CLEAN: 0.1, Found.LIGHT: 0.5, Found.DUE: 1.0, Found.OVERDUE: 1.15}
"""How full a container is that somebody found so, as a share of what is usable [-]. Ours."""
SEEN_SD = {Found.CLEAN: 0.7, Found.LIGHT: 0.35, Found.DUE: 0.2, Found.OVERDUE: 0.3}
"""How far a look inside can be off, in log space [-]. Ours."""
BORROWED_SD = 0.45
"""How far a rate borrowed from another container can be off, in log space [-]: dust lies looser or denser. Ours."""
BOOK_SD = 0.6
"""How far a rate made from the book's interval can be off, in log space [-]. Ours."""
FILL_SD = 0.2
"""How much one filling differs from the next, in log space [-]. Ours."""
DRIFT_SD = 0.12
"""How much less a filling counts for each one after it, in log space [-]. Ours."""
VOLUME_SPAN = 2.8
"""How many times as much dirt the heaviest load brings as the lightest [-]: as the book's range for bags."""
LONGEST_WEEKS = 520.0
"""What takes longer to fill than this is never full [weeks]."""
UNITS = ("L", "qt", "gal", "cup")
_PINT = {"L": "liter", "qt": "US_liquid_quart", "gal": "US_liquid_gallon", "cup": "US_liquid_cup"}
Z90 = NormalDist().inv_cdf(0.9)


@cache
def _litres_in(unit: str) -> float:
    import pint  # late: it takes a quarter of a second to load

    registry: Any = pint.UnitRegistry()
    return float(registry.Quantity(1.0, _PINT[unit]).to("liter").magnitude)


def litres(value: float, unit: str) -> float:
    """A volume in `unit` as litres. Raises `InvalidValue` for an unknown unit or a volume that no container has.

    >>> round(litres(2.6, "qt"), 2)
    2.46
    """
    require(unit in UNITS, "unit", unit, "one of " + ", ".join(UNITS))
    found = value * _litres_in(unit)
    least, most = (limit / _litres_in(unit) for limit in (0.05, 60.0))
    require(0.05 <= found <= 60, "volume", f"{value:g} {unit}", f"{least:.2g} to {most:.3g} {unit}")
    return found


def in_unit(found: float, unit: str) -> float:
    """Litres in `unit`.

    >>> round(in_unit(1.23, "qt"), 2)
    1.3
    """
    return found / _litres_in(unit)


@dataclass(frozen=True, slots=True)
class Container:
    """A bag or bin: its volume [L], and the share of it that fills before it counts as full [-]."""

    volume_l: float
    usable: float = USABLE

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(0.05 <= self.volume_l <= 60, "volume", f"{self.volume_l:g} L", "0.05 to 60 L")
        require(0.3 <= self.usable <= 1, "usable", f"{self.usable:g}", "0.3 to 1")

    @property
    def capacity_l(self) -> float:
        """What goes in before it counts as full [L]."""
        return self.volume_l * self.usable


@dataclass(frozen=True, slots=True)
class Known:
    """A container somebody knows: it fills so many litres in so many weeks of the same dirt.

    `pressed` is how many times denser dirt lies in the new container than in that one [-]: a bag presses it together.
    """

    volume_l: float
    weeks: float
    pressed: float = 1.0

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(0.05 <= self.volume_l <= 60, "volume", f"{self.volume_l:g} L", "0.05 to 60 L")
        require(0.1 <= self.weeks <= 52, "weeks", f"{self.weeks:g}", "0.1 to 52 weeks")
        require(1 <= self.pressed <= 3, "pressed", f"{self.pressed:g}", "1 to 3")

    @property
    def litres_per_week(self) -> float:
        """How much it takes up in a week, as it lies in the new container [L/week].

        >>> round(Known(litres(2.6, "qt"), 2).litres_per_week, 2)
        1.23
        """
        return self.volume_l / self.weeks / self.pressed


@dataclass(frozen=True, slots=True)
class Seen:
    """How full it was found after so many usual weeks since it was emptied or new; `emptied` tells that it was then."""

    weeks: float
    found: Found
    emptied: bool = True


@dataclass(frozen=True, slots=True)
class Rate:
    """How fast it fills: the middle [L/week], how far that may be off in log space [-], how many fillings taught it."""

    litres_per_week: float
    sd: float
    fillings: int = 0

    def quantile(self, share: float) -> float:
        """The rate that is not exceeded in `share` of cases [L/week]."""
        return self.litres_per_week * exp(NormalDist().inv_cdf(share) * self.sd)


def weeks_full(container: Container, litres_per_week: float) -> float:
    """Weeks until it is full [weeks].

    >>> round(weeks_full(Container(2.4), 1.23), 2)
    1.76
    """
    return container.capacity_l / litres_per_week


def first_guess(container: Container, known: Known | None, book_weeks: float | None) -> Rate | None:
    """The rate before anything was found: from a container somebody knows, else from the book's interval."""
    if known is not None:
        return Rate(known.litres_per_week, BORROWED_SD)
    return Rate(container.capacity_l / book_weeks, BOOK_SD) if book_weeks else None


def learn(guess: Rate, container: Container, seen: Sequence[Seen]) -> Rate:
    """The rate after what was found, oldest first: a mean of logarithms, each by how sure it is and how long ago."""
    weight = 1 / guess.sd**2
    total = weight * log(guess.litres_per_week)
    useful = [one for one in seen if one.weeks > 0]
    fillings = sum(one.emptied for one in useful)
    later = fillings
    for one in useful:
        later -= one.emptied
        sd = sqrt(SEEN_SD[one.found] ** 2 + FILL_SD**2 + (DRIFT_SD * later) ** 2)
        weight += 1 / sd**2
        total += log(LEVELS[one.found] * container.capacity_l / one.weeks) / sd**2
    return Rate(exp(total / weight), 1 / sqrt(weight), fillings)


@dataclass(frozen=True, slots=True)
class Forecast:
    """How long a filling was expected to take when it began: in the middle, and in 10 and 90 % of cases [weeks]."""

    p10: float
    p50: float
    p90: float


def forecast(rate: Rate, container: Container) -> Forecast:
    """How long a filling takes at a rate that may be off, one filling being unlike the next besides."""
    sd = sqrt(rate.sd**2 + FILL_SD**2)
    middle = weeks_full(container, rate.litres_per_week)
    return Forecast(*(middle * exp(z * sd) for z in (-Z90, 0.0, Z90)))


def off_by(expected: Forecast, seen: Seen) -> float:
    """How many times as long it would have taken to fill as was expected [-]; how full it was found is rough.

    >>> expected = Forecast(3.0, 4.0, 5.0)
    >>> off_by(expected, Seen(6.0, Found.DUE)), off_by(expected, Seen(2.0, Found.LIGHT))
    (1.5, 1.0)
    """
    return seen.weeks / LEVELS[seen.found] / expected.p50


def heavier(index: float, usual: float) -> float:
    """How many times as much dirt a load index [0..1] brings as the usual one [-].

    >>> round(heavier(1.0, 0.5), 2)
    1.67
    """
    return float(VOLUME_SPAN ** (index - usual))


@dataclass(frozen=True, slots=True)
class Filling:
    """Where a container stands: how full it is taken to be [-], its rate, when it is full, and why."""

    rate: Rate
    share: float
    full: DueDate | None
    because: Because


def filling(
    container: Container,
    rate: Rate,
    weeks_since: float,
    *,
    today: date,
    weight: Callable[[date], float] = lambda day: 1.0,
) -> Filling:
    """Where a container stands `weeks_since` it was emptied [usual weeks]; `weight` is how much a coming day counts."""
    expected = forecast(rate, container)
    middle = expected.p50
    left = [max(0.0, weeks - weeks_since) for weeks in (expected.p10, middle, expected.p90)]
    days = [_day_of(weeks, today, weight) for weeks in left]
    first, second, third = days
    full = DueDate(first, second, third or second) if first and second else None
    node = Because(
        "filling",
        {
            "litres_per_week": round(rate.litres_per_week, 3),
            "capacity_l": round(container.capacity_l, 3),
            "weeks_full": round(middle, 2),
            "weeks_since": round(weeks_since, 2),
            "fillings": rate.fillings,
        },
    )
    return Filling(rate, min(1.5, weeks_since / middle), full, node)


def _day_of(weeks: float, today: date, weight: Callable[[date], float]) -> date | None:
    """The day on which so many usual weeks have passed; None where that is never."""
    if weeks > LONGEST_WEEKS:
        return None
    day, gone = today, 0.0
    while gone < weeks * 7 - 1e-9:
        if (day - today).days > LONGEST_WEEKS * 7:
            return None
        gone += weight(day)
        day += timedelta(days=1)
    return day
