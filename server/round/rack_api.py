"""The rack over HTTP."""

from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router

from care.kinds import Action
from server.bench.schemas import HangingIn
from server.config import clock
from server.config.http import REFUSALS, Problem
from server.household.auth import asking
from server.household.services import answers_at
from server.machines import drying
from server.machines.rack import places_for, rack_page
from server.machines.services import item_of
from server.round import rack_schemas as schemas
from server.round.answers import written
from server.round.schemas import Written

router = Router(tags=["rack"])

SCALE = "scale"
"""The book's key of kitchen scales."""


@router.get("/rack", response=schemas.RackPageOut, operation_id="rack_get")
def get_rack(request: HttpRequest) -> schemas.RackPageOut:
    """What dries, until when and why, and what could be done about it."""
    member = asking(request)
    jobs = [schemas.job_out(one) for one in rack_page(member)]
    home = answers_at(member.household_id, clock.now()).at_the_bench
    return schemas.RackPageOut(now=clock.now(), has_scale=home.has(SCALE), jobs=jobs)


@router.get(
    "/items/{item_id}/places", response={200: schemas.HangingOptionsOut, 404: Problem}, operation_id="items_places"
)
def places(
    request: HttpRequest, item_id: UUID, pressed: bool = False, moving: bool = False, action: Action | None = None
) -> schemas.HangingOptionsOut:
    """When a part would be ready in each drying place, hung up now, wetted by `action`."""
    member = asking(request)
    row = item_of(member, item_id)
    options = places_for(member, item_id, pressed=pressed, moving=moving, action=action)
    return schemas.HangingOptionsOut(
        pressable=drying.drying_of(row, action).pressable, places=[schemas.place_out(one) for one in options]
    )


@router.post("/items/{item_id}/hang", response={201: Written, **REFUSALS}, operation_id="items_hang")
def hang(request: HttpRequest, item_id: UUID, data: HangingIn) -> HttpResponse:
    """A wet part hangs there from now on."""
    member = asking(request)
    entry = drying.hang(member=member, item_id=item_id, hanging=data.hanging())
    return written(member, entry.pk)


@router.post("/items/{item_id}/weights", response={201: Written, **REFUSALS}, operation_id="items_weigh")
def weigh(request: HttpRequest, item_id: UUID, data: schemas.WeighIn) -> HttpResponse:
    """A reading of the scale, or the dry weight."""
    member = asking(request)
    entry = drying.weigh(member=member, item_id=item_id, value=data.value, unit=data.unit, dry=data.dry)
    return written(member, entry.pk)
