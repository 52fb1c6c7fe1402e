"""What was found on a machine's parts last, and what somebody had in hand lately: for finding faults."""

from collections import defaultdict
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import TypeVar
from uuid import UUID

from django.db.models import QuerySet

from care.bench.drying import slowed_by_air
from care.items import MoveKind
from care.vocabulary import Action, Found
from server.base import clock
from server.household.models import Member
from server.logbook.models import Detail
from server.logbook.services import standing
from server.machines.models import Hung, Inspection, Move, Service
from server.machines.records import to_stay

D = TypeVar("D", bound=Detail)
LATELY = timedelta(days=10)
"""How long after a service the service itself is suspected. Ours."""


@dataclass(frozen=True, slots=True)
class Lately:
    """Of one machine, by slot: what was found last, what was done in the last days, how many days ago it was last in
    hand [days], and how many times as long as usual drying takes where it hung lately [-].
    """

    found: Mapping[str, Found]
    done: Mapping[str, frozenset[Action]]
    handled: Mapping[str, float]
    slow_air: Mapping[str, float]


def lately(member: Member, machine_id: UUID, fitted: Mapping[str, UUID]) -> Lately:
    """The last finds on what is `fitted` (slot -> item), and the work of the last days, as the records stand."""
    since = clock.now() - LATELY
    finds = standing(Inspection.objects.of(member.household_id).filter(item_id__in=fitted.values()))
    last = {item_id: Found(found) for item_id, found in finds.values_list("item_id", "found")}
    done: defaultdict[str, set[Action]] = defaultdict(set)
    services = Service.objects.of(member.household_id).filter(machine_id=machine_id)
    last_at: dict[str, datetime] = {}
    for slot, action, at in _since(services, since).values_list("slot", "action", "entry__happened_at"):
        done[slot].add(Action(action))
        last_at[slot] = max(at, last_at.get(slot, at))
    moves = Move.objects.of(member.household_id).filter(machine_id=machine_id, kind=MoveKind.FIT)
    for slot, at in _since(moves, since).values_list("slot", "entry__happened_at"):
        last_at[slot] = max(at, last_at.get(slot, at))
    hung = _since(Hung.objects.of(member.household_id).filter(item_id__in=fitted.values()), since)
    slow = {row.item_id: slowed_by_air(to_stay(row)) for row in hung.select_related("entry")}
    return Lately(
        {slot: last[item] for slot, item in fitted.items() if item in last},
        {slot: frozenset(actions) for slot, actions in done.items()},
        {slot: (clock.now() - at) / timedelta(days=1) for slot, at in last_at.items()},
        {slot: slow[item] for slot, item in fitted.items() if item in slow},
    )


def _since(rows: QuerySet[D], since: datetime) -> QuerySet[D]:
    return standing(rows).filter(entry__happened_at__gte=since)
