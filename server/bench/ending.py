"""Ending sittings: records are written and clocks move; or a sheet is given up."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime
from typing import Any, cast
from uuid import UUID, uuid4

from django.db import transaction

from care.bench import StepKind
from care.bench.steps import SKIP
from care.due_state import DueState
from care.errors import CareError
from care.items import Item, State
from care.season.minutes import pace_of as pace_of_sittings
from care.vocabulary import Action
from server.base import clock
from server.base.problems import Conflict
from server.bench import records
from server.bench.models import Sheet
from server.bench.sheets import SheetState, refuse_ended, sheet_state
from server.bench.signals import finished
from server.bench.took import sittings_took
from server.drying.services import still_there
from server.due.state import machine_states
from server.household.models import Member
from server.household.services import keep_pace, require_writer
from server.machines.services import item_of
from server.work.sheet_records import SheetRecords, record_sheet


@dataclass(frozen=True, slots=True)
class Change:
    """What a finished sitting changed for one rule of one slot; `now_in` names a part that was not there before."""

    machine_id: UUID
    slot: str
    now_in: str | None
    before: DueState | None
    after: DueState


@dataclass(frozen=True, slots=True)
class Ending:
    """A finished sitting: its sheet, what it changed, and the parts it left on the rack."""

    sheet: SheetState
    changes: list[Change]
    on_rack: list[Item]


def ended_by(member: Member, sheet_id: UUID, finish_id: UUID) -> dict[str, Any] | None:
    """What the end of the sitting answered, where `finish_id` is what ended it; None otherwise."""
    row: Sheet = Sheet.objects.one(member.household_id, sheet_id, "sheet")
    return cast("dict[str, Any] | None", row.ending) if row.finish_id == finish_id else None


def keep_ending(member: Member, sheet_id: UUID, finish_id: UUID, ending: dict[str, Any]) -> None:
    """Keep what the end of the sitting answered; inside the caller's transaction."""
    rows = Sheet.objects.of(member.household_id).filter(pk=sheet_id)
    rows.update(finish_id=finish_id, ending=ending)


@transaction.atomic
def finish(*, member: Member, sheet_id: UUID) -> Ending:
    """End the sitting: only now records are written and clocks move. Raises `Conflict` while a step is open."""
    require_writer(member)
    state = sheet_state(member, sheet_id)
    refuse_ended(state)
    if state.progress.current is not None:
        raise Conflict(
            f"sheet: the step {state.progress.current.key} is still open", field="sheet", fix="Answer it or skip it."
        )
    before = _due(member, state)
    action_id = uuid4()
    try:
        for machine_id, what in _records_of(state).items():
            record_sheet(member=member, machine_id=machine_id, sheet_id=sheet_id, action_id=action_id, what=what)
    except CareError as error:
        raise Conflict(
            f"Something changed since this sheet was opened: {error.detail}",
            field="sheet",
            fix="Give this sheet up and open a new one; your notes stay with it.",
        ) from error
    Sheet.objects.of(member.household_id).filter(pk=sheet_id).update(
        status=Sheet.Status.FINISHED, ended_at=clock.now(), action_id=action_id
    )
    pace = pace_of_sittings(sittings_took(member))
    keep_pace(member.household_id, pace.factor, pace.sittings)
    after = _due(member, state)
    done = {(state.sheet.machine_of(d.item_id), d.slot, d.action) for d in state.progress.done}
    changes = [
        Change(key[0], key[1], _swapped(before.get(key), due, member), before.get(key), due)
        for key, due in after.items()
        if key in done or _moved(before.get(key), due)
    ]
    wet = [item for item in state.progress.items.values() if item.state in (State.WASHED, State.DRYING)]
    ended = sheet_state(member, sheet_id)
    finished.send(sender=Sheet, member=member, sheet=ended)
    return Ending(ended, changes, wet)


def _due(member: Member, sheet: SheetState) -> dict[tuple[UUID, str, Action], DueState]:
    states = machine_states(member, only=set(sheet.machines))
    return {(state.machine.id, due.slot, due.action): due for state in states for due in state.due}


def _moved(before: DueState | None, after: DueState) -> bool:
    """Whether a rule's standing changed: its part went missing or came back, or its date moved."""
    return before is None or before.level != after.level or before.due != after.due


def _swapped(before: DueState | None, after: DueState, member: Member) -> str | None:
    """The name of the part that is in now, if another one was there before."""
    if before is None or after.item_id is None or before.item_id == after.item_id:
        return None
    return item_of(member, after.item_id).name


def _records_of(state: SheetState) -> dict[UUID, SheetRecords]:
    """What the sitting left at each machine."""
    progress, owner = state.progress, state.sheet.machine_of
    each = {machine_id: SheetRecords() for machine_id in state.machines}
    for item_id, move in progress.moves:
        each[owner(item_id)].moves.append((item_id, move))
    for d in progress.done:
        each[owner(d.item_id)].services.append((d.item_id, d.slot, d.action, d.at))
    for s in progress.saw:
        each[owner(s.item_id)].inspections.append((s.item_id, s.slot, s.about, s.found, s.at))
    for item_id, hanging, at in progress.hung:
        each[owner(item_id)].hung.append((item_id, still_there(state.row.household_id, hanging), at))
    for machine_id, part in _new_parts(state):
        each[machine_id].new_parts.append(part)
    return each


def _new_parts(state: SheetState) -> Iterator[tuple[UUID, tuple[UUID, str, str, datetime]]]:
    """The parts that are new with this sheet, with the machine they went into."""
    frozen = records.thaw(state.row).items
    for step in state.sheet.steps:
        answered = state.progress.answers.get(step.key)
        fits = step.new_item_id if step.kind is StepKind.HAND_OVER else step.item_id
        puts_in = step.kind in (StepKind.FIT, StepKind.CLOSE, StepKind.HAND_OVER)
        if puts_in and answered and answered.value != SKIP and fits and step.slot and frozen[fits].at is None:
            yield step.machine_id, (fits, step.slot, frozen[fits].name, answered.at)


@transaction.atomic
def drop(*, member: Member, sheet_id: UUID) -> None:
    """Give a sheet up: its answers stay with it, no record is written.

    Raises `Conflict` once a part was touched, since the records would then be untrue of the machine; a sheet whose
    parts were recorded otherwise meanwhile cannot be finished, so it can always be given up.
    """
    require_writer(member)
    state = sheet_state(member, sheet_id)
    refuse_ended(state)
    if not state.may_drop:
        raise Conflict(
            "Parts were moved on this sheet; giving it up would leave the records untrue.",
            field="sheet",
            fix="Step back to before that, or go on and skip what is left with a reason.",
        )
    Sheet.objects.of(member.household_id).filter(pk=sheet_id).update(status=Sheet.Status.DROPPED, ended_at=clock.now())
