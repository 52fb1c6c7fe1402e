"""What the Log tells."""

from datetime import date, datetime
from uuid import UUID

from server.base.schema import Schema
from server.log.finding import GROUPS
from server.log.names import Names
from server.log.services import Opened, Page
from server.log.statistics import Statistics


class LogRecordOut(Schema):
    """One record of an action."""

    entry_id: UUID
    machine: str
    words: str
    day: date


class LogOpenedOut(Schema):
    """The records that a line opens on; of very many only the first, and how many there are."""

    records: list[LogRecordOut]
    count: int


class LogLineOut(Schema):
    """An action in one line, which opens on its records."""

    entry_id: UUID
    day: date
    by: str
    words: str
    count: int
    sheet_id: UUID | None
    correction: bool
    undone_by: str | None
    reason: str


class LogPageOut(Schema):
    """A page of the Log; `next`: how the next one is asked for."""

    lines: list[LogLineOut]
    next: str | None


class LogChoiceOut(Schema):
    """Something that the Log can be asked for."""

    key: str
    name: str


class LogMachineOut(Schema):
    """A machine with its places."""

    id: UUID
    name: str
    places: list[LogChoiceOut]


class LogChoicesOut(Schema):
    """All that the Log can be asked for."""

    machines: list[LogMachineOut]
    people: list[LogChoiceOut]
    groups: list[LogChoiceOut]


class MonthOut(Schema):
    """A month of the household."""

    month: date
    sittings: int
    minutes: int
    run_hours: float
    cleaned: int
    renewed: int


class HelpedOut(Schema):
    """What put a fault right, and how often."""

    cause: str
    times: int


class StatisticsOut(Schema):
    """The last twelve months, and what helped."""

    months: list[MonthOut]
    helped: list[HelpedOut]


def page_out(page: Page) -> LogPageOut:
    """As it is told."""
    next_ = f"{page.next.at.isoformat()}|{page.next.sequence}" if page.next else None
    return LogPageOut(lines=[LogLineOut.model_validate(one, from_attributes=True) for one in page.lines], next=next_)


def opened_out(opened: Opened) -> LogOpenedOut:
    """As it is told."""
    return LogOpenedOut.model_validate(opened, from_attributes=True)


def place_of(text: str) -> tuple[datetime, int]:
    """What `next` said. Raises `ValueError` for anything else."""
    at, _, sequence = text.partition("|")
    moment = datetime.fromisoformat(at)
    if moment.tzinfo is None:
        raise ValueError(text)
    return moment, int(sequence)


def choices_out(names: Names) -> LogChoicesOut:
    """All that can be asked for."""
    return LogChoicesOut(
        machines=[
            LogMachineOut(
                id=pk,
                name=name,
                places=[LogChoiceOut(key=key, name=place) for key, place in names.places[pk].items()],
            )
            for pk, name in names.machines.items()
        ],
        people=[LogChoiceOut(key=str(pk), name=name) for pk, name in names.people.items()],
        groups=[LogChoiceOut(key=key, name=word) for key, (word, _) in GROUPS.items()],
    )


def statistics_out(statistics: Statistics) -> StatisticsOut:
    """As they are told."""
    return StatisticsOut.model_validate(statistics, from_attributes=True)
