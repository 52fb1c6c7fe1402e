"""What the API says of machines. Words are made by the screen; here are figures, codes and the care book's text."""

from __future__ import annotations

from datetime import date, datetime, time, timedelta
from uuid import UUID

from care import kinds
from care import model as core
from care.bench.pieces import PHASE
from care.due.agenda import Task
from care.due.chambers import Chamber, chambers
from care.items import Item, State
from server.config.schema import Schema
from server.machines.dangers import Stands
from server.machines.history import HistoryLine
from server.machines.rounds import OneGo
from server.machines.state import MachineState


class BecauseOut(Schema):
    """A node of an explanation."""

    code: str
    values: dict[str, str | float | int | bool | None]
    parts: list[BecauseOut]


class FindOut(Schema):
    """Something one may see at any look at a part: its words, what it makes due, the danger it tells of."""

    about: kinds.Action
    found: kinds.Found
    words: str
    danger: str


class AskedOut(Schema):
    """What one may see at a look about a task: the four answers, the danger the worst one tells of, what else.

    `repairer` tells that the work it may need is no user's.
    """

    words: dict[kinds.Found, str]
    danger: str
    repairer: bool
    finds: list[FindOut]


def asked_out(slot: kinds.Slot, about: kinds.Action) -> AskedOut:
    """The words of a look at a part about a task."""
    finds = [FindOut(about=f.about, found=f.found, words=f.words, danger=f.danger) for f in slot.finds(about)]
    danger = slot.danger(about, kinds.Found.OVERDUE)
    words = dict(slot.words(about))
    return AskedOut(words=words, danger=danger, repairer=slot.for_repairer(about), finds=finds)


class ClockOut(Schema):
    """A meter against its limit, in the meter's unit."""

    meter: kinds.Meter
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
    return DueOut(p10=due.p10, p50=due.p50, p90=due.p90, certain=due.certain) if due else None


class StateOut(Schema):
    """How one rule of one part stands."""

    slot: str
    action: kinds.Action
    about: kinds.Action
    is_life: bool
    level: core.Level
    share: float
    clocks: list[ClockOut]
    due: DueOut | None
    effort_min: float
    because: BecauseOut
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
    column: kinds.Column
    label: str
    slots: list[str]
    fill: float
    level: core.Level | None
    action: kinds.Action | None
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
    silence: kinds.Silence
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


class PartOut(Schema):
    """A slot of a machine with what sits in it and how it stands."""

    slot: str
    name: str
    station: str
    item: ItemOut | None
    away: ItemOut | None
    spares: list[ItemOut]
    states: list[StateOut]
    asked: dict[kinds.Action, AskedOut]
    counted_by_machine: bool
    school: kinds.School | None
    material: str


class OneGoTaskOut(Schema):
    """A task that is done in one go with others, here or at the dock."""

    machine_id: UUID
    slot: str
    action: kinds.Action


class OneGoOut(Schema):
    """What is done in one go: against a complaint, as a round with an interval of its own, or a kit that is renewed.

    `parts` are the names of its parts. A round or a kit comes every `low` to `high` days; `days` is what the household
    took up, and `sooner` names parts that the book lets go no longer than their own figure.
    """

    key: str
    name: str
    why: str
    is_kit: bool
    is_round: bool
    low: float
    high: float
    days: float | None
    sooner: list[str]
    parts: list[str]
    tasks: list[OneGoTaskOut]


class WeekOut(Schema):
    """Use of one local week, from its Monday: hours told and hours assumed [h]."""

    monday: date
    told_h: float
    assumed_h: float


class HistoryOut(Schema):
    """A line of a machine's history."""

    entry_id: UUID
    kind: str
    at: datetime
    day: date
    by: str
    slot: str
    item: str
    action: str
    found: str
    minutes: float | None
    provenance: str
    told: str


class MachineOut(Schema):
    """A machine's page."""

    now: datetime
    today: date
    strip: StripOut
    parts: list[PartOut]
    in_one_go: list[OneGoOut]
    weeks: list[WeekOut]
    history: list[HistoryOut]


BecauseOut.model_rebuild()


def because_out(node: core.Because) -> BecauseOut:
    """An explanation as the API gives it."""
    return BecauseOut(code=node.code, values=dict(node.values), parts=[because_out(part) for part in node.parts])


MOPS = "mops"
"""The option of a robot that mops, where not all of its kind do."""
MOP_WASHING = "mop-washing"
"""The feature of a robot whose dock washes and dries its mops."""
SINCE = ("since_service", "since_fitted", "since_new", "since_unknown", "since_look")
SHORT = frozenset({"trigger", *SINCE, "book", "slot_empty", "mishap"})
"""What the short explanation keeps: enough for one sentence. The whole tree is on the machine's page."""


