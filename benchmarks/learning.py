"""Do dates learn? Simulated parts with another law than the core's, looked at by people who err.

A part's dirt grows with hours to the power 1.15 times a weekly weather of its own, in some homes so that it saturates;
a hidden rate of 0.4 to 2.5 says how much faster or slower than the book it gets there, in some homes mostly the home's
own. Weeks of use differ. Somebody services it about when told, a third sooner or later, never under 7 nor over 60 days,
and says what was found: by dirt, with borders of their own, some answers a word off, some "cannot tell". In some homes
the rate doubles after six looks, and the household tells of it or does not. The core sees runs, services and answers
only. Its middle date for the next interval is then held against the day on which the dirt truly reaches its limit, or
the school's longest interval is up, in shares of the true interval.
"""

from dataclasses import dataclass, replace
from datetime import UTC, datetime, time, timedelta
from uuid import UUID

import numpy as np
from numpy.typing import NDArray

from care.due import Context, LoadLine, Past, assess
from care.due.schedule import WEEKDAYS, weekly
from care.due.triggers import STRETCH
from care.due.usage import UsageLog
from care.items import Fitting, Item, State
from care.model import Inspection, Load, Provenance, Run, ServiceRecord
from care.parts import Slot
from care.rules import Card, Rule, Trigger
from care.vocabulary import Action, Calendar, Figure, Found, LoadKind, Meter, School

SEED = 7_041
PARTS = 250
AFTER = (0, 1, 2, 3, 4, 6)
"""After how many looks the dates are held against the truth."""
CHANGES_AFTER = 6
"""After so many looks a home changes, where it does."""
SINCE = (0, 1, 3, 6)
"""After how many looks since then."""
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
    LoadKind.DUST,
)
"""A single figure: an ordinary home's, halved where the load is full."""
SLOT = Slot("part", "here", "part", "Part", "part", False, {found: str(found) for found in Found}, (RULE,))
WEEK = weekly(list(WEEKDAYS), REFERENCE_H * 60 / 7, time(10))
"""The usual week, where one is told."""
ORDINARY, FULL = Load(0.5, 0.5, 0.5), Load(1.0, 1.0, 1.0)


@dataclass(frozen=True, slots=True)
class Homes:
    """How irregular use is, how people look, what changes.

    `misses` [-]: chance that a planned day has no run; `run_sd` and `week_sd`: spread of run lengths and of weeks in
    log space [-]; `idle` [-]: share of idle weeks; `spells`: weeks are busy or quiet in spells; `weather` [-]: spread
    of the loading itself from week to week; `off` and `cannot` [-]: answers a word off, and none at all; `saturates`:
    dirt comes slower the more there is; `alike`: the rate is mostly the home's; `changes`: it doubles, and is `told`.
    """

    name: str
    misses: float
    run_sd: float
    week_sd: float
    idle: float
    weather: float
    spells: bool = False
    off: float = 0.1
    cannot: float = 0.0
    saturates: bool = False
    alike: bool = False
    changes: bool = False
    told: bool = False
    school: School = School.THRIFTY
    happens: tuple[float, ...] = (1.0,)
    """How much of the usual week happens at all, for ten weeks each, in turn [-]."""
    planned: bool = False
    """The household told its usual week."""
    assumed: bool = False
    """Nobody tells of runs: the usual week stands for them, as the core sees it."""


KEPT = Homes("a plan that is mostly kept: one run in eight missed, one week in twenty idle", 0.12, 0.2, 0.1, 0.05, 0.1)
HOMES = (
    KEPT,
    replace(KEPT, name="the same, workshop", school=School.WORKSHOP),
    replace(KEPT, name="the same, by the label", school=School.LABEL),
    replace(KEPT, name="the same, rates mostly the home's own", alike=True),
    replace(KEPT, name="the same, one answer in ten a word off, one in twenty 'cannot tell'", cannot=0.05),
    replace(KEPT, name="the same, dirt that saturates", saturates=True),
    Homes("weeks that differ: one run in four missed, one week in twelve idle", 0.25, 0.4, 0.3, 1 / 12, 0.15),
    Homes("busy and quiet spells of weeks, quiet ones a third as busy", 0.25, 0.4, 0.0, 0.0, 0.15, spells=True),
    replace(KEPT, name="a home whose rate doubles after six looks, and nobody tells", changes=True),
    replace(KEPT, name="a home whose rate doubles after six looks, and that is told", changes=True, told=True),
)


