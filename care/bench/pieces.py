"""One part on the bench: taken out, looked at, worked on, put back. `care.bench.sheets` puts the parts in order."""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import NamedTuple
from uuid import UUID

from care.bench.steps import (
    DAMP,
    DANGER,
    DONE,
    DRY,
    FAIL,
    PASS,
    RENEW,
    SCREWS,
    SKIP,
    UNSURE,
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
from care.named import NamedCaution
from care.parts import Slot
from care.rules import Card, Drying
from care.vocabulary import Action

OFF = "Take it off as the manual shows."
ON = "Fit it where it sat, all the way home."

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

    def told(name: str) -> object:
        return next((value for task in tasks if (value := getattr(task, name)) is not None), None)

    piece = Piece(
        job.machine_id,
        prefix,
        slot,
        None,
        actions,
        tasks[0].item,
        spare=told("spare"),  # type: ignore[arg-type]
        new_item_id=told("new_item_id"),  # type: ignore[arg-type]
        partner=told("partner"),  # type: ignore[arg-type]
    )
    return replace(piece, door=way) if way and way.part == slot.key and piece.comes_out else piece


def bench_work(piece: Piece) -> Iterator[Step]:
    """Out, looked at, and worked on while hands are dry."""
    if piece.actions == (Action.INSPECT,):
        rule = piece.slot.rule(Action.INSPECT)
        yield from _looks(piece, rule.card.how, (), is_task=True)
        return
    needs = (piece.out,) if piece.comes_out else ()
    if needs and not piece.door:
        out = piece.step(Tail.OUT, StepKind.TAKE_OUT, (piece.slot.take_out or OFF,))
        yield replace(out, drawing=piece.slot.drawing)
    if piece.actions != (Action.SWAP,):
        yield from _looks(piece, (), needs)
    for action in piece.actions:
        if action is not Action.SWAP and piece.slot.drying_of(action) is None:
            yield _do(piece, action, needs)
            yield from _until(piece, action)
    if piece.main is Action.SWAP and piece.other is None:
        yield _other_out(piece)


def _looks(piece: Piece, text: tuple[str, ...], needs: tuple[str, ...], *, is_task: bool = False) -> Iterator[Step]:
    """One look for all work that shares its words for what is seen."""
    told: dict[tuple[str, ...], list[Action]] = {}
    for action in piece.actions:
        if action is not Action.SWAP:
            told.setdefault(tuple(piece.slot.words(_about(piece, action)).values()), []).append(_about(piece, action))
    for abouts in told.values():
        first = abouts[-1] if piece.main in abouts else abouts[0]
        also = tuple(action for action in abouts if action is not first)
        words = seen_words(piece.slot, first)
        look = piece.step(Tail.LOOK.of(first, _about(piece, piece.main)), StepKind.LOOK, text)
        look = replace(look, needs=needs, answers=(*words, UNSURE), action=first, also=also)
        yield replace(look, found_words=words, is_task=is_task)


def seen_words(slot: Slot, about: Action) -> dict[str, str]:
    """What one may see at a look about a task, by its answer: how far it is, a danger, what else is due."""
    made: dict[str, str] = {}
    for found, text in slot.words(about).items():
        danger = slot.danger(about, found)
        made[f"{DANGER}{danger}" if danger else str(found)] = text
    for find in slot.finds(about):
        made[f"{DANGER}{find.danger}" if find.danger else find.key] = find.words
    return made


def _about(piece: Piece, action: Action) -> Action:
    return piece.slot.rule(action).about or action


def _do(piece: Piece, action: Action, needs: tuple[str, ...]) -> Step:
    card = piece.slot.rule(action).card
    kind = StepKind.CLEAN if piece.comes_out else StepKind.CLEAN_IN_PLACE
    kind = StepKind.RETIRE if action is Action.REPLACE else kind
    ends = (piece.slot.washing.disposal,) if action is Action.REPLACE and piece.slot.washing else ()
    step = piece.step(Tail.DO.of(action, piece.main), kind, (*card.how, *ends))
    return replace(_by_card(step, card), action=action, needs=needs)


def _by_card(step: Step, card: Card) -> Step:
    """The step with what the card says besides how."""
    return replace(step, cautions=card.cautions, wait_min=card.wait_min, each=card.each, drawing=card.drawing)


def _until(piece: Piece, action: Action) -> Iterator[Step]:
    """What has to be true before anybody goes on: there is no other answer to it."""
    card, main = piece.slot.rule(action).card, piece.main
    if card.until:
        step = piece.step(Tail.UNTIL.of(action, main), StepKind.TEST, (card.until,))
        yield replace(step, action=action, needs=(piece.key(Tail.DO.of(action, main)),), answers=(PASS,))


def sink_work(piece: Piece) -> Iterator[Step]:
    """Washed or wiped wet, and on the rack."""
    drying, card = piece.drying, piece.slot.rule(piece.main).card
    if drying is None:
        return
    wash = _dries(_by_card(piece.step(Tail.DO, StepKind.WASH, card.how), card), drying)
    yield replace(wash, needs=(piece.out,), each=_ticked(piece))
    yield from _until(piece, piece.main)
    rack = replace(_dries(piece.step(Tail.RACK, StepKind.RACK, ()), drying), needs=(piece.key(Tail.DO),))
    yield replace(rack, answers=(DONE, DRY)) if _may_go_back(piece) else rack


def _dries(step: Step, drying: Drying) -> Step:
    """The step with how the part dries after it."""
    return replace(step, floor_h=drying.floor_h, drying=drying.key)


def _ticked(piece: Piece) -> tuple[str, ...]:
    """What is ticked off at the sink; where nothing else says when it is rinsed enough, the kind of part does."""
    card, washing = piece.slot.rule(piece.main).card, piece.slot.washing
    wets = piece.main is Action.WASH and not card.until
    return (*card.each, *([washing.until] if wets and washing and washing.until else []))


def _may_go_back(piece: Piece) -> bool:
    """Whether it may be wiped dry and go back at once: no rest is prescribed, and nothing went in for it."""
    return piece.drying is not None and piece.drying.floor_h == 0 and piece.substitute is None


def _other_out(piece: Piece) -> Step:
    """The part on the other side, where nothing else is done to it."""
    require(piece.partner is not None and piece.slot.swaps_with is not None, "tasks", piece.slot.key, "a part to swap")
    assert piece.partner is not None
    step = piece.step(Tail.OUT_OTHER, StepKind.TAKE_OUT, (piece.slot.take_out,))
    return Other(piece.partner.id, piece.partner.name, piece.slot.swaps_with).on(replace(step, needs=(piece.out,)))


def put_back(piece: Piece, untouched: tuple[str, ...] = ()) -> Iterator[Step]:
    """Refit what came out, a dry spare for what is wet, a new part for what was retired; then prove it.

    A part that closes an opening confirms what lies behind it `untouched`.
    """
    do = piece.key(Tail.DO)
    if piece.actions == (Action.INSPECT,):
        return
    if not piece.comes_out:
        yield from _test(piece, Tail.TEST, do)
        return
    if piece.main is Action.SWAP:
        yield from _swap_back(piece)
        return
    swap, out = piece.substitute, (piece.out,)
    instead = (do, SKIP) if swap is not None or piece.drying is not None else None
    if piece.other is not None:  # it changes sides, unless the other one stayed where it is
        yield from _fit(piece, Tail.FIT, untouched, needs=out, only_if=(piece.other.out, SKIP))
        return
    yield from _fit(piece, Tail.FIT, untouched, needs=out, only_if=instead)
    if _may_go_back(piece):
        yield from _fit(piece, Tail.FIT_DRY, untouched, needs=out, only_if=(piece.key(Tail.RACK), DRY))
    if swap is not None:
        yield from _fit(piece, Tail.FIT_OTHER, untouched, needs=(do,), other=swap)


def _fit(
    piece: Piece,
    tail: Tail,
    untouched: tuple[str, ...],
    *,
    needs: tuple[str, ...],
    only_if: tuple[str, str] | None = None,
    other: Other | None = None,
) -> Iterator[Step]:
    """Put a part in, or the `other` one, as closing the opening where it comes off with it; then prove it.

    What lies behind it `untouched` is confirmed before it closes.
    """
    if piece.door:
        step = closing(piece.step(tail, StepKind.CLOSE, closing_words(piece.door)), piece.door, piece.out, untouched)
    else:
        step = piece.step(tail, StepKind.FIT, (piece.slot.put_back or ON,))
        step = replace(step, seat=piece.slot.seat or SEAT, drawing=piece.slot.drawing)
    step = replace(step, needs=needs, only_if=only_if)
    yield other.on(step) if other else step
    yield from _test(piece, Tail.TEST if tail is Tail.FIT else f"{tail}.{Tail.TEST}", step.key, other)


def _swap_back(piece: Piece) -> Iterator[Step]:
    other = piece.other
    partner = other.item if other else piece.partner
    assert partner is not None
    theirs_out = other.out if other else piece.key(Tail.OUT_OTHER)
    both, back = (piece.out, theirs_out), (piece.slot.put_back,)
    theirs = Other(partner.id, partner.name, piece.slot.key)
    how = (*piece.slot.rule(Action.SWAP).card.how, piece.slot.put_back)
    yield theirs.on(replace(piece.step(Tail.FIT, StepKind.FIT, how), needs=both, is_task=True))
    yield replace(piece.step(Tail.FIT_OTHER, StepKind.FIT, back), needs=both, slot=piece.slot.swaps_with)
    left = piece.step(Tail.FIT_BACK, StepKind.FIT, back)
    yield replace(left, only_if=(theirs_out, SKIP), needs=(piece.out,))
    yield from _test(piece, Tail.TEST, piece.key(Tail.FIT), theirs)


def _test(piece: Piece, tail: str, after: str, other: Other | None = None) -> Iterator[Step]:
    if piece.slot.test:
        renew = (RENEW,) if piece.slot.is_renewed else ()
        step = piece.step(tail, StepKind.TEST, (piece.slot.test,))
        step = replace(step, answers=(PASS, FAIL, *renew), needs=(after,))
        yield other.on(step) if other else step


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


def refit(piece: Piece, untouched: tuple[str, ...] = ()) -> Iterator[Step]:
    """A part from the rack: felt for damp and looked at once more, then put in."""
    drying = piece.drying
    step = replace(piece.step(Tail.DRY, StepKind.DRY_CHECK, ()), cautions=(NamedCaution.NO_HEAT,))
    yield _dries(step, drying) if drying else replace(step, answers=(DRY, DAMP))
    yield from _fit(piece, Tail.FIT, untouched, needs=(step.key,))


COUNT_OUT = "Count the screws out into the tray, and note which came from where."
NOT_ON = "Nothing is switched on before that is back."
COUNT_IN = "As many screws in as came out: an empty tray."


def counted(step: Step, way: Opening, opened: str) -> Step:
    """The step with the screws of an opening counted, by the step that opens it; as it is where it has none."""
    return replace(step, counts=opened, answers=(f"{SCREWS}1",)) if way.screws else step


def closing(step: Step, way: Opening, opened: str, untouched: tuple[str, ...]) -> Step:
    """A step that closes an opening, with what it tells besides its words; its screws are counted with the last one."""
    step = replace(step, opening=way.key, seat=way.seat or NO_CLICK, drawing=way.drawing, each=untouched)
    return step if way.last else counted(step, way, opened)


SEAT = (
    "Hair or grit in its seat? Clear it.",
    "Which way round? Notches, arrows and keyed ends go one way only: hold it against your photo.",
    "Do not force it: what is pressed in askew leaks or breaks.",
)
"""What to look for where a part does not go in and the book says nothing of its own."""
NO_CLICK = (
    "Open it again: is all that lies behind it home and flat?",
    "Grit in the catch? Brush it out.",
    "Look along the edge: in on one side and not on the other looks closed.",
)
"""What to look for where something does not close or click, and the book says nothing of its own."""


def opening_words(way: Opening) -> tuple[str, ...]:
    """How an opening is undone, its screws counted out."""
    return (way.undo, COUNT_OUT) if way.screws else (way.undo,)


def without_words(way: Opening, names: Sequence[str]) -> tuple[str, ...]:
    """How an opening is closed while a part that belongs behind it is away."""
    away = f"Still away{', all or some' if len(names) > 1 else ''}: {', '.join(names)}."
    words = (f"Shut it as it is, so that nothing falls in or gets lost. {away}", NOT_ON)
    if way.last:
        return (*words, "Its own screws go in; those of the pack wait in the closed tray.")
    return (*words, COUNT_IN) if way.screws else words


def closing_words(way: Opening) -> tuple[str, ...]:
    """How an opening is closed, its screws counted in unless the last ones wait."""
    return (way.close, COUNT_IN) if way.screws and not way.last else (way.close,)


def wet(parts: Iterable[Piece]) -> bool:
    """Whether any of the parts goes to the sink."""
    return any(piece.drying is not None for piece in parts)
