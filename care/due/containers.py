"""The size of a bag or bin, in any unit, and how long it takes to fill by one that somebody knows."""

from dataclasses import dataclass

from care.due.usage import Pace
from care.errors import require
from care.model import ToldFilling
from care.units import VOLUME
from care.washability import NO_UNKNOWN_KEYS

USABLE = 0.9
"""Share of a container's volume that fills before it counts as full [-]. A rule of thumb of the field."""


@dataclass(frozen=True, slots=True)
class Container:
    """A bag or bin: its volume [L], and the share of it that fills before it counts as full [-]."""

    volume_l: float
    usable: float = USABLE

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        VOLUME.accepted(self.volume_l, "L")
        require(0.3 <= self.usable <= 1, "usable", f"{self.usable:g}", "0.3 to 1")

    @property
    def capacity_l(self) -> float:
        """What goes in before it counts as full [L]."""
        return self.volume_l * self.usable


@dataclass(frozen=True, slots=True)
class OtherContainer:
    """A container somebody knows: it fills so many litres in so many weeks of the same dirt.

    `pressed` is how many times denser dirt lies in the new container than in that one [-]: a bag presses it together.
    """

    volume_l: float
    weeks: float
    pressed: float = 1.0

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        VOLUME.accepted(self.volume_l, "L")
        require(0.1 <= self.weeks <= 52, "weeks", f"{self.weeks:g}", "0.1 to 52 weeks")
        require(1 <= self.pressed <= 3, "pressed", f"{self.pressed:g}", "1 to 3")

    @property
    def litres_per_week(self) -> float:
        """How much it takes up in a week, as it lies in the new container [L/week].

        >>> round(OtherContainer(VOLUME.accepted(2.6, "qt"), 2).litres_per_week, 2)
        1.23
        """
        return self.volume_l / self.weeks / self.pressed


def weeks_full(container: Container, litres_per_week: float) -> float:
    """Weeks until it is full [weeks].

    >>> round(weeks_full(Container(2.4), 1.23), 2)
    1.76
    """
    return container.capacity_l / litres_per_week


def told_filling(container: Container, known: OtherContainer | None, usual: Pace, index: float) -> ToldFilling | None:
    """What a told size says of how long a container takes to fill, at the pace and the load of the time it was told.

    None where nothing else is known: a size alone tells no time; nor does a machine that did not run.
    """
    if known is None or not usual.hours_per_week:
        return None
    weeks = weeks_full(container, known.litres_per_week)
    return ToldFilling(weeks, usual.hours_per_week, usual.runs_per_week, index)