def brief(node: core.Because) -> core.Because:
    """The explanation cut down to its sentence."""
    return core.Because(node.code, node.values, tuple(part for part in node.parts if part.code in SHORT))


def _state_values(state: core.DueState, archetype: kinds.Archetype) -> dict[str, object]:
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
        "because": because_out(state.because),
        "unsure": state.unsure,
    }


def state_out(state: core.DueState, archetype: kinds.Archetype) -> StateOut:
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
        values["because"] = because_out(brief(task.state.because))
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
            mops_dried=MOP_WASHING in machine.features,
            by_area_min=machine.archetype.run_min_of(state.area_m2) if state.area_m2 else None,
        ),
        empty_slots=[machine.archetype.slot(key).name for key in machine.empty_slots],
        minutes_today=sum(run.run_s for run in today) / 60,
        last_run=last.day if last else None,
        last_is_assumed=last is not None and last.provenance is core.Provenance.ASSUMED,
        resting=RestOut(why=off.why, first=off.first, last=off.last) if off else None,
        serves=state.robot,
        mops=(machine.archetype.mops and not machine.archetype.serves) or MOPS in machine.features,
        itself=machine.archetype.traits.get("moves") == "itself",
        unsure=len({due.slot for due in state.due if due.unsure}),
        dangers=[danger_out(one) for one in state.dangers],
        chambers=chambers_out(state),
    )


def danger_out(one: Stands) -> DangerOut:
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


def part_out(slot: kinds.Slot, state: MachineState) -> PartOut:
    """A slot with its item, what is away on the rack, what lies ready, and every rule."""
    fitted = state.machine.fitted.get(slot.key)
    meant = [item for item in state.items.values() if state.homes[item.id] == slot.key and item.id != fitted]
    away = next((item for key, item in state.on_rack if key == slot.key), None)
    states = [s for s in state.due if s.slot == slot.key and s.item_id is not None]
    states.sort(key=lambda s: (slot.rule(s.action).is_life, PHASE[s.action]))
    return PartOut(
        slot=slot.key,
        name=slot.name,
        station=slot.station,
        item=item_out(state.items[fitted]) if fitted else None,
        away=item_out(away) if away else None,
        spares=[item_out(item) for item in meant if item.state is State.READY],
        states=[state_out(s, state.machine.archetype) for s in states],
        asked={rule.action: asked_out(slot, rule.about or rule.action) for rule in slot.rules},
        counted_by_machine=slot.counted_by_machine,
        school=slot.school,
        material=slot.material,
    )


def one_go_out(one: OneGo) -> OneGoOut:
    """What is done in one go, as the API gives it."""
    tasks = [(machine.pk, slot, action) for machine, _, chosen in one.on for slot, action in chosen]
    names = {(machine.pk, slot.key): slot.name for machine, kind, _ in one.on for slot in kind.slots}
    kind = one.on[0][1]
    whose = [kind.slot(key).name for key in one.kit.slots] if one.kit else [slot.name for _, slot, _ in tasks]
    kept = one.kept(one.days or one.of.high) if one.comes_round else iter(())
    return OneGoOut(
        key=one.key,
        name=one.of.name,
        why="" if isinstance(one.of, kinds.Kit) else one.of.why,
        is_kit=one.kit is not None,
        is_round=one.comes_round and one.kit is None,
        low=one.of.low,
        high=one.of.high,
        days=one.days,
        sooner=[names[machine.pk, task.slot] for machine, task in kept if task.keeps_its_own],
        parts=list(dict.fromkeys(whose)),
        tasks=[OneGoTaskOut(machine_id=pk, slot=slot.key, action=action) for pk, slot, action in tasks],
    )


WEEKS_SHOWN = 12


def weeks_out(state: MachineState) -> list[WeekOut]:
    """The last weeks of use, the running one last."""
    by_day, today = state.context.usage.by_day(), state.context.today
    this = today - timedelta(days=today.weekday())
    made = []
    for n in range(WEEKS_SHOWN - 1, -1, -1):
        monday = this - timedelta(weeks=n)
        days = [by_day[day] for d in range(7) if (day := monday + timedelta(days=d)) in by_day]
        assumed = sum(day.assumed_h for day in days)
        made.append(WeekOut(monday=monday, told_h=sum(d.run_hours for d in days) - assumed, assumed_h=assumed))
    return made


def machine_out(state: MachineState, lines: list[HistoryLine], together: list[OneGo]) -> MachineOut:
    """A machine's page."""
    return MachineOut(
        now=state.context.now,
        today=state.context.today,
        strip=strip_out(state),
        parts=[part_out(slot, state) for slot in state.machine.archetype.parts(state.machine.features)],
        in_one_go=[one_go_out(one) for one in together],
        weeks=weeks_out(state),
        history=[HistoryOut.model_validate(line, from_attributes=True) for line in lines],
    )
