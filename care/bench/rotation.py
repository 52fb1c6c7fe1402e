"""Being without a part while it dries: the runs it misses, and how many of it take turns."""

from collections.abc import Iterable
from datetime import date, datetime, time, timedelta, tzinfo
from itertools import pairwise
from math import ceil

from care.due.schedule import Schedule
from care.errors import require
from care.items import Item, State
from care.model import Rest
from care.parts import Slot
from care.rules import Drying

AHEAD_DAYS = 28
"""How far a usual week is looked ahead [days]. Ours."""


def missed_runs(
    schedule: Schedule | None, rests: Iterable[Rest], *, now: datetime, until: datetime, zone: tzinfo
) -> list[datetime]:
    """The runs of a usual week between `now` and `until`, days off left out; at noon where the week tells no hour."""
    if schedule is None:
        return []
    off = list(rests)
    days = schedule.days(now.astimezone(zone).date(), until.astimezone(zone).date() + timedelta(days=1))
    starts = [_starts(schedule, day, zone) for day in days if not any(rest.holds(day) for rest in off)]
    return [at for at in starts if now < at < until]


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


def next_in_turn(items: Iterable[Item]) -> Item | None:
    """The dry part that goes in next: the one with the fewest washes; of two alike the one first by name."""
    ready = (item for item in items if item.state is State.READY)
    return min(ready, key=lambda item: (item.wash_count, item.name), default=None)


def stands_still(slot: Slot, drying: Drying, *, has_spare: bool) -> bool:
    """Whether a machine waits while a part of this place dries: it needs it, has no dry spare, and a rest is due."""
    return slot.needed_to_run and not has_spare and drying.floor_h > 0
