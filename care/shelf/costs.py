"""What a machine costs to keep going, whether washing a part pays, and whether a repair does. Money is whole cents.

Minutes count only where somebody gives their hour a value.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from care.errors import require
from care.washability import NO_UNKNOWN_KEYS

USUAL_LIFE_YEARS = 10.0
"""How long a machine that is looked after is expected to serve [years]."""
CLOSE = 0.15
"""Two ways that differ by less than this share are as good as each other [-]. Ours."""


@dataclass(frozen=True, slots=True)
class CostBasis:
    """What a household told of a machine's worth: its price new, how long such a one serves, what an hour of theirs is
    worth to them [cents]; 0 leaves their minutes out.
    """

    price_new: int | None = None
    life_years: float = USUAL_LIFE_YEARS
    hour_value: int = 0

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        price = self.price_new
        require(price is None or 0 < price <= 10_000_00, "price_new", price, "more than 0 and at most 10000")
        require(1 <= self.life_years <= 40, "life_years", f"{self.life_years:g}", "1 to 40 years")
        require(0 <= self.hour_value <= 500_00, "hour_value", self.hour_value, "0 to 500 an hour")


def worth_of(minutes: float, hour_value: int) -> int:
    """What minutes of work are worth [cents].

    >>> worth_of(90, 12_00)
    1800
    """
    return round(minutes / 60 * hour_value)


@dataclass(frozen=True, slots=True)
class UsedUp:
    """A part that is used up: how many a year, and what one costs; None where no list has it."""

    name: str
    a_year: float
    price: int | None

    @property
    def cost(self) -> int:
        """What it costs a year [cents]; nothing where no price is known."""
        return round(self.a_year * (self.price or 0))


@dataclass(frozen=True, slots=True)
class KeepGoing:
    """What a machine costs a year to keep going: its parts, the minutes, and both in money [cents]."""

    parts: tuple[UsedUp, ...]
    minutes: float
    minutes_worth: int

    @property
    def parts_cost(self) -> int:
        """The parts of a year [cents]."""
        return sum(part.cost for part in self.parts)

    def share_of_new(self, basis: CostBasis) -> float | None:
        """The parts of a year against what a new machine costs [-]; None where nobody told that."""
        return None if basis.price_new is None else self.parts_cost / basis.price_new

    @property
    def cost(self) -> int:
        """Parts and minutes of a year [cents]."""
        return self.parts_cost + self.minutes_worth

    @property
    def unpriced(self) -> tuple[str, ...]:
        """Parts that are used up and have no price."""
        return tuple(part.name for part in self.parts if part.price is None)


def keep_going(parts: Sequence[UsedUp], minutes: float, hour_value: int) -> KeepGoing:
    """What a machine costs a year to keep going, dearest part first."""
    order = sorted(parts, key=lambda part: (-part.cost, part.name))
    return KeepGoing(tuple(order), minutes, worth_of(minutes, hour_value))


@dataclass(frozen=True, slots=True)
class WashOrReplace:
    """A part washed until it is through, against a new one each time it would be washed: cost a year [cents].

    `saved` are the parts a year that washing keeps out of the bin.
    """

    washes: float
    renewals: float
    wash_cost: int
    replace_cost: int
    wash_minutes: float

    @property
    def saved(self) -> float:
        """Parts a year kept out of the bin."""
        return max(0.0, self.washes - self.renewals)

    @property
    def washing_pays(self) -> bool | None:
        """Whether washing costs less; None where they are as good as each other."""
        most = max(self.wash_cost, self.replace_cost)
        if most == 0 or abs(self.wash_cost - self.replace_cost) < CLOSE * most:
            return None
        return self.wash_cost < self.replace_cost


def wash_or_replace(
    price: int, *, washes: float, renewals: float, wash_min: float, change_min: float, hour_value: int
) -> WashOrReplace:
    """Both ways of a washable part: `washes` and `renewals` a year, hands-on minutes of each wash and change [min]."""
    washing = round(renewals * price) + worth_of(washes * wash_min + renewals * change_min, hour_value)
    changes = max(washes, renewals)
    replacing = round(changes * price) + worth_of(changes * change_min, hour_value)
    return WashOrReplace(washes, renewals, washing, replacing, washes * wash_min)


@dataclass(frozen=True, slots=True)
class Repair:
    """A repair somebody thinks of: its parts [cents], the minutes, how many years it gives."""

    cost: int
    minutes: float
    adds_years: float

    def __post_init__(self) -> None:
        require(0 <= self.cost <= 10_000_00, "cost", self.cost, "0 to 10000")
        require(0 <= self.minutes <= 6000, "minutes", f"{self.minutes:g}", "0 to 6000 minutes")
        require(0.25 <= self.adds_years <= 20, "adds_years", f"{self.adds_years:g}", "0.25 to 20 years")


@dataclass(frozen=True, slots=True)
class RepairOrReplace:
    """Both ways as cost a year [cents], besides keeping either going; what the machine is still worth [cents]."""

    repair_a_year: int
    new_a_year: int
    worth_left: int
    years_left: float

    @property
    def repair(self) -> bool | None:
        """Whether the repair costs less a year; None where they are as good as each other."""
        most = max(self.repair_a_year, self.new_a_year)
        if most == 0 or abs(self.repair_a_year - self.new_a_year) < CLOSE * most:
            return None
        return self.repair_a_year < self.new_a_year


def repair_or_replace(repair: Repair, basis: CostBasis, *, age_years: float) -> RepairOrReplace:
    """Whether a repair pays against a new machine. Raises `InvalidValue` where nobody told what a new one costs."""
    require(basis.price_new is not None, "price_new", "none", "what a new one costs")
    price = basis.price_new or 0
    left = max(0.0, basis.life_years - age_years)
    spent = repair.cost + worth_of(repair.minutes, basis.hour_value)
    return RepairOrReplace(
        repair_a_year=round(spent / repair.adds_years),
        new_a_year=round(price / basis.life_years),
        worth_left=round(price * left / basis.life_years),
        years_left=left,
    )
