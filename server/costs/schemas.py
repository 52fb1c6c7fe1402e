"""What a machine costs, over HTTP. Money is whole cents."""

from care.due.upkeep import WEEKS
from care.shelf.costs import CostBasis, Repair, RepairOrReplace
from server.base import bounds
from server.base.schema import Schema
from server.costs.services import Worth


class WorthToldIn(Schema):
    """What was told of a machine: its price new, how many years such a one serves, what an hour is worth."""

    price_new: bounds.Pence | None = None
    life_years: bounds.Years = 10.0
    hour_value: bounds.Pence = 0
    guarantee_until: bounds.Day | None = None

    def basis(self) -> CostBasis:
        """As the core has it."""
        return CostBasis(self.price_new, self.life_years, self.hour_value)


class RepairIn(Schema):
    """A repair somebody thinks of."""

    cost: bounds.Pence
    minutes: bounds.Amount
    adds_years: bounds.Years

    def repair(self) -> Repair:
        """As the core has it."""
        return Repair(self.cost, self.minutes, self.adds_years)


class RepairWeighedOut(Schema):
    """Both ways as cost a year; `repair` is None where they are as good as each other."""

    repair: bool | None
    repair_a_year: int
    new_a_year: int
    worth_left: int
    years_left: float


class UsedUpOut(Schema):
    """A part that is used up: how many a year, what one costs and a year's."""

    name: str
    a_year: float
    price: int | None
    cost: int


class WashableOut(Schema):
    """A washable part: the cost a year washed, and with a new one each time instead; None: as good as each other."""

    name: str
    price: int
    washes: float
    renewals: float
    wash_cost: int
    replace_cost: int
    wash_minutes: float
    saved: float
    washing_pays: bool | None


class PricesOut(Schema):
    """What a new part of each place of a machine costs, by its slot, where a price is known [cents], and the numbers
    that it is sold under.
    """

    currency: str
    prices: dict[str, int]
    numbers: dict[str, list[str]]


class RunOftenOut(Schema):
    """What a machine takes if it ran once in so many days: minutes a week and a year, parts a year [cents]."""

    days: int
    minutes_a_week: float
    minutes: float
    parts_cost: int


class WorthOut(Schema):
    """What a machine costs a year, and what it would if it ran more or less often."""

    currency: str
    told: WorthToldIn
    under_guarantee: bool
    age_years: float
    parts_cost: int
    share_of_new: float | None
    minutes: float
    minutes_worth: int
    cost: int
    parts: list[UsedUpOut]
    unpriced: list[str]
    washing: list[WashableOut]
    saved: int
    runs_a_week: float
    often: list[RunOftenOut]


def worth_out(worth: Worth) -> WorthOut:
    """What a machine costs a year."""
    going, basis = worth.going, worth.basis
    return WorthOut(
        currency=worth.currency,
        told=WorthToldIn(
            price_new=basis.price_new,
            life_years=basis.life_years,
            hour_value=basis.hour_value,
            guarantee_until=worth.guarantee_until,
        ),
        under_guarantee=worth.under_guarantee,
        age_years=round(worth.age_years, 1),
        parts_cost=going.parts_cost,
        share_of_new=going.share_of_new(basis),
        minutes=round(going.minutes),
        minutes_worth=going.minutes_worth,
        cost=going.cost,
        parts=[UsedUpOut(name=p.name, a_year=round(p.a_year, 2), price=p.price, cost=p.cost) for p in going.parts],
        unpriced=list(going.unpriced),
        washing=[
            WashableOut(
                name=one.name,
                price=one.price,
                washes=round(one.ways.washes, 1),
                renewals=round(one.ways.renewals, 1),
                wash_cost=one.ways.wash_cost,
                replace_cost=one.ways.replace_cost,
                wash_minutes=round(one.ways.wash_minutes),
                saved=round(one.ways.saved, 1),
                washing_pays=one.ways.washing_pays,
            )
            for one in worth.washing
        ],
        saved=worth.saved,
        runs_a_week=round(worth.runs_a_week, 1),
        often=[
            RunOftenOut(
                days=one.days,
                minutes_a_week=round(one.minutes / WEEKS, 1),
                minutes=round(one.minutes),
                parts_cost=one.parts_cost,
            )
            for one in worth.often
        ],
    )


def weighed_out(found: RepairOrReplace) -> RepairWeighedOut:
    """Both ways of a repair."""
    return RepairWeighedOut(
        repair=found.repair,
        repair_a_year=found.repair_a_year,
        new_a_year=found.new_a_year,
        worth_left=found.worth_left,
        years_left=round(found.years_left, 1),
    )
