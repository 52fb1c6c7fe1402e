"""What the household changes on a machine: names, places, parts, figures, schools; and whether it is in use.

Settings and status are entries; what the machine's row keeps of them (`own`, `name`, `status`) equals their fold.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date
from typing import Any
from uuid import UUID, uuid4

from django.db import transaction
from django.dispatch import receiver
from pydantic import TypeAdapter

from care import model as core
from care import overrides as core_own
from care.bench.washing import card
from care.errors import require
from care.items import Move, MoveKind, State
from care.overrides import Aspect, OwnPart, PlacedAt, key_of
from care.parts import Slot
from care.rules import OwnFigure, Trigger
from care.vocabulary import Action, Calendar, Meter, School
from care.washability import Mark, Marks, Trait
from server.base import clock
from server.base.problems import Conflict, NotFound
from server.household.models import Member
from server.household.services import answers_at, journal_by, require_writer, today_of
from server.logbook.models import Entry
from server.logbook.services import Journal, standing
from server.logbook.signals import voided
from server.machines import items, records
from server.machines.models import Item, Machine, OwnSetting, Rest, StatusChange
from server.machines.services import about_to_change, item_of, machine_of
from server.setup.services import New, new_part, refuse_name, set_up, write_not_known

AWAY_FROM_HERE = (Machine.Status.SOLD, Machine.Status.REPLACED)
"""A machine that will not come back: what is in it went with it."""


def put_setting(journal: Journal, machine: Machine, key: str, value: Any) -> Entry:
    """One setting, and the machine's row after it; inside the caller's transaction."""
    entry = journal.tell(OwnSetting, machine=machine, key=key, value=value)
    _refresh(machine)
    return entry


def _refresh(machine: Machine) -> None:
    """Store what follows from the settings and states that stand."""
    settings: dict[str, Any] = {}
    for row in standing(OwnSetting.objects.of(machine.household_id).filter(machine=machine)):
        settings.pop(row.key, None)
        if row.value is not None:
            settings[row.key] = row.value
    machine.own = settings
    machine.features = core_own.features_with(machine.given_features, settings)
    machine.name = settings.get(key_of(Aspect.NAME), machine.given_name)
    last = standing(StatusChange.objects.of(machine.household_id).filter(machine=machine)).last()
    machine.status = last.status if last else Machine.Status.IN_USE
    records.archetype_of(machine)  # refuses settings that do not go together
    machine.save(update_fields=["own", "features", "name", "status"])


@transaction.atomic
def rename_machine(*, member: Member, machine_id: UUID, name: str) -> Entry:
    """Give a machine another name. Raises `InvalidValue`, `Conflict` when another machine has it."""
    require_writer(member)
    machine = machine_of(member, machine_id)
    refuse_name(member, name, but=machine.pk)
    return put_setting(journal_by(member, machine.pk), machine, key_of(Aspect.NAME), name.strip())


@transaction.atomic
def rename_part(*, member: Member, machine_id: UUID, slot: str, name: str | None) -> Entry:
    """Give a part another name, or None for the book's. Raises `InvalidValue`."""
    return change_setting(member, machine_id, Aspect.NAME, slot, None, name.strip() if name else None)


@transaction.atomic
def place_part(*, member: Member, machine_id: UUID, slot: str, place: PlacedAt | None) -> Entry:
    """Say where a part sits, or None for where the book has it. Raises `InvalidValue`."""
    value = TypeAdapter(PlacedAt).dump_python(place, mode="json") if place else None
    return change_setting(member, machine_id, Aspect.PLACE, slot, None, value)


@transaction.atomic
def choose_school(*, member: Member, machine_id: UUID, slot: str, school: School | None) -> Entry:
    """The school of one part, or with an empty `slot` of the machine; None: as the household's."""
    require_writer(member)
    machine = machine_of(member, machine_id)
    if slot:
        records.archetype_of(machine).slot(slot)
    return put_setting(journal_by(member, machine.pk), machine, key_of(Aspect.SCHOOL, slot), school)


@transaction.atomic
def mark_part(*, member: Member, machine_id: UUID, slot: str, marks: Marks) -> Entry:
    """What somebody saw of a part that decides how it may get wet; what is unknown goes back to the book's default.

    Raises `InvalidValue` for what the book does not ask of such a part, and for water at one's own risk where its card
    does not offer that. Harmful dust is not a mark: it is of one day.
    """
    part = records.archetype_of(machine_of(member, machine_id)).slot(slot)
    asked = set(part.washing.asks if part.washing else ()) - {Trait.HAZARD}
    told = {trait: mark for trait, mark in marks.items() if mark is not Mark.UNKNOWN}
    if told.get(Trait.OWN_RISK) is Mark.NO or told.get(Trait.MARKED) is Mark.YES:
        told.pop(Trait.OWN_RISK, None)  # it stays dry again, or nothing is risked any more
    kept = part.over.marks.get(Trait.OWN_RISK) is Mark.YES
    if Trait.OWN_RISK in told and (kept or offers_own_risk(member, part, told)):
        asked.add(Trait.OWN_RISK)
    for trait in told:
        require(trait in asked, trait, told[trait], "nothing: this part is not asked for it")
    return change_setting(
        member, machine_id, Aspect.MARKS, slot, None, {str(t): str(m) for t, m in told.items()} or None
    )


