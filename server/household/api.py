"""The answers of a household and what they change, and times of more load."""

from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router
from pydantic import TypeAdapter

from care.due.effects import effects
from care.household import Profile, held_against, load_of
from care.model import Load
from care.vocabulary import School
from server.base import clock
from server.base.http import Problem
from server.drying.services import answer_household
from server.household.answers_schemas import (
    AnswersIn,
    HouseholdOut,
    PreviewOut,
    VersionOut,
    answer_effect_out,
    climates_out,
    load_out,
    tools_out,
)
from server.household.auth import asking
from server.household.models import Member
from server.household.schemas import MoreLoadIn, SentOut
from server.household.services import (
    Answers,
    answers_at,
    more_load,
    require_writer,
    versions,
    zone_of,
)
from server.household.writes import changes_nothing, entry_of
from server.machines.services import core_machines
from server.round.answer import WRITTEN, written

router = Router(tags=["household"])


@router.get("/sent/{sent_id}", response=SentOut, operation_id="sent_get")
def sent(request: HttpRequest, sent_id: UUID) -> SentOut:
    """Whether a write that had no answer was recorded."""
    recorded, entry_id = entry_of(asking(request), sent_id)
    return SentOut(recorded=recorded, entry_id=entry_id)


@router.post("/loads", response=WRITTEN, operation_id="loads_create")
def load(request: HttpRequest, data: MoreLoadIn) -> HttpResponse:
    """A time of more load than usual."""
    member = asking(request)
    entry = more_load(member=member, **data.model_dump())
    return written(member, entry.pk)


_profile = TypeAdapter(Profile)


@router.get("/household", response=HouseholdOut, operation_id="household_get")
def get_household(request: HttpRequest) -> HouseholdOut:
    """The answers in force and how they came about."""
    member = asking(request)
    answers = answers_at(member.household_id, clock.now())
    profile = answers.profile or Profile()
    return HouseholdOut(
        answered=answers.profile is not None,
        area_m2=profile.area_m2,
        profile=_profile.dump_python(profile, mode="json"),
        school=answers.school,
        load=load_out(answers.loads.own(clock.now())),
        tools=tools_out(),
        versions=[
            VersionOut(
                day=row.entry.happened_at.astimezone(zone_of(member)).date(),
                by=row.entry.by.name if row.entry.by else "",
                school=School(row.school),
                load=load_out(Load(row.hair, row.dust, row.volume)),
                profile=row.profile,
            )
            for row in versions(member)
        ],
    )


@router.post("/household/preview", response={200: PreviewOut, 422: Problem}, operation_id="household_preview")
@changes_nothing
def preview(request: HttpRequest, data: AnswersIn) -> PreviewOut:
    """What these answers would change; nothing is kept."""
    member = asking(request)
    answers = answers_at(member.household_id, clock.now())
    profile = data.profile()
    return _preview(member, answers, profile, data)


def _preview(member: Member, answers: Answers, profile: Profile, data: AnswersIn) -> PreviewOut:
    machines, load = core_machines(member), load_of(profile)
    now = answers.loads.own(clock.now())
    held = [(name, effects(load_of(without), load, machines, data.school)) for name, without in held_against(profile)]
    return PreviewOut(
        load=load_out(load),
        answers=[answer_effect_out(name, found) for name, found in held],
        moves=answer_effect_out("", effects(now, load, machines, data.school)),
        climates=climates_out(profile),
    )


@router.post("/household", response=WRITTEN, operation_id="household_answer")
def put_household(request: HttpRequest, data: AnswersIn) -> HttpResponse:
    """A new dated version of the answers."""
    member = asking(request)
    require_writer(member)
    entry = answer_household(member=member, profile=data.profile(), school=data.school)
    return written(member, entry.pk)
