"""What to look at next: most told and most proven per minute.

An answer is worth the bits it tells of the cause, and a proof as many more as it ends the search; what must be undone
is shared by all that lies behind it. docs/why/faults.md has what other orders came to.
"""

from collections.abc import Collection, Sequence
from dataclasses import dataclass

import numpy as np

from care.faults.case import CANT_TELL, Answered, Case, Cured, Retested
from care.faults.hands import ANYBODY, Hands
from care.faults.inference import Belief
from care.faults.likelihood import Array, proves
from care.faults.safety import Safety
from care.faults.subject import Probe, Subject

SWITCH_MIN = 0.5
"""Making the machine safe, or ready to run again, between looks and live tests [min]."""
WAITING = 0.1
"""What a minute of waiting costs beside one of work: other checks go on meanwhile [-]."""
PROOF_BITS = 3.0
"""What a proof is worth beside what it tells: no further look is needed [bit]."""
AGAIN = 0.3
"""What a second look is worth beside a first one that tells as much [-]: people see the same again."""
UNCLEAR = 0.6
"""And one at what could not be told the first time [-]."""
MOST_CURES = 2
"""How often one fault is put right in a case: once, and again where it is seen again after that."""
FREE_MIN = 1.0
"""A look of so few minutes, with nothing to undo, costs nothing beside a repairer or a new part [min]."""
LOOKS = 2
"""How often a check is offered, nothing being done between that could change it, clear or not."""
WORTH = 0.02
"""A probe that proves less than this and tells fewer bits is not worth a minute [-]."""


@dataclass(frozen=True, slots=True)
class Bench:
    """How the machine stands: which openings are undone, and which of machine and dock (roles) are safe to touch."""

    undone: frozenset[str] = frozenset()
    safe: frozenset[str] = frozenset()

    def after(self, probe: Probe) -> "Bench":
        """How it stands once `probe` was made: a live test needs it closed."""
        if probe.check.hands_off:
            return self
        if probe.check.live:
            return Bench()
        undone = self.undone | ({probe.door} if probe.door else frozenset())
        return Bench(undone, self.safe | {probe.at.role})

    def minutes(self, probe: Probe) -> float:
        """Hands-on minutes of `probe` from here, openings that are undone already free [min]."""
        return probe.check.minutes + self.turning(probe) + (0.0 if probe.check.hands_off else self.undoing(probe))

    def turning(self, probe: Probe) -> float:
        """Minutes to make it safe, or ready to run, for `probe`; none where it stands so, or is not touched [min]."""
        ready = not self.safe if probe.check.live else probe.at.role in self.safe
        return 0.0 if ready or probe.check.hands_off else SWITCH_MIN

    def undoing(self, probe: Probe) -> float:
        """Minutes to undo and close what `probe` lies behind, none where that is undone [min]."""
        return probe.opening.setup_min if probe.opening and probe.door not in self.undone else 0.0


def bench(case: Case) -> Bench:
    """How the machine stands after all that was done; after a re-test it is closed."""
    now = Bench()
    for event in case.events:
        if isinstance(event, Answered):
            now = now.after(case.subject.probe(event.probe))
        elif isinstance(event, Retested):
            now = Bench()
    return now


def spent(case: Case) -> float:
    """The hands-on minutes of the checks made so far [min]."""
    now, minutes = Bench(), 0.0
    for event in case.events:
        if isinstance(event, Answered) and not case.subject.probe(event.probe).check.told:
            minutes += now.minutes(case.subject.probe(event.probe))
            now = now.after(case.subject.probe(event.probe))
        elif isinstance(event, Retested):
            now = Bench()
    return minutes


