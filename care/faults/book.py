"""What the care book says of faults: how they show, what proves them, what cures them; values that `care.book` builds.

A fault or a check names the parts (keys of the book's `parts/`) or the columns it is at; each machine gets one of it
for every such part or station it has. Probabilities are chances [0..1]; units stand in the names.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from care.errors import require
from care.faults.effects import LEAST, AirEffect, Sign, Solved
from care.vocabulary import Says
from care.washability import NO_UNKNOWN_KEYS


class Counts(StrEnum):
    """When a try after a cure tells whether a symptom is gone."""

    AT_ONCE = "at_once"
    HOUR = "hour"
    """After an hour of use."""
    CHARGE = "charge"
    """After a run from a full charge."""
    DAYS = "days"
    """After two days of usual use."""
    CLEARED = "cleared"
    """Only after what forbids power was ended: a repairer looked, or it is dry. No symptom of the book says so."""


@dataclass(frozen=True, slots=True)
class Symptom:
    """What somebody notices, in their words, and how it sounds and feels.

    `normal` is its chance on a machine with nothing of ours wrong. What the machine itself says is a hint of limited
    `trust` [0..1]: so often it means what it says. `of_dock` has the dock's air solve it. With one that
    `stands_still` nothing is tried with the machine running; `danger` says why it must not, `out_of_use` names the
    danger of the book that it then is, and one that `ends` needs no further look. Where it may mean danger, the looks
    `first` (keys of checks) come before all else, and nothing is run or charged before them. `counts` is when a try
    after a cure tells. `said_as` are the words by which a machine that reports by itself says it.
    """

    key: str
    name: str
    feel: str
    when: Mapping[str, tuple[str, ...]]
    normal: float = 0.05
    solved: Solved | None = None
    trust: float = 1.0
    of_dock: bool = False
    stands_still: bool = False
    danger: str = ""
    out_of_use: str = ""
    ends: bool = False
    first: tuple[str, ...] = ()
    counts: "Counts" = Counts.AT_ONCE
    said_as: tuple[Says, ...] = ()

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(0 < self.normal < 1, "normal", self.normal, "a chance between 0 and 1")
        require(0 < self.trust <= 1, "trust", self.trust, "more than 0, at most 1")
        require(not self.danger or self.stands_still, "danger", self.danger, "a symptom that stands still")


class Record(StrEnum):
    """A kind of record that moves the odds of a fault."""

    CLOCK = "clock"
    """How far a task's clock has gone: twice the interval is twice as likely twice over."""
    AS_FOUND = "as_found"
    """What was found on the part last."""
    REFITTED_EARLY = "refitted_early"
    DRIED_SLOWLY = "dried_slowly"
    """The air it dried in lately: how many times as long as usual drying takes there."""
    WASHES = "washes"
    SERVICED = "serviced"
    """Somebody worked on the machine in the last days: the service itself is suspected."""
    AGE = "age"
    """How far the part's life has gone."""


@dataclass(frozen=True, slots=True)
class Shows:
    """That a fault shows as a symptom with chance `p`, and why."""

    symptom: str
    p: float
    why: str

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(LEAST <= self.p <= 1 - LEAST, "p", self.p, f"a chance from {LEAST:g} to {1 - LEAST:g}")


@dataclass(frozen=True, slots=True)
class Fault:
    """One thing that may be wrong, at parts or columns, each with its chance of being so at any time.

    `air` is what it does to the air, at the column `sits` if that is not its part's own. It is cured by `action` on
    its part, or by `cure` in words, in `minutes` and after `wait_h` hands off; `hand_over` says why it is not for the
    user at all, `meant` that nothing is broken, and what to expect, `stop` why it is not run until then. `skill` is how
    far its cure goes into the machine, where that is further than its part's opening (a `Skill`).
    It is no verdict before the looks `after` (keys of checks). Where its cure only clears the sign for a while,
    `behind` names the faults that bring it back. A service leaves it behind by these actions on its part
    (`served_by`), or on these parts of the machine (`served_at`); by any where neither is named.
    """

    key: str
    name: str
    parts: Mapping[str, float] = field(default_factory=dict)
    columns: Mapping[str, float] = field(default_factory=dict)
    when: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    air: AirEffect | None = None
    sits: str | None = None
    shows: tuple[Shows, ...] = ()
    moved: tuple[Record, ...] = ()
    clocks: tuple[str, ...] = ()
    actions: tuple[str, ...] = ()
    cure: str = ""
    minutes: float = 1.0
    hand_over: str = ""
    meant: str = ""
    stop: str = ""
    wait_h: float = 0.0
    cautions: tuple[str, ...] = ()
    skill: str = ""
    after: tuple[str, ...] = ()
    behind: tuple[str, ...] = ()
    served_by: tuple[str, ...] = ()
    served_at: tuple[str, ...] = ()

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(bool(self.parts) != bool(self.columns), "parts", self.parts, "parts, or columns, not both")
        for key, p in {**self.parts, **self.columns}.items():
            require(0 < p <= 0.2, f"parts.{key}", p, "a chance of more than 0 and at most 0.2")
        ways = bool(self.actions or self.cure) + bool(self.hand_over) + bool(self.meant)
        require(ways == 1, "cure", self.cure, "an action, words of a cure, why it is handed over, or how it is meant")
        require(0 < self.minutes <= 120, "minutes", self.minutes, "more than 0, at most 120 minutes")
        needs = Record.CLOCK in self.moved
        require(needs == bool(self.clocks), "clocks", self.clocks, "actions for records of a clock, none otherwise")


