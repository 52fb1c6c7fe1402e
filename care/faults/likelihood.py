"""How likely each symptom and each answer is, for nothing wrong, for one fault and for every pair of faults.

What is looked at combines by noisy-OR: each fault, and chance, may cause an answer by itself. What the air tells is
solved for both faults together. Arrays run over `States`.
"""

from collections.abc import Iterable, Sequence
from functools import cached_property
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from care.faults.airflow import Air, AirPath
from care.faults.book import Check, Outcome, Symptom, Tells
from care.faults.effects import LEAST, Sign
from care.faults.signs import sign
from care.faults.subject import DOCK, Probe, Subject, Suspect, is_here

Array = NDArray[np.float64]
ANY = "any"
OTHER = "other"
"""The fault that stands for all that is not listed."""
MISTAKEN = 0.05
"""How often somebody tells what is not so, whatever they look at [-]: any other answer is as likely then."""
LOOSE = 0.1
"""How often a machine's own message comes up when it does not mean what it says [-]."""


class States:
    """All hypotheses of a subject: nothing wrong, one suspect, two; with what each says of symptoms and answers.

    State 0 is nothing; `first` and `second` give the suspects of each as indices, `count` (one past the last) for none.
    """

    def __init__(self, subject: Subject) -> None:
        self.subject = subject
        self.count = len(subject.suspects)
        pairs = np.array([(i, j) for i in range(self.count) for j in range(i + 1, self.count)], dtype=np.intp)
        none = np.array([[self.count, self.count]], dtype=np.intp)
        singles = np.array([(i, self.count) for i in range(self.count)], dtype=np.intp)
        table = np.concatenate([none, singles, pairs.reshape(-1, 2)])
        self.first, self.second = table[:, 0], table[:, 1]
        self.index = {suspect.key: i for i, suspect in enumerate(subject.suspects)}
        self._answers: dict[str, Array] = {}
        self._symptoms: dict[str, Array] = {}
        self._proofs: dict[str, Array] = {}
        self._air: dict[tuple[str, tuple[int, ...]], Air] = {}

    def __len__(self) -> int:
        return len(self.first)

    @cached_property
    def holds(self) -> NDArray[np.bool_]:
        """Which suspects are in which state: (suspects, states)."""
        every = np.arange(self.count)[:, None]
        held: NDArray[np.bool_] = (self.first == every) | (self.second == every)
        return held

    @cached_property
    def without(self) -> NDArray[np.intp]:
        """The state that is left of each when a suspect is cured: (suspects, states); itself where it was not in it."""
        place = {pair: i for i, pair in enumerate(zip(self.first.tolist(), self.second.tolist(), strict=True))}
        left = np.tile(np.arange(len(self)), (self.count, 1))
        for state, (a, b) in enumerate(zip(self.first.tolist(), self.second.tolist(), strict=True)):
            if a < self.count:
                left[a, state] = place[(b, self.count)]
            if b < self.count:
                left[b, state] = place[(a, self.count)]
        return left

    def prior(self, odds: Array) -> Array:
        """The chance of each state from the odds of each suspect, each by itself; at least one is there."""
        padded = np.append(odds, 1.0)
        weight: Array = padded[self.first] * padded[self.second]
        weight[0] = 0.0
        weight /= weight.sum()
        return weight

    def marginals(self, belief: Array) -> Array:
        """The chance of each suspect under a belief over states; for several beliefs (…, states) each."""
        marginal: Array = belief @ self.holds.T.astype(float)
        return marginal

    def blame(self, symptoms: Sequence[Symptom]) -> Array:
        """Whose doing the `symptoms` are in each state: (suspects, states), each state's shares at most 1.

        Each of two faults, and chance, takes its share by how likely it alone would show them all; what chance takes
        goes to what is not listed, if that can be.
        """
        normal = np.prod([symptom.normal for symptom in symptoms]) if symptoms else 0.0
        alone = np.ones(self.count + 1)
        for symptom in symptoms:
            alone *= symptom.normal + self._by_itself(symptom)
        excess = alone - normal
        mine, other = excess[self.first], excess[self.second]
        whole = np.maximum(mine + other + normal, 1e-12)
        shares = np.zeros((self.count + 1, len(self)))
        every = np.arange(len(self))
        shares[self.first, every] += mine / whole
        shares[self.second, every] += other / whole
        for unlisted in (i for i, s in enumerate(self.subject.suspects) if s.fault.key == OTHER):
            shares[unlisted] += normal / whole
        shares[:, 0] = 0.0
        return shares[:-1]

    def _by_itself(self, symptom: Symptom) -> Array:
        """How likely each suspect alone, chance left out, shows `symptom`: (suspects and none,)."""
        reported = np.array([_reported(suspect, symptom) for suspect in self.subject.suspects] + [0.0])
        felt = np.zeros(self.count + 1)
        if symptom.solved and not (symptom.solved.only_pulsing and not self._pulses):
            chance = self._felt_as(symptom)
            felt[:-1] = np.clip(chance[1 : self.count + 1] - chance[0], 0.0, 1.0)
        by_itself: Array = symptom.trust * (1 - (1 - reported) * (1 - felt))
        return by_itself

    def shows(self, symptom: Symptom) -> Array:
        """The chance that each state shows `symptom`."""
        if symptom.key not in self._symptoms:
            self._symptoms[symptom.key] = self._shown(symptom)
        return self._symptoms[symptom.key]

    def answers(self, probe: Probe) -> Array:
        """The chance of each answer to `probe` in each state: (states, answers)."""
        if probe.key not in self._answers:
            table = self._solved(probe.check) if probe.check.sign else self._looked(probe)
            if probe.check.sign and probe.check.tells:
                table = _whichever(table, self._looked(probe))
            if not probe.check.sign:
                table = (1 - MISTAKEN) * table + MISTAKEN * (1 - table) / (table.shape[1] - 1)
            floored = np.maximum(table, LEAST)
            self._answers[probe.key] = floored / floored.sum(axis=1, keepdims=True)
        return self._answers[probe.key]

    def proofs(self, probe: Probe) -> Array:
        """How often `probe` proves each suspect that is there: (suspects,)."""
        if probe.key not in self._proofs:
            tells = [_proof(suspect, probe) for suspect in self.subject.suspects]
            self._proofs[probe.key] = np.array([tell.p if tell else 0.0 for tell in tells])
        return self._proofs[probe.key]

    def _shown(self, symptom: Symptom) -> Array:
        alone = np.array([_reported(suspect, symptom) for suspect in self.subject.suspects] + [0.0])
        missed: Array = (1 - symptom.normal) * (1 - alone[self.first]) * (1 - alone[self.second])
        if symptom.solved and not (symptom.solved.only_pulsing and not self._pulses):
            missed = missed * (1 - self._felt_as(symptom))
        meant: Array = symptom.trust * (1 - missed) + (1 - symptom.trust) * LOOSE
        return np.clip(meant, LEAST, 1 - LEAST)

    def _felt_as(self, symptom: Symptom) -> Array:
        """The chance that the air of each state is felt as `symptom`."""
        solved = symptom.solved
        assert solved is not None
        above = _above(self._sign(solved.sign, symptom.of_dock), solved.limit, solved.sd)
        return above if solved.above else 1 - above

    @property
    def _pulses(self) -> bool:
        path = self.subject.air.get("")
        return path is not None and path.fan.pulses

    def _looked(self, probe: Probe) -> Array:
        """Three causes of an answer, each by itself: either fault, or chance; where several are seen, any is told."""
        outcomes = probe.check.outcomes
        tells = np.zeros((self.count + 1, len(outcomes)))
        for i, suspect in enumerate(self.subject.suspects):
            for o, outcome in enumerate(outcomes):
                tells[i, o] = _told(suspect, probe, outcome)
        chance = np.array([o.base for o in outcomes])
        chance[0] = 0.0
        tells[:, 0] = 0.0
        return _either(tells[self.first], tells[self.second], np.broadcast_to(chance, (len(self), len(outcomes))))

    def _solved(self, check: Check) -> Array:
        """The chance of each answer from the air: the share of what is felt that lies between its limits."""
        assert check.sign is not None
        felt = self._sign(check.sign, check.of_dock)
        limits = [o.at_least for o in check.outcomes if o.at_least is not None]
        over = [np.zeros(len(self)), *(_above(felt, limit, check.sd) for limit in limits), np.ones(len(self))]
        chances = np.stack([high - low for low, high in pairwise(over)], axis=1)
        return (1 - check.misjudged) * chances + check.misjudged / len(check.outcomes)

    def _sign(self, which: Sign, of_dock: bool) -> Array:
        """What the air does in each state, beside the clean machine."""
        role = DOCK if of_dock else ""
        felt = np.ones(len(self))
        clean = self.subject.air.get(role)
        if clean is not None:
            as_ever = self._air.setdefault((role, ()), Air(clean))
            for state, both in enumerate(self._disturbed(role)):
                if both:
                    felt[state] = sign(which, self._air_of(role, clean, both), as_ever)
        return felt

    def _disturbed(self, role: str) -> list[tuple[int, ...]]:
        """Of each state, its suspects that do something to the air of `role`'s path."""
        does = {i for i, suspect in enumerate(self._effects(role)) if suspect}
        return [
            tuple(i for i in (a, b) if i in does)
            for a, b in zip(self.first.tolist(), self.second.tolist(), strict=True)
        ]

    def _air_of(self, role: str, clean: AirPath, both: tuple[int, ...]) -> Air:
        """The air of a path with these suspects on it, made once."""
        if (role, both) not in self._air:
            self._air[role, both] = Air(_with(clean, [self.subject.suspects[i] for i in both]))
        return self._air[role, both]

    def _effects(self, role: str) -> list[Suspect | None]:
        """Each suspect that does something to the air of `role`'s path, None for the others."""
        mine = {"", DOCK} if self.subject.machine.serves else {role}  # a dock by itself is its own machine
        return [s if s.fault.air and s.at.role in mine else None for s in self.subject.suspects]


