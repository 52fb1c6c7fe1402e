"""What a document says of each kind of record. The JSON Schema of docs/formats.md is made from these models.

Fields are called as the columns they are kept in; `what` says which kind it is.
"""

from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from care.faults.airflow import At
from care.heard.sense import Doubt
from care.household import Profile
from care.items import MoveKind
from care.model import Provenance, Why
from care.shelf import PriceList, SparePart
from care.shelf.costs import Told
from care.units import Quantity
from care.vocabulary import Action, Ended, Found, LoadKind, Mishap, Says, School, Silence
from server.base import bounds
from server.devices.models import DeviceChange, DeviceKind
from server.machines.containers import Size
from server.machines.models import Machine, Reading
from server.people.models import PeopleChange
from server.season.models import Wish
from server.season.records import Habits
from server.shelf.models import Movement


class Ref:
    """Marks an id of something else that the document, or the household that it comes into, must hold."""

    def __init__(self, table: str) -> None:
        self.table = table


Number = Annotated[float, Field(allow_inf_nan=False, ge=-1e9, le=1e9)]
MachineId = Annotated[UUID, Ref("machines")]
PartId = Annotated[UUID, Ref("parts")]
PersonId = Annotated[UUID, Ref("people")]
RecordId = Annotated[UUID, Ref("records")]


class Part(BaseModel):
    """Anything a document is made of: a key that nobody knows is refused."""

    model_config = ConfigDict(extra="forbid")


class Record(Part):
    """Something that happened: when, when it was entered, by whom. Records of one `action_id` are undone together."""

    id: UUID
    action_id: UUID
    subject_id: UUID | None = None
    """What it moves: a machine, the shelf, the season; none: the whole household."""
    happened_at: bounds.Instant
    entered_at: bounds.Instant
    by: PersonId | None = None
    source: Literal["person", "sheet", "device"] = "person"


class MachineRecord(Record):
    """A machine was set up; what it is stands among the machines."""

    what: Literal["machine"]


class VoidRecord(Record):
    """A correction: what it voids does not count any more."""

    what: Literal["void"]
    voids: RecordId
    reason: bounds.Line = ""


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


class AirRecord(Record):
    """What a device measured of the air in a drying place [degC, %]."""

    what: Literal["air"]
    place: bounds.Name
    temp_c: Number
    rh_pct: bounds.Percent


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


class NoteRecord(Record):
    """A note on a machine or a part. Its picture, if it has one, is the file `photos/<id>.jpg` beside the document."""

    what: Literal["note"]
    machine_id: MachineId
    slot: bounds.Key = ""
    text: bounds.Text = ""
    remind_on: bounds.Day | None = None
    done_id: RecordId | None = None
    width: Annotated[int, Field(ge=0, le=20_000)] = 0
    height: Annotated[int, Field(ge=0, le=20_000)] = 0


class SizeRecord(Record):
    """What a bag or bin holds; none: nobody says."""

    what: Literal["size"]
    machine_id: MachineId
    slot: bounds.Key
    value: Size | None = None


class AnswersRecord(Record):
    """The household's answers from then on: loads [0..1], school, and what the loads were made from."""

    what: Literal["answers"]
    hair: bounds.Share
    dust: bounds.Share
    volume: bounds.Share
    school: School
    profile: Profile | None = None


class MoreLoadRecord(Record):
    """A time of more load than usual, both days included."""

    what: Literal["more_load"]
    kind: LoadKind
    first: bounds.Day
    last: bounds.Day
    level: bounds.Share
    note: bounds.Remark = ""


class HabitsRecord(Record):
    """On which days visits are liked."""

    what: Literal["season_habits"]
    value: Habits


class WishRecord(Record):
    """Something asked of the season; chores are [machine, slot, action]."""

    what: Literal["wish"]
    wish: Wish.What
    first: bounds.Day
    last: bounds.Day
    chores: list[tuple[UUID, bounds.Key, Action]] = []
    note: bounds.Remark = ""


class SpareRecord(Record):
    """A kind of spare part from then on; none: it is not kept any more."""

    what: Literal["spare"]
    spare_id: UUID
    value: SparePart | None = None


class PricesRecord(Record):
    """A supplier's price list from then on; none: it is not used any more."""

    what: Literal["prices"]
    supplier: bounds.Name
    value: PriceList | None = None


class OrderLine(Part):
    """So many of an offer: its price [cents], what is in one, and under which numbers."""

    supplier: bounds.Name
    code: bounds.Code
    name: bounds.Line
    price: bounds.Pence
    count: bounds.Count
    contents: dict[UUID, bounds.Count]
    numbers: dict[UUID, bounds.Code] = {}


class OrderRecord(Record):
    """What was ordered, the delivery [cents], and the day it is expected."""

    what: Literal["order"]
    lines: list[OrderLine]
    delivery: bounds.Pence
    expected: bounds.Day


class OrderClosedRecord(Record):
    """What had not come of an order does not come any more."""

    what: Literal["order_closed"]
    order_id: RecordId


class StockRecord(Record):
    """So many of a kind of part came in or went out."""

    what: Literal["stock"]
    spare_id: UUID
    count: Annotated[int, Field(ge=-10_000, le=10_000)]
    why: Movement.Why
    number: bounds.Code = ""
    note: bounds.Line = ""
    item_id: UUID | None = None
    order_id: RecordId | None = None


class MeasuredRecord(Record):
    """What somebody measured on a part."""

    what: Literal["measured"]
    item_id: PartId
    measure: bounds.Key
    value: Number
    typed: Number
    unit: bounds.Key


class WorthRecord(Record):
    """What was told of a machine's worth."""

    what: Literal["worth"]
    machine_id: MachineId
    value: Told
    guarantee_until: bounds.Day | None = None


class PeopleRecord(Record):
    """Somebody was let in, left, may do more or less, or is called otherwise."""

    what: Literal["people"]
    change: PeopleChange.What
    name: bounds.Remark
    before: bounds.Remark = ""
    role: Literal["", "owner", "helper", "viewer"] = ""


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


class ImportRecord(Record):
    """Something was brought in from a file."""

    what: Literal["import"]
    name: bounds.Line
    added: Annotated[int, Field(ge=0)]


AnyRecord = Annotated[
    MachineRecord | VoidRecord | RunRecord | WeekRecord | RestRecord | MoveRecord | ServiceRecord | LookRecord
    | CounterRecord | NotKnownRecord | SettingRecord | StatusRecord | MishapRecord | DangerRecord | WaitRecord
    | ClaimRecord | ChangedRecord | HungRecord | WeightRecord | DryCheckRecord | ReadingRecord | CaseRecord
    | NoteRecord | SizeRecord | AnswersRecord | MoreLoadRecord | HabitsRecord | WishRecord | SpareRecord
    | PricesRecord | OrderRecord | OrderClosedRecord | StockRecord | MeasuredRecord | WorthRecord | PeopleRecord
    | ImportRecord | AirRecord | SaidRecord | DeviceRecord | HeldRecord | SettledRecord,
    Field(discriminator="what"),
]  # fmt: skip
"""A record of any kind."""
