"""What a machine's own counter says."""

from datetime import date, datetime
from uuid import UUID

from django.db import transaction

from care.due.counters import far_apart, used_hours
from care.errors import InvalidValue, require
from care.parts import Slot
from care.rules import Rule
from care.vocabulary import Meter
from server.base import clock
from server.base.problems import Conflict
from server.due.state import machine_states
from server.household.models import Member
from server.household.services import journal_by, require_writer
from server.logbook.models import Entry
from server.logbook.services import Journal
from server.machines import records
from server.machines.models import Counter, Item, Machine
from server.machines.services import fitted_item, machine_of, told_at


@transaction.atomic
def read_counter(
    *,
    member: Member,
    machine_id: UUID,
    slot_key: str,
    value: float,
    unit: str,
    sense: str,
    day: date | None = None,
    trusted: bool | None = None,
) -> Entry:
    """What the machine's own counter says of a part: `value` in `unit` ("percent", "hours"), `sense` ("left", "used").

    Raises `InvalidValue` for a figure beyond reason or a part that the machine does not count; `Conflict` where it is
    far from our own count and nobody said whether the machine's figure (`trusted`) counts on, or ours.
    """
    require_writer(member)
    machine = machine_of(member, machine_id)
    slot = records.archetype_of(machine).slot(slot_key)
    require(slot.counted_by_machine, "slot", slot.name, "a part that the machine itself counts down")
    counted = slot.counted_rule
    if counted is None or counted.hours is None:
        raise InvalidValue("slot: no figure in hours", field="slot", fix="Choose a part with a figure in hours.")
    used = used_hours(value, unit=unit, sense=sense, limit_h=counted.hours)
    item, at = fitted_item(machine, slot), told_at(member, machine, day)
    if trusted is None:
        _ask_which_counts(member, machine, slot, counted, used, at)
    journal = journal_by(member, machine.pk)
    return _write_counter(
        journal, item, machine, slot.key, at, used, typed=value, unit=unit, sense=sense, trusted=trusted
    )


def _ask_which_counts(member: Member, machine: Machine, slot: Slot, counted: Rule, used_h: float, at: datetime) -> None:
    """Ask where the machine's figure is far from what we had counted at `at`. Raises `Conflict` with both.

    What ran since is taken off our count of today; before the part's clock started there is nothing to compare with.
    """
    [state] = machine_states(member, machine.pk)
    due = next((d for d in state.due if (d.slot, d.action) == (slot.key, counted.action)), None)
    ours = next((c.used for c in due.clocks if c.meter is Meter.RUN_HOURS), None) if due and not due.unsure else None
    ours = None if ours is None else ours - state.context.usage.between(at, clock.now()).run_hours
    if ours is None or ours < 0 or counted.hours is None or not far_apart(used_h, ours, counted.hours):
        return
    raise Conflict(
        f"trusted: the machine says {used_h:.0f} h used, we counted {ours:.0f} h",
        field="trusted",
        fix="Say whether the machine's figure counts on, or ours.",
        counter_h=round(used_h, 1),
        ours_h=round(ours, 1),
        of_life=counted.is_life,
    )


def _write_counter(
    journal: Journal,
    item: Item,
    machine: Machine,
    slot: str,
    at: datetime,
    used_h: float,
    *,
    typed: float,
    unit: str,
    sense: str,
    trusted: bool | None = None,
) -> Entry:
    return journal.tell(
        Counter,
        at,
        machine=machine,
        slot=slot,
        item=item,
        used_h=used_h,
        typed=typed,
        unit=unit,
        sense=sense,
        trusted=trusted,
    )
