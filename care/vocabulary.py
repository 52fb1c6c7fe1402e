"""The words of the job that everything else is said in: places of the air path, meters, actions, what one finds."""

from enum import IntEnum, StrEnum


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
    MOP_RUNS = "mop_runs"
    EVACUATIONS = "evacuations"
    """How often a dock empties its robot."""
    FILLS = "fills"
    """How often the machine's own bin was emptied."""
    CHARGES = "charges"
    """Battery charges, from hours of running and the minutes one charge lasts."""
    DAYS = "days"
    WASHES = "washes"
    MISHAPS = "mishaps"
    """How often something went into or under the machine that it is not made for."""
    CONDITION = "condition"
    """Nothing is counted: what somebody finds decides."""


USE_METERS = frozenset({Meter.RUN_HOURS, Meter.RUNS, Meter.MOP_RUNS, Meter.EVACUATIONS, Meter.FILLS, Meter.CHARGES})
"""Meters that stand still while the machine rests."""


class Calendar(StrEnum):
    """What the days of a calendar trigger mean."""

    AGES = "ages"
    """Goes on when the machine rests: rubber, wet parts, hygiene."""
    STANDS_FOR_USE = "stands_for_use"
    """Shorthand for so many days of usual use; a machine that rests does not use it up."""


class Action(StrEnum):
    """What is done to a part."""

    EMPTY = "empty"
    INSPECT = "inspect"
    CLEAN = "clean"
    DE_HAIR = "de_hair"
    WIPE = "wipe"
    RINSE = "rinse"
    WASH = "wash"
    AIR = "air"
    """Left open in free air for a day or more: a hose that smells and is not wetted."""
    SWAP = "swap"
    REPLACE = "replace"


class Mishap(StrEnum):
    """What a machine ran over or took in that it is not made for."""

    STICKY = "sticky"
    WET = "wet"
    FINE_DUST = "fine_dust"
    """Plaster, ash, flour, carpet powder: so fine that it goes through to the filters."""
    SHARP = "sharp"
    """Glass, screws, sharp metal."""


class Skill(StrEnum):
    """How far somebody goes into a machine; each goes further than the one before."""

    MODULES = "modules"
    """Cleans and swaps what comes out by hand."""
    SCREWS = "screws"
    """Opens what is screwed, counts the screws out and in."""
    STRIP_DOWN = "strip_down"
    """Opens the body, short of the motor."""

    def reaches(self, needed: "Skill") -> bool:
        """Whether it goes as far as `needed`.

        >>> Skill.SCREWS.reaches(Skill.MODULES), Skill.SCREWS.reaches(Skill.STRIP_DOWN)
        (True, False)
        """
        order = list(Skill)
        return order.index(self) >= order.index(needed)


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
    HOUSEHOLD = "household"
    """Set by the household itself, beside the book's."""


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


class Gone(StrEnum):
    """Why a part went for good. What it says of its life stands for a look, where nobody told of one."""

    WORN = "worn"
    SCHEDULE = "schedule"
    """On its date, and still good."""
    ACCIDENT = "accident"
    LOST = "lost"

    @property
    def tells(self) -> Found | None:
        """How far its life had gone; None where it went by chance, which teaches nothing."""
        return {Gone.WORN: Found.DUE, Gone.SCHEDULE: Found.LIGHT}.get(self)


class Silence(StrEnum):
    """What it means when nobody says whether a machine ran."""

    RAN = "ran"
    """It ran as usual: plug-in machines that nobody logs every time."""
    RESTED = "rested"
    """It did not run: a robot that reports its runs."""


class Says(StrEnum):
    """What a machine may say of itself in a word; beside these it says what it likes in plain words."""

    AIRWAY_BLOCKED = "airway-blocked"
    FILTER_BLOCKED = "filter-blocked"
    BRUSH_STUCK = "brush-stuck"
    SIDE_BRUSH_STUCK = "side-brush-stuck"
    WHEEL_STUCK = "wheel-stuck"
    BIN_MISSING = "bin-missing"
    BIN_FULL = "bin-full"
    EDGE_AHEAD = "edge-ahead"
    NOT_EMPTIED = "not-emptied"
    DOCK_LEAKS = "dock-leaks"
    DOES_NOT_CHARGE = "does-not-charge"
    BATTERY_HOT = "battery-hot"


class Ended(StrEnum):
    """Why a run ended, as a machine says it."""

    DONE = "done"
    BATTERY = "battery"
    STUCK = "stuck"
    FULL = "full"
    STOPPED = "stopped"
    """Somebody stopped it."""
