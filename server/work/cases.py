"""How searches for faults ended, as records of the machine: they count when the next one begins."""

from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from datetime import date, datetime, timedelta
from typing import Any
from uuid import UUID

from care.vocabulary import Action
from server.base import clock
from server.household.models import Member
from server.household.services import journal_by
from server.logbook.models import Entry
from server.logbook.services import standing
from server.machines import records
from server.machines.models import CaseRecord, Item, Service
from server.machines.services import machine_of
from server.work.services import already_done

Named = dict[str, str]
"""A key with its words: {"key": ..., "name": ...}."""


SOON = timedelta(days=60)
"""What comes back within so many days had another cause than the one that was put right. Ours."""


@dataclass(frozen=True, slots=True)
class Earlier:
    """How often each fault was the cause in a machine's earlier cases; `again`: of the same complaint lately."""

    cases: Mapping[str, int] = field(default_factory=dict)
    again: Mapping[str, int] = field(default_factory=dict)


def earlier_causes(member: Member, machine_id: UUID, symptoms: Iterable[str] = ()) -> Earlier:
    """How often each fault was the cause in a machine's earlier cases that stand, by what is noticed now."""
    rows = standing(CaseRecord.objects.of(member.household_id).filter(machine_id=machine_id, stand="cured"))
    noticed, soon = set(symptoms), clock.now() - SOON
    counts: dict[bool, Counter[str]] = {True: Counter(), False: Counter()}
    for row in rows:
        same = row.entry.happened_at >= soon and bool(noticed & {one["key"] for one in row.symptoms})
        counts[same].update(cause["key"] for cause in row.causes)
    return Earlier(counts[False], counts[True])


def write_case(
    *,
    member: Member,
    machine_id: UUID,
    case_id: UUID,
    symptoms: list[Named],
    causes: list[Named],
    stand: str,
    reason: str,
) -> Entry:
    """The record of a case; inside the caller's transaction."""
    machine = machine_of(member, machine_id)
    journal = journal_by(member, machine.pk)
    detail: dict[str, Any] = {"symptoms": symptoms, "causes": causes, "stand": stand, "reason": reason}
    return journal.tell(CaseRecord, machine=machine, case_id=case_id, **detail)


def note_task(
    *, member: Member, machine_id: UUID, slot_key: str, action: Action, since: datetime, day: date | None = None
) -> Entry | None:
    """A task that put a fault right without a sheet, done on a local day (today if none is given).

    None where there is nothing to write: the task was recorded `since` already, its part is out, or the household took
    the task out. Raises `InvalidValue` for a day to come.
    """
    machine = machine_of(member, machine_id)
    slot = records.archetype_of(machine).slot(slot_key)
    row = Item.objects.of(member.household_id).filter(machine=machine, slot=slot_key).first()
    if row is None or action not in {rule.action for rule in slot.rules}:
        return None
    done = standing(Service.objects.of(member.household_id).filter(machine=machine, slot=slot_key, action=action))
    if done.filter(entry__entered_at__gte=since).exists():
        return None
    return already_done(member=member, machine_id=machine_id, slot_key=slot_key, action=action, day=day)
