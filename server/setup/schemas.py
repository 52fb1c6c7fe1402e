"""What setting machines up and changing them takes and gives."""

from __future__ import annotations

from datetime import date
from typing import Any, Literal
from uuid import UUID

from care.due.schedule import Schedule, every_so_many_days, weekly
from care.due.usage import AtDock
from care.errors import require
from care.overrides import HowFar
from care.vocabulary import Action, Meter, School, Silence
from care.washability import Mark
from server.base import bounds
from server.base.schema import Schema
from server.setup.services import Earlier, New, Spare


class WeekIn(Schema):
    """A usual week. `days` are two-letter weekdays (MO..SU), or it runs once in `every` so many days from today on;
    neither for no usual week.
    """

    days: bounds.Few[bounds.Weekday] = []
    every: bounds.DaysApart | None = None
    minutes: bounds.Minutes
    starts: bounds.Clock | None = None
    mops: bool = False
    silence: Silence = Silence.RESTED
    return_min: bounds.ReturnMinutes | None = None
    quiet_from: bounds.Clock | None = None
    quiet_until: bounds.Clock | None = None
    dry_h: bounds.DryHours | None = None

    def at_dock(self) -> AtDock:
        """What the robot and its dock are set to. Raises `InvalidValue` for quiet hours without an end."""
        both = (self.quiet_from is None) == (self.quiet_until is None)
        require(both, "quiet_until", self.quiet_until, "both ends of the quiet hours, or neither")
        quiet = (self.quiet_from, self.quiet_until) if self.quiet_from and self.quiet_until else None
        return AtDock(self.return_min, quiet, self.dry_h)

    def schedule(self, today: date) -> Schedule | None:
        """The usual week as the core has it, days apart counted from `today`. Raises `InvalidValue` where both are."""
        require(not (self.days and self.every), "every", self.every, "weekdays or days between two runs, not both")
        more: dict[str, Any] = {"mops": self.mops, "silence": self.silence}
        if self.every:
            return every_so_many_days(self.every, today, self.minutes, self.starts, **more)
        return weekly(self.days, self.minutes, self.starts, **more) if self.days else None


class EarlierIn(Schema):
    """What is known of a machine's past: None is "do not know"."""

    bought: bounds.Day | None = None
    last_done: bounds.Day | None = None
    parts: bounds.Table[bounds.Day | None] = {}


class SpareIn(Schema):
    """A second part for a slot."""

    slot: bounds.Key
    name: bounds.Name


class DockIn(Schema):
    """The dock that a robot comes home to."""

    id: UUID
    name: bounds.Name
    archetype: bounds.Key


class MachineIn(WeekIn):
    """A machine to add, with its dock if it has one; the ids are the client's. Without `earlier` its parts are new.

    `marked` tells by slot whether somebody saw that a part is marked washable, `wires` whether there are any in it.
    """

    id: UUID
    name: bounds.Name
    archetype: bounds.Key
    features: bounds.Few[bounds.Key] = []
    serves: UUID | None = None
    earlier: EarlierIn | None = None
    spares: bounds.Few[SpareIn] = []
    marked: bounds.Table[Mark] = {}
    wires: bounds.Table[Mark] = {}
    dock: DockIn | None = None

    def machines(self, today: date) -> list[New]:
        """The machine, and its dock after it, as the service takes them; runs so many days apart count from today."""
        earlier = Earlier(**self.earlier.model_dump()) if self.earlier else None
        spares = tuple(Spare(spare.slot, spare.name) for spare in self.spares)
        made = New(
            id=self.id,
            name=self.name,
            archetype=self.archetype,
            schedule=self.schedule(today),
            spares=spares,
            features=tuple(self.features),
            serves=self.serves,
            dock=self.at_dock(),
            earlier=earlier,
            marked=self.marked,
            wires=self.wires,
        )
        if self.dock is None:
            return [made]
        past = Earlier(earlier.bought, earlier.last_done) if earlier else None
        return [made, New(self.dock.id, self.dock.name, self.dock.archetype, serves=self.id, earlier=past)]


class ReplaceIn(MachineIn):
    """A machine that stands in for another; `keep` are spares of the old one that stay."""

    keep: bounds.Many[UUID] = []
    same_name: bool = False


class UpkeepIn(WeekIn):
    """A kind of machine at a usual week."""

    archetype: bounds.Key
    features: bounds.Few[bounds.Key] = []
    dock: bounds.Key | None = None
    marked: bounds.Table[Mark] = {}
    wires: bounds.Table[Mark] = {}


class NameIn(Schema):
    """A name; none for the book's."""

    name: bounds.Name | None


class PlaceIn(Schema):
    """Where a part sits; no station for where the book has it."""

    station: bounds.Key | None = None
    air_order: bounds.Order = 1
    refit_order: bounds.Order = 1


class SchoolIn(Schema):
    """The school of a machine, or of one part of it; none for the household's."""

    slot: bounds.Key = ""
    school: School | None = None


class LevelIn(Schema):
    """How far a machine is cleaned, always; none: as its tasks fall due."""

    level: HowFar | None = None


class RoundIn(Schema):
    """A round or a kit and its interval [days]; none: each of its tasks by itself."""

    key: bounds.Key
    days: bounds.RoundDays | None = None


class HabitIn(Schema):
    """Something extra of a part, and whether it is done in each sitting that lays it open."""

    slot: bounds.Key
    action: Action
    kept: bool


class FeatureIn(Schema):
    """An option of a machine's kind, and whether this one has it."""

    feature: bounds.Key
    has: bool


class FigureIn(Schema):
    """The household's own figure for a task, or that it is left out; neither for the book's."""

    action: Action
    meter: Meter | None = None
    figure: bounds.Amount | None = None
    off: bool = False
    why: bounds.Line = ""


class PartIn(Schema):
    """A part to add: one of the book, or one of the household's own with a task and how often."""

    name: bounds.Name
    station: bounds.Key
    use: bounds.Key | None = None
    material: bounds.Key = ""
    action: Action | None = None
    meter: Meter = Meter.DAYS
    figure: bounds.Amount | None = None
    is_new: bool = True


class StatusIn(Schema):
    """Whether a machine is in use; `keep` are spares that stay when it goes for good."""

    status: Literal["in_use", "archived", "lent", "sold"]
    keep: bounds.Many[UUID] = []


class ReasonIn(Schema):
    """Why."""

    reason: bounds.Line


class AssignIn(Schema):
    """What a spare is meant for."""

    machine_id: UUID
    slot: bounds.Key
