"""Round over HTTP, and everything that is recorded from it: each write answers with the household after it."""

from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router

from server.base.http import Problem
from server.due.state import machine_states
from server.household.auth import asking
from server.machines import services as machines
from server.round.answer import as_json, page
from server.round.board import round_of
from server.round.page_schemas import MachineOut
from server.round.schemas import RoundOut, round_json

router = Router(tags=["round"])


@router.get("/round", response=RoundOut, operation_id="round_get")
def get_round(request: HttpRequest) -> HttpResponse:
    """The whole household at this moment."""
    member = asking(request)
    return as_json(round_json(member, round_of(member)))


@router.get("/machines/{machine_id}", response={200: MachineOut, 404: Problem}, operation_id="machines_get")
def get_machine(request: HttpRequest, machine_id: UUID) -> MachineOut:
    """A machine's page."""
    member = asking(request)
    machines.machine_of(member, machine_id)
    [state] = machine_states(member, machine_id)
    return page(member, state)
