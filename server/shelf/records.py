"""Rows of the shelf to the core's values and back."""

from collections import Counter
from dataclasses import dataclass
from datetime import date
from typing import Any
from uuid import UUID

from pydantic import TypeAdapter

from care.shelf import PriceList, SparePart
from server.household.models import Member
from server.household.services import zone_of
from server.logbook.services import standing
from server.shelf.models import Movement, Order, OrderClosed, PricesVersion, SpareVersion

_spare: TypeAdapter[SparePart] = TypeAdapter(SparePart)
_prices: TypeAdapter[PriceList] = TypeAdapter(PriceList)


def kinds_of(member: Member) -> dict[UUID, SparePart]:
    """The kinds of spare part that a member's household keeps, by name."""
    return kinds_in(member.household_id)


def kinds_in(household_id: UUID) -> dict[UUID, SparePart]:
    """The kinds of spare part that a household keeps, by name."""
    rows = standing(SpareVersion.objects.of(household_id))
    last = {row.spare_id: row.value for row in rows}
    made = {key: _spare.validate_python(value) for key, value in last.items() if value is not None}
    return dict(sorted(made.items(), key=lambda one: one[1].name.lower()))


def lists_of(member: Member) -> list[PriceList]:
    """The price lists in use, by supplier."""
    rows = PricesVersion.objects.of(member.household_id)
    last = dict(standing(rows).values_list("supplier", "pk"))  # earlier lists, which may be long, stay unread
    values = rows.filter(pk__in=list(last.values())).order_by("supplier").values_list("value", flat=True)
    return [_prices.validate_python(value) for value in values if value is not None]


def spare_json(part: SparePart) -> Any:
    """A kind of spare part as it is stored."""
    return _spare.dump_python(part, mode="json")


def prices_json(prices: PriceList) -> Any:
    """A price list as it is stored."""
    return _prices.dump_python(prices, mode="json")


def movements_of(member: Member) -> list[Movement]:
    """Everything that came in and went out and stands, oldest first."""
    return list(standing(Movement.objects.of(member.household_id)).select_related("entry__by"))


Part = tuple[UUID, str]
"""A kind of part under one of its numbers."""


@dataclass(frozen=True, slots=True)
class OnTheWay:
    """An order that is open: how many of each part were ordered and how many of them came by now."""

    row: Order
    ordered_on: date
    ordered: Counter[Part]
    came: Counter[Part]

    @property
    def missing(self) -> Counter[Part]:
        """How many of each still have to come; those of which all came are left out."""
        return self.ordered - self.came

    @property
    def missing_by_kind(self) -> Counter[UUID]:
        """How many of each kind still have to come, under whatever number."""
        return _by_kind(self.ordered) - _by_kind(self.came)


def open_orders(member: Member) -> list[OnTheWay]:
    """Orders that stand, of which something has not come and may still come, oldest first."""
    come: dict[UUID, Counter[Part]] = {}
    for row in standing(Movement.objects.of(member.household_id)).exclude(order=None):
        come.setdefault(row.order_id, Counter())[row.spare_id, row.number] += row.count
    closed = standing(OrderClosed.objects.of(member.household_id)).values_list("order_id", flat=True)
    rows = standing(Order.objects.of(member.household_id)).exclude(pk__in=list(closed)).select_related("entry__by")
    zone = zone_of(member)
    made = [
        OnTheWay(row, row.entry.happened_at.astimezone(zone).date(), _parts_of(row), come.get(row.pk, Counter()))
        for row in rows
    ]
    return [one for one in made if one.missing_by_kind]


def _parts_of(order: Order) -> Counter[Part]:
    made: Counter[Part] = Counter()
    for line in order.lines:
        for key, each in line["contents"].items():
            made[UUID(key), line["numbers"].get(key, "")] += each * line["count"]
    return made


def _by_kind(parts: Counter[Part]) -> Counter[UUID]:
    made: Counter[UUID] = Counter()
    for (key, _), count in parts.items():
        made[key] += count
    return made
