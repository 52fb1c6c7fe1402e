"""What Round takes and gives."""

import json
from datetime import date, datetime
from typing import Any
from uuid import UUID

from care.season import ChoreKey, DueNow, spared_min, waits
from care.vocabulary import Action
from server.base import clock
from server.base.schema import Schema
from server.bench.schemas import OpenSheetOut, open_sheet_out
from server.drying.rack import OnRack
from server.due.schemas import ItemOut, TaskOut, item_out
from server.due.strip_schemas import StripOut
from server.household.models import Member
from server.household.services import today_of
from server.notes.services import Reminder
from server.round.board import Round
from server.round.page_schemas import MachineOut


class RackOut(Schema):
    """A part on the rack."""

    item: ItemOut
    machine_id: UUID
    machine_name: str
    slot_name: str
    slot_empty: bool


class RecordAtFaultOut(Schema):
    """A record that is at fault."""

    entry_id: UUID
    kind: str
    at: datetime
    by: str


class MachineAtFaultOut(Schema):
    """A machine that cannot be worked out, what was said of it, and the record without which it could."""

    machine_id: UUID
    machine_name: str
    detail: str
    entry: RecordAtFaultOut | None


class ReminderOut(Schema):
    """Something that somebody wanted to be reminded of, until it is told that it is done."""

    entry_id: UUID
    machine_id: UUID
    machine_name: str
    text: str
    on: date


class LaterOut(Schema):
    """A due task that waits for its visit, and when that is."""

    machine_id: UUID
    slot: str
    action: Action
    on: date


class AheadOut(Schema):
    """Visits: today's minutes by the plan (None: no visit today), the next day with one, what of the due waits for its
    visit, and the minutes that are spared meanwhile [min]. `stale` tells that the plan is to be made anew.
    """

    today_min: float | None
    next_on: date | None
    next_min: float
    later: list[LaterOut]
    later_min: float
    stale: bool


class RoundOut(Schema):
    """The whole household at one moment."""

    now: datetime
    today: date
    minutes: float
    small_min: float
    due: list[TaskOut]
    due_count: int
    coming: list[TaskOut]
    put_off: list[TaskOut]
    machines: list[StripOut]
    rack: list[RackOut]
    sheets: list[OpenSheetOut]
    faults: list[MachineAtFaultOut]
    reminders: list[ReminderOut]
    ahead: AheadOut | None


def round_json(member: Member, round_: Round) -> str:
    """A `RoundOut` as JSON text. The machines' strips are stored as such and go through as they are."""
    rest = {
        "now": clock.now().isoformat(),
        "today": today_of(member).isoformat(),
        "minutes": round_.minutes,
        "small_min": round_.small_min,
        "due": round_.due,
        "due_count": round_.due_count,
        "coming": round_.coming,
        "put_off": round_.put_off,
        "rack": [_on_rack(on).model_dump(mode="json") for on in round_.rack],
        "sheets": [open_sheet_out(state).model_dump(mode="json") for state in round_.sheets],
        "faults": round_.faults,
        "reminders": [_reminder(one).model_dump(mode="json") for one in round_.reminders],
        "ahead": ahead.model_dump(mode="json") if (ahead := _ahead(member, round_)) else None,
    }
    return f'{json.dumps(rest)[:-1]}, "machines": [{", ".join(stand.strip for stand in round_.rows)}]}}'


def _ahead(member: Member, round_: Round) -> AheadOut | None:
    plan = round_.ahead
    if plan is None:
        return None
    due = [_due_now(task) for task in round_.due]
    waiting = waits(due, plan.comes_on, today_of(member))
    return AheadOut(
        today_min=plan.today_min,
        next_on=plan.next_on,
        next_min=plan.next_min,
        later=[LaterOut(**key._asdict(), on=on) for key, on in waiting.items()],
        later_min=spared_min(due, waiting, {row.machine_id: row.small_min for row in round_.rows}),
        stale=plan.stale,
    )


def _due_now(task: dict[str, Any]) -> DueNow:
    key = ChoreKey(UUID(task["machine_id"]), task["slot"], Action(task["action"]))
    return DueNow(key, task["small"], task["taken"] is not None, task["effort_min"])


def _reminder(one: Reminder) -> ReminderOut:
    return ReminderOut.model_validate(one, from_attributes=True)


def written_json(entry_id: UUID | None, round_: str, machine: MachineOut | None) -> str:
    """A `Written` as JSON text."""
    page = machine.model_dump_json() if machine else "null"
    return f'{{"entry_id": {json.dumps(entry_id and str(entry_id))}, "round": {round_}, "machine": {page}}}'


def _on_rack(on: OnRack) -> RackOut:
    return RackOut(
        item=item_out(on.item),
        machine_id=on.machine_id,
        machine_name=on.machine_name,
        slot_name=on.slot_name,
        slot_empty=on.slot_empty,
    )


class Written(Schema):
    """The answer to everything that is recorded: the household after it, and the entry to undo."""

    entry_id: UUID | None
    round: RoundOut
    machine: MachineOut | None = None
