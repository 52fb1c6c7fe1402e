"""Use cases of machines and their runs: each is one transaction and takes the member."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime, time, timedelta
from typing import cast
from uuid import UUID

from django.db import transaction

from care import items as core_items
from care import model as core
from care.book import load_book
from care.due.usage import Schedule
from care.errors import InvalidValue, require
from care.items import Move, MoveKind, Override
from server.config import clock
from server.config.problems import Conflict, NotFound
from server.household.models import Member
from server.household.services import require_writer, today_of, zone_of
from server.logbook.models import Entry
from server.logbook.services import Journal, standing
from server.machines import items, records
from server.machines.models import Item, Machine, Run, ScheduleVersion

AHEAD = timedelta(minutes=10)
"""How far a device's clock may be ahead of ours."""


@dataclass(frozen=True, slots=True)
class Spare:
    """A second part for a slot, to be named."""

    slot: str
    name: str


def machine_of(member: Member, machine_id: UUID) -> Machine:
    """The member's machine. Raises `NotFound`."""
    row: Machine = Machine.objects.one(member.household_id, machine_id, "machine")
    return row


def item_of(member: Member, item_id: UUID) -> Item:
    """The member's item. Raises `NotFound`."""
    row: Item = Item.objects.one(member.household_id, item_id, "part")
    return row


@transaction.atomic
def add_machine(
    *,
    member: Member,
    machine_id: UUID,
    name: str,
    archetype: str,
    schedule: Schedule | None,
    since: datetime | None = None,
    spares: Iterable[Spare] = (),
) -> Machine:
    """A machine of a kind of the book, all parts new and fitted at `since`. Raises `InvalidValue`, `Conflict`."""
    require_writer(member)
    kind = load_book().archetypes.get(archetype)
    if kind is None:
        known = ", ".join(sorted(load_book().archetypes))
        raise InvalidValue(f"archetype: {archetype!r} is not in the book", field="archetype", fix=f"Choose: {known}.")
    if Machine.everything.filter(pk=machine_id).exists():
        raise Conflict("id: this machine is there already", field="id", fix="Load the page again.")
    require(0 < len(name.strip()) <= 60, "name", repr(name), "a name of 1 to 60 characters")
    if Machine.objects.of(member.household_id).filter(name=name.strip()).exists():
        raise Conflict(f"name: there is a {name.strip()} already", field="name", fix="Give it a name of its own.")
    journal = Journal(member.household_id, by_id=member.pk)
    at = since or journal.entered_at
    entry = journal.write(Entry.Kind.MACHINE, at)
    machine = Machine.everything.create(
        id=machine_id, household_id=member.household_id, name=name.strip(), archetype=kind.key, set_up=entry
    )
    _write_schedule(journal, machine, schedule, kind.usual_run_min, at)
    _fit_new_parts(journal, machine, kind, at, list(spares))
    return cast(Machine, machine)


def _write_schedule(
    journal: Journal, machine: Machine, schedule: Schedule | None, usual_run_min: float, at: datetime
) -> None:
    entry = journal.write(Entry.Kind.SCHEDULE, at)
    ScheduleVersion.everything.create(
        entry=entry,
        household_id=machine.household_id,
        machine=machine,
        rule=schedule.rule if schedule else "",
        run_min=schedule.run_min if schedule else usual_run_min,
        starts=schedule.starts if schedule else None,
    )


def _fit_new_parts(
    journal: Journal, machine: Machine, kind: core.Archetype, at: datetime, spares: Sequence[Spare]
) -> None:
    moves: list[tuple[UUID, Move]] = []
    for slot in kind.slots:
        lettered = any(spare.slot == slot.key for spare in spares)
        item = items.create_item(
            machine, slot=slot.key, part=slot.part, name=f"{slot.name} A" if lettered else slot.name
        )
        moves += _new_part(item.pk, machine, slot.key, at)
    for spare in spares:
        item = items.create_item(machine, slot=spare.slot, part=kind.slot(spare.slot).part, name=spare.name)
        moves.append((item.pk, Move(MoveKind.SETTLE, at)))
    items.refresh(machine.household_id, items.write_moves(journal, moves))


def _new_part(item_id: UUID, machine: Machine, slot: str, at: datetime) -> list[tuple[UUID, Move]]:
    return [
        (item_id, Move(MoveKind.SETTLE, at)),
        (item_id, Move(MoveKind.FIT, at, machine_id=machine.pk, slot=slot)),
    ]


