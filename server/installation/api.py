"""Copies of everything, for whoever looks after the installation; and whether it is well, for whoever watches it."""

from collections.abc import Callable
from functools import wraps
from http import HTTPStatus
from typing import Any, TypeVar

from django.conf import settings
from django.core.management import call_command
from django.db import DatabaseError, connection
from django.http import FileResponse, HttpRequest, HttpResponse
from ninja import Router

from server.base import backup
from server.base.build import VERSION
from server.base.http import REFUSALS, Problem, failure
from server.base.problems import NotAllowed, NotFound
from server.household.writes import for_everybody, in_its_own_time, writing
from server.installation.schemas import (
    CopiesOut,
    CopyOut,
    HealthOut,
    InsideOut,
    RestoredOut,
    copy_out,
    inside_out,
)

router = Router(tags=["installation"])
V = TypeVar("V", bound=Callable[..., Any])


def for_who_looks_after_all(view: V) -> V:
    """Refuse everybody but whoever looks after the installation, before anything is looked at."""

    @wraps(view)
    def guarded(request: HttpRequest, **path: Any) -> Any:
        if not (request.user.is_authenticated and request.user.is_staff):
            raise NotAllowed(
                "Copies hold every household of this installation; only whoever looks after it may see them.",
                field="member",
                fix="Ask whoever made the first account here.",
            )
        return view(request, **path)

    return in_its_own_time(for_everybody(guarded))  # type: ignore[return-value]


def _one(name: str) -> backup.Backup:
    for one in backup.backups():
        if one.file.name == name:
            return one
    raise NotFound("copy: there is none of this name", field="name", fix="Load the page again.")


@router.get("/copies", response=CopiesOut, operation_id="copies_list")
@for_who_looks_after_all
def copies(request: HttpRequest) -> CopiesOut:
    """All copies."""
    listed = [copy_out(one) for one in backup.backups()]
    return CopiesOut(folder=str(backup.folder()), nightly=not settings.DEMO_SIGN_IN, copies=listed)


@router.post("/copies", response={201: CopyOut, **REFUSALS}, operation_id="copies_make")
@for_who_looks_after_all
def make(request: HttpRequest) -> tuple[int, CopyOut]:
    """A copy of everything as it is now; others go on recording meanwhile."""
    return 201, copy_out(backup.back_up())


@router.get("/copies/{name}", response={200: InsideOut, 404: Problem, 409: Problem}, operation_id="copies_look")
@for_who_looks_after_all
def look(request: HttpRequest, name: str) -> InsideOut:
    """What a copy holds."""
    return inside_out(backup.look(_one(name).file))


@router.get("/copies/{name}/file", response={200: None, 404: Problem}, operation_id="copies_file")
@for_who_looks_after_all
def file(request: HttpRequest, name: str) -> FileResponse:
    """A copy to take away: all that a new computer needs."""
    one = _one(name)
    return FileResponse(one.file.open("rb"), as_attachment=True, filename=name)


@router.post("/copies/{name}/restore", response={200: RestoredOut, **REFUSALS}, operation_id="copies_restore")
@for_who_looks_after_all
def restore(request: HttpRequest, name: str) -> RestoredOut:
    """Put a copy in the place of everything; what was there is copied first."""
    with writing():
        before = backup.restore(_one(name).file)
        call_command("migrate", interactive=False, verbosity=0)
    return RestoredOut(before=copy_out(before) if before else None)


@router.get("/health", response={200: HealthOut, 503: Problem}, auth=None, operation_id="health")
def health(request: HttpRequest) -> HealthOut | HttpResponse:
    """Whether it runs and its records can be read."""
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT 1 FROM household_household LIMIT 1")
    except DatabaseError as error:
        answer = failure(request, error)
        answer.status_code = HTTPStatus.SERVICE_UNAVAILABLE
        return answer
    return HealthOut(well=True, version=VERSION)
