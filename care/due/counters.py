"""What a machine's own counter says of a part, held against what we counted.

The machine's own counter is the measure of its hours. But people set a machine's countdown back after a mere cleaning,
or forget to after the work it counts: where the two are far apart, whoever reads it says which one counts on. Where
nobody was asked, a counter that shows just the use since the last cleaning is taken for such a reset.
"""

from dataclasses import dataclass

from care.errors import require
from care.units import COUNTERS

RESET_WITHIN = 0.15
"""How near a counter has to be to the use since the last cleaning to look like a reset [-]. Ours."""
RESET_BELOW = 0.5
"""Only a counter below this share of what we counted is suspected [-]. Ours."""


FAR_APART = 0.25
"""From this share of the limit on a counter and our own count disagree [-]. Ours."""
MOST_LIMITS = 10
"""More use than so many times what the part lasts is a slip of the finger [-]. Ours."""


@dataclass(frozen=True, slots=True)
class Reconciled:
    """A counter beside our own count, both in hours used [h]; `ignored` tells that ours counts on."""

    counter_h: float
    ours_h: float
    looks_reset: bool
    ignored: bool


def used_hours(value: float, *, unit: str, sense: str, limit_h: float) -> float:
    """Hours used, from a counter in `unit` ("percent" or "hours") that tells what is "left" or "used" of `limit_h` [h].

    Raises `InvalidValue` for a percent over 100, a negative value, or more hours left than the limit.

    >>> used_hours(64, unit="percent", sense="left", limit_h=200)
    72.0
    >>> used_hours(45, unit="hours", sense="left", limit_h=150)
    105.0
    """
    require(unit in COUNTERS, "unit", unit, " or ".join(COUNTERS))
    require(sense in ("left", "used"), "sense", sense, "left or used")
    COUNTERS[unit].accepted(value, unit)
    hours = value / 100 * limit_h if unit == "percent" else float(value)
    if sense == "used":
        most_h = MOST_LIMITS * limit_h
        require(
            hours <= most_h, "value", f"{hours:g} h used", f"at most {most_h:g} h, {MOST_LIMITS} times what it lasts"
        )
        return hours
    require(hours <= limit_h, "value", f"{hours:g} h left", f"at most the part's own limit of {limit_h:g} h")
    return limit_h - hours


def far_apart(counter_h: float, ours_h: float, limit_h: float) -> bool:
    """Whether a counter and our own count are so far apart that somebody has to say which one counts on (all in h).

    >>> far_apart(12, 96, 200), far_apart(80, 96, 200)
    (True, False)
    """
    return abs(counter_h - ours_h) > FAR_APART * limit_h


def reconcile(
    *, counter_h: float, ours_h: float, since_cleaning_h: float | None, trusted: bool | None = None
) -> Reconciled:
    """The counter against our count of the part's life, and against the use since its last cleaning (all in h).

    `trusted` is what whoever read it said of the two: the machine's figure counts on, or ours; None: nobody was asked.
    """
    near = since_cleaning_h is not None and abs(counter_h - since_cleaning_h) <= RESET_WITHIN * max(
        since_cleaning_h, 1.0
    )
    looks_reset = near and counter_h < RESET_BELOW * ours_h
    return Reconciled(counter_h, ours_h, looks_reset, ignored=looks_reset if trusted is None else not trusted)
