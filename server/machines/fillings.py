"""What is on record of the bags and bins of machines."""

from datetime import datetime

from care.kinds import Found
from care.shelf.fillings import EMPTYING, Past
from server.household.models import Member
from server.logbook.services import standing
from server.machines.models import Inspection, Service
from server.machines.state import MachineState


def filled(member: Member, state: MachineState, slot: str) -> Past:
    """When a bag or bin was emptied and how it was found, oldest first."""
    of = {"machine": state.machine.id, "slot": slot}
    done = standing(Service.objects.of(member.household_id).filter(**of, action__in=EMPTYING))
    saw = standing(Inspection.objects.of(member.household_id).filter(**of, about__in=EMPTYING))
    looks: list[tuple[datetime, Found]] = [(row.entry.happened_at, Found(row.found)) for row in saw]
    first = min((f.start for f in state.fittings if f.slot == slot), default=state.context.now)
    return Past(first, [row.entry.happened_at for row in done], looks)
