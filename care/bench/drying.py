"""How fast a place dries what was washed. Leaves out, so far, the time itself and weighings."""

from functools import cache

from care.household import DryingPlace

REFERENCE_C, REFERENCE_RH_PCT = 20.0, 50.0
"""The air that drying times are told for [degC, %]."""
SLOWEST, FASTEST = 8.0, 0.6
"""Bounds of the climate factor [-]: beyond them other things govern. A rule of the care book."""
MILDEW_FROM = 4.0
"""Climate factor from which mildew is quicker than drying [-]. A rule of the care book."""
PRESSURE_PA = 101_325.0


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
    """How far the wet bulb stands below the air [K], at sea level (psychrometrics of ASHRAE)."""
    import psychrolib  # not at start-up: only this needs it

    psychrolib.SetUnitSystem(psychrolib.SI)
    wet = psychrolib.GetTWetBulbFromRelHum(temp_c, rh_pct / 100, PRESSURE_PA)
    return float(temp_c - wet)
