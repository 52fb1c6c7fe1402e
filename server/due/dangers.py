"""Dangers: a machine of which somebody told one is out of use, everywhere, until somebody records that it is over."""

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime, tzinfo
from uuid import UUID

from django.db import transaction
from django.db.models import Q

from care.book import load_book
from care.content import Danger
from care.errors import require
from care.model import Rest, Why
from server.base.problems import Conflict
from server.household.models import Member
from server.household.services import journal_by, require_writer
from server.logbook.models import Entry
from server.logbook.services import standing
from server.machines.models import DangerRecord, Machine
from server.machines.services import machine_of


@dataclass(frozen=True, slots=True)
class ActiveDanger:
    """A danger that is not over: what the book says of it, since when, who told."""

    danger: Danger
    since: datetime
    by: str
    entry_id: UUID


DangerSpan = tuple[DangerRecord, DangerRecord | None]
"""A danger: the record that told of it first, and the one that ended it, if one did."""


@transaction.atomic
def tell(*, member: Member, machine_id: UUID, danger: str, action_id: UUID | None = None) -> Entry:
    """A danger that somebody found at a machine: out of use from now on. Raises `InvalidValue` for another key.

    Told again while it stands it is the same one, so that taking it back takes it all back; as part of an action it is
    undone with that.
    """
    machine = machine_of(member, machine_id)
    for one in dangers_of(member.household_id, [machine.pk])[machine.pk]:
        if one.danger.key == danger:
            require_writer(member)
            entry: Entry = Entry.objects.of(member.household_id).get(pk=one.entry_id)
            return entry
    return _record(member, machine_id, danger, over=False, action_id=action_id)


@transaction.atomic
def is_over(*, member: Member, machine_id: UUID, danger: str) -> Entry:
    """What the book says ends a danger was done; the machine is in use again where no other stands.

    Raises `Conflict` where that danger does not stand.
    """
    machine = machine_of(member, machine_id)
    if danger not in {one.danger.key for one in dangers_of(member.household_id, [machine.pk])[machine.pk]}:
        raise Conflict(f"danger: {machine.name} is not out of use for that", field="danger", fix="Load the page again.")
    return _record(member, machine_id, danger, over=True)


def _record(member: Member, machine_id: UUID, danger: str, *, over: bool, action_id: UUID | None = None) -> Entry:
    require_writer(member)
    book = load_book()
    require(danger in book.dangers, "danger", repr(danger), "one of " + ", ".join(book.dangers))
    machine = machine_of(member, machine_id)
    journal = journal_by(member, machine.pk, action_id=action_id)
    return journal.tell(DangerRecord, machine=machine, danger=danger, over=over)


def put_right_since(member: Member, machine_id: UUID, danger: str, at: datetime) -> bool:
    """Whether somebody recorded, after an instant, that this danger of a machine is over."""
    ended = DangerRecord.objects.of(member.household_id).filter(machine_id=machine_id, danger=danger, over=True)
    return standing(ended.filter(entry__happened_at__gte=at)).exists()


def dangers_of(household_id: UUID, machine_ids: Iterable[UUID]) -> dict[UUID, list[ActiveDanger]]:
    """The dangers that stand, by machine, the first told first."""
    return standing_of(spans_of(household_id, machine_ids))


def standing_of(dangers: Iterable[DangerSpan]) -> dict[UUID, list[ActiveDanger]]:
    """Those of these dangers that stand, by machine, the first told first."""
    book, found = load_book(), defaultdict[UUID, list[ActiveDanger]](list)
    for record, over in dangers:
        if over is None:
            by = record.entry.by.name if record.entry.by else ""
            found[record.machine_id].append(
                ActiveDanger(book.dangers[record.danger], record.entry.happened_at, by, record.entry_id)
            )
    return found


def dangers_beside(household_id: UUID, machine_ids: Iterable[UUID]) -> list[tuple[str, ActiveDanger]]:
    """The dangers at docks and robots that belong to these machines and are none of them, with their names."""
    ids = list(machine_ids)
    every = Machine.objects.of(household_id).filter(status=Machine.Status.IN_USE)
    near = every.filter(Q(serves__in=ids) | Q(docks__in=ids)).exclude(pk__in=ids).order_by("name").distinct()
    names = dict(near.values_list("pk", "name"))
    found = dangers_of(household_id, names)
    return [(name, one) for pk, name in names.items() for one in found.get(pk, ())]


def days_out_of_use(dangers: Iterable[DangerSpan], zone: tzinfo) -> dict[UUID, list[Rest]]:
    """The days on which machines did not run for these dangers, by machine: silence then stands for no run."""
    found = defaultdict[UUID, list[Rest]](list)
    for record, over in dangers:
        first = record.entry.happened_at.astimezone(zone).date()
        last = over.entry.happened_at.astimezone(zone).date() if over else None
        found[record.machine_id].append(Rest(Why.PAUSED, first, last))
    return found


def spans_of(household_id: UUID, machine_ids: Iterable[UUID]) -> list[DangerSpan]:
    """Each danger that was told of these machines, the first told first."""
    rows = standing(DangerRecord.objects.of(household_id).filter(machine__in=list(machine_ids)))
    spans: list[DangerSpan] = []
    for row in rows.select_related("entry__by"):
        mine = [n for n, (first, over) in enumerate(spans) if over is None and _same(first, row)]
        if row.over and mine:
            spans[mine[0]] = (spans[mine[0]][0], row)
        elif not row.over and not mine:
            spans.append((row, None))
    return spans


def _same(one: DangerRecord, other: DangerRecord) -> bool:
    return (one.machine_id, one.danger) == (other.machine_id, other.danger)


def refuse_in_danger(member: Member, machines: Iterable[Machine], field: str = "machine_id") -> None:
    """Refuse anything for which a machine is used or worked on while a danger stands. Raises `Conflict`."""
    rows = list(machines)
    found = dangers_of(member.household_id, [row.pk for row in rows])
    for row in rows:
        for one in found.get(row.pk, ()):
            raise Conflict(
                f"{field}: {row.name} is out of use: {one.danger.name}",
                field=field,
                fix=f"{one.danger.now} {one.danger.who} Then record: {one.danger.over}.",
            )
