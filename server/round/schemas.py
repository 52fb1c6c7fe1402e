"""What Round takes and gives."""

import json
from datetime import date, datetime
from typing import Any, Literal
from uuid import UUID

from care.due.usage import AtDock, Schedule, every_so_many_days, weekly
from care.errors import require
from care.kinds import Action, Found, Gone, LoadKind, Mishap, Silence
from care.model import Why
from server.bench.schemas import OpenSheetOut, open_sheet_out
from server.config import bounds, clock
from server.config.schema import Schema
from server.household.models import Member
from server.household.services import today_of
from server.machines.notes import Reminder
from server.machines.rack import OnRack
from server.machines.schemas import ItemOut, MachineOut, StripOut, TaskOut, item_out
from server.round.board import Round


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


class RoundOut(Schema):
    """The whole household at one moment."""

    now: datetime
    today: date
    minutes: float
    due: list[TaskOut]
    due_count: int
    coming: list[TaskOut]
    put_off: list[TaskOut]
    machines: list[StripOut]
    rack: list[RackOut]
    sheets: list[OpenSheetOut]
    faults: list[MachineAtFaultOut]
    reminders: list[ReminderOut]


def round_json(member: Member, round_: Round) -> str:
    """A `RoundOut` as JSON text. The machines' strips are stored as such and go through as they are."""
    rest = {
        "now": clock.now().isoformat(),
        "today": today_of(member).isoformat(),
        "minutes": round_.minutes,
        "due": round_.due,
        "due_count": round_.due_count,
        "coming": round_.coming,
        "put_off": round_.put_off,
        "rack": [_on_rack(on).model_dump(mode="json") for on in round_.rack],
        "sheets": [open_sheet_out(state).model_dump(mode="json") for state in round_.sheets],
        "faults": round_.faults,
        "reminders": [_reminder(one).model_dump(mode="json") for one in round_.reminders],
    }
    return f'{json.dumps(rest)[:-1]}, "machines": [{", ".join(stand.strip for stand in round_.stands)}]}}'


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


class WeekIn(Schema):
    """A usual week. `days` are two-letter weekdays (MO..SU), or it runs once in `every` so many days from today on;
    neither for no usual week.
    """

    days: bounds.Few[bounds.Weekday] = []
    every: bounds.DaysApart | None = None
    minutes: bounds.Minutes
    starts: bounds.Clock | None = None
    mops: bool = False
    silence: Silence = Silence.RESTED
    return_min: bounds.ReturnMinutes | None = None
    quiet_from: bounds.Clock | None = None
    quiet_until: bounds.Clock | None = None
    dry_h: bounds.DryHours | None = None

    def at_dock(self) -> AtDock:
        """What the robot and its dock are set to. Raises `InvalidValue` for quiet hours without an end."""
        both = (self.quiet_from is None) == (self.quiet_until is None)
        require(both, "quiet_until", self.quiet_until, "both ends of the quiet hours, or neither")
        quiet = (self.quiet_from, self.quiet_until) if self.quiet_from and self.quiet_until else None
        return AtDock(self.return_min, quiet, self.dry_h)

    def schedule(self, today: date) -> Schedule | None:
        """The usual week as the core has it, days apart counted from `today`. Raises `InvalidValue` where both are."""
        require(not (self.days and self.every), "every", self.every, "weekdays or days between two runs, not both")
        more: dict[str, Any] = {"mops": self.mops, "silence": self.silence}
        if self.every:
            return every_so_many_days(self.every, today, self.minutes, self.starts, **more)
        return weekly(self.days, self.minutes, self.starts, **more) if self.days else None


class RunIn(Schema):
    """A run to log; the id is the client's. Without a day it is today; the start, if known, is the household's time.

    `part_was_out` says that it ran although a part that it needs is out by the records.
    """

    id: UUID
    minutes: bounds.Minutes
    day: bounds.Day | None = None
    started: bounds.Clock | None = None
    mopped: bool | None = None
    part_was_out: bool = False


class DangerIn(Schema):
    """A danger of the book that somebody found at a machine, or with `over` that what ends it was done."""

    danger: bounds.Key
    over: bool = False


class RestIn(Schema):
    """Days off, of one machine or of the whole house."""

    machine_id: UUID | None = None
    why: Why
    first: bounds.Day
    last: bounds.Day | None = None


class LookIn(Schema):
    """What was found on a part, nothing done."""

    slot: bounds.Key
    about: Action
    found: Found
    day: bounds.Day | None = None


class CounterIn(Schema):
    """What the machine's own counter says of a part.

    `trusted` tells which counts on where it is far from our own count: the machine's figure, or ours.
    """

    slot: bounds.Key
    value: bounds.Amount
    unit: Literal["percent", "hours"]
    sense: Literal["left", "used"]
    day: bounds.Day | None = None
    trusted: bool | None = None


class HomeChangedIn(Schema):
    """Whether something changed at home, asked where looks contradict what was believed of a task."""

    slot: bounds.Key
    action: Action
    changed: bool


class KitIn(Schema):
    """A kit renewed."""

    kit: bounds.Key
    day: bounds.Day | None = None


class MoveIn(Schema):
    """Where a part goes."""

    machine_id: UUID
    slot: bounds.Key


class ClaimIn(Schema):
    """A task to take on."""

    slot: bounds.Key
    action: Action


class WaitIn(ClaimIn):
    """A task to put off."""

    until: bounds.Day
    reason: bounds.Line


class MishapIn(Schema):
    """What a machine ran over or took in."""

    kind: Mishap
    day: bounds.Day | None = None


class MoreLoadIn(Schema):
    """A time of more load than usual."""

    kind: LoadKind
    first: bounds.Day
    last: bounds.Day
    level: bounds.Share
    note: bounds.Remark = ""


class ServiceIn(Schema):
    """A task that is done already; of a part that was replaced, why it went."""

    slot: bounds.Key
    action: Action
    day: bounds.Day | None = None
    found: Found | None = None
    gone: Gone | None = None


class DryIn(Schema):
    """What the check on the rack said."""

    dry: bool


class FitIn(Schema):
    """Putting a part back; before it is dry only with a reason."""

    early_reason: bounds.Line = ""
