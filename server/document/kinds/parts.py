"""What a document says of parts: where they are, what was done and found, counters, what waits and dries."""

from typing import Literal
from uuid import UUID

from care.items import MoveKind
from care.vocabulary import Action, Found
from server.base import bounds
from server.document.kinds.record import MachineId, Number, PartId, Record


class MoveRecord(Record):
    """A part was taken out, washed, put in, thrown away."""

    what: Literal["move"]
    item_id: PartId
    kind: MoveKind
    machine_id: MachineId | None = None
    slot: bounds.Key = ""
    floor_h: Number = 0
    drying: bounds.Key = ""
    until: bounds.Instant | None = None
    override_by: bounds.Remark = ""
    override_reason: bounds.Line = ""
    reason: bounds.Line = ""


class OnPart(Record):
    """About a part in its place."""

    machine_id: MachineId
    slot: bounds.Key
    item_id: PartId
    sheet_id: UUID | None = None


class ServiceRecord(OnPart):
    """What was done to a part."""

    what: Literal["service"]
    action: Action


class LookRecord(OnPart):
    """What somebody found on a part."""

    what: Literal["look"]
    about: Action
    found: Found


class CounterRecord(OnPart):
    """What a machine's own counter said: hours used, and what was typed."""

    what: Literal["counter"]
    used_h: Number
    typed: Number
    unit: bounds.Key
    sense: bounds.Key
    trusted: bool | None = None


class NotKnownRecord(OnPart):
    """Nobody knows how far a part was through its interval, or with `life` through its life."""

    what: Literal["not_known"]
    life: bool


class OnTask(Record):
    """About a task of a machine."""

    machine_id: MachineId
    slot: bounds.Key
    action: Action


class WaitRecord(OnTask):
    """A task waits until a day, and why."""

    what: Literal["wait"]
    until: bounds.Day
    reason: bounds.Line


class ClaimRecord(OnTask):
    """Whoever entered it took a task on."""

    what: Literal["claim"]


class ChangedRecord(OnTask):
    """What was said when looks in a row contradicted what was believed of a task."""

    what: Literal["changed"]
    since: bounds.Instant
    changed: bool


class HungRecord(Record):
    """From then on a part hangs in a place, with its air [degC, %] and slowness [-] as they were known."""

    what: Literal["hung"]
    item_id: PartId
    place: bounds.Name
    temp_c: Number | None = None
    rh_pct: Number | None = None
    pressed: bool = False
    moving: bool = False
    slow: Number = 1.0


class WeightRecord(Record):
    """What a part weighed [g], as typed in a unit; `dry`: clean and bone dry."""

    what: Literal["weight"]
    item_id: PartId
    grams: Number
    typed: Number
    unit: bounds.Key
    dry: bool = False


class DryCheckRecord(Record):
    """Whether a part was still damp when it had dried to `share` [-] by the estimate."""

    what: Literal["dry_check"]
    item_id: PartId
    place: bounds.Name
    share: Number
    damp: bool


class MeasuredRecord(Record):
    """What somebody measured on a part."""

    what: Literal["measured"]
    item_id: PartId
    measure: bounds.Key
    value: Number
    typed: Number
    unit: bounds.Key
