"""A household as a document and its tables over HTTP."""

from collections.abc import Callable
from tempfile import TemporaryFile
from typing import IO, cast
from uuid import UUID

from django.contrib.auth.models import User
from django.http import FileResponse, HttpRequest, HttpResponse
from ninja import File, Router
from ninja.files import UploadedFile

from care.due.runs_table import MOST_BYTES
from server.base.csv_out import csv_file
from server.base.http import REFUSALS
from server.document import bringing_in, runs, taking_out
from server.document.parcel import opened
from server.document.readings import ReadingRow, readings_table
from server.document.runs import RunRow
from server.document.schemas import FromFileOut, RunsOut, brought_out, runs_out
from server.household.auth import asking
from server.household.services import CHOSEN
from server.household.writes import changes_nothing, for_owners

router = Router(tags=["document"])
FILE = {200: None}


def _sent(request: HttpRequest, make: Callable[[UUID, IO[bytes]], None], ending: str, kind: str) -> FileResponse:
    """A file that is made whole before any of it is sent: whoever takes long to fetch it keeps nobody waiting."""
    member = asking(request)
    file = TemporaryFile()  # noqa: SIM115 - the answer closes it
    make(member.household_id, file)
    file.seek(0)
    name = f"{member.household.name}.{ending}"
    return FileResponse(file, as_attachment=True, filename=name, content_type=kind)


@router.get("/document.json", operation_id="document_json", response=FILE)
def as_json(request: HttpRequest) -> FileResponse:
    """The household as one document, without pictures."""
    return _sent(request, taking_out.plain, "json", "application/json")


@router.get("/document.zip", operation_id="document_zip", response=FILE)
def as_zip(request: HttpRequest) -> FileResponse:
    """The household as one document with its pictures."""
    return _sent(request, taking_out.packed, "zip", "application/zip")


@router.post("/document/look", response={200: FromFileOut, **REFUSALS}, operation_id="document_look")
@changes_nothing
@for_owners
def look(request: HttpRequest, file: File[UploadedFile]) -> FromFileOut:
    """What bringing a file in would do; nothing is kept."""
    return brought_out(bringing_in.look(user=cast(User, request.user), parcel=opened(cast(IO[bytes], file))))


@router.post("/document", response={200: FromFileOut, **REFUSALS}, operation_id="document_bring")
@for_owners
def bring(request: HttpRequest, file: File[UploadedFile], me: UUID | None = None) -> FromFileOut:
    """Bring a file in, all of it or nothing; its household is looked at from then on. `me` is who asks in it."""
    name = (file.name or "a file")[:200]
    brought = bringing_in.bring_in(
        user=cast(User, request.user), parcel=opened(cast(IO[bytes], file)), name=name, me=me
    )
    request.session[CHOSEN] = str(brought.household_id)
    return brought_out(brought)


@router.get("/runs.csv", operation_id="runs_csv", response=FILE)
def runs_csv(request: HttpRequest) -> HttpResponse:
    """All runs as a table."""
    return csv_file("runs", RunRow, runs.runs_table(asking(request)))


@router.post("/runs/look", response={200: RunsOut, **REFUSALS}, operation_id="runs_look")
@changes_nothing
def look_at_runs(request: HttpRequest, file: File[UploadedFile]) -> RunsOut:
    """What a table of runs would bring; nothing is kept."""
    return runs_out(runs.look_at_runs(member=asking(request), data=file.read(MOST_BYTES + 1)))


@router.post("/runs", response={200: RunsOut, **REFUSALS}, operation_id="runs_bring")
def bring_runs(request: HttpRequest, file: File[UploadedFile]) -> RunsOut:
    """Log the runs of a table, all of them or none."""
    name = (file.name or "a file")[:200]
    return runs_out(runs.bring_runs(member=asking(request), data=file.read(MOST_BYTES + 1), name=name))


@router.get("/readings.csv", operation_id="readings_csv", response=FILE)
def readings_csv(request: HttpRequest) -> HttpResponse:
    """All readings and measures of wear as a table, with their units."""
    return csv_file("readings", ReadingRow, readings_table(asking(request)))
