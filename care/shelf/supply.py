"""How a kind of part stands: what is there against what will be needed, and by when to order.

Order by: the day by which 98 % of the early needs would be met, less the days it takes to come.
"""

from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum

from care.due_state import DueDate
from care.shelf.demand import Demand, Spread

EARLY_SHARE = 0.02
"""Share of futures in which a need may come sooner than the part [-]."""
SOON_DAYS = 21
"""An order that is due within this is spoken of as soon [days]. Ours."""
REVIEW_DAYS = 14
"""How long until somebody looks at the shelf again [days]. Ours."""


class Supply(StrEnum):
    """How a kind of part stands, worst first."""

    WAITS = "waits"
    """It is needed now and there is none: something waits for it."""
    NOW = "now"
    TURNS = "turns"
    """A machine stands still while its part dries; one more, taking turns, would spare it that."""
    SOON = "soon"
    ENOUGH = "enough"
    UNFORESEEN = "unforeseen"
    """Nothing tells when it will be needed: it is bought when somebody finds it worn."""


@dataclass(frozen=True, slots=True)
class Holding:
    """What there is of a kind of part: new ones `on_hand` that fit, `on_order`, and sets that take turns.

    `turns_missing` are sets that a drying gap still needs, `least` how many are never to be gone below, `lead_days` how
    long an order takes.
    """

    on_hand: int
    on_order: int = 0
    turns_missing: int = 0
    least: int = 0
    lead_days: int = 5

    @property
    def free(self) -> int:
        """How many may be used up before it falls short; negative where it does already."""
        return self.on_hand + self.on_order - self.turns_missing - self.least


@dataclass(frozen=True, slots=True, kw_only=True)
class SupplyFigures:
    """What a cover rests on: needed in a year, the share [-] that goes long before its time, what there is and what is
    kept back, the days an order takes and the need meanwhile; and by when the `nth` from now is needed in `nth_share`
    of all futures [-].
    """

    needed_a_year: float
    early: float
    on_hand: int
    on_order: int
    turns_missing: int
    least: int
    free: int
    lead_days: int
    while_it_comes: Spread
    nth: int
    nth_by: date | None
    nth_share: float


@dataclass(frozen=True, slots=True)
class Cover:
    """How a kind of part stands: `short` is when one would be lacking, `order_by` when to order so that none is.

    `lead` and `year` are the needs while an order comes and within a year, `short_of` how many lack now.
    """

    supply: Supply
    short: DueDate | None
    order_by: date | None
    lead: Spread
    year: Spread
    short_of: int
    because: SupplyFigures


def cover(holding: Holding, demand: Demand) -> Cover:
    """How a kind of part stands against its demand."""
    today, free = demand.today, holding.free
    lead, year = demand.spread(holding.lead_days), demand.spread(365)
    short_of = max(0, -free)
    short = _short(demand, free + 1) if not short_of else DueDate(today, today, today, certain=True)
    order_by = _order_by(holding, demand, free)
    return Cover(
        _supply(holding, demand, order_by), short, order_by, lead, year, short_of, _because(holding, demand, lead)
    )


def _order_by(holding: Holding, demand: Demand, free: int) -> date | None:
    """When to order with `free` parts to use up; None where nothing is needed within the horizon."""
    if free < 0:
        return demand.today
    early = demand.nth(free + 1, EARLY_SHARE)
    return max(demand.today, early - timedelta(days=holding.lead_days)) if early else None


def _supply(holding: Holding, demand: Demand, order_by: date | None) -> Supply:
    today = demand.today
    if demand.count(0, 0.5) > holding.on_hand:
        return Supply.WAITS
    if order_by is None:
        return Supply.ENOUGH if demand.count(demand.horizon_days, 0.9) else Supply.UNFORESEEN
    if order_by <= today:
        to_use = _order_by(holding, demand, holding.free + holding.turns_missing)
        return Supply.NOW if to_use is not None and to_use <= today else Supply.TURNS
    return Supply.SOON if order_by <= today + timedelta(days=SOON_DAYS) else Supply.ENOUGH


def _short(demand: Demand, n: int) -> DueDate | None:
    """When the `n`-th need is felt; None where most futures do not feel it within the horizon."""
    days = [demand.nth(n, share) for share in (0.1, 0.5, 0.9)]
    first, middle, last = days
    if first is None or middle is None:
        return None
    return DueDate(first, middle, last or demand.today + timedelta(days=demand.horizon_days))


def _because(holding: Holding, demand: Demand, lead: Spread) -> SupplyFigures:
    early = demand.nth(max(holding.free, 0) + 1, EARLY_SHARE)
    return SupplyFigures(
        needed_a_year=round(demand.mean(365), 1),
        early=round(demand.early, 3),
        on_hand=holding.on_hand,
        on_order=holding.on_order,
        turns_missing=holding.turns_missing,
        least=holding.least,
        free=holding.free,
        lead_days=holding.lead_days,
        while_it_comes=lead,
        nth=max(holding.free, 0) + 1,
        nth_by=early,
        nth_share=EARLY_SHARE,
    )


def to_buy(holding: Holding, demand: Demand, horizon_days: int) -> int:
    """How many to buy for the coming `horizon_days`: what half the futures need, and never less than sees one through
    to the next look at the shelf in 98 % of them.
    """
    usual = demand.count(horizon_days, 0.5)
    until_next = demand.count(holding.lead_days + REVIEW_DAYS, 1 - EARLY_SHARE)
    return max(0, max(usual, until_next) - holding.free)
