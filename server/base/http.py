"""How HTTP tells refusals: problem+json, in this one place."""

import logging
import sys
from collections.abc import Callable, Iterable, Mapping
from functools import wraps
from http import HTTPStatus
from math import ceil
from typing import Any

from django.core.exceptions import RequestDataTooBig, SuspiciousOperation
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.http.multipartparser import MultiPartParserError
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, Throttled, ValidationError, ValidationErrorContext
from ninja.openapi.schema import OpenAPISchema

from care.errors import CareError
from server.base.problems import BadToken, Conflict, NotAllowed, NotFound
from server.base.schema import Schema
from server.base.storage import trouble_of

log = logging.getLogger(__name__)

STATUS: dict[type[CareError], HTTPStatus] = {
    NotFound: HTTPStatus.NOT_FOUND,
    Conflict: HTTPStatus.CONFLICT,
    NotAllowed: HTTPStatus.FORBIDDEN,
    BadToken: HTTPStatus.UNAUTHORIZED,
}


class BadLine(Schema):
    """A line of a file that cannot be read, and how to mend it."""

    line: int
    problem: str
    fix: str


class Problem(Schema):
    """A refusal: what is wrong, at which field, and the way out (RFC 9457, with `code`, `field` and `fix`)."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    code: str
    field: str | None = None
    fix: str = ""
    values: dict[str, str | float | int | bool | None] = {}
    lines: list[BadLine] = []


REFUSALS = {404: Problem, 409: Problem, 422: Problem}
"""What an operation that records something may answer instead."""


def problem(
    status: HTTPStatus,
    detail: str,
    *,
    code: str,
    field: str | None = None,
    fix: str = "",
    values: dict[str, Any] | None = None,
    lines: Iterable[dict[str, Any]] = (),
) -> HttpResponse:
    """A problem+json answer."""
    body = Problem(
        title=status.phrase,
        status=status,
        detail=detail,
        code=code,
        field=field,
        fix=fix,
        values=values or {},
        lines=[BadLine(**line) for line in lines],
    )
    return JsonResponse(body.model_dump(), status=status, content_type="application/problem+json")


IDEMPOTENCY = {
    "in": "header",
    "name": "Idempotency-Key",
    "required": False,
    "schema": {"type": "string", "format": "uuid"},
    "description": "The client's id of this write, the same over every try: it then happens once.",
}
REPLAYED = {
    "description": "Set on an answer that is the one given to this id the first time",
    "schema": {"type": "string", "enum": ["true"]},
}
_REFUSAL = {
    "description": "A refusal: what is wrong, at which field, and the way out",
    "content": {"application/problem+json": {"schema": {"$ref": "#/components/schemas/Problem"}}},
}
EVERYWHERE = (400, 401, 403, 500)
"""What any operation may answer instead: it cannot be read, nobody is signed in, they may not, it failed here."""
ON_ASKED = (404, 422)
"""What one that is asked about something may answer, too: there is none, or the question cannot be."""
ON_CHANGES = (409, 413, 422, 503, 507)
"""What one that sends something may answer, too: its id was used for something else, it is too large, it cannot be,
others are writing, the disk is full."""


def _tell_refusals(operation: dict[str, Any], *, changes: bool) -> None:
    responses = operation["responses"]
    declared = {int(status) for status in responses if int(status) >= HTTPStatus.BAD_REQUEST}
    asked = ON_ASKED if operation.get("parameters") else ()
    for status in sorted(declared.union(EVERYWHERE, asked, ON_CHANGES if changes else ())):
        responses[status] = {"$ref": "#/components/responses/Refusal"}


def _tell_replays(responses: dict[Any, Any]) -> None:
    for status, answer in responses.items():
        if int(status) < HTTPStatus.BAD_REQUEST:
            answer["headers"] = {"Idempotency-Replayed": {"$ref": "#/components/headers/Replayed"}}


class Api(NinjaAPI):
    """As Ninja's, but what is malformed is told with what was got."""

    def get_openapi_schema(self, **kwargs: Any) -> OpenAPISchema:
        """The contract, with what holds for every operation: its refusals, and the id by which a write happens once."""
        schema = super().get_openapi_schema(**kwargs)
        schema["components"]["responses"] = {"Refusal": _REFUSAL}
        schema["components"]["headers"] = {"Replayed": REPLAYED}
        schema["components"]["parameters"] = {"IdempotencyKey": IDEMPOTENCY}
        for methods in schema["paths"].values():
            for method, operation in methods.items():
                _tell_refusals(operation, changes=method != "get")
                if method != "get":
                    _tell_replays(operation["responses"])
                    operation.setdefault("parameters", []).append({"$ref": "#/components/parameters/IdempotencyKey"})
        return schema

    def validation_error_from_error_contexts(
        self, error_contexts: list[ValidationErrorContext[Any]]
    ) -> ValidationError:
        """The errors of several sources, each with its input."""
        made = super().validation_error_from_error_contexts(error_contexts)
        each = (one for of in error_contexts for one in of.pydantic_validation_error.errors(include_url=False))
        for error, one in zip(made.errors, each, strict=True):
            error["input"] = one["input"]
        return made


def sent_as_made(view: Callable[..., Any]) -> Callable[..., Any]:
    """Send what an operation made as it is: it was checked when it was made, and need not be checked once more."""

    @wraps(view)
    def sent(*args: Any, **kwargs: Any) -> Any:
        made = view(*args, **kwargs)
        status, body = made if isinstance(made, tuple) else (HTTPStatus.OK, made)
        if isinstance(body, Schema):
            return HttpResponse(body.model_dump_json(), status=status, content_type="application/json")
        if isinstance(body, list) and all(isinstance(one, Schema) for one in body):
            text = ",".join(one.model_dump_json() for one in body)
            return HttpResponse(f"[{text}]", status=status, content_type="application/json")
        return made

    return sent


