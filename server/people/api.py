"""People: the first one, signing in and out, invitations, who may do what, an account and its households."""

from http import HTTPStatus
from typing import cast
from uuid import UUID

from django.conf import settings
from django.contrib.auth import authenticate, login, logout, update_session_auth_hash
from django.contrib.auth.models import User
from django.http import HttpRequest, HttpResponse
from django.middleware.csrf import get_token
from ninja import Router
from ninja.utils import check_csrf

from server.base import codes, first
from server.base.http import REFUSALS, Problem, problem
from server.base.problems import NotFound
from server.household.auth import asking
from server.household.models import Member
from server.household.services import CHOSEN, last_record, member_of, memberships
from server.household.writes import for_everybody, tells_a_secret
from server.people import accounts, invitations, services
from server.people.schemas import (
    AcceptIn,
    DemoSignIn,
    FirstIn,
    FirstOut,
    FoundIn,
    HouseholdName,
    InvitationIn,
    InvitedOut,
    LinkOut,
    MineOut,
    PasswordIn,
    PeopleOut,
    PersonIn,
    SecretIn,
    SessionOut,
    SignedInOut,
    SignIn,
    TastesIn,
    WhichHousehold,
    invited_out,
    member_out,
    people_out,
)

router = Router(tags=["people"])
ENTERS = {200: SessionOut, 401: Problem, 403: Problem, 404: Problem, 409: Problem, 422: Problem, 429: Problem}
"""What an operation that signs somebody in may answer."""
WRONG = "User name and password do not go together."


def _account(request: HttpRequest) -> User:
    """The account that `MemberAuth` let in."""
    return cast(User, request.user)


def _known(request: HttpRequest, user_name: str, password: str) -> User | None:
    """The account of that name with that password, if they go together; who guesses is throttled."""
    return authenticate(request, username=user_name, password=password)


def _session(request: HttpRequest) -> SessionOut:
    member = member_of(request)
    demo = DemoSignIn(**settings.DEMO_SIGN_IN) if settings.DEMO_SIGN_IN else None
    if member is None:
        setting_up = FirstOut(code_needed=not first.is_here(request)) if first.nobody_yet() else None
        return SessionOut(member=None, demo=demo, first=setting_up)
    mine = [
        MineOut(id=one.household_id, name=one.household.name, role=one.role)
        for one in memberships(_account(request).pk)
    ]
    shown = member_out(member, _account(request))
    last = last_record(member) if settings.LIVE else None
    return SessionOut(member=shown, households=mine, demo=demo, speed=settings.SPEED, last_record=last)


@router.get("/session", response=SessionOut, auth=None, operation_id="session_get")
def get_session(request: HttpRequest) -> SessionOut:
    """Who is signed in; sets the CSRF cookie."""
    get_token(request)
    return _session(request)


def _stale(request: HttpRequest) -> HttpResponse | None:
    """The refusal of a form that another page sent."""
    if check_csrf(request) is None:
        return None
    return problem(HTTPStatus.FORBIDDEN, "The form is stale.", code="csrf", fix="Load the page again.")


def _wrong() -> HttpResponse:
    return problem(
        HTTPStatus.UNAUTHORIZED, WRONG, code="wrong_sign_in", field="password", fix="Check both and try again."
    )


def _enter(request: HttpRequest, user: User, household_id: UUID | None = None) -> SessionOut:
    request.session.clear_expired()
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
    if household_id is not None:
        request.session[CHOSEN] = str(household_id)
    get_token(request)
    return _session(request)


@router.post("/session", response=ENTERS, auth=None, operation_id="session_create")
def sign_in(request: HttpRequest, data: SignIn) -> SessionOut | HttpResponse:
    """Sign in with a user name and a password."""
    if (stale := _stale(request)) is not None:
        return stale
    user = _known(request, data.user_name, data.password)
    if user is None:
        return _wrong()
    if not memberships(user.pk).exists():
        return problem(
            HTTPStatus.FORBIDDEN,
            "You belong to no household now.",
            code="no_household",
            fix="Ask an owner of yours for an invitation.",
        )
    return _enter(request, user)


@router.delete("/session", response=SessionOut, operation_id="session_delete")
def sign_out(request: HttpRequest) -> SessionOut:
    """Sign out."""
    logout(request)
    return _session(request)


@router.put("/session/household", response={200: SessionOut, 404: Problem}, operation_id="session_household")
@for_everybody
def look_at(request: HttpRequest, data: WhichHousehold) -> SessionOut:
    """Look at another household of one's own."""
    if not any(one.household_id == data.household_id for one in memberships(_account(request).pk)):
        raise NotFound("household: none of yours has this id", field="household_id", fix="Load the page again.")
    request.session[CHOSEN] = str(data.household_id)
    return _session(request)


@router.post("/first", response=ENTERS, auth=None, operation_id="first_create")
def make_first(request: HttpRequest, data: FirstIn) -> SessionOut | HttpResponse:
    """The first household with its owner, while nobody has an account."""
    if (stale := _stale(request)) is not None:
        return stale
    fields = data.model_dump()
    first.allow(request, fields.pop("code"))
    member = services.make_first(**fields)
    assert member.user is not None  # it was made just now
    return _enter(request, member.user, member.household_id)


# --- An account ---


@router.put("/tastes", response={200: SessionOut, 422: Problem}, operation_id="tastes_set")
@for_everybody
def set_tastes(request: HttpRequest, data: TastesIn) -> SessionOut:
    """How this account likes things shown."""
    accounts.choose(user=_account(request), **data.model_dump(exclude_none=True))
    return _session(request)


