"""How long the parts of a place last, from its due state: the first of its clocks at the machine's usual pace."""

from datetime import date, timedelta
from uuid import UUID

from care.due.upkeep import speed_a_year, times_a_year
from care.due.usage import Pace
from care.due_state import DueDate, DueState
from care.kinds import Archetype
from care.model import Load
from care.parts import Slot
from care.shelf.demand import Renewal
from care.vocabulary import Meter, School

YEAR_DAYS = 365.25
FAR_DAYS = 3660
"""A life longer than this counts as no life at all [days]."""


def washes_a_year(slot: Slot, kind: Archetype, pace: Pace, load: Load, school: School) -> float:
    """How often a year a part of this place is wetted [1/year]."""
    return max((times_a_year(slot, action, kind, pace, load, school) for action in slot.wetting), default=0.0)


def renewal(machine_id: UUID, due: DueState, kind: Archetype, pace: Pace, washes: float) -> Renewal:
    """The renewals of a place from the due state of its replacing; `washes` a year bound the lives that follow."""
    speeds = {clock.meter: speed_a_year(clock.meter, kind, pace) for clock in due.clocks} | {Meter.WASHES: washes}
    lives = [clock.limit / speed * YEAR_DAYS for clock in due.clocks if (speed := speeds[clock.meter]) > 0]
    every = min((days for days in lives if days <= FAR_DAYS), default=None)
    return Renewal(machine_id, due.slot, due.due, every)


def anywhere(machine_id: UUID, slot: str, every_days: float | None, *, today: date) -> Renewal:
    """The renewals of a place that stands empty for a while: what belongs in it may be anywhere in its life."""
    due = _from_today(today, *(every_days * part for part in (0.1, 0.5, 0.9))) if every_days else None
    return Renewal(machine_id, slot, due, every_days)


def _from_today(today: date, early: float, middle: float, late: float) -> DueDate:
    first, second, third = (today + timedelta(days=int(days)) for days in (early, middle, late))
    return DueDate(first, second, third)
