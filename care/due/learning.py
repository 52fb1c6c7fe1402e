"""How fast a part really loads, learned from what people find.

One factor for each slot and action multiplies the rate of loading: 1 is as the book says, 2 is dirty in half the time.
It is known as weights on a grid; every as-found answer is interval-censored, seen with noise. There are no cut-off
rules: "clean" can never make a part dirtier. Nothing here knows of schools: their caps stand in `intervals`.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from functools import cache, cached_property, lru_cache
from math import erfc, inf, log, sqrt

import numpy as np
from numpy.typing import NDArray

from care.errors import require
from care.vocabulary import Found

GRID = np.geomspace(0.1, 10.0, 221)
"""Factors that are weighed against each other [-]. A rule of the arithmetic: wide enough that no home falls off it."""
LOOKS_KEPT = 24
"""Looks before the last so many weigh nothing any more [-]."""
DRIFT_SD = 0.15
"""How far a rate drifts from one look to the next, in log space [-]. Ours."""
CHANGES, JUMP_SD = 0.1, 0.7
"""How likely something changed at home between two looks, and how far the rate then moves, in log space [-]. Ours."""
ASKS = 3
"""So many looks in a row that contradict the belief before them ask whether something changed at home. Ours."""
UNLIKELY = 0.25
"""An answer contradicts the belief where it, or one further off, had no more than this chance [-]. Ours."""
PRIOR_SD = 0.5
"""Spread of homes around the book before anything was found, in log space [-]; the median home is as the book says."""
SEEING_SD = 0.35
"""Noise of a look, in log space [-]: two people call the same filter "light" and "due"."""
BORDERS: dict[Found, tuple[float, float]] = {
    Found.CLEAN: (0.0, sqrt(0.1)),
    Found.LIGHT: (sqrt(0.1), sqrt(0.5)),
    Found.DUE: (sqrt(0.5), sqrt(1.5)),
    Found.OVERDUE: (sqrt(1.5), inf),
}
"""Which true shares of the interval [-] are called what."""

CONTRADICTS = 2
"""From so many words apart two looks at one part on one day, nothing done between, cannot both be right. Ours."""

Weights = NDArray[np.float64]


def contradict(one: Found, other: Found) -> bool:
    """Whether two answers are too far apart to be said of one part on one day.

    >>> contradict(Found.CLEAN, Found.DUE), contradict(Found.LIGHT, Found.DUE)
    (True, False)
    """
    order = list(BORDERS)
    return abs(order.index(one) - order.index(other)) >= CONTRADICTS


@dataclass(frozen=True)
class Factor:
    """What is known of the rate of loading: weights on `GRID`, adding up to 1, and how many looks they rest on."""

    weights: tuple[float, ...]
    looks: int = 0

    def quantiles(self, shares: Weights | float) -> Weights:
        """The factors below which each of `shares` [0..1] of the belief lies [-], between grid points by log
        interpolation.
        """
        factors: Weights = np.exp(np.interp(shares, self._reached, LOG_GRID))
        return factors

    def quantile(self, share: float) -> float:
        """The factor below which `share` [0..1] of the belief lies [-]."""
        return float(self.quantiles(share))

    @cached_property
    def _reached(self) -> Weights:
        weights = np.asarray(self.weights)
        reached: Weights = np.cumsum(weights) - weights / 2
        return reached

    @cached_property
    def median(self) -> float:
        """The middle of the belief [-]."""
        return self.quantile(0.5)


@cache
def prior() -> Factor:
    """Before anything was found: log-normal around the book.

    >>> round(prior().median, 3), round(prior().quantile(0.9), 2)
    (1.0, 1.9)
    """
    weights = np.exp(-0.5 * (np.log(GRID) / PRIOR_SD) ** 2)
    return Factor(tuple(weights / weights.sum()))


def update(factor: Factor, *, share: float, found: Found) -> Factor:
    """The belief after a look: at `share` [-] of the interval by the book's rate, `found` was seen.

    Before it is told, the belief loosens: homes drift, and some change at once. Loosened or not, "clean" never makes a
    part dirtier, nor "far gone" cleaner. A part at share 0 tells nothing. Raises `InvalidValue` for a negative share.
    """
    require(share >= 0, "share", share, "0 or more")
    if share == 0:
        return factor
    chances = likelihood(share, found)
    held = np.asarray(factor.weights)
    after = _factor((LOOSER @ held if factor.looks else held) * chances, factor.looks + 1)
    wrong_way = (found is Found.CLEAN and after.median > factor.median) or (
        found is Found.OVERDUE and after.median < factor.median
    )
    return _factor(held * chances, factor.looks + 1) if wrong_way else after


def _factor(weights: Weights, looks: int) -> Factor:
    return Factor(tuple((weights / weights.sum()).tolist()), looks)


Looks = Sequence[tuple[float, Found]]
"""What was found, oldest first: the share of the interval by the book's rate [-], and the answer."""


