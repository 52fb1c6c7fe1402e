"""The shared vocabulary of the core, as frozen values.

Units stand in the names (`_h` hours, `_min` minutes, `_s` seconds); where a name has none, the docstring says so.
What the care book holds (`Archetype` and below) is built by `care.book`; what happened (`Run`, `Inspection`,
`ServiceRecord`) is built by the server from its records.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from datetime import date, datetime, timedelta
from enum import IntEnum, StrEnum
from uuid import UUID

from care.errors import BookError, require

Scalar = str | float | int | bool | None
NO_UNKNOWN_KEYS = {"extra": "forbid"}
"""Marks a class whose TOML table may hold no other keys: what no engine reads is refused."""


class Column(StrEnum):
    """Places along the air path, in the order the air takes; all machines share them on the house board."""

    FLOOR = "floor"
    NECK = "neck"
    WAND = "wand"
    HOSE = "hose"
    INLET = "inlet"
    BIN = "bin"
    SCREEN = "screen"
    FILTER = "filter"
    MOTOR = "motor"
    EXHAUST = "exhaust"
    OFF_PATH = "off_path"


class Meter(StrEnum):
    """What is counted. A trigger counts one of these."""

    RUN_HOURS = "run_hours"
    RUNS = "runs"
    DAYS = "days"
    WASHES = "washes"


class Calendar(StrEnum):
    """What the days of a calendar trigger mean."""

    AGES = "ages"
    """Goes on when the machine rests: rubber, wet parts, hygiene."""
    STANDS_FOR_USE = "stands_for_use"
    """Shorthand for so many days of usual use; a machine that rests does not use it up."""


class Action(StrEnum):
    """What is done to a part."""

    EMPTY = "empty"
    DE_HAIR = "de_hair"
    WIPE = "wipe"
    WASH = "wash"
    CLEAN = "clean"
    REPLACE = "replace"


class LoadKind(StrEnum):
    """Which of the household's three load indices moves a rule inside its range."""

    HAIR = "hair"
    DUST = "dust"
    VOLUME = "volume"


class School(StrEnum):
    """How practitioners differ; a household picks one."""

    LABEL = "label"
    WORKSHOP = "workshop"
    THRIFTY = "thrifty"


class Figure(StrEnum):
    """Where a figure of the book comes from."""

    PRINTED = "printed"
    PRACTICE = "practice"
    OURS = "ours"


class Consequence(IntEnum):
    """What is at stake when a task waits; the smaller number goes first."""

    SAFETY = 1
    MOTOR = 2
    STOPS = 3
    PICK_UP = 4
    SMELL = 5
    LOOKS = 6


class Found(StrEnum):
    """What a person saw when looking at a part."""

    CLEAN = "clean"
    LIGHT = "light"
    DUE = "due"
    OVERDUE = "overdue"


class Level(StrEnum):
    """How a part stands, told by shape, text and colour together."""

    FRESH = "fresh"
    WEARING = "wearing"
    DUE = "due"
    OVERDUE = "overdue"
    DRYING = "drying"
    MISSING = "missing"


class Provenance(StrEnum):
    """How we know of a run."""

    MEASURED = "measured"
    LOGGED = "logged"
    ASSUMED = "assumed"


# --- The care book -----------------------------------------------------------------------------------------------


@dataclass(frozen=True, slots=True)
class Trigger:
    """One way a task falls due: `meter` reaching a figure between `low` and `high` (in the meter's own unit).

    A calendar trigger also says whether its days age or stand for use, and in the second case for how many hours
    of running a week.
    """

    meter: Meter
    low: float
    high: float
    calendar: Calendar | None = None
    reference_h_per_week: float | None = None

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(self.low > 0, "low", self.low, "more than 0")
        require(self.high >= self.low, "high", self.high, f"at least low ({self.low:g})")
        is_days = self.meter is Meter.DAYS
        require(
            is_days == (self.calendar is not None),
            "calendar",
            self.calendar,
            "a value for days, none otherwise",
        )
        needs_reference = self.calendar is Calendar.STANDS_FOR_USE
        has_reference = self.reference_h_per_week is not None
        require(
            needs_reference == has_reference,
            "reference_h_per_week",
            self.reference_h_per_week,
            "a figure when the days stand for use, none otherwise",
        )
        require(
            (self.reference_h_per_week or 1) > 0,
            "reference_h_per_week",
            self.reference_h_per_week,
            "more than 0",
        )


@dataclass(frozen=True, slots=True)
class Card:
    """How to do a task: the words of its steps. `effort_min` is hands-on time without opening the machine [min]."""

    effort_min: float
    how: tuple[str, ...]
    cautions: tuple[str, ...] = ()

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(0 < self.effort_min <= 240, "effort_min", self.effort_min, "more than 0 and at most 240 minutes")
        require(bool(self.how), "how", self.how, "at least one sentence")


