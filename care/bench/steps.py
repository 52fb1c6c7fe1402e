"""The words of the bench: kinds of steps, their answers, a step, a sheet. `care.bench.sheets` makes them."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from uuid import UUID

from care.errors import InvalidValue
from care.items import Item
from care.kinds import Archetype
from care.named import NamedCaution
from care.vocabulary import Action, Found, Gone


class StepKind(StrEnum):
    """What a step is for."""

    GATE = "gate"
    OPEN = "open"
    TAKE_OUT = "take_out"
    LOOK = "look"
    CLEAN = "clean"
    CLEAN_IN_PLACE = "clean_in_place"
    WASH = "wash"
    RACK = "rack"
    RETIRE = "retire"
    DRY_CHECK = "dry_check"
    FIT = "fit"
    TEST = "test"
    CLOSE = "close"
    COUNTER = "counter"
    POWER = "power"
    HAND_OVER = "hand_over"


class Tail(StrEnum):
    """What the key of a step ends with, after the part or the opening that it is about."""

    OPEN = "open"
    OUT = "out"
    OUT_OTHER = "out-other"
    """The part on the other side."""
    LOOK = "look"
    DO = "do"
    UNTIL = "until"
    RACK = "rack"
    DRY = "dry"
    FIT = "fit"
    FIT_DRY = "fit-dry"
    """The same part, wiped dry."""
    FIT_OTHER = "fit-other"
    FIT_BACK = "fit-back"
    """To the side it came from."""
    TEST = "test"
    CLOSE = "close"
    CLOSE_WITHOUT = "close-without"
    """While something that belongs behind it is away."""
    LAST = "last"
    COUNTER = "counter"
    LIST = "list"
    POWER = "power"
    POWER_WITHOUT = "power-without"
    EXTRA = "extra"
    HAND_OVER = "hand-over"

    def of(self, action: Action, main: Action) -> str:
        """As the tail of a step about one of several actions; that of the main one is bare."""
        return str(self) if action is main else f"{self}-{action}"


class StepEffect(StrEnum):
    """What a step changes or yields."""

    ITEM = "item"
    OPENING = "opening"
    EVIDENCE = "evidence"


DONE, SKIP, UNSURE = "done", "skip", "unsure"
DRY, DAMP = "dry", "damp"
AGAIN = "again"
"""A dry part that a second look finds not clean: it was washed again and hangs again."""
PASS, FAIL = "pass", "fail"
RENEW = f"{Action.REPLACE}:{Found.DUE}"
"""A failed test's other end than doing it again: the part needs a new one."""
SCREWS = "screws:"
"""What the answer of somebody who opened or closed something screwed begins with; how many follows."""
MOST_SCREWS = 60
DANGER = "danger:"
"""What the answer of somebody who finds a danger at a gate begins with; its key in the book follows."""
WHY_GONE = (Gone.WORN, Gone.SCHEDULE, Gone.ACCIDENT)
"""Why a part that is in somebody's hands goes: `done` where nobody says."""

EFFECTS: dict[StepKind, StepEffect] = {
    StepKind.GATE: StepEffect.EVIDENCE,
    StepKind.OPEN: StepEffect.OPENING,
    StepKind.TAKE_OUT: StepEffect.ITEM,
    StepKind.LOOK: StepEffect.EVIDENCE,
    StepKind.CLEAN: StepEffect.ITEM,
    StepKind.CLEAN_IN_PLACE: StepEffect.ITEM,
    StepKind.WASH: StepEffect.ITEM,
    StepKind.RACK: StepEffect.ITEM,
    StepKind.RETIRE: StepEffect.ITEM,
    StepKind.DRY_CHECK: StepEffect.ITEM,
    StepKind.FIT: StepEffect.ITEM,
    StepKind.TEST: StepEffect.EVIDENCE,
    StepKind.CLOSE: StepEffect.OPENING,
    StepKind.COUNTER: StepEffect.EVIDENCE,
    StepKind.POWER: StepEffect.EVIDENCE,
    StepKind.HAND_OVER: StepEffect.ITEM,
}
"""What each kind of step is there for; a kind without an entry cannot be built."""

ANSWERS: dict[StepKind, tuple[str, ...]] = {
    StepKind.GATE: (DONE, SKIP),
    StepKind.OPEN: (DONE,),
    StepKind.TAKE_OUT: (DONE, SKIP),
    StepKind.LOOK: (*Found, UNSURE),
    StepKind.CLEAN: (DONE, SKIP),
    StepKind.CLEAN_IN_PLACE: (DONE, SKIP),
    StepKind.WASH: (DONE, SKIP),
    StepKind.RACK: (DONE,),
    StepKind.RETIRE: (DONE, *WHY_GONE, SKIP),
    StepKind.DRY_CHECK: (DRY, DAMP, AGAIN),
    StepKind.FIT: (DONE, SKIP),
    StepKind.TEST: (PASS, FAIL),
    StepKind.CLOSE: (DONE,),
    StepKind.COUNTER: (DONE, SKIP),
    StepKind.POWER: (PASS, FAIL, SKIP),
    StepKind.HAND_OVER: (DONE, SKIP),
}
"""The answers each kind of step takes; skipping needs a reason, but at a gate: a no there leaves what it is for."""


SITTINGS = ("clean_and_rack", "refit_and_test")
"""A visit has two sittings, with the drying days between them."""


