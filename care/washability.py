"""Whether a part may get wet, and how: what the care book says, and what somebody saw on their own part."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from care.errors import require

NO_UNKNOWN_KEYS = {"extra": "forbid"}
"""Marks a class whose TOML table may hold no other keys."""


class Mark(StrEnum):
    """What somebody saw of a part, or that nobody looked."""

    YES = "yes"
    NO = "no"
    UNKNOWN = "unknown"


class Trait(StrEnum):
    """What decides how a part may get wet, and cannot be known from its kind alone."""

    MARKED = "marked"
    """It carries a mark that it may be washed, or its manual says so."""
    CLOSED_END = "closed_end"
    METAL = "metal"
    WIRES = "wires"
    """Wires or a motor in it."""
    HAZARD = "hazard"
    """The dust in it may be harmful: building dust, mould, droppings, toner."""
    OWN_RISK = "own_risk"
    """Nobody saw a mark, and the household washes it all the same, knowing the risk."""


class Ruling(StrEnum):
    """Whether the part may get wet."""

    WASH = "wash"
    WIPE = "wipe"
    """A cloth, no soaking: there is metal in it."""
    DRY = "dry"
    LEAVE = "leave"
    """Do not even shake it: what is in it may be harmful."""


class WashReason(StrEnum):
    """What decided it."""

    KIND = "kind"
    MARKED = "marked"
    NOT_MARKED = "not_marked"
    UNMARKED_UNKNOWN = "unmarked_unknown"
    OWN_RISK = "own_risk"
    WIRES = "wires"
    WIRES_UNKNOWN = "wires_unknown"
    METAL = "metal"
    HAZARD = "hazard"


METAL_HOW = ("There is metal in it: wipe it with a damp cloth or a disinfectant without bleach, and dry it at once.",)
LEAVE_HOW = (
    "Do not tap, shake or wash it. Close it in a bag as it is.",
    "Local rules or a licensed firm say where it goes; a new part takes its place.",
)

LOOK_FIRST = {
    WashReason.UNMARKED_UNKNOWN: "It stays dry until somebody has seen a mark that it may be washed: look on its frame,"
    " cap and seal, and in its manual.",
    WashReason.WIRES_UNKNOWN: "It stays dry until somebody has ruled out wires and a motor in it: look for metal "
    "contacts at both ends, a cable, a light, a fan.",
}
"""What is said first where only a look is lacking, and where to look."""

Marks = Mapping[Trait, Mark]
"""What was seen of a part; a trait that is not there is unknown."""


@dataclass(frozen=True, slots=True)
class View:
    """What one side does otherwise, by the school's key, and what is risked by it.

    `unmarked`: it puts water on what is not marked for it. Nobody does that but by a choice of their own. `fine_dust`:
    it may let fine dust through, which is nothing for a house with an allergy.
    """

    school: str
    says: str
    risk: str
    unmarked: bool = False
    fine_dust: bool = False

    __pydantic_config__ = NO_UNKNOWN_KEYS


@dataclass(frozen=True, slots=True)
class Washing:
    """How a kind of part is washed: the lines of its card. A kind without `how` never gets wet.

    `dry` says what is done instead where it stays dry, as the action `dry_as`, in `dry_min` minutes [min]; `needs_mark`
    that it may be washed only where it is marked so, `rules_out_wires` only where somebody saw that no wires are in it;
    `asks` which traits matter; `direction` how water goes through it, by whether one end is closed. `disposal` says
    where an old one goes; `materials` are the words by which a household may call what its own part is made of;
    `rest_h` is the shortest rest after a wash, whatever the air [h].
    """

    key: str
    name: str
    dry: tuple[str, ...]
    disposal: str
    how: tuple[str, ...] = ()
    temperature: str = ""
    agent: str = ""
    touch: str = ""
    until: str = ""
    never: tuple[str, ...] = ()
    dry_as: str = "clean"
    dry_min: float = 2.0
    dry_cautions: tuple[str, ...] = ()
    dry_tools: tuple[str, ...] = ()
    needs_mark: bool = False
    rules_out_wires: bool = False
    asks: tuple[Trait, ...] = ()
    direction: Mapping[Mark, str] = field(default_factory=dict)
    views: tuple[View, ...] = ()
    materials: tuple[str, ...] = ()
    rest_h: float = 0.0

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(bool(self.dry), "dry", self.dry, "what is done where it stays dry")
        marked = Trait.MARKED in self.asks
        require(marked or not self.needs_mark, "asks", self.asks, "marked, where a mark is needed")
        wired = Trait.WIRES in self.asks
        require(wired or not self.rules_out_wires, "asks", self.asks, "wires, where they are to be ruled out")
        turned = Trait.CLOSED_END in self.asks
        require(turned == bool(self.direction), "direction", self.direction, "a way for each end, where ends matter")

    def ruling(self, marks: Marks) -> tuple[Ruling, WashReason]:
        """Whether the part may get wet by what was seen of it, and what decides it: the gravest first."""
        marked = marks.get(Trait.MARKED, Mark.UNKNOWN)
        if marks.get(Trait.HAZARD) is Mark.YES:
            return Ruling.LEAVE, WashReason.HAZARD
        if marks.get(Trait.WIRES) is Mark.YES:
            return Ruling.DRY, WashReason.WIRES
        if not self.how:
            return Ruling.DRY, WashReason.KIND
        if self.rules_out_wires and marks.get(Trait.WIRES, Mark.UNKNOWN) is Mark.UNKNOWN:
            return Ruling.DRY, WashReason.WIRES_UNKNOWN
        daring = marks.get(Trait.OWN_RISK) is Mark.YES and any(view.unmarked for view in self.views)
        if marked is Mark.NO and not daring:
            return Ruling.DRY, WashReason.NOT_MARKED
        if self.needs_mark and marked is Mark.UNKNOWN and not daring:
            return Ruling.DRY, WashReason.UNMARKED_UNKNOWN
        if marks.get(Trait.METAL) is Mark.YES:
            return Ruling.WIPE, WashReason.METAL
        if marked is Mark.YES:
            return Ruling.WASH, WashReason.MARKED
        return Ruling.WASH, WashReason.OWN_RISK if daring else WashReason.KIND

    def lines(self, marks: Marks) -> tuple[str, ...]:
        """What to do with the part then; where only a look is lacking, that first."""
        ruling, because = self.ruling(marks)
        look = (LOOK_FIRST[because],) if because in LOOK_FIRST else ()
        other = {Ruling.WIPE: METAL_HOW, Ruling.DRY: (*look, *self.dry), Ruling.LEAVE: LEAVE_HOW}
        return other.get(ruling, self.how)
