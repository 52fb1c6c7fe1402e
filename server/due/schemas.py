"""What the API says of machines. Words are made by the screen; here are figures, codes and the care book's text."""

from __future__ import annotations

from datetime import date, datetime
from uuid import UUID

from care import model as core
from care.due.agenda import Task
from care.due_state import DueDate, DueState
from care.items import Item
from care.kinds import Archetype
from care.parts import Slot
from care.reasons import Fact, brief
from care.vocabulary import Action, Found, Meter
from server.base import bounds
from server.base.schema import Schema
from server.due.state import MachineState


class FindOut(Schema):
    """Something one may see at any look at a part: its words, what it makes due, the danger it tells of."""

    about: Action
    found: Found
    words: str
    danger: str


class AskedOut(Schema):
    """What one may see at a look about a task: the four answers, the danger the worst one tells of, what else.

    `repairer` tells that the work it may need is no user's.
    """

    words: dict[Found, str]
    danger: str
    repairer: bool
    finds: list[FindOut]


def asked_out(slot: Slot, about: Action) -> AskedOut:
    """The words of a look at a part about a task."""
    finds = [FindOut.model_validate(f) for f in slot.finds(about)]
    danger = slot.danger(about, Found.OVERDUE)
    words = dict(slot.words(about))
    return AskedOut(words=words, danger=danger, repairer=slot.for_repairer(about), finds=finds)


class ClockOut(Schema):
    """A meter against its limit, in the meter's unit."""

    meter: Meter
    used: float
    limit: float
    left: float
    share: float
    share_left: float


class DueOut(Schema):
    """When it is expected: 10, 50 and 90 % points; `certain` is a plain calendar date."""

    p10: date
    p50: date
    p90: date
    certain: bool


def due_out(due: DueDate | None) -> DueOut | None:
    """An expectation, if there is one."""
    return DueOut.model_validate(due) if due else None


class StateOut(Schema):
    """How one rule of one part stands."""

    slot: str
    action: Action
    about: Action
    is_life: bool
    level: core.Level
    share: float
    clocks: list[ClockOut]
    due: DueOut | None
    effort_min: float
    because: list[Fact]
    unsure: bool


class PutOffOut(Schema):
    """Until when a task waits and why; the entry takes it back."""

    until: date
    reason: str
    by: str
    entry_id: UUID


class TakenOut(Schema):
    """Who took a task on; the entry takes it back."""

    by: str
    member_id: UUID | None
    entry_id: UUID


class TaskOut(StateOut):
    """A due state with the names of its machine and part. Its explanation is the short one."""

    machine_id: UUID
    machine_name: str
    slot_name: str
    opening: str | None
    stake: int
    small: bool
    asked: AskedOut
    look_first: bool
    hand_over: bool
    put_off: PutOffOut | None
    taken: TakenOut | None


class ItemOut(Schema):
    """A physical part."""

    id: UUID
    name: str
    state: str
    wash_count: int
    cleanings: int
    damp_until: datetime | None
    locked_until: datetime | None
    refitted_early: str | None


def _state_values(state: DueState, archetype: Archetype, pace: float) -> dict[str, object]:
    rule = archetype.slot(state.slot).rule(state.action)
    clocks = [
        ClockOut(meter=c.meter, used=c.used, limit=c.limit, left=c.left, share=c.share, share_left=c.share_left)
        for c in state.clocks
    ]
    return {
        "slot": state.slot,
        "action": state.action,
        "about": rule.about or rule.action,
        "is_life": rule.is_life,
        "level": state.level,
        "share": state.share,
        "clocks": clocks,
        "due": {k: getattr(state.due, k) for k in DueOut.model_fields} if state.due else None,
        "effort_min": rule.card.effort_min * pace,
        "because": list(state.because),
        "unsure": state.unsure,
    }


def state_out(state: DueState, archetype: Archetype, pace: float) -> StateOut:
    """A due state as the API gives it; the household takes `pace` times the book's minutes."""
    return StateOut.model_validate(_state_values(state, archetype, pace))


def task_out(task: Task, machine: MachineState, *, short: bool = True) -> TaskOut:
    """A task of `machine` as the API gives it, with the short explanation or the whole one."""
    slot = task.archetype.slot(task.state.slot)
    rule = slot.rule(task.state.action)
    opening = task.archetype.opening(task.opening) if task.opening else None
    values = {
        **_state_values(task.state, task.archetype, machine.home.pace),
        "machine_id": task.machine_id,
        "machine_name": machine.machine.name,
        "slot_name": slot.name,
        "opening": opening.name if opening else None,
        "stake": int(task.state.stake),
        "small": task.small,
        "asked": asked_out(slot, rule.about or rule.action),
        "look_first": task.look_first,
        "hand_over": not machine.home.opens(opening),
        **_duties_out(task, machine),
    }
    if short:
        values["because"] = list(brief(task.state.because))
    return TaskOut.model_validate(values)


def _duties_out(task: Task, machine: MachineState) -> dict[str, object]:
    duties, wait = machine.duties, task.put_off
    taken = duties.claims.get(task.key)
    entry = {"entry_id": duties.waits[task.key].entry_id} if wait else {}
    return {
        "put_off": PutOffOut(until=wait.until, reason=wait.reason, by=wait.by, **entry) if wait else None,
        "taken": TakenOut.model_validate(taken, from_attributes=True) if taken else None,
    }


def item_out(item: Item) -> ItemOut:
    """A part as the API gives it."""
    return ItemOut(
        id=item.id,
        name=item.name,
        state=item.state,
        wash_count=item.wash_count,
        cleanings=item.cleanings,
        damp_until=item.damp_until,
        locked_until=item.locked_until,
        refitted_early=item.refitted_early.reason if item.refitted_early else None,
    )


class DangerIn(Schema):
    """A danger of the book that somebody found at a machine, or with `over` that what ends it was done."""

    danger: bounds.Key
    over: bool = False


class HomeChangedIn(Schema):
    """Whether something changed at home, asked where looks contradict what was believed of a task."""

    slot: bounds.Key
    action: Action
    changed: bool


class ClaimIn(Schema):
    """A task to take on."""

    slot: bounds.Key
    action: Action


class WaitIn(ClaimIn):
    """A task to put off."""

    until: bounds.Day
    reason: bounds.Line
