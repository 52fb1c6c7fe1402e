"""What can be measured: the units people may tell it in, the unit it is kept in, and what is possible at all."""

from dataclasses import dataclass
from enum import StrEnum
from functools import cache
from math import inf
from typing import Any

from care.errors import require

PINT = {
    "m2": "m**2", "ft2": "ft**2", "in": "inch", "L": "liter", "qt": "US_liquid_quart", "gal": "US_liquid_gallon",
    "cup": "US_liquid_cup", "sq_ft": "ft**2",
}  # fmt: skip
"""Units whose name here is not the one that the library of units knows."""


@cache
def _registry() -> Any:
    import pint  # late: it takes a quarter of a second to load

    return pint.UnitRegistry()


@cache
def _factor(unit: str, to: str) -> float:
    """How many `to` one `unit` is."""
    return float(_registry().Quantity(1.0, PINT.get(unit, unit)).to(PINT.get(to, to)).magnitude)


@dataclass(frozen=True, slots=True)
class Measurable:
    """A quantity that can be measured: the unit it is kept in, those people tell it in, what is possible at all.

    `least` and `most` are in the unit it is kept in; with `above` it is more than `least`, not as little. `whole` are
    counts. `called` names the field of an error.
    """

    kept: str
    units: tuple[str, ...]
    least: float
    most: float
    above: bool = False
    whole: bool = False
    called: str = "value"

    def in_kept(self, value: float, unit: str) -> float:
        """A figure in `unit`, in the unit it is kept in. Raises `InvalidValue` for a unit that does not fit."""
        require(unit in self.units, "unit", unit, "one of " + ", ".join(self.units))
        return value if unit == self.kept else value * _factor(unit, self.kept)

    def in_unit(self, kept: float, unit: str) -> float:
        """What is kept, in `unit`.

        >>> round(VOLUME.in_unit(1.23, "qt"), 2)
        1.3
        """
        return kept if unit == self.kept else kept / _factor(unit, self.kept)

    def accepted(self, value: float, unit: str) -> float:
        """As `in_kept`, for what somebody typed. Raises `InvalidValue` also for a figure that cannot be.

        >>> round(SUCTION.accepted(40, "inH2O")), round(WEIGHT.accepted(1.5, "oz"), 1), LENGTH.accepted(0.5, "in")
        (9964, 42.5, 12.7)
        """
        found = self.in_kept(value, unit)
        possible = self.least <= found <= self.most and not (self.above and found == self.least)
        fits = possible and not (self.whole and found != int(found))
        require(fits, self.called, f"{value:.6g} {_SAID.get(unit, unit)}".strip(), self.limits(unit))
        return found

    def limits(self, unit: str) -> str:
        """What is possible, in words.

        >>> SUCTION.limits("kPa"), WEIGHT.limits("g"), YES_NO.limits("yes_no")
        ('0 to 60 kPa', 'more than 0, at most 20000 g', '0 (no) or 1 (yes)')
        """
        if self is YES_NO:
            return "0 (no) or 1 (yes)"
        low, high = (_short(self.in_unit(limit, unit)) for limit in (self.least, self.most))
        said = f"more than {low}, at most {high}" if self.above else f"{low} to {high}"
        said = f"{low} or more" if self.most == inf else said
        return f"{said} {_SAID.get(unit, unit)}".strip()


def _short(figure: float) -> str:
    return f"{figure:.3g}" if figure < 1000 else f"{figure:.0f}"


_SAID = {"count": "", "yes_no": "", "percent": "%", "hours": "h"}
"""Units that are said otherwise than they are written in data, or not at all."""


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


FELT = Measurable("", ("",), 1, 5)
SUCTION = Measurable("Pa", ("kPa", "inH2O"), 0, 60_000)
READINGS = {
    Quantity.FELT: FELT,
    Quantity.SUCTION: SUCTION,
    Quantity.CHARGE: Measurable("s", ("min",), 60, 6 * 3600),
    Quantity.AREA: Measurable("m2", ("m2", "ft2"), 0.5, 1000),
    Quantity.PICKED_UP: Measurable("kg", ("g", "oz"), 0, 2),
}
"""What is read off a machine."""


class Scale(StrEnum):
    """What is measured on a part is told in this."""

    MM = "mm"
    COUNT = "count"
    YES_NO = "yes_no"
    MINUTES = "min"


LENGTH = Measurable("mm", ("mm", "in"), 0, 400)
YES_NO = Measurable("yes_no", ("yes_no",), 0, 1, whole=True)
SCALES = {
    Scale.MM: LENGTH,
    Scale.COUNT: Measurable("count", ("count",), 0, 200, whole=True),
    Scale.YES_NO: YES_NO,
    Scale.MINUTES: Measurable("min", ("min",), 0, 360),
}
WEIGHT = Measurable("g", ("g", "oz"), 0, 20_000, above=True, called="grams")
"""Of a part on the rack."""
VOLUME = Measurable("L", ("L", "qt", "gal", "cup"), 0.05, 60, called="volume")
"""Of a bag or bin."""
FLOOR = Measurable("m2", ("m2", "sq_ft"), 5, 3000, called="area_m2")
"""What is vacuumed of a home."""
PERCENT = Measurable("percent", ("percent",), 0, 100)
HOURS = Measurable("hours", ("hours",), 0, inf)
COUNTERS = {one.kept: one for one in (PERCENT, HOURS)}
"""What a machine's own counter shows, by the unit it shows it in."""
