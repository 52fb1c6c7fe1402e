"""Rows of a case to the core's values and back."""

from collections.abc import Iterable
from datetime import datetime, timedelta
from typing import Any

from care.faults.answering import answered
from care.faults.background import Influence
from care.faults.case import CANT_TELL, Answered, Case, Cured, Event, Noticed, Rests, Retested
from care.faults.subject import Subject
from server.base import clock
from server.faults import models

GONE, STILL = "gone", "still"
AT_THE_BENCH = "sheet"
"""What a cure says that a bench sheet led through."""


def standing_events(rows: Iterable[models.CaseEvent]) -> list[models.CaseEvent]:
    """The events that count: each step back takes the last one away."""
    kept: list[models.CaseEvent] = []
    for row in rows:
        if row.kind != models.CaseEvent.Kind.BACK:
            kept.append(row)
        elif kept:
            kept.pop()
    return kept


def to_case(subject: Subject, rows: Iterable[models.CaseEvent]) -> Case:
    """The case that these events make; what the book no longer has is passed over."""
    case = Case(subject, ())
    probes = {probe.key: {o.key for o in probe.check.outcomes} | {CANT_TELL} for probe in subject.probes}
    rests = {probe.key for probe in subject.probes if probe.check.rests}
    suspects, symptoms = {s.key for s in subject.suspects}, {s.key for s in subject.symptoms}
    for row in rows:
        known = {
            models.CaseEvent.Kind.NOTICED: row.key in symptoms,
            models.CaseEvent.Kind.ANSWERED: row.says in probes.get(row.key, ()),
            models.CaseEvent.Kind.CURED: row.key in suspects,
            models.CaseEvent.Kind.RESTS: row.key in rests,
        }.get(models.CaseEvent.Kind(row.kind), True)
        if known and row.kind == models.CaseEvent.Kind.RESTS:
            case = case.with_event(Rests(row.key, rests_until(subject, row) <= clock.now()))
        elif known:
            case = then(case, to_event(row.kind, row.key, row.says))
    return case


def rests_until(subject: Subject, row: models.CaseEvent) -> datetime:
    """When what a check has to wait for is over."""
    return row.at + timedelta(minutes=subject.probe(row.key).check.wait_min)


def to_event(kind: str, key: str, says: str) -> Event:
    """One event of the core."""
    match kind:
        case models.CaseEvent.Kind.NOTICED:
            return Noticed(key)
        case models.CaseEvent.Kind.ANSWERED:
            return Answered(key, says)
        case models.CaseEvent.Kind.CURED:
            return Cured(key)
        case models.CaseEvent.Kind.RESTS:
            return Rests(key)
    return Retested(says == GONE)


def then(case: Case, event: Event) -> Case:
    """The case with one more event. Raises `InvalidValue` for what the machine does not have."""
    return answered(case, event.probe, event.says) if isinstance(event, Answered) else case.with_event(event)


def freeze(moved: Iterable[Influence]) -> list[dict[str, Any]]:
    """Influences as JSON."""
    return [{"suspect": m.suspect, "record": m.record, "bits": m.bits, "value": m.value} for m in moved]


def thaw(frozen: Iterable[dict[str, Any]], subject: Subject) -> list[Influence]:
    """Influences from JSON, those of suspects that there still are."""
    known = {suspect.key for suspect in subject.suspects}
    return [Influence(**one) for one in frozen if one["suspect"] in known]
