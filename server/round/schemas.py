"""What Round takes and gives."""

from datetime import date, datetime, time
from typing import Self
from uuid import UUID

from ninja import Schema

from care.model import Action, Found
from server.bench.schemas import OpenSheetOut, open_sheet_out
from server.config import clock
from server.household.models import Member
from server.household.services import today_of
from server.machines.schemas import ItemOut, MachineOut, StripOut, TaskOut, item_out, strip_out, task_out
from server.round.board import Round

COMING_SHOWN = 6
"""How many tasks to come the answer carries; the rest is on the machines' pages."""


class RackOut(Schema):
    """A part on the rack."""

    item: ItemOut
    machine_id: UUID
    machine_name: str
    slot_name: str
    slot_empty: bool


class RoundOut(Schema):
    """The whole household at one moment."""

    now: datetime
    today: date
    minutes: float
    due: list[TaskOut]
    coming: list[TaskOut]
    machines: list[StripOut]
    rack: list[RackOut]
    sheets: list[OpenSheetOut]

    @classmethod
    def of(cls, member: Member, round_: Round) -> Self:
        """Round as the API gives it."""
        return cls(
            now=clock.now(),
            today=today_of(member),
            minutes=round_.agenda.minutes,
            due=[task_out(task, round_.names) for task in round_.agenda.due],
            coming=[task_out(task, round_.names) for task in round_.agenda.coming[:COMING_SHOWN]],
            machines=[strip_out(state) for state in round_.states],
            rack=[
                RackOut(
                    item=item_out(on.item),
                    machine_id=on.state.machine.id,
                    machine_name=on.state.machine.name,
                    slot_name=on.state.machine.archetype.slot(on.slot).name,
                    slot_empty=on.slot_empty,
                )
                for on in round_.rack
            ],
            sheets=[open_sheet_out(state) for state in round_.sheets],
        )


class Written(Schema):
    """The answer to everything that is recorded: the household after it, and the entry to undo."""

    entry_id: UUID | None
    round: RoundOut
    machine: MachineOut | None = None


class MachineIn(Schema):
    """A machine to add; the id is the client's. `days` are two-letter weekdays (MO..SU), none for no usual week."""

    id: UUID
    name: str
    archetype: str
    days: list[str] = []
    minutes: float
    starts: time | None = None


class KindOut(Schema):
    """A kind of machine the care book knows."""

    key: str
    name: str
    usual_run_min: float


class RunIn(Schema):
    """A run to log; the id is the client's. Without a day it is today; the start, if known, is the household's time."""

    id: UUID
    minutes: float
    day: date | None = None
    started: time | None = None


class ServiceIn(Schema):
    """A task that is done already."""

    slot: str
    action: Action
    day: date | None = None
    found: Found | None = None


class DryIn(Schema):
    """What the check on the rack said."""

    dry: bool


class FitIn(Schema):
    """Putting a part back; before it is dry only with a reason."""

    early_reason: str = ""
