"""What happened to the parts of a machine, sorted once, and what was counted between two instants."""

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from functools import cached_property
from typing import Any, Protocol, TypeVar
from uuid import UUID

from care.due.context import Context
from care.due.reading import Reading
from care.due.triggers import (
    Span,
)
from care.items import Fitting, Item
from care.model import (
    CounterReading,
    HomeChanged,
    Inspection,
    NotKnown,
    ServiceRecord,
)
from care.rules import Rule
from care.vocabulary import Action


@dataclass(frozen=True)
class Past:
    """What happened in one slot, or on one machine, to whatever items; `parts` tells what kind of part each item is."""

    fittings: Sequence[Fitting] = ()
    services: Sequence[ServiceRecord] = ()
    inspections: Sequence[Inspection] = ()
    counters: Sequence[CounterReading] = ()
    unknowns: Sequence[NotKnown] = ()
    changes: Sequence[HomeChanged] = ()
    parts: Mapping[UUID, str] | None = None

    @cached_property
    def _by_item(self) -> dict[UUID, tuple[list[Fitting], list[ServiceRecord]]]:
        made: dict[UUID, tuple[list[Fitting], list[ServiceRecord]]] = {}
        for fitting in self.fittings:
            made.setdefault(fitting.item_id, ([], []))[0].append(fitting)
        for service in self.services:
            made.setdefault(service.item_id, ([], []))[1].append(service)
        return made

    def of(self, item_id: UUID) -> tuple[list[Fitting], list[ServiceRecord]]:
        """The fittings and services of one item."""
        return self._by_item.get(item_id, ([], []))

    def same_part(self, item_id: UUID, part: str) -> bool:
        """Whether an item is of that kind of part, as far as is known."""
        return self.parts is None or self.parts.get(item_id, part) == part


class Facts:
    """What happened to the `items` of one machine, sorted once by slot and by item."""

    def __init__(
        self,
        items: Mapping[UUID, Item],
        *,
        fittings: Iterable[Fitting],
        services: Iterable[ServiceRecord],
        inspections: Iterable[Inspection] = (),
        counters: Iterable[CounterReading] = (),
        unknowns: Iterable[NotKnown] = (),
        changes: Iterable[HomeChanged] = (),
    ) -> None:
        whole = Past(tuple(fittings), tuple(services), tuple(inspections), tuple(counters), tuple(unknowns))
        self.items = items
        self._by_slot = _sorted_in(whole, lambda fact: fact.slot)
        self._by_item = _sorted_in(whole, lambda fact: fact.item_id)
        self._parts = {item_id: item.part for item_id, item in items.items()}
        self._changes = list(changes)

    def of(self, slot: str, item_id: UUID) -> Past:
        """What happened in a slot to whatever items, and to the item in it anywhere on the machine."""
        changes = [one for one in self._changes if one.slot == slot]
        return _together(self._by_slot.get(slot), self._by_item.get(item_id), self._parts, changes)


class _Fact(Protocol):
    @property
    def slot(self) -> str: ...
    @property
    def item_id(self) -> UUID: ...


K = TypeVar("K")


KINDS = ("fittings", "services", "inspections", "counters", "unknowns")


def _sorted_in(past: Past, key: Callable[[_Fact], K]) -> dict[K, dict[str, list[Any]]]:
    """What happened, sorted by slot or by item, each kind of fact apart."""
    made: dict[K, dict[str, list[Any]]] = {}
    for kind in KINDS:
        for fact in getattr(past, kind):
            made.setdefault(key(fact), {name: [] for name in KINDS})[kind].append(fact)
    return made


def _together(
    here: dict[str, list[Any]] | None,
    item: dict[str, list[Any]] | None,
    parts: Mapping[UUID, str],
    changes: Sequence[HomeChanged],
) -> Past:
    """What happened in a slot to any item, and what happened to its item anywhere on the machine."""
    facts = {kind: list(here[kind]) if here else [] for kind in KINDS}
    for kind in KINDS if item else ():
        known = {id(fact) for fact in facts[kind]}
        facts[kind] += [fact for fact in item[kind] if id(fact) not in known] if item else []
    return Past(**facts, parts=parts, changes=changes)


def counting_actions(rule: Rule) -> set[Action]:
    """The actions that set the rule's service clock back."""
    return {rule.action, *rule.done_by, *_or_none(rule.about), *_or_none(rule.instead_of)}


def speaks_of(rule: Rule) -> set[Action]:
    """The actions that looks may be about which tell of this rule: its own, and what it stands in for."""
    return {rule.about or rule.action, *_or_none(rule.instead_of)}


def _or_none(action: Action | None) -> tuple[Action, ...]:
    return (action,) if action else ()


def spans(fittings: Sequence[Fitting], since: datetime, until: datetime) -> list[Span]:
    """The times after `since` and until `until` in which the item was fitted."""
    spans = ((max(f.start, since), min(f.end or until, until)) for f in fittings)
    return [(start, end) for start, end in spans if end > start]


def total_of(spans: Sequence[Span], context: Context) -> Reading:
    """What the meters counted in these times."""
    total = Reading()
    for start, end in spans:
        total += context.usage.between(start, end)
    return total
