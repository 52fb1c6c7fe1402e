"""What lies on a shelf and what is sold: kinds of spare part with the places they fit, offers with what is in them.

Money is whole cents of the household's currency.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from uuid import UUID

from care.errors import InvalidValue, require
from care.washability import NO_UNKNOWN_KEYS

LONGEST_NAME = 60


class FitCheck(StrEnum):
    """What somebody found when they held a part of this number against its place."""

    UNCHECKED = "unchecked"
    FITS = "fits"
    DIFFERS = "differs"
    """It does the job, but something about it is otherwise: the note says what."""
    NO = "no"
    """It does not fit: it never counts as there."""


@dataclass(frozen=True, slots=True)
class PartNumber:
    """A number that a kind of part is sold under, the maker's or another one's, and whether it was found to fit."""

    number: str
    maker: bool = True
    check: FitCheck = FitCheck.UNCHECKED
    note: str = ""

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        fits = 0 < len(self.number.strip()) <= 40 and not set("+\n\r,;") & set(self.number)
        require(fits, "number", repr(self.number), "1 to 40 characters without + , or ;")
        explained = self.check not in (FitCheck.DIFFERS, FitCheck.NO) or bool(self.note.strip())
        require(explained, "note", repr(self.note), "a few words on what is different")


@dataclass(frozen=True, slots=True)
class PartPlace:
    """A place that a part goes into: a slot of a machine."""

    machine_id: UUID
    slot: str

    __pydantic_config__ = NO_UNKNOWN_KEYS


@dataclass(frozen=True, slots=True)
class SparePart:
    """A kind of part that is kept: the places it fits, the numbers it is sold under, how many never to go below."""

    name: str
    places: tuple[PartPlace, ...]
    numbers: tuple[PartNumber, ...] = ()
    least: int = 0

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(0 < len(self.name.strip()) <= LONGEST_NAME, "name", repr(self.name), "a name of 1 to 60 characters")
        require(bool(self.places), "places", "none", "at least one place of a machine that it fits")
        numbers = [one.number.lower() for one in self.numbers]
        require(len(set(numbers)) == len(numbers), "numbers", numbers, "each number once")
        require(0 <= self.least <= 50, "least", self.least, "0 to 50")

    def ends_guarantee(self, *, by_the_label: bool, guaranteed: bool) -> bool:
        """Whether another maker's number may end a guarantee: where one runs, or the household keeps by the label."""
        return (by_the_label or guaranteed) and any(not one.maker for one in self.numbers)

    def number(self, wanted: str) -> PartNumber | None:
        """The number `wanted`, whatever its case."""
        return next((one for one in self.numbers if one.number.lower() == wanted.strip().lower()), None)


@dataclass(frozen=True, slots=True)
class Offer:
    """Something one can buy: a single part, a pack or a mixed kit. `contents` are part numbers with how many of each.

    `price` and the delivery of its list are cents; `lead_days` how long it takes to come.
    """

    code: str
    name: str
    price: int
    contents: Mapping[str, int]
    lead_days: int = 3
    in_stock: bool = True

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(0 < len(self.code.strip()) <= 40, "code", repr(self.code), "1 to 40 characters")
        require(0 < len(self.name.strip()) <= 120, "name", repr(self.name), "a name of 1 to 120 characters")
        require(0 < self.price <= 10_000_00, "price", f"{self.price / 100:.2f}", "more than 0 and at most 10000")
        require(bool(self.contents), "contents", "nothing", "part numbers with how many of each, such as AB-1 x 2")
        for number, count in self.contents.items():
            require(1 <= count <= 100, "contents", f"{number} x {count}", "1 to 100 of each part")
        require(0 <= self.lead_days <= 180, "lead_days", self.lead_days, "0 to 180 days")

    @property
    def is_kit(self) -> bool:
        """Whether several kinds of part come together."""
        return len(self.contents) > 1


@dataclass(frozen=True, slots=True)
class PriceList:
    """What one supplier sells, in one currency; `delivery` is what each order costs besides [cents]."""

    supplier: str
    currency: str
    offers: tuple[Offer, ...]
    delivery: int = 0

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(0 < len(self.supplier.strip()) <= LONGEST_NAME, "supplier", repr(self.supplier), "a name")
        is_code = len(self.currency) == 3 and self.currency.isalpha() and self.currency.isupper()
        require(is_code, "currency", repr(self.currency), "three capital letters such as EUR")
        require(0 <= self.delivery <= 1000_00, "delivery", f"{self.delivery / 100:.2f}", "0 to 1000")
        codes = [offer.code for offer in self.offers]
        twice = sorted({code for code in codes if codes.count(code) > 1})
        require(not twice, "code", ", ".join(twice), "each code once")
        for offer in self.offers:
            inner = [number for number in offer.contents if number.lower() == offer.code.lower()]
            if inner and offer.is_kit:
                raise InvalidValue(
                    f"contents: {offer.code} contains itself", field="contents", fix="Name the single parts in it."
                )
