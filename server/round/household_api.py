"""The household's answers over HTTP, each with what it changes on the machines there are."""

from django.http import HttpRequest, HttpResponse
from ninja import Router
from pydantic import TypeAdapter

from care.due.effects import effects
from care.household import Profile, held_against, load_of
from care.kinds import School
from care.model import Load
from server.config import clock
from server.config.http import REFUSALS, Problem
from server.household.auth import asking
from server.household.models import Member
from server.household.services import (
    Answers,
    answers_at,
    choose_units,
    require_writer,
    versions,
    zone_of,
)
from server.household.writes import changes_nothing
from server.machines.drying import answer_household
from server.machines.services import core_machines
from server.round import household_schemas as schemas
from server.round.answers import written
from server.round.schemas import Written

router = Router(tags=["household"])
_profile = TypeAdapter(Profile)


@router.get("/household", response=schemas.HouseholdOut, operation_id="household_get")
def get_household(request: HttpRequest) -> schemas.HouseholdOut:
    """The answers in force and how they came about."""
    member = asking(request)
    answers = answers_at(member.household_id, clock.now())
    profile = answers.profile or Profile()
    return schemas.HouseholdOut(
        answered=answers.profile is not None,
        area_m2=profile.area_m2,
        profile=_profile.dump_python(profile, mode="json"),
        school=answers.school,
        load=schemas.load_out(answers.loads.own(clock.now())),
        tools=schemas.tools_out(),
        versions=[
            schemas.VersionOut(
                day=row.entry.happened_at.astimezone(zone_of(member)).date(),
                by=row.entry.by.name if row.entry.by else "",
                school=School(row.school),
                load=schemas.load_out(Load(row.hair, row.dust, row.volume)),
                profile=row.profile,
            )
            for row in versions(member)
        ],
    )


@router.post("/household/preview", response={200: schemas.PreviewOut, 422: Problem}, operation_id="household_preview")
@changes_nothing
def preview(request: HttpRequest, data: schemas.AnswersIn) -> schemas.PreviewOut:
    """What these answers would change; nothing is kept."""
    member = asking(request)
    answers = answers_at(member.household_id, clock.now())
    profile = data.profile()
    return _preview(member, answers, profile, data)


def _preview(member: Member, answers: Answers, profile: Profile, data: schemas.AnswersIn) -> schemas.PreviewOut:
    machines, load = core_machines(member), load_of(profile)
    now = answers.loads.own(clock.now())
    held = [(name, effects(load_of(without), load, machines, data.school)) for name, without in held_against(profile)]
    return schemas.PreviewOut(
        load=schemas.load_out(load),
        answers=[schemas.answer_effect_out(name, found) for name, found in held],
        moves=schemas.answer_effect_out("", effects(now, load, machines, data.school)),
        climates=schemas.climates_out(profile),
    )


@router.post("/household", response={201: Written, **REFUSALS}, operation_id="household_answer")
def put_household(request: HttpRequest, data: schemas.AnswersIn) -> HttpResponse:
    """A new dated version of the answers."""
    member = asking(request)
    require_writer(member)
    entry = answer_household(member=member, profile=data.profile(), school=data.school)
    return written(member, entry.pk)


@router.put("/units", response={204: None, 422: Problem}, operation_id="units_set")
def units(request: HttpRequest, data: schemas.UnitsIn) -> tuple[int, None]:
    """How lengths, weights and temperatures are shown to this member."""
    choose_units(member=asking(request), units=data.units)
    return 204, None
