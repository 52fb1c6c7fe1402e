"""What is agreed about tasks over HTTP: put off, taken on, changed at home; and dangers."""

from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router

from server.due import changes, dangers, duties
from server.due.schemas import ClaimIn, DangerIn, HomeChangedIn, WaitIn
from server.household.auth import asking
from server.round.answer import WRITTEN, written

router = Router(tags=["due"])


@router.post("/machines/{machine_id}/changes", response=WRITTEN, operation_id="changes_create")
def home_changed(request: HttpRequest, machine_id: UUID, data: HomeChangedIn) -> HttpResponse:
    """Say whether something changed at home."""
    member = asking(request)
    entry = changes.home_changed(member=member, machine_id=machine_id, **data.model_dump())
    return written(member, entry.pk, machine_id)


@router.post("/machines/{machine_id}/waits", response=WRITTEN, operation_id="waits_create")
def put_off(request: HttpRequest, machine_id: UUID, data: WaitIn) -> HttpResponse:
    """Let a task wait until a day, with a reason."""
    member = asking(request)
    entry = duties.put_off(member=member, machine_id=machine_id, **data.model_dump())
    return written(member, entry.pk, machine_id)


@router.post("/machines/{machine_id}/claims", response=WRITTEN, operation_id="claims_create")
def take_on(request: HttpRequest, machine_id: UUID, data: ClaimIn) -> HttpResponse:
    """Say that oneself does a task."""
    member = asking(request)
    entry = duties.take_on(member=member, machine_id=machine_id, slot=data.slot, action=data.action)
    return written(member, entry.pk, machine_id)


@router.post("/machines/{machine_id}/dangers", response=WRITTEN, operation_id="dangers_create")
def danger(request: HttpRequest, machine_id: UUID, data: DangerIn) -> HttpResponse:
    """Tell of a danger at a machine, or that one is over."""
    member = asking(request)
    record = dangers.is_over if data.over else dangers.tell
    entry = record(member=member, machine_id=machine_id, danger=data.danger)
    return written(member, entry.pk, machine_id)
