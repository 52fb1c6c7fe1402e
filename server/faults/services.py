"""Use cases of the fault finder: open a case, tell what is seen, go back, close it."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, timedelta
from uuid import UUID, uuid4, uuid5

from django.db import transaction
from django.dispatch import receiver

from care.errors import require
from care.faults.airflow import At
from care.faults.answering import danger_told
from care.faults.background import influences
from care.faults.case import Case as CoreCase
from care.faults.case import Cured, Event, by_gauge
from care.faults.effects import Sign
from care.faults.next_check import free_looks
from care.faults.subject import DOCK, Probe
from care.faults.verdict import Stand
from care.units import SUCTION, Quantity
from server.base import clock
from server.base.problems import Conflict, NotFound
from server.bench.sheets import SheetState, cases_of_actions
from server.bench.signals import finished, opening_for_case
from server.due.dangers import tell as tell_danger
from server.faults import records
from server.faults.cases import CaseState, case_state, state_of_row
from server.faults.doing import task_of, unwrite, write_tasks
from server.faults.models import Case, CaseEvent
from server.faults.subjects import KnownMachine, known, on_record, records_of
from server.household.models import Member
from server.household.services import require_writer
from server.logbook.models import Entry
from server.logbook.signals import voided
from server.notes.readings import Figure, clean_suction, take
from server.work.cases import write_case


@dataclass(frozen=True, slots=True)
class NewEvent:
    """An event as a device sends it: its id, how many it knew of, and what; or a gauge's reading in kPa.

    `day` is the local day on which something was put right, today if none is given.
    """

    event_id: UUID
    after: int
    kind: str
    key: str = ""
    says: str = ""
    kpa: float | None = None
    clean_kpa: float | None = None
    day: date | None = None


@transaction.atomic
def open_case(
    *, member: Member, case_id: UUID, machine_id: UUID, symptoms: Iterable[str], unasked: Iterable[str] = ()
) -> CaseState:
    """A case of a machine with what is noticed and what is told `unasked`; of a dock, one of its robot.

    The same id again gives it as it stands. Raises `InvalidValue` for a symptom it cannot show, `Conflict` when a case
    of it is open.
    """
    require_writer(member)
    if Case.objects.of(member.household_id).filter(pk=case_id).exists():
        return case_state(member, case_id)
    about = known(member, machine_id)
    noticed = list(dict.fromkeys(symptoms))
    require(bool(noticed), "symptoms", "none", "at least one thing that is noticed")
    for key in noticed:
        about.subject.symptom(key)
    heard = [about.subject.tick(key) for key in dict.fromkeys((*unasked, *on_record(member, about)))]
    begins = [(CaseEvent.Kind.NOTICED, key, "") for key in noticed]
    begins += [(CaseEvent.Kind.ANSWERED, one.probe, one.says) for one in heard]
    mine, *docks = about.machines
    if Case.objects.of(member.household_id).filter(machine_id=mine.id, status=Case.Status.OPEN).exists():
        raise Conflict("A case of this machine is open.", field="machine_id", fix="Go on with it, or close it first.")
    if Case.everything.filter(pk=case_id).exists():
        raise NotFound("case: this id is not yours", field="id", fix="Open the case again.")
    row = Case.everything.create(
        id=case_id,
        household_id=member.household_id,
        machine_id=mine.id,
        dock_id=docks[0].id if docks else None,
        influences=records.freeze(influences(about.subject, records_of(member, about.machines, noticed))),
        opened_at=clock.now(),
        opened_by_id=member.pk,
    )
    CaseEvent.everything.bulk_create(
        CaseEvent(
            id=_id_of(case_id, number),
            household_id=member.household_id,
            case=row,
            number=number,
            kind=kind,
            key=key,
            says=says,
            at=row.opened_at,
            by_id=member.pk,
        )
        for number, (kind, key, says) in enumerate(begins)
    )
    state = case_state(member, case_id)
    _end_by_danger(member, state, state.case.events)
    return state


def _end_by_danger(member: Member, state: CaseState, events: Iterable[Event]) -> None:
    """Put the machine out of use at once where what was told is a danger."""
    for event in events:
        if (found := danger_told(state.known.subject, event)) is None:
            continue
        role, danger = found
        at = state.known.machines[1 if role == DOCK and len(state.known.machines) > 1 else 0].id
        tell_danger(member=member, machine_id=at, danger=danger)


def _id_of(case_id: UUID, number: int) -> UUID:
    """An id for what the server itself tells of a case, the same each time."""
    return uuid5(case_id, str(number))


FRESH = timedelta(days=60)
"""What was looked at in a case that was opened so lately counts as looked at. Ours."""


def cheap_looks(member: Member, about: KnownMachine) -> list[Probe]:
    """What costs next to nothing to look at, and nobody looked at lately, before a machine is given up."""
    lately = {"machine_id": about.machines[0].id, "opened_at__gte": clock.now() - FRESH}
    rows = Case.objects.of(member.household_id).filter(**lately)
    answers = CaseEvent.objects.of(member.household_id).filter(case__in=rows, kind=CaseEvent.Kind.ANSWERED)
    return free_looks(about.subject, set(answers.values_list("key", flat=True)), about.hands)


@transaction.atomic
def tell(*, member: Member, case_id: UUID, event: NewEvent) -> CaseState:
    """One more thing told or done, or one step back. Sent twice, it counts once.

    Raises `Conflict` when somebody else told something meanwhile or the case is closed, `InvalidValue` for an answer
    that the check does not have or a reading that cannot be.
    """
    require_writer(member)
    state = case_state(member, case_id)
    if CaseEvent.objects.of(member.household_id).filter(pk=event.event_id, case=state.row).exists():
        return state
    _refuse_closed(state.row)
    if event.after != state.event_count:
        raise Conflict(
            "Somebody else went on with this case meanwhile.", field="after", fix="Look where it stands now."
        )
    require(event.kind in CaseEvent.Kind.values, "kind", event.kind, ", ".join(CaseEvent.Kind.values))
    says, wrote = event.says, list[Entry]()
    if event.kind == CaseEvent.Kind.BACK:
        require(state.event_count > 1, "kind", "back", "something told before it")
        unwrite(member, state)
    else:
        if event.kpa is not None:
            says = _read(member, state, event)
        after = _checked(state, event, says)
        wrote = write_tasks(member, state, after, event.day)
        _end_by_danger(member, state, after.events[len(state.case.events) :])
    return _keep(member, state, event, says, wrote)


def _keep(member: Member, state: CaseState, event: NewEvent, says: str, wrote: Iterable[Entry] = ()) -> CaseState:
    CaseEvent.everything.create(
        id=event.event_id,
        household_id=member.household_id,
        case=state.row,
        number=state.event_count,
        kind=event.kind,
        key=event.key,
        says=says,
        wrote=[str(entry.pk) for entry in wrote],
        at=clock.now(),
        by_id=member.pk,
    )
    return state_of_row(member, state.row, state.known)


def _checked(state: CaseState, event: NewEvent, says: str) -> CoreCase:
    if event.kind == CaseEvent.Kind.RETESTED:
        require(says in (records.GONE, records.STILL), "says", says, "gone or still")
    return records.then(state.case, records.to_event(event.kind, event.key, says))


@receiver(opening_for_case)
def _refuse_a_case_of_others(member: Member, case_id: UUID, machines: frozenset[UUID], **_: object) -> None:
    """A sheet puts right a case of one of its own machines that is open."""
    row: Case = Case.objects.one(member.household_id, case_id, "case")
    if row.status != Case.Status.OPEN or not machines & {row.machine_id, row.dock_id}:
        raise Conflict("case_id: this case is closed, or of another machine", field="case_id", fix="Open it again.")


@receiver(finished)
def _put_right_at_the_bench(member: Member, sheet: SheetState, **_: object) -> None:
    """A sheet that was opened for a case and did the task it waits for: the case goes on to its try."""
    row = Case.objects.of(member.household_id).filter(pk=sheet.row.case_id, status=Case.Status.OPEN).first()
    if row is None:
        return
    state = case_state(member, row.pk)
    verdict, done = state.now.verdict, sheet.progress.done
    waits = verdict.suspects[0] if verdict.stand in (Stand.CURE, Stand.TRY) else None
    did = {(sheet.sheet.machine_of(d.item_id), d.slot, d.action) for d in done}
    if waits is not None and task_of(row, state.known.subject, waits) in did:
        event = NewEvent(uuid4(), state.event_count, CaseEvent.Kind.CURED, waits)
        _keep(member, state, event, records.AT_THE_BENCH)


@receiver(voided)
def _no_longer_put_right(household_id: UUID, action: list[Entry], **_: object) -> None:
    """The sheet that put a case right was undone: the case waits for its cure again, unless it went on since."""
    ids = cases_of_actions(household_id, {entry.action_id for entry in action})
    for row in Case.objects.of(household_id).filter(pk__in=ids, status=Case.Status.OPEN):
        events = list(row.events.order_by("number"))
        last = records.standing_events(events)[-1]
        if (last.kind, last.says) == (CaseEvent.Kind.CURED, records.AT_THE_BENCH):
            CaseEvent.everything.create(
                id=uuid4(),
                household_id=household_id,
                case=row,
                number=len(events),
                kind=CaseEvent.Kind.BACK,
                at=clock.now(),
            )


def gauged_on(probe: Probe) -> At:
    """What a gauge draws on for this check."""
    return {Sign.SEALED: At.SEALED, Sign.GAUGE_ORIFICE: At.ORIFICE}.get(probe.check.sign or Sign.GAUGE_OPEN, At.OPEN)


def _read(member: Member, state: CaseState, event: NewEvent) -> str:
    """What a gauge's reading answers; the reading stands in the machine's records."""
    probe = state.known.subject.probe(event.key)
    opening = gauged_on(probe)
    on_record = clean_suction(member, state.row.machine_id, opening)
    clean = event.clean_kpa or (SUCTION.in_unit(on_record, "kPa") if on_record else None)
    require(clean is not None, "clean_kpa", "none", "what it read when all was well")
    now = event.kpa or 0.0
    says = by_gauge(probe, now, clean or 0.0).says
    figure = Figure(Quantity.SUCTION, now, "kPa", opening, case_id=state.row.pk)
    take(member=member, machine_id=state.row.machine_id, figure=figure)
    return says


def _refuse_closed(row: Case) -> None:
    if row.status != Case.Status.OPEN:
        raise Conflict("This case is closed.", field="case", fix="Open a new one.")


@transaction.atomic
def close(*, member: Member, case_id: UUID, reason: str = "") -> CaseState:
    """Close a case and write its record; closed again, it stands as it is.

    Raises `InvalidValue` where it is not settled and no reason is given: nothing was tried after the work.
    """
    require_writer(member)
    state = case_state(member, case_id)
    if state.row.status == Case.Status.CLOSED:
        return state
    stand = state.now.verdict.stand
    settled = state.now.verdict.settled
    require(settled or bool(reason.strip()), "reason", repr(reason), "why it ends here without a try after the work")
    subject = state.known.subject
    causes = state.now.verdict.suspects if settled else _cured(state)
    entry = write_case(
        member=member,
        machine_id=state.row.machine_id,
        case_id=state.row.pk,
        symptoms=[{"key": key, "name": subject.symptom(key).name} for key in state.case.symptoms],
        causes=[{"key": key, "name": subject.suspect(key).name} for key in causes],
        stand=stand if settled else "left",
        reason=reason.strip(),
    )
    Case.objects.of(member.household_id).filter(pk=case_id).update(
        status=Case.Status.CLOSED, closed_at=clock.now(), record=entry
    )
    return case_state(member, case_id)


def _cured(state: CaseState) -> tuple[str, ...]:
    return tuple(dict.fromkeys(e.suspect for e in state.case.events if isinstance(e, Cured)))
