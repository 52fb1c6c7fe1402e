"""Writing moves, services and inspections of items, and keeping their derived state equal to the replay."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime
from uuid import UUID, uuid4
from zoneinfo import ZoneInfo

from django.db.models import Q
from django.dispatch import receiver

from care import items as core_items
from care import moves as core_moves
from care.errors import IllegalMove
from care.vocabulary import Action, Found
from server.base.problems import Conflict
from server.household.models import Household
from server.logbook.models import Entry
from server.logbook.services import Journal, standing
from server.logbook.signals import voided
from server.machines import models, records
from server.machines.signals import renewed


@dataclass(frozen=True, slots=True)
class NewPart:
    """A new part that went into its place, when."""

    item_id: UUID
    machine_id: UUID
    slot: str
    at: datetime


def tell_renewed(journal: Journal, item_ids: Iterable[UUID], at: datetime) -> None:
    """Tell of new parts in their places: the last thing of an action, since others write entries of their own."""
    for row in models.Item.objects.of(journal.household_id).filter(pk__in=list(item_ids)).order_by("home_slot"):
        part = NewPart(row.pk, row.home_machine_id, row.home_slot, at)
        renewed.send(sender=NewPart, journal=journal, part=part)


def create_item(
    machine: models.Machine, *, slot: str, part: str, name: str, item_id: UUID | None = None
) -> models.Item:
    """A new part meant for `slot` of `machine`, its whereabouts unknown yet."""
    row: models.Item = models.Item.everything.create(
        id=item_id or uuid4(),
        household_id=machine.household_id,
        part=part,
        name=name,
        home_machine=machine,
        home_slot=slot,
        first_machine=machine,
        first_slot=slot,
    )
    return row


def write_moves(journal: Journal, moves: Iterable[tuple[UUID, core_items.Move]]) -> list[Entry]:
    """Entries and details of `moves` (item id, move). `refresh` must follow."""
    made = list(moves)
    entries = journal.write_all(Entry.Kind.MOVE, (move.at for _, move in made))
    models.Move.everything.bulk_create(
        records.from_move(entry.pk, journal.household_id, item_id, move)
        for entry, (item_id, move) in zip(entries, made, strict=True)
    )
    return entries


def write_service(
    journal: Journal, item: models.Item, *, slot: str, action: Action, at: datetime, sheet_id: UUID | None = None
) -> Entry:
    """An action done to an item that belongs to its home machine."""
    return journal.tell(
        models.Service, at, machine_id=item.home_machine_id, slot=slot, item=item, action=action, sheet_id=sheet_id
    )


def write_inspection(
    journal: Journal,
    item: models.Item,
    *,
    slot: str,
    about: Action,
    found: Found,
    at: datetime,
    sheet_id: UUID | None = None,
) -> Entry:
    """What was found on an item."""
    return journal.tell(
        models.Inspection,
        at,
        machine_id=item.home_machine_id,
        slot=slot,
        item=item,
        about=about,
        found=found,
        sheet_id=sheet_id,
    )


def item_row(household_id: UUID, item_id: UUID) -> models.Item:
    """The row of an item that is known to be there."""
    row: models.Item = models.Item.objects.of(household_id).get(pk=item_id)
    return row


def record_moves(journal: Journal, moves: Iterable[tuple[UUID, core_items.Move]]) -> list[Entry]:
    """Write `moves` (item id, move) and what follows from them; gives their entries.

    Raises `IllegalMove`; nothing is then written.

    What comes after an item's last move goes on from its stored state; a move into the past replays them all.
    """
    made = list(moves)
    by_item: dict[UUID, list[core_items.Move]] = {}
    for item_id, move in made:
        by_item.setdefault(item_id, []).append(move)
    rows = list(models.Item.objects.of(journal.household_id).filter(pk__in=list(by_item)))
    entries = write_moves(journal, made)
    if any(row.moved_at is not None and row.moved_at > min(m.at for m in by_item[row.pk]) for row in rows):
        refresh(journal.household_id, by_item)
        return entries
    fittings = [fitting for row in rows for fitting in _go_on(row, by_item[row.pk])]
    _check_slots(journal.household_id, fittings)
    models.Fitting.everything.bulk_create(records.from_fitting(journal.household_id, f) for f in fittings)
    return entries


def _go_on(row: models.Item, moves: Sequence[core_items.Move]) -> list[core_items.Fitting]:
    """Carry an item's row on from where it stands; gives the fittings that are new."""
    before, steps = records.to_item(row), sorted(moves, key=lambda move: move.at)
    item, ended, fittings = core_moves.carry_on(before, steps)
    if ended is not None:
        models.Fitting.objects.of(row.household_id).filter(item=row, end=None).update(end=ended)
    if item != before or any(step.kind is core_items.MoveKind.ASSIGN for step in steps):
        _put(row, item, steps)
    return list(fittings)


