"""What weighings say of a part that dries."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from math import log

import numpy as np

from care.errors import InvalidValue
from care.units import WEIGHT

SCALE_STEP_G = 1.0
"""What a kitchen scale tells apart [g]."""

LEAST_G, DRY_SHARE = 1.0, 0.03
"""A part counts as bone dry within 3 % of its dry weight, at most 1 g [g, -]. Rules of the care book."""

APART = timedelta(hours=2)
"""Two readings within tolerance must be so far apart. A rule of the care book."""


@dataclass(frozen=True, slots=True)
class Weighing:
    """What a part weighed at an instant [g]."""

    at: datetime
    grams: float

    def __post_init__(self) -> None:
        WEIGHT.accepted(self.grams, "g")


def tolerance_g(dry_g: float, step_g: float = SCALE_STEP_G) -> float:
    """How near its dry weight a part counts as dry [g].

    >>> tolerance_g(20), round(tolerance_g(20, step_g=0.1), 2), tolerance_g(200, step_g=0.1)
    (1.0, 0.6, 1.0)
    """
    return max(step_g, min(LEAST_G, DRY_SHARE * dry_g))


def is_lighter(grams: float, dry_g: float) -> bool:
    """Whether a weight is clearly below the dry one: that one must be wrong then.

    >>> is_lighter(40.5, 42), is_lighter(41.5, 42)
    (True, False)
    """
    return grams < dry_g - tolerance_g(dry_g)


def weighs_dry(grams: float, dry_g: float) -> bool:
    """Whether a weight is the dry one, as near as a scale can tell.

    >>> weighs_dry(42.8, 42), weighs_dry(43.5, 42)
    (True, False)
    """
    return abs(grams - dry_g) <= tolerance_g(dry_g)


def refuse_lighter(grams: float, dry_g: float) -> None:
    """Refuse a weight clearly below the dry one: the dry one must be wrong then. Raises `InvalidValue`."""
    if is_lighter(grams, dry_g):
        raise InvalidValue(
            f"grams: {grams:g} g is below its dry weight of {dry_g:g} g",
            field="grams",
            fix="Weigh it again; if it is bone dry now, keep this as its new dry weight.",
            dry_g=dry_g,
        )


def settled_at(weighings: Iterable[Weighing], dry_g: float) -> datetime | None:
    """When two readings within tolerance, two hours apart and nothing else between, had been taken; None: not yet."""
    since: datetime | None = None
    for one in sorted(weighings, key=lambda w: w.at):
        if not weighs_dry(one.grams, dry_g):
            since = None
        elif since is None:
            since = one.at
        elif one.at - since >= APART:
            return one.at
    return None


def curve(weighings: Iterable[Weighing], dry_g: float) -> tuple[float, float] | None:
    """Water [g] at the first reading and its rate of loss [1/h], fitted to the readings on a falling exponential.

    None while fewer than two readings fall, or the last is no lighter than the first.
    """
    wet = sorted((w for w in weighings if w.grams > dry_g), key=lambda w: w.at)
    if len(wet) < 2 or wet[-1].grams >= wet[-2].grams or wet[-1].at == wet[0].at:
        return None
    hours = [(one.at - wet[0].at) / timedelta(hours=1) for one in wet]
    slope, start = np.polyfit(hours, [log(one.grams - dry_g) for one in wet], 1)
    return (float(np.exp(start)), -float(slope)) if slope < 0 else None


def dry_by_curve(weighings: Sequence[Weighing], dry_g: float) -> datetime | None:
    """When the fitted curve comes within tolerance of the dry weight; None without a curve."""
    fitted = curve(weighings, dry_g)
    if fitted is None:
        return None
    water_g, rate = fitted
    first = min(one.at for one in weighings if one.grams > dry_g)
    hours = max(0.0, log(water_g / tolerance_g(dry_g)) / rate)
    return first + timedelta(hours=min(hours, 10_000.0))
