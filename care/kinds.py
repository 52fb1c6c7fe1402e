"""What the care book says of each kind of machine, as frozen values; `care.book` builds them from its TOML files.

Units stand in the names (`_h` hours, `_min` minutes); where a name has none, the docstring says so. A key of a file
that no class here names is refused, so that every key has a reader.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from enum import IntEnum, StrEnum

from care.errors import BookError, require
from care.faults import NO_DRAG, Drag, Fan, FaultBook
from care.measures import Measure
from care.water import NO_UNKNOWN_KEYS, Because, Marks, Ruling, Trait, Washing


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


@dataclass(frozen=True, slots=True)
class Trigger:
    """One way a task falls due: `meter` reaching a figure between `low` and `high` (in the meter's own unit).

    A calendar trigger also says whether its days age or stand for use, and in the second case for how many hours
    of running a week. A condition has no figures. A count of mishaps says which kind it falls due `after`. `times` is
    how many times as long as the book says it takes in this household, as far as it told of its container [-].
    """

    meter: Meter
    low: float = 0.0
    high: float = 0.0
    calendar: Calendar | None = None
    reference_h_per_week: float | None = None
    after: Mishap | None = None
    times: float = 1.0

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(self.times > 0, "times", self.times, "more than 0")
        mishap = self.meter is Meter.MISHAPS
        require(mishap == (self.after is not None), "after", self.after, "a mishap for mishaps, none otherwise")
        if self.meter is Meter.CONDITION:
            bare = self.low == self.high == 0 and self.calendar is None and self.reference_h_per_week is None
            require(bare, "meter", self.meter, "no figures beside a condition")
            return
        require(self.low > 0, "low", self.low, "more than 0")
        require(self.high >= self.low, "high", self.high, f"at least low ({self.low:g})")
        is_days = self.meter is Meter.DAYS
        require(is_days == (self.calendar is not None), "calendar", self.calendar, "a value for days, none otherwise")
        reference = self.reference_h_per_week
        stands = self.calendar is Calendar.STANDS_FOR_USE
        needed = "a figure when the days stand for use, none otherwise"
        require(stands == (reference is not None), "reference_h_per_week", reference, needed)
        require(reference is None or reference > 0, "reference_h_per_week", reference, "more than 0")

    @property
    def counts_use(self) -> bool:
        """Whether it counts use, so that what people find can teach how fast it really goes."""
        return self.meter in USE_METERS or self.calendar is Calendar.STANDS_FOR_USE


def _refuse_months_as_hours(triggers: tuple[Trigger, ...]) -> None:
    """Where hours are printed, they measure use; months beside them are one limit of age, never fewer hours."""
    if all(trigger.meter is not Meter.RUN_HOURS for trigger in triggers):
        return
    for trigger in triggers:
        if trigger.meter is Meter.DAYS:
            aged = trigger.calendar is Calendar.AGES and trigger.low == trigger.high
            require(
                aged, "triggers", f"{trigger.low:g} to {trigger.high:g} days", "days that age, one figure, beside hours"
            )


@dataclass(frozen=True, slots=True)
class Card:
    """How to do a task: the words of its steps. `effort_min` is hands-on time without opening the machine [min].

    `wait_min` is how long something soaks or rests meanwhile, hands off [min]; `each` names what is ticked off one by
    one, those of them that the machine has. `until` is what has to be true before anybody goes on: the last water runs
    clear, no trace of an agent is left, what was blown out is dry. `drawing` names a drawing of the movement.
    """

    effort_min: float
    how: tuple[str, ...]
    wait_min: float = 0.0
    each: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()
    tools: tuple[str, ...] = ()
    until: str = ""
    drawing: str = ""

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(0 < self.effort_min <= 240, "effort_min", self.effort_min, "more than 0 and at most 240 minutes")
        require(bool(self.how), "how", self.how, "at least one sentence")
        require(0 <= self.wait_min <= 120, "wait_min", self.wait_min, "0 to 120 minutes")


@dataclass(frozen=True, slots=True)
class Variant:
    """What a school does otherwise, and why: other triggers, or nothing at all (`off`)."""

    why: str
    triggers: tuple[Trigger, ...] = ()
    off: bool = False

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(self.off != bool(self.triggers), "triggers", self.triggers, "triggers, or off = true, not both")


@dataclass(frozen=True, slots=True)
class OwnFigure:
    """What a household set beside the book's rule, and why: one trigger with one figure, or doing without (`off`)."""

    why: str
    trigger: Trigger | None = None
    off: bool = False

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(self.off != bool(self.trigger), "trigger", self.trigger, "a figure, or off, not both")
        require(bool(self.why.strip()), "why", repr(self.why), "a reason in a few words")


@dataclass(frozen=True, slots=True)
class Print:
    """Another figure for the same thing, in words: who says it, and where, or since when."""

    figure: str
    by: Figure
    told: str

    __pydantic_config__ = NO_UNKNOWN_KEYS


@dataclass(frozen=True, slots=True)
class Rule:
    """When a part needs an action: the first of its triggers governs.

    `done_by` lists other actions that also set its service clock back (a wash is also a clean). `never_stretch` marks
    what no school lets go past its upper figure (cliff sensors, the filter that guards the motor). `about` says of an
    inspection which action its answer speaks of. `only_with` and `unless_with` name a feature of the machine or of its
    dock under which the rule holds or falls away. `as_found` gives the rule words of its own for what one sees. It
    falls due at once `after` these mishaps. `drying` is set where doing it wets the part otherwise than a wash does, or
    where nothing else tells that it wets it. `own` is what the household set beside it: nothing else moves that. A task
    that stands `instead_of` another goes on where that one stopped: the same part, with water or without. `full_load`
    is the share of a single figure that is left where the load that moves it is full [-]. `danger` is what its worst
    answer tells of (a key of the book): the machine is out of use at once. `history` holds other figures that were
    printed or are used for the same thing. `extra` is never due: done by who likes, while the part lies open anyway.
    `eased` is how many times as long the household lets it go because good enough is enough there [-].
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
    about: Action | None = None
    only_with: str | None = None
    unless_with: str | None = None
    schools: Mapping[School, Variant] = field(default_factory=dict)
    as_found: Mapping[Found, str] | None = None
    after: tuple[Mishap, ...] = ()
    drying: "Drying | None" = None
    own: OwnFigure | None = None
    instead_of: Action | None = None
    full_load: float = 0.5
    danger: str = ""
    eased: float = 1.0
    history: tuple["Print", ...] = ()
    extra: bool = False

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(bool(self.triggers), "triggers", self.triggers, "at least one trigger")
        require(0 < self.full_load <= 1, "full_load", self.full_load, "more than 0, at most 1")
        for triggers in (self.triggers, *(variant.triggers for variant in self.schools.values())):
            _refuse_months_as_hours(triggers)
        names = [c.name.lower() for c in Consequence]
        require(self.consequence in names, "consequence", self.consequence, "one of " + ", ".join(names))
        bare = all(trigger.meter is Meter.CONDITION for trigger in self.triggers)
        require(bare or not self.extra, "extra", self.extra, "no figures for what is never due")
        gated = self.card.cautions if self.extra else ()  # it joins a running sheet, whose gates were passed before it
        require(not gated, "cautions", gated, "none for what is done besides")
        looks = self.action is Action.INSPECT
        require(looks == (self.about is not None), "about", self.about, "an action for an inspection, none otherwise")
        if self.as_found is not None:
            require(set(self.as_found) == set(Found), "as_found", sorted(self.as_found), "words for all four answers")

    @property
    def stake(self) -> Consequence:
        """What is at stake, as the ordered value."""
        return Consequence[self.consequence.upper()]

    @property
    def hours(self) -> float | None:
        """The figure in hours of running that it prints [h]; None where it prints none."""
        return next((trigger.high for trigger in self.triggers if trigger.meter is Meter.RUN_HOURS), None)

    @property
    def is_life(self) -> bool:
        """Whether the rule runs on the life clock (since new) instead of the service clock (since last cleaned)."""
        return self.action is Action.REPLACE

    def at_school(self, school: School) -> "Rule | None":
        """The rule as `school` has it; None where the school does without."""
        variant = self.schools.get(school)
        if variant is None:
            return self
        return None if variant.off else replace(self, triggers=variant.triggers)

    def in_force(self, school: School) -> "Rule | None":
        """The rule as it counts: the household's own figure if it set one, else as `school` has it.

        Whatever the figures: what somebody finds makes it due, and so does a mishap that it falls due after.
        """
        rule = self.at_school(school)
        if self.own is not None:
            own = (self.own.trigger,) if self.own.trigger else ()
            rule = replace(self, triggers=own, figure=Figure.HOUSEHOLD, moved_by=None) if own else None
        if rule is None:
            return None
        more = [Trigger(Meter.MISHAPS, 1, 1, after=mishap) for mishap in self.after]
        found = all(trigger.meter is not Meter.CONDITION for trigger in rule.triggers)
        if found and self.action not in (Action.INSPECT, Action.SWAP):
            more.append(Trigger(Meter.CONDITION))
        return replace(rule, triggers=(*rule.triggers, *more)) if more else rule

    def holds_with(self, features: frozenset[str]) -> bool:
        """Whether it applies to a machine with these features."""
        return (self.only_with is None or self.only_with in features) and self.unless_with not in features


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
class Find:
    """Something one may see at any look at a part: its words, and what it makes due or which danger it tells of."""

    about: Action
    found: Found
    words: str
    danger: str = ""

    @property
    def key(self) -> str:
        """As an answer.

        >>> Find(Action.REPLACE, Found.DUE, "torn").key
        'replace:due'
        """
        return f"{self.about}:{self.found}"


@dataclass(frozen=True, slots=True)
class Drying:
    """How a kind of part dries: `reference_h` hanging free at 20 degC and 50 %, squeezed or shaken out [h, +-30 %].

    `floor_h` is the shortest rest whatever the air [h]; `pressable` tells that a towel takes out much of the water.
    """

    key: str
    name: str
    reference_h: float
    floor_h: float
    pressable: bool = False

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(0 < self.reference_h <= 400, "reference_h", self.reference_h, "more than 0, at most 400 hours")
        require(0 <= self.floor_h <= 400, "floor_h", self.floor_h, "0 to 400 hours")


WETTING = frozenset({Action.WASH, Action.RINSE})
"""What wets a part that the book says how to dry."""


@dataclass(frozen=True, slots=True)
class Slot:
    """A position on a machine that holds one item at a time.

    `air_order` is the order in which the air meets layers of one station, `refit_order` the order of putting parts
    back; they differ where layers go in from behind. `drying` is how it dries where washing wets it,
    `washing` how it is washed at all, and `marks` what the household saw of it: whether it is marked washable, say.
    `counted_by_machine` tells that the machine itself counts this part down. `swaps_with` names the slot of an
    identical part that it may change places with. `only_with` names a feature without which the part is not there,
    `unless_with` one with which it is not.
    `school` is set where the household keeps this part by another school than the rest, `material` where it told one;
    `added` tells that the part is the household's own addition. `use` is the key of the book's part that it is.
    `wet_rules` are its tasks where nothing forbids water; `rules` are those in force. `seat` says what to look for
    where it does not go in, `drawing` names a drawing of how it comes out and goes in.
    """

    key: str
    station: str
    part: str
    name: str
    short: str
    removable: bool
    as_found: Mapping[Found, str]
    rules: tuple[Rule, ...] = ()
    air_order: int = 1
    refit_order: int = 1
    opening: str | None = None
    take_out: str = ""
    put_back: str = ""
    test: str = ""
    drying: Drying | None = None
    washing: Washing | None = None
    marks: Marks = field(default_factory=dict)
    needed_to_run: bool = True
    counted_by_machine: bool = False
    swaps_with: str | None = None
    only_with: str | None = None
    unless_with: str | None = None
    school: School | None = None
    material: str = ""
    added: bool = False
    use: str = ""
    wet_rules: tuple[Rule, ...] = ()
    seat: tuple[str, ...] = ()
    drawing: str = ""

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        actions = [rule.action for rule in self.rules]
        require(len(actions) == len(set(actions)), "rules", actions, "each action once")
        require(set(self.as_found) == set(Found), "as_found", sorted(self.as_found), "words for all four answers")
        if self.removable:
            require(bool(self.take_out), "take_out", self.take_out, "how to take the part out")
            require(bool(self.put_back), "put_back", self.put_back, "how to put the part back")
        swapping = Action.SWAP in actions
        require(not swapping or bool(self.swaps_with), "swaps_with", self.swaps_with, "the other slot, for a swap")
        for rule in self.rules:
            require(rule.about is None or rule.about in actions, "about", rule.about, "an action of this part")
        self._marked_is_the_label()

    def _marked_is_the_label(self) -> None:
        """Where a mark decides about water, it is the label's own word: by the label such a task is never left out."""
        for rule in self.rules:
            if self.washing and self.washing.needs_mark and rule.action in WETTING:
                label = rule.schools.get(School.LABEL)
                require(label is None or not label.off, "off", rule.action, "nothing by the label: the mark decides")

    def is_there(self, features: frozenset[str]) -> bool:
        """Whether a machine with these features has the part."""
        return (self.only_with is None or self.only_with in features) and self.unless_with not in features

    def drying_of(self, action: Action) -> Drying | None:
        """How the part dries after `action`; None where that leaves it dry, or where it must not get wet."""
        rule = next((rule for rule in self.rules if rule.action is action), None)
        if rule is None:
            return None
        return rule.drying or (self.drying if action in WETTING else None)

    def seen(self, marks: Marks) -> "Slot":
        """The part as it is kept when this was seen of it: a task with water that it must not have is done dry.

        Everything else asks the tasks that come of this: due dates, sheets, plans, wash cards, the rack, the shelf.
        """
        wet = self.wet_rules or self.rules
        return replace(self, marks=marks, wet_rules=wet, rules=_kept(wet, self.washing, marks) if self.washing else wet)

    @property
    def asks_first(self) -> tuple[Trait, ...]:
        """What decides about a task of it with water, and no feature of the machine tells: a mark, or that no wires are
        in it.
        """
        if not self.washing or all(rule.action not in WETTING or rule.only_with for rule in self.wet_rules):
            return ()
        asked = ((Trait.MARKED, self.washing.needs_mark), (Trait.WIRES, self.washing.rules_out_wires))
        return tuple(trait for trait, decides in asked if decides)

    @property
    def stops_while_wet(self) -> bool:
        """Whether the machine waits while it dries, where nothing forbids to wash it."""
        wet = any(rule.action in WETTING and not rule.only_with for rule in (*self.wet_rules, *self.rules))
        return wet and self.needed_to_run and self.drying is not None and self.drying.floor_h > 0

    @property
    def wetting(self) -> tuple[Action, ...]:
        """The actions after which it has to dry."""
        return tuple(rule.action for rule in self.rules if self.drying_of(rule.action))

    def first_of(self, actions: Iterable[str]) -> Action | None:
        """The first of these actions that it has a rule for, or what stands in for it; None where it has neither."""
        have = {rule.action: rule.action for rule in self.rules}
        instead = {rule.instead_of: rule.action for rule in self.rules if rule.instead_of}
        return next((done for action in map(Action, actions) if (done := have.get(action, instead.get(action)))), None)

    @property
    def slowest_drying(self) -> Drying | None:
        """How it dries after what wets it most; None where nothing wets it."""
        each = (dries for action in self.wetting if (dries := self.drying_of(action)))
        return max(each, key=lambda dries: dries.reference_h, default=None)

    @property
    def is_renewed(self) -> bool:
        """Whether a new part goes in one day."""
        return any(rule.is_life for rule in self.rules)

    @property
    def is_used_up(self) -> bool:
        """Whether use or a date uses its part up; else only what is found ends it."""
        triggers = (trigger for rule in self.rules if rule.is_life for trigger in rule.triggers)
        return any(trigger.meter is not Meter.CONDITION for trigger in triggers)

    @property
    def takes_turns(self) -> bool:
        """Whether a second part runs while the first dries or rests; one that is only used up waits on the shelf."""
        return bool(self.wetting) or not self.is_renewed

    @property
    def counted_rule(self) -> Rule | None:
        """The rule whose hours the machine itself counts down: its percent is of that rule's figure."""
        return next((rule for rule in self.rules if rule.hours), None) if self.counted_by_machine else None

    def rule(self, action: Action) -> Rule:
        """The rule for `action`. Raises `InvalidValue` when the part has none."""
        for rule in self.rules:
            if rule.action is action:
                return rule
        have = ", ".join(r.action for r in self.rules) or "none"
        require(False, "action", action, f"an action that {self.name} has ({have})")
        raise AssertionError  # require has raised

    @property
    def seen_to(self) -> tuple[Action, ...]:
        """The tasks that count as done when somebody says that the part was seen to: all but a new one and a swap."""
        return tuple(rule.action for rule in self.rules if not rule.is_life and rule.action is not Action.SWAP)

    def words(self, action: Action) -> Mapping[Found, str]:
        """What one sees at each answer when looking with `action` in mind."""
        return self.rule(action).as_found or self.as_found

    def danger(self, action: Action, found: Found) -> str:
        """The danger that an answer tells of (a key of the book); none but the worst answer of a few rules does."""
        return self.rule(action).danger if found is Found.OVERDUE else ""

    def for_repairer(self, action: Action) -> bool:
        """Whether an action is a repairer's work: a new part on which somebody's safety hangs."""
        rule = self.rule(action)
        return rule.is_life and rule.stake is Consequence.SAFETY

    def finds(self, action: Action) -> tuple[Find, ...]:
        """What one may see besides when looking with `action` in mind: what makes another task of the part due."""
        told = {tuple(self.words(action).values())}
        made: list[Find] = []
        for rule in self.rules:
            words = self.words(rule.action)
            if rule.action in (Action.INSPECT, Action.SWAP) or tuple(words.values()) in told:
                continue
            told.add(tuple(words.values()))
            needs = (Found.DUE, Found.OVERDUE) if rule.is_life or rule.danger else (Found.DUE,)
            made += [Find(rule.action, one, words[one], self.danger(rule.action, one)) for one in needs]
        return tuple(made)


DUSTY = (Column.BIN, Column.SCREEN, Column.FILTER, Column.EXHAUST)
"""Where dust lies that comes out when somebody works there."""
DUST_FIRST = ("hazardous-dust", "dust")
"""What stands before every task that lets dust out (keys of the book's cautions)."""
DUST_TOOLS = ("mask", "goggles", "gloves")
"""What is worn for it (keys of the book's tools)."""
_LETS_DUST_OUT = (Action.EMPTY, Action.CLEAN, Action.WASH, Action.REPLACE)


def widened(slot: Slot, wide: float) -> Slot:
    """The part of an unknown model: each range may be so many times as early or as late.

    A single figure stays, as printed; what must never be stretched keeps its latest one; counts stay whole.
    """

    def off(trigger: Trigger, rule: Rule) -> Trigger:
        if trigger.meter not in (Meter.DAYS, Meter.RUN_HOURS) or trigger.low == trigger.high:
            return trigger
        return replace(trigger, low=trigger.low / wide, high=trigger.high * (1.0 if rule.never_stretch else wide))

    def of(rule: Rule) -> Rule:
        return replace(rule, triggers=tuple(off(trigger, rule) for trigger in rule.triggers))

    return slot if wide == 1.0 else replace(slot, rules=tuple(map(of, slot.rules)))


def dust_first(slot: Slot, column: Column) -> Slot:
    """The part with the cautions of dust before every task that lets some out, whatever its card says besides."""
    if column not in DUSTY:
        return slot

    def careful(rule: Rule) -> Rule:
        if rule.action not in _LETS_DUST_OUT:
            return rule
        cautions = tuple(dict.fromkeys((*DUST_FIRST, *rule.card.cautions)))
        tools = tuple(dict.fromkeys((*rule.card.tools, *DUST_TOOLS)))
        return replace(rule, card=replace(rule.card, cautions=cautions, tools=tools))

    return replace(slot, rules=tuple(map(careful, slot.rules)), wet_rules=tuple(map(careful, slot.wet_rules)))


def _kept(rules: tuple[Rule, ...], washing: Washing, marks: Marks) -> tuple[Rule, ...]:
    """Rules of a part as they are by what was seen of it: those with water as they are, or done dry.

    A dry task stands in for the first that it replaces, and for none where the part has such a task anyway.
    """
    ruling, because = washing.ruling(marks)
    dry = Action.WIPE if ruling is Ruling.WIPE else Action(washing.dry_as)
    have = {rule.action for rule in rules}
    if ruling is Ruling.WASH:
        seen = washing.needs_mark and because in (Because.MARKED, Because.OWN_RISK)  # stands for a feature of that mark
        wet = (replace(r, only_with=None if seen else r.only_with) if r.action in WETTING else r for r in rules)
        return tuple(replace(r, instead_of=dry) if r.action in WETTING and dry not in have else r for r in wet)
    first = next((r for r in rules if r.action in WETTING), None)
    made = []
    for rule in rules:
        if rule.action not in WETTING:
            made.append(replace(rule, about=dry) if rule.about in WETTING else rule)
        elif rule is first and dry not in have:
            dusty = tuple(key for key in DUST_FIRST if key in rule.card.cautions)
            cautions, tools = ((), ()) if ruling is Ruling.WIPE else (washing.dry_cautions, washing.dry_tools)
            card = Card(washing.dry_min, washing.lines(marks), cautions=(*dusty, *cautions), tools=tools)
            done_by = tuple(action for action in rule.done_by if action is not dry)
            made.append(replace(rule, action=dry, card=card, drying=None, done_by=done_by, instead_of=rule.action))
    return tuple(made)


@dataclass(frozen=True, slots=True)
class Danger:
    """What puts a machine out of use at once, until somebody records that it is `over`.

    `seen` are the words of the answer that tells of it, `now` what to do at once, `who` who may do something about it.
    """

    key: str
    name: str
    seen: str
    now: str
    who: str
    over: str

    __pydantic_config__ = NO_UNKNOWN_KEYS


@dataclass(frozen=True, slots=True)
class Caution:
    """A short warning shown before a step; a gate must be acknowledged before the sheet goes on.

    `power` says, of one that makes a machine safe, how it is proven once all is `ready`; with `on_again` also where
    nothing was opened, since it was switched off. `dangers` are what may be told at a gate instead (keys of the
    book).
    """

    key: str
    text: str
    gate: bool = False
    ready: str = ""
    power: str = ""
    on_again: bool = False
    dangers: tuple[str, ...] = ()

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(bool(self.ready) == bool(self.power), "ready", self.ready, "said where power is, and only there")
        require(self.gate or not self.dangers, "dangers", self.dangers, "none where it is no gate")


@dataclass(frozen=True, slots=True)
class Substitute:
    """What serves in place of a tool; `mind` is what it risks or misses."""

    key: str
    name: str
    mind: str = ""

    __pydantic_config__ = NO_UNKNOWN_KEYS


@dataclass(frozen=True, slots=True)
class Tool:
    """A tool or material, how to keep it (`mind`), and what serves in its place, the best first."""

    key: str
    name: str
    mind: str = ""
    instead: tuple[Substitute, ...] = ()

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def at_hand(self, owned: frozenset[str] | None) -> "Tool | Substitute | None":
        """What a household takes that owns these (keys of the book; None: all): the tool, else what serves for it.

        None where it has neither. Asked by sheets, plans, checks and their lists.
        """
        if owned is None or self.key in owned:
            return self
        return next((one for one in self.instead if one.key in owned), None)


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
class Bundle:
    """Tasks that are done in one go: all at `stakes`, `actions` at `columns` of the air path, and single `tasks`, each
    as `part.action`.

    One `with_dock` takes in those of the robot's dock. A round has an interval of its own from `low` to `high` [days],
    which a household may take up for all its tasks; against a complaint there is none. `only` names how its machines
    get around.
    """

    key: str
    name: str
    stakes: tuple[str, ...] = ()
    columns: tuple[Column, ...] = ()
    actions: tuple[Action, ...] = ()
    tasks: tuple[str, ...] = ()
    why: str = ""
    with_dock: bool = False
    low: float = 0.0
    high: float = 0.0
    only: tuple[str, ...] = ()

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        names = {c.name.lower() for c in Consequence}
        require(set(self.stakes) <= names, "stakes", self.stakes, "some of " + ", ".join(sorted(names)))
        require(bool(self.columns) == bool(self.actions), "actions", self.actions, "actions for columns, or neither")
        require(bool(self.stakes or self.columns or self.tasks), "stakes", self.stakes, "stakes, columns or tasks")
        require(0 <= self.low <= self.high, "high", self.high, f"at least low ({self.low:g})")
        require(not self.low or bool(self.why), "why", repr(self.why), "why it is done in one go, for a round")

    @property
    def at_stake(self) -> frozenset[Consequence]:
        """The stakes as ordered values."""
        return frozenset(Consequence[name.upper()] for name in self.stakes)

    @property
    def is_round(self) -> bool:
        """Whether it comes round by an interval of its own."""
        return self.low > 0


@dataclass(frozen=True, slots=True)
class Option:
    """A feature that some machines of a kind have, asked for when one is set up."""

    key: str
    question: str

    __pydantic_config__ = NO_UNKNOWN_KEYS


@dataclass(frozen=True, slots=True)
class Question:
    """A plain question that tells kinds of machine apart, and its answers (key -> words)."""

    key: str
    text: str
    answers: Mapping[str, str]

    __pydantic_config__ = NO_UNKNOWN_KEYS


@dataclass(frozen=True, slots=True)
class BeforeRun:
    """Something to see to on the floor before a machine runs; `only` for machines that move so, else for all.

    Where it may be wiped, fenced off or left for later, `by_hand` is what somebody is reminded of then.
    """

    key: str
    text: str
    by_hand: str = ""
    such_as: tuple[str, ...] = ()
    only: str | None = None

    __pydantic_config__ = NO_UNKNOWN_KEYS


class Verdict(StrEnum):
    """Whether something may go into a household vacuum."""

    YES = "yes"
    SOME = "some"
    """A little, with care."""
    NO = "no"


@dataclass(frozen=True, slots=True)
class Pickup:
    """Whether something may be picked up, why, what to do instead, and which mishap it is if it was done."""

    key: str
    name: str
    verdict: Verdict
    why: str
    instead: str = ""
    also: tuple[str, ...] = ()
    mishap: Mishap | None = None

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
            if mishap in rule.after and rule.holds_with(features) and rule.in_force(slot.school or school)
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


@dataclass(frozen=True, slots=True)
class Book:
    """The whole care book. `digest` changes with every change of its files: what was computed from another is stale.

    `parts` are all parts by their key, without a place: what somebody may add to a machine.
    """

    archetypes: Mapping[str, Archetype]
    cautions: Mapping[str, Caution]
    tools: Mapping[str, Tool]
    drying: Mapping[str, Drying]
    bundles: tuple[Bundle, ...]
    parts: Mapping[str, Slot]
    questions: tuple[Question, ...]
    before_run: tuple[BeforeRun, ...]
    pickups: tuple[Pickup, ...]
    faults: FaultBook
    measures: tuple[Measure, ...]
    dangers: Mapping[str, Danger]
    digest: str

    def measures_of(self, part: str) -> tuple[Measure, ...]:
        """What can be measured on a part of the book."""
        return tuple(one for one in self.measures if part in one.parts)