def offers_own_risk(member: Member, part: Slot, marks: Marks) -> bool:
    """Whether the part's card offers water at one's own risk to who keeps it by their school and lives there."""
    if part.washing is None:
        return False
    home = answers_at(member.household_id, clock.now())
    shown = card(part, marks, part.school_in(home.school), allergy=home.at_the_bench.allergy)
    return any(side.at_own_risk for side in shown.sides)


def end_own_risk(member: Member, action_id: UUID) -> None:
    """Parts that are washed at one's own risk stay dry again where fine dust may get through: somebody is allergic.

    As part of the action in which that was told, and undone with it.
    """
    for machine in Machine.objects.of(member.household_id):
        for part in records.archetype_of(machine).slots:
            views = part.washing.views if part.washing and part.over.marks.get(Trait.OWN_RISK) is Mark.YES else ()
            if any(view.unmarked and view.fine_dust for view in views):
                left = {str(t): str(m) for t, m in part.over.marks.items() if t is not Trait.OWN_RISK}
                journal = journal_by(member, machine.pk, action_id=action_id)
                put_setting(journal, machine, key_of(Aspect.MARKS, part.key), left or None)


@transaction.atomic
def own_figure(
    *,
    member: Member,
    machine_id: UUID,
    slot: str,
    action: Action,
    meter: Meter | None = None,
    figure: float | None = None,
    off: bool = False,
    why: str = "",
) -> Entry:
    """The household's own figure for a task (in the unit of `meter`), or that it is left out; neither: the book's.

    Raises `InvalidValue` for a figure that is longer than the book's where no school stretches it.
    """
    require_writer(member)
    rule = records.archetype_of(machine_of(member, machine_id)).slot(slot).rule(action)
    own: OwnFigure | None = None
    if off:
        own = OwnFigure(why, off=True)
    elif figure is not None and meter is not None:
        require(0 < figure <= 10_000, "figure", f"{figure:g}", "more than 0 and at most 10 000")
        own = OwnFigure(why, core_own.own_trigger(rule, meter, figure))
    value = TypeAdapter(OwnFigure).dump_python(own, mode="json") if own else None
    return change_setting(member, machine_id, Aspect.RULE, slot, action, value)


def change_setting(
    member: Member, machine_id: UUID, aspect: Aspect, slot: str, action: Action | None, value: Any
) -> Entry:
    """One setting that the core checks first, inside the caller's transaction. Raises `InvalidValue`."""
    require_writer(member)
    machine = machine_of(member, machine_id)
    core_own.check(records.archetype_of(machine), aspect, slot, action, value)
    return put_setting(journal_by(member, machine.pk), machine, key_of(aspect, slot, action), value)


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
    value = TypeAdapter(OwnPart).dump_python(part, mode="json")
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
        moves += _retired(item, journal, "not on this machine")
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


def _retired(item: Item, journal: Journal, reason: str) -> list[tuple[UUID, Move]]:
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


@transaction.atomic
def set_status(*, member: Member, machine_id: UUID, status: str, keep: Iterable[UUID] = ()) -> Entry:
    """Put a machine away, lend it, sell it, or take it back into use; its docks go and come with it.

    Its history stays. While it is not in use nothing is assumed to run. Spares of a machine that goes for good go with
    it, but `keep`. Raises `Conflict` where it is that already, and while a sheet is open at the machine.
    """
    require_writer(member)
    require(status in Machine.Status.values, "status", status, "one of " + ", ".join(Machine.Status.values))
    machine = machine_of(member, machine_id)
    about_to_change(member, [machine_id], "machine_id")
    if machine.status == status:
        raise Conflict(f"status: {machine.name} is that already", field="status", fix="Nothing is left to do.")
    journal = journal_by(member, machine.pk)
    docks = Machine.objects.of(member.household_id).filter(serves=machine, status=machine.status)
    _refuse_others(member, [machine, *docks], set(keep))
    for dock in list(docks):
        one = journal_by(member, dock.pk, action_id=journal.action_id)
        _change_status(one, member, dock, status, set(keep))
    own = journal_by(member, machine.pk, action_id=journal.action_id)
    return _change_status(own, member, machine, status, set(keep))


def _refuse_others(member: Member, machines: list[Machine], keep: set[UUID]) -> None:
    """Refuse to keep what is no part of the machine or its docks. Raises `NotFound`."""
    mine = Item.objects.of(member.household_id).filter(home_machine__in=machines, pk__in=keep)
    if mine.count() != len(keep):
        name = machines[0].name
        raise NotFound(f"keep: not all of these are spares of {name}", field="keep", fix="Load its page again.")


