"""Measured air of drying places, as rows."""

from datetime import datetime
from uuid import UUID

from django.db.models import QuerySet

from care.heard.sense import AIR_HOLDS_FOR, AIR_KEPT_EVERY, same_air
from care.household import DryingPlace
from server.logbook.services import standing
from server.machines.models import AirReading


def dries_in(name: str, temp_c: float, rh_pct: float) -> DryingPlace:
    """A place with this air, as far as drying is told for it: from 0 to 40 degC and 5 to 98 %."""
    return DryingPlace(name, min(40.0, max(0.0, temp_c)), min(98.0, max(5.0, rh_pct)))


def measured_air(household_id: UUID, place: str, at: datetime) -> DryingPlace | None:
    """The air of a place as it was measured last before an instant; None where that is too long ago, or never."""
    last = _of(household_id, place).filter(entry__happened_at__range=(at - AIR_HOLDS_FOR, at)).last()
    return dries_in(place, last.temp_c, last.rh_pct) if last else None


def says_nothing_new(household_id: UUID, air: DryingPlace, at: datetime) -> bool:
    """Whether the air of a place at an instant is as it was kept last, at most three hours before."""
    last = _of(household_id, air.name).filter(entry__happened_at__range=(at - AIR_KEPT_EVERY, at)).last()
    return last is not None and same_air(air, dries_in(air.name, last.temp_c, last.rh_pct))


def _of(household_id: UUID, place: str) -> QuerySet[AirReading]:
    return standing(AirReading.objects.of(household_id).filter(place=place))
