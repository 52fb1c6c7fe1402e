"""What people measure on a machine: the units they may give it in, its SI unit, and what is possible at all."""

from dataclasses import dataclass
from enum import StrEnum
from functools import cache
from typing import Any

from care.errors import require


class Quantity(StrEnum):
    """What a reading is of."""

    FELT = "felt"
    """How it pulls at the floor, 1 (hardly) to 5 (as new)."""
    SUCTION = "suction"
    CHARGE = "charge"
    """How long a full charge lasts."""
    AREA = "area"
    """What one run covers."""
    PICKED_UP = "picked_up"
    """What it takes up from a test strip."""


@dataclass(frozen=True, slots=True)
class Measure:
    """A quantity: its SI unit, the units people give, and the limits of what is possible, in SI."""

    si: str
    units: tuple[str, ...]
    least: float
    most: float


MEASURES = {
    Quantity.FELT: Measure("", ("",), 1, 5),
    Quantity.SUCTION: Measure("Pa", ("kPa", "inH2O"), 0, 60_000),
    Quantity.CHARGE: Measure("s", ("min",), 60, 6 * 3600),
    Quantity.AREA: Measure("m2", ("m2", "ft2"), 0.5, 1000),
    Quantity.PICKED_UP: Measure("kg", ("g", "oz"), 0, 2),
}
_PINT = {"m2": "m**2", "ft2": "ft**2"}


@cache
def _registry() -> Any:
    import pint  # late: it takes a quarter of a second to load

    return pint.UnitRegistry()


def to_si(quantity: Quantity, value: float, unit: str) -> float:
    """`value` in `unit` as SI. Raises `InvalidValue` for a unit that does not fit or a figure that cannot be.

    >>> round(to_si(Quantity.SUCTION, 40, "inH2O"))
    9964
    """
    measure = MEASURES[quantity]
    require(unit in measure.units, "unit", unit, "one of " + ", ".join(measure.units))
    found = _convert(value, unit, measure.si)
    low, high = (_convert(limit, measure.si, unit) for limit in (measure.least, measure.most))
    require(measure.least <= found <= measure.most, "value", f"{value:g} {unit}".strip(), f"{low:g} to {high:g} {unit}")
    return found


def from_si(quantity: Quantity, value: float, unit: str) -> float:
    """An SI `value` in `unit`."""
    return _convert(value, MEASURES[quantity].si, unit)


def _convert(value: float, unit: str, to: str) -> float:
    if unit == to:
        return value
    registry = _registry()
    return float(registry.Quantity(value, _PINT.get(unit, unit)).to(_PINT.get(to, to)).magnitude)
