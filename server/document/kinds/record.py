"""What every record of a document has, and the ids it may name."""

from typing import Annotated, Literal
from uuid import UUID

from pydantic import BaseModel, ConfigDict, Field

from server.base import bounds


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
