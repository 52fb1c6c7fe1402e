"""Meters from runs, and the usual week. Which runs are assumed is told by `care.due.assumed`."""

from bisect import bisect_right
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from itertools import accumulate, pairwise
from math import ceil

from care.due.reading import DAY, Reading
from care.due.schedule import Schedule, runs_a_week
from care.errors import require
from care.model import Provenance, Run
from care.vocabulary import Meter

RATE_WINDOW_DAYS = 28
"""How far back the usual pace is read when a machine has no schedule [days]. Ours: four weeks even out weekdays."""
RATIO_WINDOW_DAYS = 182
"""How far back fills are set against hours [days]. Ours: half a year, since a bin is emptied now and then."""


FILLS_A_RUN = 0.3
"""Full bins a run of a machine whose bin nobody counts [-]. Ours."""
MOST_RUNS_A_FILL = 20
"""More runs than this no bin takes: over a longer time without a word of emptying, full bins are assumed [-]. Ours."""


@dataclass(frozen=True, slots=True)
class AtDock:
    """What a robot and its dock are set to: it comes home to be emptied after so many minutes while it runs [min], is
    not emptied within the `quiet` hours (from, until; over midnight where until is the earlier), and its mops are dried
    for `dry_h` after a run [h]. None: not set.
    """

    return_min: float | None = None
    quiet: tuple[time, time] | None = None
    dry_h: float | None = None

    def __post_init__(self) -> None:
        require(self.return_min is None or self.return_min >= 5, "return_min", self.return_min, "5 minutes or more")
        same = self.quiet is not None and self.quiet[0] == self.quiet[1]
        require(not same, "quiet_until", self.quiet, "another time than it begins")
        require(self.dry_h is None or 0 < self.dry_h <= 24, "dry_h", self.dry_h, "more than 0 and at most 24 hours")

    def is_quiet(self, at: time) -> bool:
        """Whether a dock keeps still at a time of day.

        >>> AtDock(quiet=(time(22), time(7))).is_quiet(time(23)), AtDock(quiet=(time(22), time(7))).is_quiet(time(12))
        (True, False)
        """
        if self.quiet is None:
            return False
        start, end = self.quiet
        return start <= at < end if start < end else at >= start or at < end

    def emptyings(self, run_s: float, start: datetime | None) -> int:
        """How often a dock empties its robot in a run of `run_s` [s] and at its end: not within the quiet hours, as far
        as it is known (with its local time) when it began.
        """
        every = self.return_min * 60 if self.return_min else run_s
        times = ceil(run_s / every)
        ends = [min(run_s, every * (n + 1)) for n in range(times)]
        if start is None or self.quiet is None:
            return times
        return sum(not self.is_quiet((start + timedelta(seconds=after)).time()) for after in ends)


NOT_SET = AtDock()
"""Nobody told what a dock is set to: it empties its robot at the end of each run."""


_SUMMED = ("run_hours", "runs", "mop_runs", "evacuations", "assumed_h", "assumed_fills")
"""What is summed over runs: fields of `Reading`, most of them named as their meters."""


