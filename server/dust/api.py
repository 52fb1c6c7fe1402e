"""Bags and bins over HTTP."""

from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from server.base.http import REFUSALS, Problem
from server.dust import services as dust
from server.dust.schemas import DustsOut, SizeIn, dust_out
from server.household.auth import asking
from server.household.models import Member
from server.household.services import today_of, zone_of
from server.machines.containers import tell_size

router = Router(tags=["dust"])


def _dust(member: Member, machine_id: UUID) -> DustsOut:
    found, zone = dust.estimates(member, machine_id), zone_of(member)
    return DustsOut(today=today_of(member), machine_id=machine_id, holders=[dust_out(one, zone) for one in found])


@router.get("/machines/{machine_id}/dust", response={200: DustsOut, 404: Problem}, operation_id="dust_get")
def get_dust(request: HttpRequest, machine_id: UUID) -> DustsOut:
    """How fast the bags and bins of a machine fill, and when they are full."""
    return _dust(asking(request), machine_id)


@router.put("/machines/{machine_id}/dust/{slot}", response={200: DustsOut, **REFUSALS}, operation_id="dust_tell")
def tell_dust(request: HttpRequest, machine_id: UUID, slot: str, data: SizeIn) -> DustsOut:
    """What a bag or bin holds, and what is known of another one."""
    member = asking(request)
    tell_size(member=member, machine_id=machine_id, slot=slot, size=data.size())
    return _dust(member, machine_id)


@router.delete("/machines/{machine_id}/dust/{slot}", response={200: DustsOut, **REFUSALS}, operation_id="dust_forget")
def forget_dust(request: HttpRequest, machine_id: UUID, slot: str) -> DustsOut:
    """Forget what a bag or bin was told to hold."""
    member = asking(request)
    tell_size(member=member, machine_id=machine_id, slot=slot, size=None)
    return _dust(member, machine_id)
