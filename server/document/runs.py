"""Runs of a household from a table, all of them or none; and as a table to take away."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from django.db import transaction
from django.dispatch import receiver

from care.due.runs_table import RunLine, read_runs
from care.tables import all_good
from server.base.problems import Conflict
from server.document.models import Import
from server.household.models import Member
from server.household.services import journal_by, require_writer, zone_of
from server.logbook.models import Entry
from server.logbook.services import as_one_action, standing
from server.logbook.signals import voided
from server.machines.models import Machine, Run
from server.use.services import log_run


@dataclass(frozen=True, slots=True)
class RunsBrought:
    """What a table of runs brings: how many of each machine, how many are here already; the entry that undoes it."""

    added: dict[str, int]
    known: int
    entry: Entry | None


@dataclass(frozen=True, slots=True)
class RunRow:
    """A run as a line of a table: minutes, local day and time."""

    machine: str
    day: str
    minutes: float
    started: str
    mopped: str
    id: str


def look_at_runs(*, member: Member, data: bytes) -> RunsBrought:
    """What a table would bring; nothing is kept. Raises as `bring_runs`."""
    with transaction.atomic():
        brought = bring_runs(member=member, data=data, name="")
        transaction.set_rollback(True)
    return brought


@transaction.atomic
def bring_runs(*, member: Member, data: bytes, name: str) -> RunsBrought:
    """Log every run of a table as one action. Raises `BadLines` with what is wrong at which line; then none counts."""
    require_writer(member)
    names = dict(Machine.objects.of(member.household_id).values_list("name", "pk"))
    before = set(Run.objects.of(member.household_id).values_list("pk", flat=True))
    entries: dict[UUID, Entry] = {}
    added = dict.fromkeys(names, 0)

    def log(line: int, run: RunLine) -> None:
        with transaction.atomic():
            entry = _log(member, names[run.machine], run)
        if entry.pk not in before:
            entries[entry.pk] = entry
            added[run.machine] += 1

    runs = read_runs(data, member.household_id, names)
    all_good(((run.line, run) for run in runs), log)
    imported = journal_by(member).tell(Import, name=name, added=len(entries)) if entries else None
    if imported is not None:
        as_one_action([imported, *entries.values()])
    return RunsBrought({name: n for name, n in added.items() if n}, len(runs) - len(entries), imported)


def _log(member: Member, machine_id: UUID, run: RunLine) -> Entry:
    start = datetime.combine(run.day, run.started, tzinfo=zone_of(member)) if run.started else None
    fields: dict[str, Any] = {"run_id": run.id, "machine_id": machine_id, "minutes": run.minutes, "mopped": run.mopped}
    return log_run(member=member, day=run.day, start=start, part_was_out=True, **fields)


def runs_table(member: Member) -> Iterator[RunRow]:
    """All runs that count, the first one first."""
    zone = zone_of(member)
    for run in standing(Run.objects.of(member.household_id).select_related("machine")):
        started = run.start.astimezone(zone).strftime("%H:%M") if run.start else ""
        mopped = "yes" if run.mopped else "no"
        yield RunRow(run.machine.name, run.day.isoformat(), round(run.run_s / 60, 2), started, mopped, str(run.pk))


@receiver(voided)
def _stays(household_id: UUID, action: list[Entry], **_: object) -> None:
    """Runs of a table go back with it; what came with a document stays, record by record."""
    if {entry.kind for entry in action} == {Entry.Kind.IMPORT}:
        raise Conflict(
            "What came in with a document stays.",
            field="id",
            fix="Take back single records of it where they are wrong.",
        )