@transaction.atomic
def log_run(
    *,
    member: Member,
    run_id: UUID,
    machine_id: UUID,
    day: date | None = None,
    minutes: float,
    start: datetime | None = None,
    provenance: core.Provenance = core.Provenance.LOGGED,
) -> Entry:
    """A run of a machine, on a local day or from a known start. The same `run_id` again changes nothing.

    Raises `InvalidValue` for a run of no, negative or over 24 h length or in the future, `Conflict` when it overlaps
    an exact run.
    """
    require_writer(member)
    machine = machine_of(member, machine_id)
    known = Entry.objects.of(member.household_id).filter(pk=run_id).first()
    if known is not None:
        return cast(Entry, known)
    if Entry.everything.filter(pk=run_id).exists():
        raise NotFound("run: this id is not yours", field="id", fix="Log the run again.")
    require(0 < minutes <= 1440, "minutes", f"{minutes:g}", "more than 0 and at most 1440 minutes (24 h)")
    run_s = minutes * 60
    day, counts_at = _when(member, day, start, run_s)
    if start is not None:
        _refuse_overlap(member, machine, start, start + timedelta(seconds=run_s))
    source = Entry.Source.DEVICE if provenance is core.Provenance.MEASURED else Entry.Source.PERSON
    journal = Journal(member.household_id, by_id=member.pk, source=source)
    entry = journal.write(Entry.Kind.RUN, counts_at, entry_id=run_id)
    Run.everything.create(
        entry=entry,
        household_id=member.household_id,
        machine=machine,
        day=day,
        run_s=run_s,
        start=start,
        provenance=provenance,
    )
    return entry


def _when(member: Member, day: date | None, start: datetime | None, run_s: float) -> tuple[date, datetime]:
    """The local day of a run, and the instant from which it counts. Raises `InvalidValue` when that is to come."""
    now, zone, today = clock.now(), zone_of(member), today_of(member)
    if start is not None:
        require(start.tzinfo is not None, "start", start, "a time with its offset")
        end = start + timedelta(seconds=run_s)
        _refuse_future("start", end <= now + AHEAD)
        return start.astimezone(zone).date(), min(end, now)
    day = day or today
    _refuse_future("day", day <= (now + AHEAD).astimezone(zone).date())
    return day, now if day >= today else noon(day, member)


def _refuse_future(name: str, ok: bool) -> None:
    if not ok:
        raise InvalidValue(f"{name}: this run is in the future", field=name, fix="Log it when it is over.")


def local_time(member: Member, day: date | None, at: time) -> datetime:
    """A time of day of the household on a day, or today."""
    return datetime.combine(day or today_of(member), at, tzinfo=zone_of(member))


def noon(day: date, member: Member) -> datetime:
    """Local noon of a day: when something happened whose hour nobody knows."""
    return local_time(member, day, time(12))


def _refuse_overlap(member: Member, machine: Machine, start: datetime, end: datetime) -> None:
    near = standing(Run.objects.of(machine.household_id).filter(machine=machine, start__gt=start - timedelta(days=1)))
    for row in near.filter(start__lt=end):
        run = records.to_run(row)
        if run.start is not None and run.end is not None and run.end > start:
            began, ended = run.start.astimezone(zone_of(member)), run.end.astimezone(zone_of(member))
            raise Conflict(
                f"start: {machine.name} already ran from {began:%H:%M} to {ended:%H:%M} on that day",
                field="start",
                fix="Change the start or the minutes, or undo the other run.",
            )


@transaction.atomic
def already_done(
    *,
    member: Member,
    machine_id: UUID,
    slot_key: str,
    action: core.Action,
    day: date | None = None,
    found: core.Found | None = None,
) -> Entry:
    """A task done without a sheet, on a local day (today if none is given). Writes the records a sheet would write."""
    require_writer(member)
    machine = machine_of(member, machine_id)
    slot = records.archetype_of(machine).slot(slot_key)
    slot.rule(action)
    item = fitted_item(machine, slot)
    now, today = clock.now(), today_of(member)
    day = day or today
    if day > today:
        raise InvalidValue("day: this day is still to come", field="day", fix="Choose today or an earlier day.")
    at = now if day == today else noon(day, member)
    journal = Journal(member.household_id, by_id=member.pk)
    if found is not None:
        items.write_inspection(journal, item, slot=slot.key, about=action, found=found, at=at)
    entry = items.write_service(journal, item, slot=slot.key, action=action, at=at)
    items.refresh(member.household_id, items.write_moves(journal, _moves_done(machine, slot, item, action, at, now)))
    return entry


def fitted_item(machine: Machine, slot: core.Slot) -> Item:
    """What sits in a slot. Raises `Conflict` when it is empty."""
    row = Item.objects.of(machine.household_id).filter(machine=machine, slot=slot.key).first()
    if row is None:
        raise Conflict(f"slot: there is no {slot.part} in {machine.name}", field="slot", fix="Fit one first.")
    return cast(Item, row)


