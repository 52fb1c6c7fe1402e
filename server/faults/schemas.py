"""What the fault finder says over HTTP and on the command line: figures, codes and the care book's words."""

from __future__ import annotations

from collections.abc import Collection

from care.book import load_book
from care.faults.book import Counts, Symptom
from care.faults.case import Answered, Case, Cured, Noticed, Rests
from care.faults.cure import cure_of
from care.faults.hands import Hands
from care.faults.inference import Belief
from care.faults.subject import Heard, Probe, Subject, Suspect
from care.faults.verdict import Assessment, Stand
from care.vocabulary import Action, Column
from server.base.schema import Schema
from server.faults.probe_schemas import NextOut, _why, next_out

LEAST_SHOWN = 0.01
"""A suspect below this is not worth a line [-]."""


class SymptomOut(Schema):
    """Something that can be noticed: in words, and how it sounds and feels."""

    key: str
    name: str
    feel: str
    danger: str
    message: bool


class InfluenceOut(Schema):
    """That a record moved a suspect by so many bits."""

    suspect: str
    name: str
    record: str
    bits: float
    value: float | str


class SuspectOut(Schema):
    """What may be the cause: where it sits, its chance, and how it is put right or why it is handed over."""

    key: str
    name: str
    role: str
    station: str
    slot: str
    part: str
    p: float
    cure: list[str]
    action: Action | None
    at_the_bench: bool
    minutes: float
    wait_h: float
    cautions: list[str]
    hand_over: str
    meant: str
    stop: str
    reasons: list[str]
    beyond: bool


class TickOut(Schema):
    """Something that may be told unasked, with these symptoms, or with all; `danger`: it ends everything."""

    key: str
    words: str
    symptoms: list[str]
    danger: bool


class EndedByOut(Schema):
    """The danger that ended a search: what to do now, and who looks next."""

    key: str
    name: str
    now: str
    who: str


class MovedOut(Schema):
    """How far something moved one suspect."""

    suspect: str
    name: str
    before: float
    after: float


class TrailOut(Schema):
    """One thing told or done, in words, and what it did to the odds."""

    kind: str
    key: str
    name: str
    says: str
    moved: list[MovedOut]


class DoubtOut(Schema):
    """An answer that the others speak against."""

    probe: str
    name: str
    says: str
    expected: float


class AssessmentOut(Schema):
    """Where a case stands."""

    stand: Stand
    settled: bool
    danger: EndedByOut | None
    counts: Counts
    behind: bool
    about: list[SuspectOut]
    symptoms: list[SymptomOut]
    suspects: list[SuspectOut]
    stations: dict[str, float]
    influences: list[InfluenceOut]
    trail: list[TrailOut]
    next: list[NextOut]
    doubts: list[DoubtOut]
    ruled_out: list[str]


def assessment_out(case: Case, belief: Belief, now: Assessment, hands: Hands) -> AssessmentOut:
    """Everything a case says to this household, with the words of the book."""
    subject = case.subject
    odds = dict(now.odds)
    shown = [key for key, p in now.odds if p >= LEAST_SHOWN]
    return AssessmentOut(
        stand=now.verdict.stand,
        settled=now.verdict.settled,
        danger=_ended_by(now.verdict.danger),
        counts=now.verdict.counts,
        behind=now.verdict.behind,
        about=[suspect_out(subject.suspect(key), odds[key], hands, case.symptoms) for key in now.verdict.suspects],
        symptoms=[symptom_out(case.subject.symptom(key)) for key in case.symptoms],
        suspects=[suspect_out(subject.suspect(key), odds[key], hands, case.symptoms) for key in shown],
        stations=_stations(case, odds),
        influences=[
            InfluenceOut(
                suspect=one.suspect,
                name=subject.suspect(one.suspect).name,
                record=one.record,
                bits=round(one.bits, 2),
                value=one.value,
            )
            for one in sorted(now.influences, key=lambda one: -abs(one.bits))
        ],
        trail=_trail(case, belief),
        next=[next_out(one, case, hands, _why(one, now)) for one in now.next],
        doubts=[
            DoubtOut(
                probe=one.probe,
                name=subject.probe(one.probe).name,
                says=_words(subject.probe(one.probe), one.says),
                expected=round(one.expected, 3),
            )
            for one in now.doubts
        ],
        ruled_out=[subject.suspect(key).name for key in now.ruled_out],
    )


