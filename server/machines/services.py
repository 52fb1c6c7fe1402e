"""Setting machines up and finding them: each use case is one transaction and takes the member."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, datetime, time
from typing import cast
from uuid import UUID

from django.db import transaction

from care import items as core_items
from care.book import load_book
from care.due.usage import Schedule
from care.errors import InvalidValue, require
from care.items import Move, MoveKind
from care.kinds import Archetype, Slot
from server.config.problems import Conflict
from server.household.models import Member
from server.household.services import require_writer, today_of, zone_of
from server.logbook.models import Entry
from server.logbook.services import Journal
from server.machines import items, records
from server.machines.models import Item, Machine, ScheduleVersion


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


def fitted_item(machine: Machine, slot: Slot) -> Item:
    """What sits in a slot. Raises `Conflict` when it is empty."""
    row = Item.objects.of(machine.household_id).filter(machine=machine, slot=slot.key).first()
    if row is None:
        raise Conflict(f"slot: there is no {slot.part} in {machine.name}", field="slot", fix="Fit one first.")
    return cast(Item, row)


def local_time(member: Member, day: date | None, at: time) -> datetime:
    """A time of day of the household on a day, or today."""
    return datetime.combine(day or today_of(member), at, tzinfo=zone_of(member))


def noon(day: date, member: Member) -> datetime:
    """Local noon of a day: when something happened whose hour nobody knows."""
    return local_time(member, day, time(12))


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
    features: Iterable[str] = (),
    serves: UUID | None = None,
    return_min: float | None = None,
) -> Machine:
    """A machine of a kind of the book, all parts new and fitted at `since`.

    `features` are options of its kind, `serves` is the robot of a dock, `return_min` [min] how often a robot comes home
    to be emptied while it runs. Raises `InvalidValue`, `Conflict`, `NotFound`.
    """
    require_writer(member)
    kind = _kind(archetype)
    _refuse_taken(member, machine_id, name)
    chosen = sorted(set(features))
    for feature in chosen:
        options = [option.key for option in kind.options]
        require(feature in options, "features", feature, "one of " + (", ".join(options) or "none for this kind"))
    robot = _robot_of(member, kind, serves)
    require(return_min is None or return_min >= 5, "return_min", return_min, "5 minutes or more, or none")
    journal = Journal(member.household_id, by_id=member.pk, subject_id=machine_id)
    at = since or journal.entered_at
    entry = journal.write(Entry.Kind.MACHINE, at)
    machine: Machine = Machine.everything.create(
        id=machine_id,
        household_id=member.household_id,
        name=name.strip(),
        archetype=kind.key,
        set_up=entry,
        features=chosen,
        serves=robot,
    )
    write_schedule(journal, machine, schedule, kind.usual_run_min, at, return_min)
    _fit_new_parts(journal, machine, kind, at, list(spares))
    return machine


def _kind(archetype: str) -> Archetype:
    kind = load_book().archetypes.get(archetype)
    if kind is None:
        known = ", ".join(sorted(load_book().archetypes))
        raise InvalidValue(f"archetype: {archetype!r} is not in the book", field="archetype", fix=f"Choose: {known}.")
    return kind


def _refuse_taken(member: Member, machine_id: UUID, name: str) -> None:
    if Machine.everything.filter(pk=machine_id).exists():
        raise Conflict("id: this machine is there already", field="id", fix="Load the page again.")
    require(0 < len(name.strip()) <= 60, "name", repr(name), "a name of 1 to 60 characters")
    if Machine.objects.of(member.household_id).filter(name=name.strip()).exists():
        raise Conflict(f"name: there is a {name.strip()} already", field="name", fix="Give it a name of its own.")


def _robot_of(member: Member, kind: Archetype, serves: UUID | None) -> Machine | None:
    require(kind.serves or serves is None, "serves", serves, "no robot, since this kind is no dock")
    if serves is None:
        return None
    robot = machine_of(member, serves)
    require(records.archetype_of(robot).has_dock, "serves", robot.name, "a robot, for a dock")
    return robot


def write_schedule(
    journal: Journal,
    machine: Machine,
    schedule: Schedule | None,
    usual_run_min: float,
    at: datetime,
    return_min: float | None = None,
) -> Entry:
    """A new version of the usual week, inside the caller's transaction."""
    entry = journal.write(Entry.Kind.SCHEDULE, at)
    silence = schedule.silence if schedule else records.archetype_of(machine).silence
    ScheduleVersion.everything.create(
        entry=entry,
        household_id=machine.household_id,
        machine=machine,
        rule=schedule.rule if schedule else "",
        run_min=schedule.run_min if schedule else usual_run_min,
        starts=schedule.starts if schedule else None,
        mops=schedule.mops if schedule else False,
        silence=silence,
        return_min=return_min,
    )
    return entry


def _fit_new_parts(journal: Journal, machine: Machine, kind: Archetype, at: datetime, spares: Sequence[Spare]) -> None:
    moves: list[tuple[UUID, Move]] = []
    for slot in kind.parts(frozenset(machine.features)):
        lettered = any(spare.slot == slot.key for spare in spares)
        name = f"{slot.name} A" if lettered else slot.name
        item = items.create_item(machine, slot=slot.key, part=slot.part, name=name)
        moves += new_part(item.pk, machine, slot.key, at)
    for spare in spares:
        item = items.create_item(machine, slot=spare.slot, part=kind.slot(spare.slot).part, name=spare.name)
        moves.append((item.pk, Move(MoveKind.SETTLE, at)))
    items.record_moves(journal, moves)


def new_part(item_id: UUID, machine: Machine, slot: str, at: datetime) -> list[tuple[UUID, Move]]:
    """The moves by which a new part goes into its slot."""
    return [
        (item_id, Move(MoveKind.SETTLE, at)),
        (item_id, Move(MoveKind.FIT, at, machine_id=machine.pk, slot=slot)),
    ]


def last_moved(member: Member, item_id: UUID) -> datetime | None:
    """When the records last moved an item; None for one that is not on record."""
    row = Item.objects.of(member.household_id).filter(pk=item_id).first()
    return cast(Item, row).moved_at if row else None


def spare_for(machine: Machine, slot: str) -> core_items.Item | None:
    """A dry part meant for `slot` that lies ready, the one with the fewest washes."""
    ready = Item.objects.of(machine.household_id).filter(home_machine=machine, home_slot=slot, state="ready")
    row = ready.order_by("wash_count", "name").first()
    return records.to_item(row) if row else None
