"""What is told and done in one case, in its order: symptoms, answers, cures, and whether the symptom is gone."""

from dataclasses import dataclass

from care.errors import require
from care.trace.subject import Probe, Subject

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


Event = Noticed | Answered | Cured | Retested


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
    def epoch(self) -> int:
        """Where the present state of the machine begins: behind the last cure."""
        return max((i + 1 for i, e in enumerate(self.events) if isinstance(e, Cured)), default=0)

    @property
    def standing(self) -> tuple[Event, ...]:
        """The events without answers that were given again later, the machine being the same."""
        kept: list[Event] = []
        for event in self.events:
            if isinstance(event, Answered):
                since = max((i for i, e in enumerate(kept) if isinstance(e, Cured)), default=-1)
                again = [e for e in kept[since + 1 :] if isinstance(e, Answered) and e.probe == event.probe]
                kept = [e for e in kept if not any(e is old for old in again)]
            kept.append(event)
        return tuple(kept)

    @property
    def asked(self) -> frozenset[str]:
        """The probes that were answered since the last cure, clear or not."""
        return frozenset(e.probe for e in self.events[self.epoch :] if isinstance(e, Answered))

    def with_event(self, event: Event) -> "Case":
        """The case with one more event."""
        return Case(self.subject, (*self.events, event))


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
        case Retested():
            done = any(isinstance(e, Cured) for e in before)
            require(done, "gone", "a re-test", "a cure before it: nothing has been put right yet")
