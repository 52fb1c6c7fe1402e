"""What is on record of machines beside their use: parts, work, looks, counters, what was put off or taken on.

A machine runs, and tells of itself, far more often than anything else happens to it, so this is kept in the process
(`logbook.memo`) until something else is recorded of it, or of the household.
"""

from collections import defaultdict
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any, TypeVar
from uuid import UUID

from django.db.models import QuerySet

from care import items as core_items
from care import model as core
from care.due import Facts
from server.logbook.memo import keep, recalled
from server.logbook.models import Entry
from server.logbook.services import standing
from server.machines import records
from server.machines.models import (
    Claim,
    ContainerVersion,
    Counter,
    Fitting,
    HomeChanged,
    Inspection,
    Item,
    NotKnown,
    Service,
    Wait,
)

FAR = 500
"""So many entries of a household are looked through for what is new; behind more, all is read again. Ours."""
NOTHING_OF_THIS = {Entry.Kind.RUN, Entry.Kind.SAID, Entry.Kind.READING, Entry.Kind.HELD, Entry.Kind.SETTLED}
"""What is recorded of a machine and stands in none of the tables that are read here."""
Mark = tuple[UUID, int]
"""An entry and its place in the order of entering: another history has no such entry."""


@dataclass(frozen=True, slots=True)
class OnRecord:
    """What is on record of one machine beside its runs, true up to the entry `mark` of its household."""

    mark: Mark | None
    facts: Facts
    homes: Mapping[UUID, str]
    """Which place each of its parts is meant for."""
    fittings: Sequence[core_items.Fitting]
    services: Sequence[core.ServiceRecord]
    waits: Sequence[Wait]
    claims: Sequence[Claim]
    sizes: Sequence[ContainerVersion]


def on_record(household_id: UUID, machine_ids: Iterable[UUID]) -> dict[UUID, OnRecord]:
    """What is on record of each of these machines, in a dozen queries however many they are."""
    ids = list(machine_ids)
    last = Entry.objects.of(household_id).order_by("-sequence").values_list("pk", "sequence").first()
    found = _still_true(household_id, ids, last)
    if missing := [pk for pk in ids if pk not in found]:
        found |= _loaded(household_id, missing, last)
    for pk in ids:
        keep(("on record", pk), found[pk])
    return found


def _still_true(household_id: UUID, ids: Sequence[UUID], last: Mark | None) -> dict[UUID, OnRecord]:
    """What was kept of those of which nothing was recorded since that stands here."""
    kept: dict[UUID, OnRecord] = {pk: one for pk in ids if (one := recalled(("on record", pk))) and one.mark}
    numbers = [one.mark[1] for one in kept.values() if one.mark]
    if last is None or not numbers or last[1] - min(numbers) > FAR:
        return {}
    entries = Entry.objects.of(household_id).filter(sequence__gte=min(numbers))
    since = list(entries.values_list("pk", "sequence", "subject_id", "kind"))
    there = {(pk, number) for pk, number, _, _ in since}
    moved = [(number, subject) for _, number, subject, kind in since if kind not in NOTHING_OF_THIS]

    def holds(machine: UUID, mark: Mark) -> bool:
        return mark in there and not any(n > mark[1] and about in (machine, household_id) for n, about in moved)

    return {pk: replace(one, mark=last) for pk, one in kept.items() if one.mark and holds(pk, one.mark)}


F = TypeVar("F")


def by_machine(
    rows: QuerySet[Any], fields: tuple[str, ...], to_fact: Callable[[UUID, tuple[Any, ...]], F]
) -> dict[UUID, list[F]]:
    """The facts that stand of each machine, in the order they happened."""
    made: dict[UUID, list[F]] = defaultdict(list)
    for machine_id, *values in standing(rows).values_list("machine_id", *fields):
        made[machine_id].append(to_fact(machine_id, tuple(values)))
    return made


def _each(rows: Iterable[Any], to_fact: Callable[[Any], F]) -> dict[UUID, list[F]]:
    made: dict[UUID, list[F]] = defaultdict(list)
    for row in rows:
        made[row.machine_id].append(to_fact(row))
    return made


def _loaded(household_id: UUID, ids: Sequence[UUID], mark: Mark | None) -> dict[UUID, OnRecord]:
    def of(model: type[Any]) -> QuerySet[Any]:
        rows: QuerySet[Any] = model.objects.of(household_id).filter(machine_id__in=ids)
        return rows

    homes: dict[UUID, dict[UUID, str]] = defaultdict(dict)
    items: dict[UUID, dict[UUID, core_items.Item]] = defaultdict(dict)
    for item in Item.objects.of(household_id).filter(home_machine__in=ids):
        items[item.home_machine_id][item.pk] = records.to_item(item)
        homes[item.home_machine_id][item.pk] = item.home_slot
    fittings = _each(of(Fitting), records.to_fitting)
    services = by_machine(of(Service), records.SERVICE, lambda _, row: records.to_service(row))
    looks = by_machine(of(Inspection), records.INSPECTION, lambda _, row: records.to_inspection(row))
    counters = _each(standing(of(Counter)), records.to_counter)
    unknowns = _each(standing(of(NotKnown)), records.to_not_known)
    changes = _each(standing(of(HomeChanged)), records.to_home_changed)
    waits = _each(standing(of(Wait)).select_related("entry__by"), lambda row: row)
    claims = _each(standing(of(Claim)).select_related("entry__by"), lambda row: row)
    sizes = _each(standing(of(ContainerVersion)), lambda row: row)

    def facts_of(pk: UUID) -> Facts:
        return Facts(
            items[pk],
            fittings=fittings[pk],
            services=services[pk],
            inspections=looks[pk],
            counters=counters[pk],
            unknowns=unknowns[pk],
            changes=changes[pk],
        )

    return {
        pk: OnRecord(mark, facts_of(pk), homes[pk], fittings[pk], services[pk], waits[pk], claims[pk], sizes[pk])
        for pk in ids
    }
