"""What the care book says of each kind of machine, as frozen values; `care.book` builds them from its TOML files.

Units stand in the names (`_h` hours, `_min` minutes); where a name has none, the docstring says so. A key of a file
that no class here names is refused, so that every key has a reader.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field

from care.errors import BookError, require
from care.faults.drag import NO_DRAG, Drag, Fan
from care.parts import Slot
from care.vocabulary import Action, Column, Meter, Mishap, School, Silence, Skill
from care.washability import NO_UNKNOWN_KEYS


@dataclass(frozen=True, slots=True)
class Station:
    """One chamber of a machine's air path, or its off-path group, at a column of the house board.

    `air` is what it takes from the air when clean; what sits there lies behind `opening`, if it names one.
    """

    key: str
    column: Column
    label: str
    opening: str | None = None
    air: Drag = NO_DRAG

    __pydantic_config__ = NO_UNKNOWN_KEYS


@dataclass(frozen=True, slots=True)
class Opening:
    """What must be undone to reach parts, with the words to open and to close it and the minutes for both.

    `part` is the slot of the part that comes off with it: a bin taken off to reach its screen. `screws` tells that
    there are some, to be counted out and in; `strip_down` that it opens the body; `each` names what is looked over
    while it is open; `cautions` come before it, gates at the very start. `last` is done only once it has been tried
    with power: its last screws. What closes `live` brings power back, and so closes when all else is shut. `seat` says
    what to look for where it does not close, `drawing` names a drawing.
    """

    key: str
    name: str
    undo: str
    close: str
    setup_min: float
    part: str | None = None
    screws: bool = False
    strip_down: bool = False
    each: tuple[str, ...] = ()
    tools: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()
    last: str = ""
    live: bool = False
    seat: tuple[str, ...] = ()
    drawing: str = ""

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(0 <= self.setup_min <= 120, "setup_min", self.setup_min, "0 to 120 minutes")
        require(self.screws or not self.last, "last", self.last, "nothing where there are no screws")

    @property
    def skill(self) -> Skill:
        """How far somebody must go to get through it."""
        if self.strip_down:
            return Skill.STRIP_DOWN
        return Skill.SCREWS if self.screws else Skill.MODULES


@dataclass(frozen=True, slots=True)
class Kit:
    """Parts that are sold and renewed together, and how long one lasts in a home that runs it little or much [days]."""

    key: str
    name: str
    slots: tuple[str, ...]
    low: float = 182.0
    high: float = 365.0

    __pydantic_config__ = NO_UNKNOWN_KEYS


@dataclass(frozen=True, slots=True)
class Option:
    """A feature that some machines of a kind have, asked for when one is set up."""

    key: str
    question: str

    __pydantic_config__ = NO_UNKNOWN_KEYS


@dataclass(frozen=True, slots=True)
class Archetype:
    """A kind of machine: its air path, parts, rules and openings. One TOML file of the book.

    A dock `serves` a robot and `provides` features to it; its meters come from the robot's runs. `traits` answers the
    questions that tell kinds apart (question key -> answer key). `fan` is missing where it moves no air. One of an
    unknown model has figures that may be so many times off either way (`wide`). What gets around by itself does so many
    `m2_per_min` [m2/min].
    """

    key: str
    name: str
    version: int
    make_safe: str
    place: str
    usual_run_min: float
    stations: tuple[Station, ...]
    slots: tuple[Slot, ...]
    openings: tuple[Opening, ...] = ()
    silence: Silence = Silence.RAN
    mops: bool = False
    has_dock: bool = False
    serves: bool = False
    provides: tuple[str, ...] = ()
    options: tuple[Option, ...] = ()
    kits: tuple[Kit, ...] = ()
    minutes_per_charge: float | None = None
    traits: Mapping[str, str] = field(default_factory=dict)
    fan: Fan | None = None
    wide: float = 1.0
    m2_per_min: float = 0.0

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(0 <= self.m2_per_min <= 20, "m2_per_min", self.m2_per_min, "0 to 20 m2 a minute")
        require(1 <= self.wide <= 3, "wide", self.wide, "1 to 3 times")
        _unique("stations", [s.key for s in self.stations])
        _unique("openings", [o.key for o in self.openings])
        _unique("slots", [s.key for s in self.slots])
        require(bool(self.slots), "slots", "none", "at least one part")
        stations = {s.key for s in self.stations}
        openings = {o.key for o in self.openings} | {None}
        slots = {s.key for s in self.slots}
        for slot in self.slots:
            require(slot.station in stations, f"slots.{slot.key}.station", slot.station, "a station of this file")
            require(slot.opening in openings, f"slots.{slot.key}.opening", slot.opening, "an opening of this file")
            other = slot.swaps_with
            require(other is None or other in slots, f"slots.{slot.key}.swaps_with", other, "a part of this file")
        for kit in self.kits:
            require(set(kit.slots) <= slots, f"kits.{kit.key}.slots", kit.slots, "parts of this file")
        require(0 < self.usual_run_min <= 1440, "usual_run_min", self.usual_run_min, "1 to 1440 minutes")
        charge = self.minutes_per_charge
        require(charge is None or charge > 0, "minutes_per_charge", charge, "more than 0")

    def run_min_of(self, area_m2: float) -> float | None:
        """How long a floor takes it [min], to five minutes; None where its kind has no usual pace.

        >>> from care.book import load_book
        >>> load_book().archetypes["robot-mop"].run_min_of(88)
        90.0
        """
        return 5.0 * round(area_m2 / self.m2_per_min / 5) or 5.0 if self.m2_per_min else None

    def column_of(self, slot: Slot) -> Column:
        """Where on the path of the air a part sits."""
        return next(station.column for station in self.stations if station.key == slot.station)

    def is_filter(self, slot: Slot) -> bool:
        """Whether a part is one of its filters; what screens the dirt off before them is none."""
        return self.column_of(slot) in (Column.FILTER, Column.EXHAUST)

    def slot(self, key: str) -> Slot:
        """The slot `key`. Raises `InvalidValue` when this kind of machine has none."""
        for slot in self.slots:
            if slot.key == key:
                return slot
        require(False, "slot", key, f"a part of {self.name}")
        raise AssertionError  # require has raised

    def traits_with(self, features: frozenset[str]) -> dict[str, str]:
        """Its traits, and of each feature that some of its kind have whether one with these `features` has it."""
        return {**self.traits, **{one.key: "yes" if one.key in features else "no" for one in self.options}}

    def parts(self, features: frozenset[str]) -> tuple[Slot, ...]:
        """The slots that a machine with these features has."""
        return tuple(slot for slot in self.slots if slot.is_there(features))

    def filters(self, features: frozenset[str]) -> tuple[Slot, ...]:
        """The slots behind the bin that the air is cleaned in: screens, filters, what sits at the exhaust."""
        columns = {station.key: station.column for station in self.stations}
        cleans = (Column.SCREEN, Column.FILTER, Column.EXHAUST)
        return tuple(slot for slot in self.parts(features) if columns[slot.station] in cleans)

    def brought_forward(self, mishap: Mishap, features: frozenset[str], school: School) -> list[tuple[Slot, Action]]:
        """What `mishap` makes due at once on a machine with these features, by the household's school and figures."""
        return [
            (slot, rule.action)
            for slot in self.parts(features)
            for rule in slot.rules
            if mishap in rule.after and rule.holds_with(features) and rule.in_force(slot.school_in(school))
        ]

    def hands_on_min(self, tasks: Iterable[tuple[str, Action]]) -> float:
        """Hands-on minutes of tasks (slot key, action) done in one go [min]: each opening counts once."""
        chosen = [(self.slot(slot), action) for slot, action in tasks]
        openings = {slot.opening for slot, _ in chosen if slot.opening}
        effort = sum(slot.rule(action).card.effort_min for slot, action in chosen)
        return effort + sum(self.opening(key).setup_min for key in openings)

    def opening(self, key: str) -> Opening:
        """The opening `key`; the file has been checked to hold every opening that a slot names."""
        return next(o for o in self.openings if o.key == key)

    @property
    def empties_robot(self) -> bool:
        """Whether it is a dock that draws its robot's bin empty by itself, and so must not do so without its bag."""
        return any(t.meter is Meter.EVACUATIONS for slot in self.slots for rule in slot.rules for t in rule.triggers)

    @property
    def bins(self) -> tuple[str, ...]:
        """Slots in the bin column whose emptying counts as a fill."""
        bins = {s.key for s in self.stations if s.column is Column.BIN}
        empties = (s for s in self.slots if any(rule.action is Action.EMPTY for rule in s.rules))
        return tuple(s.key for s in empties if s.station in bins)


def without_superseded(tasks: Iterable[tuple[str, Action]]) -> set[tuple[str, Action]]:
    """Tasks (slot key, action) of one machine that make sense together.

    What is to be replaced is not cleaned first, and what is worked on is looked at anyway.
    """
    chosen = set(tasks)
    replaced = {slot for slot, action in chosen if action is Action.REPLACE}
    worked = {slot for slot, action in chosen if action is not Action.INSPECT}
    return {
        (slot, action)
        for slot, action in chosen
        if (action is Action.REPLACE or slot not in replaced) and (action is not Action.INSPECT or slot not in worked)
    }


def _unique(what: str, keys: list[str]) -> None:
    twice = sorted({k for k in keys if keys.count(k) > 1})
    if twice:
        raise BookError(f"{what}: {', '.join(twice)} stands twice", field=what, fix="Give each its own key.")
