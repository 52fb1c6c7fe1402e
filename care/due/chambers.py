"""The strip of a machine: one chamber for each station of its air path, one for each part beside it."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from care.due_state import DueState
from care.items import Item
from care.model import Level, Machine
from care.parts import Slot
from care.vocabulary import Column

WORSE = [Level.FRESH, Level.WEARING, Level.UNKNOWN, Level.DUE, Level.OVERDUE, Level.DRYING, Level.MISSING]
"""Levels from best to worst; a chamber shows the worst of its parts."""


@dataclass(frozen=True, slots=True)
class Chamber:
    """What a chamber shows: fill [0..1] and level of its worst part, and the due state behind them.

    A chamber without parts (the fan) has no level. `ready_at` is set while its part dries elsewhere.
    """

    key: str
    column: Column
    label: str
    slots: tuple[str, ...]
    fill: float
    level: Level | None
    worst: DueState | None
    ready_at: datetime | None = None


def chambers(machine: Machine, due: Iterable[DueState], drying: Mapping[str, Item]) -> list[Chamber]:
    """All chambers of a machine, in the order of its file; `drying` gives parts on the rack by the slot they left."""
    archetype, parts = machine.archetype, machine.archetype.parts(machine.features)
    by_slot: dict[str, list[DueState]] = {}
    for state in due:
        by_slot.setdefault(state.slot, []).append(state)
    made: list[Chamber] = []
    for station in archetype.stations:
        slots = sorted((s for s in parts if s.station == station.key), key=lambda s: s.air_order)
        if station.column is Column.OFF_PATH:
            made += [_chamber(slot.key, Column.OFF_PATH, slot.short, [slot], by_slot, drying) for slot in slots]
        else:
            made.append(_chamber(station.key, station.column, station.label, slots, by_slot, drying))
    return made


def first_part(machine: Machine, states: Iterable[DueState]) -> str | None:
    """The slot that wants hands first: one that is empty, else the one whose part is furthest through its interval."""
    parts = machine.archetype.parts(machine.features)
    empty = next((slot.key for slot in parts if slot.key not in machine.fitted), None)
    furthest = max((s for s in states if s.item_id is not None), key=lambda state: state.share, default=None)
    return empty or (furthest.slot if furthest else None)


def _chamber(
    key: str,
    column: Column,
    label: str,
    slots: Sequence[Slot],
    by_slot: Mapping[str, list[DueState]],
    drying: Mapping[str, Item],
) -> Chamber:
    states = [state for slot in slots for state in by_slot.get(slot.key, [])]
    keys = tuple(slot.key for slot in slots)
    if not states:
        return Chamber(key, column, label, keys, 0.0, None, None)
    worst = max(states, key=lambda s: (WORSE.index(s.level), s.share))
    wet = drying.get(worst.slot) if worst.level is Level.MISSING else None
    level = Level.DRYING if wet else worst.level
    return Chamber(key, column, label, keys, min(worst.share, 1.0), level, worst, wet.damp_until if wet else None)
