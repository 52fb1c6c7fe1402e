"""Use cases of the household: making one, and its dated answers."""

from dataclasses import dataclass, replace
from datetime import date, datetime
from uuid import UUID, uuid4, uuid5
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from django.conf import settings
from django.contrib.auth.models import User
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import IntegrityError, transaction
from django.db.models import Max, QuerySet
from django.http import HttpRequest
from pydantic import TypeAdapter

from care.due import LoadLine
from care.errors import InvalidValue, require
from care.household import AtTheBench, Profile, load_of
from care.model import Load, LoadEvent
from care.vocabulary import LoadKind, School
from server.base import clock
from server.base.problems import Conflict, NotAllowed
from server.household.models import Household, Member, MoreLoad, Pace, Settings
from server.logbook.memo import latest, remembered
from server.logbook.models import Entry
from server.logbook.services import Journal, standing

_profile: TypeAdapter[Profile | None] = TypeAdapter(Profile | None)


@dataclass(frozen=True, slots=True)
class Answers:
    """What the household answered, as the core wants it: loads over time, the school and the profile in force."""

    loads: LoadLine
    school: School
    profile: Profile | None = None
    pace: float = 1.0

    @property
    def at_the_bench(self) -> AtTheBench:
        """What a sheet must know of the household; where nobody answered, nothing is held back."""
        profile = self.profile
        if profile is None:
            return AtTheBench(pace=self.pace)
        tools = None if profile.tools is None else frozenset(profile.tools)
        return AtTheBench(profile.skill, profile.allergy, profile.children + profile.animals > 0, tools, self.pace)


CHOSEN = "household"
"""The key of a session under which it stands in which household somebody is."""


def member_of(request: HttpRequest) -> Member | None:
    """The member that whoever signed in is, in the household that they chose, else their first; None for nobody."""
    if not request.user.is_authenticated:
        return None
    mine = list(memberships(request.user.pk))
    chosen = request.session.get(CHOSEN)
    return next((member for member in mine if str(member.household_id) == chosen), mine[0] if mine else None)


def memberships(user_id: int) -> QuerySet[Member]:
    """Where an account is a member now, the first household first."""
    rows: QuerySet[Member] = Member.everything.select_related("household")
    return rows.filter(user_id=user_id, left_at=None).order_by("joined_at", "pk")


def the_household(name: str | None) -> Household:
    """The household of that name, or the only one there is, for commands. Raises `InvalidValue` naming them."""
    rows = list(Household.objects.filter(name=name) if name else Household.objects.all())
    known = ", ".join(Household.objects.order_by("name").values_list("name", flat=True)) or "none yet"
    require(len(rows) == 1, "household", name or "no name", f"the name of one: {known}")
    return rows[0]


def owner_of(household: Household) -> Member:
    """An owner of a household, for commands that act for it."""
    rows = Member.objects.of(household.pk).select_related("household").filter(role=Member.Role.OWNER)
    row: Member = rows.order_by("left_at", "joined_at")[0]
    return row


def journal_by(
    member: Member, about: UUID | None = None, *, action_id: UUID | None = None, source: str | None = None
) -> Journal:
    """The entries of one action of a member about a machine, or about the whole household; of a device, which is
    nobody of the household (it has no id there), they say so.
    """
    source = source or (Entry.Source.PERSON if member.pk else Entry.Source.DEVICE)
    return Journal(member.household_id, by_id=member.pk, subject_id=about, action_id=action_id, source=source)


def journal_beside(member: Member, name: str) -> Journal:
    """The entries of one action that move no machine's dates, such as those of the season or of the air."""
    return journal_by(member, uuid5(member.household_id, name))


def last_record(member: Member) -> str | None:
    """The number of the last record of the household, for whoever waits for news; None where they do not belong to it
    any more. Where the clock runs faster, each minute is news.
    """
    if not Member.objects.of(member.household_id).filter(pk=member.pk, left_at=None).exists():
        return None
    last = Entry.objects.of(member.household_id).aggregate(last=Max("sequence"))["last"] or 0
    return f"{last}" if settings.SPEED == 1 else f"{last}@{clock.minute():%m%d%H%M}"


def require_writer(member: Member) -> None:
    """Raise `NotAllowed` unless `member` may record something."""
    if not member.may_write:
        raise NotAllowed(
            f"{member.name} may look, not change.", field="member", fix="Ask an owner of this household for the right."
        )


def require_owner(member: Member) -> None:
    """Raise `NotAllowed` unless `member` says who may do what."""
    if not member.is_owner:
        raise NotAllowed("Only an owner of this household may do that.", field="member", fix="Ask one of them.")


def zone_of(member: Member) -> ZoneInfo:
    """The time zone of the member's household."""
    return ZoneInfo(member.household.time_zone)


def today_of(member: Member) -> date:
    """The local day of the member's household."""
    return clock.now().astimezone(zone_of(member)).date()


