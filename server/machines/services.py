"""Finding machines and parts of the household."""

from collections.abc import Iterable
from datetime import UTC, date, datetime, time, timedelta
from typing import cast
from uuid import UUID

from care import model as core
from care.errors import InvalidValue
from care.parts import Slot
from server.base import clock
from server.base.problems import Conflict
from server.household.models import Member
from server.household.services import today_of, zone_of
from server.logbook.services import standing
from server.machines import records
from server.machines.models import Fitting, Item, Machine, NotKnown, StatusChange
from server.machines.signals import changing


def machine_of(member: Member, machine_id: UUID) -> Machine:
    """The member's machine. Raises `NotFound`."""
    row: Machine = Machine.objects.one(member.household_id, machine_id, "machine")
    return row


def in_use(member: Member) -> list[Machine]:
    """The machines that the household uses, by name."""
    return list(Machine.objects.of(member.household_id).filter(status=Machine.Status.IN_USE).order_by("name"))


def core_machines(member: Member) -> list[core.Machine]:
    """The machines the household uses as the core has them, without what sits in them."""
    rows = in_use(member)
    docks = [row for row in rows if row.serves_id is not None]
    return [records.to_machine(row, [], [dock for dock in docks if dock.serves_id == row.pk]) for row in rows]


def as_fitted(member: Member, machine_id: UUID) -> core.Machine:
    """A machine with what sits in its places now; nothing is worked out of how it stands. Raises `NotFound`."""
    row = machine_of(member, machine_id)
    sits = Fitting.objects.of(member.household_id).filter(machine=row, end=None)
    docks = Machine.objects.of(member.household_id).filter(serves=row, status=row.status)
    return records.to_machine(row, [records.to_fitting(one) for one in sits], docks)


def with_dock(member: Member, machine_id: UUID) -> tuple[core.Machine, ...]:
    """A machine in use and its dock, without what sits in them; of a dock, the robot that it serves, and the dock.

    Raises `NotFound`, and `Conflict` for a machine that is put away.
    """
    row = machine_of(member, machine_id)
    in_use = Machine.objects.of(member.household_id).filter(status=Machine.Status.IN_USE)
    mine = in_use.filter(pk=row.serves_id or row.pk).first() or in_use.filter(pk=row.pk).first()
    if mine is None:
        raise Conflict(f"machine: {row.name} is not in use", field="machine_id", fix="Take it back into use first.")
    docks = list(in_use.filter(serves=mine).order_by("name")[:1])
    return (records.to_machine(mine, [], docks), *(records.to_machine(dock, [], []) for dock in docks))


def about_to_change(member: Member, machine_ids: Iterable[UUID], field: str) -> None:
    """Ask whether these machines may change now otherwise than on a sheet. Raises `Conflict`, which names `field`."""
    changing.send(sender=Machine, household_id=member.household_id, machine_ids=list(machine_ids), field=field)


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
    """The instant, in UTC, of a time of day of the household on a day, or today."""
    return datetime.combine(day or today_of(member), at, tzinfo=zone_of(member)).astimezone(UTC)


def last_time(member: Member, day: date | None, at: time) -> datetime:
    """A time of day of the household on a day; without one, the last time that it was so late: just after midnight a
    start at 23:30 was yesterday's.
    """
    moment = local_time(member, day, at)
    return (
        moment if day is not None or moment <= clock.now() else local_time(member, today_of(member) - timedelta(1), at)
    )


def noon(day: date, member: Member) -> datetime:
    """Local noon of a day, or now where that is still to come: when something happened whose hour nobody knows."""
    return min(local_time(member, day, time(12)), clock.now())


def told_at(member: Member, machine: Machine, day: date | None) -> datetime:
    """When something happened that is told of a local day of a machine: now if it is today, else at noon.

    Raises `InvalidValue` for a day to come, and for one before the machine's first where that is known.
    """
    today = today_of(member)
    if day is None or day == today:
        return clock.now()
    if day > today:
        raise InvalidValue("day: this day is still to come", field="day", fix="Choose today or an earlier day.")
    refuse_before(member, machine, day)
    return noon(day, member)


def refuse_before(member: Member, machine: Machine, day: date) -> None:
    """Refuse a day before the machine was new. Raises `InvalidValue`; where nobody knows its age, any day may be."""
    first = machine.set_up.happened_at.astimezone(zone_of(member)).date()
    if day >= first or NotKnown.objects.of(member.household_id).filter(machine=machine, life=True).exists():
        return
    raise InvalidValue(
        f"day: {machine.name} is on record since {first}, when it was new",
        field="day",
        fix=f"Choose {first} or a later day.",
    )


def refuse_out_of_use(member: Member, machine: Machine, day: date) -> None:
    """Refuse that a machine ran on a day on which it was lent, put away or gone. Raises `Conflict`."""
    if machine.status == Machine.Status.IN_USE:
        return
    last = standing(StatusChange.objects.of(member.household_id).filter(machine=machine)).last()
    since = last.entry.happened_at.astimezone(zone_of(member)).date() if last else None
    if since is None or day >= since:
        raise Conflict(
            f"machine_id: {machine.name} is {machine.get_status_display()}",
            field="machine_id",
            fix="Take it back into use first, in its settings.",
        )


def machines_of(member: Member, machine_ids: Iterable[UUID]) -> dict[UUID, Machine]:
    """The member's machines with these ids, in their order. Raises `NotFound` where one is missing."""
    ids = list(machine_ids)
    rows = Machine.objects.of(member.household_id).in_bulk(ids)
    return {machine_id: rows.get(machine_id) or machine_of(member, machine_id) for machine_id in ids}


def last_moves(member: Member, item_ids: Iterable[UUID]) -> dict[UUID, datetime | None]:
    """When the records last moved these items; one that is not on record is left out."""
    rows = Item.objects.of(member.household_id).filter(pk__in=list(item_ids))
    return dict(rows.values_list("pk", "moved_at"))


def fitted_slots(household_id: UUID, machine_ids: Iterable[UUID]) -> set[tuple[UUID, str]]:
    """The places of these machines that hold a part: (machine, slot)."""
    rows = Fitting.objects.of(household_id).filter(machine__in=list(machine_ids), end=None)
    return set(rows.values_list("machine_id", "slot"))
