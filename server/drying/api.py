"""The rack over HTTP."""

from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router

from care.named import NamedTool
from care.vocabulary import Action
from server.base import clock
from server.base.http import Problem
from server.drying import services as drying
from server.drying.rack import places_for, rack_page
from server.drying.schemas import DryIn, HangingIn, HangingOptionsOut, RackPageOut, WeighIn, job_out, place_out
from server.drying.wash import wash_card
from server.drying.wash_schemas import MarksIn, WashCardOut, wash_card_out
from server.household.auth import asking
from server.household.services import answers_at
from server.machines.services import item_of
from server.round.answer import WRITTEN, written
from server.setup import overrides

router = Router(tags=["rack"])


@router.get("/rack", response=RackPageOut, operation_id="rack_get")
def get_rack(request: HttpRequest) -> RackPageOut:
    """What dries, until when and why, and what could be done about it."""
    member = asking(request)
    jobs = [job_out(one) for one in rack_page(member)]
    home = answers_at(member.household_id, clock.now()).at_the_bench
    return RackPageOut(now=clock.now(), has_scale=home.has(NamedTool.SCALE), jobs=jobs)


@router.get("/items/{item_id}/places", response={200: HangingOptionsOut, 404: Problem}, operation_id="items_places")
def places(
    request: HttpRequest, item_id: UUID, pressed: bool = False, moving: bool = False, action: Action | None = None
) -> HangingOptionsOut:
    """When a part would be ready in each drying place, hung up now, wetted by `action`."""
    member = asking(request)
    row = item_of(member, item_id)
    options = places_for(member, item_id, pressed=pressed, moving=moving, action=action)
    return HangingOptionsOut(
        pressable=drying.drying_of(row, action).pressable, places=[place_out(one) for one in options]
    )


@router.post("/items/{item_id}/hang", response=WRITTEN, operation_id="items_hang")
def hang(request: HttpRequest, item_id: UUID, data: HangingIn) -> HttpResponse:
    """A wet part hangs there from now on."""
    member = asking(request)
    entry = drying.hang(member=member, item_id=item_id, hanging=data.hanging())
    return written(member, entry.pk)


@router.post("/items/{item_id}/weights", response=WRITTEN, operation_id="items_weigh")
def weigh(request: HttpRequest, item_id: UUID, data: WeighIn) -> HttpResponse:
    """A reading of the scale, or the dry weight."""
    member = asking(request)
    entry = drying.weigh(member=member, item_id=item_id, value=data.value, unit=data.unit, dry=data.dry)
    return written(member, entry.pk)


@router.post("/items/{item_id}/dry-check", response=WRITTEN, operation_id="dry_check_create")
def dry_check(request: HttpRequest, item_id: UUID, data: DryIn) -> HttpResponse:
    """The check of a part on the rack."""
    member = asking(request)
    entry = drying.check_dry(member=member, item_id=item_id, dry=data.dry)
    return written(member, entry.pk)


@router.get(
    "/machines/{machine_id}/parts/{slot}/wash",
    response={200: WashCardOut, 404: Problem, 422: Problem},
    operation_id="parts_wash",
)
def wash(request: HttpRequest, machine_id: UUID, slot: str, seen: Query[MarksIn]) -> WashCardOut:
    """May I wash this? The card of a part, by what is seen of it now on top of what is kept."""
    return wash_card_out(wash_card(asking(request), machine_id, slot, seen.marks()))


@router.post("/machines/{machine_id}/parts/{slot}/marks", response=WRITTEN, operation_id="parts_mark")
def mark(request: HttpRequest, machine_id: UUID, slot: str, data: MarksIn) -> HttpResponse:
    """Keep what was seen of a part."""
    member = asking(request)
    entry = overrides.mark_part(member=member, machine_id=machine_id, slot=slot, marks=data.marks())
    return written(member, entry.pk)