def chance_felt(symptom: Symptom, air: Air, clean: Air) -> float:
    """The chance that this air is noticed as `symptom`, which the air tells [-]; never on a machine that cannot."""
    solved = symptom.solved
    assert solved is not None
    if solved.only_pulsing and not clean.path.fan.pulses:
        return 0.0
    above = float(_above(np.array([sign(solved.sign, air, clean)]), solved.limit, solved.sd)[0])
    return above if solved.above else 1 - above


def _with(clean: AirPath, suspects: Iterable[Suspect]) -> AirPath:
    path = clean
    for suspect in suspects:
        if suspect.fault.air is not None:
            path = path.changed(_place(path, suspect), suspect.fault.air)
    return path


def _place(path: AirPath, suspect: Suspect) -> str:
    """The key of the place its effect is at."""
    if suspect.sits:
        return next(p.key for p in (*path.before, *path.behind) if p.column == suspect.sits)
    return suspect.at.station.key if suspect.at.station else ""


def _reported(suspect: Suspect, symptom: Symptom) -> float:
    shown = {s.symptom: s.p for s in suspect.fault.shows}
    return shown.get(symptom.key, shown.get(ANY, 0.0))


def _told(suspect: Suspect, probe: Probe, outcome: Outcome) -> float:
    """The chance that `suspect` gives `outcome`; nothing where it lies elsewhere than where is looked."""
    for tell in probe.check.tells:
        if tell.fault == suspect.fault.key and tell.says == outcome.key and (tell.anywhere or is_here(suspect, probe)):
            return tell.p
    return 0.0


