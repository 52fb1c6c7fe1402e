"""What a machine costs over HTTP."""

from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from server.base.http import REFUSALS, Problem
from server.costs import services as worth
from server.costs.schemas import PricesOut, RepairIn, RepairWeighedOut, WorthOut, WorthToldIn, weighed_out, worth_out
from server.household.auth import asking
from server.household.writes import changes_nothing
from server.shelf.cost_basis import tell_worth

router = Router(tags=["costs"])


@router.get("/machines/{machine_id}/worth", response={200: WorthOut, 404: Problem}, operation_id="worth_get")
def get_worth(request: HttpRequest, machine_id: UUID) -> WorthOut:
    """What a machine costs a year to keep going."""
    return worth_out(worth.worth_of_machine(asking(request), machine_id))


@router.get("/machines/{machine_id}/prices", response={200: PricesOut, 404: Problem}, operation_id="worth_prices")
def get_prices(request: HttpRequest, machine_id: UUID) -> PricesOut:
    """What new parts of a machine cost, where that is known, and their numbers."""
    member = asking(request)
    currency, prices = worth.prices_of(member, machine_id)
    return PricesOut(currency=currency, prices=prices, numbers=worth.numbers_of(member, machine_id))


@router.put("/machines/{machine_id}/worth", response={200: WorthOut, **REFUSALS}, operation_id="worth_tell")
def tell(request: HttpRequest, machine_id: UUID, data: WorthToldIn) -> WorthOut:
    """What a machine cost, how long such a one serves, what an hour is worth, until when its guarantee runs."""
    member = asking(request)
    tell_worth(member=member, machine_id=machine_id, basis=data.basis(), guarantee_until=data.guarantee_until)
    return worth_out(worth.worth_of_machine(member, machine_id))


@router.post(
    "/machines/{machine_id}/worth/repair", response={200: RepairWeighedOut, **REFUSALS}, operation_id="worth_repair"
)
@changes_nothing
def weigh(request: HttpRequest, machine_id: UUID, data: RepairIn) -> RepairWeighedOut:
    """Whether a repair pays against a new machine; nothing is recorded."""
    return weighed_out(worth.weigh_repair(asking(request), machine_id, data.repair()))
