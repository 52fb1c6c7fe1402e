"""Links that let somebody in once: as somebody new, as somebody known by name only, or with a new password."""

from datetime import timedelta
from uuid import UUID, uuid4

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import QuerySet

from care.errors import require
from server.base import clock, tokens
from server.base.problems import Conflict, NotAllowed, NotFound
from server.household.models import Member
from server.household.services import make_account, memberships, refuse_weak, require_owner
from server.people.accounts import end_all
from server.people.models import Invitation
from server.people.services import What, joined, note, people_of

JOINS_FOR = timedelta(days=7)
RESETS_FOR = timedelta(days=1)
"""So long a link is good: one that sets a password of an account is worth more to a thief."""


def open_invitations(member: Member) -> QuerySet[Invitation]:
    """Links that are still good, the newest first."""
    rows: QuerySet[Invitation] = Invitation.objects.of(member.household_id).select_related("member__user", "made_by")
    return rows.filter(ended_at=None, expires_at__gt=clock.now()).order_by("-made_at")


@transaction.atomic
def invite(*, member: Member, name: str, role: str, person: UUID | None = None) -> tuple[Invitation, str]:
    """A link for somebody new with that role, or for `person`, whose role stays; with its secret, which is not kept.

    Of several for one person only the last is good. Raises `NotAllowed`, `NotFound`, `InvalidValue`.
    """
    require_owner(member)
    require(role in Member.Role.values, "role", role, "one of " + ", ".join(Member.Role.values))
    known = _known(member, person) if person is not None else None
    if known is not None:
        open_invitations(member).filter(member=known).update(ended_at=clock.now())
    now, (secret, digest) = clock.now(), tokens.fresh()
    row: Invitation = Invitation.everything.create(
        id=uuid4(),
        household_id=member.household_id,
        digest=digest,
        name=known.name if known else name.strip(),
        role=known.role if known else role,
        member=known,
        made_by=member,
        made_at=now,
        expires_at=now + (RESETS_FOR if known and known.user else JOINS_FOR),
    )
    return row, secret


def _known(member: Member, person: UUID) -> Member:
    found = people_of(member).filter(pk=person).first()
    if found is None:
        raise NotFound("person: nobody of this household has this id", field="member_id", fix="Load the page again.")
    if found.user is not None:
        _may_reset(member, found.user)
    return found


def _may_reset(member: Member, user: User) -> None:
    """Refuse to open an account that reaches further than whoever asks: into other households, or the computer."""
    elsewhere = memberships(user.pk).exclude(household_id=member.household_id).values("household_id")
    assert member.user is not None  # whoever asks has signed in
    mine = memberships(member.user.pk).filter(role=Member.Role.OWNER).values("household_id")
    if elsewhere.exclude(household_id__in=mine).exists() or (user.is_staff and not member.user.is_staff):
        raise NotAllowed(
            f"{user.username} also has what is not yours to open.",
            field="member_id",
            fix="Whoever looks after the computer can set a new password there: manage.py changepassword.",
        )


@transaction.atomic
def take_back(*, member: Member, invitation_id: UUID) -> None:
    """The link is not good any more. Raises `NotAllowed`, `NotFound`."""
    require_owner(member)
    if not open_invitations(member).filter(pk=invitation_id).update(ended_at=clock.now()):
        raise NotFound("invitation: there is none with this id", field="id", fix="Load the page again.")


def invited(secret: str) -> Invitation:
    """The link with this secret. Raises `NotFound`, with the same words for one that never was, ended or expired.

    It ends, too, when whoever made it is no owner any more, or whoever it is for has left.
    """
    rows = Invitation.everything.select_related("household", "member__user", "made_by__user")
    good = rows.filter(made_by__left_at=None, made_by__role=Member.Role.OWNER, member__left_at=None)
    row: Invitation | None = good.filter(digest=tokens.digest_of(secret)).first()
    if row is None or row.ended_at is not None or row.expires_at <= clock.now():
        raise NotFound("This link is not good any more.", field="secret", fix="Ask whoever sent it for a new one.")
    return row


@transaction.atomic
def accept(*, secret: str, user: User | None, user_name: str = "", password: str = "", person: str = "") -> User:
    """Use a link: as the account `user` if that is told, else with a new account. Returns whose account it is.

    Raises `NotFound` for a link that is not good, `InvalidValue` and `Conflict` for what was told, and then it stays.
    """
    link = invited(secret)
    if link.member is not None and link.member.user is not None:
        _may_reset(link.made_by, link.member.user)  # they may have come to reach further since the link was made
        account = _new_password(link.member.user, password)
    elif link.member is not None:
        account = user or make_account(user_name, password)
        _becomes(link, link.member, account)
    else:
        account = user or make_account(user_name, password)
        joined(link.household, account, person or link.name or account.get_username(), link.role, link.made_by)
    Invitation.everything.filter(pk=link.pk).update(ended_at=clock.now())
    return account


def _new_password(user: User, password: str) -> User:
    refuse_weak(user.username, password)
    user.set_password(password)
    user.save(update_fields=["password"])
    end_all(user)
    return user


def _becomes(link: Invitation, member: Member, account: User) -> None:
    """Somebody known by name only gets an account."""
    if Member.objects.of(link.household_id).filter(user=account).exists():
        raise Conflict("You belong to this household already.", field="user_name", fix="Sign in.")
    Member.objects.of(link.household_id).filter(pk=member.pk).update(user=account)
    note(link.made_by, What.JOINED, member.name, role=member.role)
