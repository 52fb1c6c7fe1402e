"""Writing moves, services and inspections of items, and keeping their derived state equal to the replay."""

from collections.abc import Iterable, Sequence
from datetime import datetime
from uuid import UUID, uuid4

from care import items as core_items
from care.model import Action, Found
from server.logbook.models import Entry
from server.logbook.services import Journal, on_void, standing
from server.machines import models, records


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
    )
    return row


def write_moves(journal: Journal, moves: Iterable[tuple[UUID, core_items.Move]]) -> set[UUID]:
    """Entries and details of `moves` (item id, move); returns the items touched. `refresh` must follow."""
    touched: set[UUID] = set()
    for item_id, move in moves:
        entry = journal.write(Entry.Kind.MOVE, move.at)
        records.from_move(entry.pk, journal.household_id, item_id, move).save(force_insert=True)
        touched.add(item_id)
    return touched


def write_service(
    journal: Journal, item: models.Item, *, slot: str, action: Action, at: datetime, sheet_id: UUID | None = None
) -> Entry:
    """An action done to an item that belongs to its home machine."""
    entry = journal.write(Entry.Kind.SERVICE, at)
    models.Service.everything.create(
        entry=entry,
        household_id=journal.household_id,
        machine_id=item.home_machine_id,
        slot=slot,
        item=item,
        action=action,
        sheet_id=sheet_id,
    )
    return entry


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
    entry = journal.write(Entry.Kind.INSPECTION, at)
    models.Inspection.everything.create(
        entry=entry,
        household_id=journal.household_id,
        machine_id=item.home_machine_id,
        slot=slot,
        item=item,
        about=about,
        found=found,
        sheet_id=sheet_id,
    )
    return entry


def refresh(household_id: UUID, item_ids: Iterable[UUID]) -> None:
    """Replay the standing moves of the items and store what follows. Raises `IllegalMove` when they cannot stand."""
    rows = list(models.Item.objects.of(household_id).filter(pk__in=set(item_ids)))
    models.Fitting.objects.of(household_id).filter(item__in=rows).delete()
    made: list[core_items.Fitting] = []
    for row in rows:
        moves = [records.to_move(m) for m in standing(models.Move.objects.of(household_id).filter(item=row))]
        item, fittings = core_items.replay(records.new_item(row), moves)
        records.put_state(row, item)
        row.save()
        made.extend(fittings)
    _check_slots(household_id, made)
    models.Fitting.everything.bulk_create([records.from_fitting(household_id, f) for f in made])


def _check_slots(household_id: UUID, made: Sequence[core_items.Fitting]) -> None:
    machines = {f.machine_id for f in made}
    kept = models.Fitting.objects.of(household_id).filter(machine_id__in=machines)
    fittings = [*(records.to_fitting(row) for row in kept), *made]
    names = dict(models.Item.objects.of(household_id).values_list("pk", "name"))
    core_items.check_slots(fittings, names)


@on_void
def _refresh_after_void(household_id: UUID, action: list[Entry]) -> None:
    moved = models.Move.objects.of(household_id).filter(entry__in=action).values_list("item_id", flat=True)
    refresh(household_id, set(moved))
