"""Use cases at the bench: open a sheet, answer its steps, end its sitting."""

from dataclasses import asdict, dataclass
from datetime import datetime
from uuid import UUID

from django.db import transaction

from care.bench.drying import Hanging
from care.bench.steps import danger_in
from server.base import clock
from server.base.problems import NotFound
from server.bench.models import Sheet, SheetEvent
from server.bench.sheets import SheetState, refuse_ended, sheet_state
from server.drying.services import refuse_place
from server.due.dangers import tell
from server.household.models import Member
from server.household.services import require_writer
from server.logbook.models import Entry
from server.notes.readings import feel_pull


@dataclass(frozen=True, slots=True)
class Given:
    """An answer as a device sends it: its id, and when it was given there if it could not be sent at once."""

    event_id: UUID
    step: str
    value: str
    reason: str = ""
    hanging: Hanging | None = None
    at: datetime | None = None


@transaction.atomic
def answer(*, member: Member, sheet_id: UUID, given: Given, late: bool = False) -> SheetState:
    """Answer the step where the sheet stands, or take the last answer back (`back`). Sent twice, it counts once.

    Its hanging tells where a washed part hangs; without it, where the last one did. A `late` answer is kept as a note.
    Raises `InvalidValue` for an answer out of turn or a place nobody told of, `Conflict` on a sheet that has ended.
    """
    require_writer(member)
    state = sheet_state(member, sheet_id)
    events = SheetEvent.objects.of(member.household_id).filter(sheet=state.row)
    if events.filter(pk=given.event_id).exists():
        return state
    if SheetEvent.everything.filter(pk=given.event_id).exists():
        raise NotFound("answer: this id belongs to another sheet", field="id", fix="Give the answer again.")
    if not late:
        refuse_ended(state)
        if given.hanging is not None:
            refuse_place(member.household_id, given.hanging)
    SheetEvent.everything.create(
        id=given.event_id,
        household_id=member.household_id,
        sheet=state.row,
        number=events.count(),
        step=given.step,
        value=given.value,
        reason=given.reason.strip(),
        hanging=asdict(given.hanging) if given.hanging else None,
        late=late,
        at=_when(given.at, state),
        by=member,
    )
    after = sheet_state(member, sheet_id)
    if (found := danger_in(given.value)) is not None:  # at once: nobody waits with that for the end of the sitting
        tell(member=member, machine_id=state.sheet.step(given.step).machine_id, danger=found)
    return after


def _when(told: datetime | None, state: SheetState) -> datetime:
    """When an answer was given: as the device tells, but not before the one before it, nor in the future."""
    now = clock.now()
    if told is None:
        return now
    before = max((a.at for a in state.progress.answers.values()), default=state.row.made_at)
    return min(max(told, before), now)


@transaction.atomic
def pull(*, member: Member, machine_id: UUID, felt: int, moment: str, sheet_id: UUID | None = None) -> Entry:
    """As `feel_pull`; a sheet it belongs to has to be one of that machine. Raises `NotFound`."""
    if sheet_id is not None:
        sheet: Sheet = Sheet.objects.one(member.household_id, sheet_id, "sheet")
        if not sheet.machines.filter(pk=machine_id).exists():
            raise NotFound("sheet: it is not for this machine", field="sheet_id", fix="Load the sheet again.")
    return feel_pull(member=member, machine_id=machine_id, felt=felt, moment=moment, sheet_id=sheet_id)
