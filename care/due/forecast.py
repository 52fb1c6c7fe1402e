"""When a rule's first trigger is expected: quantiles from seeded draws of the factor and of use, clipped at today.

Use is drawn from what the machine did on like weekdays, leaning on its usual week. Leaves out assumed use.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from care.due.learning import GRID, Factor
from care.due.usage import Schedule, UsageLog
from care.model import DueDate, Meter

DRAWS = 300
"""Futures drawn [-]; the 10 % and 90 % points then move by about a day between seeds."""
HORIZON_DAYS = 400
"""Days drawn one by one; what comes later goes on at the mean pace of its draw."""
LOOK_BACK_WEEKS = 8
"""History that a weekday is drawn from."""
SCHEDULE_WEIGHT = 2
"""How many past weeks the usual week counts for, beside the real ones."""
SEED = 20261124

Floats = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Need:
    """What one trigger still needs: `used` of `limit` (at factor 1, in the unit of `meter`), capped at `cap`.

    `learned` tells whether the factor moves it. For days and washes it does not.
    """

    meter: Meter
    used: float
    limit: float
    cap: float
    learned: bool


class Futures:
    """Draws of a machine's coming use: cumulative hours and runs for each day, shared by all its rules."""

    def __init__(self, usage: UsageLog, schedule: Schedule | None, *, today: date, from_day: date) -> None:
        self._rng = np.random.default_rng(SEED)
        self.today, self._from = today, from_day
        self._usage, self._schedule = usage, schedule
        self._ranks = (self._rng.permutation(DRAWS) + 0.5) / DRAWS

    def factors(self, factor: Factor) -> Floats:
        """One factor for each future: even quantiles of the belief, in an order that does not follow use."""
        weights = np.asarray(factor.weights)
        reached = np.cumsum(weights) - weights / 2
        drawn: Floats = np.exp(np.interp(self._ranks, reached, np.log(GRID)))
        return drawn

    @cached_property
    def _cumulative(self) -> dict[Meter, Floats]:
        pools = self._pools()
        hours, runs = np.zeros((DRAWS, HORIZON_DAYS)), np.zeros((DRAWS, HORIZON_DAYS))
        for n in range(HORIZON_DAYS):
            day = self.today + timedelta(days=n)
            if day < self._from:
                continue
            pool = pools[day.weekday()]
            picked = self._rng.integers(0, len(pool), DRAWS)
            hours[:, n], runs[:, n] = pool[picked, 0], pool[picked, 1]
        return {Meter.RUN_HOURS: hours.cumsum(axis=1), Meter.RUNS: runs.cumsum(axis=1)}

    def _pools(self) -> list[Floats]:
        """For each weekday the days (hours, runs) that a coming one is drawn from."""
        planned = self._planned()
        by_day = self._usage.by_day()
        since = min(by_day, default=self.today)
        pools = []
        for weekday in range(7):
            back = [self.today - timedelta(days=d) for d in range(1, 7 * LOOK_BACK_WEEKS + 1)]
            past = [by_day.get(d, (0.0, 0)) for d in back if d.weekday() == weekday and d >= since]
            past += [planned[weekday]] * (SCHEDULE_WEIGHT if self._schedule or not past else 0)
            pools.append(np.asarray(past, dtype=np.float64))
        return pools

    def _planned(self) -> list[tuple[float, int]]:
        if self._schedule is None:
            return [(0.0, 0)] * 7
        monday = self.today - timedelta(days=self.today.weekday())
        days = {day.weekday() for day in self._schedule.days(monday, monday + timedelta(days=7))}
        return [(self._schedule.run_min / 60, 1) if n in days else (0.0, 0) for n in range(7)]

    def days_until(self, need: Need, factors: Floats) -> Floats:
        """Days from today until `need` is met in each future [days]; infinite where it never is."""
        limits = (
            np.minimum(need.limit / factors, need.cap) if need.learned else np.full(DRAWS, min(need.limit, need.cap))
        )
        left = limits - need.used
        if need.meter is Meter.DAYS:
            return np.maximum(np.ceil(left), 0)
        if need.meter is Meter.WASHES:
            return np.where(left <= 0, 0.0, np.inf)
        coming = self._cumulative[need.meter]
        within = (coming < left[:, None] - 1e-6).sum(axis=1).astype(float)
        pace = coming[:, -1] / HORIZON_DAYS
        with np.errstate(divide="ignore", invalid="ignore"):
            later = HORIZON_DAYS + np.ceil((left - coming[:, -1]) / pace)
        days = np.where(within < HORIZON_DAYS, within, np.where(pace > 0, later, np.inf))
        return np.where(left <= 1e-9, 0.0, days)


def expected(needs: Sequence[Need], factor: Factor, futures: Futures) -> DueDate | None:
    """The first of all triggers; None when most futures never reach any (not while unused)."""
    factors = futures.factors(factor)
    days = np.min([futures.days_until(need, factors) for need in needs], axis=0)
    if not np.isfinite(np.quantile(days, 0.5, method="lower")):
        return None
    far = np.where(np.isfinite(days), days, 36_500)
    p10, p50, p90 = (futures.today + timedelta(days=int(d)) for d in np.quantile(far, [0.1, 0.5, 0.9], method="lower"))
    calendar = all(need.meter is Meter.DAYS for need in needs)
    return DueDate(p10, p50, p90, certain=calendar, past_share=float((days <= 0).mean()))
