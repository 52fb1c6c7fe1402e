"""Machines that ran by their own word while a part that they need was out."""

from dataclasses import dataclass
from datetime import datetime, timedelta
from uuid import UUID

from care.model import Provenance
from server.base import clock
from server.household.models import Member
from server.logbook.services import standing
from server.machines.models import Fitting, Machine, Run
from server.machines.services import as_fitted

SHOWN_FOR = timedelta(days=3)
"""So long after it ran it is told, while the part is still out. Ours."""


@dataclass(frozen=True, slots=True)
class RanWithout:
    """A machine that ran since a part that it needs is out: which part, how often, when last."""

    machine_id: UUID
    machine: str
    part: str
    times: int
    last: datetime


def ran_without(member: Member) -> list[RanWithout]:
    """What ran without a part that it needs, and has none in its place yet."""
    rows = Run.objects.of(member.household_id).filter(
        provenance=Provenance.MEASURED, entry__happened_at__gte=clock.now() - SHOWN_FOR, start__isnull=False
    )
    machines = {row.machine for row in standing(rows).select_related("machine")}
    found = []
    for machine in sorted(machines, key=lambda one: one.name):
        if machine.status == Machine.Status.IN_USE:
            fitted = as_fitted(member, machine.pk)
            found += [_since(machine, key, fitted.archetype.slot(key).name) for key in fitted.empty_slots]
    return [one for one in found if one is not None]


def _since(machine: Machine, slot: str, name: str) -> RanWithout | None:
    last = Fitting.objects.of(machine.household_id).filter(machine=machine, slot=slot).order_by("-end").first()
    if last is None or last.end is None:
        return None
    rows = Run.objects.of(machine.household_id).filter(machine=machine, provenance=Provenance.MEASURED)
    runs = list(standing(rows.filter(start__gte=last.end)))
    if not runs or runs[-1].start is None:
        return None
    return RanWithout(machine.pk, machine.name, name, len(runs), runs[-1].start)