@dataclass(frozen=True, slots=True)
class Outcome:
    """One answer to a check, in words. `base` is its chance where nothing causes it; the first needs none.

    Of a check that the air answers, it is the answer from `at_least` on. `picture` names a small drawing of it. After
    one that `stands_still` nothing is tried with the machine running; one that is a `danger` (a key of the book) ends
    everything. What it says was done besides is on record (`records`, an action on the check's part).
    """

    key: str
    words: str
    picture: str = ""
    base: float = LEAST
    at_least: float | None = None
    stands_still: bool = False
    danger: str = ""
    records: str = ""

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(0 < self.base < 1, "base", self.base, "a chance between 0 and 1")


@dataclass(frozen=True, slots=True)
class Tells:
    """That a fault gives the answer `says` with chance `p`, and why; with `proves`, no doubt worth a minute is left.

    It speaks of the fault at the check's own place, or with `anywhere` of every one of its kind. With `stops` nobody
    goes on after that answer, whatever the odds: it is a `danger` (a key of the book) that puts the machine out of use.
    """

    fault: str
    says: str
    p: float
    why: str
    proves: bool = False
    anywhere: bool = False
    stops: bool = False
    danger: str = ""

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        agrees = self.stops == bool(self.danger)
        require(agrees, "danger", self.danger, "a danger for an answer that stops, none otherwise")
        require(LEAST <= self.p <= 1 - LEAST, "p", self.p, f"a chance from {LEAST:g} to {1 - LEAST:g}")


@dataclass(frozen=True, slots=True)
class Check:
    """Something to look at, feel or try: how, in how many minutes, and what each answer speaks for.

    It is at parts or columns, or once for the machine. `live` tells that the machine runs meanwhile, and names the
    caution with its limits; all else is done without power, or without touching it at all (`hands_off`). `sign` has
    the air answer it, to within `sd`, the dock's air with `of_dock`; so often an ear or a hand is simply wrong
    (`misjudged`), less where both are heard within a minute than where one is remembered. `wait_min` passes meanwhile.
    `cures` names faults that doing it cures by the way. `needs_front` holds it to machines whose front comes off.
    `behind` tells that its part's opening must be undone; `skill` how far it goes into the machine otherwise (a value
    a `Skill`). With `gauge` it is answered by a figure beside that of the machine when clean. It comes
    `after` these looks found nothing (keys of checks); `powers` tells that it runs or charges something although it is
    no live test. What is `recalled` no cure changes; what is only `told` unasked is never asked.
    """

    key: str
    name: str
    how: str
    minutes: float
    outcomes: tuple[Outcome, ...]
    tells: tuple[Tells, ...] = ()
    parts: tuple[str, ...] = ()
    columns: tuple[str, ...] = ()
    when: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    tools: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()
    live: str = ""
    hands_off: bool = False
    behind: bool = False
    needs_front: bool = False
    sign: Sign | None = None
    sd: float = 0.0
    misjudged: float = 0.1
    of_dock: bool = False
    wait_min: float = 0.0
    gauge: bool = False
    cures: tuple[str, ...] = ()
    skill: str = ""
    after: tuple[str, ...] = ()
    powers: bool = False
    told: bool = False
    recalled: bool = False

    __pydantic_config__ = NO_UNKNOWN_KEYS

    @property
    def rests(self) -> bool:
        """Whether the machine stands still while it is waited for, so that other looks may go on meanwhile."""
        return self.wait_min > 0 and not self.live

    def __post_init__(self) -> None:
        keys = [o.key for o in self.outcomes]
        require(len(set(keys)) == len(keys) >= 2, "outcomes", keys, "two answers or more, each once")
        require(0 < self.minutes <= 60, "minutes", self.minutes, "more than 0, at most 60 minutes")
        require((self.sign is None) == (self.sd == 0), "sd", self.sd, "a spread for what the air answers")
        for tell in self.tells:
            require(tell.says in keys, f"tells.{tell.fault}.says", tell.says, "one of " + ", ".join(keys))
        limits = [o.at_least for o in self.outcomes]
        if self.sign:
            falls = limits[-1] is None and all(a is not None for a in limits[:-1])
            require(falls, "at_least", limits, "a limit for all answers but the last, falling")


@dataclass(frozen=True, slots=True)
class Route:
    """A fixed order of checks that some go down instead: the key of a school, and the checks."""

    school: str
    name: str
    why: str
    checks: tuple[str, ...]

    __pydantic_config__ = NO_UNKNOWN_KEYS


@dataclass(frozen=True, slots=True)
class Tick:
    """Something people tell unasked beside what they notice, in their words: the answer `says` to a `check`.

    It is offered with these `symptoms`, with all where none is named, at every place that the check is made at. Where
    that `mishap` is on record of the last days, it counts as told.
    """

    key: str
    words: str
    check: str
    says: str
    symptoms: tuple[str, ...] = ()
    when: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    mishap: str = ""

    __pydantic_config__ = NO_UNKNOWN_KEYS


@dataclass(frozen=True, slots=True)
class FaultBook:
    """Everything the fault finder reads."""

    symptoms: tuple[Symptom, ...]
    faults: tuple[Fault, ...]
    checks: tuple[Check, ...]
    routes: tuple[Route, ...]
    ticks: tuple[Tick, ...] = ()
