"""The fault finder over HTTP: cases, the air lab."""

from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from server.base.http import REFUSALS, Problem
from server.faults import cases, services
from server.faults.case_schemas import (
    CaseIn,
    CaseOut,
    CheapOut,
    CloseIn,
    OpenCaseOut,
    StartOut,
    ToldIn,
    case_out,
    open_case_out,
)
from server.faults.cases import CaseState
from server.faults.lab import lab
from server.faults.lab_schemas import LabOut, SettingIn, lab_out
from server.faults.models import Case
from server.faults.schemas import symptom_out, tick_out
from server.faults.subjects import known
from server.household.auth import asking
from server.household.models import Member
from server.household.writes import changes_nothing
from server.work.cases import earlier_causes

router = Router(tags=["faults"])


CASE = {200: CaseOut, **REFUSALS}


def _out(member: Member, state: CaseState) -> CaseOut:
    return case_out(state, cases.after_of(member, state))


@router.get("/machines/{machine_id}/trace", response={200: StartOut, 404: Problem}, operation_id="trace_start")
def start(request: HttpRequest, machine_id: UUID) -> StartOut:
    """What can be noticed of a machine, and the case of it that is open."""
    member = asking(request)
    about = known(member, machine_id)
    mine, *docks = about.machines
    rows = Case.objects.of(member.household_id).filter(machine_id=mine.id, status=Case.Status.OPEN)
    names = {suspect.key: suspect.name for suspect in about.subject.suspects}
    return StartOut(
        machine_id=mine.id,
        machine=mine.name,
        dock=docks[0].name if docks else None,
        symptoms=[symptom_out(one) for one in about.subject.symptoms],
        ticks=[tick_out(one, about.subject) for one in about.subject.ticks],
        cheap=[CheapOut(name=one.name, minutes=one.check.minutes) for one in services.cheap_looks(member, about)],
        open=rows.values_list("pk", flat=True).first(),
        earlier=[names[key] for key in earlier_causes(member, mine.id).cases if key in names],
    )


@router.get("/cases", response=list[OpenCaseOut], operation_id="cases_list")
def list_open(request: HttpRequest) -> list[OpenCaseOut]:
    """The cases that are open."""
    return [open_case_out(state) for state in cases.open_cases(asking(request))]


@router.post("/cases", response={201: CaseOut, **REFUSALS}, operation_id="cases_create")
def create(request: HttpRequest, data: CaseIn) -> tuple[int, CaseOut]:
    """Open a case with what is noticed."""
    member = asking(request)
    state = services.open_case(
        member=member, case_id=data.id, machine_id=data.machine_id, symptoms=data.symptoms, unasked=data.unasked
    )
    return 201, _out(member, state)


@router.get("/cases/{case_id}", response={200: CaseOut, 404: Problem, 409: Problem}, operation_id="cases_get")
def get(request: HttpRequest, case_id: UUID) -> CaseOut:
    """A case and where it stands."""
    member = asking(request)
    return _out(member, cases.case_state(member, case_id))


@router.post("/cases/{case_id}/events", response=CASE, operation_id="cases_tell")
def tell(request: HttpRequest, case_id: UUID, data: ToldIn) -> CaseOut:
    """One more thing told or done, or one step back."""
    member = asking(request)
    return _out(member, services.tell(member=member, case_id=case_id, event=data.event()))


@router.post("/cases/{case_id}/close", response=CASE, operation_id="cases_close")
def close(request: HttpRequest, case_id: UUID, data: CloseIn) -> CaseOut:
    """Close a case and write its record."""
    member = asking(request)
    return _out(member, services.close(member=member, case_id=case_id, reason=data.reason))


@router.get("/machines/{machine_id}/air", response={200: LabOut, **REFUSALS}, operation_id="air_present")
def present(request: HttpRequest, machine_id: UUID) -> LabOut:
    """The air of a machine as its records have it now."""
    return lab_out(lab(asking(request), machine_id, None))


@router.post("/machines/{machine_id}/air", response={200: LabOut, **REFUSALS}, operation_id="air_set")
@changes_nothing
def as_set(request: HttpRequest, machine_id: UUID, data: SettingIn) -> LabOut:
    """The air of a machine as set; nothing is recorded."""
    return lab_out(lab(asking(request), machine_id, data.setting()))
