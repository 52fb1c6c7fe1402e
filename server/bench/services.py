"""Use cases at the bench: open a sheet, answer its steps, end its sitting."""

from collections.abc import Iterator, Sequence
from dataclasses import asdict, dataclass
from datetime import datetime
from uuid import UUID

from django.db import transaction

from care.bench.drying import Hanging
from care.bench.steps import danger_in
from server.base import clock
from server.base.problems import NotFound
from server.bench.models import Sheet, SheetEvent
from server.bench.records import BACK
from server.bench.sheets import SheetState, refuse_ended, sheet_state
from server.drying.services import refuse_place
from server.due.dangers import tell
from server.household.models import Member
from server.household.services import require_writer
from server.logbook.models import Entry
from server.notes.readings import feel_pull


@dataclass(frozen=True, slots=True)
class Given:
    """An answer as a device sends it: its id, and when it was given there if it could not be sent at once.

    A `late` one came after the sheet had gone on without it, and is kept as a note.
    """

    event_id: UUID
    step: str
    value: str
    reason: str = ""
    hanging: Hanging | None = None
    at: datetime | None = None
    late: bool = False


def answer(*, member: Member, sheet_id: UUID, given: Given) -> SheetState:
    """One answer, as `answer_all`."""
    return answer_all(member=member, sheet_id=sheet_id, given=[given])


@transaction.atomic
def answer_all(*, member: Member, sheet_id: UUID, given: Sequence[Given]) -> SheetState:
    """Answer steps from where the sheet stands, or take last answers back (`back`); all of it or nothing.

    Sent twice, an answer counts once. Its hanging tells where a washed part hangs; without it, where the last one did.
    Raises `InvalidValue` for an answer out of turn or a place nobody told of, `Conflict` on a sheet that has ended.
    """
    require_writer(member)
    state = sheet_state(member, sheet_id)
    fresh = _not_taken(state, given)
    if not fresh:
        return state
    for one in fresh:
        if not one.late:
            refuse_ended(state)
            if one.hanging is not None:
                refuse_place(member.household_id, one.hanging)
    for part in _parts(fresh):
        SheetEvent.everything.bulk_create(_events(member, state, part))
        state = sheet_state(member, sheet_id)
    for one in fresh:
        if (found := danger_in(one.value)) is not None:  # at once: nobody waits with that for the end of the sitting
            tell(member=member, machine_id=state.sheet.step(one.step).machine_id, danger=found)
    return state


def _not_taken(state: SheetState, given: Sequence[Given]) -> list[Given]:
    """Those that the sheet does not have yet, each once. Raises `NotFound` for ids of another sheet."""
    fresh = list({one.event_id: one for one in given if one.event_id not in state.taken}.values())
    if SheetEvent.everything.filter(pk__in=[one.event_id for one in fresh]).exists():
        raise NotFound("answer: this id belongs to another sheet", field="id", fix="Give the answer again.")
    return fresh


def _parts(given: Sequence[Given]) -> list[list[Given]]:
    """Cut where a step back follows an answer, since what it takes back has to have been in turn as well."""
    parts: list[list[Given]] = [[]]
    for one in given:
        if one.value == BACK and parts[-1] and parts[-1][-1].value != BACK:
            parts.append([])
        parts[-1].append(one)
    return parts


def _events(member: Member, state: SheetState, given: Sequence[Given]) -> Iterator[SheetEvent]:
    """Answers as the sheet keeps them, in their order and none before the one before it."""
    before = max((a.at for a in state.progress.answers.values()), default=state.row.made_at)
    for number, one in enumerate(given, len(state.taken)):
        before = _when(one.at, before)
        yield SheetEvent(
            id=one.event_id,
            household_id=member.household_id,
            sheet=state.row,
            number=number,
            step=one.step,
            value=one.value,
            reason=one.reason.strip(),
            hanging=asdict(one.hanging) if one.hanging else None,
            late=one.late,
            at=before,
            by=member,
        )


def _when(moment: datetime | None, before: datetime) -> datetime:
    """When an answer was given: as the device says, but not before the one before it, nor in the future."""
    now = clock.now()
    return now if moment is None else min(max(moment, before), now)


@transaction.atomic
def pull(*, member: Member, machine_id: UUID, felt: int, moment: str, sheet_id: UUID | None = None) -> Entry:
    """As `feel_pull`; a sheet it belongs to has to be one of that machine. Raises `NotFound`."""
    if sheet_id is not None:
        sheet: Sheet = Sheet.objects.one(member.household_id, sheet_id, "sheet")
        if not sheet.machines.filter(pk=machine_id).exists():
            raise NotFound("sheet: it is not for this machine", field="sheet_id", fix="Load the sheet again.")
    return feel_pull(member=member, machine_id=machine_id, felt=felt, moment=moment, sheet_id=sheet_id)
