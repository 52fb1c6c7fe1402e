"""What a fault does to the air, and the signs of it that somebody can notice."""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from care.errors import require
from care.washability import NO_UNKNOWN_KEYS

LEAST = 0.01
"""No answer is ruled out altogether: people look wrong, and machines do odd things."""


@dataclass(frozen=True, slots=True)
class AirEffect:
    """What a fault does to the air where it sits: leaves `open` of the bore, fills a filter, leaks, slows the fan."""

    open: float = 1.0
    fill: float = 0.0
    leak_mm2: float = 0.0
    power: float = 1.0

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(0 < self.open <= 1, "open", self.open, "more than 0, at most 1")
        require(0 <= self.fill <= 3, "fill", self.fill, "0 to 3")
        require(0 <= self.leak_mm2 <= 2000, "leak_mm2", self.leak_mm2, "0 to 2000 mm2")
        require(0.05 <= self.power <= 1, "power", self.power, "0.05 to 1")

    @property
    def at_a_place(self) -> bool:
        """Whether it sits somewhere on the path, and not in the fan itself."""
        return self.open < 1 or self.fill > 0 or self.leak_mm2 > 0


class Sign(StrEnum):
    """What the air itself tells; its chance is solved, not written down."""

    PULL = "pull"
    """How much the nozzle draws."""
    BARED = "bared"
    """How much the body draws with the front taken off."""
    SEALED = "sealed"
    """How strongly a palm is held."""
    PITCH = "pitch"
    HEAT = "heat"
    EXHAUST = "exhaust"
    """The air at the vents."""
    GAUGE_OPEN = "gauge_open"
    """A gauge beside the stream where the front meets the body, the front on and the air free."""
    GAUGE_ORIFICE = "gauge_orifice"
    """A gauge at the body with a fixed opening in place of the front."""


@dataclass(frozen=True, slots=True)
class Solved:
    """A symptom that follows from the air: `sign` under (or, with `above`, over) a `limit`, felt to within `sd`.

    `only_pulsing` holds it to machines that pulse by themselves.
    """

    sign: Sign
    limit: float
    sd: float
    above: bool = False
    only_pulsing: bool = False

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(self.sd > 0, "sd", self.sd, "more than 0")


def fits(when: Mapping[str, tuple[str, ...]], traits: Mapping[str, str]) -> bool:
    """Whether a machine with these `traits` is one of those that `when` names (trait -> the answers that do).

    >>> fits({"moves": ("hand", "pushed")}, {"moves": "hand", "hose": "no"}), fits({}, {})
    (True, True)
    """
    return all(traits.get(key) in answers for key, answers in when.items())
