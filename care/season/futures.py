"""A year lived through many times by the plain rule for visits: what a household takes to keep, with a band.

Two ways of living are drawn in pairs: in each future the same chore has the same luck in both, so that what differs is
what was changed. Minutes that a day has are not held to: the year's sum hardly hangs on them.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from hashlib import sha256
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from care.season.chore import Chore, Floats
from care.season.model import Day
from care.season.ways import SENSIBLE_FROM
from care.season.weights import Weights
from care.vocabulary import Action

DRAWS = 300
"""Futures drawn [-]."""
YEAR_DAYS = 365
WEEK_SD = 0.25
"""How much one stretch between two days for visits differs from the next, in log space [-]. Ours."""
AHEAD_DAYS = (5, 9)
"""What could not wait for so many days joins a visit, of which the best for a household is taken [days]. Ours."""
SOONER_OPEN_DAYS = 5
"""So many days further ahead it is looked where an opening is undone anyway [days]. Ours."""
CLEARLY = 0.95
"""Another rhythm than the usual one is taken where it weighs less than so much of it [-]. Ours."""
TRIED = 8
"""In so many futures ways to visit are tried [-]."""
Bits = NDArray[np.bool_]


@dataclass(frozen=True, slots=True)
class Year:
    """A year in each future, lived in a rhythm: visits, hands-on minutes with those between visits [min], getting ready
    [min], runs missed while parts dry, new parts, what they cost and how much of that was not used [cents].
    """

    rhythm: "Rhythm"
    visits: Floats
    minutes: Floats
    ready_min: Floats
    missed: Floats
    parts: Floats
    cents: Floats
    unused_cents: Floats
    late: Floats
    """What was past its date, in minutes of work [min]."""

    def cost(self, weights: Weights) -> float:
        """What it weighs on average, in minutes of work [min]."""
        cents = (self.cents + self.unused_cents) * (60 / weights.hour_value if weights.hour_value else 0.0)
        each = self.minutes + self.ready_min + self.missed * weights.wait_min + self.late + cents
        return float(each.mean())


class Rhythm(NamedTuple):
    """How a household visits: on all of its days (None) or on one weekday, looking so many days ahead [days]."""

    weekday: int | None
    ahead: int


def year_of(
    planned: Sequence[Chore],
    between: Sequence[Chore],
    days: Sequence[Day],
    weights: Weights,
    usual: Rhythm | None = None,
) -> Year:
    """A year of `planned` chores on these days, and of those `between` them.

    The rhythm is what weighs least in a few of the futures; a `usual` one is kept unless another is clearly better, so
    that two ways of living differ by what was changed and not by how they are visited.
    """
    ways = {Rhythm(day, ahead): some for day, some in _by_weekday(days).items() for ahead in AHEAD_DAYS}
    weighs = {way: _Lives(planned, some, weights, TRIED).live(way).cost(weights) for way, some in ways.items()}
    best = min(weighs, key=lambda way: weighs[way])
    if usual in weighs and weighs[best] > CLEARLY * weighs[usual]:
        best = usual
    year = _Lives(planned, ways[best], weights, DRAWS).live(best)
    return replace(year, minutes=year.minutes + _between(between), missed=year.missed + _missed_between(between))


def _by_weekday(days: Sequence[Day]) -> dict[int | None, list[Day]]:
    """All days, and those of one weekday each where there are several; the first day is always one: it is near."""
    weekdays = sorted({day.date.weekday() for day in days})
    made: dict[int | None, list[Day]] = {None: list(days)}
    if len(weekdays) > 1:
        made |= {one: [day for day in days if day.date.weekday() == one or day is days[0]] for one in weekdays}
    return made


def luck(*of: object) -> Floats:
    """Standard normal draws of something, one for each future: the same wherever and whenever they are asked for."""
    seed = int.from_bytes(sha256(" ".join(map(str, of)).encode()).digest()[:8], "big")
    return np.random.default_rng(seed).standard_normal(DRAWS)


def _between(chores: Sequence[Chore]) -> Floats:
    """Minutes of a year of what is done between visits [min]."""
    total = np.zeros(DRAWS)
    for chore in chores:
        each = chore.effort_min + chore.opening_min
        total += chore.reach(0, chore.days) * each * np.exp(chore.spread * luck(*chore.key))
    return total


def _missed_between(chores: Sequence[Chore]) -> Floats:
    """Runs of a year that are missed for what dries between visits, on whatever day it is done."""
    total = np.zeros(DRAWS)
    for chore in chores:
        if chore.missed:
            times = chore.reach(0, chore.days) * np.exp(chore.spread * luck(*chore.key))
            total += float(np.mean(chore.missed)) * times
    return total


class _Lives:
    """Chores as arrays: (future, chore, trigger)."""

    def __init__(self, chores: Sequence[Chore], days: Sequence[Day], weights: Weights, draws: int) -> None:
        self._chores, self._days, self._weights, self._draws = chores, days, weights, draws
        most = max((chore.growth.shape[0] for chore in chores), default=1)
        self._growth = np.stack([_padded(chore.growth, most) for chore in chores]) if chores else np.zeros((0, 1, 1))
        self._effort = np.array([chore.effort_min for chore in chores])
        self._limit = np.array([weights.limit(chore) for chore in chores])
        self._price = np.array([chore.price or 0 for chore in chores], dtype=np.float64)
        self._renews = np.array([chore.key.action is Action.REPLACE for chore in chores], dtype=bool)
        self._covers = np.array([[other.key in chore.covers for other in chores] for chore in chores], dtype=np.float64)
        self._ways, self._way_min = self._grouped(
            [(c.key.machine_id, c.opening) if c.opening else None for c in chores]
        )
        self._machines, _ = self._grouped([c.key.machine_id for c in chores])
        self._late = np.array([weights.late[chore.stake] for chore in chores])
        paces = [c.spread * luck(*c.key)[:draws] for c in chores]
        self._speed = np.exp(np.stack(paces, axis=1)) if chores else None

    def _grouped(self, keys: Sequence[object]) -> tuple[Floats, Floats]:
        """Which chore belongs to which group (chore, group), and the minutes of each group's opening."""
        names = sorted({key for key in keys if key is not None}, key=str)
        member = np.array([[key == name for name in names] for key in keys], dtype=np.float64).reshape(
            len(keys), len(names)
        )
        minutes = np.array(
            [next(c.opening_min for c, k in zip(self._chores, keys, strict=True) if k == n) for n in names]
        )
        return member, minutes

    def live(self, rhythm: Rhythm) -> Year:
        """Go through the days of a year; what could not wait for so many days as the rhythm says joins a visit."""
        names = ("visits", "ready_min", "missed", "parts", "cents", "unused_cents", "late")
        year = {name: np.zeros(self._draws) for name in names}
        minutes = np.zeros(self._draws)
        if not self._chores or not self._days or self._speed is None:
            return Year(rhythm=rhythm, minutes=minutes, **year)
        gone = np.repeat(np.array([chore.gone for chore in self._chores])[None, :], self._draws, axis=0)
        spent = np.zeros((self._draws, *self._growth.shape[:2]))
        ends = [day.index for day in self._days[1:]] + [YEAR_DAYS]
        moods = [np.exp(WEEK_SD * luck("stretch from", day.date)[: self._draws]) for day in self._days]
        spent += self._step(0, self._days[0].index)
        for day, end, mood in zip(self._days, ends, moods, strict=True):
            ahead = self._step(day.index, end)
            share = gone + spent.max(axis=2)
            later = [
                gone + (spent + self._step(day.index, min(day.index + days, YEAR_DAYS))).max(axis=2)
                for days in (end - day.index, rhythm.ahead, rhythm.ahead + SOONER_OPEN_DAYS)
            ]
            done = self._done(share, later, day)
            covered = (done @ self._covers) > 0
            done &= ~covered
            minutes += done @ self._effort + ((done @ self._ways) > 0) @ self._way_min
            self._count(year, done, share, day)
            reset = done | covered
            late = np.where(reset, share, 0.0)
            year["late"] += np.maximum(0.0, late - np.maximum(1.0, gone)) @ self._late
            gone = np.where(reset, 0.0, gone)
            spent = np.where(reset[:, :, None], 0.0, spent) + ahead * mood[:, None, None]
        return Year(rhythm=rhythm, minutes=minutes, **year)

    def _step(self, begin: int, end: int) -> Floats:
        """What passes of each interval from one day to another, at each future's pace: (future, chore, trigger)."""
        passed = self._growth[:, :, end] - self._growth[:, :, begin]
        assert self._speed is not None
        stepped: Floats = passed[None, :, :] * self._speed[:, :, None]
        return stepped

    def _done(self, share: Floats, later: Sequence[Floats], day: Day) -> Bits:
        """What is done on a day: what could not wait for the next, and what could not wait much longer where there is a
        visit, by its share now and by the next day, after a while and after a longer while.
        """
        there = np.array([day.index >= c.not_before and day.reaching(c.skill) > 0 for c in self._chores])
        must, soon, sooner = ((one > self._limit) & there for one in later)
        visit = must.any(axis=1)
        opened = ((must @ self._ways) > 0) @ self._ways.T > 0
        nearly = (soon | (opened & sooner)) & (share >= SENSIBLE_FROM)
        done: Bits = must | (nearly & visit[:, None])
        return done

    def _count(self, year: dict[str, Floats], done: Bits, share: Floats, day: Day) -> None:
        machines = (done @ self._machines) > 0
        visit = done.any(axis=1)
        year["visits"] += visit
        year["ready_min"] += visit * self._weights.visit_min + machines.sum(axis=1) * self._weights.machine_min
        new = done & self._renews
        year["parts"] += new.sum(axis=1)
        year["cents"] += new @ self._price
        year["unused_cents"] += (new * np.maximum(0, 1 - share)) @ self._price
        missed = np.array([c.missed[day.index] if c.missed else 0 for c in self._chores], dtype=np.float64)
        if missed.any():
            for column in self._machines.T:
                year["missed"] += (done * (missed * column)).max(axis=1)


def _padded(growth: Floats, most: int) -> Floats:
    """With rows of nothing, so that all chores have as many."""
    return np.vstack([growth, np.zeros((most - growth.shape[0], growth.shape[1]))])


@dataclass(frozen=True, slots=True)
class Band:
    """A figure with the shares of futures that stay below: 10, 50 and 90 %."""

    p10: float
    p50: float
    p90: float


def band(values: Floats) -> Band:
    """The band of a figure over all futures."""
    low, middle, high = np.quantile(values, [0.1, 0.5, 0.9])
    return Band(float(low), float(middle), float(high))