def _put(row: models.Item, item: core_items.Item, moves: Sequence[core_items.Move]) -> None:
    """Store an item's state. It belongs where it was last fitted or meant for; else where it was bought for."""
    records.put_state(row, item)
    homes = [m for m in moves if m.kind in (core_items.MoveKind.FIT, core_items.MoveKind.ASSIGN)]
    if homes:
        row.home_machine_id, row.home_slot = homes[-1].machine_id or row.home_machine_id, homes[-1].slot or ""
    row.save()


def refresh(household_id: UUID, item_ids: Iterable[UUID]) -> None:
    """Replay the standing moves of the items and store what follows. Raises `IllegalMove` when they cannot stand."""
    rows = list(models.Item.objects.of(household_id).filter(pk__in=set(item_ids)))
    models.Fitting.objects.of(household_id).filter(item__in=rows).delete()
    made: list[core_items.Fitting] = []
    for row in rows:
        moves = [records.to_move(m) for m in standing(models.Move.objects.of(household_id).filter(item=row))]
        item, fittings = core_moves.replay(records.new_item(row), moves)
        row.home_machine_id, row.home_slot = (
            row.first_machine_id or row.home_machine_id,
            row.first_slot or row.home_slot,
        )
        _put(row, item, moves)
        made.extend(fittings)
    _check_slots(household_id, made)
    models.Fitting.everything.bulk_create([records.from_fitting(household_id, f) for f in made])


def _check_slots(household_id: UUID, made: Sequence[core_items.Fitting]) -> None:
    """What the new fittings could clash with: those of the same slots that had not ended before them."""
    if not made:
        return
    since = min(f.start for f in made)
    kept = models.Fitting.objects.of(household_id).filter(
        Q(end=None) | Q(end__gt=since),
        machine_id__in={f.machine_id for f in made},
        slot__in={f.slot for f in made},
    )
    fittings = [*(records.to_fitting(row) for row in kept), *made]
    items = models.Item.objects.of(household_id).filter(pk__in={f.item_id for f in fittings})
    core_items.check_slots(fittings, dict(items.values_list("pk", "name")))


@receiver(voided)
def _refresh_after_void(household_id: UUID, action: list[Entry], **_: object) -> None:
    if any(entry.kind == Entry.Kind.MACHINE for entry in action):
        raise Conflict("a machine that was set up stays", field="id", fix="Change its name, or leave it unused.")
    moved = set(models.Move.objects.of(household_id).filter(entry__in=action).values_list("item_id", flat=True))
    try:
        refresh(household_id, moved)
    except IllegalMove as error:
        raise _needed(household_id, moved) or error from error


DOING = {
    core_items.MoveKind.TAKE_OUT: "taking out", core_items.MoveKind.WASH: "washing",
    core_items.MoveKind.DRY_CLEAN: "cleaning", core_items.MoveKind.CLEAN_IN_PLACE: "cleaning",
    core_items.MoveKind.RACK: "hanging up", core_items.MoveKind.REST: "hanging up",
    core_items.MoveKind.STILL_DAMP: "check for damp", core_items.MoveKind.RELEASE: "check for damp",
    core_items.MoveKind.FIT: "putting in", core_items.MoveKind.RETIRE: "throwing away",
}  # fmt: skip
"""A move as the thing that was done, for what needs it."""


def _needed(household_id: UUID, item_ids: Iterable[UUID]) -> Conflict | None:
    """What was done later and cannot have been without what is taken back: the first of it, by name and day."""
    zone = ZoneInfo(Household.objects.get(pk=household_id).time_zone)
    for row in models.Item.objects.of(household_id).filter(pk__in=list(item_ids)):
        item = records.new_item(row)
        for stands in standing(models.Move.objects.of(household_id).filter(item=row)):
            try:
                item = core_moves.move(item, records.to_move(stands))
            except IllegalMove:
                day = stands.entry.happened_at.astimezone(zone)
                doing = DOING.get(core_items.MoveKind(stands.kind), "move")
                return Conflict(
                    f"{row.name}: the {doing} of {day:%-d %B %Y} needs it.",
                    field="id",
                    fix="Take that back first.",
                )
    return None
