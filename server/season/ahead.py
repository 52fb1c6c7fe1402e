"""What the last plan says of the next days, without planning: for Round, which asks at every step."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date

from care.season import ChoreKey
from server.household.models import Member
from server.household.services import today_of
from server.season.models import LastPlan
from server.season.records import doing_of, habits_of


@dataclass(frozen=True, slots=True)
class Ahead:
    """The visits that were planned: today's minutes (None: no visit), the next day with one and its minutes [min], and
    on which day each chore comes next. `stale` tells that the plan is not of today.
    """

    today_min: float | None
    next_on: date | None
    next_min: float
    comes_on: Mapping[ChoreKey, date]
    stale: bool


def ahead(member: Member) -> Ahead | None:
    """What was planned; None where the household told nothing of its days."""
    if habits_of(member) is None:
        return None
    today = today_of(member)
    row = LastPlan.objects.of(member.household_id).first()
    if row is None:
        return Ahead(None, None, 0.0, {}, stale=True)
    visits = [(date.fromisoformat(day), float(minutes)) for day, minutes in row.visits]
    coming = [one for one in visits if one[0] > today]
    comes_on = {key: min(days) for key, days in doing_of(row).items() if days}
    next_on, next_min = coming[0] if coming else (None, 0.0)
    return Ahead(dict(visits).get(today), next_on, next_min, comes_on, stale=row.made_on != today)
