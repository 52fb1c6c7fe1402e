"""Wear over HTTP."""

from datetime import date
from uuid import UUID

from care.items import State
from care.shelf.wear import Course, LineFigures
from care.units import Scale
from care.vocabulary import Found, Meter
from server.base import bounds
from server.base.schema import Schema
from server.due.schemas import DueOut, due_out
from server.wear.services import Gauge, Wear


class MeasureIn(Schema):
    """What was measured on a part, in a unit or else in the scale of the measure; today without a day."""

    measure: bounds.Key
    value: bounds.Amount
    unit: bounds.Key = ""
    day: bounds.Day | None = None


class WearPointOut(Schema):
    """One reading: after how many hours in use [h], on which day; its entry, if it may be undone here."""

    entry_id: UUID | None
    used_h: float
    day: date
    value: float


class GaugeOut(Schema):
    """A measure of a part, its readings, and the line through them: figure at no hours and for an hour more."""

    key: str
    name: str
    how: str
    why: str
    scale: Scale
    units: list[str]
    points: list[WearPointOut]
    course: Course | None
    new: float | None
    limit: float | None
    at_zero: float | None
    per_hour: float | None
    reaches: DueOut | None
    because: LineFigures | None


class WearFoundOut(Schema):
    """What was found of its life, on a day."""

    day: date
    found: Found


class WearOut(Schema):
    """One part: where it is, its use, what was found and measured, how far through its life it is [-].

    None of a life that only what is found decides.
    """

    item_id: UUID
    name: str
    slot: str
    slot_name: str
    state: State
    since: date | None
    used_h: float
    runs: float
    washes: int
    cleanings: int
    found: list[WearFoundOut]
    gauges: list[GaugeOut]
    life: float | None
    life_due: DueOut | None
    recovers_no_more: bool
    recovery_first: float | None
    recovery_lately: float | None
    why_gone: str


class WearsOut(Schema):
    """The parts of a machine that are renewed."""

    machine_id: UUID
    machine: str
    today: date
    parts: list[WearOut]


class WearWritten(Schema):
    """The wear after something was measured, and the entry to undo."""

    entry_id: UUID
    wear: WearsOut


def _gauge(gauge: Gauge) -> GaugeOut:
    measure, found = gauge.measure, gauge.trend
    return GaugeOut(
        key=measure.key,
        name=measure.name,
        how=measure.how,
        why=measure.why,
        scale=measure.scale,
        units=list(measure.units),
        points=[
            WearPointOut(entry_id=entry, used_h=round(p.used_h, 1), day=p.day, value=p.value)
            for entry, p in gauge.points
        ],
        course=found.course if found else None,
        new=found.new if found else measure.new,
        limit=found.limit if found else measure.limit,
        at_zero=found.at_zero if found else None,
        per_hour=found.per_hour if found else None,
        reaches=due_out(found.reaches) if found else None,
        because=found.because if found else None,
    )


def wear_out(wear: Wear) -> WearOut:
    """One part."""
    back = wear.recovery
    clocks = wear.life.clocks if wear.life else ()
    counted = bool(clocks) and clocks[0].meter is not Meter.CONDITION
    return WearOut(
        item_id=wear.item.id,
        name=wear.item.name,
        slot=wear.slot.key,
        slot_name=wear.slot.name,
        state=wear.item.state,
        since=wear.since,
        used_h=round(wear.used_h, 1),
        runs=wear.runs,
        washes=wear.item.wash_count,
        cleanings=wear.item.cleanings,
        found=[WearFoundOut(day=day, found=found) for day, found in wear.found],
        gauges=[_gauge(one) for one in wear.gauges],
        life=round(wear.life.share, 3) if wear.life and counted else None,
        life_due=due_out(wear.life.due) if wear.life else None,
        recovers_no_more=bool(back and back.falling),
        recovery_first=back.first if back else None,
        recovery_lately=round(back.lately, 1) if back else None,
        why_gone=wear.why_gone,
    )
