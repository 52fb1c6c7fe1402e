"""Do dates learn? Simulated parts with another law than the core's, looked at by people who err.

A part's dirt grows with hours to the power 1.15 times a weekly weather of its own; a hidden rate of 0.4 to 2.5 says how
much faster or slower than the book it gets there. Weeks are busy or idle by a two-state chain. Somebody services it
every 7 to 60 days and says what was found: by dirt with borders of their own, and one answer in ten slips to the next
word. The core sees runs, services and answers only. Its middle date for the next interval is then held against the day
on which the dirt truly reaches its limit, in shares of the true interval.
"""

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from uuid import UUID

import numpy as np
from numpy.typing import NDArray

from care.due.intervals import Context, assess
from care.due.usage import UsageLog
from care.items import Fitting, Item, State
from care.model import (
    Action,
    Calendar,
    Card,
    Figure,
    Found,
    Inspection,
    Load,
    Meter,
    Rule,
    Run,
    School,
    ServiceRecord,
    Slot,
    Trigger,
)

SEED = 7_041
PARTS = 250
BOOK_DAYS, REFERENCE_H = 30.0, 5.0
BOOK_H = BOOK_DAYS / 7 * REFERENCE_H
WORDS = [Found.CLEAN, Found.LIGHT, Found.DUE, Found.OVERDUE]
START = datetime(2025, 1, 6, 11, tzinfo=UTC)
DAY = timedelta(days=1)
ITEM, MACHINE = UUID(int=1), UUID(int=2)
RULE = Rule(
    Action.WASH,
    (Trigger(Meter.DAYS, BOOK_DAYS, BOOK_DAYS, Calendar.STANDS_FOR_USE, REFERENCE_H),),
    "motor",
    Figure.OURS,
    "simulated",
    Card(1.0, ("Wash it.",)),
)
SLOT = Slot("part", "here", "part", "Part", "part", False, 1, 1, (RULE,), {found: str(found) for found in Found})


@dataclass(frozen=True, slots=True)
class Life:
    """One simulated part: hours of each day, and how dirty it gets after so many hours since its cleaning."""

    hours: NDArray[np.float64]
    rate: float
    weather: NDArray[np.float64]

    def dirt(self, since: int, until: int) -> float:
        """Dirt gathered from the evening of day `since` to that of `until`, 1 being due [-]."""
        worked = self.hours[since + 1 : until + 1] * self.weather[since + 1 : until + 1]
        return float((worked.sum() * self.rate / BOOK_H) ** 1.15)

    def due_day(self, since: int) -> int:
        """The first day on which the dirt reaches 1."""
        worked = np.cumsum(self.hours[since + 1 :] * self.weather[since + 1 :])
        return since + 1 + int(np.argmax((worked * self.rate / BOOK_H) ** 1.15 >= 1))


def measure() -> list[str]:
    """A table: looks so far, median error, the fixed book interval's, and how often the band holds the truth."""
    lines = [f"{PARTS} parts; errors in shares of the true interval, median", "looks  learned   book  in 10-90 % band"]
    rng = np.random.default_rng(SEED)
    lives = [_life(rng) for _ in range(PARTS)]
    for looks in (0, 1, 3, 6):
        errors, book, held = zip(*(_one(life, looks, rng) for life in lives), strict=True)
        slow = [error for error, life in zip(errors, lives, strict=True) if life.rate < 0.7]
        lines.append(
            f"{looks:>5}  {np.median(errors):7.1%}  {np.median(book):5.1%}  {np.mean(held):6.0%}"
            f"   (parts slower than 0.7: {np.median(slow):.1%})"
        )
    return lines


def _life(rng: np.random.Generator) -> Life:
    days = 1600
    busy, states = True, []
    for _ in range(days // 7 + 1):
        busy = rng.random() < (0.85 if busy else 0.4)
        states.append(1.0 if busy else 0.35)
    by_week = np.repeat(states, 7)[:days]
    ran = rng.random(days) < 0.75 * by_week
    hours = ran * rng.gamma(6.0, REFERENCE_H / 5.25 / 6.0, days)
    weather = np.repeat(np.exp(rng.normal(0, 0.15, days // 7 + 1)), 7)[:days]
    return Life(hours, float(np.exp(rng.uniform(np.log(0.4), np.log(2.5)))), weather)


def _one(life: Life, looks: int, rng: np.random.Generator) -> tuple[float, float, bool]:
    """Errors of the learned and of the book's date after so many looks, and whether the band held the truth."""
    day, services, inspections = 70, [_service(70)], []
    for _ in range(looks):
        then = day + int(rng.integers(7, 61))
        inspections.append(Inspection(ITEM, ITEM, "part", Action.WASH, _said(life.dirt(day, then), rng), _at(then)))
        services.append(_service(then))
        day = then
    state = _assess(life, day, services, inspections)
    truth = life.due_day(day) - day
    if state.due is None:
        return 1.0, 1.0, False
    days = [(d - _at(day).date()).days for d in (state.due.p10, state.due.p50, state.due.p90)]
    weekly = life.hours[day - 56 : day].sum() / 8
    by_book = BOOK_H / weekly * 7 if weekly else 999.0
    return abs(days[1] - truth) / truth, abs(by_book - truth) / truth, days[0] <= truth <= days[2]


def _said(dirt: float, rng: np.random.Generator) -> Found:
    borders = np.array([0.3, 0.75, 1.3]) * np.exp(rng.normal(0, 0.12, 3))
    word = int((dirt > np.sort(borders)).sum())
    if rng.random() < 0.1:
        word += int(rng.choice([-1, 1]))
    return WORDS[min(max(word, 0), 3)]


def _assess(life: Life, day: int, services: list[ServiceRecord], inspections: list[Inspection]):  # type: ignore[no-untyped-def]
    runs = [
        Run(ITEM, _at(d).date(), life.hours[d] * 3600, _at(d) - timedelta(hours=2))
        for d in range(day + 1)
        if life.hours[d] > 0
    ]
    context = Context(UsageLog(runs), None, Load(), School.THRIFTY, _at(day), UTC)
    item = Item(ITEM, "part", "Part", State.FITTED, START)
    fittings = [Fitting(ITEM, MACHINE, "part", START)]
    [state] = assess(SLOT, item, fittings=fittings, services=services, inspections=inspections, context=context)
    return state


def _service(day: int) -> ServiceRecord:
    return ServiceRecord(ITEM, ITEM, "part", Action.WASH, _at(day))


def _at(day: int) -> datetime:
    return START + day * DAY + timedelta(hours=9)