@dataclass(frozen=True, slots=True)
class Rule:
    """When a part needs an action: the first of its triggers governs.

    `done_by` lists other actions that also set its service clock back (a wash is also a clean). `never_stretch` marks
    what no school lets go past its upper figure (cliff sensors, the filter that guards the motor).
    """

    action: Action
    triggers: tuple[Trigger, ...]
    consequence: str
    figure: Figure
    reason: str
    card: Card
    moved_by: LoadKind | None = None
    done_by: tuple[Action, ...] = ()
    never_stretch: bool = False

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(bool(self.triggers), "triggers", self.triggers, "at least one trigger")
        names = [c.name.lower() for c in Consequence]
        require(self.consequence in names, "consequence", self.consequence, "one of " + ", ".join(names))

    @property
    def stake(self) -> Consequence:
        """What is at stake, as the ordered value."""
        return Consequence[self.consequence.upper()]

    @property
    def is_life(self) -> bool:
        """Whether the rule runs on the life clock (since new) instead of the service clock (since last cleaned)."""
        return self.action is Action.REPLACE


@dataclass(frozen=True, slots=True)
class Station:
    """One chamber of a machine's air path, or its off-path group, at a column of the house board."""

    key: str
    column: Column
    label: str

    __pydantic_config__ = NO_UNKNOWN_KEYS


@dataclass(frozen=True, slots=True)
class Opening:
    """What must be undone to reach parts, with the words to open and to close it and the minutes for both."""

    key: str
    name: str
    undo: str
    close: str
    setup_min: float

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(0 <= self.setup_min <= 120, "setup_min", self.setup_min, "0 to 120 minutes")


@dataclass(frozen=True, slots=True)
class Slot:
    """A position on a machine that holds one item at a time.

    `air_order` is the order in which the air meets layers of one station, `refit_order` the order of putting parts
    back; they differ where layers go in from behind. `drying_floor_h` is the shortest rest after a wash [h].
    """

    key: str
    station: str
    part: str
    name: str
    short: str
    removable: bool
    air_order: int
    refit_order: int
    rules: tuple[Rule, ...]
    as_found: Mapping[Found, str]
    opening: str | None = None
    take_out: str = ""
    put_back: str = ""
    test: str = ""
    drying_floor_h: float = 0.0
    needed_to_run: bool = True

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        actions = [rule.action for rule in self.rules]
        require(len(actions) == len(set(actions)), "rules", actions, "each action once")
        require(set(self.as_found) == set(Found), "as_found", sorted(self.as_found), "words for all four answers")
        if self.removable:
            require(bool(self.take_out), "take_out", self.take_out, "how to take the part out")
            require(bool(self.put_back), "put_back", self.put_back, "how to put the part back")
        require(0 <= self.drying_floor_h <= 400, "drying_floor_h", self.drying_floor_h, "0 to 400 hours")

    def rule(self, action: Action) -> Rule:
        """The rule for `action`. Raises `InvalidValue` when the part has none."""
        for rule in self.rules:
            if rule.action is action:
                return rule
        have = ", ".join(r.action for r in self.rules) or "none"
        require(False, "action", action, f"an action that {self.name} has ({have})")
        raise AssertionError  # require has raised


@dataclass(frozen=True, slots=True)
class Caution:
    """A short warning shown before a step; a gate must be acknowledged before the sheet goes on."""

    key: str
    text: str
    gate: bool = False

    __pydantic_config__ = NO_UNKNOWN_KEYS


@dataclass(frozen=True, slots=True)
class Archetype:
    """A kind of machine: its air path, parts, rules and openings. One TOML file of the book."""

    key: str
    name: str
    version: int
    make_safe: str
    place: str
    usual_run_min: float
    stations: tuple[Station, ...]
    openings: tuple[Opening, ...]
    slots: tuple[Slot, ...]

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        _unique("stations", [s.key for s in self.stations])
        _unique("openings", [o.key for o in self.openings])
        _unique("slots", [s.key for s in self.slots])
        stations = {s.key for s in self.stations}
        openings = {o.key for o in self.openings} | {None}
        for slot in self.slots:
            require(slot.station in stations, f"slots.{slot.key}.station", slot.station, "a station of this file")
            require(slot.opening in openings, f"slots.{slot.key}.opening", slot.opening, "an opening of this file")
        require(0 < self.usual_run_min <= 1440, "usual_run_min", self.usual_run_min, "1 to 1440 minutes")

    def slot(self, key: str) -> Slot:
        """The slot `key`. Raises `InvalidValue` when this kind of machine has none."""
        for slot in self.slots:
            if slot.key == key:
                return slot
        require(False, "slot", key, f"a part of {self.name}")
        raise AssertionError  # require has raised

    def hands_on_min(self, tasks: Iterable[tuple[str, Action]]) -> float:
        """Hands-on minutes of tasks (slot key, action) done in one go [min]: each opening counts once."""
        chosen = [(self.slot(slot), action) for slot, action in tasks]
        openings = {slot.opening for slot, _ in chosen if slot.opening}
        effort = sum(slot.rule(action).card.effort_min for slot, action in chosen)
        return effort + sum(self.opening(key).setup_min for key in openings)

    def opening(self, key: str) -> Opening:
        """The opening `key`; the file has been checked to hold every opening that a slot names."""
        return next(o for o in self.openings if o.key == key)