@dataclass(frozen=True, slots=True)
class Life:
    """One simulated part: hours of each day, and how dirty it gets after so many hours since its cleaning."""

    hours: NDArray[np.float64]
    rate: float
    weather: NDArray[np.float64]
    homes: Homes

    def dirt(self, since: int, until: int, rate: float) -> float:
        """Dirt gathered from the evening of day `since` to that of `until`, 1 being due [-]."""
        worked = self.hours[since + 1 : until + 1] * self.weather[since + 1 : until + 1]
        return float(self._dirt(worked.sum() * rate / BOOK_H))

    def _dirt(self, worked: NDArray[np.float64]) -> NDArray[np.float64]:
        """Dirt after so much of the book's interval; where it saturates, twice the limit is the most."""
        grown: NDArray[np.float64] = worked**1.15
        return 2 * (1 - np.exp(-grown * np.log(2))) if self.homes.saturates else grown

    def due_day(self, since: int, rate: float) -> int:
        """The first day on which the dirt reaches 1, or the school's longest interval is up."""
        hours = self.hours[since + 1 :]
        dirty = self._dirt(np.cumsum(hours * self.weather[since + 1 :]) * rate / BOOK_H) >= 1
        capped = np.cumsum(hours) >= BOOK_H * STRETCH[self.homes.school]
        return since + 1 + int(np.argmax(dirty | capped))


def measure() -> list[str]:
    """A table for each sort of home: looks so far, median errors, how often the band holds the truth.

    "knowing" is the error of somebody who knows the hidden rate and the mean use of the last eight weeks: what is left
    of it is the irregular use of the weeks to come, which nobody can know.
    """
    lines = [f"{PARTS} parts; errors in shares of the true interval, median"]
    for homes in HOMES:
        rng = np.random.default_rng(SEED)
        lived = [_live(_life(rng, homes), rng) for _ in range(PARTS)]
        lines += [homes.name, "  looks  learned   book  knowing  in 10-90 % band"]
        for looks in sorted(lived[0][1]):
            ends = [(life, told[looks]) for life, told in lived]
            learned, book, knowing = (np.median([told.errors[n] for _, told in ends]) for n in range(3))
            held = np.mean([told.held for _, told in ends])
            slow = np.median([told.errors[0] for life, told in ends if life.rate < 0.7])
            fast = np.median([told.errors[0] for life, told in ends if life.rate > 1.5])
            lines.append(
                f"  {looks:>5}  {learned:7.1%}  {book:5.1%}  {knowing:7.1%}  {held:6.0%}"
                f"   (slower than 0.7: {slow:.1%}, faster than 1.5: {fast:.1%})"
            )
    return lines


PLANNED = replace(KEPT, planned=True)
MEASURED = (
    PLANNED,
    replace(HOMES[6], planned=True),
    replace(HOMES[7], planned=True),
    replace(PLANNED, name="a usual week of which two thirds happen", happens=(2 / 3,)),
    replace(PLANNED, name="a usual week that happens for ten weeks, then half of it for ten", happens=(1.0, 0.5)),
)
"""Homes whose runs are measured by the machine, or assumed by the usual week."""


def measured_against_assumed() -> list[str]:
    """The same parts in the same homes, once with every run measured and once with the usual week in their place:
    median errors of the learned dates, and what measuring takes off them.
    """
    lines = [f"{PARTS} parts, runs measured by the machine | assumed by the usual week; median error of the date"]
    for homes in MEASURED:
        lines += [homes.name, "  looks  measured  assumed  less by"]
        both = [[_one(n, replace(homes, assumed=assumed)) for n in range(PARTS)] for assumed in (False, True)]
        for looks in AFTER:
            measured, assumed = (np.median([told[looks].errors[0] for told in parts]) for parts in both)
            lines.append(f"  {looks:>5}  {measured:8.1%}  {assumed:7.1%}  {1 - measured / assumed:7.0%}")
    return lines


def _one(number: int, homes: Homes) -> dict[int, "Told"]:
    """One part, the same each time whatever is known of it."""
    rng = np.random.default_rng((SEED, number))
    return _live(_life(rng, homes), rng)[1]


