"""Sheets over HTTP."""

from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from server.base.http import REFUSALS, Problem
from server.bench import ending as ending_
from server.bench import opening, plan_schemas, services, sheets
from server.bench.answer_schemas import FinishIn, PickIn, RefitIn, SheetIn, StepsAnsweredIn
from server.bench.ending_schemas import EndedSheetOut, EndingOut, ended_sheet_out, ending_out
from server.bench.plan import plan
from server.bench.schemas import OpenSheetOut, SheetOut, open_sheet_out, sheet_out
from server.household.auth import asking
from server.household.services import today_of
from server.household.writes import changes_nothing

router = Router(tags=["bench"])


def _out(request: HttpRequest, state: sheets.SheetState) -> SheetOut:
    return sheet_out(state, opening.extras_of(asking(request), state))


@router.post("/sheets", response={201: SheetOut, **REFUSALS}, operation_id="sheets_create")
def create(request: HttpRequest, data: SheetIn) -> tuple[int, SheetOut]:
    """Open a sheet for chosen tasks of one machine or several."""
    picks = [task.pick() for task in data.tasks]
    state = opening.open_sheet(member=asking(request), sheet_id=data.id, picks=picks, case_id=data.case_id)
    return 201, _out(request, state)


@router.post("/plan", response={200: plan_schemas.PlanOut, **REFUSALS}, operation_id="plan_make")
@changes_nothing
def make_plan(request: HttpRequest, data: plan_schemas.PlanIn) -> plan_schemas.PlanOut:
    """What a sitting for these tasks would take; nothing is opened."""
    return plan_schemas.plan_out(plan(asking(request), [task.pick() for task in data.tasks]))


@router.post("/sheets/refit", response={201: SheetOut, **REFUSALS}, operation_id="sheets_refit")
def refit(request: HttpRequest, data: RefitIn) -> tuple[int, SheetOut]:
    """Open the refit sitting for a part on the rack."""
    state = opening.open_refit(member=asking(request), sheet_id=data.id, item_id=data.item_id)
    return 201, sheet_out(state)


@router.get("/sheets", response=list[OpenSheetOut], operation_id="sheets_list")
def list_open(request: HttpRequest) -> list[OpenSheetOut]:
    """The sheets that are open."""
    return [open_sheet_out(state) for state in sheets.open_sheets(asking(request))]


@router.get("/sheets/ended", response=list[EndedSheetOut], operation_id="sheets_ended")
def list_ended(request: HttpRequest) -> list[EndedSheetOut]:
    """The latest sheets that were finished."""
    return [ended_sheet_out(row) for row in sheets.ended_sheets(asking(request), most=8)]


@router.get("/sheets/{sheet_id}", response={200: SheetOut, 404: Problem}, operation_id="sheets_get")
def get(request: HttpRequest, sheet_id: UUID) -> SheetOut:
    """A sheet and where it stands."""
    return _out(request, sheets.sheet_state(asking(request), sheet_id))


@router.post("/sheets/{sheet_id}/answers", response={200: SheetOut, **REFUSALS}, operation_id="answers_create")
def answer(request: HttpRequest, sheet_id: UUID, data: StepsAnsweredIn) -> SheetOut:
    """Answer steps from where the sheet stands, or take last answers back; all of them or none."""
    given = [one.given() for one in data.answers]
    return _out(request, services.answer_all(member=asking(request), sheet_id=sheet_id, given=given))


@router.post("/sheets/{sheet_id}/extras", response={200: SheetOut, **REFUSALS}, operation_id="extras_create")
def add_extra(request: HttpRequest, sheet_id: UUID, data: PickIn) -> SheetOut:
    """Do something besides, while it lies open: it becomes a step of the sheet."""
    return _out(request, opening.add_extra(member=asking(request), sheet_id=sheet_id, pick=data.pick()))


@router.post("/sheets/{sheet_id}/finish", response={200: EndingOut, **REFUSALS}, operation_id="sheets_finish")
def finish(request: HttpRequest, sheet_id: UUID, data: FinishIn) -> EndingOut:
    """End the sitting and write its records. Asked again with the same id, the same answer."""
    member = asking(request)
    known = ending_.ended_by(member, sheet_id, data.id)
    if known is not None:
        return EndingOut.model_validate(known)
    ending = ending_out(ending_.finish(member=member, sheet_id=sheet_id), today_of(member))
    ending_.keep_ending(member, sheet_id, data.id, ending.model_dump(mode="json"))
    return ending


@router.delete("/sheets/{sheet_id}", response={204: None, **REFUSALS}, operation_id="sheets_drop")
def drop(request: HttpRequest, sheet_id: UUID) -> tuple[int, None]:
    """Give a sheet up before any part was touched."""
    ending_.drop(member=asking(request), sheet_id=sheet_id)
    return 204, None