def tell_problems(api: NinjaAPI) -> None:
    """Register every kind of refusal with `api`, in this one place."""

    @api.exception_handler(CareError)
    def refused(request: HttpRequest, error: CareError) -> HttpResponse:
        return refusal(error)

    @api.exception_handler(ValidationError)
    def malformed(request: HttpRequest, error: ValidationError) -> HttpResponse:
        first = error.errors[0]
        field = _field(first["loc"])
        detail, fix = words_of(field, first)
        return problem(HTTPStatus.UNPROCESSABLE_ENTITY, detail, code="malformed", field=field, fix=fix)

    @api.exception_handler(AuthenticationError)
    def nobody(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
        return problem(HTTPStatus.UNAUTHORIZED, "You are not signed in.", code="signed_out", fix="Sign in.")

    @api.exception_handler(Throttled)
    def too_often(request: HttpRequest, error: Throttled) -> HttpResponse:
        wait = ceil(error.wait or 1)
        words = "Too many requests in a minute; nothing was recorded."
        answer = problem(HTTPStatus.TOO_MANY_REQUESTS, words, code="throttled", fix=f"Wait {wait} s and try again.")
        answer["Retry-After"] = str(wait)
        return answer

    @api.exception_handler(HttpError)
    def other(request: HttpRequest, error: HttpError) -> HttpResponse:
        return problem(HTTPStatus(error.status_code), str(error), code="refused", fix="Load the page again.")

    @api.exception_handler(RequestDataTooBig)
    def too_large(request: HttpRequest, error: RequestDataTooBig) -> HttpResponse:
        words = "What was sent is too large; nothing was recorded."
        return problem(HTTPStatus.REQUEST_ENTITY_TOO_LARGE, words, code="too_large", fix="Send less in one go.")

    @api.exception_handler(SuspiciousOperation)
    @api.exception_handler(MultiPartParserError)
    def not_readable(request: HttpRequest, error: Exception) -> HttpResponse:
        return unreadable()

    @api.exception_handler(Exception)
    def failed(request: HttpRequest, error: Exception) -> HttpResponse:
        return failure(request, error)


def refusal(error: CareError) -> HttpResponse:
    """What is told of a refusal of the core or a service."""
    status = STATUS.get(type(error), HTTPStatus.UNPROCESSABLE_ENTITY)
    given = dict(error.values)
    lines = given.pop("lines", ())
    values = {k: v if isinstance(v, (str, int, float, bool)) else str(v) for k, v in given.items()}
    return problem(status, error.detail, code=error.code, field=error.field, fix=error.fix, values=values, lines=lines)


def unreadable() -> HttpResponse:
    """What is told of a request that is no JSON and no form."""
    words = "What was sent cannot be read; nothing was recorded."
    return problem(HTTPStatus.BAD_REQUEST, words, code="unreadable", fix="Load the page and try again.")


def failure(request: HttpRequest, error: BaseException | None) -> HttpResponse:
    """What is told when an answer could not be made: of a disk that does not take it in words, else that it failed."""
    if trouble := trouble_of(error):
        log.error("%s %s: %s (%s)", request.method, request.path, trouble.detail, error)
        status = HTTPStatus.SERVICE_UNAVAILABLE if trouble.soon else HTTPStatus.INSUFFICIENT_STORAGE
        return problem(status, trouble.detail, code=trouble.code, fix=trouble.fix)
    log.error("%s %s failed", request.method, request.path, exc_info=error)
    return problem(
        HTTPStatus.INTERNAL_SERVER_ERROR,
        "Something went wrong here; nothing was recorded.",
        code="failed",
        fix="Try again. If it stays, look at Round: it names a record at fault, if one is, and offers to undo it.",
    )


def server_error(request: HttpRequest) -> HttpResponse:
    """As `failure`, for what is raised outside the operations: Django's handler for errors."""
    return failure(request, sys.exc_info()[1])


LIMITS = {
    "greater_than_equal": ("ge", "{} or more"),
    "less_than_equal": ("le", "{} or less"),
    "greater_than": ("gt", "more than {}"),
    "less_than": ("lt", "less than {}"),
    "string_too_long": ("max_length", "at most {} characters"),
    "too_long": ("max_length", "at most {} of them"),
    "literal_error": ("expected", "one of {}"),
    "enum": ("expected", "one of {}"),
}
"""How a limit is told, by the kind of error: the name under which it stands there, and the words."""


def words_of(field: str, error: Mapping[str, Any]) -> tuple[str, str]:
    """What is wrong with a field, as the core says it (what it got, what it needs), and the way out."""
    name, words = LIMITS.get(error["type"], ("", ""))
    limit, got = error.get("ctx", {}).get(name), error.get("input")
    if limit is None:
        said = str(error["msg"]).removeprefix("Value error, ")
        return f"{field}: {said}", f"Correct {field} and send it again."
    needs = words.format(limit)
    shown = f"{len(got)}" if name == "max_length" and isinstance(got, (str, list, dict)) else f"{got}"[:60]
    return f"{field}: got {shown}, needs {needs}", f"Give {needs}."


def _field(loc: Iterable[object]) -> str:
    """`body.data.minutes` told as `minutes`, one of several days as `days`; a bad id in the path is the id."""
    parts = [str(part) for part in loc]
    while len(parts) > 1 and parts[-1].isdigit():
        parts.pop()
    return ".".join(parts[2:] or parts[1:] or parts) if parts[:1] == ["body"] else parts[-1]
