"""What is told and done in one case, in its order: symptoms, answers, cures, and whether the symptom is gone."""

from collections.abc import Sequence
from dataclasses import dataclass

from care.errors import require
from care.faults.subject import Probe, Subject, changes

CANT_TELL = "cant_tell"
"""The answer that says nothing: the check was not possible, or not clear."""


@dataclass(frozen=True, slots=True)
class Noticed:
    """Somebody notices a symptom."""

    symptom: str


@dataclass(frozen=True, slots=True)
class Answered:
    """A check was made: its probe and the answer, or `CANT_TELL`."""

    probe: str
    says: str


@dataclass(frozen=True, slots=True)
class Cured:
    """A suspect was put right; the symptoms are to be asked again."""

    suspect: str


@dataclass(frozen=True, slots=True)
class Retested:
    """The machine ran again: whether all that was noticed is gone."""

    gone: bool


@dataclass(frozen=True, slots=True)
class Rests:
    """What a check has to wait for goes on meanwhile, a machine cools: other looks go on, until it is `over`."""

    probe: str
    over: bool = False


MOST_KPA = 60.0
"""More than any household fan draws [kPa]."""


def by_gauge(probe: Probe, now_kpa: float, clean_kpa: float) -> Answered:
    """The answer that a gauge gives: `now_kpa` beside `clean_kpa`, the same opening when all was well [kPa].

    Raises `InvalidValue` for a check without a gauge and for readings out of any fan's range.
    """
    require(probe.check.gauge, "check", probe.key, "a check that a gauge answers")
    require(0 <= now_kpa <= MOST_KPA, "now_kpa", now_kpa, f"0 to {MOST_KPA:g} kPa")
    require(0.05 <= clean_kpa <= MOST_KPA, "clean_kpa", clean_kpa, f"0.05 to {MOST_KPA:g} kPa")
    share = now_kpa / clean_kpa
    require(share <= 2.5, "now_kpa", now_kpa, f"at most 2.5 times the {clean_kpa:g} kPa of the clean machine")
    says = next(o.key for o in probe.check.outcomes if o.at_least is None or share >= o.at_least)
    return Answered(probe.key, says)


Event = Noticed | Answered | Cured | Retested | Rests


@dataclass(frozen=True, slots=True)
class Case:
    """One case of one subject. Raises `InvalidValue` for what the machine does not have."""

    subject: Subject
    events: tuple[Event, ...]

    def __post_init__(self) -> None:
        for number, event in enumerate(self.events):
            _check(self.subject, self.events[:number], event)

    @property
    def symptoms(self) -> tuple[str, ...]:
        """What was noticed."""
        return tuple(e.symptom for e in self.events if isinstance(e, Noticed))

    @property
    def standing(self) -> tuple[Event, ...]:
        """The events without answers that were given again later, nothing being done between that could change them.

        A second look at the same thing is no second witness: the later one stands in place of the first.
        """
        kept: list[Event] = []
        for event in self.events:
            if isinstance(event, Answered):
                since = self._touched(event.probe, kept)
                kept = kept[:since] + [e for e in kept[since:] if not _answers(e, event.probe)]
            kept.append(event)
        return tuple(kept)

    def answers(self, probe: str) -> list[str]:
        """What was answered to a probe since something was done that could change it, the last one last."""
        since = self.events[self._touched(probe, self.events) :]
        return [e.says for e in since if isinstance(e, Answered) and e.probe == probe]

    @property
    def resting(self) -> dict[str, bool]:
        """The checks (keys of probes) whose wait has begun and that were not answered since: whether it is over."""
        found: dict[str, bool] = {}
        for event in self.events:
            if isinstance(event, Rests):
                found[event.probe] = event.over
            elif isinstance(event, Answered):
                found.pop(event.probe, None)
        return found

    def _touched(self, probe: str, events: Sequence[Event]) -> int:
        """Where the present state of what a probe looks at begins: behind the last cure that could change it."""
        one = self.subject.probe(probe)
        cures = ((i, self.subject.suspect(e.suspect)) for i, e in enumerate(events) if isinstance(e, Cured))
        return max((i + 1 for i, suspect in cures if changes(suspect, one)), default=0)

    def times_cured(self, suspect: str) -> int:
        """How often a suspect was put right."""
        return sum(isinstance(e, Cured) and e.suspect == suspect for e in self.events)

    def with_event(self, event: Event) -> "Case":
        """The case with one more event."""
        return Case(self.subject, (*self.events, event))


def _answers(event: Event, probe: str) -> bool:
    return isinstance(event, Answered) and event.probe == probe


def _check(subject: Subject, before: tuple[Event, ...], event: Event) -> None:
    match event:
        case Noticed(symptom):
            subject.symptom(symptom)
        case Answered(key, says):
            known = (*(o.key for o in subject.probe(key).check.outcomes), CANT_TELL)
            require(says in known, "answer", says, f"an answer to {key!r}: " + ", ".join(known))
            require(any(isinstance(e, Noticed) for e in before), "symptoms", "none", "what is noticed, before a check")
        case Cured(key):
            subject.suspect(key)
        case Rests(key):
            require(subject.probe(key).check.rests, "key", key, "a check that has to wait, the machine off")
        case Retested():
            done = any(isinstance(e, Cured) for e in before)
            require(done, "gone", "a re-test", "a cure before it: nothing has been put right yet")
