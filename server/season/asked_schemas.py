"""What somebody asks of a season, over HTTP: days, minutes, wishes."""

from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field

from care.season import ChoreKey, Hands
from care.vocabulary import Action, Skill
from server.base import bounds
from server.base.schema import Schema
from server.season.records import Habits, Weighing

DayMinutes = Annotated[float, Field(ge=5, le=480, allow_inf_nan=False)]
"""Minutes that somebody has on a day [min]."""


FewMinutes = Annotated[float, Field(ge=0, le=240, allow_inf_nan=False)]
"""What something is weighed as [min]."""


HourValue = Annotated[int, Field(ge=0, le=50_000)]
"""What an hour is worth [hundredths of the household's money]."""


class HandsIn(Schema):
    """Somebody who has time: on which weekdays, how many minutes, how far they go."""

    who: bounds.Name
    weekdays: Annotated[list[bounds.Weekday], Field(min_length=1, max_length=7)]
    minutes: DayMinutes
    skill: Skill


class HabitsIn(Schema):
    """On which days a household likes visits, from what time of day on, what its season is weighed by."""

    hands: Annotated[list[HandsIn], Field(min_length=1, max_length=8)]
    at: bounds.Clock
    visit_min: FewMinutes
    wait_min: FewMinutes
    hour_value: HourValue

    def habits(self) -> Habits:
        """As a value. Raises `InvalidValue`."""
        hands = tuple(Hands(one.who.strip(), tuple(one.weekdays), one.minutes, one.skill) for one in self.hands)
        return Habits(hands, self.at, Weighing(self.visit_min, self.wait_min, self.hour_value))


class ChoreIn(Schema):
    """A chore: a task of a part that comes again and again."""

    machine_id: UUID
    slot: bounds.Key
    action: Action

    def key(self) -> ChoreKey:
        """As a key."""
        return ChoreKey(self.machine_id, self.slot, self.action)


class WishIn(Schema):
    """Something asked of the season, from `first` to `last`, both included."""

    what: Literal["on", "no_visit", "leave_out"]
    first: bounds.Day
    last: bounds.Day
    chores: bounds.Many[ChoreIn] = []
    note: bounds.Remark = ""


def habits_out(habits: Habits) -> HabitsIn:
    """What a household told, as it would tell it again."""
    return HabitsIn(
        hands=[HandsIn(who=h.who, weekdays=list(h.weekdays), minutes=h.minutes, skill=h.skill) for h in habits.hands],
        at=habits.at,
        visit_min=habits.weighing.visit_min,
        wait_min=habits.weighing.wait_min,
        hour_value=habits.weighing.hour_value,
    )
