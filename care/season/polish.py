"""All chores of a stretch of days in one programme: it betters a plan that is good already.

Each chore takes one way through the stretch, from its last time before it to its next after it; what chores share is
paid once. The same question gives the same answer: one worker, a fixed seed, a limit in the solver's own steps.
"""

from itertools import combinations, pairwise
from typing import Any

import numpy as np

from care.season.search import OVER_FULL, Joint, On
from care.season.ways import TOO_SOON, nodes_of

SEED = 20261127
LONGEST_S = 30.0
"""A stop for a machine that stands still [s]."""
TENTHS = 10
"""Weights are whole tenths of a minute."""


def polish(joint: Joint, on: On, free: On, effort: float) -> On:
    """A plan at least as good as `on` that differs from it only where it is `free` to (chore, day)."""
    return _Programme(joint, on, free).solve(effort)


class _Programme:
    def __init__(self, joint: Joint, on: On, free: On) -> None:
        from ortools.sat.python import cp_model  # late: it takes seconds to load

        self._cp: Any = cp_model
        self._model: Any = cp_model.CpModel()
        linked = np.array([bool(a or b) for a, b in zip(joint.covered, joint.coverers, strict=True)])
        free = free & ~linked[:, None]  # what sets others back stays where it is
        self._joint, self._on, self._free = joint, on, free
        self._terms: list[tuple[int, Any]] = []
        self._x: dict[tuple[int, int], Any] = {}
        for t in range(len(joint.chores)):
            if free[t].any():
                self._ways(t)
        for p in np.flatnonzero(free.any(axis=0)):
            self._day(int(p))

    def _ways(self, t: int) -> None:
        """One way for a chore, through every day that it keeps."""
        steps, n = self._joint.steps[t], len(self._joint.days)
        kept = [0, *nodes_of(self._on[t]), n + 1]
        taken = set(pairwise(kept))
        nodes = [0, *nodes_of(self._on[t] | self._free[t]), n + 1]
        must = [p for p in kept if p in (0, n + 1) or not self._free[t, p - 1]]
        into: dict[int, list[Any]] = {}
        out: dict[int, list[Any]] = {}
        for begin, end in pairwise(must):
            inside = [p for p in nodes if begin <= p <= end]
            if len(inside) == 2:
                continue  # nothing is free between them
            for i, j in combinations(inside, 2):
                if steps[i, j] < TOO_SOON or (i, j) in taken:
                    step = self._var((i, j) in taken)
                    out.setdefault(i, []).append(step)
                    into.setdefault(j, []).append(step)
                    self._weigh(step, float(steps[i, j]))
            self._model.add_exactly_one(out[begin])
            self._model.add_exactly_one(into[end])
        for p in nodes_of(self._free[t]):
            if p in into or p in out:
                x = self._var(bool(self._on[t, p - 1]))
                self._model.add(sum(into.get(p, [])) == x)
                self._model.add(sum(out.get(p, [])) == x)
                self._x[t, p - 1] = x
                self._weigh(x, float(self._joint.own[t, p - 1]))

    def _day(self, p: int) -> None:
        """What chores share on a day, and its minutes; what stays as it is is paid already."""
        joint = self._joint
        mine = [t for t in range(len(joint.chores)) if (t, p) in self._x]
        stays = [t for t in np.flatnonzero(self._on[:, p]) if (int(t), p) not in self._x]
        takes = [(self._x[t, p], _tenths(joint.effort[t])) for t in mine]
        load = _tenths(float(joint.effort[stays].sum()))
        for one in joint.shared:
            users = [t for t in mine if t in one.all]
            if any(t in one.all for t in stays):
                load += _tenths(one.minutes)
            elif users:
                used = self._any([self._x[t, p] for t in users], any(self._on[t, p] for t in users))
                self._weigh(used, float(one.weighs[p]))
                takes.append((used, _tenths(one.minutes)))
        self._minutes(takes, _tenths(joint.most[p]) - load, _tenths(joint.load(self._on)[p]) - load)
        for rows in joint.wet.values():
            self._waits(p, [t for t in rows if (t, p) in self._x], [t for t in rows if t in stays])

    def _minutes(self, takes: list[tuple[Any, int]], room: int, now: int) -> None:
        if sum(minutes for _, minutes in takes) <= room:
            return
        more = self._model.new_int_var(0, sum(minutes for _, minutes in takes) + max(0, -room), "")
        self._model.add_hint(more, max(0, now - room))
        self._model.add(sum(x * minutes for x, minutes in takes) <= room + more)
        self._terms.append((round(OVER_FULL), more))

    def _waits(self, p: int, rows: list[int], stays: list[int]) -> None:
        """Runs that a machine misses: of several parts that dry side by side the longest tells."""
        missed = self._joint.missed
        reached = max((float(missed[t, p]) for t in stays), default=0.0)
        for level in sorted(level for t in rows if (level := float(missed[t, p])) > reached):
            if level == reached:
                continue
            some = [t for t in rows if missed[t, p] >= level]
            self._weigh(self._any([self._x[t, p] for t in some], any(self._on[t, p] for t in some)), level - reached)
            reached = level

    def _var(self, so: bool) -> Any:
        made = self._model.new_bool_var("")
        self._model.add_hint(made, so)
        return made

    def _any(self, some: list[Any], so: bool) -> Any:
        if len(some) == 1:
            return some[0]
        made = self._var(so)
        for one in some:
            self._model.add_implication(one, made)
        return made

    def _weigh(self, what: Any, minutes: float) -> None:
        if _tenths(minutes):
            self._terms.append((_tenths(minutes), what))

    def solve(self, effort: float) -> On:
        self._model.minimize(sum(weight * what for weight, what in self._terms))
        solver = self._cp.CpSolver()
        solver.parameters.num_workers = 1
        solver.parameters.random_seed = SEED
        solver.parameters.linearization_level = 2
        solver.parameters.max_deterministic_time = effort
        solver.parameters.max_time_in_seconds = LONGEST_S
        if solver.solve(self._model) not in (self._cp.OPTIMAL, self._cp.FEASIBLE):
            return self._on
        made = self._on.copy()
        for (t, p), x in self._x.items():
            made[t, p] = solver.boolean_value(x)
        return made if self._joint.weigh(made) < self._joint.weigh(self._on) else self._on


def _tenths(minutes: float) -> int:
    return round(minutes * TENTHS)
