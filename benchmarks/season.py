"""Are half a year's visits few, short and in time? Houses out of the care book, planned, and one lived through.

Each machine is of a random kind, runs on random days of the week, and has each part somewhere in its interval. A house
has time on Tuesdays and Saturdays. It is held against each task on its own date, and against everything that is due on
Saturdays; all three are counted by the same count. Minutes are those at the bench, and in all with getting ready.

Then a house is lived through for half a year by laws of its own: each time a part gets there in another number of
days (times 0.55 to 1.8, of which no plan knows), what is far gone is seen and done at once, one visit in five is
skipped, and the plan is made anew every day.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from time import perf_counter
from uuid import UUID

import numpy as np

from care.book import load_book
from care.due.upkeep import times_a_year
from care.due.usage import Pace
from care.kinds import Archetype
from care.model import Load
from care.parts import Slot
from care.rules import Rule
from care.season import Chore, ChoreKey, Hands, Weights, Wishes, plan
from care.season.chores import covered_by
from care.season.compare import on_one_weekday, on_own_dates
from care.season.model import SEASON_DAYS, Score, Season
from care.season.score import score
from care.vocabulary import Consequence, School

SEEDS = range(71, 76)
SIZES = (1, 5, 12, 40)
TODAY = date(2026, 11, 24)
"""A Tuesday."""
MINUTES = {1: 30.0, 5: 45.0, 12: 90.0, 40: 240.0}
"""Minutes that a house of so many machines has on each of its days [min]."""
STRICT = (Consequence.SAFETY, Consequence.MOTOR)


def measure() -> list[str]:
    """Planned houses of each size, then one lived through."""
    lines = []
    for size in SIZES:
        lines += _planned(size)
    return [*lines, *_two_sets(), *_lived()]


def house(size: int, seed: int, *, sets: bool = False) -> list[Chore]:
    """The chores of a house of so many machines; with `sets` every filter has a second one to take turns."""
    rng = np.random.default_rng([seed, size])
    kinds = sorted(key for key in load_book().archetypes if not key.startswith("unknown"))
    made: list[Chore] = []
    for n in range(size):
        kind = load_book().archetypes[str(rng.choice(kinds))]
        made += _machine(kind, UUID(int=n + 1), rng, sets)
    return made


def _machine(kind: Archetype, machine_id: UUID, rng: np.random.Generator, sets: bool) -> list[Chore]:
    runs = int(rng.integers(1, 8))
    pace = Pace(runs * kind.usual_run_min / 60, float(runs))
    on = sorted(int(day) for day in rng.choice(7, size=runs, replace=False))
    load = Load(*rng.uniform(0.2, 0.8, 3))
    made = []
    for slot in kind.parts(frozenset()):
        for rule in slot.rules:
            often = times_a_year(slot, rule.action, kind, pace, load, School.WORKSHOP)
            if often and rule.holds_with(frozenset()) and 365 / often <= SEASON_DAYS and not rule.extra:
                made.append(
                    _chore(kind, slot, rule, ChoreKey(machine_id, slot.key, rule.action), 365 / often, on, rng, sets)
                )
    return made


def _chore(
    kind: Archetype,
    slot: Slot,
    rule: Rule,
    key: ChoreKey,
    every: float,
    on: Sequence[int],
    rng: np.random.Generator,
    sets: bool,
) -> Chore:
    opening = kind.opening(slot.opening) if slot.opening else None
    drying = None if rule.is_life else slot.drying_of(rule.action)
    waits = drying is not None and slot.needed_to_run and drying.floor_h > 0 and not sets
    days = range(1, int(np.ceil(drying.reference_h / 24)) + 1) if drying else ()
    missed = tuple(sum((TODAY + timedelta(days=n + d)).weekday() in on for d in days) for n in range(SEASON_DAYS + 1))
    return Chore(
        key,
        rule.stake,
        rule.card.effort_min,
        float(rng.uniform(0, 0.9)),
        np.arange(SEASON_DAYS + 1)[None, :] / every,
        opening=opening.key if opening else None,
        opening_min=opening.setup_min if opening else 0.0,
        missed=missed if waits else (),
        turns=drying is not None and sets,
        covers=frozenset(covered_by(key.machine_id, slot, rule.action)),
        price=800 if rule.is_life else None,
    )


def _wishes(size: int) -> Wishes:
    return Wishes((Hands("us", ("TU", "SA"), MINUTES[size]),))


@dataclass(frozen=True, slots=True)
class Told:
    """One planned house: seconds to a settled and to a bettered plan, the plan, and what else might be done."""

    first_s: float
    whole_s: float
    season: Season
    own: Score
    saturdays: Score
    ahead: Score
    """On Saturdays whatever would be due by the next one."""


def _plan(size: int, seed: int) -> Told:
    chores, wishes = house(size, seed), _wishes(size)
    began = perf_counter()
    plan(chores, wishes, TODAY, effort=0.0)
    settled = perf_counter()
    season = plan(chores, wishes, TODAY)
    whole = perf_counter() - settled
    weights = Weights()
    own = score(season.planned, on_own_dates(season.planned), weights)
    saturdays = score(season.planned, on_one_weekday(season.planned, 4), weights)
    ahead = score(season.planned, on_one_weekday(season.planned, 4, ahead=7), weights)
    return Told(settled - began, whole, season, own, saturdays, ahead)


def _planned(size: int) -> list[str]:
    told = [_plan(size, seed) for seed in SEEDS]

    def middle(of: Callable[[Told], float]) -> float:
        return float(np.median([of(one) for one in told]))

    def in_all(takes: Score) -> float:
        return takes.minutes + takes.ready_min

    tasks = middle(lambda one: len(one.season.planned))
    first, bettered = middle(lambda one: one.first_s), middle(lambda one: one.whole_s)
    gap, worst = middle(lambda one: one.season.gap), max(one.season.gap for one in told)
    visits, own = middle(lambda one: one.season.score.visits / 6), middle(lambda one: one.own.visits / 6)
    each = middle(lambda one: one.season.score.minutes / one.season.score.visits)
    less = middle(lambda one: in_all(one.season.score) / in_all(one.own) - 1)
    bench = middle(lambda one: one.season.score.minutes / one.own.minutes - 1)
    weekly = middle(lambda one: in_all(one.season.score) / in_all(one.saturdays) - 1)
    in_time = middle(lambda one: in_all(one.season.score) / in_all(one.ahead) - 1)
    late = sum(_late(one.season.score) for one in told)
    return [
        f"{size} machines, {tasks:.0f} tasks: first plan {first:.1f} s, bettered {bettered:.1f} s, gap {gap:.0%}"
        f" (worst {worst:.0%})",
        f"  {visits:.1f} visits a month of {each:.0f} min; each on its date: {own:.0f} days a month",
        f"  minutes in all {less:+.0%} beside each on its date (at the bench alone {bench:+.0%}),"
        f" {weekly:+.0%} beside all that is due on Saturdays, {in_time:+.0%} beside all that will be by the next",
        f"  safety and motor past their date: {late} days in {len(told)} houses,"
        f" on Saturdays {sum(_late(one.saturdays) for one in told)} and {sum(_late(one.ahead) for one in told)}",
    ]


def _late(takes: Score) -> int:
    """Days on which what keeps somebody safe or a motor alive was past its date [days]."""
    return sum(takes.late_days.get(stake, 0) for stake in STRICT)


def _two_sets() -> list[str]:
    one = [plan(house(5, seed), _wishes(5), TODAY, effort=0.0).score.missed_runs for seed in SEEDS]
    two = [plan(house(5, seed, sets=True), _wishes(5), TODAY, effort=0.0).score.missed_runs for seed in SEEDS]
    return [f"runs missed while filters dry, 5 machines: {np.mean(one):.0f} with one set, {np.mean(two):.0f} with two"]


# --- Lived through -----------------------------------------------------------------------------------------------

SKIPS = 0.2
LIVED_DAYS = 182
FAR_GONE = 1.4
"""From which share of its true interval anybody sees that a part is far gone [-]."""


def _lived() -> list[str]:
    """Half a year of a house of five machines, the plan made anew each day, beside each task on its own date."""
    rng = np.random.default_rng(9_001)
    chores = house(5, 81)
    truth = {chore.key: _interval(chore, rng) for chore in chores}
    by_key = {chore.key: chore for chore in chores}
    since = {chore.key: -chore.gone * _every(chore) for chore in chores}
    before: dict[ChoreKey, list[date]] = {}
    minutes, visits, moved, late, skipped, seen = 0.0, 0, 0, 0, 0, 0

    def done(key: ChoreKey, day: int) -> None:
        since[key] = day
        truth[key] = _interval(by_key[key], rng)

    for day in range(LIVED_DAYS):
        today = TODAY + timedelta(days=day)
        for chore in chores:
            if (day - since[chore.key]) / truth[chore.key] > FAR_GONE:
                minutes, seen = minutes + chore.effort_min + chore.opening_min, seen + 1
                done(chore.key, day)
        now = [replace(chore, gone=(day - since[chore.key]) / _every(chore)) for chore in chores]
        season = plan(now, _wishes(5), today, before=before, effort=0.0)
        moved += len(season.moved) if day else 0
        late += sum(chore.stake in STRICT and chore.gone > 1 for chore in now)
        before = _days(season)
        mine = next((visit for visit in season.visits if visit.day.date == today), None)
        if mine is None:
            continue
        if rng.random() < SKIPS:
            skipped += 1
            continue
        visits, minutes = visits + 1, minutes + mine.minutes
        for key in {key for job in mine.jobs for key in (job.chore.key, *job.chore.covers)} & set(by_key):
            done(key, day)
        before = {key: [at for at in days if at > today] for key, days in before.items()}
    strict = sum(chore.stake in STRICT for chore in chores)
    return [
        f"lived through half a year, 5 machines: {visits} visits, {skipped} skipped, {minutes:.0f} min with {seen}"
        " parts seen far gone in between",
        f"  {moved / LIVED_DAYS:.2f} visits moved a day;"
        f" safety and motor past their date {late / strict:.1f} days a task",
    ]


def _every(chore: Chore) -> float:
    return 1 / float(chore.growth[0, 1])


def _interval(chore: Chore, rng: np.random.Generator) -> float:
    """How many days a part takes this time [days]: nobody knows."""
    return _every(chore) * float(rng.uniform(0.55, 1.8))


def _days(season: Season) -> dict[ChoreKey, list[date]]:
    made: dict[ChoreKey, list[date]] = {}
    for visit in season.visits:
        for job in visit.jobs:
            made.setdefault(job.chore.key, []).append(visit.day.date)
    return made


if __name__ == "__main__":
    for line in measure():
        print(line)
