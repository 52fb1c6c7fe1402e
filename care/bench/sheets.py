"""From chosen tasks of one machine to the ordered steps of one sitting.

Order: make safe; what is dry and dirty; hair; wet work, longest drying first; wipes. Parts behind one opening are done
while it is open and go back in the reverse order before it is closed. Every step changes the state of an item or of an
opening, or yields evidence. What goes further into a machine than the household does is handed over. Leaves out several
machines on one sheet, and timers.
"""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from itertools import groupby
from uuid import UUID

from care.errors import InvalidValue, require
from care.household import AtTheBench
from care.items import Item
from care.kinds import Action, Archetype, Book, Found, Slot, without_superseded


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
    HAND_OVER = "hand_over"


class Effect(StrEnum):
    """What a step changes or yields."""

    ITEM = "item"
    OPENING = "opening"
    EVIDENCE = "evidence"


OFF = "Take the old one off as the manual shows."
ON = "Fit it where the old one sat, all the way home."
COUNT_OUT = "Count the screws out into the tray, and note which came from where."
COUNT_IN = "As many screws in as came out: an empty tray."

DONE, SKIP, UNSURE = "done", "skip", "unsure"
DRY, DAMP = "dry", "damp"
PASS, FAIL = "pass", "fail"

EFFECTS: dict[StepKind, Effect] = {
    StepKind.GATE: Effect.EVIDENCE,
    StepKind.OPEN: Effect.OPENING,
    StepKind.TAKE_OUT: Effect.ITEM,
    StepKind.LOOK: Effect.EVIDENCE,
    StepKind.CLEAN: Effect.ITEM,
    StepKind.CLEAN_IN_PLACE: Effect.ITEM,
    StepKind.WASH: Effect.ITEM,
    StepKind.RACK: Effect.ITEM,
    StepKind.RETIRE: Effect.ITEM,
    StepKind.DRY_CHECK: Effect.ITEM,
    StepKind.FIT: Effect.ITEM,
    StepKind.TEST: Effect.EVIDENCE,
    StepKind.CLOSE: Effect.OPENING,
    StepKind.COUNTER: Effect.EVIDENCE,
    StepKind.HAND_OVER: Effect.ITEM,
}
"""What each kind of step is there for; a kind without an entry cannot be built."""

ANSWERS: dict[StepKind, tuple[str, ...]] = {
    StepKind.GATE: (DONE,),
    StepKind.OPEN: (DONE,),
    StepKind.TAKE_OUT: (DONE, SKIP),
    StepKind.LOOK: (*Found, UNSURE),
    StepKind.CLEAN: (DONE, SKIP),
    StepKind.CLEAN_IN_PLACE: (DONE, SKIP),
    StepKind.WASH: (DONE, SKIP),
    StepKind.RACK: (DONE,),
    StepKind.RETIRE: (DONE, SKIP),
    StepKind.DRY_CHECK: (DRY, DAMP),
    StepKind.FIT: (DONE, SKIP),
    StepKind.TEST: (PASS, FAIL),
    StepKind.CLOSE: (DONE,),
    StepKind.COUNTER: (DONE, SKIP),
    StepKind.HAND_OVER: (DONE, SKIP),
}
"""The answers each kind of step takes; skipping needs a reason."""

PHASE = {
    Action.EMPTY: 0,
    Action.CLEAN: 1,
    Action.DE_HAIR: 2,
    Action.INSPECT: 3,
    Action.SWAP: 3,
    Action.REPLACE: 3,
    Action.WASH: 4,
    Action.RINSE: 4,
    Action.WIPE: 5,
}
"""Dry dirt, hair, looks while it is open, wet, dry wipes: the order of a service."""


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
class Step:
    """One step: who it concerns, the words of the book, its cautions (keys) and the answers it takes.

    It applies when all steps in `needs` were done and, if `instead_of` is set, that step was skipped. `is_task` marks
    the step that by itself completes a task which has no step of work: a look, a change of sides. A part replaced by
    somebody else brings `new_item_id`.
    """

    key: str
    kind: StepKind
    text: tuple[str, ...]
    slot: str | None = None
    action: Action | None = None
    item_id: UUID | None = None
    item_name: str | None = None
    opening: str | None = None
    cautions: tuple[str, ...] = ()
    answers: tuple[str, ...] = ()
    found_words: Mapping[str, str] | None = None
    floor_h: float = 0.0
    needs: tuple[str, ...] = ()
    instead_of: str | None = None
    is_task: bool = False
    new_item_id: UUID | None = None

    @property
    def effect(self) -> Effect:
        """What the step changes or yields."""
        return EFFECTS[self.kind]


