"""What operations about people and accounts take and give."""

from collections.abc import Iterable
from datetime import datetime
from typing import Literal
from uuid import UUID

from django.contrib.auth.models import User

from server.base import bounds
from server.base.schema import Schema
from server.household.models import Member
from server.people import accounts
from server.people.models import Invitation

Role = Literal["owner", "helper", "viewer"]
Units = Literal["metric", "us"]
Theme = Literal["auto", "light", "dark"]
Text = Literal["usual", "large"]
Numbers = Literal["device", "point", "comma", "space"]


class SignIn(Schema):
    """A sign-in."""

    user_name: bounds.Line
    password: bounds.Secret


class TastesOut(Schema):
    """How somebody likes things shown."""

    units: Units
    theme: Theme
    text: Text
    numbers: Numbers


class TastesIn(Schema):
    """What of it is chosen otherwise."""

    units: Units | None = None
    theme: Theme | None = None
    text: Text | None = None
    numbers: Numbers | None = None


class MemberOut(Schema):
    """The signed-in member, in the household that is looked at."""

    id: UUID
    user_name: str
    name: str
    role: Role
    may_write: bool
    household_id: UUID
    household: str
    time_zone: str
    tastes: TastesOut
    looks_after_all: bool
    """Whether this account looks after the whole installation, with its copies."""


class MineOut(Schema):
    """A household that an account belongs to."""

    id: UUID
    name: str
    role: Role


class DemoSignIn(Schema):
    """The sign-in of the demo household, shown on its own sign-in page."""

    user_name: str
    password: str


class FirstOut(Schema):
    """Nobody has an account yet: whoever is here makes the first one, from elsewhere with a code."""

    code_needed: bool


class SessionOut(Schema):
    """Who is signed in, if anybody, and which households they have."""

    member: MemberOut | None
    households: list[MineOut] = []
    demo: DemoSignIn | None = None
    first: FirstOut | None = None
    speed: float = 1.0
    """How many times as fast the clock runs here: 1 but where devices are watched."""
    last_record: str | None = None
    """The last record of the household, where screens are told at once of what is recorded elsewhere: whoever listens
    compares with it what they hear first, since something may come between a page and its first news."""


class WhichHousehold(Schema):
    """A household to look at."""

    household_id: UUID


class FoundIn(Schema):
    """A household to be made."""

    name: bounds.Remark
    time_zone: bounds.Key


class FirstIn(FoundIn):
    """The first household with its owner."""

    code: bounds.Remark = ""
    user_name: bounds.Remark
    password: bounds.Secret
    person: bounds.Remark = ""


class PasswordIn(Schema):
    """A new password, and the one until now."""

    old: bounds.Secret
    new: bounds.Secret


class SignedInOut(Schema):
    """A browser in which an account is signed in."""

    id: str
    device: str
    since: datetime | None
    here: bool


class PersonOut(Schema):
    """Somebody of the household."""

    id: UUID
    name: str
    role: Role
    user_name: str | None
    """How they sign in; None: known by name only."""
    joined_at: datetime
    me: bool


class InvitationOut(Schema):
    """A link that is still good; its secret is nowhere."""

    id: UUID
    name: str
    role: Role
    member_id: UUID | None
    sets_password: bool
    made_by: str
    made_at: datetime
    expires_at: datetime


class PeopleOut(Schema):
    """Who belongs to the household, and who is invited."""

    people: list[PersonOut]
    invitations: list[InvitationOut]


class PersonIn(Schema):
    """What somebody is called and may do."""

    name: bounds.Remark
    role: Role


class InvitationIn(Schema):
    """Whom a link is for: somebody new with a role, or a person of the household."""

    name: bounds.Remark = ""
    role: Role = "helper"
    member_id: UUID | None = None


class LinkOut(Schema):
    """A link, shown this once, and the rows of its code to be scanned; `only_here`: no other device reaches it."""

    address: str
    rows: list[str]
    only_here: bool
    expires_at: datetime
    people: PeopleOut


class HouseholdName(Schema):
    """What a household is called."""

    name: bounds.Remark


class SecretIn(Schema):
    """The secret of a link."""

    secret: bounds.Line


class InvitedOut(Schema):
    """What a link is good for."""

    household: str
    by: str
    name: str
    role: Role
    user_name: str | None
    """Whose password it sets; None: it lets somebody in."""


class AcceptIn(SecretIn):
    """How somebody takes an invitation: as the account they have, or with a new one."""

    mine: bool = False
    """Whether name and password are those of an account that there is."""
    user_name: bounds.Remark = ""
    password: bounds.Secret = ""
    person: bounds.Remark = ""


def member_out(member: Member, user: User) -> MemberOut:
    """Who is signed in, in the household that is looked at."""
    return MemberOut(
        id=member.pk,
        user_name=user.username,
        name=member.name,
        role=member.role,
        may_write=member.may_write,
        household_id=member.household_id,
        household=member.household.name,
        time_zone=member.household.time_zone,
        tastes=TastesOut.model_validate(accounts.tastes_of(user)),
        looks_after_all=user.is_staff,
    )


def people_out(me: Member, people: Iterable[Member], invited: Iterable[Invitation]) -> PeopleOut:
    """Who belongs to a household, and the links into it that are still good."""
    return PeopleOut(
        people=[
            PersonOut(
                id=one.pk,
                name=one.name,
                role=one.role,
                user_name=one.user.username if one.user else None,
                joined_at=one.joined_at,
                me=one.pk == me.pk,
            )
            for one in people
        ],
        invitations=[
            InvitationOut(
                id=one.pk,
                name=one.name,
                role=one.role,
                member_id=one.member_id,
                sets_password=one.member is not None and one.member.user_id is not None,
                made_by=one.made_by.name,
                made_at=one.made_at,
                expires_at=one.expires_at,
            )
            for one in invited
        ],
    )


def invited_out(link: Invitation) -> InvitedOut:
    """What a link is good for."""
    known = link.member.user if link.member else None
    return InvitedOut(
        household=link.household.name,
        by=link.made_by.name,
        name=link.name,
        role=link.role,
        user_name=known.username if known else None,
    )
