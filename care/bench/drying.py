"""How long a washed part dries: from its kind and the air it hangs in, moved along when the air changes, or from what
a kitchen scale says. Why the figures are what they are: docs/why/drying.md. Leaves out a dock's own hot air.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from enum import StrEnum
from functools import cache
from itertools import pairwise
from math import log
from statistics import NormalDist

import numpy as np

from care.bench.weighing import APART, Weighing, dry_by_curve, settled_at, tolerance_g
from care.due.learning import GRID, LOG_GRID, SEEING_SD
from care.errors import require
from care.household import DryingPlace
from care.rules import Drying

REFERENCE_C, REFERENCE_RH_PCT = 20.0, 50.0
"""The air that drying times are told for [degC, %]."""
SLOWEST, FASTEST = 8.0, 0.6
"""Bounds of the climate factor [-]: beyond them other things govern. A rule of the care book."""
MILDEW_FROM = 4.0
"""Climate factor from which mildew is quicker than drying [-]. A rule of the care book."""
PRESSURE_PA = 101_325.0
WET_BULBS = 161
"""Points between 0 degC and the air at which the wet bulb is looked up: exact to 0.001 K."""
PRESSED, MOVING = 0.65, 0.8
"""What pressing in a towel and moving air take off the time [-]. Rules of the care book."""
LEAST = 0.5
"""All factors together never go below this [-]. A rule of the care book."""
SURE = 0.3
"""How far a drying time may be off either way [-]. Practice."""
BELL = NormalDist()
PLACE_SD = 0.3
"""Spread of places around what their air tells, in log space [-]. Ours: as wide as the drying times themselves."""


def climate_factor(place: DryingPlace) -> float:
    """How many times as long drying takes there as at 20 degC and 50 % [-]: by wet-bulb depression, clamped.

    >>> round(climate_factor(DryingPlace("utility room", 12, 85)), 1)
    4.6
    """
    own = max(1e-6, _depression(place.temp_c, place.rh_pct))
    return min(SLOWEST, max(FASTEST, _depression(REFERENCE_C, REFERENCE_RH_PCT) / own))


def mildews(place: DryingPlace) -> bool:
    """Whether a part left there is likelier to smell than to dry."""
    return climate_factor(place) > MILDEW_FROM


@cache
def _depression(temp_c: float, rh_pct: float) -> float:
    """How far the wet bulb stands below the air [K], at sea level (psychrometrics of ASHRAE).

    Read off the humidity ratios over water from 0 degC up: across freezing the formulas of ice and water overlap, and
    drier air would seem to dry more slowly there.
    """
    import psychrolib  # not at start-up: only this needs it

    psychrolib.SetUnitSystem(psychrolib.SI)
    bulbs = np.linspace(0.0, temp_c, WET_BULBS)
    ratios = [psychrolib.GetHumRatioFromTWetBulb(temp_c, float(bulb), PRESSURE_PA) for bulb in bulbs]
    ratio = psychrolib.GetHumRatioFromRelHum(temp_c, rh_pct / 100, PRESSURE_PA)
    return float(temp_c - np.interp(ratio, ratios, bulbs))


@dataclass(frozen=True, slots=True)
class Hanging:
    """How somebody hangs a part up: the name of the place, or none told; pressed in a towel before; in moving air."""

    place: str | None = None
    pressed: bool = False
    moving: bool = False


@dataclass(frozen=True, slots=True)
class Stay:
    """From `since` on a part hangs in this air, until the next stay. `air` None: nobody told, so 20 degC and 50 %.

    `slow` is how many times as long the place was found to take [-], 1 before anything was found there.
    """

    since: datetime
    air: DryingPlace | None = None
    pressed: bool = False
    moving: bool = False
    slow: float = 1.0

    def __post_init__(self) -> None:
        require(self.slow >= 1, "slow", self.slow, "1 or more")


def slowed_by_air(stay: Stay) -> float:
    """How many times as long as at 20 degC and 50 % a part dries where it hangs, whatever its kind [-]."""
    return (climate_factor(stay.air) if stay.air else 1.0) * stay.slow


@dataclass(frozen=True, slots=True)
class Factors:
    """Why it takes so long in one place: factors [-] on the reference time [h], and the hours they make [h]."""

    reference_h: float
    climate: float
    pressing: float
    moving: float
    slow: float
    hours: float


def factors(drying: Drying, stay: Stay) -> Factors:
    """How long a part of this kind dries from wet to dry where it hangs."""
    climate = climate_factor(stay.air) if stay.air else 1.0
    pressing = PRESSED if stay.pressed and drying.pressable else 1.0
    moving = MOVING if stay.moving else 1.0
    hours = drying.reference_h * max(LEAST, climate * pressing * moving) * stay.slow
    return Factors(drying.reference_h, climate, pressing, moving, stay.slow, hours)


def share_dried(drying: Drying, stays: Sequence[Stay], at: datetime) -> float:
    """How far it is from wet (0) to dry (1) [-], past 1 when longer than that; a change of place takes none back."""
    ends = [*(stay.since for stay in stays[1:]), at]
    return sum(
        max(timedelta(0), min(end, at) - stay.since) / timedelta(hours=factors(drying, stay).hours)
        for stay, end in zip(stays, ends, strict=True)
    )


def reaches(drying: Drying, stays: Sequence[Stay], share: float) -> datetime:
    """When it will have dried to `share` [-], if it stays where it hangs last. Raises `InvalidValue` without a stay."""
    require(bool(stays), "stays", "none", "at least one place")
    left = share
    for stay, after in pairwise(stays):
        whole = timedelta(hours=factors(drying, stay).hours)
        if (after.since - stay.since) / whole >= left:
            return stay.since + left * whole
        left -= (after.since - stay.since) / whole
    return stays[-1].since + left * timedelta(hours=factors(drying, stays[-1]).hours)


class Basis(StrEnum):
    """What a drying time rests on."""

    AIR = "air"
    CURVE = "curve"
    SETTLED = "settled"


@dataclass(frozen=True, slots=True)
class Estimate:
    """When a part is ready: not before `floor_at`, dry at `dry_at`, within `early` and `late`."""

    floor_at: datetime
    dry_at: datetime
    early: datetime
    late: datetime
    basis: Basis

    @property
    def ready_at(self) -> datetime:
        """Until when it is locked out of its machine."""
        return max(self.floor_at, self.dry_at)


def estimate(
    drying: Drying,
    stays: Sequence[Stay],
    *,
    floor_at: datetime,
    weighings: Sequence[Weighing] = (),
    dry_g: float | None = None,
) -> Estimate:
    """When a part that has hung so is ready. Weighings may lengthen it, or end it, but never before its floor."""
    if dry_g is not None and weighings:
        settled = settled_at(weighings, dry_g)
        if settled is not None:
            return Estimate(floor_at, settled, settled, settled, Basis.SETTLED)
        by_curve = dry_by_curve(weighings, dry_g)
        if by_curve is not None:
            last = max(weighings, key=lambda w: w.at)
            near = abs(last.grams - dry_g) <= tolerance_g(dry_g)
            expected = max(by_curve, last.at + APART) if near else max(by_curve, last.at)
            off = SURE * (expected - last.at)
            return Estimate(floor_at, expected, expected - off, expected + off, Basis.CURVE)
    early, middle, late = (reaches(drying, stays, share) for share in (1 - SURE, 1.0, 1 + SURE))
    return Estimate(floor_at, middle, early, late, Basis.AIR)


def best_place(drying: Drying, stay: Stay, places: Iterable[tuple[DryingPlace, float]]) -> DryingPlace | None:
    """The place (with how slow it was found) where it dries sooner by more than a tenth; None where none does."""
    here = factors(drying, stay).hours
    hours = {
        place: factors(drying, Stay(stay.since, place, stay.pressed, stay.moving, slow)).hours
        for place, slow in places
        if stay.air is None or place.name != stay.air.name
    }
    best = min(hours, key=lambda place: hours[place], default=None)
    return best if best is not None and hours[best] < 0.9 * here else None


def quickest(places: Iterable[DryingPlace]) -> DryingPlace | None:
    """The place whose air dries fastest; None of none."""
    return min(places, key=climate_factor, default=None)


def slow_of(checks: Iterable[tuple[float, bool]]) -> float:
    """How many times as long a place takes [-], from checks there: (share dried by the estimate, was it still damp).

    A belief on a log grid around 1; a damp find raises it, a dry one brings it back, never below 1: a part is checked
    only when its time is over, so a dry find says little of how much sooner it was.

    >>> slow_of([]), slow_of([(1.0, True)]) > 1.1
    (1.0, True)
    """
    useful = [(share, damp) for share, damp in checks if share > 0]
    if not useful:
        return 1.0
    logs = -0.5 * (LOG_GRID / PLACE_SD) ** 2
    for share, damp in useful:
        away = (LOG_GRID - log(share)) / SEEING_SD
        chances = [BELL.cdf(z) for z in (away if damp else -away)]
        logs = logs + np.log(np.clip(chances, 1e-12, 1.0))
    weights = np.exp(logs - logs.max())
    reached = np.cumsum(weights / weights.sum())
    return max(1.0, round(float(np.interp(0.5, reached, GRID)), 3))