@transaction.atomic
def create_household(*, name: str, time_zone: str, user_name: str, password: str, person: str) -> Member:
    """A household with its first owner. Raises `InvalidValue` or `Conflict` naming the field."""
    household = new_household(name, time_zone)
    return join(household, make_account(user_name, password), person, Member.Role.OWNER)


def new_household(name: str, time_zone: str) -> Household:
    """A household without anybody in it. Raises `InvalidValue`."""
    require(bool(name.strip()), "name", repr(name), "a name")
    try:
        ZoneInfo(time_zone)
    except (ZoneInfoNotFoundError, ValueError, OSError):
        require(False, "time_zone", time_zone, "an IANA name such as Europe/Dublin")
    return Household.objects.create(id=uuid4(), name=name.strip(), time_zone=time_zone, created_at=clock.now())


def make_account(user_name: str, password: str) -> User:
    """A user name with its password; the first one of an installation looks after the installation, too.

    Raises `InvalidValue` for a password that is guessed soon or no name, `Conflict` for a name that is taken.
    """
    users = User.objects
    require(bool(user_name.strip()), "user_name", repr(user_name), "a name")
    refuse_weak(user_name, password)
    try:
        with transaction.atomic():
            return users.create_user(username=user_name.strip(), password=password, is_staff=not users.exists())
    except IntegrityError as error:
        raise Conflict(f"user_name: {user_name!r} is taken", field="user_name", fix="Choose another.") from error


def join(household: Household, user: User, person: str, role: str) -> Member:
    """An account becomes a member. Raises `InvalidValue` without a name."""
    require(bool(person.strip()), "person", repr(person), "a name")
    now = clock.now()
    row: Member = Member.everything.create(
        id=uuid4(), household=household, user=user, name=person.strip(), role=role, joined_at=now
    )
    return row


def refuse_weak(user_name: str, password: str) -> None:
    """Refuse a password that is guessed soon. Raises `InvalidValue` saying why."""
    try:
        validate_password(password, User(username=user_name))
    except ValidationError as error:
        raise InvalidValue(" ".join(error.messages), field="password", fix="Choose another.") from error


@transaction.atomic
def answer(
    *, member: Member, load: Load, school: School, since: datetime | None = None, profile: Profile | None = None
) -> Entry:
    """A new dated version of the household's answers: the loads, and what they were made from where that was told."""
    require_writer(member)
    journal = journal_by(member)
    return journal.tell(
        Settings,
        since or journal.entered_at,
        hair=load.hair,
        dust=load.dust,
        volume=load.volume,
        school=school,
        profile=_profile.dump_python(profile, mode="json"),
    )


def answer_profile(*, member: Member, profile: Profile, school: School) -> Entry:
    """A new dated version of the household's answers, from who lives there and what the floors are like."""
    return answer(member=member, load=load_of(profile), school=school, profile=profile)


def versions(member: Member) -> list[Settings]:
    """The household's dated answers that stand, newest first."""
    return list(standing(Settings.objects.of(member.household_id)).reverse())


@transaction.atomic
def more_load(*, member: Member, kind: LoadKind, first: date, last: date, level: float, note: str = "") -> Entry:
    """A time of more load than usual. Raises `InvalidValue` for a level outside 0..1 or days the wrong way round."""
    require_writer(member)
    event = LoadEvent(kind, first, last, level, note.strip())
    journal = journal_by(member)
    return journal.tell(
        MoreLoad, kind=event.kind, first=event.first, last=event.last, level=event.level, note=event.note
    )


def answers_at(household_id: UUID, at: datetime) -> Answers:
    """The answers up to an instant, dated; before the first ones, the middle of every range, by the label."""
    mark = latest(household_id, household_id)
    made = remembered(
        ("answers", household_id, mark, at.replace(second=0, microsecond=0)), lambda: _answers_at(household_id, at)
    )
    return replace(made, pace=pace_of(household_id)[0])


def pace_of(household_id: UUID) -> tuple[float, int]:
    """How many times the book's minutes this household takes [-], and from how many sittings that is known."""
    row = Pace.objects.of(household_id).values_list("factor", "sittings").first()
    return row or (1.0, 0)


def keep_pace(household_id: UUID, factor: float, sittings: int) -> None:
    """Keep the pace that sittings tell of: to hundredths, so that it does not move everything each time."""
    figures = {"factor": round(factor, 2), "sittings": sittings}
    Pace.everything.update_or_create(household_id=household_id, defaults=figures)


def _answers_at(household_id: UUID, at: datetime) -> Answers:
    rows = list(standing(Settings.objects.of(household_id)).filter(entry__happened_at__lte=at))
    loads = [(row.entry.happened_at, Load(hair=row.hair, dust=row.dust, volume=row.volume)) for row in rows]
    events = [
        LoadEvent(LoadKind(row.kind), row.first, row.last, row.level, row.note)
        for row in standing(MoreLoad.objects.of(household_id))
    ]
    school = School(rows[-1].school) if rows else School.LABEL
    return Answers(LoadLine(loads, events), school, _profile.validate_python(rows[-1].profile) if rows else None)
