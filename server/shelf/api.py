"""The shelf over HTTP: what is there, what will be needed, what to buy; and everything recorded of it."""

from uuid import UUID

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from ninja import Router

from care.errors import require
from care.shelf import PartPlace
from care.shelf.offers import MOST_BYTES
from server.base import bounds
from server.base.csv_out import csv_file
from server.base.http import REFUSALS, Problem
from server.household.auth import asking
from server.household.models import Member
from server.household.writes import in_its_own_time, once
from server.logbook.models import Entry
from server.round.answer import as_json
from server.shelf import buying, orders, prices, records, services
from server.shelf.orders_schemas import ArrivedIn, OrderIn
from server.shelf.part_schemas import CountIn, FitFoundIn, FitFoundOut, SparePartIn, StockMoveIn, TurnIn
from server.shelf.schemas import ShelfOut, StockMovedOut, ToOrderOut, WrittenOut, moved_out, shelf_out, to_order_out
from server.shelf.ways_schemas import ListRow, WaysOut, list_rows, ways_out

router = Router(tags=["shelf"])
WRITTEN = {200: WrittenOut, **REFUSALS}


def _shelf(member: Member, horizon: int = 365) -> ShelfOut:
    return shelf_out(buying.shelf(member, horizon), has_shop=bool(settings.SHOP))


def _written(member: Member, *entries: Entry) -> WrittenOut:
    return WrittenOut(entry_id=entries[0].pk if len(entries) == 1 else None, shelf=_shelf(member))


@router.get("/shelf", response={200: ShelfOut, 422: Problem}, operation_id="shelf_get")
def get_shelf(request: HttpRequest, horizon: int = 365) -> ShelfOut:
    """The whole shelf for a horizon in days."""
    return _shelf(asking(request), horizon)


@router.get("/shelf/to_order", response=list[ToOrderOut], operation_id="shelf_to_order")
def to_order(request: HttpRequest) -> list[ToOrderOut]:
    """The kinds of part that want ordering soon."""
    return to_order_out(buying.shelf(asking(request)))


@router.get("/shelf/ways", response={200: WaysOut, 422: Problem}, operation_id="shelf_ways")
def ways(request: HttpRequest, horizon: int = 365, waste: float = buying.WASTE) -> WaysOut:
    """What to buy for a horizon in days: the three best ways."""
    return ways_out(buying.ways_to_buy(asking(request), horizon, waste))


@router.get("/shelf/list.csv", operation_id="shelf_csv")
def as_csv(request: HttpRequest, horizon: int = 365, waste: float = buying.WASTE) -> HttpResponse:
    """The shopping list as CSV: of the best way what to order, and what nobody sells."""
    return csv_file("shopping-list", ListRow, list_rows(buying.ways_to_buy(asking(request), horizon, waste)))


@router.post("/shelf/propose", response=WRITTEN, operation_id="shelf_propose")
def propose(request: HttpRequest) -> WrittenOut:
    """Keep a kind of part for every place that is renewed by use or date."""
    member = asking(request)
    return _written(member, services.propose(member=member))


@router.put("/shelf/kinds/{spare_id}", response=WRITTEN, operation_id="spares_keep")
def keep(request: HttpRequest, spare_id: UUID, data: SparePartIn) -> WrittenOut:
    """Keep a kind of part, or change it; the id is the client's."""
    member = asking(request)
    return _written(member, services.keep_kind(member=member, spare_id=spare_id, part=data.part()))


@router.delete("/shelf/kinds/{spare_id}", response=WRITTEN, operation_id="spares_drop")
def drop(request: HttpRequest, spare_id: UUID) -> WrittenOut:
    """Keep a kind of part no longer."""
    member = asking(request)
    return _written(member, services.drop_kind(member=member, spare_id=spare_id))


@router.post("/shelf/kinds/{spare_id}/count", response=WRITTEN, operation_id="spares_count")
def count(request: HttpRequest, spare_id: UUID, data: CountIn) -> WrittenOut:
    """Somebody counted what is there."""
    member = asking(request)
    return _written(member, services.count(member=member, spare_id=spare_id, there=data.on_hand))


