"""When parts will be needed: each place renews its part again and again; drawn together, they tell how many by when.

Draws are seeded, one stream for each place, so that one place's needs do not move when another is added.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, timedelta
from math import ceil, log
from statistics import NormalDist
from uuid import UUID

import numpy as np
from numpy.typing import NDArray

from care.due_state import DueDate
from care.errors import require

DRAWS = 500
"""Futures drawn [-]."""
SEED = 20261125
SPREAD_SD = 0.25
"""How much one life of a part differs from the next in the same place, in log space [-]. Ours; none for plain dates."""
PACE_SD = 0.2
"""How far all lives of a place may be off together, in log space [-]: where the first part goes early, the next ones do
so, too. Ours; none for plain dates."""
BY_CHANCE = 0.03
"""Share of parts that go by chance at any time of their life, broken or lost [-]. Ours; none for plain dates."""
CHANCE_WEIGHT = 50
"""So many parts that went say as much of it as `BY_CHANCE` does [-]. Ours."""
POOR = 0.05
"""Share of parts that wear out at any time of their life, whatever the usual one is [-]. Ours; none for plain dates."""
EARLY = BY_CHANCE + POOR
"""Share of parts that go before their time where a household told nothing of its own [-]."""
SHORTEST_LIFE_DAYS = 2.0
"""No part is taken to be renewed more often than this [days]."""
WIDER = 1.4
"""How many times as wide as said a band is taken to be [-]: in houses whose weeks differ, bands of 80 % held 72 to 77 %
when measured, more so far out, and a spare that is lacking costs more than one that waits."""
TODAY_DAYS = 0.5
"""What today counts as among days that are still to come [days]."""
Z90 = NormalDist().inv_cdf(0.9)

Floats = NDArray[np.float64]
SHARES: Floats = (np.arange(DRAWS) + 0.5) / DRAWS
"""Even shares from 0 to 1, one for each future."""
EVEN: Floats = np.array([NormalDist().inv_cdf(share) for share in SHARES])
"""Even quantiles of the standard normal curve, one for each future."""


@dataclass(frozen=True, slots=True)
class Renewal:
    """A place whose part is renewed: when the one in it is expected to go, and how long its followers last [days].

    None where neither use nor date tells: only what somebody finds.
    """

    machine_id: UUID
    slot: str
    due: DueDate | None
    every_days: float | None = None


@dataclass(frozen=True, slots=True)
class Spread:
    """How many, by the futures of which 10, 50 and 90 % need no more."""

    p10: int
    p50: int
    p90: int


def early_share(by_chance: int, gone: int) -> float:
    """Share of parts that go before their time in a household where `by_chance` of `gone` parts went by chance [-].

    >>> early_share(0, 0), round(early_share(5, 50), 3)
    (0.08, 0.115)
    """
    return POOR + (BY_CHANCE * CHANCE_WEIGHT + by_chance) / (CHANCE_WEIGHT + gone)


class Demand:
    """The needs of some places from `today` for `horizon_days`: days on which each is felt, in every future.

    `early` is the share of parts that go before their time, at any moment of their life [-].
    """

    def __init__(self, renewals: Iterable[Renewal], *, today: date, horizon_days: int, early: float = EARLY) -> None:
        require(1 <= horizon_days <= 3660, "horizon_days", horizon_days, "1 day to ten years")
        require(0 <= early < 1, "early", f"{early:g}", "0 to 1")
        self.today, self.horizon_days, self.early = today, horizon_days, early
        each = [_needs(one, today, horizon_days, early) for one in renewals]
        together = np.concatenate(each, axis=1) if each else np.full((DRAWS, 1), np.inf)
        self._days: Floats = np.sort(together, axis=1)

    def count(self, days: float, share: float) -> int:
        """How many are needed within `days` in all but the worst `1 - share` of futures."""
        counts = (self._days <= days).sum(axis=1)
        return int(np.quantile(counts, share, method="inverted_cdf"))

    def spread(self, days: float) -> Spread:
        """How many are needed within `days`."""
        return Spread(*(self.count(days, share) for share in (0.1, 0.5, 0.9)))

    def mean(self, days: float) -> float:
        """How many are needed within `days` on average."""
        return float((self._days <= days).sum(axis=1).mean())

    def nth(self, n: int, share: float) -> date | None:
        """The day by which the `n`-th need (from 1) is felt in `share` of futures; None if not within the horizon."""
        require(n >= 1, "n", n, "1 or more")
        if n > self._days.shape[1]:
            return None
        day = float(np.quantile(self._days[:, n - 1], share, method="inverted_cdf"))
        return self.today + timedelta(days=int(day)) if day <= self.horizon_days else None


def _needs(one: Renewal, today: date, horizon_days: int, early: float) -> Floats:
    """Days from today of each need of a place: (future, need), infinite where it lies beyond the horizon."""
    if one.due is None:
        return np.full((DRAWS, 1), np.inf)
    rng = np.random.default_rng([SEED, one.machine_id.int % 2**32, *one.slot.encode()])
    z = _even_normal(rng)
    sure = one.due.certain
    first = np.floor(_first(one.due, today, z) * _cut_short(rng, 1, 0.0 if sure else early)[:, 0])
    if one.every_days is None:
        days = first[:, None]
    else:
        life = max(SHORTEST_LIFE_DAYS, one.every_days)
        most = ceil(horizon_days / life * 2) + 1
        apart = rng.normal(0, SPREAD_SD, (DRAWS, most)) + PACE_SD * z[:, None]
        lives = np.full_like(apart, life) if sure else life * np.exp(apart - (SPREAD_SD**2 + PACE_SD**2) / 2)
        lives *= _cut_short(rng, most, 0.0 if sure else early)
        days = np.concatenate([first[:, None], first[:, None] + lives.cumsum(axis=1)], axis=1)
    return np.where(days <= horizon_days, days, np.inf)


def _cut_short(rng: np.random.Generator, count: int, early: float) -> Floats:
    """The share of each life that is lived, (future, life): all of it, but for those that end early, at any time.

    Just as many futures as `early` says, evenly spread over the life: 2 of 100 futures decide when to order.
    """
    even = rng.permuted(np.repeat(SHARES[:, None], count, axis=1), axis=0)
    return np.minimum(1.0, even / early) if early else np.ones((DRAWS, count))


def _even_normal(rng: np.random.Generator) -> Floats:
    """The even quantiles in an order of their own."""
    return EVEN[rng.permutation(DRAWS)]


def _first(due: DueDate, today: date, z: Floats) -> Floats:
    """Days until the part in place goes: to each side of the middle half a normal curve of the logarithm."""
    early, middle, late = (max((day - today).days, TODAY_DAYS) for day in (due.p10, due.p50, due.p90))
    sd: Floats = np.where(z < 0, log(middle / early), log(late / middle)).astype(np.float64) / Z90 * WIDER
    return np.floor(middle * np.exp(z * sd) + 1e-9)
