"""Use cases of the household: making one, and its dated answers."""

from dataclasses import dataclass, replace
from datetime import date, datetime
from uuid import UUID, uuid4
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from django.contrib.auth import get_user_model
from django.contrib.auth.models import AbstractBaseUser, AnonymousUser
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import IntegrityError, transaction
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
        told = self.profile
        if told is None:
            return AtTheBench(pace=self.pace)
        tools = None if told.tools is None else frozenset(told.tools)
        return AtTheBench(told.skill, told.allergy, told.children + told.animals > 0, tools, self.pace)


def member_of(user: AbstractBaseUser | AnonymousUser) -> Member | None:
    """The member a signed-in user is, or None."""
    if not user.is_authenticated:
        return None
    return Member.everything.select_related("household").filter(user_id=user.pk).first()


def keeper_of(household: Household) -> Member:
    """A keeper of a household, for commands that act for it."""
    row: Member = Member.objects.of(household.pk).select_related("household").filter(role=Member.Role.KEEPER)[0]
    return row


def journal_by(
    member: Member, about: UUID | None = None, *, action_id: UUID | None = None, source: str = Entry.Source.PERSON
) -> Journal:
    """The entries of one action of a member about a machine, or about the whole household."""
    return Journal(member.household_id, by_id=member.pk, subject_id=about, action_id=action_id, source=source)


def require_writer(member: Member) -> None:
    """Raise `NotAllowed` unless `member` may record something."""
    if not member.may_write:
        raise NotAllowed(
            f"{member.name} may look, not change.", field="member", fix="Ask a keeper of this household for the right."
        )


def zone_of(member: Member) -> ZoneInfo:
    """The time zone of the member's household."""
    return ZoneInfo(member.household.time_zone)


def today_of(member: Member) -> date:
    """The local day of the member's household."""
    return clock.now().astimezone(zone_of(member)).date()


@transaction.atomic
def create_household(*, name: str, time_zone: str, user_name: str, password: str, person: str) -> Member:
    """A household with its first keeper. Raises `InvalidValue` or `Conflict` naming the field."""
    require(bool(name.strip()), "name", repr(name), "a name")
    try:
        ZoneInfo(time_zone)
    except (ZoneInfoNotFoundError, ValueError):
        require(False, "time_zone", time_zone, "an IANA name such as Europe/Dublin")
    _refuse_weak(user_name, password)
    household = Household.objects.create(id=uuid4(), name=name.strip(), time_zone=time_zone, created_at=clock.now())
    try:
        user = get_user_model().objects.create_user(username=user_name, password=password)
    except IntegrityError as error:
        raise Conflict(f"user_name: {user_name!r} is taken", field="user_name", fix="Choose another.") from error
    row: Member = Member.everything.create(
        id=uuid4(), household=household, user=user, name=person, role=Member.Role.KEEPER
    )
    return row


def _refuse_weak(user_name: str, password: str) -> None:
    """Refuse a password that is guessed soon. Raises `InvalidValue` saying why."""
    try:
        validate_password(password, get_user_model()(username=user_name))
    except ValidationError as error:
        raise InvalidValue(f"password: {' '.join(error.messages)}", field="password", fix="Choose another.") from error


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


@transaction.atomic
def choose_units(*, member: Member, units: str) -> None:
    """How lengths, weights and temperatures are shown to this member. Raises `InvalidValue`."""
    require(units in Member.Units.values, "units", units, "one of " + ", ".join(Member.Units.values))
    Member.objects.of(member.household_id).filter(pk=member.pk).update(units=units)
    member.units = units


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
    told = {"factor": round(factor, 2), "sittings": sittings}
    Pace.everything.update_or_create(household_id=household_id, defaults=told)


def _answers_at(household_id: UUID, at: datetime) -> Answers:
    rows = list(standing(Settings.objects.of(household_id)).filter(entry__happened_at__lte=at))
    loads = [(row.entry.happened_at, Load(hair=row.hair, dust=row.dust, volume=row.volume)) for row in rows]
    events = [
        LoadEvent(LoadKind(row.kind), row.first, row.last, row.level, row.note)
        for row in standing(MoreLoad.objects.of(household_id))
    ]
    school = School(rows[-1].school) if rows else School.LABEL
    return Answers(LoadLine(loads, events), school, _profile.validate_python(rows[-1].profile) if rows else None)
