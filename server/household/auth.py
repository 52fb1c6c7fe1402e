"""Who asks: the member behind a request."""

from http import HTTPStatus
from typing import cast

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from ninja.security import APIKeyCookie

from server.base.http import problem
from server.household.models import Member
from server.household.services import member_of


def throttled(request: HttpRequest, *args: object) -> HttpResponse:
    """What is told instead of any answer to a sign-in while a name from an address is throttled."""
    minutes = round(settings.AXES_COOLOFF_TIME.total_seconds() / 60)
    return problem(
        HTTPStatus.TOO_MANY_REQUESTS,
        "Too many wrong passwords for this name from this device.",
        code="throttled",
        field="password",
        fix=f"Wait {minutes} minutes and try again.",
    )


class MemberAuth(APIKeyCookie):
    """Signed in by Django's session, and a member of a household. CSRF is checked."""

    param_name = "sessionid"

    def authenticate(self, request: HttpRequest, key: str | None) -> Member | None:
        """The member who asks, or None."""
        return member_of(request)


def asking(request: HttpRequest) -> Member:
    """The member that `MemberAuth` let in."""
    return cast(Member, request.auth)  # type: ignore[attr-defined]
