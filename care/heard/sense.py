"""Whether what a device says can be true. What cannot is held apart and asked about, never believed in silence."""

from collections.abc import Sequence
from datetime import datetime, timedelta
from enum import StrEnum

from care.errors import require
from care.household import DryingPlace

CLOCK_SKEW = timedelta(minutes=10)
"""So far a device's clock may be ahead of ours. Decided."""
MOST_RUN_MIN = 8 * 60.0
"""No household machine runs longer in one go, with charging between [min]. Ours."""
MOST_DAY_MIN = 20 * 60.0
"""Nor longer on one day [min]: it has to charge or to cool. Ours."""
MOST_M2_A_MIN = 6.0
"""No machine covers more floor in a minute [m2/min]: half a metre wide at a slow walk is less. Ours."""
COLDEST_C, HOTTEST_C = -25.0, 55.0
"""Air in a home, an attic under the roof and an unheated shed included [degC]. Ours."""
DRIEST_PCT = 8.0
"""Drier air no heated home has: a sensor that says so is broken or lies on a heater [%]. Ours."""
SAME_C, SAME_PCT = 0.5, 3.0
"""Air that moved less is the same [degC, %]: sensors tell no more. Ours."""
AIR_KEPT_EVERY = timedelta(hours=3)
"""Air that stays as it is is kept this often: a sensor speaks every few minutes. Ours."""
AIR_HOLDS_FOR = timedelta(hours=6)
"""So long what was measured stands for the air of a place; then what the household told of it counts again. Ours."""
SAME_G = 1.0
"""A weight that moved less is the same [g]: a kitchen scale tells no more. Ours."""
WEIGHT_KEPT_EVERY = timedelta(hours=1)
"""A weight that stays as it is is kept this often: twice as often as two readings must lie apart. Ours."""
LEAST_USED = 0.3
"""A run that took a smaller share of the battery says little of how long a charge lasts [-]. Ours."""


class Doubt(StrEnum):
    """Why something that a device said does not count before somebody was asked."""

    TOO_LONG = "too_long"
    """A run longer than any machine runs, or more on one day."""
    OVERLAPS = "overlaps"
    """A run while, by another record, the same machine ran already."""
    TOO_FAST = "too_fast"
    """More floor than fits into the minutes."""
    COUNTS_BACK = "counts_back"
    """Its own total went back."""
    ODD_AIR = "odd_air"
    """Air that no home has."""
    WHICH_PART = "which_part"
    """A weight that could be of several drying parts, or of none."""
    TOO_LIGHT = "too_light"
    """A part weighs less than when it was bone dry."""
    WHICH_COUNTS = "which_counts"
    """A machine's counter and our own count are far apart."""
    CLASHES = "clashes"
    """It clashes with what is on record in some other way."""


def doubt_run(minutes: float, area_m2: float | None, minutes_that_day: float) -> Doubt | None:
    """What is wrong with a run of so many minutes over this area, on a day that has so many already [min].

    >>> doubt_run(1440, None, 0), doubt_run(45, 900, 0), doubt_run(45, 38, 0)
    (<Doubt.TOO_LONG: 'too_long'>, <Doubt.TOO_FAST: 'too_fast'>, None)
    """
    require(minutes > 0, "minutes", minutes, "more than 0")
    if minutes > MOST_RUN_MIN or minutes + minutes_that_day > MOST_DAY_MIN:
        return Doubt.TOO_LONG
    if area_m2 is not None and area_m2 > MOST_M2_A_MIN * minutes:
        return Doubt.TOO_FAST
    return None


def counts_back(totals: Sequence[tuple[datetime, float]], at: datetime, total: float) -> bool:
    """Whether a device's own total at `at` is less than an earlier one of it, or more than a later one."""
    return any(other > total if when <= at else other < total for when, other in totals)


def doubt_air(temp_c: float, rh_pct: float) -> Doubt | None:
    """What is wrong with air of this temperature [degC] and humidity [%]: a broken sensor would free wet parts early.

    >>> doubt_air(80, 40), doubt_air(20, 0), doubt_air(-4, 80)
    (<Doubt.ODD_AIR: 'odd_air'>, <Doubt.ODD_AIR: 'odd_air'>, None)
    """
    return None if COLDEST_C <= temp_c <= HOTTEST_C and rh_pct >= DRIEST_PCT else Doubt.ODD_AIR


def same_air(one: DryingPlace, other: DryingPlace) -> bool:
    """Whether air did not move by more than a sensor can tell.

    >>> same_air(DryingPlace("loft", 20, 50), DryingPlace("loft", 20.4, 52))
    True
    """
    return abs(one.temp_c - other.temp_c) < SAME_C and abs(one.rh_pct - other.rh_pct) < SAME_PCT


def charge_min(minutes: float, battery_used: float) -> float | None:
    """How long a full charge would last by a run that took this share of it [min]; None where it took too little.

    >>> charge_min(45, 0.6), charge_min(5, 0.1)
    (75.0, None)
    """
    return minutes / battery_used if battery_used >= LEAST_USED else None
