"""An action in one line: its machines, and what was done there, made of few of its records."""

from collections import Counter, defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any
from uuid import UUID

from django.db.models import Case, Count, Exists, OuterRef, QuerySet, Value, When, Window
from django.db.models.functions import RowNumber

from server.bench.sheets import sheets_of_actions
from server.document.kinds import Record
from server.document.taking_out import HEADER, records_of
from server.household.models import Member
from server.household.services import zone_of
from server.log.finding import Found, Wanted
from server.log.names import Names
from server.log.words import machine_of, words_of
from server.logbook.models import Entry
from server.logbook.scoping import by_ids

Kind = Entry.Kind
Recorded = tuple[dict[str, Any], Record]
"""An entry, and what it tells."""
READ = 6
"""So many records of an action are read for its line; of the others it is counted of what kind they are, and where."""
SHOWN = 4
"""So many records, and machines, of an action stand in its line."""
QUIET = (Kind.MOVE, Kind.CHECK, Kind.HUNG, Kind.WEIGHT)
"""What goes with something else that was done: told alone only where there is nothing else."""


@dataclass(frozen=True, slots=True)
class LogLine:
    """An action: what one person did in one go, in `count` records. `undone_by`, `reason`: where it was taken back."""

    entry_id: UUID
    at: datetime
    day: date
    by: str
    words: str
    count: int
    sheet_id: UUID | None
    correction: bool
    undone_by: str | None
    reason: str


def lines(member: Member, wanted: Wanted, names: Names, heads: Sequence[Found]) -> Iterator[LogLine]:
    """A line for the action of each of these records."""
    actions = [head.action_id for head in heads]
    rows = of_actions(member, actions, undone=wanted.undone)
    counts, read = _counts(rows), _first_of_each(member, rows, heads)
    sheets = sheets_of_actions(member.household_id, actions)
    voids = _voids(member, heads)
    for head in heads:
        some, count = read[head.action_id], counts[head.action_id]
        entry, record = next(one for one in some if one[0]["pk"] == head.entry_id)
        undone_by, reason = voids.get(head.entry_id, (None, ""))
        yield LogLine(
            entry_id=head.entry_id,
            at=head.at,
            day=day_of(member, entry, record),
            by=names.people.get(entry["by_id"], ""),
            words=_summary(some, count, names, sitting=head.action_id in sheets),
            count=count.total(),
            sheet_id=sheets.get(head.action_id),
            correction=entry["kind"] == Kind.VOID,
            undone_by=undone_by,
            reason=reason,
        )


def of_actions(member: Member, actions: Sequence[UUID], *, undone: bool) -> QuerySet[Entry]:
    """The records of these actions; `undone`: also those that were taken back, and what took them back."""
    rows: QuerySet[Entry] = Entry.objects.of(member.household_id).filter(action_id__in=actions)
    # Not `voided_by=None`: with that join, and one action alone, SQLite groups all of the household's records.
    voids = Entry.objects.of(member.household_id).filter(voids=OuterRef("pk"))
    return rows if undone else rows.exclude(kind=Kind.VOID).exclude(Exists(voids))


def read_in_order(household_id: UUID, entries: Sequence[dict[str, Any]]) -> list[Recorded]:
    """Entries with what they tell, in their order."""
    return list(zip(entries, records_of(household_id, list(entries)), strict=True))


def day_of(member: Member, entry: Mapping[str, Any], record: Any) -> date:
    """The day that a record is about: of a run the day on which it counts."""
    day: date = record.day if record.what == "run" else entry["happened_at"].astimezone(zone_of(member)).date()
    return day


def _counts(rows: QuerySet[Entry]) -> dict[UUID, Counter[tuple[str, UUID]]]:
    """How many records of each kind, about each machine, every action has."""
    counts: dict[UUID, Counter[tuple[str, UUID]]] = defaultdict(Counter)
    grouped = rows.values_list("action_id", "kind", "subject_id").annotate(Count("pk")).order_by()
    for action_id, kind, subject_id, count in grouped:
        counts[action_id][kind, subject_id] = count
    return counts


def _first_of_each(member: Member, rows: QuerySet[Entry], heads: Sequence[Found]) -> dict[UUID, list[Recorded]]:
    """The head of each action, that it was brought in, and its first records, rather those that are not quiet."""
    weight = Case(When(kind=Kind.IMPORT, then=Value(0)), When(kind__in=QUIET, then=Value(2)), default=Value(1))
    place = Window(RowNumber(), partition_by="action_id", order_by=[weight, "sequence"])
    first = rows.annotate(place=place).filter(place__lte=READ).values(*HEADER)
    found = {entry["pk"]: entry for entry in first}
    left = [head.entry_id for head in heads if head.entry_id not in found]
    for some in by_ids(rows, left):
        found |= {entry["pk"]: entry for entry in some.values(*HEADER)}
    read: dict[UUID, list[Recorded]] = defaultdict(list)
    for one in read_in_order(member.household_id, sorted(found.values(), key=lambda entry: entry["sequence"])):
        read[one[0]["action_id"]].append(one)
    return read


def _summary(some: Sequence[Recorded], counts: Counter[tuple[str, UUID]], names: Names, *, sitting: bool) -> str:
    """The machines of an action, and what was done there."""
    brought = next((record for entry, record in some if entry["kind"] == Kind.IMPORT), None)
    if brought:
        return words_of(brought, names)
    loud = {kind for kind, _ in counts if kind not in QUIET} or {kind for kind, _ in counts}
    records = [record for entry, record in some if entry["kind"] in loud]
    said = Counter(words_of(record, names) for record in records)
    more = sum(count for (kind, _), count in counts.items() if kind in loud) - sum(list(said.values())[:SHOWN])
    where = dict.fromkeys(machine_of(record, names) for record in records)
    where |= dict.fromkeys(names.machine(about) for kind, about in counts if kind in loud)
    at = _short([name for name in where if name])
    return f"{'Sitting at ' if sitting else ''}{f'{at}: ' if at else ''}{_short(list(said), more)}"


def _short(some: Sequence[str], more: int | None = None) -> str:
    """The first of some things; `more`: how many there are beside them, of which not all are known."""
    more = max(0, len(some) - SHOWN) if more is None else more
    return ", ".join(some[:SHOWN]) + (f", and {more} more" if more else "")


def _voids(member: Member, heads: Sequence[Found]) -> dict[UUID, tuple[str, str]]:
    """By whom, and why, records were taken back."""
    ids = [head.entry_id for head in heads]
    rows = Entry.objects.of(member.household_id).filter(pk__in=ids).exclude(voided_by=None)
    by_whom = rows.values_list("pk", "voided_by__by__name", "voided_by__reason")
    return {pk: (by or "somebody", reason) for pk, by, reason in by_whom}
