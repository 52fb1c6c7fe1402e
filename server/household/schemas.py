"""What operations of the household take and give."""

from uuid import UUID

from care.vocabulary import LoadKind
from server.base import bounds
from server.base.schema import Schema


class SentOut(Schema):
    """Whether a write that was sent under an id was recorded, and the entry that undoes it."""

    recorded: bool
    entry_id: UUID | None = None


class MoreLoadIn(Schema):
    """A time of more load than usual."""

    kind: LoadKind
    first: bounds.Day
    last: bounds.Day
    level: bounds.Share
    note: bounds.Remark = ""
