"""Taking back what was recorded, over HTTP."""

from http import HTTPStatus
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router
from pydantic import Field

from server.base import bounds
from server.base.http import REFUSALS
from server.base.schema import Schema
from server.household.auth import asking
from server.household.services import require_writer
from server.logbook.services import undo
from server.round.answer import written
from server.round.schemas import Written

router = Router(tags=["logbook"])


class UndoIn(Schema):
    """What else goes back with an entry, and why."""

    also: list[UUID] = Field(default=[], max_length=200)
    reason: bounds.Line = ""


@router.post("/entries/{entry_id}/undo", response={200: Written, **REFUSALS}, operation_id="entries_undo")
def undo_entry(request: HttpRequest, entry_id: UUID, data: UndoIn | None = None) -> HttpResponse:
    """Undo an entry and all that was recorded with it; of a deed told in one line all its entries at once."""
    member = asking(request)
    require_writer(member)
    data = data or UndoIn()
    reason = data.reason.strip() or "undone"
    undo(household_id=member.household_id, by_id=member.pk, entry_id=entry_id, also=data.also, reason=reason)
    return written(member, None, status=HTTPStatus.OK)
