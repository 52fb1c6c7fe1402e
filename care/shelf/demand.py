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

from care.errors import require
from care.model import DueDate

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
SHORTEST_LIFE_DAYS = 2.0
"""No part is taken to be renewed more often than this [days]."""
WIDER = 1.4
"""How many times as wide as said a band is taken to be [-]: in houses whose weeks differ, bands of 80 % held 72 to 77 %
when measured, more so far out, and a spare that is lacking costs more than one that waits."""
TODAY_DAYS = 0.5
"""What today counts as among days that are still to come [days]."""
Z90 = NormalDist().inv_cdf(0.9)

Floats = NDArray[np.float64]
EVEN: Floats = np.array([NormalDist().inv_cdf((n + 0.5) / DRAWS) for n in range(DRAWS)])
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


def chance_share(by_chance: int, gone: int) -> float:
    """Share of parts that go by chance in a household where `by_chance` of `gone` parts did [-].

    >>> chance_share(0, 0), round(chance_share(5, 50), 3)
    (0.03, 0.065)
    """
    return (BY_CHANCE * CHANCE_WEIGHT + by_chance) / (CHANCE_WEIGHT + gone)


class Demand:
    """The needs of some places from `today` for `horizon_days`: days on which each is felt, in every future.

    `by_chance` is the share of parts that go by chance at any time of their life [-].
    """

    def __init__(
        self, renewals: Iterable[Renewal], *, today: date, horizon_days: int, by_chance: float = BY_CHANCE
    ) -> None:
        require(1 <= horizon_days <= 3660, "horizon_days", horizon_days, "1 day to ten years")
        require(0 <= by_chance < 1, "by_chance", f"{by_chance:g}", "0 to 1")
        self.today, self.horizon_days, self.by_chance = today, horizon_days, by_chance
        each = [_needs(one, today, horizon_days, by_chance) for one in renewals]
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


def _needs(one: Renewal, today: date, horizon_days: int, by_chance: float) -> Floats:
    """Days from today of each need of a place: (future, need), infinite where it lies beyond the horizon."""
    if one.due is None:
        return np.full((DRAWS, 1), np.inf)
    rng = np.random.default_rng([SEED, one.machine_id.int % 2**32, *one.slot.encode()])
    z = _even_normal(rng)
    sure = one.due.certain
    first = np.floor(_first(one.due, today, z) * _cut_short(rng, (DRAWS,), 0.0 if sure else by_chance))
    if one.every_days is None:
        days = first[:, None]
    else:
        life = max(SHORTEST_LIFE_DAYS, one.every_days)
        most = ceil(horizon_days / life * 2) + 1
        apart = rng.normal(0, SPREAD_SD, (DRAWS, most)) + PACE_SD * z[:, None]
        lives = np.full_like(apart, life) if sure else life * np.exp(apart - (SPREAD_SD**2 + PACE_SD**2) / 2)
        lives *= _cut_short(rng, lives.shape, 0.0 if sure else by_chance)
        days = np.concatenate([first[:, None], first[:, None] + lives.cumsum(axis=1)], axis=1)
    return np.where(days <= horizon_days, days, np.inf)


def _cut_short(rng: np.random.Generator, shape: tuple[int, ...], by_chance: float) -> Floats:
    """The share of each life that is lived: all of it, but for those that end by chance, at any time."""
    return np.where(rng.random(shape) < by_chance, rng.random(shape), 1.0)


def _even_normal(rng: np.random.Generator) -> Floats:
    """The even quantiles in an order of their own."""
    return EVEN[rng.permutation(DRAWS)]


def _first(due: DueDate, today: date, z: Floats) -> Floats:
    """Days until the part in place goes: to each side of the middle half a normal curve of the logarithm."""
    early, middle, late = (max((day - today).days, TODAY_DAYS) for day in (due.p10, due.p50, due.p90))
    sd: Floats = np.where(z < 0, log(middle / early), log(late / middle)).astype(np.float64) / Z90 * WIDER
    return np.floor(middle * np.exp(z * sd) + 1e-9)
