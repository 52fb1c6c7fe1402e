"""Notes, photos, reminders and how a machine pulls over HTTP."""

from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Router
from ninja.files import UploadedFile

from server.base.http import Problem
from server.bench import services as bench
from server.household.auth import asking
from server.machines.services import machine_of
from server.notes import readings
from server.notes import services as notes
from server.notes.readings_schemas import ReadingIn, ReadingRowOut, row_out
from server.notes.schemas import NoteIn, NotesOut, PullIn, notes_out
from server.round.answer import WRITTEN, written

router = Router(tags=["notes"])


@router.post("/machines/{machine_id}/pull", response=WRITTEN, operation_id="machines_pull")
def pull(request: HttpRequest, machine_id: UUID, data: PullIn) -> HttpResponse:
    """How a machine pulls, as somebody felt it."""
    member = asking(request)
    entry = bench.pull(member=member, machine_id=machine_id, felt=data.felt, moment=data.moment, sheet_id=data.sheet_id)
    return written(member, entry.pk)


@router.get("/machines/{machine_id}/notes", response={200: NotesOut, 404: Problem}, operation_id="notes_list")
def list_notes(request: HttpRequest, machine_id: UUID) -> NotesOut:
    """Notes and photos of a machine."""
    member = asking(request)
    machine_of(member, machine_id)
    return notes_out(notes.notes(member, machine_id))


@router.post("/machines/{machine_id}/notes", response=WRITTEN, operation_id="notes_create")
def add_note(
    request: HttpRequest,
    machine_id: UUID,
    data: Form[NoteIn],
    picture: File[UploadedFile | None] = None,
) -> HttpResponse:
    """A note or a photo of a machine or of one of its parts."""
    member = asking(request)
    taken = picture.read(notes.LARGEST_BYTES + 1) if picture else None
    fields = data.model_dump()
    entry = notes.add_note(member=member, machine_id=machine_id, picture=taken, **fields)
    return written(member, entry.pk)


@router.post("/reminders/{entry_id}/done", response=WRITTEN, operation_id="reminders_done")
def reminded(request: HttpRequest, entry_id: UUID) -> HttpResponse:
    """What somebody wanted to be reminded of is done."""
    member = asking(request)
    return written(member, notes.reminded(member=member, entry_id=entry_id).pk)


@router.get("/notes/{entry_id}/picture", operation_id="notes_picture", include_in_schema=False)
def picture(request: HttpRequest, entry_id: UUID) -> HttpResponse:
    """The picture of a note."""
    return HttpResponse(notes.picture_of(asking(request), entry_id), content_type="image/jpeg")


@router.get(
    "/machines/{machine_id}/readings",
    response={200: list[ReadingRowOut], 404: Problem},
    operation_id="readings_list",
)
def list_readings(request: HttpRequest, machine_id: UUID) -> list[ReadingRowOut]:
    """What was measured or felt of a machine, like with like, and whether the work between helped."""
    return [row_out(row) for row in readings.rows_of(asking(request), machine_id)]


@router.post("/machines/{machine_id}/readings", response=WRITTEN, operation_id="readings_create")
def take(request: HttpRequest, machine_id: UUID, data: ReadingIn) -> HttpResponse:
    """Record a reading."""
    member = asking(request)
    entry = readings.take(member=member, machine_id=machine_id, figure=data.figure())
    return written(member, entry.pk, machine_id)
