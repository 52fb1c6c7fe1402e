"""What calendars take of the season and give to it."""

from datetime import date, datetime, time
from typing import Annotated
from uuid import UUID

from pydantic import Field

from care.due.schedule import weekly
from server.base import bounds
from server.base.schema import Schema
from server.season.feeds import LONGEST_ALARM_MIN
from server.season.ics_in import Found
from server.season.models import Feed
from server.season.services import Taken

AlarmMinutes = Annotated[int, Field(ge=0, le=LONGEST_ALARM_MIN)]
"""How long before a visit an alarm rings [min]."""


class FeedIn(Schema):
    """How calendars are to show visits: all day or at their time, with an alarm or without."""

    all_day: bool = False
    alarm_min: AlarmMinutes | None = None


class FeedOut(Schema):
    """Whether there is an address for calendars, how visits are shown there, when it was made and last used."""

    made_at: datetime | None
    used_at: datetime | None
    all_day: bool
    alarm_min: int | None


class FeedMade(Schema):
    """A new address, which is told only now, and how it stands."""

    address: str
    feed: FeedOut


def feed_out(row: Feed | None) -> FeedOut:
    """An address as the API gives it: without its secret."""
    if row is None:
        return FeedOut(made_at=None, used_at=None, all_day=False, alarm_min=None)
    return FeedOut.model_validate(row, from_attributes=True)


class DaysIn(Schema):
    """Days from the first to the last, both included, with a word on them."""

    first: bounds.Day
    last: bounds.Day
    note: bounds.Remark = ""


class MachineWeekIn(Schema):
    """A machine's usual week, as a calendar tells it."""

    machine_id: UUID
    days: Annotated[list[bounds.Weekday], Field(min_length=1, max_length=7)]
    minutes: bounds.Minutes
    starts: bounds.Clock | None = None


class TakeIn(Schema):
    """What is taken from a calendar: days away, days without a visit, a machine's usual week."""

    away: bounds.Few[DaysIn] = []
    no_visit: bounds.Few[DaysIn] = []
    week: MachineWeekIn | None = None

    def taken(self) -> Taken:
        """As a value. Raises `InvalidValue`."""
        week = self.week
        use = (week.machine_id, weekly(week.days, week.minutes, week.starts)) if week else None
        return Taken(
            tuple((one.first, one.last) for one in self.away),
            tuple((one.first, one.last, one.note) for one in self.no_visit),
            use,
        )


class SpanOut(Schema):
    """Days from the first to the last, both included."""

    first: date
    last: date


class TimesOut(Schema):
    """Something in a calendar: its days in the season; of what has a time, when, how long, on which weekdays."""

    summary: str
    days: list[SpanOut]
    all_day: bool
    starts: time | None
    minutes: float | None
    weekdays: list[str]


class FoundOut(Schema):
    """What a calendar file tells of the season, and how many of its events were not read."""

    times: list[TimesOut]
    left_out: int


def found_out(found: Found) -> FoundOut:
    """What a file tells, as the API gives it."""
    times = [
        TimesOut(
            summary=one.summary,
            days=[SpanOut(first=first, last=last) for first, last in one.days],
            all_day=one.all_day,
            starts=one.starts,
            minutes=one.minutes,
            weekdays=list(one.weekdays),
        )
        for one in found.times
    ]
    return FoundOut(times=times, left_out=found.left_out)
