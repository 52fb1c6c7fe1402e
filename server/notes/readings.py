"""What people measure or feel of a machine, and whether the work between two readings helped."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime
from itertools import pairwise
from uuid import UUID

from django.db import transaction

from care.errors import require
from care.faults.airflow import At
from care.heard.falls import Fall, fall
from care.units import FELT, READINGS, Quantity
from server.base import clock
from server.household.models import Member
from server.household.services import journal_by, require_writer
from server.logbook.models import Entry
from server.logbook.services import standing
from server.machines.models import Machine, Reading, Service
from server.machines.services import machine_of, told_at

SAME = 0.05
"""Readings closer together than this share are the same [-]: hands and gauges tell no more."""


@dataclass(frozen=True, slots=True)
class Figure:
    """A reading as it is taken: what of, the figure in its unit, on which opening, when in the work; `at` where its
    instant is known.
    """

    quantity: Quantity
    value: float
    unit: str = ""
    opening: str = ""
    moment: str = ""
    sheet_id: UUID | None = None
    case_id: UUID | None = None
    day: date | None = None
    at: datetime | None = None


@transaction.atomic
def take(*, member: Member, machine_id: UUID, figure: Figure, entry_id: UUID | None = None) -> Entry:
    """Record a reading, under an id where one is given. Raises `InvalidValue` naming what cannot be."""
    require_writer(member)
    value = READINGS[figure.quantity].accepted(figure.value, figure.unit)
    needs = figure.quantity is Quantity.SUCTION
    openings = [str(at) for at in At]
    require((figure.opening in openings) == needs, "opening", figure.opening, "what it drew on, for suction only")
    require(figure.moment in ("", *Reading.Moment.values), "moment", figure.moment, "before, after or none")
    machine = machine_of(member, machine_id)
    journal = journal_by(member, machine.pk)
    return journal.tell(
        Reading,
        figure.at or told_at(member, machine, figure.day),
        entry_id=entry_id,
        machine=machine,
        quantity=figure.quantity,
        value=value,
        typed=figure.value,
        unit=figure.unit,
        opening=figure.opening,
        moment=figure.moment,
        sheet_id=figure.sheet_id,
        case_id=figure.case_id,
    )


def feel_pull(*, member: Member, machine_id: UUID, felt: int, moment: str, sheet_id: UUID | None = None) -> Entry:
    """How it pulls at the floor, 1 to 5, before or after the work of a sheet. Raises `InvalidValue`."""
    low, high = (int(limit) for limit in (FELT.least, FELT.most))
    require(low <= felt <= high, "felt", felt, "1 (hardly) to 5 (as new)")
    require(moment in Reading.Moment.values, "moment", moment, "before or after")
    return take(
        member=member, machine_id=machine_id, figure=Figure(Quantity.FELT, felt, moment=moment, sheet_id=sheet_id)
    )


def pulls_of(member: Member, sheet_ids: Iterable[UUID]) -> dict[tuple[UUID, str], int]:
    """What was felt at these sheets that stands, by machine and moment; of several the last."""
    rows = Reading.objects.of(member.household_id).filter(sheet_id__in=list(sheet_ids), quantity=Quantity.FELT)
    pulls = standing(rows).values_list("machine", "moment", "value")
    return {(machine_id, moment): int(value) for machine_id, moment, value in pulls}


@dataclass(frozen=True, slots=True)
class ReadingPoint:
    """A reading in a row of like ones, in the unit it is shown in."""

    entry_id: UUID
    at: datetime
    value: float
    moment: str


@dataclass(frozen=True, slots=True)
class Between:
    """What lies between two like readings: the change [share], and the work done meanwhile, as (slot, action)."""

    after: UUID
    change: float
    work: tuple[tuple[str, str], ...]

    @property
    def helped(self) -> bool | None:
        """Whether the work made it better; None where nothing was done, or nothing changed that can be told."""
        return None if not self.work or abs(self.change) < SAME else self.change > 0


@dataclass(frozen=True, slots=True)
class Row:
    """Like readings of a machine, oldest first, with what lies between each and the one before."""

    quantity: Quantity
    opening: str
    unit: str
    points: tuple[ReadingPoint, ...]
    between: tuple[Between, ...]


def rows_of(member: Member, machine_id: UUID) -> list[Row]:
    """All readings of a machine that stand, like with like, each in the unit it was last given in."""
    machine = machine_of(member, machine_id)
    by_kind: dict[tuple[str, str], list[Reading]] = {}
    for row in standing(Reading.objects.of(member.household_id).filter(machine=machine)):
        by_kind.setdefault((row.quantity, row.opening), []).append(row)
    work = [
        (row.entry.happened_at, row.slot, row.action)
        for row in standing(Service.objects.of(member.household_id).filter(machine=machine)).exclude(action="inspect")
    ]
    return [_row(Quantity(quantity), opening, rows, work) for (quantity, opening), rows in by_kind.items()]


def _row(quantity: Quantity, opening: str, rows: list[Reading], work: list[tuple[datetime, str, str]]) -> Row:
    unit = rows[-1].unit
    points = tuple(
        ReadingPoint(row.pk, row.entry.happened_at, round(READINGS[quantity].in_unit(row.value, unit), 3), row.moment)
        for row in rows
    )
    between = []
    for before, after in pairwise(points):
        done = tuple(dict.fromkeys((slot, action) for at, slot, action in work if before.at <= at <= after.at))
        change = (after.value - before.value) / before.value if before.value else 0.0
        between.append(Between(after.entry_id, round(change, 4), done))
    return Row(quantity, opening, unit, points, tuple(between))


def clean_suction(member: Member, machine_id: UUID, opening: str) -> float | None:
    """The best suction on record for an opening [Pa], which stands for the clean machine; None without one."""
    rows = Reading.objects.of(member.household_id).filter(
        machine_id=machine_id, quantity=Quantity.SUCTION, opening=opening
    )
    return max(standing(rows).values_list("value", flat=True), default=None)


def charges_of(member: Member, machine_id: UUID) -> list[tuple[datetime, float]]:
    """How long full charges of a machine lasted [min], oldest first."""
    rows = Reading.objects.of(member.household_id).filter(machine_id=machine_id, quantity=Quantity.CHARGE)
    return [(row.entry.happened_at, READINGS[Quantity.CHARGE].in_unit(row.value, "min")) for row in standing(rows)]


FALLS = (Quantity.AREA, Quantity.CHARGE)
"""What a machine tells of itself run by run, so that a fall of it says something."""


def falls_of(member: Member, machine_id: UUID | None = None) -> list[tuple[Machine, Quantity, Fall]]:
    """What the machines in use tell of themselves and what has fallen, or of one machine only; largest fall first."""
    rows = Reading.objects.of(member.household_id).filter(quantity__in=FALLS, machine__status=Machine.Status.IN_USE)
    rows = rows.filter(machine_id=machine_id) if machine_id else rows
    series: dict[tuple[Machine, str], list[tuple[datetime, float]]] = {}
    for row in standing(rows).select_related("machine"):
        series.setdefault((row.machine, row.quantity), []).append((row.entry.happened_at, row.value))
    now = clock.now()
    found = [(of, Quantity(quantity), fell) for (of, quantity), some in series.items() if (fell := fall(some, now))]
    return sorted(found, key=lambda one: one[2].share, reverse=True)