def told_by(suspect: Suspect, probe: Probe, says: str) -> float:
    """The chance that `suspect` by itself gives the answer `says` to a probe [-]."""
    return next((_told(suspect, probe, one) for one in probe.check.outcomes if one.key == says), 0.0)


def _proof(suspect: Suspect, probe: Probe) -> Tells | None:
    for tell in probe.check.tells:
        if tell.proves and tell.fault == suspect.fault.key and (tell.anywhere or is_here(suspect, probe)):
            return tell
    return None


def proves(suspect: Suspect, probe: Probe) -> str | None:
    """The answer to `probe` that proves `suspect`, if there is one."""
    tell = _proof(suspect, probe)
    return tell.says if tell else None


def stops(suspect: Suspect, probe: Probe) -> bool:
    """Whether nobody goes on once `probe` has proven `suspect`."""
    tell = _proof(suspect, probe)
    return tell is not None and tell.stops


def _above(felt: Array, limit: float, sd: float) -> Array:
    """The chance that what is felt, to within `sd`, is over `limit`."""
    from scipy.special import ndtr

    chance: Array = ndtr((felt - limit) / sd)
    return chance


def _either(a: Array, b: Array, c: Array) -> Array:
    """The chance of each answer from three causes that act alone; where several do, each is told as often."""
    rest = [x.sum(axis=1, keepdims=True) for x in (a, b, c)]
    chances = np.zeros_like(a)
    for mine, one, other in ((a, rest[1], rest[2]), (b, rest[0], rest[2]), (c, rest[0], rest[1])):
        either = (one * (1 - other) + other * (1 - one)) / 2
        chances = chances + mine * ((1 - one) * (1 - other) + either + one * other / 3)
    chances[:, 0] = np.clip(1 - chances[:, 1:].sum(axis=1), 0.0, 1.0)
    return chances


def _whichever(solved: Array, looked: Array) -> Array:
    """Two ways to an answer other than the first: it is given where either leads to it."""
    joined: Array = 1 - (1 - solved) * (1 - looked)
    joined[:, 0] = solved[:, 0] * looked[:, 0]
    return np.asarray(joined / joined.sum(axis=1, keepdims=True))
