"""How searches for faults ended, as records of the machine: they count when the next one begins."""

from collections import Counter
from typing import Any
from uuid import UUID

from care.errors import InvalidValue
from care.kinds import Action
from server.household.models import Member
from server.logbook.models import Entry
from server.logbook.services import Journal, standing
from server.machines import items, records
from server.machines.models import CaseRecord, Item, Machine
from server.machines.services import machine_of

Named = dict[str, str]
"""A key with its words: {"key": ..., "name": ...}."""


def earlier_causes(member: Member, machine_id: UUID) -> dict[str, int]:
    """How often each fault was the cause in a machine's earlier cases that stand."""
    rows = standing(CaseRecord.objects.of(member.household_id).filter(machine_id=machine_id, stand="cured"))
    return dict(Counter(cause["key"] for causes in rows.values_list("causes", flat=True) for cause in causes))


def write_case(
    *,
    member: Member,
    machine_id: UUID,
    case_id: UUID,
    symptoms: list[Named],
    causes: list[Named],
    stand: str,
    reason: str,
    done: list[tuple[UUID, str, Action]],
) -> Entry:
    """The record of a case, and of the tasks that put it right without a sheet; inside the caller's transaction."""
    machine = machine_of(member, machine_id)
    journal = Journal(member.household_id, by_id=member.pk, subject_id=machine.pk)
    entry = journal.write(Entry.Kind.CASE, journal.entered_at)
    detail: dict[str, Any] = {"symptoms": symptoms, "causes": causes, "stand": stand, "reason": reason}
    CaseRecord.everything.create(
        entry=entry, household_id=member.household_id, machine=machine, case_id=case_id, **detail
    )
    for of, slot, action in done:
        _write_done(member, machine_of(member, of), slot, action, journal.action_id)
    return entry


def _write_done(member: Member, machine: Machine, slot_key: str, action: Action, action_id: UUID) -> None:
    """A task done on the way that leaves its part where it was."""
    slot = records.archetype_of(machine).slot(slot_key)
    try:
        slot.rule(action)
    except InvalidValue:
        return  # the household took this task out meanwhile
    item = Item.objects.of(member.household_id).filter(machine=machine, slot=slot_key).first()
    if item is not None:
        journal = Journal(member.household_id, by_id=member.pk, subject_id=machine.pk, action_id=action_id)
        items.write_service(journal, item, slot=slot_key, action=action, at=journal.entered_at)
