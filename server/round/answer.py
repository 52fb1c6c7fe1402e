"""What every write answers with: the household after it, and the machine's page where one is open."""

from http import HTTPStatus
from uuid import UUID

from django.http import HttpResponse

from server.base.http import REFUSALS
from server.due.history import history
from server.due.state import MachineState, machine_states
from server.household.models import Member
from server.machines.services import machine_of
from server.round import schemas
from server.round.board import round_of
from server.round.page_schemas import MachineOut, machine_out
from server.setup.rounds import in_one_go

WRITTEN = {201: schemas.Written, **REFUSALS}
"""What a write may answer."""


def written(
    member: Member, entry_id: UUID | None, machine_id: UUID | None = None, status: int = HTTPStatus.CREATED
) -> HttpResponse:
    """The household after a write, as `Written`; sent as it is stored, without building it up and down again.

    Raises whatever keeps a machine from being worked out after it: then it is not recorded.
    """
    known = machine_states(member, machine_id) if machine_id else []
    round_ = schemas.round_json(member, round_of(member, known, strict=True))
    return as_json(schemas.written_json(entry_id, round_, page(member, known[0]) if known else None), status)


def as_json(text: str, status: int = HTTPStatus.OK) -> HttpResponse:
    """JSON text as an answer."""
    return HttpResponse(text, status=status, content_type="application/json")


def page(member: Member, state: MachineState) -> MachineOut:
    """A machine's page."""
    machine = machine_of(member, state.machine.id)
    return machine_out(state, history(member, state), in_one_go(member.household_id, machine))
