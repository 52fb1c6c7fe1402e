"""What is sold of what the household keeps: offers of the price lists, by the numbers of its parts."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from uuid import UUID

from care.shelf import FitCheck, Offer, PriceList, SparePart
from care.shelf.buying import PricedOffer


@dataclass(frozen=True, slots=True)
class FittingOffer:
    """An offer that has something of ours: whose it is, what of it fits here under which numbers.

    `foreign` counts the parts of it that fit nothing here, `other_makers` tells that not all are the maker's own.
    """

    supplier: str
    offer: Offer
    contents: dict[UUID, int]
    numbers: dict[UUID, str]
    foreign: int
    other_makers: bool

    @property
    def key(self) -> str:
        """What names it among all offers."""
        return f"{self.supplier}/{self.offer.code}"

    @property
    def sold(self) -> PricedOffer:
        """As the programme sees it."""
        inside = {str(key): n for key, n in self.contents.items()}
        return PricedOffer(
            self.key, self.supplier, self.offer.price, inside | ({"": self.foreign} if self.foreign else {})
        )


USUAL_CURRENCY = "EUR"
"""What prices are taken to be in while there are none."""


def currency_of(lists: Sequence[PriceList]) -> str:
    """The currency of all prices: lists of another one are not taken."""
    return lists[0].currency if lists else USUAL_CURRENCY


def sales_of(kinds: dict[UUID, SparePart], lists: Iterable[PriceList]) -> list[FittingOffer]:
    """The offers that have something of ours in them, but nothing only of numbers that do not fit."""
    by_number = {
        one.number.lower(): (key, one)
        for key, part in kinds.items()
        for one in part.numbers
        if one.check is not FitCheck.NO
    }
    made = []
    for prices in lists:
        for offer in prices.offers:
            known = [(by_number[n.lower()], count) for n, count in offer.contents.items() if n.lower() in by_number]
            inside: dict[UUID, int] = {}
            for (key, _), count in known:
                inside[key] = inside.get(key, 0) + count
            if inside:
                other = any(not number.maker for (_, number), _ in known)
                foreign = sum(offer.contents.values()) - sum(inside.values())
                numbers = {key: number.number for (key, number), _ in known}
                made.append(FittingOffer(prices.supplier, offer, inside, numbers, foreign, other))
    return made