@dataclass(frozen=True, slots=True)
class Sheet:
    """The steps of one sitting at one machine, its hands-on minutes, the tools it takes and those of them the household
    said it lacks (keys of the book).
    """

    archetype: str
    book_version: int
    sitting: str
    minutes: float
    steps: tuple[Step, ...]
    tools: tuple[str, ...] = ()
    lacking: tuple[str, ...] = ()

    def step(self, key: str) -> Step:
        """The step `key`. Raises `InvalidValue` when the sheet has none."""
        for step in self.steps:
            if step.key == key:
                return step
        raise InvalidValue(f"step: this sheet has no step {key!r}", field="step", fix="Load the sheet again.")


EVERYTHING = AtTheBench()
"""A household that does everything itself and of which nothing is known."""


def build(chosen: Iterable[Chosen], archetype: Archetype, book: Book, home: AtTheBench = EVERYTHING) -> Sheet:
    """The clean-and-rack sitting for `chosen` tasks. Raises `InvalidValue` for none, or one twice."""
    tasks = _in_order(chosen, archetype)
    require(bool(tasks), "tasks", "none", "at least one task")
    steps = [*_gates(tasks, archetype, book)]
    for opening, group in groupby(tasks, key=lambda t: archetype.slot(t.slot).opening):
        if opening and not home.skill.reaches(archetype.opening(opening).skill):
            steps += [_hand_over(task, archetype.slot(task.slot), opening, archetype) for task in group]
        else:
            steps += _opened(opening, _group_steps(list(group), archetype), archetype)
    tools = _tools(tasks, archetype)
    steps += [_counter(task, archetype.slot(task.slot)) for task in tasks if _has_counter(task, archetype)]
    return Sheet(
        archetype.key,
        archetype.version,
        "clean_and_rack",
        archetype.hands_on_min((t.slot, t.action) for t in tasks),
        tuple(_for_home(step, archetype, home) for step in steps),
        tools,
        tuple(key for key in tools if home.tools is not None and key not in home.tools),
    )


SENSITIVE = {"dust": "dust-allergy"}
"""Cautions that say more where somebody is allergic (keys of the book)."""


def _for_home(step: Step, archetype: Archetype, home: AtTheBench) -> Step:
    """The step with the cautions that this household needs."""
    cautions = [SENSITIVE.get(key, key) if home.allergy else key for key in step.cautions]
    if home.children and step.kind is StepKind.OPEN and step.opening and archetype.opening(step.opening).screws:
        cautions.append("small-parts")
    return replace(step, cautions=tuple(cautions)) if tuple(cautions) != step.cautions else step


def _hand_over(task: Chosen, slot: Slot, opening: str, archetype: Archetype) -> Step:
    """What goes further than the household does: done by the maker, a shop or a handy friend, and recorded here."""
    way = archetype.opening(opening)
    how = "the body is opened" if way.strip_down else "screws are undone"
    text = (
        f"This is behind the {way.name}, where {how}: further than you said you go.",
        "Give it to the maker, a shop or somebody able, and answer when it is done.",
    )
    about = {"slot": slot.key, "action": task.action, "item_id": task.item.id, "item_name": task.item.name}
    new = task.new_item_id if task.action is Action.REPLACE else None
    return _step(
        f"{slot.key}.{task.action}.hand-over", StepKind.HAND_OVER, text, is_task=True, new_item_id=new, **about
    )


def _tools(tasks: Sequence[Chosen], archetype: Archetype) -> tuple[str, ...]:
    """Every tool that the openings and cards name, once, in the order in which they are needed."""
    named: list[str] = []
    for task in tasks:
        slot = archetype.slot(task.slot)
        named += archetype.opening(slot.opening).tools if slot.opening else ()
        named += slot.rule(task.action).card.tools
    return tuple(dict.fromkeys(named))


def _has_counter(task: Chosen, archetype: Archetype) -> bool:
    """Whether the machine's own list has to be told that this is done."""
    return archetype.slot(task.slot).counted_by_machine and task.action is Action.REPLACE


def _counter(task: Chosen, slot: Slot) -> Step:
    about = {"slot": slot.key, "action": task.action, "item_id": task.item.id, "item_name": task.item.name}
    return _step(
        f"{slot.key}.{task.action}.counter", StepKind.COUNTER, (), needs=(f"{slot.key}.{task.action}.do",), **about
    )


def build_refit(items: Iterable[tuple[str, Item]], archetype: Archetype, book: Book) -> Sheet:
    """The refit-and-test sitting for parts (slot key, item) that were drying: check each, fit it, test, close."""
    pairs = sorted(items, key=lambda pair: (archetype.slot(pair[0]).opening or "", archetype.slot(pair[0]).refit_order))
    require(bool(pairs), "items", "none", "at least one part from the rack")
    steps = [_gate(archetype.make_safe, archetype, book)]
    for opening, group in groupby(pairs, key=lambda pair: archetype.slot(pair[0]).opening):
        inner = [step for slot_key, item in group for step in _refit_one(archetype.slot(slot_key), item)]
        steps += _opened(opening, inner, archetype)
    openings = {archetype.slot(s).opening for s, _ in pairs} - {None}
    minutes = len(pairs) * 2.0 + sum(archetype.opening(o).setup_min for o in openings if o)
    return Sheet(archetype.key, archetype.version, "refit_and_test", minutes, tuple(steps))