def _life(rng: np.random.Generator, homes: Homes) -> Life:
    days = 1600
    weeks = days // 7 + 1
    busy, states = True, []
    for _ in range(weeks):
        busy = rng.random() < (0.85 if busy else 0.4)
        quiet = 0.35 if homes.spells and not busy else 1.0
        idle = rng.random() < homes.idle
        states.append(0.0 if idle else quiet * float(np.exp(rng.normal(0, homes.week_sd))))
    ran = rng.random(days) >= homes.misses
    lengths = np.exp(rng.normal(0, homes.run_sd, days)) * REFERENCE_H / 7 / (1 - homes.misses)
    weather = np.repeat(np.exp(rng.normal(0, homes.weather, weeks)), 7)[:days]
    spread = np.log(2.5) * (0.8 if homes.alike else 1.0)
    rate = float(np.exp(rng.uniform(-spread, spread) + (rng.normal(0, 0.15) if homes.alike else 0.0)))
    happens = np.resize(np.repeat(homes.happens, 70), days)
    if len(homes.happens) > 1:  # homes change on different days
        happens = np.roll(happens, 7 * int(rng.integers(10 * len(homes.happens))))
    return Life(ran * lengths * np.repeat(states, 7)[:days] * happens, rate, weather, homes)


@dataclass(frozen=True, slots=True)
class Told:
    """What was told after so many looks: errors of the learned, the book's and the knowing date; whether it held."""

    errors: tuple[float, float, float]
    held: bool


def _live(life: Life, rng: np.random.Generator) -> tuple[Life, dict[int, Told]]:
    """Somebody services the part about when told, and says each time what was found."""
    homes = life.homes
    at = {CHANGES_AFTER + n for n in SINCE} if homes.changes else set(AFTER)
    day, services, told = 70, [_service(70)], {}
    inspections: list[Inspection] = []
    changed: int | None = None
    for looks in range(max(at) + 1):
        if homes.changes and looks == CHANGES_AFTER:
            changed = day
        rate = life.rate * (2.0 if changed is not None else 1.0)
        loads = [(START, ORDINARY), *([(_at(changed), FULL)] if changed is not None and homes.told else [])]
        due = _assess(life, day, services, inspections, LoadLine(loads)).due
        days = [(d - _at(day).date()).days for d in (due.p10, due.p50, due.p90)] if due else [0, 60, 60]
        if looks in at:
            told[looks] = _held_against_truth(life, day, days, rate)
        pause = days[1] * float(np.exp(rng.normal(0, 0.35)))
        then = day + int(min(max(pause, 7), 60))
        said, unsure = _said(life.dirt(day, then, rate), rng, homes.off), rng.random() < homes.cannot
        if not unsure:
            inspections.append(Inspection(ITEM, "part", Action.WASH, said, _at(then)))
        services.append(_service(then))
        day = then
    return life, told


def _held_against_truth(life: Life, day: int, days: list[int], rate: float) -> Told:
    truth = life.due_day(day, rate) - day
    weekly = life.hours[day - 56 : day].sum() / 8
    by_book = BOOK_H / weekly * 7 if weekly else 999.0
    longest = by_book * STRETCH[life.homes.school]
    knowing = min(by_book / rate, longest)
    errors = [abs(told - truth) / truth for told in (days[1], by_book, knowing)]
    return Told((errors[0], errors[1], errors[2]), days[0] <= truth <= days[2])


def _said(dirt: float, rng: np.random.Generator, off: float) -> Found:
    borders = np.array([0.3, 0.75, 1.3]) * np.exp(rng.normal(0, 0.12, 3))
    word = int((dirt > np.sort(borders)).sum())
    if rng.random() < off:
        word += int(rng.choice([-1, 1]))
    return WORDS[min(max(word, 0), 3)]


def _assess(life: Life, day: int, services: list[ServiceRecord], inspections: list[Inspection], loads: LoadLine):  # type: ignore[no-untyped-def]
    seen = np.full(len(life.hours), REFERENCE_H / 7) if life.homes.assumed else life.hours
    how = Provenance.ASSUMED if life.homes.assumed else Provenance.MEASURED
    runs = [
        Run(_at(d).date(), seen[d] * 3600, _at(d) - timedelta(hours=2), provenance=how)
        for d in range(day + 1)
        if seen[d] > 0
    ]
    context = Context(UsageLog(runs), WEEK if life.homes.planned else None, loads, life.homes.school, _at(day), UTC)
    item = Item(ITEM, "part", "Part", State.FITTED, START)
    fittings = [Fitting(ITEM, MACHINE, "part", START)]
    [state] = assess(SLOT, item, past=Past(fittings, services, inspections), context=context)
    return state


def _service(day: int) -> ServiceRecord:
    return ServiceRecord(ITEM, "part", Action.WASH, _at(day))


def _at(day: int) -> datetime:
    return START + day * DAY + timedelta(hours=9)
