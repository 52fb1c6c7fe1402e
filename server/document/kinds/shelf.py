"""What a document says of the shelf: kinds of spare parts, prices, orders, what came and went."""

from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field

from care.shelf import PriceList, SparePart
from server.base import bounds
from server.document.kinds.record import Part, Record, RecordId
from server.shelf.models import Movement


class SpareRecord(Record):
    """A kind of spare part from then on; none: it is not kept any more."""

    what: Literal["spare"]
    spare_id: UUID
    value: SparePart | None = None


class PricesRecord(Record):
    """A supplier's price list from then on; none: it is not used any more."""

    what: Literal["prices"]
    supplier: bounds.Name
    value: PriceList | None = None


class OrderLine(Part):
    """So many of an offer: its price [cents], what is in one, and under which numbers."""

    supplier: bounds.Name
    code: bounds.Code
    name: bounds.Line
    price: bounds.Pence
    count: bounds.Count
    contents: dict[UUID, bounds.Count]
    numbers: dict[UUID, bounds.Code] = {}


class OrderRecord(Record):
    """What was ordered, the delivery [cents], and the day it is expected."""

    what: Literal["order"]
    lines: list[OrderLine]
    delivery: bounds.Pence
    expected: bounds.Day


class OrderClosedRecord(Record):
    """What had not come of an order does not come any more."""

    what: Literal["order_closed"]
    order_id: RecordId


class StockRecord(Record):
    """So many of a kind of part came in or went out."""

    what: Literal["stock"]
    spare_id: UUID
    count: Annotated[int, Field(ge=-10_000, le=10_000)]
    why: Movement.Why
    number: bounds.Code = ""
    note: bounds.Line = ""
    item_id: UUID | None = None
    order_id: RecordId | None = None
