"""The Log, a page at a time: a line for each action, which opens on its records."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, datetime
from itertools import islice
from typing import Any
from uuid import UUID

from django.db.models import Count, QuerySet

from server.bench.sheets import sheets_of_actions
from server.document.kinds import Record
from server.document.taking_out import HEADER, RECORDS, told
from server.household.models import Member
from server.household.services import zone_of
from server.log.finding import Found, Place, Wanted, found, heads
from server.log.names import Names
from server.log.words import machine_of, words_of
from server.logbook.models import Entry
from server.logbook.scoping import by_ids

PAGE = 40
OPENED = 30
"""So many records of one action are told; of more it is told how many."""
QUIET = {"move", "dry_check", "hung", "weight"}
"""What goes with something else that was done: told alone only where there is nothing else."""
SHOWN = 4
"""So many records of an action stand in its line."""


@dataclass(frozen=True, slots=True)
class LogRecord:
    """One record of an action."""

    entry_id: UUID
    machine: str
    words: str
    day: date
    by: str


@dataclass(frozen=True, slots=True)
class LogLine:
    """An action: what one person did in one go. `undone_by`, `reason`: where it was taken back."""

    entry_id: UUID
    at: datetime
    day: date
    by: str
    words: str
    records: tuple[LogRecord, ...]
    count: int
    sheet_id: UUID | None
    correction: bool
    undone_by: str | None
    reason: str


@dataclass(frozen=True, slots=True)
class Page:
    """Lines of the Log, and where the next page begins; None: there is none."""

    lines: tuple[LogLine, ...]
    next: Place | None


def page(member: Member, wanted: Wanted, before: Place | None = None) -> Page:
    """What is asked for, the newest first."""
    names = Names(member.household_id)
    some = heads(member, wanted, names, before, PAGE + 1)
    lines = tuple(_lines(member, wanted, names, some[:PAGE]))
    last = some[PAGE - 1] if len(some) > PAGE else None
    return Page(lines, Place(last.at, last.sequence) if last else None)


def every(member: Member, wanted: Wanted) -> Iterator[LogRecord]:
    """Every record that is asked for, the newest first, for tables and paper."""
    names = Names(member.household_id)
    records = found(member, wanted, names)
    while some := [one.entry_id for one in islice(records, AT_ONCE)]:
        for entry, record in _told(member, some):
            yield _record(member, names, entry, record)


AT_ONCE = 500
"""So many records are in hand at a time."""


def _told(member: Member, ids: list[UUID]) -> list[tuple[dict[str, Any], Record]]:
    """Entries with what they tell, in the order of their ids."""
    every_one = Entry.objects.of(member.household_id)
    rows = {row["pk"]: row for some in by_ids(every_one, ids) for row in some.values(*HEADER)}
    entries = [rows[pk] for pk in ids if pk in rows]
    return list(zip(entries, RECORDS.validate_python(told(member.household_id, entries)), strict=True))


def _lines(member: Member, wanted: Wanted, names: Names, some: list[Found]) -> Iterator[LogLine]:
    actions = [one.action_id for one in some]
    rows = Entry.objects.of(member.household_id).filter(action_id__in=actions)
    if not wanted.undone:
        rows = rows.filter(voided_by=None).exclude(kind=Entry.Kind.VOID)
    counts = dict(rows.values_list("action_id").annotate(Count("pk")).order_by())
    by_action = _by_action(member, rows, some, counts)
    sheets = sheets_of_actions(member.household_id, actions)
    voids = _voids(member, [one.entry_id for one in some])
    for head in some:
        told_ = by_action[head.action_id]
        entry, record = next(one for one in told_ if one[0]["pk"] == head.entry_id)
        of = [one for _, one in told_]
        undone_by, reason = voids.get(head.entry_id, (None, ""))
        yield LogLine(
            entry_id=head.entry_id,
            at=head.at,
            day=_record(member, names, entry, record).day,
            by=names.people.get(entry["by_id"], ""),
            words=_summary(of, names, sitting=head.action_id in sheets),
            records=tuple(_record(member, names, *one) for one in told_),
            count=counts[head.action_id],
            sheet_id=sheets.get(head.action_id),
            correction=entry["kind"] == Entry.Kind.VOID,
            undone_by=undone_by,
            reason=reason,
        )


def _by_action(
    member: Member, rows: QuerySet[Entry], some: list[Found], counts: dict[UUID, int]
) -> dict[UUID, list[tuple[dict[str, Any], Record]]]:
    """What the records of each action tell, in the order of entering; of a large one its newest and the first."""
    small = [one.action_id for one in some if counts[one.action_id] <= OPENED]
    ids = set(rows.filter(action_id__in=small).values_list("pk", flat=True))
    for one in some:
        if counts[one.action_id] > OPENED:
            large = rows.filter(action_id=one.action_id).order_by("sequence").values_list("pk", flat=True)
            ids |= {one.entry_id, *large[:OPENED]}
    found_: dict[UUID, list[tuple[dict[str, Any], Record]]] = {}
    for entry, record in sorted(_told(member, list(ids)), key=lambda told_: told_[0]["sequence"]):
        found_.setdefault(entry["action_id"], []).append((entry, record))
    return found_


def _record(member: Member, names: Names, entry: dict[str, Any], record: Record) -> LogRecord:
    day = entry["happened_at"].astimezone(zone_of(member)).date()
    if record.what == "run":  # type: ignore[attr-defined]
        day = record.day  # type: ignore[attr-defined]
    by = names.people.get(entry["by_id"], "")
    return LogRecord(entry["pk"], machine_of(record, names), words_of(record, names), day, by)


def _summary(records: list[Record], names: Names, *, sitting: bool) -> str:
    """A line for an action: its machines, and what was done there."""
    brought = [one for one in records if one.what == "import"]  # type: ignore[attr-defined]
    if brought:
        return words_of(brought[0], names)
    loud = [one for one in records if one.what not in QUIET] or records  # type: ignore[attr-defined]
    machines = list(dict.fromkeys(name for one in loud if (name := machine_of(one, names))))
    said = list(dict.fromkeys(words_of(one, names) for one in loud))
    more = f", and {len(said) - SHOWN} more" if len(said) > SHOWN else ""
    where = f"{', '.join(machines)}: " if machines else ""
    return f"{'Sitting at ' if sitting else ''}{where}{', '.join(said[:SHOWN])}{more}"


def _voids(member: Member, ids: list[UUID]) -> dict[UUID, tuple[str, str]]:
    """By whom, and why, records were taken back."""
    rows = Entry.objects.of(member.household_id).filter(pk__in=ids).exclude(voided_by=None)
    told_ = rows.values_list("pk", "voided_by__by__name", "voided_by__reason")
    return {pk: (by or "somebody", reason) for pk, by, reason in told_}
