"""A write and its answer are one: both stand in one transaction, and an id that the client made lets it happen once.

Why it is so: docs/why/a-write-and-its-answer.md.
"""

import gzip
import hashlib
import json
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import timedelta
from functools import wraps
from http import HTTPStatus
from threading import Lock
from typing import Any, TypeVar
from uuid import UUID

from django.conf import settings
from django.db import DatabaseError, transaction
from django.http import HttpRequest, HttpResponse
from django.http.multipartparser import MultiPartParserError

from server.base import clock
from server.base.http import failure, problem, refusal, unreadable
from server.base.problems import NotAllowed
from server.household.models import Member, Sent
from server.household.services import last_record, member_of, require_owner, require_writer

HEADER = "Idempotency-Key"
"""Carries the client's id of a write: a UUID that stays the same over every try."""
AGAIN = "Idempotency-Replayed"
"""Says that an answer is the one that was given the first time."""
RECORD = "Yperon-Record"
"""Tells the number of the last record that an answer knows of, so that nobody is told of their own record as news."""
KEPT = timedelta(days=7)
"""How long an answer is kept for somebody who asks again: a device may be without a connection for some days."""
_turn = Lock()
"""Whoever writes waits here, in turn; at SQLite's own lock those who came last are served as soon as those who came
first, and some wait for seconds. Another process still waits there."""
READING = ("GET", "HEAD", "OPTIONS")

View = Callable[..., HttpResponse]
V = TypeVar("V", bound=Callable[..., Any])


def changes_nothing(view: V) -> V:
    """Mark an operation that takes a body but records nothing, so that nobody waits for it to write."""
    view.__dict__["opens_no_write"] = True
    return for_everybody(view)


def for_everybody(view: V) -> V:
    """Mark an operation that also somebody may send who only looks: it is about their own account, say."""
    view.__dict__["for_everybody"] = True
    return view


def for_owners(view: V) -> V:
    """Mark an operation that only owners may send, so that others are refused before anything is read."""
    view.__dict__["for_owners"] = True
    return view


def in_its_own_time(view: V) -> V:
    """Mark an operation that asks somebody else first, and writes `once` it knows."""
    view.__dict__["opens_no_write"] = True
    return view


def tells_a_secret(view: V) -> V:
    """Mark an operation whose answer shows a secret once: the answer is not kept for somebody who asks again."""
    view.__dict__["tells_a_secret"] = True
    return view


def one_write(run: View) -> View:
    """Run an operation so that nothing of it stays when it is refused or its answer cannot be made."""
    operation = run.__self__  # type: ignore[attr-defined]
    marks = operation.view_func.__dict__
    if not operation.auth_callbacks:
        return run

    @wraps(run)
    def written(request: HttpRequest, **path: Any) -> HttpResponse:
        if request.method in READING:
            return run(request, **path)
        needs = require_owner if "for_owners" in marks else None if "for_everybody" in marks else require_writer
        if needs is not None and (refused := _may_not(request, needs)) is not None:
            return refused
        if "opens_no_write" in marks:
            return run(request, **path)
        try:
            return once(request, lambda: run(request, **path), "tells_a_secret" in marks)
        except DatabaseError as error:  # it was refused when it was to be kept, after the answer was made
            return failure(request, error)
        except MultiPartParserError:
            return unreadable()

    return written


def _may_not(request: HttpRequest, needs: Callable[[Member], None]) -> HttpResponse | None:
    """The refusal for whoever may not do that."""
    member = member_of(request)
    try:
        if member is not None:
            needs(member)
    except NotAllowed as error:
        return refusal(error)
    return None


@contextmanager
def writing() -> Iterator[None]:
    """Take one's turn among those who write, without a transaction."""
    with _turn:
        yield