def symptom_out(one: Symptom) -> SymptomOut:
    """A symptom."""
    return SymptomOut(key=one.key, name=one.name, feel=one.feel, danger=one.danger, message=one.trust < 1)


def suspect_out(one: Suspect, p: float, hands: Hands, noticed: Collection[str] = ()) -> SuspectOut:
    """A suspect with its chance, and whether it lies further in than this household goes."""
    cure, slot = cure_of(one), one.at.slot
    beyond = not (one.fault.hand_over or one.fault.meant) and not hands.cures(one)
    return SuspectOut(
        key=one.key,
        name=one.name,
        role=one.at.role,
        station=one.at.station.key if one.at.station else "",
        slot=slot.key if slot else "",
        part=slot.name if slot else "",
        p=round(p, 4),
        cure=list(cure.words),
        action=cure.action,
        at_the_bench=cure.at_the_bench,
        minutes=cure.minutes,
        wait_h=cure.wait_h,
        cautions=[load_book().cautions[key].text for key in one.fault.cautions],
        hand_over=one.fault.hand_over,
        meant=one.fault.meant,
        stop=one.fault.stop,
        reasons=[shown.why for shown in one.fault.shows if shown.symptom in noticed],
        beyond=beyond,
    )


def _ended_by(key: str) -> EndedByOut | None:
    if not key:
        return None
    danger = load_book().dangers[key]
    return EndedByOut(key=key, name=danger.name, now=danger.now, who=danger.who)


def tick_out(one: Heard, subject: Subject) -> TickOut:
    """Something that may be told unasked."""
    check = subject.probe(one.probe).check
    ends = any(outcome.danger for outcome in check.outcomes if outcome.key == one.says)
    return TickOut(key=one.key, words=one.words, symptoms=list(one.symptoms), danger=ends)


def _stations(case: Case, odds: dict[str, float]) -> dict[str, float]:
    """The chance that the cause sits at each station, by its key, the dock's behind its role."""
    found: dict[str, float] = {}
    for suspect in case.subject.suspects:
        station = suspect.at.station
        if station and not (suspect.fault.key == "other" and station.column is Column.OFF_PATH):
            key = f"{suspect.at.role}:{station.key}" if suspect.at.role else station.key
            found[key] = found.get(key, 0.0) + odds[suspect.key]
    return {key: round(p, 4) for key, p in found.items()}


def _trail(case: Case, belief: Belief) -> list[TrailOut]:
    before: dict[str, float] = belief.at_first()
    trail = []
    for step in belief.steps():
        moved = sorted(step.odds, key=lambda key: -abs(step.odds[key] - before[key]))[:3]
        kind, key, name, says = _told(case, step.event)
        trail.append(
            TrailOut(
                kind=kind,
                key=key,
                name=name,
                says=says,
                moved=[
                    MovedOut(
                        suspect=one,
                        name=case.subject.suspect(one).name,
                        before=round(before[one], 3),
                        after=round(step.odds[one], 3),
                    )
                    for one in moved
                    if abs(step.odds[one] - before[one]) >= LEAST_SHOWN
                ],
            )
        )
        before = step.odds
    return trail


def _told(case: Case, event: object) -> tuple[str, str, str, str]:
    """An event as (kind, key, name, what it says)."""
    match event:
        case Noticed(key):
            return "noticed", key, case.subject.symptom(key).name, ""
        case Answered(key, says):
            probe = case.subject.probe(key)
            return "answered", key, probe.name, _words(probe, says)
        case Cured(key):
            return "cured", key, case.subject.suspect(key).name, ""
        case Rests(key):
            return "rests", key, case.subject.probe(key).name, ""
    return "retested", "", "", "gone" if getattr(event, "gone", False) else "still"


def _words(probe: Probe, says: str) -> str:
    """The words of an answer; the code itself for "can't tell"."""
    return next((o.words for o in probe.check.outcomes if o.key == says), says)
