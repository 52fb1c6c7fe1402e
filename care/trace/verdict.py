"""Where a case stands: ask on, put right, try again, done, hand over, or not found. Decided from the belief alone."""

from dataclasses import dataclass, field
from enum import StrEnum

from care.kinds import Action
from care.trace.background import NOTHING_KNOWN, Background, Influence
from care.trace.case import Answered, Case, Cured, Event, Noticed, Retested
from care.trace.cure import cure_of
from care.trace.inference import Belief, Doubt
from care.trace.likelihood import OTHER, States, proves
from care.trace.next_check import ANYBODY, WORTH, Hands, Next, Ranking, since_cure
from care.trace.subject import Subject

BY_ITSELF = 0.85
"""From this chance on, what is not for the user is handed over without further looks [-]."""
AT_THE_END = 0.15
"""And what is as likely as this is named to the repairer, once nothing is left that is worth looking at [-]."""
WORTH_A_PART = 0.4
"""From this chance on, a new part is fitted although nobody saw that the old one is at fault [-]."""
NAMED = 0.05
"""From this chance on, what is handed over is named [-]."""


class Stand(StrEnum):
    """What comes next in a case."""

    NOTICE = "notice"
    """Nothing was told yet."""
    ASK = "ask"
    CURE = "cure"
    """A fault is proven: put it right."""
    TRY = "try"
    """Nothing is left to look at: put right what is likeliest although nobody saw it, and see."""
    RETEST = "retest"
    """Something was put right: run it, and tell whether what was noticed is gone."""
    CURED = "cured"
    HAND_OVER = "hand_over"
    """It is not for the user, or goes further than they want to: stop using it, a repairer."""
    NOT_FOUND = "not_found"
    """Nothing that can be looked at here explains it."""


@dataclass(frozen=True, slots=True)
class Verdict:
    """Where a case stands, and about which suspects: proven, cured, to hand over, or left over at the end."""

    stand: Stand
    suspects: tuple[str, ...] = ()

    @property
    def settled(self) -> bool:
        """Whether the case may be closed without a reason."""
        return self.stand in (Stand.CURED, Stand.HAND_OVER, Stand.NOT_FOUND)


@dataclass(frozen=True)
class Assessment:
    """Everything a case says now: its verdict, the odds, what moved them, what to look at next, what is in doubt."""

    verdict: Verdict
    odds: list[tuple[str, float]]
    influences: list[Influence]
    next: list[Next]
    doubts: list[Doubt]
    ruled_out: list[str] = field(default_factory=list)


def assess(
    case: Case,
    background: Background = NOTHING_KNOWN,
    who: Hands = ANYBODY,
    states: States | None = None,
) -> Assessment:
    """What `case` comes to, with what the records say of the machine, for the one `who` looks."""
    return assess_belief(Belief(case, background, states), who)


def assess_belief(belief: Belief, who: Hands = ANYBODY) -> Assessment:
    """What a case comes to from the odds it has."""
    case = belief.case
    ranking = Ranking(belief, who)
    ranked = ranking.best()
    verdict = _verdict(case, belief, ranked, who)
    out = [key for key, p in belief.ranked if p < WORTH and _looked_for(case, key)]
    return Assessment(verdict, belief.ranked, belief.influences, ranked, belief.doubts(), out)


def _verdict(case: Case, belief: Belief, ranked: list[Next], who: Hands) -> Verdict:
    if not case.symptoms:
        return Verdict(Stand.NOTICE)
    if since_cure(case):
        return Verdict(Stand.RETEST, _cured(case)[-1:])
    if case.events and isinstance(case.events[-1], Retested) and case.events[-1].gone:
        return Verdict(Stand.CURED, _cured(case))
    subject = case.subject
    if proven := belief.proven:
        beyond = tuple(key for key in proven if not who.cures(subject.suspect(key)))
        return Verdict(Stand.HAND_OVER, beyond) if beyond else Verdict(Stand.CURE, tuple(proven[:1]))
    over = [(key, p) for key, p in belief.ranked if subject.suspect(key).fault.hand_over and not _is_other(case, key)]
    if sum(p for _, p in over) >= BY_ITSELF:
        return Verdict(Stand.HAND_OVER, tuple(key for key, p in over if p >= NAMED))
    if any(n.worth_it for n in ranked):
        return Verdict(Stand.ASK)
    if (untried := _untried(case, belief, who)) is not None:
        return Verdict(Stand.TRY, (untried,))
    deeper = [(k, p) for k, p in belief.ranked if not who.cures(subject.suspect(k)) and not _is_other(case, k)]
    if named := tuple(key for key, p in deeper if p >= AT_THE_END):
        return Verdict(Stand.HAND_OVER, named)
    return Verdict(Stand.NOT_FOUND, tuple(key for key, p in belief.ranked if p >= AT_THE_END))


def _untried(case: Case, belief: Belief, who: Hands) -> str | None:
    """The likeliest suspect that they can put right unseen, and did not yet; a new part needs more."""
    top, _ = belief.ranked[0]
    if case.subject.suspect(top).fault.hand_over and not _is_other(case, top):
        return None
    for key, p in belief.ranked:
        action = cure_of(case.subject.suspect(key)).action
        least = WORTH_A_PART if action is Action.REPLACE else AT_THE_END
        if p >= least and who.cures(case.subject.suspect(key)) and key not in _cured(case):
            return key
    return None


def _is_other(case: Case, key: str) -> bool:
    return case.subject.suspect(key).fault.key == OTHER


def _cured(case: Case) -> tuple[str, ...]:
    return tuple(e.suspect for e in case.events if isinstance(e, Cured))


def _looked_for(case: Case, suspect: str) -> bool:
    """Whether a check that could prove it was made and did not."""
    one = case.subject.suspect(suspect)
    for event in case.events:
        if isinstance(event, Answered):
            says = proves(one, case.subject.probe(event.probe))
            if says is not None and says != event.says:
                return True
    return False


def answered(case: Case, probe: str, says: str) -> Case:
    """The case with an answer; where making the check put right what the answer proves, with that cure as well."""
    told = case.with_event(Answered(probe, says))
    check = case.subject.probe(probe).check
    for suspect in case.subject.suspects:
        done = suspect.fault.key in check.cures and proves(suspect, case.subject.probe(probe)) == says
        if done:
            told = told.with_event(Cured(suspect.key))
    return told


def danger_told(subject: Subject, event: Event) -> tuple[str, str] | None:
    """The danger that an event tells of, if one: the role of the machine it is at, and its key in the book."""
    if isinstance(event, Noticed):
        found = subject.symptom(event.symptom).out_of_use
        return ("", found) if found else None
    if isinstance(event, Answered):
        probe = subject.probe(event.probe)
        for tell in probe.check.tells:
            if tell.danger and tell.says == event.says:
                return probe.at.role, tell.danger
    return None
