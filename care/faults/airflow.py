"""The air of one machine as a network: fan, ducts, filters, blockages and leaks, solved for its steady flow.

The fan's head falls linearly with its flow; stations lie in series; a blockage is an orifice at its station's bore, a
leak an orifice to the room behind its station. Leaves out heat, moisture and how air gets compressed (under 3 %).
Flow [L/s], pressure [Pa], bores [mm], leak areas [mm2]. Formulas: textbook orifice flow with a discharge coefficient
of 0.62; the machines' figures stand in the care book and are plausible household machines, not measurements.
"""

from dataclasses import dataclass, replace
from enum import StrEnum
from functools import cached_property
from math import copysign, pi, sqrt

from care.errors import require
from care.faults.drag import Fan
from care.faults.effects import AirEffect
from care.kinds import Archetype
from care.vocabulary import Column

RHO = 1.2
"""Air at room temperature [kg/m3]."""
DISCHARGE = 0.62
"""Of a sharp-edged opening [-]."""
FILLING = 11.0
"""How a filter's resistance grows with its fill: (1 + 11 fill^2); a full one lets through a twelfth."""
PITCH = 0.15
"""How far the motor speeds up when no air passes [-]: stated, not measured."""
GAUGE_MM2 = 80.0
"""The fixed opening of a gauge: a hole of 10 mm [mm2]."""
IN_FRONT = (Column.FLOOR, Column.NECK, Column.WAND, Column.HOSE)
"""What comes off in one piece to feel the pull at the body."""


class At(StrEnum):
    """What the nozzle draws on: the room, a fixed opening of a gauge, or nothing."""

    OPEN = "open"
    ORIFICE = "orifice"
    SEALED = "sealed"


@dataclass(frozen=True, slots=True)
class AirPlace:
    """One station of the path: its drag `k` [Pa/(L/s)^2] and `r` [Pa/(L/s)], and what is wrong there.

    `open` is the area fraction of `bore_mm` that a blockage leaves, `fill` how full a filter is, `leak_mm2` the area
    of a leak to the room just behind it.
    """

    key: str
    column: Column
    k: float = 0.0
    r: float = 0.0
    bore_mm: float = 32.0
    fill: float = 0.0
    open: float = 1.0
    leak_mm2: float = 0.0

    def __post_init__(self) -> None:
        require(0 < self.open <= 1, "open", self.open, "more than 0 and at most 1 of the bore")
        require(0 <= self.fill <= 5, "fill", self.fill, "0 to 5")
        require(0 <= self.leak_mm2 <= 5000, "leak_mm2", self.leak_mm2, "0 to 5000 mm2")

    def drop(self, flow: float) -> float:
        """The pressure it takes at `flow` [L/s], with the sign of the flow [Pa]."""
        duct = self.k * flow * abs(flow) + self.r * flow * (1 + FILLING * self.fill**2)
        return duct + (orifice(flow, self.open * area(self.bore_mm)) if self.open < 1 else 0.0)

    def leak(self, suction: float) -> float:
        """What its leak lets in under `suction`, or out where that is negative [L/s]."""
        if not self.leak_mm2:
            return 0.0
        return copysign(DISCHARGE * self.leak_mm2 / 1e3 * sqrt(2 * abs(suction) / RHO), suction)


@dataclass(frozen=True, slots=True)
class AirPath:
    """A machine's fan with the places ahead of it, from the floor on, and those behind it."""

    fan: Fan
    before: tuple[AirPlace, ...]
    behind: tuple[AirPlace, ...] = ()

    def changed(self, key: str, effect: AirEffect) -> "AirPath":
        """The path with `effect` at the place `key`, on top of what is wrong there already.

        Raises `InvalidValue` when it has no such place.
        """
        fan = replace(self.fan, power=self.fan.power * effect.power)
        if not effect.at_a_place or not key:
            return replace(self, fan=fan)
        require(key in {p.key for p in (*self.before, *self.behind)}, "station", key, "a place of this air path")
        before, behind = (
            tuple(_worse(place, effect) if place.key == key else place for place in side)
            for side in (self.before, self.behind)
        )
        return AirPath(fan, before, behind)

    def front_off(self) -> "AirPath":
        """The path with all in front of the body taken off: air enters the wide mouth, past what blocks it."""
        body = (p for p in self.before if p.column not in IN_FRONT)
        return replace(self, before=tuple(replace(p, k=0.0) if p.column is Column.INLET else p for p in body))

    @property
    def has_front(self) -> bool:
        """Whether something in front of its body comes off."""
        return any(p.column in IN_FRONT[1:] for p in self.before)


def _worse(place: AirPlace, effect: AirEffect) -> AirPlace:
    return replace(
        place,
        open=place.open * effect.open,
        fill=sqrt(place.fill**2 + effect.fill**2),  # resistances add, and they go with the square
        leak_mm2=place.leak_mm2 + effect.leak_mm2,
    )


@dataclass(frozen=True, slots=True)
class Flow:
    """The steady state: what the nozzle draws and the fan moves [L/s], and the suction just ahead of the fan [Pa].

    `suctions` is the suction just behind each place ahead of the fan, by its key [Pa].
    """

    nozzle: float
    fan: float
    suction: float
    suctions: dict[str, float]


def area(bore_mm: float) -> float:
    """The cross-section of a round bore [mm2]."""
    return pi / 4 * bore_mm**2


