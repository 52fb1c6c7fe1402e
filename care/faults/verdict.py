"""Where a case stands: ask on, put right, try again, done, hand over, or not found. Decided from the belief alone."""

from collections.abc import Callable, Collection, Sequence
from dataclasses import dataclass, field, replace
from enum import StrEnum

from care.faults.answering import danger_of, is_gone, looked_for
from care.faults.background import NOTHING_KNOWN, Background, Influence
from care.faults.book import Counts
from care.faults.case import Answered, Case, Cured
from care.faults.cure import cure_of
from care.faults.hands import ANYBODY, Hands
from care.faults.inference import Belief, Doubt
from care.faults.likelihood import OTHER, States, proves, stops, told_by
from care.faults.next_check import MOST_CURES, WORTH, Next, Ranking, is_free, since_cure
from care.vocabulary import Action

BY_ITSELF = 0.78
"""From this chance on, what is not for the user is handed over without further looks [-]."""
AT_THE_END = 0.15
"""And what is as likely as this is named to the repairer, once nothing is left that is worth looking at [-]."""
WORTH_A_PART = 0.4
"""From this chance on, a new part is fitted although nobody saw that the old one is at fault [-]."""
NAMED = 0.05
"""From this chance on, what is handed over is named [-]."""
SAME_SIGN = 0.1
"""What gives an answer as often as this is a cause of the same sign [-]."""


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
    MEANT = "meant"
    """Nothing is broken: it is how it is meant to be, or the floor's doing."""
    HAND_OVER = "hand_over"
    """It is not for the user, or goes further than they want to: stop using it, a repairer."""
    NOT_FOUND = "not_found"
    """Nothing that can be looked at here explains it."""


@dataclass(frozen=True, slots=True)
class Verdict:
    """Where a case stands, and about which suspects: proven, cured, to hand over, or left over at the end."""

    stand: Stand
    suspects: tuple[str, ...] = ()
    looks: tuple[str, ...] = ()
    """What has to be looked at next, whatever the odds (keys of probes)."""
    danger: str = ""
    """What was told and ends everything (a key of the book)."""
    counts: Counts = Counts.AT_ONCE
    """When the try that comes next tells anything."""
    behind: bool = False
    """It is gone for now: what is looked for is what brings it back."""

    @property
    def settled(self) -> bool:
        """Whether the case may be closed without a reason."""
        return self.stand in (Stand.CURED, Stand.MEANT, Stand.HAND_OVER, Stand.NOT_FOUND)


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
    verdict = _Judge(belief, who, ranking, ranked).verdict()
    ranked.sort(key=lambda n: n.probe.key not in verdict.looks)
    out = [key for key, p in belief.ranked if p < WORTH and looked_for(case, key)]
    return Assessment(verdict, belief.ranked, belief.influences, ranked, belief.doubts(), out)


