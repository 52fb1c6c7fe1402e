"""What a document says of searches for faults, of what machines said and devices measured."""

from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import StringConstraints

from care.heard.sense import Doubt
from care.vocabulary import Says
from server.base import bounds
from server.devices.models import DeviceChange, DeviceKind
from server.document.kinds.record import MachineId, Record, RecordId


class CaseRecord(Record):
    """How a search for a fault ended."""

    what: Literal["case"]
    machine_id: MachineId
    case_id: UUID
    symptoms: list[Any]
    causes: list[Any]
    stand: bounds.Key
    reason: bounds.Line = ""


class SaidRecord(Record):
    """What a machine said of itself: a word of the list (docs/devices.md), its own words; at which case it stands."""

    what: Literal["said"]
    machine_id: MachineId
    code: Says | Literal[""] = ""
    words: bounds.Line = ""
    case_id: UUID | None = None


class DeviceRecord(Record):
    """A device may post, or may not any more. Its token is no part of a household."""

    what: Literal["device"]
    change: DeviceChange.What
    name: bounds.Name
    kind: DeviceKind
    machine_id: MachineId | None = None
    place: bounds.Name = ""


class HeldRecord(Record):
    """What a device said (docs/devices.md) and nobody believes yet, and why."""

    what: Literal["held"]
    device_id: UUID
    name: bounds.Name
    kind: DeviceKind
    machine_id: MachineId | None = None
    place: bounds.Name = ""
    doubt: Doubt
    why: Annotated[str, StringConstraints(max_length=300)]
    line: dict[str, Any]


class SettledRecord(Record):
    """What somebody said of a line that was held apart: whether it counts. What came of it is of the same action."""

    what: Literal["settled"]
    held_id: RecordId
    counts: bool
