"""What the air lab takes and gives."""

from __future__ import annotations

from care.faults.lab import Setting
from care.vocabulary import Column
from server.base import bounds
from server.base.schema import Schema
from server.faults.lab import Lab


class SettingIn(Schema):
    """What is set in the lab, by station."""

    fills: bounds.Table[bounds.Share] = {}
    opens: bounds.Table[bounds.Share] = {}
    leaks: bounds.Table[bounds.Amount] = {}
    power: bounds.Share = 1.0

    def setting(self) -> Setting:
        """As the core takes it."""
        return Setting(self.fills, self.opens, self.leaks, self.power)


class PlaceOut(Schema):
    """A station of the path in the lab: what may be set there."""

    key: str
    label: str
    column: Column
    fills: bool
    blocks: bool
    suction_kpa: float | None


class HeardOut(Schema):
    """What somebody would notice."""

    key: str
    name: str
    feel: str


class LabOut(Schema):
    """The air of a machine as set: flow [L/s], suction ahead of the fan [kPa], pull, pitch, heat beside clean [-].

    `present` is how full its filters are by its records.
    """

    places: list[PlaceOut]
    powers: list[float]
    present: dict[str, float]
    nozzle_l_s: float
    suction_kpa: float
    pull: float
    pitch: float
    heat: float
    heard: list[HeardOut]


def lab_out(of: Lab) -> LabOut:
    """The air lab."""
    seen = of.seen
    labels = {s.key: s for s in of.archetype.stations}
    places = (*of.path.before, *of.path.behind)
    words = {s.key: s for s in of.symptoms}
    return LabOut(
        places=[
            PlaceOut(
                key=p.key,
                label=labels[p.key].label,
                column=p.column,
                fills=p.key in of.filters,
                blocks=p.key in of.blocks,
                suction_kpa=round(seen.suctions[p.key] / 1000, 2) if p.key in seen.suctions else None,
            )
            for p in places
        ],
        powers=list(of.powers),
        present=of.present,
        nozzle_l_s=round(seen.nozzle, 2),
        suction_kpa=round(seen.suction / 1000, 2),
        pull=round(seen.pull, 3),
        pitch=round(seen.pitch, 3),
        heat=round(seen.heat, 2),
        heard=[HeardOut(key=key, name=words[key].name, feel=words[key].feel) for key in seen.heard],
    )
