"""Setting a machine up: what it is, what is known of its past, its parts and spares, its usual week."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime
from typing import Any
from uuid import UUID

from django.db import transaction

from care.book import load_book
from care.due.schedule import Schedule
from care.due.usage import NOT_SET, AtDock
from care.errors import InvalidValue, require
from care.items import Move, MoveKind
from care.kinds import Archetype
from care.overrides import as_seen
from care.parts import Slot
from care.vocabulary import Silence
from care.washability import Mark, Trait
from server.base.problems import Conflict
from server.household.models import Member
from server.household.services import journal_by, require_writer, today_of
from server.logbook.models import Entry
from server.logbook.services import Journal
from server.machines import items, records
from server.machines.models import Machine, NotKnown, OwnSetting, ScheduleVersion
from server.machines.services import machine_of, noon
from server.machines.signals import spares_came


@dataclass(frozen=True, slots=True)
class Spare:
    """A second part for a slot, to be named."""

    slot: str
    name: str


@dataclass(frozen=True, slots=True)
class Earlier:
    """What is known of a machine that was in use before it was set up here. None: nobody knows.

    `bought` is the day it was new, `last_done` the day on which all its parts were seen to; `parts` tells of single
    slots otherwise.
    """

    bought: date | None = None
    last_done: date | None = None
    parts: Mapping[str, date | None] = field(default_factory=dict)

    def done(self, slot: str) -> date | None:
        """The day on which a slot was last seen to."""
        return self.parts.get(slot, self.last_done)

    @property
    def days(self) -> list[date]:
        """Every day that is told."""
        return [day for day in (self.bought, self.last_done, *self.parts.values()) if day is not None]


@dataclass(frozen=True, slots=True)
class New:
    """A machine to be set up. `schedule` None: no usual week; `earlier` None: all its parts are new."""

    id: UUID
    name: str
    archetype: str
    schedule: Schedule | None = None
    spares: tuple[Spare, ...] = ()
    features: tuple[str, ...] = ()
    serves: UUID | None = None
    dock: AtDock = NOT_SET
    earlier: Earlier | None = None
    replaces: UUID | None = None
    marked: Mapping[str, Mark] = field(default_factory=dict)
    """Whether somebody saw on a part (by its slot) that it is marked washable."""
    wires: Mapping[str, Mark] = field(default_factory=dict)
    """Whether somebody saw that there are wires, or a motor, in a part (by its slot)."""


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
    marked: Mapping[str, Mark] | None = None,
) -> Machine:
    """A machine with new parts, fitted at `since`; as `set_up`, for one whose past is all known."""
    new = New(
        machine_id,
        name,
        archetype,
        schedule,
        tuple(spares),
        tuple(features),
        serves,
        AtDock(return_min),
        marked=marked or {},
    )
    [machine] = set_up(member=member, machines=[new], since=since)
    return machine


@transaction.atomic
def set_up(*, member: Member, machines: Sequence[New], since: datetime | None = None) -> list[Machine]:
    """Machines of kinds of the book, a robot with its dock in one go.

    `features` are options of a kind, `serves` is the robot of a dock. Raises `InvalidValue`, `Conflict`, `NotFound`;
    nothing is then written.
    """
    require_writer(member)
    return [_set_up(member, new, since) for new in machines]


def _set_up(member: Member, new: New, since: datetime | None) -> Machine:
    kind = _kind(new.archetype)
    refuse_taken(member, new.id, new.name)
    chosen = sorted(set(new.features))
    for feature in chosen:
        options = [option.key for option in kind.options]
        require(feature in options, "features", feature, "one of " + (", ".join(options) or "none for this kind"))
    robot = _robot_of(member, kind, new.serves)
    _check_earlier(member, kind, new.earlier)
    for trait, seen in ((Trait.MARKED, new.marked), (Trait.WIRES, new.wires)):
        _check_seen(kind, trait, seen)
    journal = journal_by(member, new.id)
    now = since or journal.entered_at
    began = min([noon(day, member) for day in new.earlier.days] + [now]) if new.earlier else now
    entry = journal.write(Entry.Kind.MACHINE, began)
    name = new.name.strip()
    machine: Machine = Machine.everything.create(
        id=new.id,
        household_id=member.household_id,
        name=name,
        given_name=name,
        archetype=kind.key,
        set_up=entry,
        features=chosen,
        given_features=chosen,
        serves=robot,
        replaces=machine_of(member, new.replaces) if new.replaces else None,
    )
    _keep_seen(journal, machine, as_seen(new.marked, new.wires), began)
    kind = records.archetype_of(machine)
    if began < now and new.schedule is not None:  # nobody could tell of runs before, so the usual week stands for them
        ran = Schedule(
            new.schedule.rule, new.schedule.run_min, new.schedule.starts, new.schedule.mops, silence=Silence.RAN
        )
        write_schedule(journal, machine, ran, kind.usual_run_min, began, new.dock)
    write_schedule(journal, machine, new.schedule, kind.usual_run_min, now, new.dock)
    _fit_parts(journal, member, machine, kind, now, new)
    if waiting := [slot for spare in new.spares if not (slot := kind.slot(spare.slot)).takes_turns]:
        spares_came.send(sender=Machine, journal=journal, machine_id=machine.pk, machine=machine.name, spares=waiting)
    return machine


def _kind(archetype: str) -> Archetype:
    kind = load_book().archetypes.get(archetype)
    if kind is None:
        known = ", ".join(sorted(load_book().archetypes))
        raise InvalidValue(f"archetype: {archetype!r} is not in the book", field="archetype", fix=f"Choose: {known}.")
    return kind


def refuse_taken(member: Member, machine_id: UUID, name: str) -> None:
    """Refuse an id or a name that another machine of the household has."""
    if Machine.everything.filter(pk=machine_id).exists():
        raise Conflict("id: this machine is there already", field="id", fix="Load the page again.")
    refuse_name(member, name)


def refuse_name(member: Member, name: str, *, but: UUID | None = None) -> None:
    """Refuse no name, one too long, or one that another machine (not `but`) has."""
    require(0 < len(name.strip()) <= 60, "name", repr(name), "a name of 1 to 60 characters")
    same = Machine.objects.of(member.household_id).filter(name__iexact=name.strip()).exclude(pk=but)
    if same.exists():
        raise Conflict(f"name: there is a {name.strip()} already", field="name", fix="Give it a name of its own.")


def _robot_of(member: Member, kind: Archetype, serves: UUID | None) -> Machine | None:
    require(kind.serves or serves is None, "serves", serves, "no robot, since this kind is no dock")
    if serves is None:
        return None
    robot = machine_of(member, serves)
    require(records.archetype_of(robot).has_dock, "serves", robot.name, "a robot, for a dock")
    return robot


def _check_earlier(member: Member, kind: Archetype, earlier: Earlier | None) -> None:
    if earlier is None:
        return
    today, bought = today_of(member), earlier.bought
    for slot in earlier.parts:
        kind.slot(slot)
    require(bought is None or bought <= today, "bought", bought, "today or an earlier day")
    for day in [earlier.last_done, *earlier.parts.values()]:
        if day is not None:
            require(day <= today, "last_done", day, "today or an earlier day")
            require(bought is None or day >= bought, "last_done", day, f"a day not before it was new ({bought})")


def _check_seen(kind: Archetype, trait: Trait, seen: Mapping[str, Mark]) -> None:
    for slot in seen:
        washing = kind.slot(slot).washing
        require(washing is not None and trait in washing.asks, trait, slot, "parts that are asked for it")


def _keep_seen(journal: Journal, machine: Machine, seen: dict[str, Any], at: datetime) -> None:
    """What was seen of its parts, as settings of the machine."""
    machine.own = seen
    for key, value in machine.own.items():
        journal.tell(OwnSetting, at, machine=machine, key=key, value=value)
    machine.save(update_fields=["own"])


def write_schedule(
    journal: Journal,
    machine: Machine,
    schedule: Schedule | None,
    usual_run_min: float,
    at: datetime,
    dock: AtDock = NOT_SET,
) -> Entry:
    """A new version of the usual week and of what its dock is set to, inside the caller's transaction."""
    silence = schedule.silence if schedule else records.archetype_of(machine).silence
    return journal.tell(
        ScheduleVersion,
        at,
        machine=machine,
        rule=schedule.rule if schedule else "",
        run_min=schedule.run_min if schedule else usual_run_min,
        starts=schedule.starts if schedule else None,
        mops=schedule.mops if schedule else False,
        silence=silence,
        return_min=dock.return_min,
        quiet_from=dock.quiet[0] if dock.quiet else None,
        quiet_until=dock.quiet[1] if dock.quiet else None,
        dry_h=dock.dry_h,
    )


