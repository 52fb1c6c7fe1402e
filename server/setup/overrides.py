"""What the household changes on a machine: names, places, parts, figures, schools; and whether it is in use.

Settings and status are entries; what the machine's row keeps of them (`own`, `name`, `status`) equals their fold.
"""

from dataclasses import dataclass
from typing import Any
from uuid import UUID

from django.db import transaction
from django.dispatch import receiver

from care import overrides as core_own
from care.bench.washing import card
from care.errors import require
from care.overrides import Aspect, PlacedAt, key_of
from care.parts import Slot
from care.plain import plain
from care.rules import OwnFigure
from care.vocabulary import Action, Meter, School
from care.washability import Mark, Marks, Trait
from server.base import clock
from server.household.models import Member
from server.household.services import answers_at, journal_by, require_writer
from server.logbook.models import Entry
from server.logbook.services import Journal, standing
from server.logbook.signals import voided
from server.machines import records
from server.machines.models import Machine, OwnSetting, StatusChange
from server.machines.services import machine_of
from server.setup.services import refuse_name


def put_setting(journal: Journal, machine: Machine, key: str, value: Any) -> Entry:
    """One setting, and the machine's row after it; inside the caller's transaction."""
    entry = journal.tell(OwnSetting, machine=machine, key=key, value=value)
    refresh_machine(machine)
    return entry


def refresh_machine(machine: Machine) -> None:
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
    value = plain(PlacedAt).dump_python(place, mode="json") if place else None
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
    marked = {trait: mark for trait, mark in marks.items() if mark is not Mark.UNKNOWN}
    if marked.get(Trait.OWN_RISK) is Mark.NO or marked.get(Trait.MARKED) is Mark.YES:
        marked.pop(Trait.OWN_RISK, None)  # it stays dry again, or nothing is risked any more
    kept = part.over.marks.get(Trait.OWN_RISK) is Mark.YES
    if Trait.OWN_RISK in marked and (kept or offers_own_risk(member, part, marked)):
        asked.add(Trait.OWN_RISK)
    for trait in marked:
        require(trait in asked, trait, marked[trait], "nothing: this part is not asked for it")
    return change_setting(
        member, machine_id, Aspect.MARKS, slot, None, {str(t): str(m) for t, m in marked.items()} or None
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
    value = plain(OwnFigure).dump_python(own, mode="json") if own else None
    return change_setting(member, machine_id, Aspect.RULE, slot, action, value)


def change_setting(
    member: Member, machine_id: UUID, aspect: Aspect, slot: str, action: Action | None, value: Any
) -> Entry:
    """One setting that the core checks first, inside the caller's transaction. Raises `InvalidValue`."""
    require_writer(member)
    machine = machine_of(member, machine_id)
    core_own.check(records.archetype_of(machine), aspect, slot, action, value)
    return put_setting(journal_by(member, machine.pk), machine, key_of(aspect, slot, action), value)


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
        refresh_machine(machine)
