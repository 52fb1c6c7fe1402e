"""What machines said of themselves, read back."""

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from django.db.models import QuerySet

from server.faults.models import Said
from server.household.models import Member
from server.logbook.services import standing

SHOWN = 5
"""So many of the last things said are shown of a machine, or at a case."""


@dataclass(frozen=True, slots=True)
class Heard:
    """Something a machine said, and the case at which it stands."""

    entry_id: UUID
    machine_id: UUID
    machine: str
    code: str
    words: str
    at: datetime
    case_id: UUID | None


def said_at(member: Member, case_id: UUID) -> list[Heard]:
    """What was said at a case, the last first."""
    return _heard(Said.objects.of(member.household_id).filter(case_id=case_id))


def unheard(member: Member, since: datetime) -> list[Heard]:
    """What machines said since then that stands at no case, the last first."""
    return _heard(Said.objects.of(member.household_id).filter(case_id=None, entry__happened_at__gte=since))


def _heard(rows: QuerySet[Said]) -> list[Heard]:
    return [
        Heard(row.pk, row.machine_id, row.machine.name, row.code, row.words, row.entry.happened_at, row.case_id)
        for row in standing(rows).select_related("machine", "entry").reverse()[:SHOWN]
    ]
