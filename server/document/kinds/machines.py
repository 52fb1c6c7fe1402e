"""What a document says of machines: set up, their use, mishaps, dangers, what they are worth."""

from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import Field

from care.faults.airflow import At
from care.model import Provenance, Why
from care.shelf.costs import CostBasis
from care.units import Quantity
from care.vocabulary import Ended, Mishap, Silence
from server.base import bounds
from server.document.kinds.record import MachineId, Number, Record, RecordId
from server.machines.containers import Size
from server.machines.models import Machine, Reading


class MachineRecord(Record):
    """A machine was set up; what it is stands among the machines."""

    what: Literal["machine"]


class RunRecord(Record):
    """A run [s]; `start` only if known. A measured one may stand in for a logged one, and tell what only machines know:
    floor covered [m2], the share of the battery it took [-], how often a dock emptied it, why it ended.
    """

    what: Literal["run"]
    machine_id: MachineId
    day: bounds.Day
    run_s: Annotated[float, Field(ge=0, le=86_400, allow_inf_nan=False)]
    start: bounds.Instant | None = None
    mopped: bool = False
    provenance: Provenance
    supersedes_id: RecordId | None = None
    area_m2: Number | None = None
    battery: bounds.Share | None = None
    emptied: Annotated[int, Field(ge=0, le=100)] | None = None
    ended: Ended | Literal[""] = ""


class WeekRecord(Record):
    """A machine's usual week from then on: an RRULE (empty: none), minutes, what silence means, and its dock's ways."""

    what: Literal["week"]
    machine_id: MachineId
    rule: bounds.Line
    run_min: Number
    starts: bounds.Clock | None = None
    mops: bool = False
    silence: Silence
    return_min: Number | None = None
    quiet_from: bounds.Clock | None = None
    quiet_until: bounds.Clock | None = None
    dry_h: Number | None = None


class RestRecord(Record):
    """Days on which a machine, or the whole house, did not run as usual."""

    what: Literal["rest"]
    machine_id: MachineId | None = None
    why: Why
    first: bounds.Day
    last: bounds.Day | None = None


class SettingRecord(Record):
    """A setting of a machine from then on; none: what the book says."""

    what: Literal["setting"]
    machine_id: MachineId
    key: Annotated[str, Field(max_length=130)]
    value: Any = None


class StatusRecord(Record):
    """A machine was put away, lent, sold, replaced, or is in use again."""

    what: Literal["status"]
    machine_id: MachineId
    status: Machine.Status


class MishapRecord(Record):
    """What a machine ran over or took in that it is not made for."""

    what: Literal["mishap"]
    machine_id: MachineId
    kind: Mishap


class DangerRecord(Record):
    """A danger that somebody found, or that it is over."""

    what: Literal["danger"]
    machine_id: MachineId
    danger: bounds.Key
    over: bool = False


class ReadingRecord(Record):
    """A figure of a machine, in SI and as typed, before or after some work."""

    what: Literal["reading"]
    machine_id: MachineId
    quantity: Quantity
    value: Number
    typed: Number
    unit: bounds.Key = ""
    opening: At | Literal[""] = ""
    moment: Reading.Moment | Literal[""] = ""
    sheet_id: UUID | None = None
    case_id: UUID | None = None


class SizeRecord(Record):
    """What a bag or bin holds; none: nobody says."""

    what: Literal["size"]
    machine_id: MachineId
    slot: bounds.Key
    value: Size | None = None


class WorthRecord(Record):
    """What was told of a machine's worth."""

    what: Literal["worth"]
    machine_id: MachineId
    value: CostBasis
    guarantee_until: bounds.Day | None = None