def _change_status(journal: Journal, member: Member, machine: Machine, status: str, keep: set[UUID]) -> Entry:
    entry = journal.tell(StatusChange, machine=machine, status=status)
    back = status == Machine.Status.IN_USE
    _rest(journal, member, machine, core.Why.BACK if back else core.Why.PAUSED)
    if status in AWAY_FROM_HERE:
        _spares_go(journal, member, machine, keep)
    _refresh(machine)
    return entry


def _rest(journal: Journal, member: Member, machine: Machine, why: core.Why) -> None:
    """Days off until further notice, or their end; a dock rests with its robot."""
    if machine.serves_id is not None:
        return
    today = today_of(member)
    last = today if why is core.Why.BACK else None
    journal.tell(Rest, machine=machine, why=why, first=today, last=last)


def _spares_go(journal: Journal, member: Member, machine: Machine, keep: set[UUID]) -> None:
    rows = Item.objects.of(member.household_id).filter(home_machine=machine).exclude(state=State.FITTED)
    moves = [step for row in rows if row.pk not in keep for step in _retired(row, journal, f"went with {machine.name}")]
    items.record_moves(journal, moves)


@transaction.atomic
def replace_machine(*, member: Member, old_id: UUID, machines: list[New], keep: list[UUID], same_name: bool) -> Entry:
    """A new machine (with its dock, if any) stands in for an old one, whose history stays under its own page.

    With `same_name` the new one takes the old one's name. Raises as `set_up` and `set_status` do.
    """
    about_to_change(member, [old_id], "replaces")
    old = machine_of(member, old_id)
    if same_name:
        name, today = old.name, today_of(member)
        rename_machine(member=member, machine_id=old_id, name=free_name(member, old, today))
        machines = [replace(machines[0], name=name), *machines[1:]]
    new = set_up(member=member, machines=[replace(machines[0], replaces=old_id), *machines[1:]])
    return stand_in_for(member=member, old_id=old_id, new=new[0], keep=keep)


@transaction.atomic
def stand_in_for(*, member: Member, old_id: UUID, new: Machine, keep: Sequence[UUID] = ()) -> Entry:
    """The old machine is replaced by `new`: spares that fit it and are kept are meant for it from now on.

    Its docks serve the new one, unless that brought its own.
    """
    old = machine_of(member, old_id)
    if records.archetype_of(new).has_dock and not Machine.objects.of(member.household_id).filter(serves=new).exists():
        Machine.objects.of(member.household_id).filter(serves=old).update(serves=new)
    entry = set_status(member=member, machine_id=old_id, status=Machine.Status.REPLACED, keep=keep)
    places = {slot.part: slot.key for slot in records.archetype_of(new).parts(frozenset(new.features))}
    for item in Item.objects.of(member.household_id).filter(pk__in=list(keep), home_machine=old, state=State.READY):
        if item.part in places:
            assign_spare(member=member, item_id=item.pk, machine_id=new.pk, slot=places[item.part])
    return entry


def free_name(member: Member, machine: Machine, today: date) -> str:
    """The name an old machine takes when another one is to have its name."""
    wanted = f"{machine.name}, until {today:%b %Y}"[:60]
    taken = set(Machine.objects.of(member.household_id).values_list("name", flat=True))
    tries = (wanted if n == 1 else f"{wanted[:56]} {n}" for n in range(1, 1000))
    return next(name for name in tries if name not in taken)


@dataclass(frozen=True, slots=True)
class Listing:
    """What is set on a machine: its settings by key, its status, the machine it stands in for."""

    id: UUID
    name: str
    archetype: str
    status: str
    own: dict[str, Any]
    replaces: UUID | None


def _listing(row: Machine) -> Listing:
    return Listing(row.pk, row.name, row.archetype, row.status, row.own, row.replaces_id)


def listing(member: Member, machine_id: UUID) -> Listing:
    """What is set on a machine. Raises `NotFound`."""
    return _listing(machine_of(member, machine_id))


def not_in_use(member: Member) -> list[Listing]:
    """The machines that the household does not use now, by name."""
    rows = Machine.objects.of(member.household_id).exclude(status=Machine.Status.IN_USE).order_by("name")
    return [_listing(row) for row in rows]


@receiver(voided)
def _refresh_after_void(household_id: UUID, action: list[Entry], **_: object) -> None:
    own = OwnSetting.objects.of(household_id).filter(entry__in=action).values_list("machine_id", flat=True)
    states = StatusChange.objects.of(household_id).filter(entry__in=action).values_list("machine_id", flat=True)
    for machine in Machine.objects.of(household_id).filter(pk__in={*own, *states}):
        _refresh(machine)
