"""What a document says of each kind of record. The JSON Schema of docs/formats.md is made from these models.

Fields are called as the columns they are kept in; `what` says which kind it is.
"""

from typing import Annotated

from pydantic import Field

from server.document.kinds.heard import CaseRecord, DeviceRecord, HeldRecord, SaidRecord, SettledRecord
from server.document.kinds.household import (
    AirRecord,
    AnswersRecord,
    HabitsRecord,
    ImportRecord,
    MoreLoadRecord,
    NoteRecord,
    PeopleRecord,
    VoidRecord,
    WishRecord,
)
from server.document.kinds.machines import (
    DangerRecord,
    MachineRecord,
    MishapRecord,
    ReadingRecord,
    RestRecord,
    RunRecord,
    SettingRecord,
    SizeRecord,
    StatusRecord,
    WeekRecord,
    WorthRecord,
)
from server.document.kinds.parts import (
    ChangedRecord,
    ClaimRecord,
    CounterRecord,
    DryCheckRecord,
    HungRecord,
    LookRecord,
    MeasuredRecord,
    MoveRecord,
    NotKnownRecord,
    ServiceRecord,
    WaitRecord,
    WeightRecord,
)
from server.document.kinds.record import MachineId, Part, PersonId, Record, RecordId, Ref
from server.document.kinds.shelf import OrderClosedRecord, OrderRecord, PricesRecord, SpareRecord, StockRecord

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

__all__ = ["AnyRecord", "MachineId", "Part", "PersonId", "Record", "RecordId", "Ref"]
