"""From symptoms, records and answers to the odds of each fault: exact, over nothing, one fault or two at once.

A cure changes the state of the machine, so what comes after it speaks of what is left: the belief is carried on
through it, and a cure holds nearly always, not always.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from care.faults.background import NOTHING_KNOWN, Background, Influence, influences, odds
from care.faults.case import CANT_TELL, Answered, Case, Cured, Event, Noticed, Rests, Retested
from care.faults.likelihood import Array, States, proves, stops

CURE_HOLDS = 0.92
"""How often a cure puts its fault right [-]."""
PROVEN = 0.25
"""What a proving answer must leave of a suspect's chance to count [-]: below it, it was seen by chance."""
HAND_OVER = 0.72
"""And of those that go to a repairer, together [-]: the machine leaves the house for it."""
ROUGH = 0.92
"""How far an answer moves the odds beside what the book's chances say [-]: they are rough. With those who tell what is
not so it was tuned on seed 71 421, on many worlds whose chances are others, and measured on another seed."""
DOUBTFUL = 0.08
"""An answer that all others make less likely than this is worth asking again [-]."""


@dataclass(frozen=True, slots=True)
class TrailStep:
    """What one event did: the chance of every suspect to be the cause after it, by key."""

    event: Event
    odds: dict[str, float]


@dataclass(frozen=True, slots=True)
class Doubt:
    """An answer that the others speak against: how likely they make it [-]."""

    probe: str
    says: str
    expected: float


class Belief:
    """The odds of a case: `now` over states, `steps` after each event, `influences` of the records before any.

    The influences come from `background`, or as they are in `moved`.
    """

    def __init__(
        self,
        case: Case,
        background: Background = NOTHING_KNOWN,
        states: States | None = None,
        moved: Sequence[Influence] | None = None,
    ) -> None:
        self.case = case
        self.states = states or States(case.subject)
        self.influences = list(influences(case.subject, background) if moved is None else moved)
        symptoms = [case.subject.symptom(key) for key in case.symptoms]
        self.blame = self.states.blame(symptoms)
        """Whose doing what was noticed is, in each state: (suspects, states)."""
        self._start = self.states.prior(odds(case.subject, self.influences))
        self.now = self._through(case.standing)

    def of(self, suspect: str) -> float:
        """The chance that `suspect` is there now."""
        return float(self.marginals[self.states.index[suspect]])

    @property
    def marginals(self) -> Array:
        """The chance that each suspect is there now."""
        return self.states.marginals(self.now)

    def causes(self, belief: Array) -> Array:
        """The chance of each suspect to be what has to be put right, under one belief or several (…, states).

        They add up to 1 less the chance that nothing is wrong any more.
        """
        caused: Array = belief @ self.blame.T
        return caused

    @property
    def ranked(self) -> list[tuple[str, float]]:
        """The suspects with their chances to be the cause, likeliest first."""
        chances = zip((s.key for s in self.case.subject.suspects), self.causes(self.now).tolist(), strict=True)
        return sorted(chances, key=lambda pair: -pair[1])

    def at_first(self) -> dict[str, float]:
        """The chance of every suspect before anything was told, the records counted."""
        return self._odds(self._start)

    def steps(self) -> list[TrailStep]:
        """What each standing event did to the odds."""
        standing = self.case.standing
        return [TrailStep(e, self._odds(self._through(standing[: i + 1]))) for i, e in enumerate(standing)]

    def doubts(self) -> list[Doubt]:
        """Answers that contradict the rest, the least likely first."""
        standing = self.case.standing
        found = []
        for i, event in enumerate(standing):
            if isinstance(event, Answered) and event.says != CANT_TELL and not self._unasked(event):
                expected = self._expected(standing, i)
                if expected < DOUBTFUL:
                    found.append(Doubt(event.probe, event.says, expected))
        return sorted(found, key=lambda doubt: doubt.expected)

    def _unasked(self, event: Answered) -> bool:
        """Whether somebody told it by themselves: nobody is asked to look at that again."""
        return self.case.subject.probe(event.probe).check.told

    @property
    def proven(self) -> list[str]:
        """Suspects that an answer has proven and that are not put right yet, in the order of the answers."""
        left: list[str] = []
        for event in self.case.standing:
            if isinstance(event, Answered):
                left += [s for s in self._proven_by(event) if s not in left]
            elif isinstance(event, Cured):
                left = [s for s in left if s != event.suspect]
        return left

    def _proven_by(self, event: Answered) -> list[str]:
        """The suspects that an answer proves: those that lead to it, unless all else speaks against them."""
        probe = self.case.subject.probe(event.probe)
        shown = [s for s in self.case.subject.suspects if proves(s, probe) == event.says]
        if stopped := [s.key for s in shown if stops(s, probe)]:
            return stopped
        over = sum(self.of(s.key) for s in shown if s.fault.hand_over)
        return [s.key for s in shown if (over >= HAND_OVER if s.fault.hand_over else self.of(s.key) >= PROVEN)]

    def _expected(self, standing: Sequence[Event], number: int) -> float:
        """How likely all other events make this answer: their chance with it beside their chance with any answer."""
        event = standing[number]
        assert isinstance(event, Answered)
        probe = self.case.subject.probe(event.probe)
        shares = []
        for outcome in probe.check.outcomes:
            events = [*standing[:number], Answered(event.probe, outcome.key), *standing[number + 1 :]]
            shares.append(self._weight(events))
        mine = [o.key for o in probe.check.outcomes].index(event.says)
        return shares[mine] / sum(shares)

    def _through(self, events: Sequence[Event]) -> Array:
        belief = self._weights(events)
        total = belief.sum()
        return belief / total if total > 0 else belief

    def _weight(self, events: Sequence[Event]) -> float:
        return float(self._weights(events).sum())

    def _weights(self, events: Sequence[Event]) -> Array:
        """The chance of each state now together with all that was told: not normalised."""
        belief = self._start
        for event in events:
            belief = self._after(belief, event)
        return belief

    def _after(self, belief: Array, event: Event) -> Array:
        match event:
            case Noticed(symptom):
                return belief * self.states.shows(self.case.subject.symptom(symptom))
            case Answered(key, says):
                return self._answered(belief, key, says)
            case Cured(suspect):
                return self.cure(belief, suspect)
            case Retested(gone):
                return belief * self._retested(gone)
            case Rests():
                return belief
        raise AssertionError(event)  # every kind of event is above

    def _answered(self, belief: Array, key: str, says: str) -> Array:
        if says == CANT_TELL:
            return belief
        probe = self.case.subject.probe(key)
        number = [o.key for o in probe.check.outcomes].index(says)
        return belief * self.states.answers(probe)[:, number] ** ROUGH

    def _retested(self, gone: bool) -> Array:
        """The chance that nothing noticed shows any more, or that something still does."""
        still = np.array([self.states.shows(self.case.subject.symptom(key)) for key in self.case.symptoms])
        if not len(still):
            return np.ones(len(self.states))
        shown: Array = np.prod(1 - still, axis=0) if gone else still.max(axis=0)
        return shown

    def cure(self, belief: Array, suspect: str) -> Array:
        """The belief once `suspect` was put right; now and then that does not hold."""
        left = self.states.without[self.states.index[suspect]]
        moved = np.bincount(left, weights=belief, minlength=len(self.states))
        cured: Array = CURE_HOLDS * moved + (1 - CURE_HOLDS) * belief
        return cured

    def _odds(self, belief: Array) -> dict[str, float]:
        chances = self.causes(belief)
        return {s.key: float(p) for s, p in zip(self.case.subject.suspects, chances, strict=True)}
