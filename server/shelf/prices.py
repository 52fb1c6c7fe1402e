"""Price lists: a person's own file, or what the shop near by answers. All of a list is taken, or none of it."""

from http.client import HTTPException
from time import monotonic
from urllib.error import URLError
from urllib.request import Request, urlopen

from django.conf import settings
from django.db import transaction

from care.errors import require
from care.shelf import PriceList, read_csv, read_json
from care.shelf.offers import MOST_BYTES, cents
from server.base.problems import Conflict, NotFound
from server.household.models import Member
from server.household.services import require_writer
from server.logbook.models import Entry
from server.shelf import records
from server.shelf.models import PricesVersion
from server.shelf.services import journal_of

PATIENCE_S = 5.0
"""How long a shop may take to answer [s]."""
PIECE = 65_536
"""How much is read at once [bytes]."""


def take_file(*, member: Member, data: bytes, supplier: str, currency: str, delivery: str) -> Entry:
    """The price list of a supplier from a CSV file; it replaces the one before. Raises as `read_csv` does."""
    carriage = cents(delivery or "0", "delivery")
    return take_list(member=member, prices=read_csv(data, supplier=supplier, currency=currency, delivery=carriage))


def ask_shop(*, member: Member) -> PriceList:
    """What the shop answers now; nothing is kept. Raises `Conflict` when it does not, `InvalidValue` for no list."""
    require_writer(member)
    return read_json(_answer())


def _answer() -> bytes:
    """What the shop answers, no more than a list can be. Its address is set where Yperon is started, by nobody else."""
    if not settings.SHOP:
        raise Conflict("No shop is set up.", field="shop", fix="Take its list as a file instead.")
    until = monotonic() + PATIENCE_S
    data = b""
    try:
        request = Request(settings.SHOP, headers={"Accept": "application/json"})  # noqa: S310 - settings let only http in
        with urlopen(request, timeout=PATIENCE_S) as answer:  # noqa: S310
            while (part := answer.read1(PIECE)) and len(data) <= MOST_BYTES:
                data += part
                if monotonic() > until:
                    raise TimeoutError("it is too slow")
    except (URLError, HTTPException, OSError) as error:
        raise Conflict(
            f"The shop does not answer ({getattr(error, 'reason', error)}).",
            field="shop",
            fix="The list of before stays. Try again later, or take its list as a file.",
        ) from error
    return data


@transaction.atomic
def take_list(*, member: Member, prices: PriceList) -> Entry:
    """A supplier's price list from now on. Raises `InvalidValue` for another currency than the other lists have."""
    require_writer(member)
    others = {one.currency for one in records.lists_of(member) if one.supplier != prices.supplier}
    usual = next(iter(sorted(others)), prices.currency)
    require(prices.currency == usual, "currency", prices.currency, f"{usual} as the other lists have")
    return _write(member, prices.supplier, prices)


@transaction.atomic
def drop_list(*, member: Member, supplier: str) -> Entry:
    """A price list that is no longer used. Raises `NotFound`."""
    require_writer(member)
    if supplier not in {one.supplier for one in records.lists_of(member)}:
        raise NotFound(f"supplier: no list of {supplier!r}", field="supplier", fix="Load the shelf again.")
    return _write(member, supplier, None)


def _write(member: Member, supplier: str, prices: PriceList | None) -> Entry:
    journal = journal_of(member.household_id, member.pk)
    value = records.prices_json(prices) if prices else None
    return journal.tell(PricesVersion, supplier=supplier, value=value)
