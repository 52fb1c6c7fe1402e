"""The filter log of a machine: each cleaning or renewal, how it was found before, by whom, and what comes next."""

from dataclasses import dataclass
from datetime import date
from uuid import UUID

from care.due_state import DueDate
from care.vocabulary import Action, Found
from server.due.state import machine_states
from server.household.models import Member
from server.logbook.services import standing
from server.machines.models import Inspection, Service
from server.machines.services import machine_of

WORK = [action for action in Action if action not in (Action.INSPECT, Action.SWAP)]
"""What cleans or renews a part."""


@dataclass(frozen=True, slots=True)
class LogLine:
    """A filter that was cleaned or renewed on a day, how it was found before if that was told, and by whom."""

    entry_id: UUID
    day: date
    slot: str
    slot_name: str
    item: str
    action: Action
    found: Found | None
    by: str


@dataclass(frozen=True, slots=True)
class NextWork:
    """What comes next at a filter; None where nothing tells when."""

    slot_name: str
    action: Action
    due: DueDate | None


@dataclass(frozen=True, slots=True)
class FilterLog:
    """All that was done to the filters of a machine, newest first, and what comes next at each, soonest first."""

    machine: str
    lines: list[LogLine]
    coming: list[NextWork]


def filter_log(member: Member, machine_id: UUID) -> FilterLog:
    """The whole filter log of a machine. Raises `NotFound`."""
    machine = machine_of(member, machine_id)
    [state] = machine_states(member, machine_id)
    names = {slot.key: slot.name for slot in state.machine.archetype.filters(state.machine.features)}
    of = {"machine": machine_id, "slot__in": list(names)}
    looks = standing(Inspection.objects.of(member.household_id).filter(**of))
    seen = {(row.item_id, row.about, row.entry.action_id): Found(row.found) for row in looks}
    done = standing(Service.objects.of(member.household_id).filter(**of, action__in=WORK))
    lines = [
        LogLine(
            row.entry_id,
            state.context.local_day(row.entry.happened_at),
            row.slot,
            names[row.slot],
            row.item.name,
            Action(row.action),
            seen.get((row.item_id, row.action, row.entry.action_id)),
            row.entry.by.name if row.entry.by else "",
        )
        for row in done.select_related("item", "entry__by")
    ]
    ahead = [due for due in state.due if due.slot in names and due.action in WORK]
    ahead.sort(key=lambda due: due.due_on or date.max)
    return FilterLog(machine.name, lines[::-1], [NextWork(names[d.slot], d.action, d.due) for d in ahead])
