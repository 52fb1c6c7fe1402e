"""The Log over HTTP."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date
from itertools import islice
from typing import Annotated, Literal
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router

from care.errors import InvalidValue
from server.base import bounds
from server.base.csv_out import csv_file
from server.base.http import Problem
from server.base.schema import Schema
from server.household.auth import asking
from server.household.models import Member
from server.log import services
from server.log.finding import Place, Wanted
from server.log.names import Names
from server.log.schemas import (
    LogChoicesOut,
    LogOpenedOut,
    LogPageOut,
    StatisticsOut,
    choices_out,
    opened_out,
    page_out,
    place_of,
    statistics_out,
)
from server.log.statistics import statistics

router = Router(tags=["log"])
MOST_LINES = 50_000
"""So many records go into one table."""


class Asked(Schema):
    """What the Log is asked for."""

    machine: UUID | None = None
    slot: bounds.Key = ""
    by: UUID | None = None
    group: Literal["", "runs", "work", "looks", "drying", "readings", "faults", "notes", "shelf", "settings"] = ""
    first: bounds.Day | None = None
    last: bounds.Day | None = None
    words: bounds.Line = ""
    undone: bool = False

    def wanted(self) -> Wanted:
        """As the services take it."""
        return Wanted(self.machine, self.slot, self.by, self.group, self.first, self.last, self.words, self.undone)


@router.get("/log", response={200: LogPageOut, 422: Problem}, operation_id="log_page")
def page(request: HttpRequest, asked: Annotated[Asked, Query()], before: bounds.Line = "") -> LogPageOut:
    """A page of what is asked for, the newest first."""
    return page_out(services.page(asking(request), asked.wanted(), _place(before)))


@router.get("/log/records/{entry_id}", response={200: LogOpenedOut, 404: Problem}, operation_id="log_opened")
def opened(request: HttpRequest, entry_id: UUID) -> LogOpenedOut:
    """What was recorded together with this record, in the order of entering."""
    return opened_out(services.opened(asking(request), entry_id))


def _place(before: str) -> Place | None:
    try:
        return Place(*place_of(before)) if before else None
    except ValueError as error:
        raise InvalidValue("before: this is no end of a page", field="before", fix="Load the page again.") from error


@router.get("/log/choices", response=LogChoicesOut, operation_id="log_choices")
def choices(request: HttpRequest) -> LogChoicesOut:
    """All that the Log can be asked for."""
    return choices_out(Names(asking(request).household_id))


@router.get("/log/statistics", response=StatisticsOut, operation_id="log_statistics")
def year(request: HttpRequest) -> StatisticsOut:
    """The last twelve months, and what helped."""
    return statistics_out(statistics(asking(request)))


@dataclass(frozen=True, slots=True)
class LogRow:
    """A record as a line of a table."""

    day: date
    machine: str
    what: str
    by: str


@router.get("/log.csv", response={200: None}, operation_id="log_csv")
def as_csv(request: HttpRequest, asked: Annotated[Asked, Query()]) -> HttpResponse:
    """What is asked for as a table: a line for each record, the newest first."""
    return csv_file("log", LogRow, islice(_rows(asking(request), asked.wanted()), MOST_LINES))


def _rows(member: Member, wanted: Wanted) -> Iterator[LogRow]:
    return (LogRow(one.day, one.machine, one.words, one.by) for one in services.every(member, wanted))
