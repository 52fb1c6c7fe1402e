"""What the API says of a machine as its air path."""

from __future__ import annotations

from datetime import date, datetime, time
from uuid import UUID

from care import model as core
from care.due import agenda
from care.due.agenda import Agenda
from care.due.chambers import Chamber, chambers
from care.named import NamedFeature
from care.vocabulary import Action, Column, Silence
from server.base.schema import Schema
from server.due.dangers import ActiveDanger
from server.due.state import MachineState


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
    """A machine as its air path; with `dangers` it is out of use. `due_min` is its due work [min]."""

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
    due_min: float
    due_count: int
    dangers: list[DangerOut]
    chambers: list[ChamberOut]


def chamber_out(chamber: Chamber) -> ChamberOut:
    """A chamber of the strip, as the API gives it."""
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


def strip_out(state: MachineState, work: Agenda | None = None) -> StripOut:
    """A machine's strip; `work` is its agenda, where that is known already."""
    machine, context = state.machine, state.context
    last = max((r for r in state.runs if r.counts_at <= context.now), key=lambda r: r.counts_at, default=None)
    today = [run for run in state.runs if run.day == context.today]
    work = work or agenda(state.tasks)
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
        due_min=work.minutes,
        due_count=len(work.due),
        dangers=[danger_out(one) for one in state.dangers],
        chambers=chambers_out(state),
    )


def danger_out(one: ActiveDanger) -> DangerOut:
    """A danger that stands."""
    words = {name: getattr(one.danger, name) for name in ("key", "name", "now", "who", "over")}
    return DangerOut(**words, since=one.since, by=one.by, entry_id=one.entry_id)
