"""The usual week: on which days a machine runs, how long, and how often a week that is."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, time
from functools import cache

from dateutil.rrule import rrulestr

from care.due.reading import DAY, Reading
from care.errors import InvalidValue, require
from care.vocabulary import Silence

WEEKDAYS = ("MO", "TU", "WE", "TH", "FR", "SA", "SU")


@dataclass(frozen=True, slots=True)
class Schedule:
    """A machine's usual week: a recurrence rule (RFC 5545), the minutes of a run, the local time it starts, if any.

    `mops` tells whether its runs mop, `silence` what it means when nobody says that it ran.
    """

    rule: str
    run_min: float
    starts: time | None = None
    mops: bool = False
    silence: Silence = Silence.RESTED

    def __post_init__(self) -> None:
        require(0 < self.run_min <= 1440, "run_min", self.run_min, "more than 0 and at most 1440 minutes")
        self.days(date(2026, 1, 5), date(2026, 1, 12))

    def days(self, first: date, before: date) -> Sequence[date]:
        """The days from `first` until the day before `before` on which it runs. Raises `InvalidValue` on a bad rule."""
        return _days(self.rule, first, before)

    @property
    def every(self) -> int | None:
        """Once in how many days it runs [days]; None where it has weekdays."""
        return _days_apart(self.rule)

    @property
    def weekly(self) -> Reading:
        """Hours and runs of a usual week, from four weeks of the rule."""
        runs = runs_a_week(self.rule)
        return Reading(runs * self.run_min / 60, runs)


@cache
def _weekdays(rule: str) -> frozenset[int] | None:
    """The weekdays (0 is Monday) of a plain weekly or daily rule; None for any other."""
    parts = dict(part.split("=", 1) for part in rule.removeprefix("RRULE:").split(";") if "=" in part)
    if parts == {"FREQ": "DAILY"}:
        return frozenset(range(7))
    days = parts.get("BYDAY", "").split(",")
    if set(parts) == {"FREQ", "BYDAY"} and parts["FREQ"] == "WEEKLY" and set(days) <= set(WEEKDAYS):
        return frozenset(WEEKDAYS.index(day) for day in days)
    return None


def _days(rule: str, first: date, before: date) -> list[date]:
    plain = _weekdays(rule)
    if plain is not None:  # the usual case by far, and a hundred times as fast as the general one
        span = (first + n * DAY for n in range((before - first).days))
        return [day for day in span if day.weekday() in plain]
    try:
        starts = None if "DTSTART" in rule else datetime.combine(first, time())
        hits = rrulestr(rule, dtstart=starts).between(
            datetime.combine(first, time()), datetime.combine(before, time()), inc=True
        )
    except (ValueError, TypeError, KeyError) as error:
        raise InvalidValue(
            f"schedule {rule!r} is not a recurrence rule: {error}",
            field="schedule",
            fix="Choose the days of the week on which it runs.",
        ) from error
    return [hit.date() for hit in hits if hit.date() < before]


def weekly(
    days: Sequence[str], run_min: float, starts: time | None, *, mops: bool = False, silence: Silence = Silence.RESTED
) -> Schedule:
    """A usual week on two-letter weekdays (MO..SU). Raises `InvalidValue` on any other word."""
    for day in days:
        require(day in WEEKDAYS, "days", day, "weekdays " + ", ".join(WEEKDAYS))
    require(0 < run_min <= 1440, "minutes", f"{run_min:g}", "more than 0 and at most 1440 minutes")
    return Schedule(f"RRULE:FREQ=WEEKLY;BYDAY={','.join(days)}", run_min, starts, mops, silence)


MOST_DAYS_APART = 60
"""The longest that a usual run every so many days may be apart [days]."""


def every_so_many_days(
    days: int,
    first: date,
    run_min: float,
    starts: time | None,
    *,
    mops: bool = False,
    silence: Silence = Silence.RESTED,
) -> Schedule:
    """A run every so many days from a first day on. Raises `InvalidValue` for fewer than 2 or more than 60 days.

    >>> every_so_many_days(3, date(2026, 1, 5), 40, None).days(date(2026, 1, 6), date(2026, 1, 12))
    [datetime.date(2026, 1, 8), datetime.date(2026, 1, 11)]
    """
    require(2 <= days <= MOST_DAYS_APART, "every", days, f"2 to {MOST_DAYS_APART} days")
    rule = f"DTSTART:{first:%Y%m%d}T000000\nRRULE:FREQ=DAILY;INTERVAL={days}"
    return Schedule(rule, run_min, starts, mops, silence)


def _days_apart(rule: str) -> int | None:
    """The days between two runs of a rule that `every_so_many_days` made; None for any other."""
    return int(rule.rsplit("INTERVAL=", 1)[1]) if rule.startswith("DTSTART") else None


@cache
def runs_a_week(rule: str) -> float:
    """Runs in a week of a rule, from four weeks of it; exactly, where it names the days between two runs."""
    apart = _days_apart(rule)
    return 7 / apart if apart else len(_days(rule, date(2026, 1, 5), date(2026, 2, 2))) / 4
