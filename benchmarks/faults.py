"""Machines with hidden faults for the fault finder's benchmark: other chances and another air than the book's.

Every chance of the book is moved by up to one in log-odds, once for the whole world. The air is a fan of a quadratic
curve against quadratic losses, with severities drawn anew for each fault: none of the core's formulas.
"""

from dataclasses import dataclass
from math import exp, log, sqrt

import numpy as np

from care.faults.book import Symptom
from care.faults.effects import Sign
from care.faults.subject import DOCK, Probe, Subject, Suspect

OFF = 1.0
"""How far each chance may be off [log-odds]."""
DOUBLE = 0.15
"""How often two faults are there at once."""
CURE_HOLDS = 0.92
"""How often a cure holds: some are not done well."""
BEHIND = 0.7
"""How often what only clears the sign has a cause behind it that brings it back."""
VOLUNTEERS, TELLS = 0.4, 0.5
"""In so many homes people tell things unasked, and of what could be told each so often."""
ANY = "any"


@dataclass
class Machine:
    """One machine of the world: its faults now (as indices), how bad each is, what was noticed, and what lies behind
    one of them, if something does.
    """

    faults: set[int]
    severity: dict[int, float]
    noticed: tuple[str, ...]
    behind: set[int]


class World:
    """A subject as it really is, seeded."""

    def __init__(self, subject: Subject, seed: int) -> None:
        self.subject = subject
        self.rng = np.random.default_rng(seed)
        self._moved: dict[tuple[str, ...], float] = {}
        self.can_be = [i for i, s in enumerate(subject.suspects) if s.fault.key != "other"]
        self.rates = np.array([self._off(subject.suspects[i].p, "rate", subject.suspects[i].key) for i in self.can_be])

    def _off(self, chance: float, *what: str) -> float:
        """A chance of the book as it is in this world: the same each time it is asked."""
        if what not in self._moved:
            chance = min(max(chance, 0.005), 0.995)
            self._moved[what] = 1 / (1 + exp(-(log(chance / (1 - chance)) + self.rng.uniform(-OFF, OFF))))
        return self._moved[what]

    def draw(self) -> Machine:
        """A machine that somebody brings: one fault or two, and one or two things they notice."""
        while True:
            count = 2 if self.rng.random() < DOUBLE else 1
            drawn = self.rng.choice(self.can_be, size=count, replace=False, p=self.rates / self.rates.sum())
            behind = {i for fault in drawn if (i := self._behind(int(fault))) is not None}
            faults = {int(i) for i in drawn} | behind
            severity = {i: float(self.rng.uniform(0.6, 1.4)) for i in faults}
            machine = Machine(faults, severity, (), behind)
            chances = ((s.key, self._shows(machine, s, background=False)) for s in self.subject.symptoms)
            shown = [key for key, chance in chances if self.rng.random() < chance]
            if shown:
                told = self.rng.choice(shown, size=min(len(shown), 2), replace=False)
                machine.noticed = tuple(str(key) for key in told)
                return machine

    def _behind(self, fault: int) -> int | None:
        """What brought a fault on that comes back by itself, now and then nothing."""
        suspect = self.subject.suspects[fault]
        found = [i for i in self.can_be if self.subject.suspects[i].fault.key in suspect.fault.behind and i != fault]
        return int(self.rng.choice(found)) if found and self.rng.random() < BEHIND else None

    def volunteered(self, machine: Machine) -> list[tuple[str, str]]:
        """What somebody tells unasked of this machine (probe, answer): in some homes, some of what they could."""
        if self.rng.random() > VOLUNTEERS:
            return []
        ends = {"embers", "harmful", "breaker", "charger-hot"}
        fits = (h for h in self.subject.ticks if not h.symptoms or set(h.symptoms) & set(machine.noticed))
        asked = [(h, self.subject.probe(h.probe)) for h in fits if h.probe not in ends]
        return [(h.probe, h.says) for h, p in asked if self.answer(machine, p) == h.says and self.rng.random() < TELLS]

    def still(self, machine: Machine) -> bool:
        """Whether something that was noticed shows on the machine as it is now."""
        told = [s for s in self.subject.symptoms if s.key in machine.noticed]
        return any(self.rng.random() < self._shows(machine, s, background=False) for s in told)

    def cure(self, machine: Machine, suspect: int) -> None:
        """Somebody puts a fault right; now and then it does not hold."""
        if self.rng.random() < CURE_HOLDS:
            machine.faults.discard(suspect)

    def answer(self, machine: Machine, probe: Probe) -> str:
        """What somebody sees."""
        check = probe.check
        if check.sign is not None:
            felt = self._sign(machine, check.sign, check.of_dock) + self.rng.normal(0, check.sd)
            told = next(o.key for o in check.outcomes if o.at_least is None or felt >= o.at_least)
            if told != check.outcomes[0].key or not check.tells:
                return told
        seen = [o.key for o in check.outcomes[1:] if self._seen(machine, probe, o.key, o.base)]
        return str(self.rng.choice(seen)) if seen else check.outcomes[0].key

    def _seen(self, machine: Machine, probe: Probe, says: str, base: float) -> bool:
        missed = 1 - (self._off(base, "base", probe.key, says) if probe.check.sign is None else 0.0)
        for i in sorted(machine.faults):
            suspect = self.subject.suspects[i]
            for tell in probe.check.tells:
                here = tell.anywhere or _here(suspect, probe)
                if here and tell.fault == suspect.fault.key and tell.says == says:
                    missed *= 1 - self._off(tell.p, "tell", probe.key, suspect.key, says)
        return bool(self.rng.random() > missed)

    def _shows(self, machine: Machine, symptom: Symptom, background: bool = True) -> float:
        missed = 1 - self._off(symptom.normal, "normal", symptom.key) * background
        for i in sorted(machine.faults):
            suspect = self.subject.suspects[i]
            for shown in suspect.fault.shows:
                if shown.symptom == symptom.key:
                    missed *= 1 - self._off(shown.p, "shows", suspect.key, symptom.key)
        solved = symptom.solved
        if solved and not (solved.only_pulsing and not self._pulses()):
            felt = self._sign(machine, solved.sign, symptom.of_dock)
            off = (felt - solved.limit) / solved.sd * 1.6  # a logistic as wide as the book's spread
            over = 1 / (1 + exp(-max(min(off, 40), -40)))
            chance = over if solved.above else 1 - over
            missed *= 1 - (chance if abs(felt - 1) > 0.02 else 0.0)
        return 1 - missed

    def _pulses(self) -> bool:
        path = self.subject.air.get("")
        return path is not None and path.fan.pulses

    def _sign(self, machine: Machine, sign: Sign, of_dock: bool) -> float:
        role = DOCK if of_dock else ""
        mine = [i for i in sorted(machine.faults) if self._of(role, self.subject.suspects[i])]
        losses = {"front": 0.0, "body": 0.0}
        leak = power = 0.0
        for i in mine:
            suspect, how = self.subject.suspects[i], machine.severity[i]
            air = suspect.fault.air
            assert air is not None
            where = "front" if _in_front(suspect) else "body"
            losses[where] += how * ((0.02 / air.open**2 if air.open < 1 else 0.0) + 0.75 * air.fill**2)
            leak += how * air.leak_mm2 / 400 * (where == "body" or sign is not Sign.SEALED)
            power += (1 - air.power) * how
        return _felt(sign, losses["front"], losses["body"], leak, min(power, 0.8))

    def _of(self, role: str, suspect: Suspect) -> bool:
        return suspect.fault.air is not None and (suspect.at.role == role or self.subject.machine.serves)


