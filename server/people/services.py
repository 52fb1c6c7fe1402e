"""Who belongs to a household and what they may do; which households an account has."""

from uuid import UUID

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import QuerySet
from django.dispatch import receiver

from care.errors import require
from server.base import clock, first
from server.base.problems import Conflict, NotFound
from server.household.models import Household, Member
from server.household.services import create_household, join, journal_by, memberships, new_household, require_owner
from server.logbook.models import Entry
from server.logbook.signals import voided
from server.people.models import PeopleChange

What = PeopleChange.What


def people_of(member: Member) -> QuerySet[Member]:
    """Who belongs to the household now: owners first, then by name."""
    rows: QuerySet[Member] = Member.objects.of(member.household_id).filter(left_at=None).select_related("user")
    return rows.order_by("joined_at", "name")


def _one(member: Member, who: UUID) -> Member:
    found = people_of(member).filter(pk=who).first()
    if found is None:
        raise NotFound("person: nobody of this household has this id", field="id", fix="Load the page again.")
    return found


@transaction.atomic
def change_person(*, member: Member, who: UUID, name: str, role: str) -> Member:
    """Call somebody otherwise, or let them do more or less. Whoever it is may change the own name.

    Raises `NotAllowed`, `NotFound`, `InvalidValue`, or `Conflict` where nobody would be left who is an owner.
    """
    person = _one(member, who)
    if person.pk != member.pk or role != person.role:
        require_owner(member)
    require(role in Member.Role.values, "role", role, "one of " + ", ".join(Member.Role.values))
    require(bool(name.strip()), "name", repr(name), "a name")
    if person.role == Member.Role.OWNER != role:
        _keep_an_owner(person)
    if role != person.role:
        note(member, What.ROLE, name.strip(), before=person.role, role=role)
    if name.strip() != person.name:
        note(member, What.RENAMED, name.strip(), before=person.name)
    person.name, person.role = name.strip(), role
    person.save(update_fields=["name", "role"])
    return person


@transaction.atomic
def let_go(*, member: Member, who: UUID) -> None:
    """Somebody leaves, by an owner or by themselves; their records stay. Raises as `change_person`."""
    person = _one(member, who)
    if person.pk != member.pk:
        require_owner(member)
    if person.role == Member.Role.OWNER:
        _keep_an_owner(person)
    note(member, What.LEFT, person.name, role=person.role)
    Member.objects.of(member.household_id).filter(pk=person.pk).update(left_at=clock.now())


def joined(household: Household, user: User, person: str, role: str, by: Member) -> Member:
    """An account joins a household; who left comes back as who they were. Raises `Conflict` for one that is there."""
    known: Member | None = Member.objects.of(household.pk).filter(user=user).first()
    if known is not None and known.left_at is None:
        raise Conflict("You belong to this household already.", field="user_name", fix="Sign in.")
    if known is None:
        known = join(household, user, person, role)
    else:
        known.role, known.left_at = role, None
        known.save(update_fields=["role", "left_at"])
    note(by, What.JOINED, known.name, role=role)
    return known


@transaction.atomic
def found_household(*, member: Member, name: str, time_zone: str) -> Member:
    """Another household of whoever asks, who owns it. Raises `InvalidValue`, `NotAllowed` for whoever owns none."""
    assert member.user is not None  # whoever asks has signed in
    mine = memberships(member.user.pk)
    if not mine.filter(role=Member.Role.OWNER).exists():
        require_owner(member)
    return join(new_household(name, time_zone), member.user, member.name, Member.Role.OWNER)


@transaction.atomic
def rename_household(*, member: Member, name: str) -> None:
    """What the household is called. Raises `NotAllowed`, `InvalidValue`."""
    require_owner(member)
    require(bool(name.strip()), "name", repr(name), "a name")
    note(member, What.HOUSE, name.strip(), before=member.household.name)
    Household.objects.filter(pk=member.household_id).update(name=name.strip())
    member.household.name = name.strip()


def note(by: Member, what: PeopleChange.What, name: str, *, before: str = "", role: str = "") -> None:
    """Put what changed of a household's people into its records."""
    journal_by(by).tell(PeopleChange, what=what, name=name, before=before, role=role)


def _keep_an_owner(person: Member) -> None:
    """Refuse what would leave a household without an owner who can sign in."""
    others = people_of(person).filter(role=Member.Role.OWNER, user__isnull=False).exclude(pk=person.pk)
    if not others.exists():
        raise Conflict(
            f"{person.name} is the only owner: nobody could let anybody in any more.",
            field="role",
            fix="Make somebody else an owner first.",
        )


@transaction.atomic
def make_first(*, name: str, time_zone: str, user_name: str, password: str, person: str) -> Member:
    """The first household with its owner. Raises `Conflict` once somebody has an account, `InvalidValue` for what
    was told.
    """
    if not first.nobody_yet():
        raise Conflict("Somebody has an account here already.", field="user_name", fix="Sign in, or be invited.")
    return create_household(
        name=name, time_zone=time_zone, user_name=user_name, password=password, person=person or user_name
    )


@receiver(voided)
def _stays(household_id: UUID, action: list[Entry], **_: object) -> None:
    if any(entry.kind == Entry.Kind.PEOPLE for entry in action):
        raise Conflict("Who may do what is not taken back.", field="id", fix="Change it on the page People.")
