"""Parts that a machine gets after it was set up: by a feature told later, or since the book knows more of its kind."""

from collections.abc import Collection
from uuid import UUID

from django.db import transaction

from care.book import load_book
from care.errors import require
from care.items import Move, MoveKind, State
from care.overrides import Aspect, key_of
from care.parts import Slot
from server.household.models import Member
from server.household.services import journal_by, require_writer
from server.logbook.models import Entry
from server.logbook.services import Journal
from server.machines import items, records
from server.machines.models import Item, Machine
from server.machines.services import about_to_change, machine_of
from server.setup.overrides import put_setting
from server.setup.services import new_part, write_not_known


@transaction.atomic
def tell_feature(*, member: Member, machine_id: UUID, feature: str, has: bool) -> Entry:
    """That a machine has an option of its kind, or has not: its parts and tasks follow, undone as one.

    A part that it then has is of unknown age and state; one that it then lacks is retired. Raises `InvalidValue` for a
    feature that its kind does not have, `Conflict` while a sheet is open at the machine.
    """
    require_writer(member)
    machine = machine_of(member, machine_id)
    about_to_change(member, [machine_id], "feature")
    options = [option.key for option in load_book().archetypes[machine.archetype].options]
    require(feature in options, "feature", feature, "one of " + (", ".join(options) or "none for this kind"))
    journal = journal_by(member, machine.pk)
    before = {slot.key for slot in _parts(machine)}
    entry = put_setting(journal, machine, key_of(Aspect.FEATURE, feature), has)
    after = {slot.key for slot in _parts(machine)}
    _retire(journal, machine, before - after)
    add_parts(journal, machine, anew=after - before)
    return entry


def _parts(machine: Machine) -> tuple[Slot, ...]:
    return records.archetype_of(machine).parts(frozenset(machine.features))


def _retire(journal: Journal, machine: Machine, slots: set[str]) -> None:
    moves: list[tuple[UUID, Move]] = []
    for item in Item.objects.of(machine.household_id).filter(home_machine=machine, home_slot__in=slots):
        if item.state == State.FITTED:
            moves.append((item.pk, Move(MoveKind.TAKE_OUT, journal.entered_at)))
        if item.state != State.RETIRED:
            moves.append((item.pk, Move(MoveKind.RETIRE, journal.entered_at, reason="not on this machine")))
    items.record_moves(journal, moves)


def add_parts(journal: Journal, machine: Machine, anew: Collection[str] = ()) -> list[str]:
    """Parts of its kind that a machine never had a part for, or has `anew`, of unknown age and state; their slots."""
    known = set(Item.objects.of(machine.household_id).filter(home_machine=machine).values_list("home_slot", flat=True))
    lacking = [slot for slot in _parts(machine) if slot.key in anew or slot.key not in known]
    moves: list[tuple[UUID, Move]] = []
    for slot in lacking:
        item = items.create_item(machine, slot=slot.key, part=slot.part, name=slot.name)
        moves += new_part(item.pk, machine, slot.key, journal.entered_at)
        for life in (False, True):
            write_not_known(journal, machine, slot.key, item.pk, journal.entered_at, life=life)
    items.record_moves(journal, moves)
    return [slot.key for slot in lacking]


def catch_up() -> list[tuple[str, str]]:
    """Every machine of every household gets the parts that the book knows of its kind by now: (machine, slot).

    A part that somebody took off a machine stays off. Each machine is one action, which can be undone.
    """
    made: list[tuple[str, str]] = []
    for machine in Machine.everything.exclude(status__in=(Machine.Status.SOLD, Machine.Status.REPLACED)):
        with transaction.atomic():
            journal = Journal(machine.household_id, by_id=None, subject_id=machine.pk)
            made += [(machine.name, slot) for slot in add_parts(journal, machine)]
    return made
