"""The filter log over HTTP."""

from dataclasses import dataclass
from datetime import date
from uuid import UUID

from care.vocabulary import Action, Found
from server.base.schema import Schema
from server.due.schemas import DueOut, due_out
from server.work.filterlog import FilterLog


class FilterLineOut(Schema):
    """A filter that was cleaned or renewed, how it was found before if that was told, and by whom."""

    entry_id: UUID
    day: date
    slot_name: str
    item: str
    action: Action
    found: Found | None
    by: str


class FilterNextOut(Schema):
    """What comes next at a filter, and when."""

    slot_name: str
    action: Action
    due: DueOut | None


class FilterLogOut(Schema):
    """The filter log of a machine, newest first, what comes next, and until when the machine is under guarantee."""

    machine_id: UUID
    machine: str
    today: date
    guarantee_until: date | None
    lines: list[FilterLineOut]
    coming: list[FilterNextOut]


def filter_log_out(log: FilterLog, machine_id: UUID, today: date, guarantee_until: date | None) -> FilterLogOut:
    """The filter log."""
    return FilterLogOut(
        machine_id=machine_id,
        machine=log.machine,
        today=today,
        guarantee_until=guarantee_until,
        lines=[FilterLineOut(**{key: getattr(line, key) for key in FilterLineOut.model_fields}) for line in log.lines],
        coming=[FilterNextOut(slot_name=one.slot_name, action=one.action, due=due_out(one.due)) for one in log.coming],
    )


@dataclass(frozen=True, slots=True)
class FilterRow:
    """A line of the filter log to take away; its fields are the columns."""

    date: str
    machine: str
    place: str
    part: str
    action: str
    found_before: str
    person: str
