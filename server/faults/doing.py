"""What a case records at its machines and takes back again."""

from datetime import date
from uuid import UUID

from care.faults.case import Answered, Cured
from care.faults.case import Case as CoreCase
from care.faults.cure import cure_of
from care.faults.subject import Subject
from care.vocabulary import Action
from server.faults import records
from server.faults.cases import CaseState
from server.faults.models import Case, CaseEvent
from server.household.models import Member
from server.logbook.models import Entry
from server.logbook.services import undo
from server.work.cases import note_task

Task = tuple[UUID, str, Action]


def task_of(row: Case, subject: Subject, suspect: str) -> Task | None:
    """The task that puts a suspect right: (machine, slot, action); none where no record is kept of it."""
    one = subject.suspect(suspect)
    machine_id, action = (row.dock_id if one.at.role else row.machine_id), cure_of(one).action
    return (machine_id, one.at.slot.key, action) if machine_id and one.at.slot and action else None


def _task_beside(row: Case, subject: Subject, answered: Answered) -> Task | None:
    """The task that was done to make a look, whatever it found: a bin is emptied to see its line."""
    probe = subject.probe(answered.probe)
    action = next((one.records for one in probe.check.outcomes if one.key == answered.says), "")
    machine_id = row.dock_id if probe.at.role else row.machine_id
    return (machine_id, probe.at.slot.key, Action(action)) if machine_id and probe.at.slot and action else None


def write_tasks(member: Member, before: CaseState, after: CoreCase, day: date | None) -> list[Entry]:
    """Record the tasks that were told as done by what is new in a case."""
    new = after.events[len(before.case.events) :]
    reported = [task_of(before.row, after.subject, e.suspect) for e in new if isinstance(e, Cured)]
    reported += [_task_beside(before.row, after.subject, e) for e in new if isinstance(e, Answered)]
    tasks = dict.fromkeys(reported)
    since = before.row.opened_at
    made = [
        note_task(member=member, machine_id=machine_id, slot_key=slot, action=action, since=since, day=day)
        for machine_id, slot, action in filter(None, tasks)
    ]
    return [entry for entry in made if entry is not None]


def unwrite(member: Member, state: CaseState) -> None:
    """Undo the tasks that the last event recorded; those that somebody undid already stay so."""
    events = CaseEvent.objects.of(member.household_id).filter(case=state.row).order_by("number")
    last = records.standing_events(events)[-1]
    stand = Entry.objects.of(member.household_id).filter(pk__in=last.wrote, voided_by=None)
    for entry in stand:
        undo(household_id=member.household_id, by_id=member.pk, entry_id=entry.pk)
