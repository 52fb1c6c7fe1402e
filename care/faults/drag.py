"""What takes from the air, and what moves it."""

from dataclasses import dataclass

from care.errors import require
from care.washability import NO_UNKNOWN_KEYS


@dataclass(frozen=True, slots=True)
class Drag:
    """What a clean station takes from the air: `k` [Pa/(L/s)^2] as a duct, `r` [Pa/(L/s)] as a filter; its bore."""

    k: float = 0.0
    r: float = 0.0
    bore_mm: float = 32.0

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(self.k >= 0, "k", self.k, "0 or more")
        require(self.r >= 0, "r", self.r, "0 or more")
        require(5 <= self.bore_mm <= 100, "bore_mm", self.bore_mm, "5 to 100 mm")


NO_DRAG = Drag()


@dataclass(frozen=True, slots=True)
class Fan:
    """A fan whose head falls linearly from `head_pa` at no flow to nothing at `flow_l_s`.

    `power` is its speed beside full power: flow goes with it, head with its square. `pulses` tells that the machine
    answers too little air by running in pulses.
    """

    head_pa: float
    flow_l_s: float
    power: float = 1.0
    pulses: bool = False

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(100 <= self.head_pa <= 60_000, "head_pa", self.head_pa, "100 to 60 000 Pa")
        require(1 <= self.flow_l_s <= 100, "flow_l_s", self.flow_l_s, "1 to 100 L/s")
        require(0 <= self.power <= 2, "power", self.power, "0 to 2")
