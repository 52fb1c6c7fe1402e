"""Reading price lists: an open CSV and the same in JSON. All of a list is good, or none of it is taken.

CSV columns: code, name, contents, price, lead_days, in_stock. `contents` are part numbers with how many of each,
"BR-20 x 1 + SB-7 x 3". Prices have a point before the cents.
"""

import json
from collections.abc import Iterable, Mapping
from typing import Any

from care.errors import InvalidValue, require
from care.shelf.stock import Offer, PriceList
from care.tables import all_good, rows_of, text_of

COLUMNS = ("code", "name", "contents", "price", "lead_days", "in_stock")
NEEDED = COLUMNS[:4]
MOST_BYTES = 1_000_000
MOST_LINES = 2_000
TRUE, FALSE = ("yes", "true", "1", ""), ("no", "false", "0")


def read_csv(data: bytes, *, supplier: str, currency: str, delivery: int = 0) -> PriceList:
    """A price list from CSV. Raises `InvalidValue` for a file that is none, `BadLines` for lines that are wrong."""
    return _listed(rows_of(text_of(data, MOST_BYTES), COLUMNS, NEEDED), supplier, currency, delivery)


def read_json(data: bytes) -> PriceList:
    """A price list from JSON: {supplier, currency, delivery, offers: [{code, name, contents, price, ...}]}."""
    try:
        document = json.loads(text_of(data, MOST_BYTES))
    except json.JSONDecodeError as error:
        raise InvalidValue(
            f"file: no JSON: {error.msg} in line {error.lineno}", field="file", fix="Ask the shop for its list again."
        ) from error
    ok = isinstance(document, Mapping) and isinstance(document.get("offers"), list)
    require(ok, "file", "something else", "a price list with supplier, currency and offers")
    rows = [(n, one if isinstance(one, Mapping) else {}) for n, one in enumerate(document["offers"], 1)]
    delivery = cents(str(document.get("delivery", "0")), "delivery")
    return _listed(rows, str(document.get("supplier", "")), str(document.get("currency", "")), delivery)


def _listed(rows: Iterable[tuple[int, Mapping[str, Any]]], supplier: str, currency: str, delivery: int) -> PriceList:
    offers: list[Offer] = []
    seen: set[str] = set()

    def take(line: int, row: Mapping[str, Any]) -> None:
        offers.append(_offer(row, seen))

    listed = list(rows)
    last = max((line for line, _ in listed), default=0)
    require(last <= MOST_LINES, "file", f"more than {MOST_LINES} lines", f"at most {MOST_LINES} lines")
    all_good(listed, take)
    require(bool(offers), "file", "no offers", "at least one line")
    return PriceList(supplier.strip(), currency.strip(), tuple(offers), delivery)


def _offer(row: Mapping[str, Any], seen: set[str]) -> Offer:
    def cell(name: str) -> str:
        value = row.get(name)
        return "" if value is None else str(value).strip()

    offer = Offer(
        code=cell("code"),
        name=cell("name"),
        price=cents(cell("price"), "price"),
        contents=contents(cell("contents"), cell("code")),
        lead_days=_whole(cell("lead_days") or "3", "lead_days"),
        in_stock=_yes(cell("in_stock")),
    )
    require(offer.code.lower() not in seen, "code", offer.code, "a code of its own on each line")
    seen.add(offer.code.lower())
    return offer


def cents(text: str, field: str) -> int:
    """A price as cents.

    >>> cents("12.4", "price")
    1240
    """
    whole, _, part = text.strip().partition(".")
    good = whole.isascii() and whole.isdigit() and len(whole) <= 6 and (not part or (part.isdigit() and len(part) <= 2))
    require(good, field, repr(text), "a price such as 12.40, without a currency")
    return int(whole) * 100 + int(part.ljust(2, "0") or 0)


def contents(text: str, code: str = "") -> dict[str, int]:
    """Part numbers with how many of each.

    >>> contents("BR-20 x 1 + SB-7 x 3")
    {'BR-20': 1, 'SB-7': 3}
    """
    made: dict[str, int] = {}
    for piece in (one.strip() for one in text.split("+")):
        number, _, count = piece.rpartition(" x ") if " x " in piece else (piece, "", "1")
        require(bool(number.strip()), "contents", repr(text), "part numbers, such as BR-20 x 1 + SB-7 x 3")
        key = number.strip()
        require(key not in made, "contents", repr(text), "each part number once")
        made[key] = _whole(count, "contents")
    inside = len(made) > 1 and code.lower() in {number.lower() for number in made}
    require(not inside, "contents", f"{code} inside {code}", "the single parts that are in it, not the kit itself")
    return made


def _whole(text: str, field: str) -> int:
    require(text.strip().isascii() and text.strip().isdigit(), field, repr(text), "a whole number")
    return int(text)


def _yes(text: str) -> bool:
    require(text.lower() in (*TRUE, *FALSE), "in_stock", repr(text), "yes or no")
    return text.lower() in TRUE
