"""The best way found for a season, and a bound that no way goes below.

Three steps. Shares of what chores have in common are mended until the bound they give hardly rises; plans that follow
such shares are settled, chore by chore, and the best is kept; then stretch by stretch of its days, all chores together,
it is bettered by CP-SAT. The same question gives the same answer.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from care.season.chore import Chore, ChoreKey
from care.season.model import Day
from care.season.polish import polish
from care.season.search import Joint, On
from care.season.ways import Asked, nodes_of
from care.season.weights import Weights

EFFORT = 1.0
"""How hard it looks, as a share of the usual [-]. At 0 the plan is settled and not bettered."""
WINDOW = 8
"""So many days that may have a visit are bettered at once [-]. Ours: four weeks of two days prove within a blink."""
STEPS = 0.1
"""How long each stretch is looked at, in the solver's own steps."""
WORTH_MOVING = 0.9
"""A plan made anew takes the place of the last one, mended, only where it weighs less than so much of it [-]. Ours."""
MOST_WEEKDAYS = 4
"""On so many weekdays it is tried to have them alone [-]."""
ROUNDS = 120
"""How often shares are mended for a plan made from nothing [-]."""
MOST = 20_000
"""Chores times rounds of mending shares: fewer rounds for a big house [-]."""


@dataclass(frozen=True, slots=True)
class Solved:
    """On which days each chore is done, what that weighs, and what no way weighs less than [min]."""

    doing: Mapping[ChoreKey, tuple[int, ...]]
    cost: float
    bound: float


def solve(chores: Sequence[Chore], days: Sequence[Day], weights: Weights, asked: Asked, effort: float) -> Solved:
    """The best way found for these chores on these days, and a bound that none goes below."""
    if not chores or not days:
        return Solved({chore.key: () for chore in chores}, 0.0, 0.0)
    joint = Joint(chores, days, weights, asked)
    mended = joint.mend(joint.as_before()) if asked.before else None
    rounds = max(20, min(ROUNDS if mended is None or effort else ROUNDS // 4, MOST // len(chores)))
    bound, led_to = joint.bound(rounds)
    if mended is not None and (not effort or bound >= WORTH_MOVING * joint.weigh(mended)):
        best = mended  # without looking: what is found weighs no less than the bound, so nothing could take its place
    else:
        best = _best(joint, led_to, effort)
        if mended is not None and joint.weigh(best) >= WORTH_MOVING * joint.weigh(mended):
            best = mended
    doing = {chore.key: tuple(days[node - 1].index for node in nodes_of(best[t])) for t, chore in enumerate(chores)}
    cost = joint.weigh(best)
    return Solved(doing, cost, min(max(0.0, bound), cost))


def _best(joint: Joint, led_to: Sequence[On], effort: float) -> On:
    """The best plan found, whatever was planned before."""
    settled = [joint.settle(on, (True, True, False)) for on in led_to[-2:]]
    for closed in _by_weekday(joint):
        settled.append(joint.settle(joint.settle(led_to[-1], (True,), closed), (False, False)))
    best = min((joint.settle(joint.spare_days(on), (False,)) for on in _best_two(joint, settled)), key=joint.weigh)
    for free in _stretches(joint) if effort else ():
        best = polish(joint, best, free, STEPS * effort)
    return best


def _best_two(joint: Joint, settled: Sequence[On]) -> list[On]:
    return sorted(settled, key=joint.weigh)[:2]


def _by_weekday(joint: Joint) -> Iterator[list[int]]:
    """The days that are closed where visits are on one weekday only, but for the first ones, which are near."""
    weekdays = sorted({day.date.weekday() for day in joint.days})
    if len(weekdays) < 2:
        return
    for weekday in weekdays[:MOST_WEEKDAYS]:
        yield [p for p, day in enumerate(joint.days) if p > 1 and day.date.weekday() != weekday]


def _stretches(joint: Joint) -> Iterator[On]:
    for begin in range(0, len(joint.days), WINDOW):
        free = np.zeros((len(joint.chores), len(joint.days)), dtype=bool)
        free[:, begin : begin + WINDOW] = True
        yield free
