"""Use over HTTP: usual weeks, runs, days off, mishaps, and what to see to before a run."""

from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router

from server.due.state import machine_states
from server.household.auth import asking
from server.household.services import today_of
from server.machines import services as machines
from server.machines.services import machine_of
from server.round.answer import WRITTEN, written
from server.setup.schemas import WeekIn
from server.use import services as usage
from server.use.schemas import FloorOut, MishapIn, RestIn, RunIn, floor_out

router = Router(tags=["use"])


@router.post("/machines/{machine_id}/week", response=WRITTEN, operation_id="week_create")
def set_week(request: HttpRequest, machine_id: UUID, data: WeekIn) -> HttpResponse:
    """A machine's usual week from now on."""
    member = asking(request)
    entry = usage.set_schedule(
        member=member, machine_id=machine_id, schedule=data.schedule(today_of(member)), dock=data.at_dock()
    )
    return written(member, entry.pk, machine_id)


@router.post("/rests", response=WRITTEN, operation_id="rests_create")
def rest(request: HttpRequest, data: RestIn) -> HttpResponse:
    """Days off: did not run, away, paused."""
    member = asking(request)
    entry = usage.rest(member=member, machine_id=data.machine_id, why=data.why, first=data.first, last=data.last)
    return written(member, entry.pk, data.machine_id)


@router.post("/machines/{machine_id}/runs", response=WRITTEN, operation_id="runs_create")
def log_run(request: HttpRequest, machine_id: UUID, data: RunIn) -> HttpResponse:
    """Log a run."""
    member = asking(request)
    start = machines.last_time(member, data.day, data.started) if data.started else None
    entry = usage.log_run(
        member=member,
        run_id=data.id,
        machine_id=machine_id,
        day=data.day,
        minutes=data.minutes,
        start=start,
        mopped=data.mopped,
        part_was_out=data.part_was_out,
    )
    return written(member, entry.pk, machine_id)


@router.post("/machines/{machine_id}/mishaps", response=WRITTEN, operation_id="mishaps_create")
def mishap(request: HttpRequest, machine_id: UUID, data: MishapIn) -> HttpResponse:
    """Tell what a machine ran over or took in that it is not made for."""
    member = asking(request)
    entry = usage.mishap(member=member, machine_id=machine_id, kind=data.kind, day=data.day)
    return written(member, entry.pk, machine_id)


@router.get("/floor", response=FloorOut, operation_id="floor_get")
def floor(request: HttpRequest, machine_id: UUID | None = None) -> FloorOut:
    """What to see to before a run, what may be picked up, and what a mishap brings forward."""
    member = asking(request)
    if machine_id is None:
        return floor_out(None)
    machine_of(member, machine_id)
    [state] = machine_states(member, machine_id)
    return floor_out(state)
