"""What happened to a machine, newest first, for its page."""

from dataclasses import dataclass
from datetime import date, datetime
from uuid import UUID

from server.household.models import Member
from server.logbook.services import standing
from server.machines.models import Inspection, Run, Service
from server.machines.state import MachineState


@dataclass(frozen=True, slots=True)
class HistoryLine:
    """A line of a machine's history, newest first."""

    entry_id: UUID
    kind: str
    at: datetime
    day: date
    by: str
    slot: str = ""
    item: str = ""
    action: str = ""
    found: str = ""
    minutes: float | None = None
    provenance: str = ""


def history(member: Member, state: MachineState, most: int = 40) -> list[HistoryLine]:
    """What happened to a machine: the latest runs, services and findings that stand (`most` of each), newest first."""
    household_id, machine_id = member.household_id, state.machine.id
    lines: list[HistoryLine] = []
    for run in _latest(Run.objects.of(household_id).filter(machine=machine_id), most):
        lines.append(_line(run, state, minutes=run.run_s / 60, provenance=run.provenance, day=run.day))
    for service in _latest(Service.objects.of(household_id).filter(machine=machine_id).select_related("item"), most):
        lines.append(_line(service, state, slot=service.slot, item=service.item.name, action=service.action))
    for saw in _latest(Inspection.objects.of(household_id).filter(machine=machine_id).select_related("item"), most):
        lines.append(_line(saw, state, slot=saw.slot, item=saw.item.name, action=saw.about, found=saw.found))
    return sorted(lines, key=lambda line: line.at, reverse=True)


def _latest(rows, most: int):  # type: ignore[no-untyped-def]
    return standing(rows).select_related("entry__by").order_by("-entry__happened_at", "-entry__sequence")[:most]


def _line(row: Run | Service | Inspection, state: MachineState, **more: object) -> HistoryLine:
    entry = row.entry
    values = {"day": state.context.local_day(entry.happened_at), **more}
    return HistoryLine(
        entry_id=entry.pk,
        kind=entry.kind,
        at=entry.happened_at,
        by=entry.by.name if entry.by else "",
        **values,  # type: ignore[arg-type]
    )
