"""One part on the bench: taken out, looked at, worked on, put back. `care.bench.sheets` puts the parts in order."""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import NamedTuple
from uuid import UUID

from care.bench.steps import (
    Chosen,
    Gap,
    Job,
    Step,
    StepKind,
    Tail,
    make,
)
from care.errors import require
from care.items import Item
from care.kinds import Opening, without_superseded
from care.parts import Slot
from care.rules import Drying
from care.vocabulary import Action

PHASE = {
    Action.EMPTY: 0,
    Action.CLEAN: 1,
    Action.DE_HAIR: 2,
    Action.INSPECT: 3,
    Action.SWAP: 3,
    Action.REPLACE: 3,
    Action.WASH: 4,
    Action.RINSE: 4,
    Action.AIR: 4,
    Action.WIPE: 5,
}
"""Dry dirt, hair, looks while it is open, wet, dry wipes: the order of a service."""


class Other(NamedTuple):
    """Another part than the one that came out, and its slot."""

    id: UUID
    name: str
    slot: str | None

    def on(self, step: Step) -> Step:
        """The step as one about this part."""
        return replace(step, item_id=self.id, item_name=self.name, slot=self.slot)


@dataclass(frozen=True, slots=True)
class Piece:
    """A part with all that is to be done to it, in the order of a service, and what goes in for it.

    `other` is the part on the other side that it changes places with.
    """

    machine_id: UUID
    prefix: str
    slot: Slot
    door: Opening | None
    actions: tuple[Action, ...]
    item: Item
    spare: Item | None = None
    new_item_id: UUID | None = None
    partner: Item | None = None
    other: "Piece | None" = None

    @property
    def main(self) -> Action:
        """What names its steps: the action that wets it, else the last."""
        return next((action for action in self.actions if self.slot.drying_of(action)), self.actions[-1])

    @property
    def at(self) -> str:
        """What its step keys begin with."""
        return f"{self.prefix}{self.slot.key}.{self.main}"

    @property
    def drying(self) -> Drying | None:
        """How it dries after what is done to it; None when it stays dry."""
        return self.slot.drying_of(self.main)

    @property
    def comes_out(self) -> bool:
        """Whether the part leaves its place: one that stays for cleaning still goes when it is replaced or wetted."""
        if self.actions == (Action.INSPECT,):
            return False
        return self.slot.removable or self.main is Action.REPLACE or self.drying is not None

    @property
    def out(self) -> str:
        """The step that takes it out."""
        return f"{self.prefix}{self.door.key}.{Tail.OPEN}" if self.door else self.key(Tail.OUT)

    def key(self, tail: str) -> str:
        """The key of a step of this part."""
        return f"{self.at}.{tail}"

    @property
    def order(self) -> tuple[float, ...]:
        """Where it stands in a service: a look that may find a danger, then by its first work.

        What goes back last comes out first.
        """
        safe = not any(self.slot.rule(self.slot.rule(one).about or one).danger for one in self.actions)
        return (safe, PHASE[self.actions[0]], -self.slot.refit_order)

    @property
    def substitute(self) -> Other | None:
        """What goes in instead of the part that came out: the new part, or the dry spare."""
        if self.main is Action.REPLACE:
            require(self.new_item_id is not None, "new_item_id", self.new_item_id, "an id for the new part")
            assert self.new_item_id is not None
            return Other(self.new_item_id, f"new {self.item.part}", self.slot.key)
        if self.drying is not None and self.spare is not None:
            return Other(self.spare.id, self.spare.name, self.slot.key)
        return None

    def step(self, tail: str, kind: StepKind, text: tuple[str, ...]) -> Step:
        """A step of this part, about its main action; `replace` tells the rest of it."""
        return self.about(make(self.key(tail), kind, self.machine_id, text), self.main)

    def about(self, step: Step, action: Action) -> Step:
        """The step as one about this part and an action on it."""
        return replace(step, slot=self.slot.key, action=action, item_id=self.item.id, item_name=self.item.name)