@dataclass(frozen=True, slots=True)
class Next:
    """A probe that may come next: its minutes with what must be undone, what it waits, the bits it tells on average.

    `proof` is the chance that its answer proves the cause, `of` the likeliest one that it would prove. `gates` are the
    cautions that come before it, by their keys. `trust` is under 1 where it was answered before.
    """

    probe: Probe
    minutes: float
    wait_min: float
    bits: float
    proof: float
    of: str | None
    gates: tuple[str, ...]
    trust: float = 1.0

    @property
    def value(self) -> float:
        """What it is worth [bit]."""
        return (self.bits + PROOF_BITS * self.proof) * self.trust

    @property
    def cost(self) -> float:
        """What it costs, waiting included [min]."""
        return self.minutes + WAITING * self.wait_min

    @property
    def again(self) -> bool:
        """Whether it was answered before."""
        return self.trust < 1

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
    """Weighs the probes of a case against each other from one belief, for the one `who` looks."""

    def __init__(self, belief: Belief, who: Hands = ANYBODY) -> None:
        self.belief, self.states, self.who = belief, belief.states, who
        self.case = belief.case
        self.safety = Safety(self.case)
        self.stands = bench(self.case)
        self.within = [p for p in self.case.subject.probes if self._possible(p, who) and self._open(p)]

    def best(self, count: int | None = None) -> list[Next]:
        """What can be looked at, worth the time first, most for a minute first.

        What was answered already stands among them at half its worth: something may have been missed. What must be
        seen to be safe comes before all, then what has rested long enough; what rests still comes after all others.
        """
        weighed = [self._weigh(p) for p in self.within]
        rates = self._rates(weighed)
        last = self.case.events[-1]
        just = last.probe if isinstance(last, Answered) else None  # not the same again while there is another
        first, rests = self.safety.first, self.case.resting

        def place(n: Next) -> tuple[bool | float, ...]:
            key = n.probe.key
            worth = not n.worth_it and key not in rests
            return n.probe.check.key not in first, not rests.get(key), worth, key in rests, key == just, -rates[key]

        return sorted(weighed, key=place)[:count]

    def _rates(self, weighed: Sequence[Next]) -> dict[str, float]:
        """What each is worth for a minute, by its probe [bit/min].

        An opening is shared by all that is behind it. Making it safe, or ready again, is paid twice, there and back:
        what is worth its time as the machine stands is made before.
        """
        behind: dict[str | None, float] = {}
        for one in weighed:
            behind[one.probe.door] = behind.get(one.probe.door, 0.0) + one.value
        rates = {}
        for one in weighed:
            undo = self.stands.undoing(one.probe)
            others = 1 - one.value / max(behind[one.probe.door], 1e-12)
            back = self.stands.turning(one.probe)
            rates[one.probe.key] = one.value / (one.cost - undo * others + back)
        return rates

    def _possible(self, probe: Probe, who: Hands) -> bool:
        """Whether it can be made: within what somebody does and has, and with power only once that was seen safe."""
        if probe.check.told or not who.can(probe):
            return False
        if any(not self.safety.seen(key) for key in probe.check.after):
            return False
        return self.safety.may_run if probe.check.live else not probe.check.powers or self.safety.may_power

    def _open(self, probe: Probe) -> bool:
        """Whether it may be offered: only so often."""
        clear = sum(says != CANT_TELL for says in self.case.answers(probe.key))
        unclear = sum(e == Answered(probe.key, CANT_TELL) for e in self.case.events)
        done = [self.case.times_cured(s.key) for s in self.case.subject.suspects if probe.puts_right(s)]
        same_again = probe.proves_nothing or probe.check.recalled  # what is thought back to is told alike twice
        often = clear + unclear < (1 if clear and same_again else LOOKS)
        return often and unclear < LOOKS and (not done or min(done) < MOST_CURES)

    def _trust(self, probe: Probe) -> float:
        answers = self.case.answers(probe.key)
        return 1.0 if not answers else UNCLEAR if set(answers) == {CANT_TELL} else AGAIN

    def _weigh(self, probe: Probe) -> Next:
        belief = self.belief.now
        joint = self.states.answers(probe) * belief[:, None]  # (states, answers)
        chances = joint.sum(axis=0)
        now, then = self.belief.causes(belief), self.belief.causes((joint / chances).T)
        bits = float(_entropy(now) - chances @ _entropy(then))
        each = now * self.states.proofs(probe)
        return Next(
            probe,
            self.stands.minutes(probe),
            0.0 if probe.key in self.case.resting else probe.check.wait_min,
            max(bits, 0.0),
            float(min(each.sum(), 1.0)),
            self.case.subject.suspects[int(each.argmax())].key if each.any() else None,
            tuple(self._gates(probe)),
            self._trust(probe),
        )

    def _gates(self, probe: Probe) -> list[str]:
        """The cautions to be acknowledged first: how it is made safe or the limits of a live test, then its own."""
        check = probe.check
        first = [check.live] if check.live else []
        if not check.live and not check.hands_off and probe.at.role not in self.stands.safe:
            kind = self.case.subject.dock if probe.at.role else self.case.subject.machine
            first = [(kind or self.case.subject.machine).make_safe]
        opened = probe.opening.cautions if probe.opening and probe.door not in self.stands.undone else ()
        return [self.who.home.caution(key) for key in (*first, *opened, *check.cautions)]


def _entropy(causes: Array) -> Array:
    """What is not known of the cause [bit]; what is left of 1 is that nothing is wrong any more."""
    rest = 1 - causes.sum(axis=-1, keepdims=True)
    p = np.clip(np.concatenate([causes, rest], axis=-1), 1e-9, 1.0)
    bits: Array = -(p * np.log2(p)).sum(axis=-1)
    return bits


def is_free(probe: Probe) -> bool:
    """Whether a look costs next to nothing: nothing runs, nothing is undone, nothing is waited for."""
    check = probe.check
    return not check.live and probe.door is None and not check.wait_min and check.minutes <= FREE_MIN


def free_looks(subject: Subject, made: Collection[str], who: Hands) -> list[Probe]:
    """Looks that cost next to nothing, prove what those who look can put right, and were not `made` (keys of probes).

    Most likely to prove something first. Asked before a machine is given up, for whatever it has.
    """
    mine = [s for s in subject.suspects if who.cures(s)]
    rest = (p for p in subject.probes if is_free(p) and not p.check.told and p.key not in made and who.can(p))
    chances = {probe.key: (sum(s.p for s in mine if proves(s, probe)), probe) for probe in rest}
    return [probe for chance, probe in sorted(chances.values(), key=lambda pair: -pair[0]) if chance > 0]


def since_cure(case: Case) -> bool:
    """Whether something was put right and not tried since."""
    last = [e for e in case.events if isinstance(e, Cured | Retested)]
    return bool(last) and isinstance(last[-1], Cured)
