"""The air of a drying place as a device measures it: what hangs there goes on drying in it from its hour on."""

from datetime import datetime
from uuid import UUID

from django.db import transaction

from care.bench.drying import Stay
from care.heard.sense import same_air
from care.household import DryingPlace
from server.drying.services import WET, job_of, places_of, rest_again
from server.household.models import Member
from server.household.services import journal_beside, journal_by, require_writer
from server.logbook.models import Entry
from server.machines import models
from server.machines.air import dries_in, says_nothing_new


def place_called(member: Member, name: str) -> DryingPlace | None:
    """The drying place of that name, if the household has told of it."""
    return next((p for p in places_of(member.household_id) if p.name.lower() == name.strip().lower()), None)


@transaction.atomic
def tell_air(*, member: Member, place: str, temp_c: float, rh_pct: float, at: datetime, entry_id: UUID) -> Entry | None:
    """The air of a place at an instant [degC, %]; None where it is as it was known, and nothing is kept.

    Parts that hung there then go on in that air, late and out of order as it may come.
    """
    require_writer(member)
    air = dries_in(place, temp_c, rh_pct)
    if says_nothing_new(member.household_id, air, at):
        return None
    journal = journal_beside(member, "air")  # no date waits for the air; what dries in it has entries of its own
    entry = journal.tell(models.AirReading, at, entry_id=entry_id, place=place, temp_c=temp_c, rh_pct=rh_pct)
    for row in models.Item.objects.of(member.household_id).filter(state__in=WET).select_related("home_machine"):
        stay = _hung_then(row, place, at)
        if stay is not None and stay.air is not None and not same_air(air, stay.air):
            its = journal_by(member, row.home_machine_id, action_id=journal.action_id)
            its.tell(
                models.Hung,
                at,
                item_id=row.pk,
                place=place,
                temp_c=air.temp_c,
                rh_pct=air.rh_pct,
                pressed=stay.pressed,
                moving=stay.moving,
                slow=stay.slow,
            )
            rest_again(its, row.pk, its.entered_at)
    return entry


def _hung_then(row: models.Item, place: str, at: datetime) -> Stay | None:
    """The stay that a wet part was in at an instant, if that was in the place; None before it was washed."""
    job = job_of(row)
    if at < job.washed_at:
        return None
    stay = next((stay for stay in reversed(job.stays) if stay.since <= at), None)
    return stay if stay is not None and stay.air is not None and stay.air.name == place else None
