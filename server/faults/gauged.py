"""A gauge that reports by itself answers the check that the open case asks for."""

from datetime import datetime, timedelta
from uuid import UUID

from django.db import transaction

from care.errors import InvalidValue
from care.faults.airflow import At
from care.faults.effects import Sign
from care.faults.subject import Probe
from care.units import SUCTION
from server.base import clock
from server.faults.cases import case_state
from server.faults.models import Case, CaseEvent
from server.faults.services import NewEvent, gauged_on, tell
from server.household.models import Member
from server.logbook.models import Entry

FRESH = timedelta(minutes=30)
"""A reading that is older answers no check any more. Ours."""


@transaction.atomic
def answer_check(
    *, member: Member, machine_id: UUID, value: float, unit: str, opening: At, at: datetime, event_id: UUID
) -> Entry | None:
    """A reading as the answer of a check that the machine's open case may ask next; it stands in the records as well.

    None where no case asks for such a one, or nobody ever told what it reads when all is well. Raises `InvalidValue`.
    """
    kpa = SUCTION.in_unit(SUCTION.accepted(value, unit), "kPa")
    row = Case.objects.of(member.household_id).filter(machine_id=machine_id, status=Case.Status.OPEN).first()
    if row is None or at < row.opened_at or at < clock.now() - FRESH:
        return None
    state = case_state(member, row.pk)
    key = next((one.probe.key for one in state.now.next if _is_for(one.probe, opening)), None)
    if key is None:
        return None
    try:
        tell(
            member=member,
            case_id=row.pk,
            event=NewEvent(event_id, state.event_count, CaseEvent.Kind.ANSWERED, key, kpa=kpa),
        )
    except InvalidValue:
        return None
    last: Entry | None = Entry.objects.of(member.household_id).order_by("sequence").last()
    return last


def _is_for(probe: Probe, opening: At) -> bool:
    by_gauge = probe.check.sign in (Sign.SEALED, Sign.GAUGE_ORIFICE, Sign.GAUGE_OPEN)
    return by_gauge and gauged_on(probe) is opening
