"""Holidays and a robot's schedule from an iCalendar file, read within bounds."""

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from itertools import pairwise
from statistics import median
from typing import Any
from zoneinfo import ZoneInfo

import recurring_ical_events
from icalendar import Calendar
from icalendar.error import BrokenCalendarProperty

from care.due.schedule import WEEKDAYS
from care.errors import InvalidValue, require
from care.season.model import SEASON_DAYS

LARGEST = 512 * 1024
"""No calendar of a household is larger than this [bytes]."""
MOST_EVENTS = 500
MOST_REPEATS = 100_000
"""So many days of repeating are worked through at most, for all events together [-]."""
ALLOWED = {
    "DAILY": {"BYDAY"},
    "WEEKLY": {"BYDAY"},
    "MONTHLY": {"BYDAY"},
    "YEARLY": {"BYDAY", "BYMONTH"},
}
"""Ways of repeating that are read. Others may never come to a day, and be looked for until the year 9999."""
WEEKDAY = re.compile(r"[+-]?[1-4]?(MO|TU|WE|TH|FR|SA|SU)")
"""A weekday, or the first to fourth of one: each month has it."""
UNREADABLE = (ValueError, TypeError, KeyError, IndexError, OverflowError, AttributeError, BrokenCalendarProperty)
"""What the parser says of a file that is broken."""
COMMON = {"FREQ", "INTERVAL", "COUNT", "UNTIL", "WKST"}
MOST_SLOW = 20
"""So many events that repeat by month or year are read [-]."""


@dataclass(frozen=True, slots=True)
class Times:
    """When something in a file takes place within the season: days, and for what has a time, when and how long."""

    summary: str
    days: tuple[tuple[date, date], ...]
    starts: time | None
    minutes: float | None
    weekdays: tuple[str, ...]

    @property
    def all_day(self) -> bool:
        """Whether it has no time of day."""
        return self.starts is None


@dataclass(frozen=True, slots=True)
class Found:
    """What a file tells of the season, and how many events of it were not read."""

    times: tuple[Times, ...]
    left_out: int


def read(data: bytes, today: date, zone: ZoneInfo) -> Found:
    """What a file tells of the coming half year. Raises `InvalidValue` for no calendar, or what asks for too much."""
    require(0 < len(data) <= LARGEST, "file", f"{len(data)} bytes", f"a calendar of at most {LARGEST // 1024} kB")
    try:
        return _read(data.decode("utf-8-sig"), today, zone)
    except InvalidValue:
        raise
    except UNREADABLE as error:
        raise InvalidValue(
            "file: this is no calendar that can be read",
            field="file",
            fix="Export it again as an .ics file (iCalendar), and choose that.",
        ) from error


def _read(text: str, today: date, zone: ZoneInfo) -> Found:
    calendar = Calendar.from_ical(text)
    events = [one for one in calendar.walk("VEVENT") if one.get("DTSTART") is not None]
    require(len(events) <= MOST_EVENTS, "file", f"{len(events)} events", f"at most {MOST_EVENTS} events")
    kept = _readable(events, today)
    happen = recurring_ical_events.of(_only(calendar, kept)).between(today, today + timedelta(days=SEASON_DAYS))
    by_uid: dict[str, list[Any]] = {}
    for one in happen:
        by_uid.setdefault(str(one.get("UID", one.get("SUMMARY", ""))), []).append(one)
    times = [_times(some, zone) for some in by_uid.values()]
    return Found(tuple(sorted(times, key=lambda one: (one.days[0], one.summary))), len(events) - len(kept))


def _readable(events: Sequence[Any], today: date) -> list[Any]:
    """Events that take a bounded number of steps. Raises `InvalidValue` where they are too many together."""
    kept, steps, slow = [], 0, 0
    for event in events:
        rule = event.get("RRULE")
        rules = [] if rule is None else rule if isinstance(rule, list) else [rule]
        if len(rules) > 1 or not all(_is_plain(one) for one in rules):
            continue
        begun = _day(event["DTSTART"].dt)
        if begun is None or begun < date(2000, 1, 1):
            continue
        if rules:
            slow += str(rules[0]["FREQ"][0]).upper() in ("MONTHLY", "YEARLY")
            steps += max(0, (today - begun).days) + SEASON_DAYS
        kept.append(event)
    require(steps <= MOST_REPEATS and slow <= MOST_SLOW, "file", "too many repeats", "fewer events that repeat")
    return kept


def _is_plain(rule: Any) -> bool:
    frequency = str((rule.get("FREQ") or [""])[0]).upper()
    parts = frequency in ALLOWED and {key.upper() for key in rule} <= ALLOWED[frequency] | COMMON
    days = rule.get("BYDAY") or []
    return parts and all(WEEKDAY.fullmatch(str(day)) for day in (days if isinstance(days, list) else [days]))


def _only(calendar: Calendar, events: Iterable[Any]) -> Calendar:
    made = Calendar()
    for zone in calendar.walk("VTIMEZONE"):
        made.add_component(zone)
    for event in events:
        made.add_component(event)
    return made


def _day(at: date | datetime) -> date | None:
    if isinstance(at, datetime):
        return at.date()
    return at if isinstance(at, date) else None


def _times(happen: Sequence[Any], zone: ZoneInfo) -> Times:
    """All times of one event, in the household's zone. An all-day event ends on the day before its end."""
    spans: list[tuple[date, date]] = []
    starts: list[time] = []
    minutes: list[float] = []
    for one in sorted(happen, key=lambda one: str(one["DTSTART"].dt)):
        begin = one["DTSTART"].dt
        end = one["DTEND"].dt if one.get("DTEND") is not None else begin
        if isinstance(begin, datetime) and isinstance(end, datetime):
            begin, end = _local(begin, zone), _local(end, zone)
            starts.append(begin.time().replace(second=0, microsecond=0))
            minutes.append(max(0.0, (end - begin) / timedelta(minutes=1)))
            spans.append((begin.date(), end.date()))
        else:
            first, last = _day(begin), _day(end)
            assert first is not None
            spans.append((first, max(first, (last or first) - timedelta(days=1))))
    spans.sort()
    text = str(happen[0].get("SUMMARY", "")).strip()[:80] or "without a name"
    on = {WEEKDAYS[first.weekday()] for first, _ in spans}
    return Times(
        text,
        tuple(_joined(spans) if not starts else spans),
        starts[0] if starts else None,
        median(minutes) if minutes else None,
        tuple(day for day in WEEKDAYS if day in on),
    )


def _local(at: datetime, zone: ZoneInfo) -> datetime:
    return at.astimezone(zone) if at.tzinfo is not None else at.replace(tzinfo=zone)


def _joined(spans: Sequence[tuple[date, date]]) -> list[tuple[date, date]]:
    """Days that follow each other as one time."""
    made = [spans[0]]
    for (_, _), (first, last) in pairwise(spans):
        before_first, before_last = made[-1]
        if first <= before_last + timedelta(days=1):
            made[-1] = (before_first, max(before_last, last))
        else:
            made.append((first, last))
    return made
