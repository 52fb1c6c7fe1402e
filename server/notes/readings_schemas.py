"""What readings take and give."""

from __future__ import annotations

from datetime import datetime
from typing import Literal
from uuid import UUID

from care.faults.airflow import At
from care.units import Quantity
from server.base import bounds
from server.base.schema import Schema
from server.notes.readings import Figure, Row


class ReadingIn(Schema):
    """A reading: what of, the figure in its unit, on which opening, when in the work, on which day."""

    quantity: Quantity
    value: bounds.Amount
    unit: bounds.Key = ""
    opening: At | None = None
    moment: Literal["", "before", "after"] = ""
    day: bounds.Day | None = None

    def figure(self) -> Figure:
        """As the services take it."""
        return Figure(self.quantity, self.value, self.unit, self.opening or "", self.moment, day=self.day)


class PointOut(Schema):
    """A reading."""

    entry_id: UUID
    at: datetime
    value: float
    moment: str


class WorkOut(Schema):
    """A task done between two readings."""

    slot: str
    action: str


class BetweenOut(Schema):
    """What lies before a reading: the change since the one before it, the work meanwhile, whether that helped."""

    after: UUID
    change: float
    helped: bool | None
    work: list[WorkOut]


class ReadingRowOut(Schema):
    """Like readings of a machine."""

    quantity: Quantity
    opening: str
    unit: str
    points: list[PointOut]
    between: list[BetweenOut]


def row_out(row: Row) -> ReadingRowOut:
    """Like readings."""
    return ReadingRowOut(
        quantity=row.quantity,
        opening=row.opening,
        unit=row.unit,
        points=[PointOut.model_validate(p) for p in row.points],
        between=[
            BetweenOut(
                after=b.after,
                change=b.change,
                helped=b.helped,
                work=[WorkOut(slot=slot, action=action) for slot, action in b.work],
            )
            for b in row.between
        ],
    )
