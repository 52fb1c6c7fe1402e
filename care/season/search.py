"""Ways of all chores together: what they share out (visits, machines, openings, minutes, waiting) and what that weighs.

Two uses of one count. Shared out among those that could share it, whatever the shares, what the best ways weigh is a
bound of every plan; shares that follow use make that bound high. And taken as it falls in a plan, it is what one more
chore on a day really adds: chores are put, one after another, where they add least.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from uuid import UUID

import numpy as np
from numpy.typing import NDArray

from care.season.chore import Chore, Floats
from care.season.model import Day
from care.season.ways import (
    FORBIDDEN,
    Asked,
    best_way,
    best_ways,
    nodes_of,
    stays,
    steps_of,
    way_weighs,
    with_days_given,
)
from care.season.weights import Weights

OVER_FULL = 5.0
"""What a minute beyond those that a day has weighs [min]. Ours."""
MEND_MIN = 4.0
"""A chore keeps its days in a plan that is made anew unless others weigh so much less [min]. Ours."""
On = NDArray[np.bool_]
"""Which chore is done on which day: (chore, position)."""


@dataclass(frozen=True)
class Shared:
    """A cost that chores share: those that do, and what it weighs on each day [min]."""

    members: NDArray[np.intp]
    weighs: Floats
    minutes: float = 0.0
    """Hands-on minutes of it, which count against those that a day has [min]."""

    @cached_property
    def all(self) -> frozenset[int]:
        """Those that share it."""
        return frozenset(map(int, self.members))


class Joint:
    """The chores of a season on its days, with what they share."""

    def __init__(self, chores: Sequence[Chore], days: Sequence[Day], weights: Weights, asked: Asked) -> None:
        self.chores, self.days, self.weights, self.asked = list(chores), list(days), weights, asked
        each = [steps_of(chore, days, weights, asked) for chore in chores]
        self.steps, self.set_back = np.stack([one for one, _ in each]), np.stack([one for _, one in each])
        row = {chore.key: t for t, chore in enumerate(chores)}
        self.covered = [[row[key] for key in chore.covers if key in row] for chore in chores]
        self.coverers = [[r for r, some in enumerate(self.covered) if t in some] for t in range(len(chores))]
        self.effort = np.array([chore.effort_min for chore in chores], dtype=np.float64)
        self.own = np.stack([stays(chore, days, asked) for chore in chores])
        self.most = np.array([day.most for day in days])
        self.shared = [self._visits(), *self._machines(), *self._openings()]
        self.of = [[n for n, one in enumerate(self.shared) if t in set(one.members)] for t in range(len(chores))]
        self.missed = np.zeros((len(chores), len(days)))
        for t, chore in enumerate(chores):
            if chore.missed:
                self.missed[t] = [chore.missed[day.index] * weights.wait_min for day in days]
        self.wet = {machine: [t for t in rows if chores[t].missed] for machine, rows in self._by_machine().items()}

    def _by_machine(self) -> dict[UUID, list[int]]:
        made: dict[UUID, list[int]] = {}
        for t, chore in enumerate(self.chores):
            made.setdefault(chore.key.machine_id, []).append(t)
        return made

    def _visits(self) -> Shared:
        """A visit on a day of the last plan weighs nothing again: somebody counts on it."""
        before = {day for each in self.asked.before.values() for day in each}
        weighs = np.array([0.0 if day.date in before else self.weights.visit_min for day in self.days])
        return Shared(np.arange(len(self.chores)), weighs)

    def _machines(self) -> list[Shared]:
        each = np.full(len(self.days), self.weights.machine_min)
        return [Shared(np.array(rows), each) for rows in self._by_machine().values()]

    def _openings(self) -> list[Shared]:
        ways: dict[tuple[UUID, str], list[int]] = {}
        for t, chore in enumerate(self.chores):
            if chore.opening:
                ways.setdefault((chore.key.machine_id, chore.opening), []).append(t)
        takes = [(np.array(rows), self.chores[rows[0]].opening_min) for rows in ways.values()]
        return [Shared(rows, np.full(len(self.days), minutes), minutes) for rows, minutes in takes]

    # --- What a plan weighs --------------------------------------------------------------------------------------

    def weigh(self, on: On) -> float:
        """What a plan weighs in all [min]."""
        total = sum(self._way_weighs(t, on) for t in range(len(self.chores)))
        total += sum(float(one.weighs[on[one.members].any(axis=0)].sum()) for one in self.shared)
        total += OVER_FULL * float(np.maximum(0, self.load(on) - self.most).sum())
        for rows in self.wet.values():
            if rows:
                total += float((self.missed[rows] * on[rows]).max(axis=0).sum())
        return total

    def load(self, on: On) -> Floats:
        """Hands-on minutes of each day [min]."""
        load: Floats = self.effort @ on
        for one in self.shared:
            if one.minutes:
                load = load + one.minutes * on[one.members].any(axis=0)
        return load

    def _way_weighs(self, t: int, plan: On) -> float:
        given = self.given(t, plan)
        steps = with_days_given(self.steps[t], self.set_back[t], given) if given.any() else self.steps[t]
        nodes = [0, *nodes_of(plan[t] | given), len(self.days) + 1]
        twice = float(self.effort[t]) * int((plan[t] & given).sum())
        return twice + float(steps[nodes[:-1], nodes[1:]].sum()) + float(self.own[t][plan[t]].sum())

    def given(self, t: int, plan: On) -> On:
        """The days on which something else sets a chore back."""
        made = np.zeros(len(self.days), dtype=bool)
        for r in self.coverers[t]:
            made |= plan[r]
        return made

    # --- A bound -------------------------------------------------------------------------------------------------

    def bound(self, rounds: int) -> tuple[float, list[On]]:
        """What no plan weighs less than [min], and the ways that the last shares led to, mended so many times."""
        shares = [np.full((len(one.members), len(self.days)), 1 / len(one.members)) for one in self.shared]
        price = np.zeros(len(self.days))  # of a minute, where a day is short of them
        best, seen = -np.inf, list[On]()
        alone = self._waits_alone()
        covered = np.array([bool(some) for some in self.coverers])
        given = np.where(covered[:, None], 0.5 * self.effort[:, None], FORBIDDEN) + 0 * self.own
        for n in range(rounds):
            prices = self.own + alone + self.effort[:, None] * price
            for t in np.flatnonzero(covered):
                for r in self.coverers[t]:
                    prices[r] -= given[t]
            for one, share in zip(self.shared, shares, strict=True):
                prices[one.members] += share * (one.weighs + one.minutes * price)
            reached, on, free = best_ways(self.steps, prices, self.set_back, given)
            best = max(best, float(reached.sum() - (price * self.most).sum()))
            rate = 2.0 / (1 + n / 12)
            for t in np.flatnonzero(covered):
                there = on[self.coverers[t]].sum(axis=0)
                given[t] = np.clip(given[t] + 0.5 * rate * (free[t].astype(int) - there), 0, None)
            for one, share in zip(self.shared, shares, strict=True):
                share *= np.exp(rate * on[one.members])
                share /= share.sum(axis=0)
            load = self.effort @ on + sum(one.minutes * on[one.members].any(axis=0) for one in self.shared)
            price = np.clip(price + 0.02 * rate * (load - self.most), 0, OVER_FULL)
            if n >= rounds - 8 and n % 2:
                seen.append(on)
        return best, seen

    def _waits_alone(self) -> Floats:
        """What waiting weighs at least for each chore: what the parts of a machine that dry share."""
        alone = np.zeros_like(self.missed)
        for rows in self.wet.values():
            for t in rows:
                alone[t] = self.missed[t] / len(rows)
        return alone

    def as_before(self) -> On:
        """The last plan, as far as its days are there."""
        at = {day.date: p for p, day in enumerate(self.days)}
        on = np.zeros((len(self.chores), len(self.days)), dtype=bool)
        for t, chore in enumerate(self.chores):
            on[t, [at[day] for day in self.asked.before.get(chore.key, ()) if day in at]] = True
        return on

    # --- A plan --------------------------------------------------------------------------------------------------

    def settle(self, on: On, passes: Sequence[bool], closed: Sequence[int] = ()) -> On:
        """Put chores one after another where they add least, pass by pass: sharing fairly (True), or as it falls; on no
        day that is closed.
        """
        place = _Placing(self, on.copy(), closed)
        for fair in passes:
            for t in self._order():
                place.again(t, fair=fair)
        return place.on

    def mend(self, on: On) -> On:
        """A plan as it was but for chores that stand so badly in it that moving them is worth it."""
        place = _Placing(self, on.copy())
        for _ in range(2):
            for t in self._order():
                place.again(t, fair=False, keeps=MEND_MIN)
        return place.on

    def _order(self) -> list[int]:
        """Chores that set others back first, then those that weigh most when nobody does them."""
        return sorted(range(len(self.chores)), key=lambda t: (-len(self.covered[t]), -self.steps[t, 0, -1], t))

    def spare_days(self, on: On) -> On:
        """Without visits that are worth less than they weigh: each tried, the fullest last."""
        best, weighs = on, self.weigh(on)
        for p in np.argsort(self.effort @ on, kind="stable"):
            rows = np.flatnonzero(best[:, p])
            if not len(rows):
                continue
            place = _Placing(self, best.copy(), [int(p)])
            for t in sorted(map(int, rows), key=lambda t: -len(self.covered[t])):
                place.again(t, fair=False)
                for c in self.covered[t]:
                    place.again(c, fair=False)
            other = self.weigh(place.on)
            if other < weighs - 1e-6:
                best, weighs = place.on, other
        return best


class _Placing:
    """A plan in which one chore after another is placed anew."""

    def __init__(self, joint: Joint, on: On, closed: Sequence[int] = ()) -> None:
        self.joint, self.on = joint, on
        self._closed = list(closed)
        self._users = [on[one.members].sum(axis=0) for one in joint.shared]
        self._load = joint.effort @ on
        for one, users in zip(joint.shared, self._users, strict=True):
            self._load = self._load + one.minutes * (users > 0)

    def again(self, t: int, *, fair: bool, keeps: float = 0.0) -> None:
        """Take a chore out and put it where it adds least; back where it was unless that adds so much more [min]."""
        before = self.on[t].copy()
        self._put(t, np.zeros(len(self.joint.days), dtype=bool))
        price = self._price(t, fair=fair)
        price[self._closed] += FORBIDDEN
        given = self.joint.given(t, self.on)
        steps = self.joint.steps[t]
        if given.any():
            steps = with_days_given(steps, self.joint.set_back[t], given)
            price = np.where(given, 0.0, price)
        weighs, days = best_way(steps, price)
        if keeps and way_weighs(steps, price, before | given) <= weighs + keeps:
            self._put(t, before & ~given)
            return
        on = np.zeros(len(self.joint.days), dtype=bool)
        on[days] = True
        self._put(t, on & ~given)

    def _put(self, t: int, on: NDArray[np.bool_]) -> None:
        joint = self.joint
        change = on.astype(int) - self.on[t]
        self._load = self._load + joint.effort[t] * change
        for n in joint.of[t]:
            before = self._users[n] > 0
            self._users[n] = self._users[n] + change
            self._load = self._load + joint.shared[n].minutes * ((self._users[n] > 0).astype(int) - before)
        self.on[t] = on

    def _price(self, t: int, *, fair: bool) -> Floats:
        joint = self.joint
        price, takes = joint.own[t].copy(), np.full(len(joint.days), float(joint.effort[t]))
        for n in joint.of[t]:
            one, users = joint.shared[n], self._users[n]
            price += one.weighs / (users + 1) if fair else np.where(users > 0, 0.0, one.weighs)
            takes += one.minutes * (users == 0)
        over = np.maximum(0, self._load - joint.most)
        price += OVER_FULL * (np.maximum(0, self._load + takes - joint.most) - over)
        priced: Floats = price + self._waiting(t)
        return priced

    def _waiting(self, t: int) -> Floats:
        joint = self.joint
        if not joint.missed[t].any():
            return np.zeros(len(joint.days))
        rows = [n for n in joint.wet[joint.chores[t].key.machine_id] if n != t]
        others = (joint.missed[rows] * self.on[rows]).max(axis=0) if rows else 0.0
        waits: Floats = np.maximum(0, joint.missed[t] - others)
        return waits
