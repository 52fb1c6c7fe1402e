"""The shelf over HTTP."""

from __future__ import annotations

from datetime import date, datetime
from uuid import UUID

from care.shelf import Spread, Supply
from care.shelf.supply import SupplyFigures
from server.base.schema import Schema
from server.due.renewals import Renewing
from server.due.schemas import DueOut, due_out
from server.shelf.buying import OnShelf, Shelf
from server.shelf.models import Movement
from server.shelf.orders_schemas import OrderOut, order_out
from server.shelf.part_schemas import NumberIn
from server.shelf.sales import FittingOffer


class SpreadOut(Schema):
    """How many, in 10, 50 and 90 % of futures at most."""

    p10: int
    p50: int
    p90: int


class PartPlaceOut(Schema):
    """A place, the part in it now, and when that is expected to go."""

    machine_id: UUID
    machine_name: str
    slot: str
    slot_name: str
    item_name: str
    level: str
    p10: date | None
    p50: date | None
    p90: date | None
    certain: bool
    every_days: float | None
    turns_have: int | None


class SaleOut(Schema):
    """An offer for a part: price in cents, what is in it by kind, what of it fits nothing here."""

    supplier: str
    code: str
    name: str
    price: int
    lead_days: int
    in_stock: bool
    each: dict[str, int]
    other_makers: bool


class SparePartOut(Schema):
    """A kind of part: what is there, how it stands and why, what to buy for the horizon.

    `faults` are those that a new one puts right.
    """

    id: UUID
    name: str
    numbers: list[NumberIn]
    least: int
    places: list[PartPlaceOut]
    on_hand: int
    on_order: int
    turns_missing: int
    lead_days: int
    supply: Supply
    guarantee_until: date | None
    ends_guarantee: bool
    faults: list[str]
    short: DueOut | None
    order_by: date | None
    lead: SpreadOut
    year: SpreadOut
    sales: list[SaleOut]
    because: SupplyFigures


class ListOut(Schema):
    """A price list in use."""

    supplier: str
    offers: int
    delivery: int


class StockMovedOut(Schema):
    """What came in or went out."""

    entry_id: UUID
    at: datetime
    by: str
    count: int
    why: str
    note: str


class ShelfOut(Schema):
    """The whole shelf, what most wants ordering first. `loose` are places that nothing is kept for."""

    today: date
    currency: str
    has_shop: bool
    kinds: list[SparePartOut]
    loose: list[PartPlaceOut]
    orders: list[OrderOut]
    lists: list[ListOut]


class WrittenOut(Schema):
    """The shelf after something was recorded, and the entry to undo; none where it was several things."""

    entry_id: UUID | None
    shelf: ShelfOut


class ToOrderOut(Schema):
    """A line of Round: a kind of part that wants ordering."""

    id: UUID
    name: str
    supply: Supply
    order_by: date | None
    on_hand: int


def place_out(one: Renewing) -> PartPlaceOut:
    """A place."""
    due = one.renewal.due
    return PartPlaceOut(
        machine_id=one.renewal.machine_id,
        machine_name=one.machine_name,
        slot=one.renewal.slot,
        slot_name=one.slot_name,
        item_name=one.item_name,
        level=one.level,
        p10=due.p10 if due else None,
        p50=due.p50 if due else None,
        p90=due.p90 if due else None,
        certain=bool(due and due.certain),
        every_days=round(one.renewal.every_days, 1) if one.renewal.every_days else None,
        turns_have=one.turns.have if one.turns else None,
    )


def _spread(spread: Spread) -> SpreadOut:
    return SpreadOut.model_validate(spread)


def _sale(sale: FittingOffer) -> SaleOut:
    offer = sale.offer
    return SaleOut(
        supplier=sale.supplier,
        code=offer.code,
        name=offer.name,
        price=offer.price,
        lead_days=offer.lead_days,
        in_stock=offer.in_stock,
        each={str(key): n for key, n in sale.contents.items()},
        other_makers=sale.other_makers,
    )


def _kind(kind: OnShelf, on: Shelf) -> SparePartOut:
    part, holding, cover = kind.part, kind.holding, kind.cover
    until = [day for p in kind.places if (day := on.guarantees.get(p.renewal.machine_id)) is not None]
    return SparePartOut(
        id=kind.id,
        name=part.name,
        numbers=[NumberIn(number=n.number, maker=n.maker, check=n.check, note=n.note) for n in part.numbers],
        least=part.least,
        places=[place_out(one) for one in kind.places],
        on_hand=holding.on_hand,
        on_order=holding.on_order,
        turns_missing=holding.turns_missing,
        lead_days=holding.lead_days,
        supply=cover.supply,
        guarantee_until=max(until, default=None),
        ends_guarantee=part.ends_guarantee(by_the_label=on.by_the_label, guaranteed=bool(until)),
        faults=list(dict.fromkeys(fault for one in kind.places for fault in one.faults)),
        short=due_out(cover.short),
        order_by=cover.order_by,
        lead=_spread(cover.lead),
        year=_spread(cover.year),
        sales=[_sale(sale) for sale in kind.sales],
        because=cover.because,
    )


def shelf_out(on: Shelf, *, has_shop: bool) -> ShelfOut:
    """The shelf."""
    return ShelfOut(
        today=on.today,
        currency=on.currency,
        has_shop=has_shop,
        kinds=[_kind(kind, on) for kind in on.kinds],
        loose=[place_out(one) for one in on.loose],
        orders=[order_out(one, on) for one in on.orders],
        lists=[ListOut(supplier=p.supplier, offers=len(p.offers), delivery=p.delivery) for p in on.lists],
    )


def to_order_out(on: Shelf) -> list[ToOrderOut]:
    """The kinds of part that want ordering, most wanted first."""
    wanted = (Supply.WAITS, Supply.NOW, Supply.SOON)
    return [
        ToOrderOut(
            id=kind.id,
            name=kind.part.name,
            supply=kind.cover.supply,
            order_by=kind.cover.order_by,
            on_hand=kind.holding.on_hand,
        )
        for kind in on.kinds
        if kind.cover.supply in wanted
    ]


def moved_out(row: Movement) -> StockMovedOut:
    """What came in or went out."""
    return StockMovedOut(
        entry_id=row.entry_id,
        at=row.entry.happened_at,
        by=row.entry.by.name if row.entry.by else "",
        count=row.count,
        why=row.why,
        note=row.note,
    )
