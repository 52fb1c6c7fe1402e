"""What to look at next: the probe after which the fewest minutes are still to be expected, with its bits per minute.

The minutes to go after an answer are those of going down the proofs in their best order, likeliest per minute first;
so halving tests, free questions and the cheapest proof of the likeliest are weighed in one measure.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from care.kinds import Skill
from care.trace.case import Answered, Case, Cured, Retested
from care.trace.inference import Belief
from care.trace.likelihood import Array, States
from care.trace.subject import Probe

SWITCH_MIN = 0.5
"""Making the machine safe, or ready to run again, between looks and live tests [min]."""
WAITING = 0.1
"""What a minute of waiting costs beside one of work: other checks go on meanwhile [-]."""
GIVE_UP_MIN = 30.0
"""What not finding a fault costs: all looks in vain and a way to the repairer [min]. The same for all, so that it
tells probes apart only by what they miss."""
WORTH = 0.02
"""A probe that proves less than this and tells fewer bits is not worth a minute [-]."""


Door = tuple[float, NDArray[np.bool_]]
"""An opening: its minutes, and which probes lie behind it."""


@dataclass(frozen=True, slots=True)
class Bench:
    """How the machine stands: which openings are undone, and whether it is safe to touch."""

    undone: frozenset[str] = frozenset()
    safe: bool = False

    def after(self, probe: Probe) -> "Bench":
        """How it stands once `probe` was made: a live test needs it closed."""
        if probe.check.hands_off:
            return self
        if probe.check.live:
            return Bench()
        return Bench(self.undone | ({probe.door} if probe.door else frozenset()), True)

    def minutes(self, probe: Probe) -> float:
        """Hands-on minutes of `probe` from here, openings that are undone already free [min]."""
        if probe.check.hands_off:
            return probe.check.minutes
        live = bool(probe.check.live)
        turn = SWITCH_MIN if live == self.safe or not (live or self.safe) else 0.0
        undo = probe.opening.setup_min if probe.opening and probe.door not in self.undone else 0.0
        return probe.check.minutes + turn + undo


def bench(case: Case) -> Bench:
    """How the machine stands after all that was done; after a re-test it is closed."""
    now = Bench()
    for event in case.events:
        if isinstance(event, Answered):
            now = now.after(case.subject.probe(event.probe))
        elif isinstance(event, Retested):
            now = Bench()
    return now


@dataclass(frozen=True, slots=True)
class Next:
    """A probe that may come next: its minutes, the bits it tells on average, and the minutes then still to go.

    `proof` is the chance that its answer proves a fault, `of` the likeliest one that it would prove. `gates` are
    the cautions that come before it, by their keys. `again` tells that it was answered before.
    """

    probe: Probe
    minutes: float
    wait_min: float
    bits: float
    to_go: float
    proof: float
    of: str | None
    gates: tuple[str, ...]
    again: bool = False

    @property
    def worth_it(self) -> bool:
        """Whether it tells enough to be made at all."""
        return self.proof >= WORTH or self.bits >= WORTH

    @property
    def bits_per_minute(self) -> float:
        """What it tells for its time [bit/min]."""
        return self.bits / self.minutes

    @property
    def why(self) -> str:
        """The chief reason for it: it proves, it divides, or it costs next to nothing."""
        if self.again:
            return "again"
        if self.proof >= 0.3:
            return "proof"
        if self.probe.proves_nothing:
            return "free" if self.probe.check.hands_off else "halves"
        return "opened" if self.probe.door and self.minutes < self.probe.opening_min else "cheap"


class Ranking:
    """Weighs the probes of a case against each other from one belief, for somebody who goes as far as `skill`."""

    def __init__(self, belief: Belief, skill: Skill = Skill.STRIP_DOWN) -> None:
        self.belief, self.states = belief, belief.states
        self.case = belief.case
        self.stands = bench(self.case)
        within = [p for p in self.case.subject.probes if self._possible(p, skill)]
        self.open = [p for p in within if p.key not in self.case.asked]
        self.done = [p for p in within if p.key in self.case.asked]
        self._search = _Search(self.states, self.open)

    def best(self, count: int | None = None) -> list[Next]:
        """The open probes worth their time, the fewest minutes to go first; behind them those that are not."""
        ranked = sorted((self._weigh(p, self.belief.now) for p in self.open), key=lambda n: n.to_go)
        worth = [n for n in ranked if n.worth_it]
        return [*worth, *(n for n in ranked if not n.worth_it)][:count]

    def again(self) -> list[Next]:
        """Checks made already, weighed as if their answer had not been given: where a second look pays most."""
        weighed = [self._weigh(p, self.belief.without(p.key)) for p in self.done]
        return sorted((replace(n, again=True) for n in weighed), key=lambda n: -n.proof / n.minutes)

    def _possible(self, probe: Probe, skill: Skill) -> bool:
        """Whether it can be made: no test of a machine that stands still, no opening beyond what somebody does."""
        symptoms = map(self.case.subject.symptom, self.case.symptoms)
        still = bool(probe.check.live) and any(symptom.stands_still for symptom in symptoms)
        return not still and (probe.opening is None or skill.reaches(probe.opening.skill))

    def _weigh(self, probe: Probe, belief: Array) -> Next:
        joint = self.states.answers(probe) * belief[:, None]  # (states, answers)
        chances = joint.sum(axis=0)
        told, then = self.belief.causes(belief), self.belief.causes((joint / chances).T)
        bits = float(_entropy(told) - chances @ _entropy(then))
        proven = (then * self.states.proven(probe)).sum(axis=1)
        left = self._search.to_go(then, probe, self.stands.after(probe)) * (1 - np.clip(proven, 0.0, 1.0))
        minutes = self.stands.minutes(probe)
        cost = minutes + WAITING * probe.check.wait_min
        each = told * self.states.proofs(probe)
        return Next(
            probe,
            minutes,
            probe.check.wait_min,
            max(bits, 0.0),
            cost + float(chances @ left),
            float(min(each.sum(), 1.0)),
            self.case.subject.suspects[int(each.argmax())].key if each.any() else None,
            tuple(self._gates(probe)),
        )

    def _gates(self, probe: Probe) -> list[str]:
        """The cautions to be acknowledged first: how it is made safe, or the limits of a live test; then those of it."""
        check = probe.check
        first = [check.live] if check.live else []
        if not check.live and not check.hands_off and not self.stands.safe:
            kind = self.case.subject.dock if probe.at.role else self.case.subject.machine
            first = [(kind or self.case.subject.machine).make_safe]
        opened = probe.opening.cautions if probe.opening and probe.door not in self.stands.undone else ()
        return [*first, *opened, *check.cautions]


class _Search:
    """Going down all proofs in their best order, for many beliefs at once: arrays over the probes that prove something."""

    def __init__(self, states: States, probes: Sequence[Probe]) -> None:
        self.probes = [p for p in probes if states.proofs(p).any()]
        self._number = {p.key: i for i, p in enumerate(self.probes)}
        self._proofs = np.array([states.proofs(p) for p in self.probes]).reshape(-1, states.count)
        live = np.array([2 * SWITCH_MIN * bool(p.check.live) for p in self.probes])
        self._own = np.array([p.check.minutes + WAITING * p.check.wait_min for p in self.probes]) + live
        doors: dict[str, tuple[float, list[bool]]] = {}
        for probe in self.probes:
            if probe.opening and probe.door:
                doors[probe.door] = (probe.opening.setup_min, [p.door == probe.door for p in self.probes])
        self._doors = {door: (minutes, np.array(behind)) for door, (minutes, behind) in doors.items()}

    def to_go(self, causes: Array, done: Probe, stands: Bench) -> Array:
        """The minutes still to be expected for each belief (answers, suspects) once `done` was made [min]."""
        if not self.probes:
            return np.full(len(causes), GIVE_UP_MIN)
        found = causes @ self._proofs.T  # (answers, probes)
        if done.key in self._number:
            found[:, self._number[done.key]] = 0.0
        shut = [door for name, door in self._doors.items() if name not in stands.undone]
        order = np.argsort(-found / self._weighed(found, shut), axis=1)
        paid = np.cumsum(self._in_turn(order, shut), axis=1)
        caught = np.take_along_axis(found, order, axis=1)
        hits = np.clip(np.minimum(caught, 1 - np.cumsum(caught, axis=1) + caught), 0.0, 1.0)
        missed = np.clip(1 - hits.sum(axis=1), 0.0, 1.0)
        to_go: Array = (hits * paid).sum(axis=1) + missed * GIVE_UP_MIN
        return to_go if stands.safe else to_go + SWITCH_MIN

    def _weighed(self, found: Array, shut: list[Door]) -> Array:
        """What each probe costs beside the others (answers, probes) [min].

        What must be undone is undone once for all behind it: each bears as much of it as it is likely to find there.
        """
        costs = np.tile(self._own, (len(found), 1))
        for minutes, behind in shut:
            there = found * behind
            costs += minutes * there / np.maximum(there.sum(axis=1, keepdims=True), 1e-12)
        return costs

    def _in_turn(self, order: NDArray[np.intp], shut: list[Door]) -> Array:
        """What each probe costs in turn (answers, turns) [min]: the first behind an opening undoes it."""
        costs: Array = self._own[order]
        rows = np.arange(len(order))
        for minutes, behind in shut:
            costs[rows, behind[order].argmax(axis=1)] += minutes
        return costs


def _entropy(causes: Array) -> Array:
    """What is not known of the cause [bit]; what is left of 1 is that nothing is wrong any more."""
    rest = 1 - causes.sum(axis=-1, keepdims=True)
    p = np.clip(np.concatenate([causes, rest], axis=-1), 1e-9, 1.0)
    bits: Array = -(p * np.log2(p)).sum(axis=-1)
    return bits


def since_cure(case: Case) -> bool:
    """Whether something was put right and not tried since."""
    last = [e for e in case.events if isinstance(e, Cured | Retested)]
    return bool(last) and isinstance(last[-1], Cured)
