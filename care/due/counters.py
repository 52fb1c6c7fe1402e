"""What a machine's own counter says of a part, held against what we counted.

People reset a machine's countdown after a mere cleaning. A counter that shows just the use since the last cleaning,
far less than the part's life by our records, is taken for such a reset and not for the life.
"""

from dataclasses import dataclass

from care.errors import require

RESET_WITHIN = 0.15
"""How near a counter has to be to the use since the last cleaning to look like a reset [-]. Ours."""
RESET_BELOW = 0.5
"""Only a counter below this share of what we counted is suspected [-]. Ours."""


@dataclass(frozen=True, slots=True)
class Reconciled:
    """A counter beside our own count, both in hours used of the part's life [h]."""

    counter_h: float
    ours_h: float
    looks_reset: bool

    @property
    def difference_h(self) -> float:
        """How much more the counter says than we counted [h]."""
        return self.counter_h - self.ours_h


def used_hours(value: float, *, unit: str, sense: str, limit_h: float) -> float:
    """Hours used, from a counter in `unit` ("percent" or "hours") that tells what is "left" or "used" of `limit_h` [h].

    Raises `InvalidValue` for a percent over 100, a negative value, or more hours left than the limit.

    >>> used_hours(64, unit="percent", sense="left", limit_h=200)
    72.0
    >>> used_hours(45, unit="hours", sense="left", limit_h=150)
    105.0
    """
    require(unit in ("percent", "hours"), "unit", unit, "percent or hours")
    require(sense in ("left", "used"), "sense", sense, "left or used")
    most = 100 if unit == "percent" else None
    if most is not None:
        require(0 <= value <= most, "value", f"{value:g} %", "0 to 100 %")
    else:
        require(value >= 0, "value", f"{value:g} h", "0 h or more")
    hours = value / 100 * limit_h if unit == "percent" else float(value)
    if sense == "used":
        return hours
    require(hours <= limit_h, "value", f"{hours:g} h left", f"at most the part's own limit of {limit_h:g} h")
    return limit_h - hours


def reconcile(*, counter_h: float, ours_h: float, since_cleaning_h: float | None) -> Reconciled:
    """The counter against our count of the part's life, and against the use since its last cleaning (all in h)."""
    near = since_cleaning_h is not None and abs(counter_h - since_cleaning_h) <= RESET_WITHIN * max(
        since_cleaning_h, 1.0
    )
    return Reconciled(counter_h, ours_h, near and counter_h < RESET_BELOW * ours_h)
