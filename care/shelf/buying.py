"""What to buy: singles, packs and kits that cover what is needed at the least cost without wasting more than stated.

A small integer programme, solved exactly; the same question gives the same answer.
"""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from math import ceil
from typing import Any

from care.errors import require

SEED = 20261125
LIMIT_S = 20.0
"""A stop for a question that nobody meant to ask [s]; the answer then says that it may not be the best."""
CENT = 1000
"""How much a cent weighs against a part left over: of ways that cost the same, the one that leaves fewer."""


@dataclass(frozen=True, slots=True)
class Need:
    """How many of a kind of part are needed over the horizon, and how many more would be used `later` in any case."""

    count: int
    later: int = 0

    def __post_init__(self) -> None:
        require(0 <= self.count <= 1000, "count", self.count, "0 to 1000")
        require(0 <= self.later <= 1000, "later", self.later, "0 to 1000")


@dataclass(frozen=True, slots=True)
class PricedOffer:
    """An offer as the programme sees it: where, for how many cents, and what kinds of part are in it."""

    key: str
    supplier: str
    price: int
    contents: Mapping[str, int]


@dataclass(frozen=True, slots=True)
class PurchasePlan:
    """One way to cover the needs: how many of each offer, the cost with delivery [cents], what is left over.

    `left` are parts beyond the need, `wasted` those of them that nothing would use later; `proven` that none is
    cheaper.
    """

    picks: Mapping[str, int]
    cost: int
    delivery: int
    left: Mapping[str, int]
    wasted: Mapping[str, int]
    proven: bool

    def a_year(self, horizon_days: int) -> float:
        """What it costs a year [cents]."""
        return self.cost * 365 / horizon_days


@dataclass(frozen=True, slots=True)
class Weighed:
    """Why a kit wins or loses: the least cost with it and without it [cents]; None where it cannot be done so."""

    key: str
    with_it: int | None
    without_it: int | None

    @property
    def wins(self) -> bool:
        """Whether taking it costs no more."""
        return self.with_it is not None and (self.without_it is None or self.with_it <= self.without_it)


def best(
    needs: Mapping[str, Need],
    offers: Sequence[PricedOffer],
    *,
    delivery: Mapping[str, int] | None = None,
    waste: float = 1.0,
    ways: int = 3,
) -> list[PurchasePlan]:
    """The cheapest ways to cover `needs`, each with other offers than those before it; at most `waste` [-] of the
    parts bought may be left that nothing uses. Empty where it cannot be done.
    """
    require(0 <= waste <= 1, "waste", waste, "0 to 1")
    offers = worth_a_look(offers, ways)
    made: list[PurchasePlan] = []
    for _ in range(ways):
        found = _Programme(needs, offers, delivery or {}, waste).without(way.picks for way in made).solve()
        if found is None:
            break
        made.append(found)
    return made


def worth_a_look(offers: Sequence[PricedOffer], ways: int) -> list[PricedOffer]:
    """Of each supplier's offers of the same contents the cheapest few: in so many ways a dearer one has no place.

    >>> dear, cheap = PricedOffer("a", "S", 500, {"x": 1}), PricedOffer("b", "S", 300, {"x": 1})
    >>> [offer.key for offer in worth_a_look([dear, cheap], ways=1)]
    ['b']
    """
    alike: dict[tuple[str, frozenset[tuple[str, int]]], list[PricedOffer]] = {}
    for offer in offers:
        alike.setdefault((offer.supplier, frozenset(offer.contents.items())), []).append(offer)
    kept = {o.key for group in alike.values() for o in sorted(group, key=lambda o: (o.price, o.key))[:ways]}
    return [offer for offer in offers if offer.key in kept]


def weigh(
    needs: Mapping[str, Need],
    offers: Sequence[PricedOffer],
    key: str,
    *,
    delivery: Mapping[str, int] | None = None,
    waste: float = 1.0,
    cheapest: PurchasePlan | None = None,
) -> Weighed:
    """Why the offer `key` wins or loses. Where the `cheapest` way is known, half of the answer is."""
    others = worth_a_look([o for o in offers if o.key != key], 1)
    kept = {key, *(o.key for o in others)}
    forced = without = cheapest if cheapest is not None and cheapest.proven else None
    if forced is None or key not in forced.picks:
        forced = _Programme(needs, [o for o in offers if o.key in kept], delivery or {}, waste).at_least(key).solve()
    if without is None or key in without.picks:
        without = _Programme(needs, others, delivery or {}, waste).solve()
    return Weighed(key, forced.cost if forced else None, without.cost if without else None)


def not_sold(needs: Mapping[str, Need], offers: Iterable[PricedOffer]) -> list[str]:
    """The parts that are needed and that nobody sells."""
    sold = {part for offer in offers for part in offer.contents}
    return [part for part, need in needs.items() if need.count and part not in sold]


