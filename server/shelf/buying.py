"""How each kind of part stands, and what covers the coming needs at the least cost."""

from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from care.bench.rotation import sets_needed
from care.book import load_book
from care.errors import require
from care.shelf import (
    Cover,
    Demand,
    Holding,
    Need,
    PriceList,
    PurchasePlan,
    SparePart,
    Supply,
    Weighed,
    best,
    cover,
    early_share,
    weigh,
)
from care.shelf.buying import PricedOffer, not_sold
from care.shelf.supply import to_buy
from care.vocabulary import School
from server.base import clock
from server.drying.services import hours_to_dry
from server.due.renewals import Renewing
from server.due.stored import renewing
from server.household.models import Member
from server.household.services import answers_at, today_of
from server.logbook.memo import of_all, remembered
from server.shelf import records
from server.shelf.cost_basis import guarantees
from server.shelf.records import OnTheWay
from server.shelf.sales import FittingOffer, currency_of, sales_of
from server.shelf.services import on_hand, place_of
from server.work.looks import gone_by_chance

USUAL_LEAD_DAYS = 5
"""How long a part takes to come where no list tells [days]. Ours."""
KEEPS_DAYS = 730
"""How long past the horizon a part left over keeps and still counts as used later [days]: rubber and foam age. Ours."""
WASTE = 0.34
"""Share of the parts bought that may be left unused, where nobody says otherwise [-]. Ours."""


@dataclass(frozen=True, slots=True)
class OnShelf:
    """A kind of part: what is there, on its way and needed, how it stands, and how many to buy for the horizon."""

    id: UUID
    part: SparePart
    places: tuple[Renewing, ...]
    holding: Holding
    cover: Cover
    to_buy: int
    need: Need
    sales: tuple[FittingOffer, ...]

    @property
    def cheapest(self) -> FittingOffer | None:
        """The offer with the least price for one of it."""
        return cheapest_of(self.id, self.sales)


def cheapest_of(key: UUID, sales: Iterable[FittingOffer]) -> FittingOffer | None:
    """The offer in stock that has only this kind of part and the least price for one."""
    alone = [sale for sale in sales if len(sale.contents) == 1 and not sale.foreign and sale.offer.in_stock]
    return min(alone, key=lambda s: (s.offer.price / s.contents[key], s.key), default=None)


@dataclass(frozen=True, slots=True)
class Shelf:
    """The whole shelf for a horizon, what most wants ordering first."""

    today: date
    horizon_days: int
    kinds: tuple[OnShelf, ...]
    loose: tuple[Renewing, ...]
    lists: tuple[PriceList, ...]
    orders: tuple[OnTheWay, ...]
    currency: str
    by_the_label: bool
    guarantees: dict[UUID, date]


def shelf(member: Member, horizon_days: int = 365) -> Shelf:
    """How all kinds of part stand. Raises `InvalidValue` for a horizon out of range."""
    require(30 <= horizon_days <= 1095, "horizon", horizon_days, "30 to 1095 days")
    key = ("shelf", of_all(member.household_id), clock.minute(), horizon_days)
    return remembered(key, lambda: _shelf(member, horizon_days))


def _shelf(member: Member, horizon_days: int) -> Shelf:
    look = _Look(member, horizon_days)
    made = [look.at(key, part) for key, part in look.kinds.items()]
    kept = {place for part in look.kinds.values() for place in part.places}
    return Shelf(
        today=look.today,
        horizon_days=horizon_days,
        kinds=tuple(sorted(made, key=_most_wanted)),
        loose=tuple(one for place, one in look.places.items() if place not in kept),
        lists=tuple(look.lists),
        orders=tuple(look.orders),
        currency=currency_of(look.lists),
        by_the_label=answers_at(member.household_id, clock.now()).school is School.LABEL,
        guarantees=guarantees(member),
    )


def _most_wanted(kind: OnShelf) -> tuple[int, date, str]:
    return list(Supply).index(kind.cover.supply), kind.cover.order_by or date.max, kind.part.name


