"""What a household asks what if, and what it is told."""

from typing import Annotated
from uuid import UUID

from pydantic import Field

from care.household import MOST
from care.vocabulary import School
from server.base import bounds
from server.base.schema import Schema
from server.season.asked_schemas import HourValue
from server.season.whatif import Change, Figures, Now

DaysAWeek = Annotated[int, Field(ge=1, le=7)]
"""On how many days a week [1/week]."""


class RunsIn(Schema):
    """A machine that runs on so many days a week."""

    machine_id: UUID
    days: DaysAWeek


class SecondSetIn(Schema):
    """A place of a machine."""

    machine_id: UUID
    slot: bounds.Key


class ChangeIn(Schema):
    """Another way of living; what is left out stays as it is."""

    runs: bounds.Few[RunsIn] = []
    animals: Annotated[int, Field(ge=0, le=MOST["animals"])] | None = None
    long_haired: Annotated[int, Field(ge=0, le=MOST["long_haired"])] | None = None
    children: Annotated[int, Field(ge=0, le=MOST["children"])] | None = None
    carpet: bounds.Share | None = None
    school: School | None = None
    sets: bounds.Few[SecondSetIn] = []
    weekdays: Annotated[list[bounds.Weekday], Field(max_length=7)] = []
    hour_value: HourValue | None = None

    def change(self) -> Change:
        """As a value."""
        fields = self.model_dump(exclude={"runs", "sets", "weekdays", "school"})
        return Change(
            runs={one.machine_id: one.days for one in self.runs},
            sets=frozenset((one.machine_id, one.slot) for one in self.sets),
            weekdays=tuple(self.weekdays),
            school=self.school,
            **fields,
        )


class WhatIfIn(Schema):
    """Up to four ways of living."""

    changes: Annotated[list[ChangeIn], Field(min_length=1, max_length=4)]


class BandOut(Schema):
    """A figure with the values that 10 and 90 % of the futures stay below."""

    p10: float
    p50: float
    p90: float


class FiguresOut(Schema):
    """Figures of a year: hours with getting ready [h], visits, runs missed, new parts, money [hundredths]."""

    hours: BandOut
    visits: BandOut
    missed: BandOut
    parts: BandOut
    parts_cost: BandOut
    unused_cost: BandOut
    cost: BandOut


class ComparedOut(Schema):
    """A year lived otherwise, and how it differs from today's."""

    year: FiguresOut
    differs: FiguresOut


class RunnerOut(Schema):
    """A machine that runs: on how many days a week now."""

    machine_id: UUID
    name: str
    days: float


class SetOut(Schema):
    """A part that dries while its machine waits, and has no second set."""

    machine_id: UUID
    machine_name: str
    slot: str
    slot_name: str


class WhatIfStart(Schema):
    """How the household lives now, and its year: what may be changed."""

    year: FiguresOut
    currency: str
    runs: list[RunnerOut]
    sets: list[SetOut]
    animals: int
    long_haired: int
    children: int
    carpet: float
    school: School
    weekdays: list[str]
    hour_value: int


class WhatIfOut(Schema):
    """Each way of living that was asked about, in order."""

    compared: list[ComparedOut]


def what_if_start_out(year: Figures, now: Now, currency: str) -> WhatIfStart:
    """How a household lives now, as the API gives it."""
    profile = now.profile
    return WhatIfStart(
        year=FiguresOut.model_validate(year, from_attributes=True),
        currency=currency,
        runs=[
            RunnerOut(machine_id=one.machine.id, name=one.machine.name, days=one.context.pace.runs_per_week)
            for one in now.runners
        ],
        sets=[
            SetOut(
                machine_id=state.machine.id, machine_name=state.machine.name, slot=slot,
                slot_name=state.machine.archetype.slot(slot).name,
            )
            for state, slot in now.sets
        ],
        animals=profile.animals,
        long_haired=profile.long_haired,
        children=profile.children,
        carpet=profile.carpet,
        school=now.school,
        weekdays=list(now.weekdays),
        hour_value=now.hour_value,
    )  # fmt: skip