def orifice(flow: float, opening_mm2: float) -> float:
    """The pressure that `flow` [L/s] takes through a sharp opening, with the sign of the flow [Pa].

    >>> round(orifice(10.0, 200.0))
    3902
    """
    speed = flow / (DISCHARGE * opening_mm2) * 1e3
    return RHO / 2 * speed * abs(speed)


def solve(path: AirPath, at: At = At.OPEN, opening_mm2: float = 0.0) -> Flow:
    """The steady flow of `path` with the nozzle open, on a fixed opening of `opening_mm2`, or sealed.

    Solved on the fan's flow, marching upstream; what is left at the nozzle falls steadily with it, so there is one
    answer. Raises `InvalidValue` for a fixed opening that is none.
    """
    from scipy.optimize import brentq  # late: it takes a third of a second to load

    require((at is At.ORIFICE) == (opening_mm2 > 0), "opening_mm2", opening_mm2, "an area for a fixed opening only")

    def left_over(fan_flow: float) -> float:
        flow, suction = _march(path, fan_flow)
        if at is At.SEALED:
            return -flow
        return suction - (orifice(flow, opening_mm2) if at is At.ORIFICE else 0.0)

    top = path.fan.flow_l_s * path.fan.power
    fan_flow = float(brentq(left_over, 0.0, top, xtol=1e-9)) if left_over(0.0) > 0 else 0.0
    suctions: dict[str, float] = {}
    nozzle, _ = _march(path, fan_flow, suctions)
    ahead = _ahead(path, fan_flow)
    return Flow(max(nozzle, 0.0) if at is not At.SEALED else 0.0, fan_flow, ahead, suctions)


def _march(path: AirPath, fan_flow: float, suctions: dict[str, float] | None = None) -> tuple[float, float]:
    """From the fan towards the nozzle: (flow there, suction there); `suctions` takes the suction behind each place."""
    flow, suction = fan_flow, _ahead(path, fan_flow)
    for place in reversed(path.before):
        if suctions is not None:
            suctions[place.key] = suction
        if place.leak_mm2:
            flow -= place.leak(suction)
        suction -= place.drop(flow)
    return flow, suction


def _ahead(path: AirPath, fan_flow: float) -> float:
    """The suction just ahead of the fan: its head, less what pushes the air out behind it [Pa]."""
    fan = path.fan
    head = fan.head_pa * fan.power**2 * (1 - fan_flow / (fan.flow_l_s * fan.power))
    return head - _out(path.behind, fan_flow)


def _out(places: tuple[AirPlace, ...], flow: float) -> float:
    """The overpressure that drives `flow` out through `places` [Pa]; a leak lets some of it out on the way."""
    if not places:
        return 0.0
    first, rest = places[0], places[1:]
    if not first.leak_mm2:
        return first.drop(flow) + _out(rest, flow)
    return first.drop(flow) + _behind_a_leak(first, rest, flow)


def _behind_a_leak(place: AirPlace, rest: tuple[AirPlace, ...], flow: float) -> float:
    """The overpressure at a leak where `flow` arrives: what does not go out there goes on through `rest` [Pa]."""
    if not rest:
        return 0.0
    from scipy.optimize import brentq

    def left_over(onward: float) -> float:
        over = _out(rest, onward)
        return flow - onward - place.leak(over)

    return _out(rest, float(brentq(left_over, 0.0, flow, xtol=1e-9))) if flow > 0 else 0.0


def air_path(archetype: Archetype) -> AirPath | None:
    """The air path of a kind of machine as the book gives it, clean; None where it moves no air of its own.

    A filter that guards the motor counts as ahead of it even where it sits behind it in the body: its rim seals there.
    """
    if archetype.fan is None:
        return None
    places = [
        AirPlace(s.key, s.column, s.air.k, s.air.r, s.air.bore_mm)
        for s in archetype.stations
        if s.column is not Column.OFF_PATH
    ]
    before = tuple(p for p in places if p.column not in (Column.MOTOR, Column.EXHAUST))
    return AirPath(archetype.fan, before, tuple(p for p in places if p.column is Column.EXHAUST))


class Air:
    """What the air of one path does, each way of trying it solved once when it is asked for."""

    def __init__(self, path: AirPath) -> None:
        self.path = path

    @cached_property
    def running(self) -> Flow:
        """All on, the nozzle open."""
        return solve(self.path)

    @cached_property
    def bared(self) -> Flow:
        """The front taken off."""
        return solve(self.path.front_off())

    @cached_property
    def sealed(self) -> Flow:
        """A palm on the inlet, the front taken off."""
        return solve(self.path.front_off(), At.SEALED)

    @cached_property
    def through_a_gauge(self) -> Flow:
        """A gauge's fixed opening in place of the front."""
        return solve(self.path.front_off(), At.ORIFICE, GAUGE_MM2)

    @property
    def at_the_mouth(self) -> float:
        """The suction where the front meets the body, all on [Pa]."""
        last = [place.key for place in self.path.before if place.column in IN_FRONT][-1]
        return self.running.suctions[last]

    @property
    def vented(self) -> float:
        """What comes out where it should: the fan's flow less what leaks out on the way [L/s]."""
        flow = self.running.fan
        for i, place in enumerate(self.path.behind):
            flow -= place.leak(_behind_a_leak(place, self.path.behind[i + 1 :], flow)) if place.leak_mm2 else 0.0
        return flow