class _Look:
    """One look at the shelf: what all kinds of part share is read once."""

    def __init__(self, member: Member, horizon_days: int) -> None:
        self.member, self.horizon_days, self.today = member, horizon_days, today_of(member)
        self.kinds, self.lists = records.kinds_of(member), records.lists_of(member)
        self.orders = records.open_orders(member)
        self.places = {place_of(one): one for one in renewing(member)}
        self._sales = sales_of(self.kinds, self.lists)
        self._there = on_hand(member)
        self._coming = sum((one.missing_by_kind for one in self.orders), Counter())
        self._early = early_share(*gone_by_chance(member))
        self._dries: dict[str, float] = {}

    def at(self, key: UUID, part: SparePart) -> OnShelf:
        """One kind of part."""
        places = tuple(self.places[place] for place in part.places if place in self.places)
        sales = tuple(sale for sale in self._sales if key in sale.contents)
        usual = cheapest_of(key, sales)
        holding = Holding(
            on_hand=self._there.get(key, 0),
            on_order=self._coming[key],
            turns_missing=sum(self._turns_missing(one) for one in places),
            least=part.least,
            lead_days=usual.offer.lead_days if usual else USUAL_LEAD_DAYS,
        )
        far = self.horizon_days + KEEPS_DAYS
        demand = Demand([one.renewal for one in places], today=self.today, horizon_days=far, early=self._early)
        wanted = to_buy(holding, demand, self.horizon_days)
        later = demand.count(far, 0.5) - demand.count(self.horizon_days, 0.5)
        return OnShelf(key, part, places, holding, cover(holding, demand), wanted, Need(wanted, max(0, later)), sales)

    def _turns_missing(self, one: Renewing) -> int:
        """How many sets a place still needs so that its machine need not wait for one that dries."""
        turns = one.turns
        if turns is None:
            return 0
        if turns.drying not in self._dries:
            drying = load_book().drying[turns.drying]
            self._dries[turns.drying] = hours_to_dry(self.member.household_id, drying)
        return max(0, sets_needed(self._dries[turns.drying], turns.wash_every_h, turns.gap_h) - turns.have)


@dataclass(frozen=True, slots=True)
class Ways:
    """The best ways to cover what is needed, why each kit in sight wins or loses, what nobody sells, what it rests on.

    `kits_left_out` counts kits that were not weighed, the least likely ones. `loosened` tells that no way keeps within
    the waste that was wanted.
    """

    shelf: Shelf
    ways: tuple[PurchasePlan, ...]
    kits: tuple[Weighed, ...]
    kits_left_out: int
    unsold: tuple[OnShelf, ...]
    sales: dict[str, FittingOffer]
    waste: float
    loosened: bool


KITS_WEIGHED = 12
"""How many kits are weighed against singles: each asks a programme of its own. Ours."""


def _price_of_use(kit: PricedOffer, sought: Mapping[str, Need]) -> float:
    """What one part of a kit costs that is of use [cents]."""
    return kit.price / sum(n for part, n in kit.contents.items() if part in sought)


def ways_to_buy(member: Member, horizon_days: int = 365, waste: float = WASTE) -> Ways:
    """What to buy for the horizon: the three best ways. Raises `InvalidValue` for a horizon or waste out of range."""
    require(0 <= waste <= 1, "waste", waste, "0 to 1")
    key = ("ways", of_all(member.household_id), clock.minute(), horizon_days, waste)
    return remembered(key, lambda: _ways_to_buy(member, horizon_days, waste))


def _ways_to_buy(member: Member, horizon_days: int, waste: float) -> Ways:
    on = shelf(member, horizon_days)
    sales = {sale.key: sale for kind in on.kinds for sale in kind.sales if sale.offer.in_stock}
    offers = [sales[key].sold for key in sorted(sales)]
    needs = {str(kind.id): kind.need for kind in on.kinds if kind.need.count or kind.need.later}
    unsold = set(not_sold(needs, offers))
    sought = {key: need for key, need in needs.items() if key not in unsold}
    delivery = {prices.supplier: prices.delivery for prices in on.lists}
    wanted = any(need.count for need in sought.values())
    ways = best(sought, offers, delivery=delivery, waste=waste) if wanted else []
    loosened = wanted and not ways
    if loosened:
        ways, waste = best(sought, offers, delivery=delivery), 1.0
    kits = [o for o in offers if sales[o.key].offer.is_kit and wanted and any(p in sought for p in o.contents)]
    likely = sorted(kits, key=lambda kit: (not any(kit.key in way.picks for way in ways), _price_of_use(kit, sought)))
    cheapest = ways[0] if ways else None
    return Ways(
        shelf=on,
        ways=tuple(ways),
        kits=tuple(
            weigh(sought, offers, kit.key, delivery=delivery, waste=waste, cheapest=cheapest)
            for kit in likely[:KITS_WEIGHED]
        ),
        kits_left_out=len(likely[KITS_WEIGHED:]),
        unsold=tuple(kind for kind in on.kinds if str(kind.id) in unsold and kind.need.count),
        sales=sales,
        waste=waste,
        loosened=loosened,
    )
