"""The Log: pages of lines, the records that a line opens on, and all of it as a table."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date
from itertools import islice
from uuid import UUID

from server.document.taking_out import HEADER
from server.household.models import Member
from server.log.finding import Place, Wanted, found, heads
from server.log.lines import LogLine, Recorded, day_of, lines, of_actions, read_in_order
from server.log.names import Names
from server.log.words import machine_of, words_of
from server.logbook.models import Entry
from server.logbook.scoping import by_ids

PAGE = 40
OPENED = 200
"""So many records of one action are told; of more it is told how many."""
AT_ONCE = 500
"""So many records are in hand at a time."""


@dataclass(frozen=True, slots=True)
class LogRecord:
    """One record of an action."""

    entry_id: UUID
    machine: str
    words: str
    day: date
    by: str


@dataclass(frozen=True, slots=True)
class Opened:
    """The records of an action in the order of entering; of more than can be read, how many there are."""

    records: tuple[LogRecord, ...]
    count: int


@dataclass(frozen=True, slots=True)
class Page:
    """Lines of the Log, and where the next page begins; None: there is none."""

    lines: tuple[LogLine, ...]
    next: Place | None


def page(member: Member, wanted: Wanted, before: Place | None = None) -> Page:
    """What is asked for, the newest first."""
    names = Names(member.household_id)
    some = heads(member, wanted, names, before, PAGE + 1)
    last = some[PAGE - 1] if len(some) > PAGE else None
    next_ = Place(last.at, last.sequence) if last else None
    return Page(tuple(lines(member, wanted, names, some[:PAGE])), next_)


def opened(member: Member, entry_id: UUID) -> Opened:
    """What was recorded together with this; of what was taken back, all that was. Raises `NotFound`."""
    entry: Entry = Entry.objects.one(member.household_id, entry_id, "record")
    gone = entry.kind == Entry.Kind.VOID or Entry.objects.of(member.household_id).filter(voids=entry).exists()
    rows = of_actions(member, [entry.action_id], undone=gone)
    some = read_in_order(member.household_id, list(rows.order_by("sequence").values(*HEADER)[:OPENED]))
    names = Names(member.household_id)
    return Opened(tuple(_record(member, names, one) for one in some), rows.count())


def every(member: Member, wanted: Wanted) -> Iterator[LogRecord]:
    """Every record that is asked for, the newest first, for tables and paper."""
    names = Names(member.household_id)
    records, entries = found(member, wanted, names), Entry.objects.of(member.household_id)
    while ids := [one.entry_id for one in islice(records, AT_ONCE)]:
        rows = {row["pk"]: row for some in by_ids(entries, ids) for row in some.values(*HEADER)}
        for one in read_in_order(member.household_id, [rows[pk] for pk in ids if pk in rows]):
            yield _record(member, names, one)


def _record(member: Member, names: Names, one: Recorded) -> LogRecord:
    entry, record = one
    by = names.people.get(entry["by_id"], "")
    return LogRecord(entry["pk"], machine_of(record, names), words_of(record, names), day_of(member, entry, record), by)
