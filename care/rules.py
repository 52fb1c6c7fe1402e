"""When a part needs what, how it is done and how it dries: the care book's rules as frozen values."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from care.errors import require
from care.vocabulary import USE_METERS, Action, Calendar, Consequence, Figure, Found, LoadKind, Meter, Mishap, School
from care.washability import NO_UNKNOWN_KEYS


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