def without_superseded(tasks: Iterable[tuple[str, Action]]) -> set[tuple[str, Action]]:
    """Tasks (slot key, action) of one machine that make sense together: what is to be replaced is not cleaned first."""
    chosen = set(tasks)
    replaced = {slot for slot, action in chosen if action is Action.REPLACE}
    return {(slot, action) for slot, action in chosen if action is Action.REPLACE or slot not in replaced}


def _unique(what: str, keys: list[str]) -> None:
    twice = sorted({k for k in keys if keys.count(k) > 1})
    if twice:
        raise BookError(f"{what}: {', '.join(twice)} stands twice", field=what, fix="Give each its own key.")


@dataclass(frozen=True, slots=True)
class Book:
    """The whole care book."""

    archetypes: Mapping[str, Archetype]
    cautions: Mapping[str, Caution]


# --- What happened ---------------------------------------------------------------------------------------------


@dataclass(frozen=True, slots=True)
class Run:
    """One run of a machine: its local day, its length [s], its start only if known.

    `counts_at` is the instant from which its hours count on every clock: its end if known, else when it was told.
    """

    id: UUID
    day: date
    run_s: float
    counts_at: datetime
    start: datetime | None = None
    provenance: Provenance = Provenance.LOGGED

    def __post_init__(self) -> None:
        require(0 < self.run_s <= 86_400, "run_s", self.run_s, "more than 0 and at most 24 h (86 400 s)")

    @property
    def end(self) -> datetime | None:
        """When it ended, if its start is known."""
        return self.start + timedelta(seconds=self.run_s) if self.start else None


@dataclass(frozen=True, slots=True)
class ServiceRecord:
    """An action done to an item at an instant."""

    id: UUID
    item_id: UUID
    slot: str
    action: Action
    at: datetime


@dataclass(frozen=True, slots=True)
class Inspection:
    """What a person found on an item before doing anything to it; `about` is the action it speaks of."""

    id: UUID
    item_id: UUID
    slot: str
    about: Action
    found: Found
    at: datetime


@dataclass(frozen=True, slots=True)
class Load:
    """How much the household loads its machines: three indices, each 0 (little) to 1 (much)."""

    hair: float = 0.5
    dust: float = 0.5
    volume: float = 0.5

    def __post_init__(self) -> None:
        for name in LoadKind:
            require(0 <= self.of(name) <= 1, name, self.of(name), "0 to 1")

    def of(self, kind: LoadKind) -> float:
        """The index of `kind` [-]."""
        return {LoadKind.HAIR: self.hair, LoadKind.DUST: self.dust, LoadKind.VOLUME: self.volume}[kind]


@dataclass(frozen=True, slots=True)
class Machine:
    """A machine of the household: which archetype it follows and what sits in its slots now (slot key -> item id)."""

    id: UUID
    name: str
    archetype: Archetype
    fitted: Mapping[str, UUID]

    @property
    def empty_slots(self) -> tuple[str, ...]:
        """Slots the machine must not run without that hold nothing."""
        return tuple(s.key for s in self.archetype.slots if s.needed_to_run and s.key not in self.fitted)


# --- What follows from it --------------------------------------------------------------------------------------


@dataclass(frozen=True, slots=True)
class Because:
    """A node of an explanation: a code, its figures, and what it rests on. Words are made where it is shown."""

    code: str
    values: Mapping[str, Scalar] = field(default_factory=dict)
    parts: tuple["Because", ...] = ()

    def find(self, code: str) -> "Because | None":
        """The first node with `code`, depth first."""
        if self.code == code:
            return self
        return next((hit for part in self.parts if (hit := part.find(code))), None)


@dataclass(frozen=True, slots=True)
class Clock:
    """How far a meter has gone towards a limit; both in the unit of `meter`."""

    meter: Meter
    used: float
    limit: float

    @property
    def share(self) -> float:
        """Used over limit [-]; above 1 when past it."""
        return self.used / self.limit

    @property
    def left(self) -> float:
        """What is left before the limit, never below 0."""
        return max(0.0, self.limit - self.used)

    @property
    def share_left(self) -> float:
        """Left over limit [-], 0 to 1: what a machine's own countdown shows."""
        return self.left / self.limit


@dataclass(frozen=True, slots=True)
class DueDate:
    """When it is expected: the local days before which 10, 50 and 90 % of the futures reach it.

    `certain` means a pure calendar date.
    """

    p10: date
    p50: date
    p90: date
    certain: bool = False


@dataclass(frozen=True, slots=True)
class DueState:
    """How one rule of one slot stands now.

    `clocks` has the governing one first; `share` is its share [-]; `due` says when the first of them is expected to
    reach 1, None when that never comes (not while unused).
    """

    slot: str
    action: Action
    item_id: UUID | None
    level: Level
    share: float
    clocks: tuple[Clock, ...]
    due: DueDate | None
    stake: Consequence
    because: Because

    @property
    def due_on(self) -> date | None:
        """The middle of the expectation."""
        return self.due.p50 if self.due else None

    @property
    def is_due(self) -> bool:
        """Whether it wants hands now."""
        return self.level in (Level.DUE, Level.OVERDUE)