def learn(looks: Iterable[tuple[float, Found]]) -> Factor:
    """The belief after looks, oldest first (share by the book's rate [-], found): `update` for each of the last."""
    return _learned(tuple((share, found) for share, found in looks if share > 0))


@lru_cache(maxsize=1024)
def _learned(looks: tuple[tuple[float, Found], ...]) -> Factor:
    """The belief after looks; kept, since what was found changes less often than it is asked for."""
    belief = prior()
    for share, found in looks[-LOOKS_KEPT:]:
        belief = update(belief, share=share, found=found)
    return replace(belief, looks=len(looks)) if looks else belief


def contradiction(looks: Looks) -> int:
    """Which way the last looks in a row contradict what was believed before them: 1 for faster, -1 for slower, else 0.

    Nothing contradicts before as many looks were told as it takes: a part unlike the book is no change at home.
    """
    counted = [(share, found) for share, found in looks if share > 0]
    if len(counted) < 2 * ASKS:
        return 0
    before = np.asarray(learn(counted[:-ASKS]).weights)
    sides = {_side(before, share, found) for share, found in counted[-ASKS:]}
    return sides.pop() if len(sides) == 1 else 0


def _side(belief: Weights, share: float, found: Found) -> int:
    """Whether an answer is further off on one side than the belief made likely."""
    chances = {one: float(belief @ likelihood(share, one)) for one in BORDERS}
    order = list(BORDERS)
    n = order.index(found)
    if sum(chances[one] for one in order[n:]) <= UNLIKELY:
        return 1
    return -1 if sum(chances[one] for one in order[: n + 1]) <= UNLIKELY else 0


def likelihood(share: float, found: Found) -> Weights:
    """How likely `found` is for each factor of the grid [-], when the book's rate would give `share` [-].

    Read off a fine table of the log share, exact to about 2e-5 of its value: years of looks are weighed at once.
    """
    chances: Weights = np.exp(_log_likelihood(share, found))
    return chances


def _log_likelihood(share: float, found: Found) -> Weights:
    logs: Weights = np.interp(LOG_GRID + log(share), LOG_SHARES, _log_chances(found))
    return logs


LOG_GRID = np.log(GRID)


def _moved(sd: float) -> Weights:
    """How likely a rate moved from each of the grid (columns) to each other, by so much in log space [-]."""
    chances: Weights = np.exp(-0.5 * ((LOG_GRID[:, None] - LOG_GRID[None, :]) / sd) ** 2)
    made: Weights = chances / chances.sum(axis=0)
    return made


LOOSER = (1 - CHANGES) * _moved(DRIFT_SD) + CHANGES * _moved(JUMP_SD)
LOG_SHARES = np.arange(-14.0, 14.0, 0.004)
"""True log shares of the table [-]: beyond them an answer is as likely as at their ends."""


@cache
def _log_chances(found: Found) -> Weights:
    """The log chance that `found` is said at each true log share; exact in both tails, never minus infinity."""
    low, high = BORDERS[found]
    chances = [_between(_away(low, true), _away(high, true)) for true in LOG_SHARES]
    logs: Weights = np.log(np.maximum(chances, 1e-300))
    return logs


def _away(border: float, true: float) -> float:
    """How far a border lies above the true log share, in noise widths [-]."""
    if border in (0.0, inf):
        return -inf if border == 0.0 else inf
    return (log(border) - true) / SEEING_SD


def _between(a: float, b: float) -> float:
    """The chance of a standard normal between a and b, exact in both tails: a surprise is rare, never impossible."""
    if a > 0:
        a, b = -b, -a
    return 0.5 * (erfc(-b / sqrt(2)) - erfc(-a / sqrt(2)))
