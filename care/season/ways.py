"""What doing a chore on some days and not on others weighs: from one time it is done to the next.

A way of a chore goes from now (node 0) over days on which it is done (nodes 1 to the number of days) to the end of the
season (the last node). What it weighs is the sum over its steps and of what each of its days weighs.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date

import numpy as np
from numpy.typing import NDArray

from care.season.chore import Chore, ChoreKey, Floats
from care.season.model import Day
from care.season.score import shares_from
from care.season.weights import STRICT, Weights
from care.season.wishes import NotOn, Pin

SENSIBLE_FROM = 0.4
"""No chore is done before this share of its interval, unless nothing else keeps it in time [-]. Ours."""
FORBIDDEN = 1e6
"""What a step that is not made weighs [min]."""
TOO_LONG, TOO_SOON = 2000.0, 500.0
"""What a stretch longer than a strict chore may wait weighs where a shorter one is at hand, and going before it is
sensible [min]: there is always an answer, and these are never in it without need. Ours."""
SHOWS = 10.0
"""What such a stretch of any other chore weighs, besides being late [min]: it would show as overdue. Ours."""
SHIFT_MIN = 1.0
"""What a chore that moves to another day weighs, besides the visit that moves [min]. Ours."""


@dataclass(frozen=True, slots=True)
class Asked:
    """What stands fixed: pins, chores left out on days, and the days on which the last plan had them."""

    pins: Sequence[Pin] = ()
    left_out: Sequence[NotOn] = ()
    before: Mapping[ChoreKey, Sequence[date]] = field(default_factory=dict)

    def pinned_to(self, chore: Chore) -> set[date]:
        """The days on which a chore is done because somebody said so."""
        return {pin.day for pin in self.pins if chore.key in pin.chores}

    def leaves_out(self, chore: Chore, day: date) -> bool:
        """Whether somebody left a chore out on a day."""
        return any(no.chore == chore.key and no.first <= day <= no.last for no in self.left_out)


def steps_of(chore: Chore, days: Sequence[Day], weights: Weights, asked: Asked) -> tuple[Floats, Floats]:
    """What each step weighs (from node, to node) [min]: the work, what is late, what is thrown away early; and what it
    weighs to a day on which something else sets the chore back: only what is late.
    """
    at = np.array([day.index for day in days], dtype=np.intp)
    n = len(at)
    first = shares_from(chore, None)
    marks = chore.growth[:, [*at, chore.days]]
    gap = np.full((n + 2, n + 2), np.nan)
    gap[0, 1:] = first[[*at, chore.days]]
    gap[1 : n + 1, 1:] = (marks[:, None, :] - marks[:, :n, None]).max(axis=0)
    weighs = np.where(np.isnan(gap), FORBIDDEN, 0.0)
    gap = np.nan_to_num(gap)
    late = gap - 1
    late[0] = gap[0] - max(1.0, float(first[0]))
    weighs += weights.late[chore.stake] * np.maximum(late, 0)
    may = np.array([_may(chore, day, asked) for day in days], dtype=bool)
    _too_long(weighs, gap, chore, weights, may)
    weighs[np.tril_indices(n + 2)] = FORBIDDEN
    set_back = weighs.copy()
    weighs[:, 1 : n + 1] += chore.effort_min + weights.worth(chore) * np.maximum(0, 1 - gap[:, 1 : n + 1])
    weighs[:, 1 : n + 1] += np.where(may, 0.0, FORBIDDEN)
    soon = gap[:, 1 : n + 1] < SENSIBLE_FROM
    weighs[:, 1 : n + 1] += np.where(soon, TOO_SOON, 0.0)
    for p, day in enumerate(days, 1):
        if day.date in asked.pinned_to(chore):
            weighs[:p, p] = np.minimum(weighs[:p, p], 0.0 + chore.effort_min)
            weighs[:p, p + 1 :] = set_back[:p, p + 1 :] = FORBIDDEN
    return weighs, set_back


def with_days_given(steps: Floats, set_back: Floats, given: NDArray[np.bool_]) -> Floats:
    """The steps of a chore that something else sets back on `given` days: it goes through them, and without work."""
    made = steps.copy()
    for node in nodes_of(given):
        made[:, node] = set_back[:, node]
        made[:node, node + 1 :] = FORBIDDEN
    return made


def _may(chore: Chore, day: Day, asked: Asked) -> bool:
    return day.reaching(chore.skill) > 0 and day.index >= chore.not_before and not asked.leaves_out(chore, day.date)


def _too_long(weighs: Floats, gap: Floats, chore: Chore, weights: Weights, may: NDArray[np.bool_]) -> None:
    """A strict chore is not let go for too long where a day before would do; another one not lightly."""
    weighs_more = TOO_LONG if chore.stake in STRICT else SHOWS
    limit, n = weights.limit(chore), len(may)
    fits = (gap[:, 1 : n + 1] <= limit) & may & np.triu(np.ones((n + 2, n), dtype=bool))
    for i in range(n + 1):
        if fits[i].any():
            weighs[i, gap[i] > limit] += weighs_more
        else:
            possible = [j for j in range(i, n) if may[j]]
            if possible:  # none is in time: the soonest is the least bad
                later = np.arange(n + 2) > possible[0] + 1
                weighs[i, later & (gap[i] > limit)] += weighs_more


def nodes_of(on: NDArray[np.bool_]) -> list[int]:
    """The nodes of the days on which a chore is done."""
    return [int(p) + 1 for p in np.flatnonzero(on)]


def stays(chore: Chore, days: Sequence[Day], asked: Asked) -> Floats:
    """What each day weighs less for a chore that the last plan had on it [min]."""
    before = set(asked.before.get(chore.key, ()))
    return np.array([-SHIFT_MIN if day.date in before else 0.0 for day in days])


def best_way(steps: Floats, price: Floats) -> tuple[float, list[int]]:
    """The way that weighs least (steps from `steps_of`, what each day weighs besides) and its days, by position."""
    n = len(price)
    reached = np.zeros(n + 2)
    came = np.zeros(n + 2, dtype=np.intp)
    for j in range(1, n + 2):
        by = reached[:j] + steps[:j, j]
        came[j] = by.argmin()
        reached[j] = by[came[j]] + (price[j - 1] if j <= n else 0.0)
    days, node = [], int(came[n + 1])
    while node > 0:
        days.append(node - 1)
        node = int(came[node])
    return float(reached[n + 1]), days[::-1]


def way_weighs(steps: Floats, price: Floats, on: NDArray[np.bool_]) -> float:
    """What a way over these days weighs [min]."""
    nodes = [0, *nodes_of(on), len(price) + 1]
    return float(steps[nodes[:-1], nodes[1:]].sum()) + float(price[on].sum())


def best_ways(
    steps: Floats, price: Floats, set_back: Floats, given: Floats
) -> tuple[Floats, NDArray[np.bool_], NDArray[np.bool_]]:
    """The same for many chores at once: steps (chore, from, to), prices (chore, day); what each weighs, when it is
    done, and when it rather is set back by something else, at the price `given` (chore, day).
    """
    many, n = price.shape
    reached = np.zeros((many, n + 2))
    came = np.zeros((many, n + 2), dtype=np.intp)
    free = np.zeros((many, n + 2), dtype=bool)
    rows = np.arange(many)
    for j in range(1, n + 2):
        by = reached[:, :j] + steps[:, :j, j]
        came[:, j] = by.argmin(axis=1)
        reached[:, j] = by[rows, came[:, j]] + (price[:, j - 1] if j <= n else 0.0)
        if j <= n:
            other = reached[:, :j] + set_back[:, :j, j]
            best = other.argmin(axis=1)
            weighs = other[rows, best] + given[:, j - 1]
            free[:, j] = weighs < reached[:, j]
            came[:, j] = np.where(free[:, j], best, came[:, j])
            reached[:, j] = np.minimum(reached[:, j], weighs)
    on = np.zeros((many, n + 2), dtype=bool)
    node = came[:, n + 1]
    while node.any():
        on[rows, node] = True
        node = np.where(node > 0, came[rows, node], 0)
    done, set_back_on = on & ~free, on & free
    return reached[:, n + 1], done[:, 1 : n + 1], set_back_on[:, 1 : n + 1]
