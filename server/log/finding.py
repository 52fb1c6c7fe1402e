"""Finding records: what is asked for, as queries that a long log answers at once.

Newest first, a page at a time. What is asked in words may mean a machine, a part, a person, a kind or a note: each of
these is looked up by its own index and the finds are put together, since one question for all of them would read the
whole log.
"""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from datetime import date, datetime, timedelta
from heapq import merge
from itertools import islice
from uuid import UUID

from django.db.models import Q, QuerySet

from server.household.models import Member
from server.household.services import zone_of
from server.log.names import Names
from server.log.words import DID
from server.logbook.models import Detail, Entry
from server.machines import models as machines

Kind = Entry.Kind
GROUPS: dict[str, tuple[str, tuple[str, ...]]] = {
    "runs": ("Runs", (Kind.RUN, Kind.REST, Kind.SCHEDULE)),
    "work": ("Work", (Kind.SERVICE, Kind.MOVE)),
    "looks": ("Looks", (Kind.INSPECTION, Kind.COUNTER, Kind.CHANGED, Kind.UNKNOWN)),
    "drying": ("Drying", (Kind.HUNG, Kind.WEIGHT, Kind.CHECK)),
    "readings": ("Readings", (Kind.READING,)),
    "faults": ("Faults", (Kind.CASE, Kind.DANGER, Kind.MISHAP)),
    "notes": ("Notes", (Kind.NOTE,)),
    "shelf": ("Shelf", (Kind.SPARE, Kind.PRICES, Kind.STOCK, Kind.ORDER)),
    "settings": (
        "Settings",
        (
            Kind.MACHINE, Kind.OWN, Kind.STATUS, Kind.SIZE, Kind.HOUSEHOLD, Kind.LOAD, Kind.SEASON, Kind.WISH,
            Kind.WAIT, Kind.CLAIM, Kind.PEOPLE, Kind.IMPORT,
        ),
    ),
}  # fmt: skip
"""Kinds of record as they are asked for, with the word."""
IN_PLACE: tuple[type[Detail], ...] = (
    machines.Service, machines.Inspection, machines.Counter, machines.NotKnown, machines.Wait, machines.Claim,
    machines.HomeChanged, machines.Note, machines.ContainerVersion,
)  # fmt: skip
"""Details that name machine and slot."""
ON_ITEM: tuple[type[Detail], ...] = (machines.Move, machines.Hung, machines.Weight, machines.DryCheck)
"""Details that name a part, which belongs to a slot."""
VERBS = {Kind.RUN: "ran", Kind.INSPECTION: "found", Kind.HUNG: "hung", Kind.ORDER: "ordered", Kind.NOTE: "photo"}
"""What kinds of record are also called, as their lines say it."""
MOST_WORDS, MOST_NOTES = 6, 2_000


@dataclass(frozen=True, slots=True)
class Wanted:
    """What is asked for; what is not said does not matter. `undone`: also what was taken back, and that it was."""

    machine_id: UUID | None = None
    slot: str = ""
    by: UUID | None = None
    group: str = ""
    first: date | None = None
    last: date | None = None
    words: str = ""
    undone: bool = False


@dataclass(frozen=True, slots=True)
class Place:
    """Where a page ends: the next one begins with what is older."""

    at: datetime
    sequence: int


@dataclass(frozen=True, slots=True, order=True)
class Found:
    """One record that was found."""

    at: datetime
    sequence: int
    entry_id: UUID
    action_id: UUID = field(compare=False)


def found(member: Member, wanted: Wanted, names: Names, before: Place | None = None) -> Iterator[Found]:
    """Records that are asked for, the newest first, older than `before`."""
    rows = narrowed(member, wanted, before)
    ways = [rows.filter(way) for way in _ways(member, wanted, names)]
    told = [_read(way) for way in ways]
    last: UUID | None = None
    for one in merge(*told, reverse=True):
        if one.entry_id != last:
            yield one
        last = one.entry_id


def _read(rows: QuerySet[Entry]) -> Iterator[Found]:
    ordered = rows.order_by("-happened_at", "-sequence")
    values = ordered.values_list("happened_at", "sequence", "pk", "action_id")
    return (Found(*row) for row in values.iterator(200))


