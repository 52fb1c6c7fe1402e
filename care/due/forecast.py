"""When a rule's first trigger is expected: quantiles from seeded draws of the factor and of use, clipped at today.

Use is drawn from whole weeks that the machine had, assumed ones among them, leaning on its usual week.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from functools import cached_property
from itertools import islice

import numpy as np
from numpy.typing import NDArray

from care.due.learning import Factor
from care.due.reading import Reading
from care.due.schedule import Schedule
from care.due.usage import UsageLog
from care.due_state import DueDate
from care.model import Rest
from care.vocabulary import Meter

DRAWS = 300
"""Futures drawn [-]."""
HORIZON_DAYS = 400
"""Days drawn one by one; what comes later goes on at the mean pace of its draw."""
LOOK_BACK_WEEKS = 12
"""Past weeks that coming ones are drawn from."""
SPELL_WEEKS = 3
"""So many weeks that followed each other are drawn together: busy and quiet ones come in spells. Ours."""
FURTHEST_WEEKS = 60
"""So far back weeks are looked for, where the last ones were days off."""
SCHEDULE_WEIGHT = 2
"""How many past weeks the usual week counts for, beside the real ones."""
WEATHER_SD = 0.12
"""How much one interval's loading differs from the next on the same part, in log space [-]. Ours."""
ASSUMED_SD = 0.35
"""How wrong a sum of assumed runs may be, in log space [-]. Ours: the usual week of people who do not log."""
SEED = 20261124

Floats = NDArray[np.float64]
_BAND = [int(share * (DRAWS - 1)) for share in (0.1, 0.5, 0.9)]
"""Which of the sorted draws are the quantiles: the next lower one."""
_DRAWN = [Meter.RUN_HOURS, Meter.RUNS, Meter.MOP_RUNS, Meter.EVACUATIONS]


Spent = tuple[tuple[float, float], ...]
"""What was counted, each stretch of another load apart, with the limit of its own time, both in the clock's unit."""


@dataclass(frozen=True, slots=True)
class Remaining:
    """What one trigger still needs of `limit` (at factor 1, in the unit of `meter`), capped at `cap`.

    `learned` tells whether the factor moves it: not for days, washes and conditions. `assumed` is the share of what was
    counted [-] that nobody reported, `base` the share of the limit [-, from and to] that was gone before anything was
    counted. `a_day` is how many washes a day there were so far, where that tells [1/day]. `before` was counted before
    it was last seen to be no worse than `at_most` of the interval [-], `spent` after that.
    """

    meter: Meter
    spent: Spent
    limit: float
    cap: float
    learned: bool
    assumed: float = 0.0
    base: tuple[float, float] | None = None
    a_day: float = 0.0
    before: Spent = ()
    at_most: float = 1.0

    @property
    def is_quiet(self) -> bool:
        """Whether it waits for something that nobody can foresee, and that has not happened."""
        return self.meter in (Meter.CONDITION, Meter.MISHAPS) and not any(count >= limit for count, limit in self.spent)

    def share(self, factors: Floats | float) -> Floats | float:
        """The share of the interval [-] that is spent, at each factor: every stretch by the limit of its time."""
        after = self._sum(self.spent, factors)
        return after + np.minimum(self._sum(self.before, factors), self.at_most) if self.before else after

    def _sum(self, counted: Spent, factors: Floats | float) -> Floats | float:
        if not self.learned:
            return sum(count / min(limit, self.cap) for count, limit in counted)
        some = [(count, limit) for count, limit in counted if count]
        return sum((count / np.minimum(limit / factors, self.cap) for count, limit in some), 0.0)

    def bounded(self, factors: Floats) -> Floats | float:
        """The interval at each factor, in the unit of `meter`."""
        return np.minimum(self.limit / factors, self.cap) if self.learned else min(self.limit, self.cap)


