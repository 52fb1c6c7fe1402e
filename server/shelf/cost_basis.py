"""What was told of machines: what they cost new, how long such ones serve, what an hour is worth, their guarantees."""

from datetime import date, timedelta
from uuid import UUID

from django.db import transaction
from pydantic import TypeAdapter

from care.errors import require
from care.shelf.costs import CostBasis
from server.household.models import Member
from server.household.services import require_writer, today_of
from server.logbook.models import Entry
from server.logbook.services import standing
from server.machines.services import machine_of
from server.shelf.models import WorthVersion
from server.shelf.services import journal_of

_basis: TypeAdapter[CostBasis] = TypeAdapter(CostBasis)


def basis_of(member: Member, machine_id: UUID) -> tuple[CostBasis, date | None]:
    """What was told of a machine's worth, and until when it is under guarantee."""
    row = standing(WorthVersion.objects.of(member.household_id).filter(machine_id=machine_id)).last()
    return (_basis.validate_python(row.value), row.guarantee_until) if row else (CostBasis(), None)


def guarantees(member: Member) -> dict[UUID, date]:
    """Until when machines are under guarantee, those that still are."""
    rows = standing(WorthVersion.objects.of(member.household_id))
    last = {row.machine_id: row.guarantee_until for row in rows}
    today = today_of(member)
    return {key: until for key, until in last.items() if until is not None and until >= today}


@transaction.atomic
def tell_worth(*, member: Member, machine_id: UUID, basis: CostBasis, guarantee_until: date | None) -> Entry:
    """What a machine cost, how long such a one serves, what an hour is worth, until when its guarantee runs."""
    require_writer(member)
    machine_of(member, machine_id)
    far = today_of(member) + timedelta(days=366 * 15)
    require(
        guarantee_until is None or guarantee_until <= far, "guarantee_until", guarantee_until, f"a day before {far}"
    )
    journal = journal_of(member.household_id, member.pk)
    return journal.tell(
        WorthVersion,
        machine_id=machine_id,
        value=_basis.dump_python(basis, mode="json"),
        guarantee_until=guarantee_until,
    )
