"""What operations about documents and tables take and give."""

from uuid import UUID

from server.base.schema import Schema
from server.document.bringing_in import Brought
from server.document.runs import RunsBrought


class PersonOfFile(Schema):
    """Somebody of a household in a file."""

    id: UUID
    name: str


class FromFileOut(Schema):
    """What bringing a file in does, or did."""

    household_id: UUID
    name: str
    new: bool
    people: list[PersonOfFile]
    added: dict[str, int]
    known: int
    without_picture: int
    stays: list[str]


def brought_out(brought: Brought) -> FromFileOut:
    """As it is told."""
    return FromFileOut(
        household_id=brought.household_id,
        name=brought.name,
        new=brought.new,
        people=[PersonOfFile(id=pk, name=name) for pk, name in brought.people],
        added=brought.added,
        known=brought.known,
        without_picture=brought.without_picture,
        stays=list(brought.stays),
    )


class RunsOut(Schema):
    """What a table of runs brings, or brought; `entry_id` undoes it."""

    added: dict[str, int]
    known: int
    entry_id: UUID | None


def runs_out(brought: RunsBrought) -> RunsOut:
    """As it is told."""
    return RunsOut(added=brought.added, known=brought.known, entry_id=brought.entry.pk if brought.entry else None)
