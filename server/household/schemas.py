"""What the session endpoints take and give."""

from uuid import UUID

from care.vocabulary import LoadKind
from server.base import bounds
from server.base.schema import Schema


class SignIn(Schema):
    """A sign-in."""

    user_name: bounds.Line
    password: bounds.Secret


class SentOut(Schema):
    """Whether a write that was sent under an id was recorded, and the entry that undoes it."""

    recorded: bool
    entry_id: UUID | None = None


class MemberOut(Schema):
    """The signed-in member."""

    id: UUID
    name: str
    role: str
    may_write: bool
    household: str
    time_zone: str
    units: str


class DemoSignIn(Schema):
    """The sign-in of the demo household, shown on its own sign-in page."""

    user_name: str
    password: str


class SessionOut(Schema):
    """Who is signed in, if anybody."""

    member: MemberOut | None
    demo: DemoSignIn | None = None


class MoreLoadIn(Schema):
    """A time of more load than usual."""

    kind: LoadKind
    first: bounds.Day
    last: bounds.Day
    level: bounds.Share
    note: bounds.Remark = ""
