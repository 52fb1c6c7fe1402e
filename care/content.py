"""What else the care book says: dangers, cautions, tools, what is done in one go; and the book as a whole."""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Literal

from care.errors import require
from care.faults.book import FaultBook
from care.kinds import Archetype
from care.measures import Measure
from care.parts import Slot
from care.rules import Drying
from care.vocabulary import Action, Column, Consequence, Mishap
from care.washability import NO_UNKNOWN_KEYS


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
    book). Any other gate of a sheet has a `title`, and may say its answers in words of its own: `yes`, `no`, what a no
    leads to.
    """

    key: str
    text: str
    gate: bool = False
    title: str = ""
    yes: str = ""
    no: str = "No"
    no_more: str = "What it stands before is left out"
    ready: str = ""
    power: str = ""
    on_again: bool = False
    dangers: tuple[str, ...] = ()

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(bool(self.ready) == bool(self.power), "ready", self.ready, "said where power is, and only there")
        require(self.gate or not self.dangers, "dangers", self.dangers, "none where it is no gate")
        asks = self.gate and not self.power
        require(asks or not self.title, "title", repr(self.title), "none where nothing is asked")


@dataclass(frozen=True, slots=True)
class Substitute:
    """What serves in place of a tool; `mind` is what it risks or misses."""

    key: str
    name: str
    mind: str = ""

    __pydantic_config__ = NO_UNKNOWN_KEYS


@dataclass(frozen=True, slots=True)
class Tool:
    """A tool or material, how to keep it (`mind`), and what serves in its place, the best first.

    Where a check `works_by` it nothing stands in for it: a "usual" one is there unless somebody told of others only, a
    "rare" one only where it was told.
    """

    key: str
    name: str
    mind: str = ""
    works_by: Literal["", "usual", "rare"] = ""
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


class MayTakeIn(StrEnum):
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
    verdict: MayTakeIn
    why: str
    instead: str = ""
    also: tuple[str, ...] = ()
    mishap: Mishap | None = None

    __pydantic_config__ = NO_UNKNOWN_KEYS


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
