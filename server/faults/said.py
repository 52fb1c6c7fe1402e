"""What machines say of themselves: it opens a case, or stands at the one that is open, in the machine's own words."""

from dataclasses import dataclass
from datetime import datetime, timedelta
from uuid import UUID, uuid4

from django.db import transaction

from care.vocabulary import Says
from server.base import clock
from server.due.dangers import put_right_since
from server.due.dangers import tell as tell_danger
from server.faults.cases import case_state
from server.faults.models import Case, CaseEvent, Said
from server.faults.services import NewEvent, open_case, tell
from server.faults.subjects import KnownMachine, known
from server.household.models import Member
from server.household.services import journal_by, require_writer
from server.logbook.models import Entry

STALE = timedelta(days=2)
"""What comes so late opens no case any more: it may be long over. Ours."""


@dataclass(frozen=True, slots=True)
class Message:
    """What a machine says at an instant: a word of ours, or none, and its own words."""

    at: datetime
    code: Says | None = None
    words: str = ""


@transaction.atomic
def hear(*, member: Member, machine_id: UUID, message: Message, entry_id: UUID) -> Entry:
    """Keep what a machine says; where its word is something that is looked for, a case of it is opened or goes on.

    Something said before the last case ended, or days ago, is only kept. A danger puts the machine out of use at once,
    however late it comes and however often it was said, unless it was put right since.

    Raises `NotFound`, `Conflict` for a machine that is put away.
    """
    require_writer(member)
    about = known(member, machine_id)
    case_id = _at_case(member, about, message)
    danger = next((s.out_of_use for s in about.subject.symptoms if message.code in s.said_as), "")
    if danger and not put_right_since(member, about.machines[0].id, danger, message.at):
        tell_danger(member=member, machine_id=about.machines[0].id, danger=danger)
    journal = journal_by(member, machine_id)
    fields = {"code": message.code or "", "words": message.words, "case_id": case_id}
    return journal.tell(Said, message.at, entry_id=entry_id, machine_id=machine_id, **fields)


def _at_case(member: Member, about: KnownMachine, message: Message) -> UUID | None:
    symptom = next((s.key for s in about.subject.symptoms if message.code in s.said_as), None)
    mine = about.machines[0].id
    cases = Case.objects.of(member.household_id).filter(machine_id=mine)
    row = cases.filter(status=Case.Status.OPEN).first()
    if row is not None:
        if symptom is not None and symptom not in (state := case_state(member, row.pk)).case.symptoms:
            tell(
                member=member,
                case_id=row.pk,
                event=NewEvent(uuid4(), state.event_count, CaseEvent.Kind.NOTICED, symptom),
            )
        return UUID(str(row.pk))
    over = cases.filter(closed_at__gte=message.at).exists() or message.at < clock.now() - STALE
    if symptom is None or over:
        return None
    return UUID(str(open_case(member=member, case_id=uuid4(), machine_id=mine, symptoms=[symptom]).row.pk))