def pieces(job: Job, prefix: str) -> list[Piece]:
    """The parts of a job, each once, in the order of a service. Raises `InvalidValue` for a task twice."""
    named = [(t.slot, t.action) for t in job.chosen]
    require(len(named) == len(set(named)), "tasks", "a task twice", "each task once")
    sensible = without_superseded(named)
    by_slot: dict[str, list[Chosen]] = {}
    for task in job.chosen:
        if (task.slot, task.action) in sensible:
            by_slot.setdefault(task.slot, []).append(task)
    made = {key: _piece(job, tasks, prefix) for key, tasks in _crosswise(by_slot, job).items()}
    crossing = {p.slot.swaps_with: p for p in made.values() if p.main is Action.SWAP}
    paired = [
        replace(p, other=made.get(p.slot.swaps_with or "") if p.main is Action.SWAP else crossing.get(p.slot.key))
        for p in made.values()
    ]
    return sorted(paired, key=lambda p: (p.order, p.slot.key))


def _crosswise(by_slot: Mapping[str, list[Chosen]], job: Job) -> dict[str, list[Chosen]]:
    """Two parts change sides once, whichever side was picked, and not at all where one of them is wet or replaced."""
    kept, swapping = dict(by_slot), set[str]()
    for key, tasks in by_slot.items():
        other = job.archetype.slot(key).swaps_with
        gone = any(
            task.action is Action.REPLACE or job.archetype.slot(task.slot).drying_of(task.action)
            for task in (*tasks, *by_slot.get(other or "", ()))
        )
        if any(task.action is Action.SWAP for task in tasks) and not gone and other not in swapping:
            swapping.add(key)
            continue
        kept[key] = [task for task in tasks if task.action is not Action.SWAP]
    return {key: tasks for key, tasks in kept.items() if tasks}


def _piece(job: Job, tasks: Sequence[Chosen], prefix: str) -> Piece:
    slot = job.archetype.slot(tasks[0].slot)
    way = job.archetype.opening(slot.opening) if slot.opening else None
    last = Action.SWAP
    actions = tuple(sorted((t.action for t in tasks), key=lambda action: (action is last, PHASE[action], action)))

    def chosen(name: str) -> object:
        return next((value for task in tasks if (value := getattr(task, name)) is not None), None)

    piece = Piece(
        job.machine_id,
        prefix,
        slot,
        None,
        actions,
        tasks[0].item,
        spare=chosen("spare"),  # type: ignore[arg-type]
        new_item_id=chosen("new_item_id"),  # type: ignore[arg-type]
        partner=chosen("partner"),  # type: ignore[arg-type]
    )
    return replace(piece, door=way) if way and way.part == slot.key and piece.comes_out else piece


def places(piece: Piece) -> Iterator[Gap]:
    """The places this part's work leaves empty for a while: the step that empties each, then those that fill it."""
    if not piece.comes_out:
        return
    if piece.main is Action.SWAP:
        theirs = piece.other.out if piece.other else piece.key(Tail.OUT_OTHER)
        yield (piece.out, piece.key(Tail.FIT), piece.key(Tail.FIT_BACK))
        yield (theirs, piece.key(Tail.FIT_OTHER), *([piece.other.key(Tail.FIT)] if piece.other else []))
    elif piece.other is None and piece.slot.needed_to_run:
        yield rests(piece)


def rests(piece: Piece) -> Gap:
    """The place of a part that goes to the sink: the step that empties it, then those that fill it."""
    return (piece.out, *map(piece.key, (Tail.FIT, Tail.FIT_DRY, Tail.FIT_OTHER)))


def refits(piece: Piece | None) -> Gap:
    """The place of a part that is away already: nothing, then the step that puts it back if this sheet does."""
    return ("", piece.key(Tail.FIT)) if piece else ("",)


def wet(parts: Iterable[Piece]) -> bool:
    """Whether any of the parts goes to the sink."""
    return any(piece.drying is not None for piece in parts)