def _felt(sign: Sign, front: float, body: float, leak: float, power: float) -> float:
    """What a clean machine's sign of 1 becomes: added quadratic losses, a share that leaks in, a slower fan."""
    speed = 1 - power
    share = speed / sqrt(1 + front + body)
    nozzle = share * (1 - 0.9 * leak / (1 + leak))
    bare = speed / sqrt(1 + 1.6 * body)
    match sign:
        case Sign.PULL:
            return nozzle
        case Sign.BARED:
            return bare * (1 - 0.9 * leak / (1 + leak))
        case Sign.SEALED:
            return speed**2 / (1 + 1.5 * leak)
        case Sign.PITCH:
            return speed * (1 + 0.15 * (1 - min(share / speed * (1 + 0.5 * leak), 1.3)))
        case Sign.HEAT:
            return min(1 / max(share, 0.05), 20.0)
        case Sign.EXHAUST:
            return share * (1 + 0.3 * leak)
    raise AssertionError(sign)  # nobody here has a gauge


def _in_front(suspect: Suspect) -> bool:
    column = suspect.fault.sits or (suspect.at.station.column if suspect.at.station else "")
    return column in ("floor", "neck", "wand", "hose")


def _here(suspect: Suspect, probe: Probe) -> bool:
    if not probe.check.parts and not probe.check.columns:
        return True
    return (suspect.at.role, suspect.at.key) == (probe.at.role, probe.at.key)
