"""The air lab of a machine: what is set, what the air does, and how the machine stands by its records."""

from dataclasses import dataclass
from uuid import UUID

from care.book import load_book
from care.faults import Symptom, fits
from care.kinds import Action, Archetype, Meter, Slot
from care.trace.airflow import AirPath, air_path
from care.trace.lab import POWERS, Seen, Setting, can_block, filters, see
from server.config.problems import Conflict
from server.household.models import Member
from server.machines.records import archetype_of
from server.machines.services import machine_of
from server.machines.state import MachineState, machine_states

CLOGGED = (Action.WASH, Action.CLEAN, Action.REPLACE, Action.EMPTY)
"""The tasks whose clock says how full a filter is, the first that a part has."""


@dataclass(frozen=True)
class Lab:
    """A machine's lab: its kind, path, what may be set, what the air does; how it stands only where nothing is set."""

    archetype: Archetype
    path: AirPath
    symptoms: tuple[Symptom, ...]
    filters: tuple[str, ...]
    blocks: tuple[str, ...]
    powers: tuple[float, ...]
    present: dict[str, float]
    seen: Seen


def lab(member: Member, machine_id: UUID, setting: Setting | None) -> Lab:
    """What the air of a machine does as set, or as its records have it now. Raises `Conflict` where it moves no air."""
    kind = archetype_of(machine_of(member, machine_id))
    path = air_path(kind)
    if path is None:
        raise Conflict("machine: it moves no air of its own", field="machine_id", fix="Look at its robot instead.")
    symptoms = tuple(s for s in load_book().faults.symptoms if fits(s.when, kind.traits) or kind.serves)
    fill = filters(path)
    present = _present(member, machine_id, fill) if setting is None else {}
    as_set = setting or Setting(present, {}, {})
    return Lab(kind, path, symptoms, fill, can_block(path), POWERS, present, see(path, as_set, symptoms))


def _present(member: Member, machine_id: UUID, stations: tuple[str, ...]) -> dict[str, float]:
    """How full the filters are by the records; asked for only where nothing is set, since all dates come with it."""
    (state,) = machine_states(member, machine_id)
    return {key: share for key in stations if (share := _fill(state, key)) is not None}


def _fill(state: MachineState, station: str) -> float | None:
    """How full the filter at a station is by its clock [0..1.5]; None where nobody knows."""
    slots: list[Slot] = [s for s in state.machine.archetype.slots if s.station == station]
    told = [
        due.share
        for slot in slots
        for action in CLOGGED
        for due in state.due
        if (due.slot, due.action) == (slot.key, action) and due.clocks and due.clocks[0].meter is not Meter.CONDITION
    ]
    return round(min(max(told[0], 0.0), 1.5), 3) if told else None
