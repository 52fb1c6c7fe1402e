"""Being without a part while it dries: the runs it misses, and how many of it take turns."""

from collections.abc import Iterable
from datetime import date, datetime, time, timedelta, tzinfo
from itertools import pairwise
from math import ceil

from care.due.usage import Schedule
from care.errors import require
from care.model import Rest

AHEAD_DAYS = 28
"""How far a usual week is looked ahead [days]. Ours."""


def next_run(schedule: Schedule | None, rests: Iterable[Rest], *, now: datetime, zone: tzinfo) -> datetime | None:
    """When it runs next by its usual week, its days off left out; noon where the week tells no hour. None: never."""
    if schedule is None:
        return None
    off, today = list(rests), now.astimezone(zone).date()
    for day in schedule.days(today, today + timedelta(days=AHEAD_DAYS)):
        at = _starts(schedule, day, zone)
        if at > now and not any(rest.holds(day) for rest in off):
            return at
    return None


def clash(next_at: datetime | None, ready_at: datetime) -> bool:
    """Whether the machine would run while a part that it needs is away."""
    return next_at is not None and next_at < ready_at


def gap_h(schedule: Schedule | None, *, today: date, zone: tzinfo) -> float | None:
    """The shortest time from the end of a run to the next of a usual week [h]; None where it has fewer than two."""
    if schedule is None:
        return None
    days = schedule.days(today, today + timedelta(days=AHEAD_DAYS))
    starts = [_starts(schedule, day, zone) for day in days]
    ran_h = schedule.run_min / 60
    return min(((b - a) / timedelta(hours=1) - ran_h for a, b in pairwise(starts)), default=None)


def _starts(schedule: Schedule, day: date, zone: tzinfo) -> datetime:
    return datetime.combine(day, schedule.starts or time(12), tzinfo=zone)


def sets_needed(drying_h: float, interval_h: float, gap_h: float) -> int:
    """How many of a part keep the machine running: one where it dries between two runs [h], else enough to take turns.

    >>> sets_needed(24, 240, 36), sets_needed(40, 240, 20), sets_needed(100, 48, 20)
    (1, 2, 4)
    """
    require(interval_h > 0, "interval_h", interval_h, "more than 0 hours")
    return 1 if drying_h <= gap_h else ceil(drying_h / interval_h) + 1
