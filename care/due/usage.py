"""Meters from runs, and the usual week.

Leaves out what the machine's own counter says and assumed use.
"""

from bisect import bisect_right
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from functools import cache
from itertools import accumulate, islice

from dateutil.rrule import rrulestr

from care.errors import InvalidValue, require
from care.model import Run

DAY = timedelta(days=1)
WEEKDAYS = ("MO", "TU", "WE", "TH", "FR", "SA", "SU")
RATE_WINDOW_DAYS = 28
"""How far back the usual pace is read when a machine has no schedule [days]. Ours: four weeks even out weekdays."""


@dataclass(frozen=True, slots=True)
class Reading:
    """What the meters counted over some time: hours of running [h], and runs."""

    run_hours: float = 0.0
    runs: int = 0

    def __add__(self, other: "Reading") -> "Reading":
        return Reading(self.run_hours + other.run_hours, self.runs + other.runs)


class UsageLog:
    """The runs of one machine as cumulative meters, so that any span is one subtraction."""

    def __init__(self, runs: Iterable[Run]) -> None:
        ordered = sorted(runs, key=lambda run: run.counts_at)
        self._at = [run.counts_at for run in ordered]
        self._hours = [0.0, *accumulate(run.run_s / 3600 for run in ordered)]
        self._days: dict[date, tuple[float, int]] = {}
        for run in ordered:
            hours, count = self._days.get(run.day, (0.0, 0))
            self._days[run.day] = (hours + run.run_s / 3600, count + 1)

    def between(self, start: datetime, end: datetime) -> Reading:
        """Meters of the runs that count after `start` and until `end`."""
        i, j = bisect_right(self._at, start), bisect_right(self._at, end)
        return Reading(self._hours[j] - self._hours[i], j - i) if j > i else Reading()

    def by_day(self) -> Mapping[date, tuple[float, int]]:
        """Hours and runs of each local day on which it ran."""
        return self._days

    def last_before(self, now: datetime) -> datetime | None:
        """The instant of the latest run that counts by `now`."""
        i = bisect_right(self._at, now)
        return self._at[i - 1] if i else None


@dataclass(frozen=True, slots=True)
class Schedule:
    """A machine's usual week: a recurrence rule (RFC 5545), the minutes of a run, the local time it starts, if any."""

    rule: str
    run_min: float
    starts: time | None = None

    def __post_init__(self) -> None:
        require(0 < self.run_min <= 1440, "run_min", self.run_min, "more than 0 and at most 1440 minutes")
        self.days(date(2026, 1, 5), date(2026, 1, 12))

    def days(self, first: date, before: date) -> Sequence[date]:
        """The days from `first` until the day before `before` on which it runs. Raises `InvalidValue` on a bad rule."""
        try:
            hits = rrulestr(self.rule, dtstart=datetime.combine(first, time())).between(
                datetime.combine(first, time()), datetime.combine(before, time()), inc=True
            )
        except (ValueError, TypeError, KeyError) as error:
            raise InvalidValue(
                f"schedule {self.rule!r} is not a recurrence rule: {error}",
                field="schedule",
                fix="Choose the days of the week on which it runs.",
            ) from error
        return [hit.date() for hit in hits if hit.date() < before]

    def nth_run(self, n: int, first: date) -> date | None:
        """The day of the `n`-th run (1 is the next) from `first` on; None when the rule ends before."""
        runs = rrulestr(self.rule, dtstart=datetime.combine(first, time()))
        hit = next(islice(runs, n - 1, None), None)
        return hit.date() if hit else None

    @property
    def weekly(self) -> Reading:
        """Hours and runs of a usual week, from four weeks of the rule."""
        runs = _runs_a_week(self.rule)
        return Reading(runs * self.run_min / 60, round(runs))


def weekly(days: Sequence[str], run_min: float, starts: time | None) -> Schedule:
    """A usual week on two-letter weekdays (MO..SU). Raises `InvalidValue` on any other word."""
    for day in days:
        require(day in WEEKDAYS, "days", day, "weekdays " + ", ".join(WEEKDAYS))
    return Schedule(f"RRULE:FREQ=WEEKLY;BYDAY={','.join(days)}", run_min, starts)


@cache
def _runs_a_week(rule: str) -> float:
    """Runs in a week of a rule, from four weeks of it."""
    return len(Schedule(rule, 1).days(date(2026, 1, 5), date(2026, 2, 2))) / 4


@dataclass(frozen=True, slots=True)
class Pace:
    """How fast the meters go at usual use: hours a week [h], runs a week."""

    hours_per_week: float
    runs_per_week: float


def pace(log: UsageLog, schedule: Schedule | None, now: datetime) -> Pace:
    """The usual pace: the schedule's if there is one, else what ran in the last `RATE_WINDOW_DAYS`."""
    if schedule is not None:
        return Pace(schedule.weekly.run_hours, _runs_a_week(schedule.rule))
    seen = log.between(now - RATE_WINDOW_DAYS * DAY, now)
    weeks = RATE_WINDOW_DAYS / 7
    return Pace(seen.run_hours / weeks, seen.runs / weeks)


def weeks_to_use(limit_h: float, hours_per_week: float) -> float:
    """Weeks until `limit_h` [h] are used at `hours_per_week` [h]; infinite for a machine that rests.

    >>> weeks_to_use(300, hours_per_week=5)
    60.0
    """
    return limit_h / hours_per_week if hours_per_week > 0 else float("inf")
