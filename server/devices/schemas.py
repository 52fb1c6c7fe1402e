"""What operations about devices take and give."""

from datetime import datetime
from typing import Literal
from uuid import UUID

from care.heard.falls import Fall
from care.heard.sense import Doubt
from care.units import READINGS, Quantity
from server.base import bounds
from server.base.schema import Schema
from server.devices.held import Asked
from server.devices.ingest import Answer, Status
from server.devices.lines import MAY
from server.devices.models import Device
from server.drying.rack import OnRack
from server.faults.case_schemas import SaidOut
from server.machines.models import Machine

Kind = Literal["machine", "gauge", "scale", "climate"]


class DeviceIn(Schema):
    """A device to connect: of one machine, or of one drying place; a scale is of what hangs on the rack."""

    kind: Kind
    name: bounds.Name
    machine_id: UUID | None = None
    place: bounds.Name = ""


class DeviceOut(Schema):
    """A device that may post: of what, what it may post, when it did last."""

    id: UUID
    kind: Kind
    name: str
    machine_id: UUID | None
    machine: str | None
    place: str
    posts: list[str]
    made_at: datetime
    seen_at: datetime | None
    weighs: UUID | None


class OnScaleOut(Schema):
    """A part that dries."""

    id: UUID
    name: str


class HeldOut(Schema):
    """What a device said that nobody believes yet: how often, since when, why; `entry_ids` answer all of it at once.

    `parts` are those that may lie on a scale; `line` tells the last of it as it came.
    """

    entry_ids: list[UUID]
    device: str
    machine_id: UUID | None
    machine: str | None
    place: str
    doubt: Doubt
    why: str
    times: int
    since: datetime
    last: datetime
    parts: list[OnScaleOut]
    may_count: bool


class FallOut(Schema):
    """A figure of a machine that fell, by which share; from what to what, in the unit; when it was best."""

    machine_id: UUID
    machine: str
    quantity: Quantity
    share: float
    before: float
    now: float
    unit: str
    best_from: datetime
    best_until: datetime


class RanWithoutOut(Schema):
    """A machine that ran by its own word since a part that it needs is out: which, how often, when last."""

    machine_id: UUID
    machine: str
    part: str
    times: int
    last: datetime


class FromDevicesOut(Schema):
    """What devices told that somebody should see: what ran without a part, what is asked, what fell, what was said and
    stands nowhere else.
    """

    ran_without: list[RanWithoutOut]
    asked: list[HeldOut]
    falls: list[FallOut]
    said: list[SaidOut]


class ReporterOut(Schema):
    """A machine that a device may speak of; a dock counts with its robot, so only a gauge speaks of one."""

    id: UUID
    name: str
    is_dock: bool


class DevicesOut(Schema):
    """The devices of the household, what is asked about them, and what others could speak of."""

    devices: list[DeviceOut]
    heard: FromDevicesOut
    machines: list[ReporterOut]
    places: list[str]


class TokenOut(Schema):
    """A device that was connected, with its token, which nobody shows again: as text, and as rows of a code."""

    device: DeviceOut
    token: str
    address: str
    rows: list[str]
    only_here: bool
    devices: DevicesOut


class WeighsIn(Schema):
    """Which drying part lies on the scale; none: it tells by its weight."""

    item_id: UUID | None


class HeldCountIn(Schema):
    """What of a device counts after all: which part was weighed, or whether the machine's own count goes on."""

    entry_ids: bounds.Many[UUID]
    item_id: UUID | None = None
    trusted: bool | None = None


class HeldDropIn(Schema):
    """What of a device does not count."""

    entry_ids: bounds.Many[UUID]


class IngestLineOut(Schema):
    """A line that was not simply taken: which (from 1), under its id, what became of it, what is wrong, the way out."""

    line: int
    id: str
    status: Literal["held", "refused", "again"]
    field: str
    problem: str
    fix: str


class IngestOut(Schema):
    """What became of the lines: how many of each, and those that were not simply taken. Send `again` what says so."""

    taken: int
    known: int
    held: int
    refused: int
    again: int
    lines: list[IngestLineOut]


def ingest_out(answers: list[Answer]) -> IngestOut:
    """What became of lines."""
    count = {status.value: sum(one.status is status for one in answers) for status in Status}
    named = [one for one in answers if one.status not in (Status.TAKEN, Status.KNOWN)]
    return IngestOut(**count, lines=[IngestLineOut.model_validate(one) for one in named])


def device_out(row: Device) -> DeviceOut:
    """A device."""
    return DeviceOut(
        id=row.pk,
        kind=row.kind,
        name=row.name,
        machine_id=row.machine_id,
        machine=row.machine.name if row.machine else None,
        place=row.place,
        posts=list(MAY[row.kind]),
        made_at=row.made_at,
        seen_at=row.seen_at,
        weighs=row.weighs_id,
    )


NEVER = (Doubt.ODD_AIR,)
"""What cannot count, whoever says so: there is only dropping it."""


def asked_out(one: Asked, on_rack: list[OnRack]) -> HeldOut:
    """Something that is asked about."""
    weighed = on_rack if one.doubt in (Doubt.WHICH_PART, Doubt.TOO_LIGHT) else []
    return HeldOut(
        entry_ids=[row.pk for row in one.rows],
        device=one.name,
        machine_id=one.machine.pk if one.machine else None,
        machine=one.machine.name if one.machine else None,
        place=one.place,
        doubt=one.doubt,
        why=one.last.why,
        times=len(one.rows),
        since=one.since,
        last=one.last.entry.happened_at,
        parts=[OnScaleOut(id=on.item.id, name=f"{on.item.name}, {on.machine_name}") for on in weighed],
        may_count=one.doubt not in NEVER,
    )


def fall_out(of: Machine, quantity: Quantity, fell: Fall) -> FallOut:
    """A figure that fell."""
    unit = {Quantity.AREA: "m2", Quantity.CHARGE: "min"}[quantity]
    before, now = (round(READINGS[quantity].in_unit(value, unit), 1) for value in (fell.before, fell.now))
    return FallOut(
        machine_id=of.pk,
        machine=of.name,
        quantity=quantity,
        share=round(fell.share, 3),
        before=before,
        now=now,
        unit=unit,
        best_from=fell.best_from,
        best_until=fell.best_until,
    )