class _Programme:
    """The integer programme of one question."""

    def __init__(
        self, needs: Mapping[str, Need], offers: Sequence[PricedOffer], delivery: Mapping[str, int], waste: float
    ) -> None:
        from ortools.sat.python import cp_model  # late: it takes seconds to load

        self._cp: Any = cp_model
        self._needs, self._offers, self._delivery = needs, offers, delivery
        self._model: Any = cp_model.CpModel()
        self._bought = {o.key: self._model.new_int_var(0, self._most(o), o.key) for o in offers}
        self._used = {o.key: self._model.new_bool_var(f"uses {o.key}") for o in offers}
        for o in offers:
            self._model.add(self._bought[o.key] >= 1).only_enforce_if(self._used[o.key])
            self._model.add(self._bought[o.key] == 0).only_enforce_if(self._used[o.key].negated())
        self._ordered = {s: self._model.new_bool_var(f"orders at {s}") for s in {o.supplier for o in offers}}
        for o in offers:
            self._model.add_implication(self._used[o.key], self._ordered[o.supplier])
        self._left = {part: self._cover(part, need) for part, need in needs.items()}
        self._wasted = {part: self._waste(part, need) for part, need in needs.items()}
        self._limit_waste(waste)

    def _most(self, offer: PricedOffer) -> int:
        """More of an offer than this covers every need with it alone."""
        covers = (ceil(need.count / offer.contents[p]) for p, need in self._needs.items() if p in offer.contents)
        return max([1, *covers])

    def _supply(self, part: str) -> Any:
        return sum(o.contents[part] * self._bought[o.key] for o in self._offers if part in o.contents)

    def _cover(self, part: str, need: Need) -> Any:
        self._model.add(self._supply(part) >= need.count)
        return self._supply(part) - need.count

    def _waste(self, part: str, need: Need) -> Any:
        wasted = self._model.new_int_var(0, 100_000, f"wasted {part}")
        self._model.add(wasted >= self._left[part] - need.later)
        return wasted

    def _limit_waste(self, waste: float) -> None:
        in_all = sum(sum(o.contents.values()) * self._bought[o.key] for o in self._offers)
        foreign = sum(
            sum(n for part, n in o.contents.items() if part not in self._needs) * self._bought[o.key]
            for o in self._offers
        )
        self._model.add(100 * (sum(self._wasted.values()) + foreign) <= int(100 * waste) * in_all)

    def without(self, ways: Iterable[Mapping[str, int]]) -> "_Programme":
        """Leave out every way that takes all the offers of one of these: what adds to it is no other way."""
        for picks in ways:
            self._model.add_bool_or([self._used[key].negated() for key in picks])
        return self

    def at_least(self, key: str) -> "_Programme":
        """Take the offer `key`."""
        self._model.add(self._used[key] == 1)
        return self

    def solve(self) -> PurchasePlan | None:
        """The cheapest way; None where there is none."""
        if not_sold(self._needs, self._offers):
            return None
        goods = sum(o.price * self._bought[o.key] for o in self._offers)
        carriage = sum(self._delivery.get(s, 0) * var for s, var in self._ordered.items())
        self._model.minimize((goods + carriage) * CENT + sum(self._left.values()))
        solver = self._cp.CpSolver()
        solver.parameters.num_workers = 1
        solver.parameters.random_seed = SEED
        solver.parameters.linearization_level = 2
        solver.parameters.max_time_in_seconds = LIMIT_S
        status = solver.solve(self._model)
        if status not in (self._cp.OPTIMAL, self._cp.FEASIBLE):
            return None
        return self._way(solver, proven=status == self._cp.OPTIMAL)

    def _way(self, solver: Any, *, proven: bool) -> PurchasePlan:
        picks = {o.key: int(solver.value(self._bought[o.key])) for o in self._offers}
        taken = {key: n for key, n in picks.items() if n}
        at = {o.supplier for o in self._offers if taken.get(o.key)}
        delivery = sum(self._delivery.get(s, 0) for s in at)
        goods = sum(o.price * taken.get(o.key, 0) for o in self._offers)
        left, wasted = dict[str, int](), dict[str, int]()
        for part in {p for o in self._offers if taken.get(o.key) for p in o.contents}:
            have = sum(o.contents.get(part, 0) * taken.get(o.key, 0) for o in self._offers)
            need = self._needs.get(part, Need(0))
            if have > need.count:
                left[part] = have - need.count
            if have > need.count + need.later:
                wasted[part] = have - need.count - need.later
        return PurchasePlan(
            taken, goods + delivery, delivery, dict(sorted(left.items())), dict(sorted(wasted.items())), proven
        )
