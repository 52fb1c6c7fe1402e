"""What orders take and give."""

from __future__ import annotations

from collections import Counter
from datetime import date
from uuid import UUID

from server.base import bounds
from server.base.schema import Schema
from server.shelf.buying import Shelf
from server.shelf.orders import OrderLine
from server.shelf.records import OnTheWay, Part


class LineIn(Schema):
    """So many of an offer."""

    supplier: bounds.Name
    code: bounds.Code
    count: bounds.Count

    def line(self) -> OrderLine:
        """As the services take it."""
        return OrderLine(self.supplier, self.code, self.count)


class OrderIn(Schema):
    """What is ordered."""

    lines: bounds.Many[LineIn]


class CameIn(Schema):
    """So many of a kind of part that came under a number."""

    spare_id: UUID
    number: bounds.Code = ""
    count: bounds.Count


class ArrivedIn(Schema):
    """What came (all of it without), on which day (today without), and whether the rest comes."""

    day: bounds.Day | None = None
    came: bounds.Many[CameIn] | None = None
    rest_comes: bool = True

    def parts(self) -> Counter[Part] | None:
        """What came, as the services take it."""
        if self.came is None:
            return None
        made: Counter[Part] = Counter()
        for one in self.came:
            made[one.spare_id, one.number] += one.count
        return made


class OrderLineOut(Schema):
    """A line of an order."""

    supplier: str
    code: str
    name: str
    price: int
    count: int


class ComingOut(Schema):
    """How many of a kind of part under a number an order still has to bring, of how many that were ordered."""

    spare_id: UUID
    number: str
    name: str
    missing: int
    ordered: int


class OrderOut(Schema):
    """What is on its way; `begun` tells that some of it came."""

    id: UUID
    ordered_on: date
    by: str
    expected: date
    late: bool
    cost: int
    lines: list[OrderLineOut]
    begun: bool
    coming: list[ComingOut]


def order_out(one: OnTheWay, on: Shelf) -> OrderOut:
    """An order with its lines and what came of it, as the API gives it."""
    row, names = one.row, {kind.id: kind.part.name for kind in on.kinds}
    return OrderOut(
        id=row.pk,
        ordered_on=one.ordered_on,
        by=row.entry.by.name if row.entry.by else "",
        expected=row.expected,
        late=row.expected < on.today,
        cost=row.delivery + sum(line["price"] * line["count"] for line in row.lines),
        lines=[OrderLineOut(**{key: line[key] for key in OrderLineOut.model_fields}) for line in row.lines],
        begun=bool(one.came),
        coming=[
            ComingOut(
                spare_id=key,
                number=number,
                name=names.get(key, NO_LONGER_KEPT),
                missing=n,
                ordered=one.ordered[key, number],
            )
            for (key, number), n in one.missing.items()
        ],
    )


NO_LONGER_KEPT = "A part that is no longer kept"
