"""How likely each symptom and each answer is, for nothing wrong, for one fault and for every pair of faults.

What is looked at combines by noisy-OR: each fault, and chance, may cause an answer by itself. What the air tells is
solved for both faults together. Arrays run over `States`.
"""

from collections.abc import Iterable
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from care.faults import LEAST, Check, Outcome, Sign, Symptom, Tells
from care.trace.airflow import AS_EVER, AirPath, signs
from care.trace.subject import DOCK, Probe, Subject, Suspect

Array = NDArray[np.float64]
ANY = "any"
LOOSE = 0.5
"""What a machine's own message is worth when it does not mean what it says: nothing either way."""

MISJUDGED = 0.1
"""How often an ear or a hand is simply wrong about the air [-]: a machine may also be unlike its kind."""


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
        return weight / weight.sum()

    def marginals(self, belief: Array) -> Array:
        """The chance of each suspect under a belief over states; for several beliefs (…, states) each."""
        padded = belief @ self.holds.T.astype(float)
        marginal: Array = padded
        return marginal

    def blame(self, symptoms: Iterable[Symptom]) -> Array:
        """Whose doing the `symptoms` are in each state: (suspects, states), each state's shares adding up to 1.

        Of two faults each takes its share by how likely it alone would show them all.
        """
        alone = np.ones(self.count + 1)
        for symptom in symptoms:
            alone[:-1] *= self.shows(symptom)[1 : self.count + 1]
        alone[-1] = 0.0
        mine, other = alone[self.first], alone[self.second]
        both = np.where(mine + other > 0, mine + other, 1.0)
        shares = np.zeros((self.count + 1, len(self)))
        every = np.arange(len(self))
        shares[self.first, every] += mine / both
        shares[self.second, every] += other / both
        return shares[:-1]

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
            floored = np.maximum(table, LEAST)
            self._answers[probe.key] = floored / floored.sum(axis=1, keepdims=True)
        return self._answers[probe.key]

    def proofs(self, probe: Probe) -> Array:
        """How often `probe` proves each suspect that is there: (suspects,)."""
        if probe.key not in self._proofs:
            told = [_proof(suspect, probe) for suspect in self.subject.suspects]
            self._proofs[probe.key] = np.array([tell.p if tell else 0.0 for tell in told])
        return self._proofs[probe.key]

    def _shown(self, symptom: Symptom) -> Array:
        alone = np.array([_reported(suspect, symptom) for suspect in self.subject.suspects] + [0.0])
        missed = (1 - symptom.normal) * (1 - alone[self.first]) * (1 - alone[self.second])
        if symptom.solved and not (symptom.solved.only_pulsing and not self._pulses):
            solved = symptom.solved
            above = _above(self._sign(solved.sign, symptom.of_dock), solved.limit, solved.sd)
            missed = missed * (1 - (above if solved.above else 1 - above))
        chance = 1 - missed
        meant = symptom.trust * chance + (1 - symptom.trust) * LOOSE
        return np.clip(meant, LEAST, 1 - LEAST)

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
        told = np.stack([high - low for low, high in zip(over, over[1:], strict=False)], axis=1)
        return (1 - MISJUDGED) * told + MISJUDGED / len(check.outcomes)

    def _sign(self, sign: Sign, of_dock: bool) -> Array:
        """What the air does in each state, beside the clean machine."""
        role = DOCK if of_dock else ""
        clean = self.subject.air.get(role)
        if clean is None:
            return np.ones(len(self))
        effects = self._effects(role)
        one: list[AirPath | None] = [_with(clean, [effect]) if effect else None for effect in effects] + [None]
        felt = np.ones(len(self))
        for state, (a, b) in enumerate(zip(self.first.tolist(), self.second.tolist(), strict=True)):
            both = [effects[i] for i in (a, b) if i < self.count and effects[i]]
            if both:
                path = one[a] if one[b] is None else one[b] if one[a] is None else _with(clean, both)
                felt[state] = getattr(signs(path, clean) if path else AS_EVER, sign)
        return felt

    def _effects(self, role: str) -> list[Suspect | None]:
        """Each suspect that does something to the air of `role`'s path, None for the others."""
        mine = {"", DOCK} if self.subject.machine.serves else {role}  # a dock by itself is its own machine
        return [s if s.fault.air and s.at.role in mine else None for s in self.subject.suspects]


def _with(clean: AirPath, suspects: Iterable[Suspect | None]) -> AirPath:
    path = clean
    for suspect in suspects:
        if suspect is not None and suspect.fault.air is not None:
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
        if tell.fault == suspect.fault.key and tell.says == outcome.key and (tell.anywhere or _here(suspect, probe)):
            return tell.p
    return 0.0


def _here(suspect: Suspect, probe: Probe) -> bool:
    general = not probe.check.parts and not probe.check.columns
    return general or (suspect.at.role, suspect.at.key) == (probe.at.role, probe.at.key)


def _proof(suspect: Suspect, probe: Probe) -> Tells | None:
    for tell in probe.check.tells:
        if tell.proves and tell.fault == suspect.fault.key and (tell.anywhere or _here(suspect, probe)):
            return tell
    return None


def proves(suspect: Suspect, probe: Probe) -> str | None:
    """The answer to `probe` that proves `suspect`, if there is one."""
    tell = _proof(suspect, probe)
    return tell.says if tell else None


def _above(felt: Array, limit: float, sd: float) -> Array:
    """The chance that what is felt, to within `sd`, is over `limit`."""
    from scipy.special import ndtr

    chance: Array = ndtr((felt - limit) / sd)
    return chance


def _either(a: Array, b: Array, c: Array) -> Array:
    """The chance of each answer from three causes that act alone; where several do, each is told as often."""
    rest = [x.sum(axis=1, keepdims=True) for x in (a, b, c)]
    told = np.zeros_like(a)
    for mine, one, other in ((a, rest[1], rest[2]), (b, rest[0], rest[2]), (c, rest[0], rest[1])):
        told = told + mine * ((1 - one) * (1 - other) + (one * (1 - other) + other * (1 - one)) / 2 + one * other / 3)
    told[:, 0] = np.clip(1 - told[:, 1:].sum(axis=1), 0.0, 1.0)
    return told


def _whichever(solved: Array, looked: Array) -> Array:
    """Two ways to an answer other than the first: it is given where either leads to it."""
    joined = 1 - (1 - solved) * (1 - looked)
    joined[:, 0] = solved[:, 0] * looked[:, 0]
    return joined / joined.sum(axis=1, keepdims=True)
