"""Finding records: what is asked for, as queries that a long log answers at once.

Newest first, a page at a time. What is asked in words may mean a machine, a part, a person, a kind or a note: each of
these is looked up by its own index and the finds are put together, since one question for all of them would read the
whole log.
"""

from collections import defaultdict
from collections.abc import Collection, Iterable, Iterator
from dataclasses import dataclass, field
from datetime import date, datetime, timedelta
from functools import reduce
from heapq import merge
from itertools import islice
from operator import or_
from typing import Any
from uuid import UUID

from django.db.models import Exists, OuterRef, Q, QuerySet

from care.words import DEEDS
from server.household.models import Member
from server.household.services import zone_of
from server.log.names import Names
from server.logbook.models import Detail, Entry
from server.logbook.scoping import by_ids
from server.machines import models as machines

Kind = Entry.Kind
GROUPS: dict[str, tuple[str, tuple[str, ...]]] = {
    "runs": ("Runs", (Kind.RUN, Kind.REST, Kind.SCHEDULE)),
    "work": ("Work", (Kind.SERVICE, Kind.MOVE)),
    "looks": ("Looks", (Kind.INSPECTION, Kind.COUNTER, Kind.CHANGED, Kind.UNKNOWN)),
    "drying": ("Drying, air and weights", (Kind.HUNG, Kind.WEIGHT, Kind.CHECK, Kind.AIR)),
    "readings": ("Readings", (Kind.READING,)),
    "faults": ("Faults", (Kind.CASE, Kind.DANGER, Kind.MISHAP, Kind.SAID)),
    "notes": ("Notes", (Kind.NOTE,)),
    "shelf": ("Shelf", (Kind.SPARE, Kind.PRICES, Kind.STOCK, Kind.ORDER)),
    "settings": (
        "Settings",
        (
            Kind.MACHINE, Kind.OWN, Kind.STATUS, Kind.SIZE, Kind.HOUSEHOLD, Kind.LOAD, Kind.SEASON, Kind.WISH,
            Kind.WAIT, Kind.CLAIM, Kind.PEOPLE, Kind.IMPORT, Kind.DEVICE, Kind.HELD, Kind.SETTLED,
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
MEASURED = (Kind.AIR, Kind.HUNG, Kind.WEIGHT, Kind.MOVE)
"""What sensors tell every hour, and the drying that follows: shown where somebody asks for more than everything."""
MOST_WORDS, MOST_NOTES = 6, 2_000
MANY, FEW = 12, 500
"""What so many machines are called is most of the log: it is read in its order, and not machine by machine;
so few records of a kind are fetched by their ids."""


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
    streams = [way.read(rows) for way in _ways(member, wanted, names)]
    last: UUID | None = None
    for one in merge(*streams, reverse=True):
        if one.entry_id != last:
            yield one
        last = one.entry_id


@dataclass(frozen=True, slots=True)
class Way:
    """One way in which something may be meant: a question that an index answers in order, or certain records; `kind`:
    of which kind they all are.
    """

    asked: Q = field(default_factory=Q)
    ids: frozenset[UUID] | None = None
    kind: str = ""

    def read(self, rows: QuerySet[Entry]) -> Iterator[Found]:
        """What is meant, the newest first."""
        rows = rows.filter(self.asked, **({"kind": self.kind} if self.kind else {}))
        if self.ids is None:
            return _in_order(rows)
        some = (part.values_list(*FOUND) for part in by_ids(rows, self.ids))
        return iter(sorted((Found(*row) for part in some for row in part), reverse=True))

    def and_(self, others: list["Way"]) -> "Way | None":
        """This way, as far as one of the others holds, too; None: none of them can."""
        can = [other for other in others if not self.kind or other.kind in ("", self.kind)]
        more = [other._beside(self.kind) for other in can]
        if not all(more):  # one of them asks for nothing more
            return self
        return Way(self.asked & reduce(or_, more), self.ids, self.kind) if more else None

    def _beside(self, kind: str) -> Q:
        """What this way asks of records that are of this kind already."""
        of_kind = Q(kind=self.kind) if self.kind not in ("", kind) else Q()
        return of_kind & self.asked & (Q(pk__in=self.ids) if self.ids is not None else Q())


FOUND = ("happened_at", "sequence", "pk", "action_id")


def _in_order(rows: QuerySet[Entry]) -> Iterator[Found]:
    values = rows.order_by("-happened_at", "-sequence").values_list(*FOUND)
    return (Found(*row) for row in values.iterator(200))


def narrowed(member: Member, wanted: Wanted, before: Place | None = None) -> QuerySet[Entry]:
    """What is asked for but its words."""
    rows: QuerySet[Entry] = Entry.objects.of(member.household_id)
    if not wanted.undone:
        rows = rows.filter(voided_by=None).exclude(kind=Kind.VOID)
    if not (wanted.group or wanted.slot or wanted.words):
        rows = rows.exclude(source=Entry.Source.DEVICE, kind__in=MEASURED)
    if wanted.by is not None:
        rows = rows.filter(by_id=wanted.by)
    zone = zone_of(member)
    if wanted.first is not None:
        rows = rows.filter(happened_at__gte=datetime.combine(wanted.first, datetime.min.time(), zone))
    if wanted.last is not None:
        end = wanted.last + timedelta(days=1)
        rows = rows.filter(happened_at__lt=datetime.combine(end, datetime.min.time(), zone))
    if wanted.machine_id is not None and not wanted.slot:
        rows = rows.filter(subject_id=wanted.machine_id)
    if before is not None:
        rows = rows.filter(
            Q(happened_at__lt=before.at) | Q(happened_at=before.at, sequence__lt=before.sequence),
            happened_at__lte=before.at,
        )
    return rows


def _of_places(member: Member, places: Iterable[tuple[UUID, str]], named: Collection[UUID] = ()) -> list[Way]:
    """The records about these places of machines; what names a machine of `named` itself is found as its record."""
    every_one = set(places)
    elsewhere = {one for one in every_one if one[0] not in named}
    asked = _details_of(member, IN_PLACE, elsewhere, ("machine_id", "slot"))
    asked += _details_of(member, ON_ITEM, every_one, ("item__home_machine_id", "item__home_slot"))
    return _of_details(asked)


def _details_of(
    member: Member, details: Iterable[type[Detail]], places: Iterable[tuple[UUID, str]], way: tuple[str, str]
) -> list[QuerySet[Any]]:
    """What each of these tables tells about these places; `way`: how it comes to the machine and to the slot."""
    machines_of: dict[str, list[UUID]] = defaultdict(list)
    for machine_id, slot in places:
        machines_of[slot].append(machine_id)
    alike: dict[tuple[UUID, ...], list[str]] = defaultdict(list)
    for slot, ids in machines_of.items():
        alike[tuple(sorted(ids))].append(slot)
    to_machine, to_slot = way
    each = [Q(**{f"{to_machine}__in": ids, f"{to_slot}__in": slots}) for ids, slots in alike.items()]
    return [detail.objects.of(member.household_id).filter(reduce(or_, each)) for detail in details] if each else []


def _of_details(asked: Iterable[QuerySet[Any]]) -> list[Way]:
    """The records with one of these details: few of a kind by their ids, many as they are met in the order of time."""
    few, ways = set[UUID](), list[Way]()
    for rows in (rows.order_by() for rows in asked):
        if rows[FEW : FEW + 1].exists():
            ways.append(Way(Q(Exists(rows.filter(pk=OuterRef("pk")))), kind=rows.model.entry_kind))
        else:
            few |= set(rows.values_list("pk", flat=True))
    return [*ways, Way(ids=frozenset(few))] if few else ways


def _ways(member: Member, wanted: Wanted, names: Names) -> list[Way]:
    """Every way in which what is asked for may be meant; all words have to be met."""
    words = wanted.words.lower().split()[:MOST_WORDS]
    machines_ = {pk for pk, name in names.machines.items() if any(word in name.lower() for word in words)}
    if wanted.machine_id is not None:
        machines_ = {wanted.machine_id}
    meant = [_meant(member, word, names, machines_) for word in words]
    if wanted.group:
        meant.append([Way(kind=kind) for kind in GROUPS[wanted.group][1]])
    if wanted.machine_id is not None and wanted.slot:
        meant.append(_of_places(member, [(wanted.machine_id, wanted.slot)]))
    if not meant:
        return [Way()]
    first, *rest = sorted(meant, key=lambda ways: (any(way.ids is None for way in ways), len(ways)))
    for others in rest:
        first = [both for way in first if (both := way.and_(others))]
    return first


def _meant(member: Member, word: str, names: Names, machines_: set[UUID]) -> list[Way]:
    """What one word may mean; of parts only those of the machines that are asked for, where some are."""
    subjects = [pk for pk, name in names.machines.items() if word in name.lower()]
    ways = [Way(Q(subject_id__in=subjects))] if len(subjects) > MANY else [Way(Q(subject_id=pk)) for pk in subjects]
    ways += [Way(Q(by_id=pk)) for pk, name in names.people.items() if word in name.lower()]
    ways += [Way(kind=kind) for kind in Kind if any(word in form for form in (kind, kind.label, VERBS.get(kind, "")))]
    if actions := [action for action, deed in DEEDS.items() if word in deed.done]:
        services = machines.Service.objects.of(member.household_id).filter(action__in=actions)
        ways += _of_details([services])
    places = [one for one in names.places_called(word) if not machines_ or one[0] in machines_]
    ways += _of_places(member, places, subjects)
    notes = machines.Note.objects.of(member.household_id).filter(text__icontains=word)
    ids = set(notes.values_list("pk", flat=True)[:MOST_NOTES])
    voids = Entry.objects.of(member.household_id).filter(kind=Kind.VOID, reason__icontains=word)
    ids |= set(voids.values_list("pk", flat=True)[:MOST_NOTES])
    if ids:
        ways.append(Way(ids=frozenset(ids)))
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