def once(request: HttpRequest, make: Callable[[], HttpResponse], secret: bool = False) -> HttpResponse:
    """What `make` writes and answers, in one transaction; of a write that was answered before, that answer.

    Of one that told a `secret` it is only known that it happened.
    """
    with _turn, transaction.atomic():
        answer = _first_or_again(request, make, secret)
        if answer.status_code >= HTTPStatus.BAD_REQUEST:
            transaction.set_rollback(True)
        elif AGAIN not in answer.headers and (member := member_of(request)) is not None:
            answer[RECORD] = last_record(member) or ""
    return answer


def _first_or_again(request: HttpRequest, make: Callable[[], HttpResponse], secret: bool) -> HttpResponse:
    given = request.headers.get(HEADER)
    member = member_of(request) if given is not None else None
    if member is None or given is None:
        return make()
    try:
        sent_id = UUID(given)
    except ValueError:
        return _refused(HTTPStatus.UNPROCESSABLE_ENTITY, f"{HEADER}: got {given[:60]!r}, needs a UUID", "malformed")
    content = _content(request)
    known = Sent.objects.of(member.household_id).filter(sent_id=sent_id).first()
    if known is not None:
        return _again(known, content)
    answer = make()
    if answer.status_code < HTTPStatus.BAD_REQUEST:
        _keep(member, sent_id, content, _shown_once() if secret else answer)
    return answer


def _shown_once() -> HttpResponse:
    return _refused(
        HTTPStatus.CONFLICT,
        "It was made, and what it showed is shown only once.",
        "shown_once",
        "Make another one; the one before is then not needed.",
    )


def _again(known: Sent, content: str) -> HttpResponse:
    if known.content != content:
        return _refused(
            HTTPStatus.CONFLICT,
            "This was recorded already, as it was told at first.",
            "recorded_otherwise",
            "Load the page again and look; undo what is wrong there.",
        )
    answer = HttpResponse(gzip.decompress(known.answer), status=known.status, content_type=known.content_type)
    answer[AGAIN] = "true"
    return answer


def _keep(member: Member, sent_id: UUID, content: str, answer: HttpResponse) -> None:
    now = clock.now()
    Sent.objects.of(member.household_id).filter(at__lt=now - KEPT).delete()
    Sent.everything.create(
        household_id=member.household_id,
        sent_id=sent_id,
        content=content,
        status=answer.status_code,
        content_type=answer.headers.get("Content-Type", ""),
        answer=gzip.compress(answer.content, compresslevel=3, mtime=0),
        at=now,
    )


def entry_of(member: Member, sent_id: UUID) -> tuple[bool, UUID | None]:
    """Whether a write under this id was recorded, and the entry that its answer named."""
    known = Sent.objects.of(member.household_id).filter(sent_id=sent_id).first()
    if known is None:
        return False, None
    text = gzip.decompress(known.answer)
    entry_id = json.loads(text).get("entry_id") if known.content_type.startswith("application/json") and text else None
    return True, UUID(entry_id) if entry_id else None


def _content(request: HttpRequest) -> str:
    """A digest of what is asked: method, address and body; of a form its fields, since its seams differ each time."""
    digest = hashlib.sha256(f"{request.method} {request.get_full_path()}\n".encode())
    for part in _form(request) if request.content_type == "multipart/form-data" else _body(request):
        digest.update(part)
    return digest.hexdigest()


def _body(request: HttpRequest) -> Iterator[bytes]:
    """The body; one that is too large to be read is left to the operation, which refuses it."""
    length = request.headers.get("Content-Length", "")
    if not length.isdigit() or int(length) <= (settings.DATA_UPLOAD_MAX_MEMORY_SIZE or 0):
        yield request.body


def _form(request: HttpRequest) -> Iterator[bytes]:
    for name, values in sorted(request.POST.lists()):
        yield f"{name}={values}\n".encode("utf-8", "surrogatepass")
    for name, files in sorted(request.FILES.lists()):
        for file in files:
            yield f"{name}:{file.size}\n".encode()
            yield from file.chunks()
            file.seek(0)


def _refused(status: HTTPStatus, detail: str, code: str, fix: str = "Send a fresh id.") -> HttpResponse:
    return problem(status, detail, code=code, field=HEADER, fix=fix)