def _in_order(chosen: Iterable[Chosen], archetype: Archetype) -> list[Chosen]:
    """Tasks in the order of a service; groups behind one opening stay together at the place of their first."""
    tasks = list(chosen)
    named = [(t.slot, t.action) for t in tasks]
    require(len(named) == len(set(named)), "tasks", "a task twice", "each task once")
    sensible = without_superseded(named)
    tasks = [t for t in tasks if (t.slot, t.action) in sensible]

    def own(task: Chosen) -> tuple[float, ...]:
        slot = archetype.slot(task.slot)
        return (PHASE[task.action], -slot.drying_floor_h, -slot.refit_order)

    def group(task: Chosen) -> str:
        return archetype.slot(task.slot).opening or f"slot:{task.slot}"

    first = {key: min(own(t) for t in tasks if group(t) == key) for key in map(group, tasks)}
    return sorted(tasks, key=lambda t: (first[group(t)], group(t), own(t), t.slot))


def _gates(tasks: Sequence[Chosen], archetype: Archetype, book: Book) -> Iterator[Step]:
    """Make safe, then every gate that a chosen task's card names, once."""
    yield _gate(archetype.make_safe, archetype, book, place=archetype.place)
    named: list[str] = []
    for task in tasks:
        slot = archetype.slot(task.slot)
        named += archetype.opening(slot.opening).cautions if slot.opening else ()
        named += slot.rule(task.action).card.cautions
    for key in dict.fromkeys(named):
        if book.cautions[key].gate and key != archetype.make_safe:
            yield _gate(key, archetype, book)


def _gate(key: str, archetype: Archetype, book: Book, place: str = "") -> Step:
    text = (book.cautions[key].text, *([place] if place else []))
    return _step(f"gate.{key}", StepKind.GATE, text)


def _opened(opening: str | None, inner: list[Step], archetype: Archetype) -> list[Step]:
    if opening is None:
        return inner
    way = archetype.opening(opening)
    out, back = ((COUNT_OUT,), (COUNT_IN,)) if way.screws else ((), ())
    return [
        _step(f"{opening}.open", StepKind.OPEN, (way.undo, *out), opening=opening, cautions=way.cautions),
        *inner,
        _step(f"{opening}.close", StepKind.CLOSE, (way.close, *back), opening=opening),
    ]


def _group_steps(tasks: list[Chosen], archetype: Archetype) -> list[Step]:
    """Work on each part of one opening, then everything back in the order of putting in."""
    work = [step for task in tasks for step in _work(task, archetype.slot(task.slot))]
    backwards = sorted(tasks, key=lambda t: archetype.slot(t.slot).refit_order)
    back = [step for task in backwards for step in _put_back(task, archetype.slot(task.slot))]
    return work + back


def _work(task: Chosen, slot: Slot) -> Iterator[Step]:
    rule = slot.rule(task.action)
    at = f"{slot.key}.{task.action}"
    about = {"slot": slot.key, "action": task.action, "item_id": task.item.id, "item_name": task.item.name}
    words = {str(found): text for found, text in slot.words(rule.about or task.action).items()}
    if task.action is Action.INSPECT:
        look = {**about, "action": rule.about, "is_task": True}
        yield _step(f"{at}.look", StepKind.LOOK, rule.card.how, found_words=words, **look)
        return
    out = f"{at}.out"
    needs = (out,) if _comes_out(task, slot) else ()
    card = {"needs": needs, "cautions": rule.card.cautions}
    if needs:
        yield _step(out, StepKind.TAKE_OUT, (slot.take_out or OFF,), **about)
    if task.action is Action.SWAP:
        yield from _swap_work(task, slot, at)
        return
    yield _step(f"{at}.look", StepKind.LOOK, (), needs=needs, found_words=words, **about)
    if task.action is Action.REPLACE:
        yield _step(f"{at}.do", StepKind.RETIRE, rule.card.how, **card, **about)
    elif task.action is Action.WASH and slot.removable and slot.drying_floor_h:
        yield _step(f"{at}.do", StepKind.WASH, rule.card.how, floor_h=slot.drying_floor_h, **card, **about)
        yield _step(f"{at}.rack", StepKind.RACK, (), needs=(f"{at}.do",), floor_h=slot.drying_floor_h, **about)
    else:
        kind = StepKind.CLEAN if slot.removable else StepKind.CLEAN_IN_PLACE
        yield _step(f"{at}.do", kind, rule.card.how, **card, **about)


