"""Orders: what was bought at which price, and its arrival on the shelf."""

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from uuid import UUID

from django.db import transaction

from care.errors import require
from server.base.problems import Conflict
from server.household.models import Member
from server.household.services import require_writer, today_of
from server.logbook.models import Entry
from server.logbook.services import Journal
from server.machines.services import noon
from server.shelf import records
from server.shelf.models import Movement, Order, OrderClosed
from server.shelf.records import OnTheWay, Part
from server.shelf.sales import FittingOffer, sales_of
from server.shelf.services import journal_of, write_movement


@dataclass(frozen=True, slots=True)
class OrderLine:
    """So many of an offer to order."""

    supplier: str
    code: str
    count: int


@transaction.atomic
def order(*, member: Member, lines: Sequence[OrderLine]) -> list[Entry]:
    """What was ordered, at the prices of today: one order for each supplier, each called off by undoing it.

    Raises `InvalidValue` for an offer that is not in the lists or has nothing of ours, or a count out of range.
    """
    require_writer(member)
    require(bool(lines), "lines", "none", "at least one offer")
    kinds, lists = records.kinds_of(member), records.lists_of(member)
    sales = {(sale.supplier, sale.offer.code): sale for sale in sales_of(kinds, lists)}
    by_supplier: dict[str, list[tuple[OrderLine, FittingOffer]]] = {}
    for line in lines:
        sale = sales.get((line.supplier, line.code))
        require(sale is not None, "code", line.code, f"an offer of {line.supplier} with a part that fits here")
        require(1 <= line.count <= 50, "count", line.count, "1 to 50")
        assert sale is not None
        by_supplier.setdefault(line.supplier, []).append((line, sale))
    delivery = {prices.supplier: prices.delivery for prices in lists}
    return [_write_order(member, taken, delivery.get(supplier, 0)) for supplier, taken in by_supplier.items()]


def _write_order(member: Member, taken: list[tuple[OrderLine, FittingOffer]], delivery: int) -> Entry:
    journal = journal_of(member.household_id, member.pk)
    lead = max(sale.offer.lead_days for _, sale in taken)
    return journal.tell(
        Order,
        lines=[
            {
                "supplier": sale.supplier,
                "code": sale.offer.code,
                "name": sale.offer.name,
                "price": sale.offer.price,
                "count": line.count,
                "contents": {str(key): n for key, n in sale.contents.items()},
                "numbers": {str(key): number for key, number in sale.numbers.items()},
            }
            for line, sale in taken
        ],
        delivery=delivery,
        expected=today_of(member) + timedelta(days=lead),
    )


@transaction.atomic
def arrived(
    *,
    member: Member,
    order_id: UUID,
    day: date | None = None,
    came: Mapping[Part, int] | None = None,
    rest_comes: bool = True,
) -> Entry:
    """An order came, or part of it: that goes on the shelf. All that was missing without `came`.

    What is still missing stays on the way, unless `rest_comes` is false. Raises `InvalidValue` for more than is
    missing, for nothing of which the rest comes, or a day out of range; `Conflict` when nothing is on the way any more.
    """
    require_writer(member)
    one = _open(member, order_id)
    took = one.missing if came is None else _checked(came, one)
    require(bool(took) or not rest_comes, "came", "nothing", "at least one, or that the rest does not come")
    today, ordered = today_of(member), one.ordered_on
    require(day is None or ordered <= day <= today, "day", day, f"a day from {ordered} to today")
    journal = journal_of(member.household_id, member.pk)
    at = noon(day, member) if day is not None and ordered < day < today else None
    entries = [
        write_movement(journal, key, n, Movement.Why.CAME, number=number, order_id=one.row.pk, at=at)
        for (key, number), n in took.items()
    ]
    if not rest_comes and one.missing - took:
        entries.append(_close(journal, one.row))
    return entries[0]


def _open(member: Member, order_id: UUID) -> OnTheWay:
    row: Order = Order.objects.one(member.household_id, order_id, "order")
    found = next((one for one in records.open_orders(member) if one.row.pk == row.pk), None)
    if found is None:
        raise Conflict("This order came already, or was called off.", field="id", fix="Load the shelf again.")
    return found


def _checked(came: Mapping[Part, int], one: OnTheWay) -> Counter[Part]:
    for part, n in came.items():
        missing = one.missing[part]
        require(0 <= n <= missing, "came", n, f"0 to {missing}: count what is more as come from elsewhere")
    return +Counter(came)


def _close(journal: Journal, order: Order) -> Entry:
    return journal.tell(OrderClosed, order=order)
