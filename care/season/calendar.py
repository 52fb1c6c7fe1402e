"""Visits as entries of a calendar that keep their identity: a visit that moves stays the same entry, changed."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from hashlib import sha256
from uuid import UUID, uuid5

from care.season.chore import ChoreKey
from care.season.model import Visit

SAME_WITHIN_DAYS = 14
"""A visit that went no further than this, and has a task of the one that was there, is that one, moved [days]. Ours."""
GONE_DAYS = 30
"""So long a visit that is no more is told as cancelled, for calendars that look in now and then [days]. Ours."""


@dataclass(frozen=True, slots=True)
class Entry:
    """A visit in calendars: its lasting id, its day, how often and when it was changed, a digest of what it holds.

    `cancelled` tells that there is no such visit any more.
    """

    uid: UUID
    day: date
    sequence: int
    digest: str
    modified: datetime
    chores: frozenset[ChoreKey]
    cancelled: bool = False


def followed(
    before: Sequence[Entry], visits: Sequence[Visit], *, house: UUID, now: datetime, today: date
) -> list[Entry]:
    """The entries of visits, each as the one that it was before; what is no more is cancelled.

    Visits of the past stay as they were; what was cancelled long ago is left out.
    """
    past = [entry for entry in before if entry.day < today and not entry.cancelled]
    ahead = [entry for entry in before if entry.day >= today and not entry.cancelled]
    by_day = {entry.day: entry for entry in ahead}
    made: list[Entry] = []
    fresh: list[Visit] = []
    for visit in visits:
        known = by_day.pop(visit.day.date, None)
        if known is None:
            fresh.append(visit)
        else:
            made.append(_as_now(known, visit, now))
    left = list(by_day.values())
    for visit in fresh:
        moved = _moved(visit, left)
        if moved is None:
            made.append(_new(visit, len(before), house, now))
        else:
            left.remove(moved)
            made.append(_as_now(moved, visit, now))
    gone = [replace(one, cancelled=True, sequence=one.sequence + 1, modified=now) for one in left]
    lately = [one for one in before if one.cancelled and now - one.modified < timedelta(days=GONE_DAYS)]
    return sorted([*past[-60:], *made, *gone, *lately], key=lambda one: (one.day, str(one.uid)))


def _moved(visit: Visit, left: Sequence[Entry]) -> Entry | None:
    """The entry of a visit that is no longer on its day and shares most with this one."""
    keys = {job.chore.key for job in visit.jobs}
    near = [one for one in left if one.chores & keys and abs((one.day - visit.day.date).days) <= SAME_WITHIN_DAYS]
    return max(near, key=lambda one: (len(one.chores & keys), -abs((one.day - visit.day.date).days)), default=None)


def _as_now(entry: Entry, visit: Visit, now: datetime) -> Entry:
    digest = _digest(visit)
    if digest == entry.digest and not entry.cancelled:
        return entry
    chores = frozenset(job.chore.key for job in visit.jobs)
    return replace(entry, day=visit.day.date, sequence=entry.sequence + 1, digest=digest, modified=now, chores=chores)


def _new(visit: Visit, number: int, house: UUID, now: datetime) -> Entry:
    """An entry of a visit that was not there before. Its id comes of the house, the day and the moment."""
    uid = uuid5(house, f"visit {visit.day.date} {number} {now.isoformat()}")
    return Entry(uid, visit.day.date, 0, _digest(visit), now, frozenset(job.chore.key for job in visit.jobs))


def _digest(visit: Visit) -> str:
    """What a calendar shows of a visit: its day, what is done, how long it takes."""
    facts = [str(visit.day.date), f"{visit.minutes:.0f}", *sorted("/".join(map(str, j.chore.key)) for j in visit.jobs)]
    return sha256("\n".join(facts).encode()).hexdigest()[:16]
