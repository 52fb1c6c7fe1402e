"""Whether a machine is in use, and what stands in for one that went."""

from collections.abc import Iterable, Sequence
from dataclasses import replace
from datetime import date
from uuid import UUID

from django.db import transaction

from care import model as core
from care.errors import require
from care.items import State
from server.base.problems import Conflict, NotFound
from server.household.models import Member
from server.household.services import journal_by, require_writer, today_of
from server.logbook.models import Entry
from server.logbook.services import Journal
from server.machines import items, records
from server.machines.models import Item, Machine, Rest, StatusChange
from server.machines.services import about_to_change, machine_of
from server.setup.overrides import refresh_machine, rename_machine
from server.setup.parts import assign_spare, retired
from server.setup.services import New, set_up

AWAY_FROM_HERE = (Machine.Status.SOLD, Machine.Status.REPLACED)
"""A machine that will not come back: what is in it went with it."""


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
    refresh_machine(machine)
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
    moves = [step for row in rows if row.pk not in keep for step in retired(row, journal, f"went with {machine.name}")]
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