def _comes_out(task: Chosen, slot: Slot) -> bool:
    """Whether the part leaves its place: a part that stays for cleaning still goes when it is replaced."""
    return slot.removable or task.action is Action.REPLACE


def _swap_work(task: Chosen, slot: Slot, at: str) -> Iterator[Step]:
    """Both parts out; they go back crosswise in `_put_back`."""
    require(task.partner is not None and slot.swaps_with is not None, "tasks", task.slot, "a part on the other side")
    assert task.partner is not None
    other = {"slot": slot.swaps_with, "action": Action.SWAP, "item_id": task.partner.id, "item_name": task.partner.name}
    yield _step(f"{at}.out-other", StepKind.TAKE_OUT, (slot.take_out,), needs=(f"{at}.out",), **other)


def _swap_back(task: Chosen, slot: Slot, at: str) -> Iterator[Step]:
    assert task.partner is not None
    both = (f"{at}.out", f"{at}.out-other")
    mine = {"slot": slot.swaps_with, "action": Action.SWAP, "item_id": task.item.id, "item_name": task.item.name}
    theirs = {"slot": slot.key, "action": Action.SWAP, "item_id": task.partner.id, "item_name": task.partner.name}
    how = (*slot.rule(Action.SWAP).card.how, slot.put_back)
    yield _step(f"{at}.fit", StepKind.FIT, how, needs=both, is_task=True, **theirs)
    yield _step(f"{at}.fit-other", StepKind.FIT, (slot.put_back,), needs=both, **mine)
    stay = {"action": Action.SWAP, "instead_of": f"{at}.out-other", "needs": (f"{at}.out",)}
    own = {"slot": slot.key, "item_id": task.item.id, "item_name": task.item.name}
    yield _step(f"{at}.fit-back", StepKind.FIT, (slot.put_back,), **own, **stay)
    yield from _test(at, slot, f"{at}.fit", theirs)


def _put_back(task: Chosen, slot: Slot) -> Iterator[Step]:
    """Refit what came out, a dry spare for what is wet, a new part for what was retired; then prove it."""
    at = f"{slot.key}.{task.action}"
    about = {"slot": slot.key, "action": task.action}
    own = {**about, "item_id": task.item.id, "item_name": task.item.name}
    out, do = f"{at}.out", f"{at}.do"
    if task.action is Action.INSPECT:
        return
    if task.action is Action.SWAP:
        yield from _swap_back(task, slot, at)
        return
    if not _comes_out(task, slot):
        yield from _test(at, slot, do, own)
        return
    swap = _substitute(task)
    rests = task.action is Action.WASH and slot.drying_floor_h > 0
    if swap is None and not rests:
        yield _step(f"{at}.fit", StepKind.FIT, (slot.put_back or ON,), needs=(out,), **own)
        yield from _test(at, slot, f"{at}.fit", own)
        return
    yield _step(f"{at}.fit", StepKind.FIT, (slot.put_back or ON,), needs=(out,), instead_of=do, **own)
    yield from _test(at, slot, f"{at}.fit", own)
    if swap is not None:
        other = {**about, "item_id": swap[0], "item_name": swap[1]}
        yield _step(f"{at}.fit-other", StepKind.FIT, (slot.put_back or ON,), needs=(do,), **other)
        yield from _test(f"{at}.other", slot, f"{at}.fit-other", other)


def _substitute(task: Chosen) -> tuple[UUID, str] | None:
    """What goes in instead of the part that came out: the new part, or the dry spare."""
    if task.action is Action.REPLACE:
        require(task.new_item_id is not None, "new_item_id", task.new_item_id, "an id for the new part")
        assert task.new_item_id is not None
        return task.new_item_id, f"new {task.item.part}"
    if task.action is Action.WASH and task.spare is not None:
        return task.spare.id, task.spare.name
    return None


def _test(at: str, slot: Slot, after: str, about: Mapping[str, object]) -> Iterator[Step]:
    if slot.test:
        yield _step(f"{at}.test", StepKind.TEST, (slot.test,), needs=(after,), **about)


def _refit_one(slot: Slot, item: Item) -> Iterator[Step]:
    at = f"{slot.key}.refit"
    about = {"slot": slot.key, "item_id": item.id, "item_name": item.name}
    yield _step(f"{at}.dry", StepKind.DRY_CHECK, (), cautions=("no-heat",), **about)
    yield _step(f"{at}.fit", StepKind.FIT, (slot.put_back or ON,), needs=(f"{at}.dry",), **about)
    yield from _test(at, slot, f"{at}.fit", about)


def _step(key: str, kind: StepKind, text: tuple[str, ...], **about: object) -> Step:
    return Step(key=key, kind=kind, text=text, answers=ANSWERS[kind], **about)  # type: ignore[arg-type]
