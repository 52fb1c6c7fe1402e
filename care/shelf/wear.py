"""How worn a part is: what was measured against the hours it was in use, a line through it, when that meets its limit.

Also whether washing still brings a filter back.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum
from math import sqrt
from statistics import fmean, linear_regression

from care.due_state import DueDate
from care.measures import Measure
from care.units import Scale

FEWEST_POINTS = 2
"""How many points a line needs, that of a new part among them [-]."""
LEAST_APART_H = 0.01
"""Readings at hours in use that differ by less lie at one place of a line [h]. Ours."""
SLOPE_DOUBT = 0.25
"""How far the slope of a line through few points may be off beside its scatter, as a share of it [-]. Ours."""
Z90 = 1.2815515655446004
"""The standard normal quantile at 90 % [-]."""
FAR_DAYS = 3650
"""A limit that is met later than this is as good as never [days]."""
FALLEN = 1.0
"""How many grades of five less it pulls after a wash than when new, for washing to bring it back no more [-]. Ours."""


class Course(StrEnum):
    """What can be said of how a measure goes."""

    TOO_FEW = "too_few"
    STEADY = "steady"
    """It does not go towards its limit."""
    WEARS = "wears"
    WORN = "worn"
    """The limit is met."""


@dataclass(frozen=True, slots=True)
class Point:
    """One reading: after how many hours in use, on which day."""

    used_h: float
    day: date
    value: float


@dataclass(frozen=True, slots=True, kw_only=True)
class LineFigures:
    """What a line rests on: readings, the measure now, new and at its end, its change in 100 h, hours used, scatter."""

    readings: int
    now: float
    new: float
    limit: float
    per_100_h: float
    used_h: float
    sd: float


@dataclass(frozen=True, slots=True)
class Trend:
    """How a measure goes: now, new and at its end; a line (`at_zero`, `per_hour`), when it meets the limit, and why."""

    course: Course
    now: float
    new: float
    limit: float
    at_zero: float
    per_hour: float
    reaches: DueDate | None
    because: LineFigures


def trend(measure: Measure, points: Sequence[Point], *, used_h: float, hours_a_day: float, today: date) -> Trend | None:
    """How a measure goes; `points` oldest first, `used_h` the hours in use by now. None without a reading.

    A new part's figure, where the book has it, is a point at no hours. The band comes from the scatter about the line,
    never less than how far one reading may be off.
    """
    if not points:
        return None
    known = [Point(0.0, points[0].day, measure.new)] if measure.new is not None else []
    all_ = [*known, *points]
    new, now = all_[0].value, points[-1].value
    limit = measure.ends_at(new)
    a, b, sd = _line(measure, all_)
    course = _course(measure, all_, now, new, limit, b)
    reaches = _reaches(a, b, sd, limit, used_h, hours_a_day, today) if course is Course.WEARS else None
    if course is Course.WORN:
        reaches = DueDate(today, today, today, certain=True)
    figures = LineFigures(
        readings=len(points),
        now=now,
        new=new,
        limit=round(limit, 2),
        per_100_h=round(b * 100, 3),
        used_h=round(used_h, 1),
        sd=round(sd, 3),
    )
    return Trend(course, now, new, limit, a, b, reaches, figures)


def _line(measure: Measure, points: Sequence[Point]) -> tuple[float, float, float]:
    """Least squares through the points: figure at no hours, change for an hour, scatter."""
    x, y = [p.used_h for p in points], [p.value for p in points]
    if len(x) < FEWEST_POINTS or max(x) - min(x) < LEAST_APART_H:
        return fmean(y), 0.0, measure.off
    b, a = linear_regression(x, y)
    left = sum((two - a - b * one) ** 2 for one, two in zip(x, y, strict=True))
    sd = sqrt(left / (len(x) - 2)) if len(x) > 2 else 0.0
    return a, b, max(sd, measure.off)


def _course(measure: Measure, points: Sequence[Point], now: float, new: float, limit: float, slope: float) -> Course:
    if measure.is_past(now, new):
        return Course.WORN
    if measure.scale is Scale.YES_NO:
        return Course.STEADY
    if len(points) < FEWEST_POINTS or len({p.used_h for p in points}) < FEWEST_POINTS:
        return Course.TOO_FEW
    return Course.WEARS if (slope > 0) == (limit > new) and slope != 0 else Course.STEADY


def _reaches(
    a: float, b: float, sd: float, limit: float, used_h: float, hours_a_day: float, today: date
) -> DueDate | None:
    """When the line meets the limit; the slope may be a quarter off, the level by the scatter."""
    if hours_a_day <= 0:
        return None
    days = []
    for z in (1.0, 0.0, -1.0):
        slope = b * (1 + z * Z90 * SLOPE_DOUBT)
        level = a + b * used_h + z * Z90 * sd * (1 if b > 0 else -1)
        days.append(max(0.0, (limit - level) / slope) / hours_a_day if slope else FAR_DAYS)
    if days[1] > FAR_DAYS:
        return None
    first, middle, last = (today + timedelta(days=int(min(one, FAR_DAYS))) for one in days)
    return DueDate(first, middle, last)


@dataclass(frozen=True, slots=True)
class Recovery:
    """How a machine pulled after washes of a filter [1..5], first and lately, and whether washing helps no more."""

    first: float
    lately: float
    washes: int

    @property
    def falling(self) -> bool:
        """Whether washing brings it back no more."""
        return self.washes >= 3 and self.first - self.lately >= FALLEN


def recovery(after: Sequence[float]) -> Recovery | None:
    """How washing brought a filter back: `after` each wash what was felt, oldest first; None for fewer than two.

    >>> recovery([5, 5, 4, 3]).falling
    True
    """
    if len(after) < 2:
        return None
    lately = after[-2:] if len(after) > 2 else after[-1:]
    return Recovery(after[0], sum(lately) / len(lately), len(after))