class Futures:
    """Draws of a machine's coming use: cumulative meters for each day, shared by all its rules."""

    def __init__(
        self,
        usage: UsageLog,
        schedule: Schedule | None,
        *,
        today: date,
        from_day: date,
        rests: Sequence[Rest] = (),
        fills_per_hour: float = 0.0,
        week_since: date | None = None,
    ) -> None:
        rng = np.random.default_rng(SEED)
        self.today, self._from = today, from_day
        self._usage, self._schedule, self._rests = usage, schedule, rests
        self._fills_per_hour, self._week_since = fills_per_hour, week_since
        self._ranks = (rng.permutation(DRAWS) + 0.5) / DRAWS
        self._weather = np.exp(rng.normal(0, WEATHER_SD, DRAWS))
        self._assumed = np.exp(rng.normal(0, ASSUMED_SD, DRAWS))
        self._bases = np.random.default_rng(SEED + 1).permutation(DRAWS) / DRAWS
        self._rng = rng
        self._cumulative: dict[Meter, Floats] = {}
        self._lines: dict[Meter, Floats] = {}

    def factors(self, factor: Factor) -> Floats:
        """One factor for each future: even quantiles of the belief, in an order that does not follow use."""
        return factor.quantiles(self._ranks) * self._weather

    def _coming(self, meter: Meter) -> Floats:
        """What a meter has counted from today to each day, in each future."""
        if meter not in self._cumulative:
            self._cumulative[meter] = self._sum(meter)
        return self._cumulative[meter]

    def mean_until(self, meter: Meter, days: int) -> Floats:
        """What a meter counts on average of all futures from now to the start of each day from today on [its unit]."""
        coming: Floats = self._coming(meter)[:, :days].mean(axis=0)
        return np.concatenate([[0.0], coming])

    def _days_below(self, meter: Meter, count: Floats) -> Floats:
        """On how many days a meter stands below a count, in each future: all looked up at once in one rising line."""
        coming = self._coming(meter)
        step = float(coming[:, -1].max()) + 1.0
        starts = np.arange(DRAWS) * step
        if meter not in self._lines:
            self._lines[meter] = (coming + starts[:, None]).ravel()
        found = np.searchsorted(self._lines[meter], np.clip(count, -0.5, step - 0.5) + starts)
        days: Floats = found.astype(np.float64) - np.arange(DRAWS) * coming.shape[1]
        return days

    def _sum(self, meter: Meter) -> Floats:
        if meter is Meter.FILLS:
            return self._coming(Meter.RUN_HOURS) * self._fills_per_hour
        if meter is Meter.CHARGES:
            return self._coming(Meter.RUN_HOURS) * self._usage.charges(1.0)
        weeks, picked = self._picks
        days: Floats = weeks[:, :, _DRAWN.index(meter)][picked].reshape(DRAWS, -1)[:, :HORIZON_DAYS]
        days[:, : (self._from - self.today).days] = 0.0
        for rest in self._rests:
            first = max(0, (rest.first - self.today).days)
            last = HORIZON_DAYS if rest.last is None else (rest.last - self.today).days + 1
            days[:, first : max(first, last)] = 0.0
        summed: Floats = days.cumsum(axis=1)
        return summed

    @cached_property
    def _picks(self) -> tuple[Floats, NDArray[np.intp]]:
        """The weeks that coming ones are drawn from, and which of them each future has: (future, week)."""
        weeks = self._weeks()
        spells = self._rng.integers(0, len(weeks), (DRAWS, HORIZON_DAYS // 7 // SPELL_WEEKS + 1))
        return weeks, (spells[:, :, None] + np.arange(SPELL_WEEKS)).reshape(DRAWS, -1) % len(weeks)

    def _weeks(self) -> Floats:
        """The weeks that coming ones are drawn from: (week, day from today's weekday on, meters).

        Whole weeks, since a busy day stands in a busy week: days drawn one by one would make the band too narrow.
        Weeks with days off tell nothing of use, and weeks before another usual week held nothing of today's: the
        latest others are taken, however long ago.
        """
        by_day = self._usage.by_day()
        since = max(min(by_day, default=self.today), self._week_since or date.min)
        starts = (self.today - timedelta(weeks=n) for n in range(1, FURTHEST_WEEKS + 1))
        usual = list(islice((s for s in starts if s >= since and not self._rested(s)), LOOK_BACK_WEEKS))
        weeks = [[_row(by_day.get(s + timedelta(days=d), Reading())) for d in range(7)] for s in usual]
        if self._schedule is not None:
            weeks += [self._planned(self._schedule, n) for n in range(SCHEDULE_WEIGHT)]
        if not weeks:
            known = [day for n in range(1, 7 * FURTHEST_WEEKS) if (day := self.today - timedelta(days=n)) >= since]
            ran = [day for day in known if not any(rest.holds(day) for rest in self._rests)]
            total = sum((by_day.get(day, Reading()) for day in (*ran, self.today)), Reading())
            weeks = [[tuple(n / max(1, len(ran)) for n in _row(total))] * 7]
        return np.asarray(weeks, dtype=np.float64)

    def _rested(self, start: date) -> bool:
        return any(rest.holds(start + timedelta(days=d)) for rest in self._rests for d in range(7))

    def _planned(self, schedule: Schedule, week: int) -> list[tuple[float, ...]]:
        """The usual week, so many weeks ahead: runs every so many days fall on other weekdays each week."""
        first = self.today + timedelta(weeks=week)
        run_on = set(schedule.days(first, first + timedelta(days=7)))
        ahead = (first + timedelta(days=n) for n in range(7))
        run = _row(Reading(schedule.run_min / 60, 1, int(schedule.mops), 1))
        return [run if day in run_on else _row(Reading()) for day in ahead]

    def days_until(self, need: Remaining, factors: Floats) -> Floats:
        """Days from today until `need` is met in each future [days]; infinite where it never is."""
        scale = 1 - need.assumed + need.assumed * self._assumed if need.assumed else 1.0
        spent = np.maximum(need.share(factors) * scale, 0.0)
        if need.base:
            low, high = need.base
            spent = spent + low + self._bases * (high - low)
        left = np.broadcast_to(need.bounded(factors) * (1 - spent), DRAWS)
        if need.meter is Meter.DAYS:
            return np.maximum(np.ceil(left - 1e-9), 0)
        if need.meter is Meter.WASHES and need.a_day:
            return np.maximum(np.ceil(left / need.a_day * self._weather), 0.0)
        if need.meter in (Meter.WASHES, Meter.CONDITION, Meter.MISHAPS):
            return np.where(left <= 0, 0.0, np.inf)
        coming = self._coming(need.meter)
        within = self._days_below(need.meter, left - 1e-6)
        stays = any(rest.last is None for rest in self._rests)  # put away until further notice
        pace = coming[:, -1] / HORIZON_DAYS * (0.0 if stays else 1.0)
        with np.errstate(divide="ignore", invalid="ignore"):
            later = HORIZON_DAYS + np.ceil((left - coming[:, -1]) / pace)
        days = np.where(within < HORIZON_DAYS, within, np.where(pace > 0, later, np.inf))
        return np.where(left <= 1e-9, 0.0, days)


def _row(day: Reading) -> tuple[float, ...]:
    return tuple(day.of(meter) for meter in _DRAWN)


def expected(needs: Sequence[Remaining], factor: Factor, futures: Futures) -> DueDate | None:
    """The first of all triggers; None when most futures never reach any (not while unused)."""
    foreseen = [need for need in needs if not need.is_quiet]
    if not foreseen:
        return None
    factors = futures.factors(factor)
    days = np.min([futures.days_until(need, factors) for need in foreseen], axis=0)
    p10, p50, p90 = np.sort(days)[_BAND]
    if not np.isfinite(p50):
        return None
    far = 36_500.0
    first, middle, last = (futures.today + timedelta(days=int(min(d, far))) for d in (p10, p50, p90))
    return DueDate(first, middle, last, certain=_certain(needs))


def _certain(needs: Sequence[Remaining]) -> bool:
    """Whether it is a plain calendar date: days from a known start. Mishaps and finds are not foreseen: they do not
    count.
    """
    foreseen = [need for need in needs if need.meter not in (Meter.MISHAPS, Meter.CONDITION)]
    return bool(foreseen) and all(need.meter is Meter.DAYS and need.base is None for need in foreseen)