@router.post("/shelf/kinds/{spare_id}/moves", response=WRITTEN, operation_id="spares_move")
def move(request: HttpRequest, spare_id: UUID, data: StockMoveIn) -> WrittenOut:
    """Some were bought elsewhere, or are gone."""
    member = asking(request)
    return _written(member, services.move(member=member, spare_id=spare_id, **data.model_dump()))


@router.get("/shelf/kinds/{spare_id}/moves", response=list[StockMovedOut], operation_id="spares_moves")
def moves(request: HttpRequest, spare_id: UUID) -> list[StockMovedOut]:
    """What came in and went out of a kind of part, newest first."""
    rows = [row for row in records.movements_of(asking(request)) if row.spare_id == spare_id]
    return [moved_out(row) for row in reversed(rows)]


@router.post("/shelf/kinds/{spare_id}/turn", response=WRITTEN, operation_id="spares_turn")
def turn(request: HttpRequest, spare_id: UUID, data: TurnIn) -> WrittenOut:
    """One from the shelf takes turns at a place from now on."""
    member = asking(request)
    entry = services.take_turn(member=member, spare_id=spare_id, place=data.place.place(), name=data.name)
    return _written(member, entry)


@router.post("/shelf/orders", response=WRITTEN, operation_id="orders_create")
def order(request: HttpRequest, data: OrderIn) -> WrittenOut:
    """Something was ordered."""
    member = asking(request)
    return _written(member, *orders.order(member=member, lines=[one.line() for one in data.lines]))


@router.post("/shelf/orders/{order_id}/arrived", response=WRITTEN, operation_id="orders_arrived")
def arrived(request: HttpRequest, order_id: UUID, data: ArrivedIn) -> WrittenOut:
    """An order came, or part of it."""
    member = asking(request)
    entry = orders.arrived(
        member=member, order_id=order_id, day=data.day, came=data.parts(), rest_comes=data.rest_comes
    )
    return _written(member, entry)


@router.post("/shelf/prices", response=WRITTEN, operation_id="prices_take")
def take_prices(
    request: HttpRequest, supplier: bounds.Name, currency: bounds.Name, delivery: bounds.Name = "0"
) -> WrittenOut:
    """A supplier's price list: the body is a CSV file. All of it is taken, or nothing."""
    member = asking(request)
    entry = prices.take_file(
        member=member, data=_file(request), supplier=supplier, currency=currency.strip().upper(), delivery=delivery
    )
    return _written(member, entry)


def _file(request: HttpRequest) -> bytes:
    """The body of a request, refused by its length before it is read."""
    length = int(request.headers.get("Content-Length") or 0)
    require(length <= MOST_BYTES, "file", f"{length} bytes", f"at most {MOST_BYTES} bytes")
    return request.body


@router.post("/shelf/prices/ask", response=WRITTEN, operation_id="prices_ask")
@in_its_own_time
def ask_prices(request: HttpRequest) -> HttpResponse:
    """The price list that the shop answers now."""
    member = asking(request)
    asked = prices.ask_shop(member=member)  # first: nobody waits for the database while a shop takes its time

    def taken() -> HttpResponse:
        return as_json(_written(member, prices.take_list(member=member, prices=asked)).model_dump_json())

    return once(request, taken)


@router.delete("/shelf/prices", response=WRITTEN, operation_id="prices_drop")
def drop_prices(request: HttpRequest, supplier: bounds.Name) -> WrittenOut:
    """Use a supplier's list no longer."""
    member = asking(request)
    return _written(member, prices.drop_list(member=member, supplier=supplier))


@router.post(
    "/machines/{machine_id}/parts/{slot}/fit", response={201: FitFoundOut, **REFUSALS}, operation_id="parts_fit"
)
def fit(request: HttpRequest, machine_id: UUID, slot: str, data: FitFoundIn) -> tuple[int, FitFoundOut]:
    """Whether the part that went in fits as the old one did."""
    entry = services.tell_fit(member=asking(request), place=PartPlace(machine_id, slot), **data.model_dump())
    return 201, FitFoundOut(entry_id=entry.pk)
