"""The ways to buy, over HTTP. Money is whole cents."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from uuid import UUID

from care.shelf import PurchasePlan, Weighed
from server.base.schema import Schema
from server.shelf.buying import Ways
from server.shelf.sales import FittingOffer


class PickOut(Schema):
    """So many of an offer."""

    supplier: str
    code: str
    name: str
    count: int
    price: int
    other_makers: bool


class CountOut(Schema):
    """So many of a kind of part."""

    id: UUID | None
    name: str
    count: int


class WayOut(Schema):
    """One way to cover the needs: cost with delivery and a year [cents], what is left over, what of that is wasted."""

    cost: int
    delivery: int
    a_year: int
    proven: bool
    picks: list[PickOut]
    left: list[CountOut]
    wasted: list[CountOut]


class WeighedOut(Schema):
    """Why a kit wins or loses: the least cost with it and without it [cents]."""

    supplier: str
    code: str
    name: str
    price: int
    wins: bool
    with_it: int | None
    without_it: int | None


class WaysOut(Schema):
    """What to buy for the horizon."""

    currency: str
    waste: float
    loosened: bool
    needs: list[CountOut]
    ways: list[WayOut]
    kits: list[WeighedOut]
    kits_left_out: int
    unsold: list[CountOut]


def ways_out(found: Ways) -> WaysOut:
    """The best ways to buy."""
    names = {str(kind.id): kind.part.name for kind in found.shelf.kinds}

    def counts(by_key: Mapping[str, int]) -> list[CountOut]:
        return [
            CountOut(id=UUID(key) if key else None, name=names.get(key, "parts that fit nothing here"), count=n)
            for key, n in by_key.items()
        ]

    return WaysOut(
        currency=found.shelf.currency,
        waste=found.waste,
        loosened=found.loosened,
        needs=[CountOut(id=k.id, name=k.part.name, count=k.to_buy) for k in found.shelf.kinds if k.to_buy],
        ways=[_way(way, found, counts) for way in found.ways],
        kits=[_kit(kit, found) for kit in found.kits],
        kits_left_out=found.kits_left_out,
        unsold=[CountOut(id=kind.id, name=kind.part.name, count=kind.to_buy) for kind in found.unsold],
    )


def _way(way: PurchasePlan, found: Ways, counts: Callable[[Mapping[str, int]], list[CountOut]]) -> WayOut:
    return WayOut(
        cost=way.cost,
        delivery=way.delivery,
        a_year=round(way.a_year(found.shelf.horizon_days)),
        proven=way.proven,
        picks=[_pick(found.sales[key], n) for key, n in way.picks.items()],
        left=counts(way.left),
        wasted=counts(way.wasted),
    )


def _pick(sale: FittingOffer, count: int) -> PickOut:
    offer = sale.offer
    return PickOut(
        supplier=sale.supplier,
        code=offer.code,
        name=offer.name,
        count=count,
        price=offer.price,
        other_makers=sale.other_makers,
    )


def _kit(kit: Weighed, found: Ways) -> WeighedOut:
    sale = found.sales[kit.key]
    return WeighedOut(
        supplier=sale.supplier,
        code=sale.offer.code,
        name=sale.offer.name,
        price=sale.offer.price,
        wins=kit.wins,
        with_it=kit.with_it,
        without_it=kit.without_it,
    )


@dataclass(frozen=True, slots=True)
class ListRow:
    """A line of the shopping list to take away; its fields are the columns."""

    supplier: str
    code: str
    name: str
    count: int
    price_each: str
    currency: str


def list_rows(found: Ways) -> list[ListRow]:
    """What to order by the best way, then what is on no price list."""
    picks = found.ways[0].picks if found.ways else {}
    sold = [(found.sales[key], count) for key, count in picks.items()]
    currency = found.shelf.currency
    return [
        *(ListRow(s.supplier, s.offer.code, s.offer.name, n, f"{s.offer.price / 100:.2f}", currency) for s, n in sold),
        *(ListRow("", "", kind.part.name, kind.to_buy, "", "") for kind in found.unsold),
    ]
