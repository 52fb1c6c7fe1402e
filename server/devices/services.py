"""Devices of a household: connected with a token that is shown once, disconnected, told what they weigh."""

from collections.abc import Sequence
from uuid import UUID, uuid4

from django.db import transaction

from care.errors import require
from server.base import clock, tokens
from server.base.problems import Conflict
from server.devices.models import Device, DeviceChange, DeviceKind
from server.drying.air import place_called
from server.drying.services import WET
from server.household.models import Member
from server.household.services import journal_beside, journal_by, require_owner, require_writer
from server.logbook.services import Journal
from server.machines.records import archetype_of
from server.machines.services import item_of, machine_of

OF_A_MACHINE = (DeviceKind.MACHINE, DeviceKind.GAUGE)
"""Devices that speak of one machine; a climate sensor speaks of one drying place, a scale of what hangs on the rack."""


def devices_of(member: Member) -> Sequence[Device]:
    """The devices that may post, by name."""
    rows = Device.objects.of(member.household_id).filter(ended_at=None).select_related("machine", "weighs")
    return list(rows.order_by("name", "made_at"))


def device_of(member: Member, device_id: UUID) -> Device:
    """A device that may post. Raises `NotFound`, `Conflict`."""
    row: Device = Device.objects.one(member.household_id, device_id, "device")
    if row.ended_at is not None:
        raise Conflict(f"device_id: {row.name} was disconnected", field="device_id", fix="Load the page again.")
    return row


@transaction.atomic
def connect(
    *, member: Member, kind: str, name: str, machine_id: UUID | None = None, place: str = ""
) -> tuple[Device, str]:
    """A new device of a machine or place, and its token, which is not kept. Raises `NotAllowed`, `InvalidValue`."""
    require_owner(member)
    require(kind in DeviceKind.values, "kind", kind, ", ".join(DeviceKind.values))
    require(bool(name.strip()), "name", repr(name), "what you call it")
    needs = kind in OF_A_MACHINE
    require((machine_id is not None) == needs, "machine_id", machine_id, "a machine" if needs else "none")
    machine = machine_of(member, machine_id) if machine_id else None
    if machine is not None and kind == DeviceKind.MACHINE:
        require(not archetype_of(machine).serves, "machine_id", machine.name, "the robot; its dock counts with it")
    known = place_called(member, place) if kind == DeviceKind.CLIMATE else None
    if kind == DeviceKind.CLIMATE:
        require(known is not None, "place", repr(place), "a drying place that Household knows")
    secret, digest = tokens.fresh()
    row: Device = Device.everything.create(
        id=uuid4(),
        household_id=member.household_id,
        kind=kind,
        name=name.strip(),
        machine=machine,
        place=known.name if known else "",
        digest=digest,
        made_at=clock.now(),
    )
    _note(member, row, DeviceChange.What.CONNECTED)
    return row, secret


@transaction.atomic
def disconnect(*, member: Member, device_id: UUID) -> None:
    """Its token is not good any more; what came of it stays. Raises `NotAllowed`, `NotFound`, `Conflict`."""
    require_owner(member)
    row = device_of(member, device_id)
    Device.everything.filter(pk=row.pk).update(ended_at=clock.now())
    _note(member, row, DeviceChange.What.ENDED)


def journal_of_device(member: Member, machine_id: UUID | None = None) -> Journal:
    """The entries of what a device says of its machine; of a place, or of what hangs anywhere, no machine's dates move
    before it counts.
    """
    return journal_by(member, machine_id) if machine_id else journal_beside(member, "devices")


def _note(member: Member, row: Device, what: str) -> None:
    journal_of_device(member).tell(
        DeviceChange, what=what, name=row.name, kind=row.kind, machine=row.machine, place=row.place
    )


@transaction.atomic
def weighs(*, member: Member, device_id: UUID, item_id: UUID | None) -> Device:
    """Which drying part lies on a scale from now on; None: it tells by itself. Raises `NotFound`, `InvalidValue`."""
    require_writer(member)
    row = device_of(member, device_id)
    require(row.kind == DeviceKind.SCALE, "device_id", row.name, "a scale")
    item = item_of(member, item_id) if item_id else None
    if item is not None:
        require(item.state in WET, "item_id", item.name, "a part that is drying")
    row.weighs = item
    row.save(update_fields=["weighs"])
    return row


def by_token(secret: str) -> Device | None:
    """The device with this token; None for one that was never made, or whose device was disconnected."""
    rows = Device.everything.filter(digest=tokens.digest_of(secret), ended_at=None)
    row: Device | None = rows.select_related("household", "machine").first()
    return row