def _moves_done(
    machine: Machine, slot: core.Slot, item: Item, action: core.Action, at: datetime, now: datetime
) -> list[tuple[UUID, Move]]:
    """The moves that an action implies when nobody followed a sheet."""
    back = Move(MoveKind.FIT, at, machine_id=machine.pk, slot=slot.key)
    if not slot.removable:
        return [(item.pk, Move(MoveKind.CLEAN_IN_PLACE, at))]
    out = [(item.pk, Move(MoveKind.TAKE_OUT, at))]
    if action is core.Action.REPLACE:
        new = items.create_item(machine, slot=slot.key, part=slot.part, name=item.name)
        return [
            *out,
            (item.pk, Move(MoveKind.RETIRE, at, reason="replaced")),
            *_new_part(new.pk, machine, slot.key, at),
        ]
    if action is not core.Action.WASH:
        return [*out, (item.pk, Move(MoveKind.DRY_CLEAN, at)), (item.pk, back)]
    moves = [*out, (item.pk, Move(MoveKind.WASH, at, floor_h=slot.drying_floor_h)), (item.pk, Move(MoveKind.RACK, at))]
    dry_at = at + timedelta(hours=slot.drying_floor_h)
    if dry_at > now:
        return moves  # it is on the rack, and stays locked until its rest is over
    return [
        *moves,
        (item.pk, Move(MoveKind.RELEASE, dry_at)),
        (item.pk, Move(MoveKind.FIT, dry_at, machine_id=machine.pk, slot=slot.key)),
    ]


@transaction.atomic
def check_dry(*, member: Member, item_id: UUID, dry: bool) -> Entry:
    """The check of a part on the rack: dry and ready, or still damp and 12 h more. Raises `IllegalMove` too early."""
    require_writer(member)
    item = item_of(member, item_id)
    journal = Journal(member.household_id, by_id=member.pk)
    step = Move(MoveKind.RELEASE if dry else MoveKind.STILL_DAMP, journal.entered_at)
    items.refresh(member.household_id, items.write_moves(journal, [(item.pk, step)]))
    return _entry_of(journal)


def _entry_of(journal: Journal) -> Entry:
    """The one entry that an action wrote."""
    return cast(Entry, Entry.objects.of(journal.household_id).get(action_id=journal.action_id))


@transaction.atomic
def fit_item(*, member: Member, item_id: UUID, early_reason: str = "") -> Entry:
    """Put a part back into its empty slot. Before it is dry only with a reason, which stays on record."""
    require_writer(member)
    item = item_of(member, item_id)
    override = Override(member.name, early_reason.strip()) if early_reason.strip() else None
    journal = Journal(member.household_id, by_id=member.pk)
    step = Move(
        MoveKind.FIT, journal.entered_at, machine_id=item.home_machine_id, slot=item.home_slot, override=override
    )
    items.refresh(member.household_id, items.write_moves(journal, [(item.pk, step)]))
    return _entry_of(journal)


@dataclass(slots=True)
class SheetRecords:
    """What a sitting at the bench leaves behind: moves, actions, findings, and new parts (id, slot, name)."""

    moves: list[tuple[UUID, Move]] = field(default_factory=list)
    services: list[tuple[UUID, str, core.Action, datetime]] = field(default_factory=list)
    inspections: list[tuple[UUID, str, core.Action, core.Found, datetime]] = field(default_factory=list)
    new_parts: list[tuple[UUID, str, str, datetime]] = field(default_factory=list)


def record_sheet(*, member: Member, machine_id: UUID, sheet_id: UUID, what: SheetRecords) -> UUID:
    """Write the records of a sitting, inside the caller's transaction; returns the action to undo."""
    machine = machine_of(member, machine_id)
    kind = records.archetype_of(machine)
    journal = Journal(member.household_id, by_id=member.pk, source=Entry.Source.SHEET)
    for item_id, slot, name, _ in what.new_parts:
        items.create_item(machine, slot=slot, part=kind.slot(slot).part, name=name, item_id=item_id)
    rows = {row.pk: row for row in Item.objects.of(member.household_id).filter(home_machine=machine)}
    for item_id, slot, about, found, at in what.inspections:
        items.write_inspection(journal, rows[item_id], slot=slot, about=about, found=found, at=at, sheet_id=sheet_id)
    for item_id, slot, action, at in what.services:
        items.write_service(journal, rows[item_id], slot=slot, action=action, at=at, sheet_id=sheet_id)
    settled = [(item_id, Move(MoveKind.SETTLE, at)) for item_id, _, _, at in what.new_parts]
    items.refresh(member.household_id, items.write_moves(journal, [*settled, *what.moves]))
    return journal.action_id


def last_moved(member: Member, item_id: UUID) -> datetime | None:
    """When the records last moved an item; None for one that is not on record."""
    row = Item.objects.of(member.household_id).filter(pk=item_id).first()
    return cast(Item, row).moved_at if row else None


def spare_for(machine: Machine, slot: str) -> core_items.Item | None:
    """A dry part meant for `slot` that lies ready, the one with the fewest washes."""
    ready = Item.objects.of(machine.household_id).filter(home_machine=machine, home_slot=slot, state="ready")
    row = ready.order_by("wash_count", "name").first()
    return records.to_item(row) if row else None
