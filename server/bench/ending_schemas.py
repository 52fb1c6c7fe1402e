"""What the end of a sitting gives: what changed, and the sheets that were finished."""

from datetime import date, datetime, timedelta
from uuid import UUID

from server.base.schema import Schema
from server.bench.ending import Change, Ending
from server.bench.models import Sheet as Row
from server.bench.records import thaw
from server.bench.schemas import SheetOut, sheet_out
from server.bench.sheets import OnSheet
from server.due.schemas import ItemOut, StateOut, item_out, state_out
from server.household.services import pace_of


class ChangeOut(Schema):
    """What a sitting changed."""

    machine_id: UUID
    machine_name: str
    slot_name: str
    now_in: str | None
    before: StateOut | None
    after: StateOut


class EndingOut(Schema):
    """A finished sitting."""

    today: date
    sheet: SheetOut
    changes: list[ChangeOut]
    on_rack: list[ItemOut]


class EndedSheetOut(Schema):
    """A finished sheet in one line: how long it took from its making [min], and its parts."""

    id: UUID
    machines: list[str]
    ended_at: datetime
    took_min: float
    by: str
    parts: list[str]


def ended_sheet_out(row: Row) -> EndedSheetOut:
    """A finished sheet in one line."""
    assert row.ended_at is not None
    steps = thaw(row).sheet.steps
    return EndedSheetOut(
        id=row.pk,
        machines=[machine.name for machine in row.machines.all()],
        ended_at=row.ended_at,
        took_min=(row.ended_at - row.made_at) / timedelta(minutes=1),
        by=row.made_by.name if row.made_by else "",
        parts=list(dict.fromkeys(step.item_name for step in steps if step.slot and step.item_name)),
    )


def _change_out(change: Change, on: OnSheet, pace: float) -> ChangeOut:
    return ChangeOut(
        machine_id=change.machine_id,
        machine_name=on.name,
        slot_name=on.archetype.slot(change.slot).name,
        now_in=change.now_in,
        before=state_out(change.before, on.archetype, pace) if change.before else None,
        after=state_out(change.after, on.archetype, pace),
    )


def ending_out(ending: Ending, today: date) -> EndingOut:
    """A finished sitting as the API gives it."""
    pace, _ = pace_of(ending.sheet.row.household_id)
    changes = [_change_out(change, ending.sheet.machines[change.machine_id], pace) for change in ending.changes]
    return EndingOut(
        today=today, sheet=sheet_out(ending.sheet), changes=changes, on_rack=[item_out(i) for i in ending.on_rack]
    )
