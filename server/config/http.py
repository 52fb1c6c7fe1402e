"""How HTTP tells refusals: problem+json, in this one place."""

from collections.abc import Iterable
from http import HTTPStatus
from typing import Any

from django.http import HttpRequest, HttpResponse, JsonResponse
from ninja import NinjaAPI, Schema
from ninja.errors import AuthenticationError, HttpError, ValidationError

from care.errors import CareError
from server.config.problems import Conflict, NotAllowed, NotFound

STATUS: dict[type[CareError], HTTPStatus] = {
    NotFound: HTTPStatus.NOT_FOUND,
    Conflict: HTTPStatus.CONFLICT,
    NotAllowed: HTTPStatus.FORBIDDEN,
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
"""What an operation that records something may answer instead; 401 and 403 are the same for all."""


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


def tell_problems(api: NinjaAPI) -> None:
    """Register every kind of refusal with `api`, in this one place."""

    @api.exception_handler(CareError)
    def refused(request: HttpRequest, error: CareError) -> HttpResponse:
        status = STATUS.get(type(error), HTTPStatus.UNPROCESSABLE_ENTITY)
        told = dict(error.values)
        lines = told.pop("lines", ())
        values = {k: v if isinstance(v, (str, int, float, bool)) else str(v) for k, v in told.items()}
        return problem(
            status, error.detail, code=error.code, field=error.field, fix=error.fix, values=values, lines=lines
        )

    @api.exception_handler(ValidationError)
    def malformed(request: HttpRequest, error: ValidationError) -> HttpResponse:
        first = error.errors[0]
        field = _field(first["loc"])
        return problem(
            HTTPStatus.UNPROCESSABLE_ENTITY,
            f"{field}: {first['msg']}",
            code="malformed",
            field=field,
            fix=f"Correct {field} and send it again.",
        )

    @api.exception_handler(AuthenticationError)
    def nobody(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
        return problem(HTTPStatus.UNAUTHORIZED, "You are not signed in.", code="signed_out", fix="Sign in.")

    @api.exception_handler(HttpError)
    def other(request: HttpRequest, error: HttpError) -> HttpResponse:
        return problem(HTTPStatus(error.status_code), str(error), code="refused", fix="Load the page again.")


def _field(loc: Iterable[object]) -> str:
    """`body.data.minutes` told as `minutes`; a bad id in the path is the id."""
    parts = [str(part) for part in loc]
    return ".".join(parts[2:] or parts[1:] or parts) if parts[:1] == ["body"] else parts[-1]
