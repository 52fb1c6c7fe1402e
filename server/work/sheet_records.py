"""What a sitting leaves in the records."""

from collections.abc import Iterable
from dataclasses import dataclass, field
from datetime import datetime
from uuid import UUID

from care.bench.drying import Hanging
from care.items import Move, MoveKind
from care.vocabulary import Action, Found
from server.drying import services as drying
from server.household.models import Member
from server.household.services import journal_by
from server.logbook.models import Entry
from server.machines import items, records
from server.machines.models import Item, Machine
from server.machines.services import machine_of
from server.work.services import Moves


@dataclass(slots=True)
class SheetRecords:
    """What a sitting leaves behind: moves, actions, findings, new parts (id, slot, name), where wet ones hang."""

    moves: Moves = field(default_factory=list)
    services: list[tuple[UUID, str, Action, datetime]] = field(default_factory=list)
    inspections: list[tuple[UUID, str, Action, Found, datetime]] = field(default_factory=list)
    new_parts: list[tuple[UUID, str, str, datetime]] = field(default_factory=list)
    hung: list[tuple[UUID, Hanging, datetime]] = field(default_factory=list)


def record_sheet(*, member: Member, machine_id: UUID, sheet_id: UUID, action_id: UUID, what: SheetRecords) -> None:
    """Write what a sitting left at one machine, inside the caller's transaction; undone with all of `action_id`."""
    machine = machine_of(member, machine_id)
    kind = records.archetype_of(machine)
    journal = journal_by(member, machine.pk, action_id=action_id, source=Entry.Source.SHEET)
    for item_id, slot, name, _ in what.new_parts:
        items.create_item(machine, slot=slot, part=kind.slot(slot).part, name=name, item_id=item_id)
    rows = _items_of(member, machine)
    for item_id, slot, about, found, at in what.inspections:
        items.write_inspection(journal, rows[item_id], slot=slot, about=about, found=found, at=at, sheet_id=sheet_id)
    for item_id, slot, action, at in what.services:
        items.write_service(journal, rows[item_id], slot=slot, action=action, at=at, sheet_id=sheet_id)
    settled = [(item_id, Move(MoveKind.SETTLE, at)) for item_id, _, _, at in what.new_parts]
    drying.note_checks(journal, what.moves)
    items.record_moves(journal, [*settled, *what.moves])
    for item_id, hanging, at in what.hung:
        drying.write_hung(journal, item_id, hanging, at)
        drying.rest_again(journal, item_id, journal.entered_at)
    for item_id, _, _, at in what.new_parts:
        items.tell_renewed(journal, [item_id], at)


def _items_of(member: Member, machine: Machine) -> dict[UUID, Item]:
    rows: Iterable[Item] = Item.objects.of(member.household_id).filter(home_machine=machine)
    return {row.pk: row for row in rows}
