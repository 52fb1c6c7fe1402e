"""The air lab: somebody loads a filter, blocks a station, opens a leak, and sees what the air does and sounds like.

The same solution of the air as the fault finder's, and its own words for what follows from it.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from care.due_state import DueState
from care.errors import require
from care.faults.airflow import Air, AirPath
from care.faults.book import Symptom
from care.faults.effects import AirEffect, Sign
from care.faults.likelihood import chance_felt
from care.faults.signs import sign
from care.kinds import Archetype
from care.vocabulary import Action, Column, Meter

POWERS = (0.4, 0.6, 0.8, 1.0)
"""Settings of the motor's speed, beside full power [-]; 0.6 gives about a third of the suction."""
MOST_FULL = 1.5
"""As far as a clock is taken to fill a filter [-]."""
HEARD = 0.5
"""From this chance on, what somebody would notice is told [-]."""


@dataclass(frozen=True, slots=True)
class Setting:
    """What is set in the lab, by station: how full a filter is, the share of a bore left open, a leak [mm2]; power."""

    fills: Mapping[str, float]
    opens: Mapping[str, float]
    leaks: Mapping[str, float]
    power: float = 1.0

    def on(self, path: AirPath) -> AirPath:
        """The path so set. Raises `InvalidValue` for a station it has not, or a figure that cannot be."""
        require(0.2 <= self.power <= 1, "power", self.power, "0.2 to 1")
        made = path.changed("", AirEffect(power=self.power))
        for key, fill in self.fills.items():
            made = made.changed(key, AirEffect(fill=fill))
        for key, share in self.opens.items():
            made = made.changed(key, AirEffect(open=share))
        for key, leak in self.leaks.items():
            made = made.changed(key, AirEffect(leak_mm2=leak))
        return made


@dataclass(frozen=True, slots=True)
class Seen:
    """What the air does as set: flow at the nozzle and through the fan [L/s], suction ahead of the fan [Pa], and beside
    the clean machine at full power: pull, pitch, heat [-]. `suctions` is behind each place ahead of the fan [Pa].

    `heard` are the keys of what somebody would notice, likeliest first.
    """

    nozzle: float
    fan: float
    suction: float
    pull: float
    pitch: float
    heat: float
    suctions: Mapping[str, float]
    heard: tuple[str, ...]


def see(path: AirPath, setting: Setting, symptoms: tuple[Symptom, ...]) -> Seen:
    """What the air of `path` does as set, and which of `symptoms` somebody would notice."""
    air, clean = Air(setting.on(path)), Air(path)
    chances = {s.key: chance_felt(s, air, clean) for s in symptoms if s.solved and not s.of_dock}
    heard = sorted((key for key, p in chances.items() if p >= HEARD), key=lambda key: -chances[key])
    return Seen(
        air.running.nozzle,
        air.running.fan,
        air.running.suction,
        sign(Sign.PULL, air, clean),
        sign(Sign.PITCH, air, clean),
        sign(Sign.HEAT, air, clean),
        air.running.suctions,
        tuple(heard),
    )


CLOGS = (Action.WASH, Action.CLEAN, Action.REPLACE, Action.EMPTY)
"""The tasks whose clock says how full a filter is, the first that a part has."""


def fills(kind: Archetype, path: AirPath, due: Iterable[DueState]) -> dict[str, float]:
    """How full each filter of `path` is by the clocks of its parts [0..1.5]; without those that nobody knows."""
    by_task = {
        (one.slot, one.action): one.share for one in due if one.clocks and one.clocks[0].meter is not Meter.CONDITION
    }
    found: dict[str, float] = {}
    for key in filters(path):
        slots = [slot.key for slot in kind.slots if slot.station == key]
        shares = [by_task[slot, action] for slot in slots for action in CLOGS if (slot, action) in by_task]
        if shares:
            found[key] = round(min(max(shares[0], 0.0), MOST_FULL), 3)
    return found


def filters(path: AirPath) -> tuple[str, ...]:
    """The places that fill: what drags as a filter does."""
    return tuple(place.key for place in (*path.before, *path.behind) if place.r > 0)


def can_block(path: AirPath) -> tuple[str, ...]:
    """The places that something can block."""
    return tuple(place.key for place in path.before if place.column is not Column.FILTER)
