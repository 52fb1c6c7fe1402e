"""The air lab of a machine: what is set, what the air does, and how the machine stands by its records."""

from dataclasses import dataclass
from uuid import UUID

from care.book import load_book
from care.faults.airflow import AirPath, air_path
from care.faults.book import Symptom
from care.faults.effects import fits
from care.faults.lab import POWERS, Seen, Setting, can_block, fills, filters, see
from care.kinds import Archetype
from server.base.problems import Conflict
from server.due.state import machine_states
from server.household.models import Member
from server.machines.records import archetype_of
from server.machines.services import machine_of


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
    present: dict[str, float] = {}
    if setting is None:  # only then are dates worked out
        (state,) = machine_states(member, machine_id)
        present = fills(kind, path, state.due)
    as_set = setting or Setting(present, {}, {})
    return Lab(kind, path, symptoms, filters(path), can_block(path), POWERS, present, see(path, as_set, symptoms))