def _fit_parts(journal: Journal, member: Member, machine: Machine, kind: Archetype, now: datetime, new: New) -> None:
    moves: list[tuple[UUID, Move]] = []
    earlier = new.earlier
    turning = [spare for spare in new.spares if kind.slot(spare.slot).takes_turns]
    for slot in kind.parts(frozenset(machine.features)):
        lettered = any(spare.slot == slot.key for spare in turning)
        name = f"{slot.name} A" if lettered else slot.name
        item = items.create_item(machine, slot=slot.key, part=slot.part, name=name)
        at = now
        if earlier is not None:
            known = earlier.bought or earlier.done(slot.key)
            at = noon(known, member) if known else now
        moves += new_part(item.pk, machine, slot.key, at)
        if earlier is not None:
            _tell_past(journal, member, item.pk, machine, slot, now, earlier)
    for spare in turning:
        item = items.create_item(machine, slot=spare.slot, part=kind.slot(spare.slot).part, name=spare.name)
        moves.append((item.pk, Move(MoveKind.SETTLE, now)))
    items.record_moves(journal, moves)


def _tell_past(
    journal: Journal, member: Member, item_id: UUID, machine: Machine, slot: Slot, now: datetime, earlier: Earlier
) -> None:
    """When a part was last seen to, or that nobody knows; and the same of its age."""
    done, today = earlier.done(slot.key), today_of(member)
    if earlier.bought is None:
        write_not_known(journal, machine, slot.key, item_id, now, life=True)
    if done is None and earlier.bought != today:
        write_not_known(journal, machine, slot.key, item_id, now, life=False)
    row = items.item_row(journal.household_id, item_id)
    for action in slot.seen_to if done is not None else ():
        items.write_service(journal, row, slot=slot.key, action=action, at=noon(done or today, member))


def write_not_known(journal: Journal, machine: Machine, slot: str, item_id: UUID, at: datetime, *, life: bool) -> Entry:
    """That nobody knows how far a part was, inside the caller's transaction."""
    return journal.tell(NotKnown, at, machine=machine, slot=slot, item_id=item_id, life=life)


def new_part(item_id: UUID, machine: Machine, slot: str, at: datetime) -> list[tuple[UUID, Move]]:
    """The moves by which a new part goes into its slot."""
    return [
        (item_id, Move(MoveKind.SETTLE, at)),
        (item_id, Move(MoveKind.FIT, at, machine_id=machine.pk, slot=slot)),
    ]
