"""Who asks: the member behind a request."""

from typing import cast

from django.http import HttpRequest
from ninja.security import APIKeyCookie

from server.household.models import Member
from server.household.services import member_of


class MemberAuth(APIKeyCookie):
    """Signed in by Django's session, and a member of a household. CSRF is checked."""

    param_name = "sessionid"

    def authenticate(self, request: HttpRequest, key: str | None) -> Member | None:
        """The member who asks, or None."""
        return member_of(request.user)


def asking(request: HttpRequest) -> Member:
    """The member that `MemberAuth` let in."""
    return cast(Member, request.auth)  # type: ignore[attr-defined]
