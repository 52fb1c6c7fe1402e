"""When a rule's first trigger is expected: quantiles from seeded draws of the factor and of use, clipped at today.

Use is drawn from whole weeks that the machine really had, leaning on its usual week. Leaves out assumed use.
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
"""Futures drawn [-]."""
HORIZON_DAYS = 400
"""Days drawn one by one; what comes later goes on at the mean pace of its draw."""
LOOK_BACK_WEEKS = 8
"""Past weeks that coming ones are drawn from."""
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
        weeks = self._weeks()
        picked = self._rng.integers(0, len(weeks), (DRAWS, HORIZON_DAYS // 7 + 1))
        days = weeks[picked].reshape(DRAWS, -1, 2)[:, :HORIZON_DAYS]
        days[:, : (self._from - self.today).days] = 0.0
        summed = days.cumsum(axis=1)
        return {Meter.RUN_HOURS: summed[:, :, 0], Meter.RUNS: summed[:, :, 1]}

    def _weeks(self) -> Floats:
        """The weeks that coming ones are drawn from: (week, day from today's weekday on, hours and runs).

        Whole weeks, since a busy day stands in a busy week: days drawn one by one would make the band too narrow.
        """
        by_day = self._usage.by_day()
        since = min(by_day, default=self.today)
        starts = [self.today - timedelta(weeks=n) for n in range(1, LOOK_BACK_WEEKS + 1)]
        weeks: list[Sequence[tuple[float, float]]] = [
            [by_day.get(s + timedelta(days=d), (0.0, 0)) for d in range(7)] for s in starts if s >= since
        ]
        if self._schedule is not None:
            weeks += [self._planned(self._schedule)] * SCHEDULE_WEIGHT
        if not weeks:
            known = max(1, (self.today - since).days)
            hours, runs = (sum(day[n] for day in by_day.values()) / known for n in (0, 1))
            weeks = [[(hours, runs)] * 7]
        return np.asarray(weeks, dtype=np.float64)

    def _planned(self, schedule: Schedule) -> list[tuple[float, float]]:
        run_on = set(schedule.days(self.today, self.today + timedelta(days=7)))
        ahead = (self.today + timedelta(days=n) for n in range(7))
        return [(schedule.run_min / 60, 1) if day in run_on else (0.0, 0) for day in ahead]

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
    return DueDate(p10, p50, p90, certain=calendar)