class _Judge:
    """Where a case stands, from its odds and from what can be looked at by the one `who` looks."""

    def __init__(self, belief: Belief, who: Hands, ranking: Ranking, ranked: Sequence[Next]) -> None:
        self.belief, self.who, self.safety, self.ranked = belief, who, ranking.safety, ranked
        self.case, self.subject = belief.case, belief.case.subject

    def verdict(self) -> Verdict:
        """The first of these that holds: a danger, a try, an end, what must be seen to be safe, a proof, the odds."""
        case = self.case
        if not case.symptoms:
            return Verdict(Stand.NOTICE)
        noticed = (self.subject.symptom(key) for key in case.symptoms)
        ended = next((one.out_of_use for one in noticed if one.ends), "")
        if danger := ended or next((d for e in case.standing if (d := danger_of(self.subject, e))), ""):
            return Verdict(Stand.HAND_OVER, tuple(k for k in self.belief.proven if self._is_danger(k)), danger=danger)
        if since_cure(case):
            return Verdict(Stand.RETEST, _cured(case)[-1:], counts=self._counts())
        if is_gone(case):
            return self._behind()
        if first := self._askable(lambda n: n.probe.check.key in self.safety.first):
            return Verdict(Stand.ASK, looks=first)
        return self._proven() or self._by_odds()

    def _counts(self) -> Counts:
        """When a try tells: as the slowest of what is noticed; where power is forbidden, only once that was ended."""
        if self.safety.forbidden:
            return Counts.CLEARED
        return max((self.subject.symptom(key).counts for key in self.case.symptoms), key=list(Counts).index)

    def _behind(self) -> Verdict:
        """It is gone. Where the cure only cleared the sign, what brings it back is looked for, and put right."""
        last = self.subject.suspect(_cured(self.case)[-1]).fault.behind
        causes = [s for s in self.subject.suspects if s.fault.key in last]
        if (proven := self._proven([s.key for s in causes])) is not None:
            return replace(proven, behind=True)
        if not any(self.case.times_cured(s.key) for s in causes):
            looks = self._askable(lambda n: self._new(n) and any(proves(s, n.probe) for s in causes))
            if looks:
                return Verdict(Stand.ASK, looks=looks, behind=True)
        return Verdict(Stand.CURED, _cured(self.case))

    def _is_danger(self, key: str) -> bool:
        """Whether an answer that stands proves a suspect that ends everything."""
        suspect = self.subject.suspect(key)
        answers = (e for e in self.case.standing if isinstance(e, Answered))
        probes = ((self.subject.probe(e.probe), e.says) for e in answers)
        return any(stops(suspect, probe) and proves(suspect, probe) == says for probe, says in probes)

    def _proven(self, among: Collection[str] | None = None) -> Verdict | None:
        """What is proven (`among` these) and was not put right too often: handed over, or put right."""
        proven = [key for key in self.belief.proven if self.case.times_cured(key) < MOST_CURES]
        proven = [key for key in proven if among is None or key in among]
        if not proven:
            return None
        broken = [key for key in proven if not self.subject.suspect(key).fault.meant]
        if not broken:
            return Verdict(Stand.MEANT, tuple(proven[:1]))
        beyond = [key for key in broken if not self.who.cures(self.subject.suspect(key))]
        if beyond:
            seen = [key for key in beyond if not self.subject.suspect(key).fault.hand_over]
            return Verdict(Stand.HAND_OVER, tuple(seen)) if seen else self._hand_over(beyond)
        return self._put_right(Stand.CURE, broken[0], self._same_sign(broken[0]))

    def _by_odds(self) -> Verdict:
        over = [(k, p) for k, p in self.belief.ranked if self.subject.suspect(k).fault.hand_over and not self._other(k)]
        if sum(p for _, p in over) >= BY_ITSELF:
            return self._hand_over([key for key, p in over if p >= NAMED])
        rests = self.case.resting
        if any(n.worth_it or n.probe.key in rests for n in self.ranked):
            return Verdict(Stand.ASK)
        if (untried := _untried(self.case, self.belief, self.who)) is not None:
            return self._put_right(Stand.TRY, untried, self._free_looks([untried]))
        stubborn = [key for key in self.belief.proven if self.case.times_cured(key) >= MOST_CURES]
        deeper = [k for k, p in self.belief.ranked if p >= AT_THE_END and not self._other(k) and not self._mine(k)]
        if named := tuple(dict.fromkeys((*stubborn, *deeper))):
            return Verdict(Stand.HAND_OVER, named)
        return Verdict(Stand.NOT_FOUND, tuple(key for key, p in self.belief.ranked if p >= AT_THE_END))

    def _mine(self, key: str) -> bool:
        return self.who.cures(self.subject.suspect(key))

    def _other(self, key: str) -> bool:
        return _is_other(self.case, key)

    def _hand_over(self, keys: Sequence[str]) -> Verdict:
        """To a repairer, once what costs nothing was looked at: a machine leaves the house for it."""
        looks = self._unseen(keys) or self._free_looks(keys)
        return Verdict(Stand.ASK, looks=looks) if looks else Verdict(Stand.HAND_OVER, tuple(keys))

    def _put_right(self, stand: Stand, key: str, before_buying: tuple[str, ...]) -> Verdict:
        """Put right, once it was seen to be safe; bought, once the free causes of the same sign were looked at."""
        unseen = self._unseen([key])
        bought = before_buying if cure_of(self.subject.suspect(key)).action is Action.REPLACE else ()
        if looks := unseen or bought:
            return Verdict(Stand.ASK, looks=looks)
        unsafe = any(not self.safety.seen(check) for check in self.subject.suspect(key).fault.after)
        return Verdict(Stand.HAND_OVER if unsafe else stand, (key,))

    def _unseen(self, keys: Sequence[str]) -> tuple[str, ...]:
        """The looks that a verdict about these suspects comes after, and that can still be made."""
        wanted = {
            check for key in keys for check in self.subject.suspect(key).fault.after if not self.safety.seen(check)
        }
        return self._askable(lambda n: n.probe.check.key in wanted)

    def _same_sign(self, key: str) -> tuple[str, ...]:
        """Looks at what else gives the answer that proved a suspect and costs no part, not made yet."""
        suspect = self.subject.suspect(key)
        answers = [e for e in self.case.standing if isinstance(e, Answered)]
        signs = [(p, e.says) for e in answers if proves(suspect, p := self.subject.probe(e.probe)) == e.says]
        rivals = [
            one
            for one in self.subject.suspects
            if one.key != key
            and cure_of(one).action is not Action.REPLACE
            and any(told_by(one, probe, says) >= SAME_SIGN for probe, says in signs)
        ]
        return self._askable(lambda n: self._new(n) and any(proves(one, n.probe) for one in rivals))

    def _free_looks(self, keys: Sequence[str]) -> tuple[str, ...]:
        """Looks that cost next to nothing at what shows what is noticed, other than these suspects, not made yet."""
        likely = [s for s in self.subject.suspects if s.key not in keys and self._shows(s.key)]
        return self._askable(lambda n: self._new(n) and is_free(n.probe) and any(proves(s, n.probe) for s in likely))

    def _shows(self, key: str) -> bool:
        """Whether a suspect shows something that is noticed at least twice as often as a machine with nothing wrong."""
        single = self.belief.states.index[key] + 1
        shown = (self.belief.states.shows(self.subject.symptom(symptom)) for symptom in self.case.symptoms)
        return any(chance[single] > 2 * chance[0] for chance in shown)

    def _new(self, n: Next) -> bool:
        return not self.case.answers(n.probe.key)

    def _askable(self, wanted: Callable[[Next], bool]) -> tuple[str, ...]:
        return tuple(n.probe.key for n in self.ranked if wanted(n))


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
