"""Wear of parts over HTTP."""

from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from server.base.http import REFUSALS, Problem
from server.household.auth import asking
from server.household.models import Member
from server.household.services import today_of
from server.machines.services import machine_of
from server.wear import services as wear
from server.wear.schemas import MeasureIn, WearsOut, WearWritten, wear_out

router = Router(tags=["wear"])


@router.get("/machines/{machine_id}/wear", response={200: WearsOut, 404: Problem}, operation_id="wear_get")
def get_wear(request: HttpRequest, machine_id: UUID) -> WearsOut:
    """How worn the parts of a machine are."""
    return _wear(asking(request), machine_id)


def _wear(member: Member, machine_id: UUID) -> WearsOut:
    return WearsOut(
        machine_id=machine_id,
        machine=machine_of(member, machine_id).name,
        today=today_of(member),
        parts=[wear_out(one) for one in wear.wear_of(member, machine_id)],
    )


@router.post(
    "/machines/{machine_id}/wear/{item_id}", response={200: WearWritten, **REFUSALS}, operation_id="wear_measure"
)
def measure(request: HttpRequest, machine_id: UUID, item_id: UUID, data: MeasureIn) -> WearWritten:
    """What somebody measured on a part."""
    member = asking(request)
    entry = wear.measure(
        member=member,
        machine_id=machine_id,
        item_id=item_id,
        key=data.measure,
        value=data.value,
        unit=data.unit,
        day=data.day,
    )
    return WearWritten(entry_id=entry.pk, wear=_wear(member, machine_id))
