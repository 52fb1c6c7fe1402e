"""Signing in and out."""

from http import HTTPStatus
from uuid import UUID

from django.conf import settings
from django.contrib.auth import authenticate, login, logout
from django.http import HttpRequest, HttpResponse
from django.middleware.csrf import get_token
from ninja import Router
from ninja.utils import check_csrf

from server.config.http import Problem, problem
from server.household.auth import asking
from server.household.schemas import DemoSignIn, MemberOut, SentOut, SessionOut, SignIn
from server.household.services import member_of
from server.household.writes import entry_of

router = Router(tags=["session"])


def _session(request: HttpRequest) -> SessionOut:
    member = member_of(request.user)
    demo = DemoSignIn(**settings.DEMO_SIGN_IN) if settings.DEMO_SIGN_IN else None
    if member is None:
        return SessionOut(member=None, demo=demo)
    return SessionOut(
        member=MemberOut(
            id=member.pk,
            name=member.name,
            role=member.role,
            may_write=member.may_write,
            household=member.household.name,
            time_zone=member.household.time_zone,
            units=member.units,
        ),
        demo=demo,
    )


@router.get("/session", response=SessionOut, auth=None, operation_id="session_get")
def get_session(request: HttpRequest) -> SessionOut:
    """Who is signed in; sets the CSRF cookie."""
    get_token(request)
    return _session(request)


@router.post(
    "/session",
    response={200: SessionOut, 401: Problem, 403: Problem, 429: Problem},
    auth=None,
    operation_id="session_create",
)
def sign_in(request: HttpRequest, data: SignIn) -> SessionOut | HttpResponse:
    """Sign in with a user name and a password."""
    if check_csrf(request) is not None:
        return problem(HTTPStatus.FORBIDDEN, "The form is stale.", code="csrf", fix="Load the page again.")
    user = authenticate(request, username=data.user_name, password=data.password)
    if user is None:
        return problem(
            HTTPStatus.UNAUTHORIZED,
            "User name and password do not go together.",
            code="wrong_sign_in",
            field="password",
            fix="Check both and try again.",
        )
    request.session.clear_expired()
    login(request, user)
    get_token(request)
    return _session(request)


@router.get("/sent/{sent_id}", response=SentOut, operation_id="sent_get")
def sent(request: HttpRequest, sent_id: UUID) -> SentOut:
    """Whether a write that had no answer was recorded."""
    recorded, entry_id = entry_of(asking(request), sent_id)
    return SentOut(recorded=recorded, entry_id=entry_id)


@router.delete("/session", response=SessionOut, operation_id="session_delete")
def sign_out(request: HttpRequest) -> SessionOut:
    """Sign out."""
    logout(request)
    return _session(request)