def narrowed(member: Member, wanted: Wanted, before: Place | None = None) -> QuerySet[Entry]:
    """What is asked for but its words."""
    rows: QuerySet[Entry] = Entry.objects.of(member.household_id)
    if not wanted.undone:
        rows = rows.filter(voided_by=None).exclude(kind=Kind.VOID)
    if wanted.by is not None:
        rows = rows.filter(by_id=wanted.by)
    if wanted.group:
        rows = rows.filter(kind__in=GROUPS[wanted.group][1])
    zone = zone_of(member)
    if wanted.first is not None:
        rows = rows.filter(happened_at__gte=datetime.combine(wanted.first, datetime.min.time(), zone))
    if wanted.last is not None:
        end = wanted.last + timedelta(days=1)
        rows = rows.filter(happened_at__lt=datetime.combine(end, datetime.min.time(), zone))
    if wanted.machine_id is not None:
        rows = rows.filter(_of_part(member, wanted.machine_id, wanted.slot))
    if before is not None:
        rows = rows.filter(
            Q(happened_at__lt=before.at) | Q(happened_at=before.at, sequence__lt=before.sequence),
            happened_at__lte=before.at,
        )
    return rows


def _of_part(member: Member, machine_id: UUID, slot: str) -> Q:
    """Records of a machine, or of one of its parts."""
    if not slot:
        return Q(subject_id=machine_id)
    return Q(pk__in=_ids_of_parts(member, [(machine_id, slot)]))


def _ids_of_parts(member: Member, places: Iterable[tuple[UUID, str]]) -> set[UUID]:
    ids: set[UUID] = set()
    for machine_id, slot in places:
        for detail in IN_PLACE:
            rows = detail.objects.of(member.household_id).filter(machine_id=machine_id, slot=slot)
            ids |= set(rows.values_list("pk", flat=True))
        for detail in ON_ITEM:
            here = {"item__home_machine_id": machine_id, "item__home_slot": slot}
            ids |= set(detail.objects.of(member.household_id).filter(**here).values_list("pk", flat=True))
    return ids


def _ways(member: Member, wanted: Wanted, names: Names) -> list[Q]:
    """Every way in which the words may be meant, each to be asked by itself; all words have to be met."""
    words = wanted.words.lower().split()[:MOST_WORDS]
    if not words:
        return [Q()]
    first, *rest = (_meant(member, word, names) for word in words)
    narrower = Q()
    for ways in rest:
        either = Q(pk__in=[])
        for way in ways:
            either |= way
        narrower &= either
    return [way & narrower for way in first]


def _meant(member: Member, word: str, names: Names) -> list[Q]:
    """What one word may mean."""
    ways: list[Q] = []
    if subjects := [pk for pk, name in names.machines.items() if word in name.lower()]:
        ways.append(Q(subject_id__in=subjects))
    if people := [pk for pk, name in names.people.items() if word in name.lower()]:
        ways.append(Q(by_id__in=people))
    if kinds := [kind for kind in Kind if any(word in told for told in (kind, kind.label, VERBS.get(kind, "")))]:
        ways.append(Q(kind__in=kinds))
    if actions := [action for action, did in DID.items() if word in did]:
        services = machines.Service.objects.of(member.household_id).filter(action__in=actions)
        ways.append(Q(kind=Kind.SERVICE, pk__in=services.values("pk")))
    ids = _ids_of_parts(member, names.places_called(word))
    notes = machines.Note.objects.of(member.household_id).filter(text__icontains=word)
    ids |= set(notes.values_list("pk", flat=True)[:MOST_NOTES])
    ids |= set(
        Entry.objects.of(member.household_id)
        .filter(kind=Kind.VOID, reason__icontains=word)
        .values_list("pk", flat=True)[:MOST_NOTES]
    )
    if ids:
        ways.append(Q(pk__in=ids))
    return ways


def heads(member: Member, wanted: Wanted, names: Names, before: Place | None, count: int) -> list[Found]:
    """The newest record of each of so many actions; those that reach over the end of the page before stood there."""
    taken: list[Found] = []
    fresh = _firsts(found(member, wanted, names, before))
    while len(taken) < count and (some := list(islice(fresh, count))):
        stood = _stood_before(member, wanted, before, [one.action_id for one in some])
        taken += [one for one in some if one.action_id not in stood]
    return taken[:count]


def _firsts(records: Iterator[Found]) -> Iterator[Found]:
    """The first record of each action."""
    seen: set[UUID] = set()
    for one in records:
        if one.action_id not in seen:
            seen.add(one.action_id)
            yield one


def _stood_before(member: Member, wanted: Wanted, before: Place | None, actions: list[UUID]) -> set[UUID]:
    if before is None:
        return set()
    newer = Q(happened_at__gt=before.at) | Q(happened_at=before.at, sequence__gte=before.sequence)
    rows = narrowed(member, wanted).filter(newer, action_id__in=actions)
    return set(rows.values_list("action_id", flat=True).distinct())
