"""Parts of a machine that come and go: added, taken off, spares, what is thrown away."""

from uuid import UUID, uuid4

from django.db import transaction

from care import overrides as core_own
from care.errors import require
from care.items import Move, MoveKind, State
from care.overrides import Aspect, key_of
from care.own_part import OwnPart
from care.plain import plain
from care.rules import Trigger
from care.vocabulary import Action, Calendar, Meter
from server.household.models import Member
from server.household.services import journal_by, require_writer
from server.logbook.models import Entry
from server.logbook.services import Journal
from server.machines import items, records
from server.machines.models import Item
from server.machines.services import about_to_change, item_of, machine_of
from server.setup.overrides import put_setting
from server.setup.services import new_part, write_not_known


@transaction.atomic
def add_part(
    *,
    member: Member,
    machine_id: UUID,
    name: str,
    station: str,
    use: str | None = None,
    material: str = "",
    action: Action | None = None,
    meter: Meter = Meter.DAYS,
    figure: float | None = None,
    is_new: bool = True,
) -> Entry:
    """A part that this machine has beside those of its kind: one of the book (`use`), or the household's own.

    `action` and `figure` (in the unit of `meter`) are the task of a part that the book lacks. Raises `InvalidValue`.
    """
    require_writer(member)
    machine = machine_of(member, machine_id)
    trigger = None
    if use is None:
        require(figure is not None and 0 < figure <= 10_000, "figure", figure, "how often, more than 0")
        assert figure is not None
        calendar = Calendar.AGES if meter is Meter.DAYS else None
        trigger = Trigger(meter, figure, figure, calendar)
    part = OwnPart(name.strip(), station, use, material.strip(), action if use is None else None, trigger)
    kind = records.archetype_of(machine)
    slot = f"own-{uuid4().hex[:8]}"
    core_own.check(kind, Aspect.NAME, slot, None, part.name)
    core_own.check(kind, Aspect.PLACE, slot, None, {"station": station})
    journal = journal_by(member, machine.pk)
    value = plain(OwnPart).dump_python(part, mode="json")
    entry = put_setting(journal, machine, key_of(Aspect.PART, slot), value)
    item = items.create_item(machine, slot=slot, part=records.archetype_of(machine).slot(slot).part, name=part.name)
    items.record_moves(journal, new_part(item.pk, machine, slot, journal.entered_at))
    for life in (False, True) if not is_new else ():
        write_not_known(journal, machine, slot, item.pk, journal.entered_at, life=life)
    return entry


@transaction.atomic
def remove_part(*, member: Member, machine_id: UUID, slot: str) -> Entry:
    """A part that this machine does not have (any more): what sat there is retired, its history stays.

    Raises `Conflict` while a sheet is open at the machine.
    """
    require_writer(member)
    machine = machine_of(member, machine_id)
    about_to_change(member, [machine_id], "slot")
    core_own.check(records.archetype_of(machine), Aspect.GONE, slot, None, True)
    journal = journal_by(member, machine.pk)
    moves: list[tuple[UUID, Move]] = []
    for item in Item.objects.of(member.household_id).filter(home_machine=machine, home_slot=slot):
        moves += retired(item, journal, "not on this machine")
    items.record_moves(journal, moves)
    return put_setting(journal, machine, key_of(Aspect.GONE, slot), True)


@transaction.atomic
def bring_back_part(*, member: Member, machine_id: UUID, slot: str) -> Entry:
    """A part that was taken off the machine's list is on it again, its age and state not known."""
    require_writer(member)
    machine = machine_of(member, machine_id)
    require(key_of(Aspect.GONE, slot) in machine.own, "slot", slot, "a part that was taken off this machine")
    journal = journal_by(member, machine.pk)
    entry = put_setting(journal, machine, key_of(Aspect.GONE, slot), None)
    part = records.archetype_of(machine).slot(slot)
    item = items.create_item(machine, slot=slot, part=part.part, name=part.name)
    items.record_moves(journal, new_part(item.pk, machine, slot, journal.entered_at))
    for life in (False, True):
        write_not_known(journal, machine, slot, item.pk, journal.entered_at, life=life)
    return entry


def retired(item: Item, journal: Journal, reason: str) -> list[tuple[UUID, Move]]:
    """The moves that retire a part, out of its machine first where it sits in one; none where it is retired."""
    if item.state == State.RETIRED:
        return []
    out = [Move(MoveKind.TAKE_OUT, journal.entered_at)] if item.state == State.FITTED else []
    return [(item.pk, move) for move in (*out, Move(MoveKind.RETIRE, journal.entered_at, reason=reason))]


@transaction.atomic
def add_spare(*, member: Member, machine_id: UUID, slot: str, name: str) -> Entry:
    """A second part for a slot, dry and ready."""
    require_writer(member)
    machine = machine_of(member, machine_id)
    part = records.archetype_of(machine).slot(slot)
    require(part.removable, "slot", part.name, "a part that comes out")
    require(0 < len(name.strip()) <= 60, "name", repr(name), "a name of 1 to 60 characters")
    journal = journal_by(member, machine.pk)
    item = items.create_item(machine, slot=slot, part=part.part, name=name.strip())
    return items.record_moves(journal, [(item.pk, Move(MoveKind.SETTLE, journal.entered_at))])[0]


@transaction.atomic
def assign_spare(*, member: Member, item_id: UUID, machine_id: UUID, slot: str) -> Entry:
    """A spare that lies ready is meant for another slot, here or on another machine."""
    require_writer(member)
    item, machine = item_of(member, item_id), machine_of(member, machine_id)
    part = records.archetype_of(machine).slot(slot)
    require(part.part == item.part, "slot", f"{part.name}, which takes a {part.part}", f"a place for a {item.part}")
    journal = journal_by(member)  # both machines change
    step = Move(MoveKind.ASSIGN, journal.entered_at, machine_id=machine.pk, slot=slot)
    return items.record_moves(journal, [(item.pk, step)])[0]


@transaction.atomic
def retire_item(*, member: Member, item_id: UUID, reason: str) -> Entry:
    """A part that is not in a machine is thrown away, with the reason."""
    require_writer(member)
    require(bool(reason.strip()), "reason", repr(reason), "a reason in a few words")
    item = item_of(member, item_id)
    journal = journal_by(member, item.home_machine_id)
    step = Move(MoveKind.RETIRE, journal.entered_at, reason=reason.strip()[:200])
    return items.record_moves(journal, [(item.pk, step)])[0]