@router.post("/password", response={204: None, 422: Problem, 429: Problem}, operation_id="password_set")
@for_everybody
def set_password(request: HttpRequest, data: PasswordIn) -> tuple[int, None] | HttpResponse:
    """A new password; every other browser is signed out."""
    user = _account(request)
    if _known(request, user.username, data.old) is None:
        return problem(
            HTTPStatus.UNPROCESSABLE_ENTITY,
            "This is not your password.",
            code="wrong_password",
            field="old",
            fix="Give the one that you signed in with.",
        )
    accounts.change_password(user=user, new=data.new, here=request.session.session_key)
    update_session_auth_hash(request, user)
    return 204, None


def _sign_ins(request: HttpRequest) -> list[SignedInOut]:
    found = accounts.sign_ins(_account(request), request.session.session_key)
    return [SignedInOut.model_validate(one, from_attributes=True) for one in found]


@router.get("/sign-ins", response=list[SignedInOut], operation_id="sign_ins_list")
def sign_ins(request: HttpRequest) -> list[SignedInOut]:
    """Where this account is signed in."""
    return _sign_ins(request)


@router.delete("/sign-ins", response=list[SignedInOut], operation_id="sign_ins_end_others")
@for_everybody
def end_others(request: HttpRequest) -> list[SignedInOut]:
    """Sign out everywhere else."""
    accounts.end_all(_account(request), but=request.session.session_key)
    return _sign_ins(request)


@router.delete("/sign-ins/{sign_in_id}", response={200: list[SignedInOut], 404: Problem}, operation_id="sign_ins_end")
@for_everybody
def end_sign_in(request: HttpRequest, sign_in_id: str) -> list[SignedInOut]:
    """Sign out in one browser."""
    accounts.end_one(user=_account(request), sign_in_id=sign_in_id)
    return _sign_ins(request)


# --- A household and its people ---


@router.post("/households", response={201: SessionOut, **REFUSALS}, operation_id="households_create")
def found(request: HttpRequest, data: FoundIn) -> tuple[int, SessionOut]:
    """Another household, which is looked at from then on."""
    made = services.found_household(member=asking(request), name=data.name, time_zone=data.time_zone)
    request.session[CHOSEN] = str(made.household_id)
    return 201, _session(request)


@router.put("/household/name", response={200: SessionOut, 422: Problem}, operation_id="household_rename")
def rename(request: HttpRequest, data: HouseholdName) -> SessionOut:
    """What the household is called."""
    services.rename_household(member=asking(request), name=data.name)
    return _session(request)


def _people(member: Member) -> PeopleOut:
    open_ = invitations.open_invitations(member) if member.is_owner else ()
    return people_out(member, services.people_of(member), open_)


@router.get("/people", response=PeopleOut, operation_id="people_list")
def people(request: HttpRequest) -> PeopleOut:
    """Who belongs to the household; for owners also who is invited."""
    return _people(asking(request))


@router.put("/people/{member_id}", response={200: PeopleOut, **REFUSALS}, operation_id="people_change")
@for_everybody
def change_person(request: HttpRequest, member_id: UUID, data: PersonIn) -> PeopleOut:
    """What somebody is called and may do."""
    member = asking(request)
    changed = services.change_person(member=member, who=member_id, name=data.name, role=data.role)
    return _people(changed if changed.pk == member.pk else member)


@router.delete("/people/{member_id}", response={204: None, **REFUSALS}, operation_id="people_leave")
@for_everybody
def leave(request: HttpRequest, member_id: UUID) -> tuple[int, None]:
    """Somebody leaves the household."""
    services.let_go(member=asking(request), who=member_id)
    return 204, None


@router.post("/invitations", response={201: LinkOut, **REFUSALS}, operation_id="invitations_create")
@tells_a_secret
def invite(request: HttpRequest, data: InvitationIn) -> tuple[int, LinkOut]:
    """A link that lets somebody in, or sets a new password of somebody."""
    member = asking(request)
    row, secret = invitations.invite(member=member, name=data.name, role=data.role, person=data.member_id)
    address = request.build_absolute_uri("/").rstrip("/") + f"/#/invited/{secret}"
    return 201, LinkOut(
        address=address,
        rows=codes.rows(address),
        only_here=codes.only_here(request),
        expires_at=row.expires_at,
        people=_people(member),
    )


@router.delete("/invitations/{invitation_id}", response={200: PeopleOut, **REFUSALS}, operation_id="invitations_end")
def take_back(request: HttpRequest, invitation_id: UUID) -> PeopleOut:
    """A link is not good any more."""
    invitations.take_back(member=asking(request), invitation_id=invitation_id)
    return _people(asking(request))


@router.post("/invited", response={200: InvitedOut, 403: Problem, 404: Problem}, auth=None, operation_id="invited_look")
def invited(request: HttpRequest, data: SecretIn) -> InvitedOut | HttpResponse:
    """What a link is good for."""
    if (stale := _stale(request)) is not None:
        return stale
    return invited_out(invitations.invited(data.secret))


@router.post("/invited/accept", response=ENTERS, auth=None, operation_id="invited_accept")
def accept(request: HttpRequest, data: AcceptIn) -> SessionOut | HttpResponse:
    """Use a link: with a new account, or as the account that one has."""
    if (stale := _stale(request)) is not None:
        return stale
    link = invitations.invited(data.secret)
    user = request.user if data.mine and request.user.is_authenticated else None
    if data.mine and user is None:
        user = _known(request, data.user_name, data.password)
        if user is None:
            return _wrong()
    fields = {"user_name": data.user_name, "password": data.password, "person": data.person}
    entered = invitations.accept(secret=data.secret, user=user, **fields)
    return _enter(request, entered, link.household_id)
