"""What the API says of machines. Words are made by the screen; here are figures, codes and the care book's text."""

from __future__ import annotations

from datetime import date, datetime, time
from uuid import UUID

from care import model as core
from care.due.agenda import Task
from care.due.chambers import Chamber, chambers
from care.items import Item
from care.kinds import Archetype
from care.named import NamedFeature
from care.parts import Slot
from care.reasons import Fact, brief
from care.vocabulary import Action, Column, Found, Meter, Silence
from server.base import bounds
from server.base.schema import Schema
from server.due.dangers import ActiveDanger
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


def due_out(due: core.DueDate | None) -> DueOut | None:
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
    asked: AskedOut
    look_first: bool
    hand_over: bool
    put_off: PutOffOut | None
    taken: TakenOut | None


class ChamberOut(Schema):
    """A chamber of the strip."""

    key: str
    column: Column
    label: str
    slots: list[str]
    fill: float
    level: core.Level | None
    action: Action | None
    ready_at: datetime | None


class UsualOut(Schema):
    """The usual week: a recurrence rule, or none, and the minutes a tap fills in. `every` tells once in how many days
    it runs, where it has no weekdays.

    `return_min` is how often a robot comes home to be emptied, if it does before its end [min]; `emptied_at_home` tells
    that its dock does so, but not in its quiet hours; `mops_dried` that it dries the mops, for `dry_h` [h]. The whole
    floor takes about `by_area_min` [min], where its kind has a usual pace.
    """

    rule: str | None
    every: int | None
    starts: time | None
    minutes: float
    mops: bool
    silence: Silence
    return_min: float | None
    quiet_from: time | None
    quiet_until: time | None
    dry_h: float | None
    emptied_at_home: bool
    mops_dried: bool
    by_area_min: float | None


class RestOut(Schema):
    """Days off that hold today or are to come."""

    why: core.Why
    first: date
    last: date | None


class DangerOut(Schema):
    """Why a machine is out of use: what to do, who may, and what has to be true before it is used again."""

    key: str
    name: str
    now: str
    who: str
    over: str
    since: datetime
    by: str
    entry_id: UUID


class StripOut(Schema):
    """A machine as its air path; with `dangers` it is out of use."""

    id: UUID
    name: str
    kind: str
    usual: UsualOut
    empty_slots: list[str]
    minutes_today: float
    last_run: date | None
    last_is_assumed: bool
    resting: RestOut | None
    serves: UUID | None
    mops: bool
    itself: bool
    unsure: int
    dangers: list[DangerOut]
    chambers: list[ChamberOut]


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


def _state_values(state: core.DueState, archetype: Archetype) -> dict[str, object]:
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
        "effort_min": rule.card.effort_min,
        "because": list(state.because),
        "unsure": state.unsure,
    }


def state_out(state: core.DueState, archetype: Archetype) -> StateOut:
    """A due state as the API gives it."""
    return StateOut.model_validate(_state_values(state, archetype))


def task_out(task: Task, machine: MachineState, *, short: bool = True) -> TaskOut:
    """A task of `machine` as the API gives it, with the short explanation or the whole one."""
    slot = task.archetype.slot(task.state.slot)
    rule = slot.rule(task.state.action)
    opening = task.archetype.opening(task.opening) if task.opening else None
    values = {
        **_state_values(task.state, task.archetype),
        "machine_id": task.machine_id,
        "machine_name": machine.machine.name,
        "slot_name": slot.name,
        "opening": opening.name if opening else None,
        "stake": int(task.state.stake),
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


def chamber_out(chamber: Chamber) -> ChamberOut:
    return ChamberOut(
        key=chamber.key,
        column=chamber.column,
        label=chamber.label,
        slots=list(chamber.slots),
        fill=chamber.fill,
        level=chamber.level,
        action=chamber.worst.action if chamber.worst else None,
        ready_at=chamber.ready_at,
    )


def chambers_out(state: MachineState) -> list[ChamberOut]:
    """The chambers of a machine's strip."""
    return [chamber_out(c) for c in chambers(state.machine, state.due, dict(state.on_rack))]


def strip_out(state: MachineState) -> StripOut:
    """A machine's strip."""
    machine, context = state.machine, state.context
    last = max((r for r in state.runs if r.counts_at <= context.now), key=lambda r: r.counts_at, default=None)
    today = [run for run in state.runs if run.day == context.today]
    off = next((r for r in context.rests if r.last is None or r.last >= context.today), None)
    return StripOut(
        id=machine.id,
        name=machine.name,
        kind=machine.archetype.name,
        usual=UsualOut(
            rule=state.schedule.rule if state.schedule else None,
            every=state.schedule.every if state.schedule else None,
            starts=state.schedule.starts if state.schedule else None,
            minutes=state.usual_minutes(),
            mops=state.schedule.mops if state.schedule else False,
            silence=state.schedule.silence if state.schedule else machine.archetype.silence,
            return_min=state.dock.return_min,
            quiet_from=state.dock.quiet[0] if state.dock.quiet else None,
            quiet_until=state.dock.quiet[1] if state.dock.quiet else None,
            dry_h=state.dock.dry_h,
            emptied_at_home=state.emptied_at_home,
            mops_dried=NamedFeature.MOP_WASHING in machine.features,
            by_area_min=machine.archetype.run_min_of(state.area_m2) if state.area_m2 else None,
        ),
        empty_slots=[machine.archetype.slot(key).name for key in machine.empty_slots],
        minutes_today=sum(run.run_s for run in today) / 60,
        last_run=last.day if last else None,
        last_is_assumed=last is not None and last.provenance is core.Provenance.ASSUMED,
        resting=RestOut.model_validate(off) if off else None,
        serves=state.robot,
        mops=(machine.archetype.mops and not machine.archetype.serves) or NamedFeature.MOPS in machine.features,
        itself=machine.archetype.traits.get("moves") == "itself",
        unsure=len({due.slot for due in state.due if due.unsure}),
        dangers=[danger_out(one) for one in state.dangers],
        chambers=chambers_out(state),
    )


def danger_out(one: ActiveDanger) -> DangerOut:
    """A danger that stands."""
    told = {name: getattr(one.danger, name) for name in ("key", "name", "now", "who", "over")}
    return DangerOut(**told, since=one.since, by=one.by, entry_id=one.entry_id)


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