@dataclass(frozen=True, slots=True)
class Chosen:
    """A task somebody wants to do now.

    `item` sits there, `spare` is a dry one if there is one, `new_item_id` the id of a new part, `partner` the identical
    part on the other side.
    """

    slot: str
    action: Action
    item: Item
    spare: Item | None = None
    new_item_id: UUID | None = None
    partner: Item | None = None


@dataclass(frozen=True, slots=True)
class Job:
    """What somebody wants to do to one machine with these `features` in a sitting; `off` names the places that stand
    empty already.
    """

    machine_id: UUID
    archetype: Archetype
    chosen: tuple[Chosen, ...]
    off: frozenset[str] = frozenset()
    features: frozenset[str] = frozenset()


Gap = tuple[str, ...]
"""A place that a sitting empties: the step that empties it ("" where it is empty already), then those that fill it."""


@dataclass(frozen=True, slots=True)
class Step:
    """One step: who it concerns, the words of the book, its cautions (keys) and the answers it takes.

    It applies when all steps in `needs` were done and, if `only_if` is set, that step got that answer; `whole` names
    the places that must not stand empty: of each, the step that takes the part out (none where it is away already),
    then those that put one in; of those in `missing` one must.
    `is_task` marks the step that by itself completes a task which has no step of work: a look, a change of sides. A
    look tells of its `action` and of those in `also`. A part replaced by somebody else brings `new_item_id`. On an
    opening, `item_id` is the part that comes off with it. `drying` and `floor_h` [h] say how what is wetted dries;
    `wait_min` how long something soaks or rests meanwhile [min]; `each` is ticked off one by one. It does not apply
    once a look in `halted_by` told of a danger. Where `counts` names a step that opened something screwed, this one (or
    that one itself) is answered by how many screws: any number in the place of the one in `answers`. `seat` says what
    to look for where something does not go in or does not close, `drawing` names a drawing of the movement. `title` is
    set where the kind does not say it all.
    """

    key: str
    kind: StepKind
    machine_id: UUID
    text: tuple[str, ...]
    slot: str | None = None
    action: Action | None = None
    also: tuple[Action, ...] = ()
    item_id: UUID | None = None
    item_name: str | None = None
    opening: str | None = None
    cautions: tuple[str, ...] = ()
    answers: tuple[str, ...] = ()
    found_words: Mapping[str, str] | None = None
    drying: str = ""
    floor_h: float = 0.0
    wait_min: float = 0.0
    each: tuple[str, ...] = ()
    needs: tuple[str, ...] = ()
    only_if: tuple[str, str] | None = None
    whole: tuple[Gap, ...] = ()
    missing: tuple[Gap, ...] = ()
    is_task: bool = False
    new_item_id: UUID | None = None
    halted_by: tuple[str, ...] = ()
    counts: str = ""
    seat: tuple[str, ...] = ()
    drawing: str = ""
    title: str = ""

    @property
    def effect(self) -> StepEffect:
        """What the step changes or yields."""
        return EFFECTS[self.kind]

    @property
    def is_dusty(self) -> bool:
        """Whether a part is cleaned dry and throws fine dust: then a new one may be worth its price."""
        cleans = self.kind in (StepKind.CLEAN, StepKind.CLEAN_IN_PLACE) and self.action is Action.CLEAN
        return cleans and bool({NamedCaution.DUST, NamedCaution.DUST_ALLERGY} & set(self.cautions))


@dataclass(frozen=True, slots=True)
class Sheet:
    """The steps of one sitting at one machine or several, its hands-on minutes and the tools it takes.

    `lacking` are those of them for which the household has nothing, `substitutes` what it takes in place of others
    (keys of the book). `made_of` holds the version of each kind of machine it was made of.
    """

    made_of: Mapping[str, int]
    sitting: str
    minutes: float
    steps: tuple[Step, ...]
    tools: tuple[str, ...] = ()
    lacking: tuple[str, ...] = ()
    substitutes: Mapping[str, str] = field(default_factory=dict)

    def step(self, key: str) -> Step:
        """The step `key`. Raises `InvalidValue` when the sheet has none."""
        for step in self.steps:
            if step.key == key:
                return step
        raise InvalidValue(f"step: this sheet has no step {key!r}", field="step", fix="Load the sheet again.")

    @property
    def machines(self) -> tuple[UUID, ...]:
        """The machines it is for, in the order in which they are opened."""
        return tuple(dict.fromkeys(step.machine_id for step in self.steps))

    def machine_of(self, item_id: UUID) -> UUID:
        """The machine on which the sheet handles a part."""
        return next(step.machine_id for step in self.steps if item_id in (step.item_id, step.new_item_id))


def make(key: str, kind: StepKind, machine_id: UUID, text: tuple[str, ...]) -> Step:
    """A step with the answers that its kind takes; `replace` tells the rest of it."""
    return Step(key, kind, machine_id, text, answers=ANSWERS[kind])


GATE = "gate."
"""What the key of a gate has before the caution it stands for."""


def gate_of(step: Step) -> str:
    """The caution (a key of the book) that a gate stands for."""
    return step.key.rsplit(GATE, 1)[1]


def screws_in(value: str) -> int | None:
    """How many screws an answer counts; None where it counts none.

    >>> screws_in("screws:6"), screws_in("done"), screws_in("screws:some")
    (6, None, None)
    """
    number = value.removeprefix(SCREWS)
    if number == value or not (number.isascii() and number.isdigit()) or int(number) > MOST_SCREWS:
        return None
    return int(number)


def danger_in(value: str) -> str | None:
    """The danger that an answer tells of, by its key in the book; None where it tells of none."""
    return value.removeprefix(DANGER) if value.startswith(DANGER) else None
