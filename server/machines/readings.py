"""How a machine pulls, as somebody felt it."""

from collections.abc import Iterable
from uuid import UUID

from django.db import transaction

from care.errors import require
from server.household.models import Member
from server.household.services import require_writer
from server.logbook.models import Entry
from server.logbook.services import Journal, standing
from server.machines.models import Reading
from server.machines.services import machine_of

WEAKEST, STRONGEST = 1, 5


@transaction.atomic
def feel_pull(*, member: Member, machine_id: UUID, felt: int, moment: str, sheet_id: UUID | None = None) -> Entry:
    """How it pulls at the floor, 1 to 5. Raises `InvalidValue`."""
    require_writer(member)
    require(WEAKEST <= felt <= STRONGEST, "felt", felt, "1 (hardly) to 5 (as new)")
    require(moment in Reading.Moment.values, "moment", moment, "before or after")
    machine = machine_of(member, machine_id)
    journal = Journal(member.household_id, by_id=member.pk, subject_id=machine.pk)
    entry = journal.write(Entry.Kind.READING, journal.entered_at)
    Reading.everything.create(
        entry=entry,
        household_id=member.household_id,
        machine=machine,
        felt=felt,
        moment=moment,
        sheet_id=sheet_id,
    )
    return entry


def pulls_of(member: Member, sheet_ids: Iterable[UUID]) -> dict[tuple[UUID, str], int]:
    """What was felt at these sheets that stands, by machine and moment; of several the last."""
    rows = standing(Reading.objects.of(member.household_id).filter(sheet_id__in=list(sheet_ids)))
    return {(machine_id, moment): felt for machine_id, moment, felt in rows.values_list("machine", "moment", "felt")}
