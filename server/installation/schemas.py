"""What operations about the installation take and give."""

from datetime import datetime

from server.base.backup import Backup, Inside
from server.base.schema import Schema


class CopyOut(Schema):
    """A copy of everything: its size in bytes."""

    name: str
    at: datetime
    size: int


class CopiesOut(Schema):
    """All copies, the newest first, where they are kept, and whether one is made each night."""

    folder: str
    nightly: bool
    copies: list[CopyOut]


class HouseholdInside(Schema):
    """A household in a copy."""

    name: str
    machines: int


class InsideOut(Schema):
    """What a copy holds."""

    households: list[HouseholdInside]
    records: int
    last_record: str | None


class RestoredOut(Schema):
    """What was there before, as a copy that undoes it."""

    before: CopyOut | None


class HealthOut(Schema):
    """Whether it runs and reads its records; nothing of what is in them."""

    well: bool
    version: str


def copy_out(copy: Backup) -> CopyOut:
    """As it is told."""
    return CopyOut(name=copy.file.name, at=copy.at, size=copy.size)


def inside_out(inside: Inside) -> InsideOut:
    """As it is told."""
    households = [HouseholdInside(name=name, machines=machines) for name, machines in inside.households]
    return InsideOut(households=households, records=inside.records, last_record=inside.last_record)