class UsageLog:
    """The runs and bin emptyings of one machine as cumulative meters, so that any span is one subtraction.

    Where nobody tells of emptying, full bins are assumed by the run: a filter that is washed every few bins has a date
    all the same.
    """

    def __init__(
        self, runs: Iterable[Run], *, emptied: Iterable[datetime] = (), minutes_per_charge: float | None = None
    ) -> None:
        ordered = sorted(runs, key=lambda run: run.counts_at)
        self._at = [run.counts_at for run in ordered]
        self._emptied = sorted(emptied)
        self._minutes_per_charge = minutes_per_charge
        rows = [
            (h := run.run_s / 3600, 1, int(run.mopped), run.evacuations, h if _assumed(run) else 0.0, fills)
            for run, fills in zip(ordered, _untold_fills(self._at, self._emptied), strict=True)
        ]
        columns = zip(*rows, strict=True) if rows else [()] * len(_SUMMED)
        self._sums = {name: [0.0, *accumulate(column)] for name, column in zip(_SUMMED, columns, strict=True)}
        self._days: dict[date, Reading] = {}
        for run, (hours, _, mops, empties, assumed, _) in zip(ordered, rows, strict=True):
            more = Reading(hours, 1, mops, empties, assumed)
            self._days[run.day] = self._days[run.day] + more if run.day in self._days else more

    def between(self, start: datetime, end: datetime) -> Reading:
        """Meters of what counts after `start` and until `end`."""
        i, j = bisect_right(self._at, start), bisect_right(self._at, end)
        told = self._told_fills(start, end)
        if j <= i:
            return Reading(fills=told)
        counted = {name: sums[j] - sums[i] for name, sums in self._sums.items()}
        fills = told + counted["assumed_fills"]
        return Reading(**counted, fills=fills, charges=self.charges(counted["run_hours"]))

    def count(self, meter: Meter, start: datetime, end: datetime) -> float:
        """One meter of use after `start` and until `end`, in its unit: as `between`, for what is asked very often."""
        sums = self._sums[_BY_RUN.get(meter, meter.value)]
        i, j = bisect_right(self._at, start), bisect_right(self._at, end)
        counted = sums[j] - sums[i] if j > i else 0.0
        if meter is Meter.FILLS:
            return counted + self._told_fills(start, end)
        return self.charges(counted) if meter is Meter.CHARGES else counted

    def _told_fills(self, start: datetime, end: datetime) -> int:
        return max(0, bisect_right(self._emptied, end) - bisect_right(self._emptied, start))

    def charges(self, hours: float) -> float:
        """Battery charges that so many hours take [-]; 0 for a machine without a battery."""
        return hours * 60 / self._minutes_per_charge if self._minutes_per_charge else 0.0

    def by_day(self) -> Mapping[date, Reading]:
        """What counted on each local day on which it ran."""
        return self._days

    def last_before(self, now: datetime) -> datetime | None:
        """The instant of the latest run that counts by `now`."""
        i = bisect_right(self._at, now)
        return self._at[i - 1] if i else None

    def fills_per_hour(self, now: datetime) -> float:
        """How often the bin was emptied for each hour of running lately [1/h], assumed where nobody told."""
        lately = self.between(now - RATIO_WINDOW_DAYS * DAY, now)
        return lately.fills / lately.run_hours if lately.run_hours else 0.0

    def evacuations_per_run(self, now: datetime) -> float:
        """How often its dock emptied it in a run lately [-]; once where it did not run."""
        lately = self.between(now - RATIO_WINDOW_DAYS * DAY, now)
        return lately.evacuations / lately.runs if lately.runs else 1.0


_BY_RUN = {Meter.CHARGES: "run_hours", Meter.FILLS: "assumed_fills"}


def _untold_fills(at: Sequence[datetime], emptied: Sequence[datetime]) -> list[float]:
    """Full bins to assume for each run [-]: all of them where nobody ever told, else those of a time too long for one
    bin.
    """
    if not emptied:
        return [FILLS_A_RUN] * len(at)
    edges = [0, *(bisect_right(at, moment) for moment in emptied), len(at)]
    made: list[float] = []
    for first, last in pairwise(edges):
        made += [FILLS_A_RUN if last - first > MOST_RUNS_A_FILL else 0.0] * (last - first)
    return made


def _assumed(run: Run) -> bool:
    return run.provenance is Provenance.ASSUMED


@dataclass(frozen=True, slots=True)
class Pace:
    """How fast the meters go at usual use: hours a week [h], runs a week."""

    hours_per_week: float
    runs_per_week: float


def pace(log: UsageLog, schedule: Schedule | None, now: datetime) -> Pace:
    """The usual pace: the schedule's if there is one, else what ran in the last `RATE_WINDOW_DAYS`."""
    if schedule is not None:
        return Pace(schedule.weekly.run_hours, runs_a_week(schedule.rule))
    seen = log.between(now - RATE_WINDOW_DAYS * DAY, now)
    weeks = RATE_WINDOW_DAYS / 7
    return Pace(seen.run_hours / weeks, seen.runs / weeks)


def a_week(meter: Meter, usual: Pace, usage: UsageLog, now: datetime) -> float:
    """How far a meter goes in a week of the usual pace, in its unit; 0 for what no use moves."""
    match meter:
        case Meter.DAYS:
            return 7.0
        case Meter.RUN_HOURS:
            return usual.hours_per_week
        case Meter.RUNS | Meter.MOP_RUNS:
            return usual.runs_per_week
        case Meter.EVACUATIONS:
            return usual.runs_per_week * usage.evacuations_per_run(now)
        case Meter.FILLS:
            return usual.hours_per_week * usage.fills_per_hour(now)
        case Meter.CHARGES:
            return usage.charges(usual.hours_per_week)
    return 0.0


def weeks_to_use(limit_h: float, hours_per_week: float) -> float:
    """Weeks until `limit_h` [h] are used at `hours_per_week` [h]; infinite for a machine that rests.

    >>> weeks_to_use(300, hours_per_week=5)
    60.0
    """
    return limit_h / hours_per_week if hours_per_week > 0 else float("inf")
