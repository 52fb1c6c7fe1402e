"""The signs that the air gives, worked out from its flow."""

from collections.abc import Callable

from care.faults.airflow import GAUGE_MM2, PITCH, Air, orifice
from care.faults.effects import Sign


def sign(which: Sign, air: Air, clean: Air) -> float:
    """What `air` does beside the same machine `clean`: a ratio, 1 as ever."""
    return _SIGNS[which](air, clean)


def _pitch(air: Air, clean: Air) -> float:
    """The motor's speed: a slower fan's own, and what it gains where less air passes."""
    weak = air.path.fan.power / clean.path.fan.power
    return weak * pitch(_ratio(air.running.fan, clean.running.fan) / weak)


def _heat(air: Air, clean: Air) -> float:
    """How much hotter the motor runs: it is cooled by the air that passes."""
    return min(1 / max(_ratio(air.running.fan, clean.running.fan), 0.05), 20.0)


_SIGNS: dict[Sign, Callable[[Air, Air], float]] = {
    Sign.PULL: lambda air, clean: _ratio(air.running.nozzle, clean.running.nozzle),
    Sign.BARED: lambda air, clean: _ratio(air.bared.nozzle, clean.bared.nozzle),
    Sign.SEALED: lambda air, clean: _ratio(air.sealed.suction, clean.sealed.suction),
    Sign.PITCH: _pitch,
    Sign.HEAT: _heat,
    Sign.EXHAUST: lambda air, clean: _ratio(air.vented, clean.vented),
    Sign.GAUGE_OPEN: lambda air, clean: _ratio(air.at_the_mouth, clean.at_the_mouth),
    Sign.GAUGE_ORIFICE: lambda air, clean: _ratio(
        orifice(air.through_a_gauge.nozzle, GAUGE_MM2), orifice(clean.through_a_gauge.nozzle, GAUGE_MM2)
    ),
}


def pitch(share: float) -> float:
    """The motor's speed beside that of the clean machine, at a `share` of its flow [-]. Stated, not measured.

    >>> round(pitch(0.5), 3), pitch(1.0)
    (1.075, 1.0)
    """
    return 1 + PITCH * (1 - share)


def _ratio(part: float, whole: float) -> float:
    return part / whole if whole > 0 else 1.0
