"""From a sheet and its answers to where it stands and what they changed. Nothing is written here: the sheet's
records follow when the sitting ends.
"""

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from datetime import datetime
from uuid import UUID

from care.bench.drying import Hanging
from care.bench.links import applies
from care.bench.steps import (
    AGAIN,
    DONE,
    DRY,
    PASS,
    RENEW,
    SKIP,
    UNSURE,
    WHY_GONE,
    Sheet,
    Step,
    StepKind,
    danger_in,
    screws_in,
)
from care.errors import InvalidValue
from care.items import REPLACED, Item, Move, MoveKind
from care.moves import move
from care.vocabulary import Action, Found, Gone


@dataclass(frozen=True, slots=True)
class Answer:
    """One answer to one step at an instant; `hanging` goes with what is put on the rack."""

    step: str
    value: str
    at: datetime
    reason: str = ""
    hanging: Hanging | None = None


@dataclass(frozen=True, slots=True)
class Done:
    """An action that was carried out on an item."""

    item_id: UUID
    slot: str
    action: Action
    at: datetime


@dataclass(frozen=True, slots=True)
class Saw:
    """What was found on an item."""

    item_id: UUID
    slot: str
    about: Action
    found: Found
    at: datetime


@dataclass(slots=True)
class Progress:
    """Where a sheet stands: answers that stand by step, the items as they now are, and what to record at the end."""

    items: dict[UUID, Item]
    answers: dict[str, Answer] = field(default_factory=dict)
    open: set[tuple[UUID, str]] = field(default_factory=set)
    moves: list[tuple[UUID, Move]] = field(default_factory=list)
    done: list[Done] = field(default_factory=list)
    saw: list[Saw] = field(default_factory=list)
    hung: list[tuple[UUID, Hanging | None, datetime]] = field(default_factory=list)
    current: Step | None = None

    @property
    def said(self) -> dict[str, str]:
        """The values that stand, by step."""
        return {key: answer.value for key, answer in self.answers.items()}


def follow(sheet: Sheet, items: Mapping[UUID, Item], answers: Iterable[Answer]) -> Progress:
    """The state after `answers`, in their order; the items are given as they were when the sheet began.

    Raises `InvalidValue` for an answer out of turn or one the step does not take, `IllegalMove` when the part cannot
    do that.
    """
    progress = Progress(dict(items))
    progress.current = _next(sheet, progress)
    for answer in answers:
        step = sheet.step(answer.step)
        if progress.current is None or step.key != progress.current.key:
            now_at = progress.current.key if progress.current else "the end"
            raise InvalidValue(
                f"step: {step.key} is not where this sheet stands ({now_at})",
                field="step",
                fix="Load the sheet again: somebody may have gone on with it.",
            )
        _check(step, answer, progress)
        _apply(step, answer, progress)
        progress.answers[step.key] = answer
        progress.current = _next(sheet, progress)
    return progress


def _next(sheet: Sheet, progress: Progress) -> Step | None:
    said = progress.said
    return next((step for step in sheet.steps if step.key not in said and applies(step, said)), None)


def ahead(sheet: Sheet, progress: Progress) -> list[Step]:
    """The steps that were answered, and those to come if every answer to come is a yes."""
    said, shown = progress.said, []
    for step in sheet.steps:
        if step.key in progress.answers or applies(step, said):
            shown.append(step)
            said.setdefault(step.key, step.answers[0])
    return shown


def _check_screws(step: Step, answer: Answer, progress: Progress) -> None:
    """As many screws in as came out: one that is missing may lie in the machine."""
    opened = progress.answers.get(step.counts)
    out, now = screws_in(opened.value) if opened else None, screws_in(answer.value)
    if out is not None and now != out:
        raise InvalidValue(
            f"answer: {out} came out, {now} went in",
            field="answer",
            fix="Look in the tray, on the floor and inside before it is closed; if they were miscounted, step back.",
        )


def _check(step: Step, answer: Answer, progress: Progress) -> None:
    if step.counts and screws_in(answer.value) is not None:
        _check_screws(step, answer, progress)
        return
    if answer.value not in step.answers:
        raise InvalidValue(
            f"answer: {answer.value!r} is no answer to this step",
            field="answer",
            fix="Choose one of: " + ", ".join(step.answers) + ".",
        )
    if answer.value == SKIP and step.kind is not StepKind.GATE and not answer.reason.strip():
        raise InvalidValue("reason: a skipped step needs a reason", field="reason", fix="Say in a few words why.")


def _apply(step: Step, answer: Answer, progress: Progress) -> None:
    if answer.value == SKIP:
        return
    if step.opening:
        way = (step.machine_id, step.opening)
        (progress.open.add if step.kind is StepKind.OPEN else progress.open.discard)(way)
    if step.kind is StepKind.LOOK:
        _look(step, answer, progress)
    elif step.kind is StepKind.TEST and answer.value != PASS:
        _failed(step, answer, progress)
    elif step.kind is StepKind.HAND_OVER:
        _handed_over(step, answer, progress)
    elif step.kind in _MOVES and step.item_id is not None:
        _moved(step, answer, progress, step.item_id)


def _moved(step: Step, answer: Answer, progress: Progress, item_id: UUID) -> None:
    """The moves of a part, and what they complete."""
    for made in _MOVES[step.kind](step, answer):
        progress.items[item_id] = move(progress.items[item_id], made)
        progress.moves.append((item_id, made))
    _count(step, answer, progress)
    if step.kind is StepKind.RETIRE and answer.value in WHY_GONE:
        _learn_of_its_life(step, Gone(answer.value), answer.at, progress)
    if answer.value == (AGAIN if step.kind is StepKind.DRY_CHECK else DONE) and step.kind in (
        StepKind.RACK,
        StepKind.DRY_CHECK,
    ):
        progress.hung.append((item_id, answer.hanging, answer.at))
    if step.kind is StepKind.FIT and step.is_task:
        progress.done.append(Done(item_id, step.slot or "", Action.SWAP, answer.at))


def _look(step: Step, answer: Answer, progress: Progress) -> None:
    if step.item_id is None or step.slot is None or step.action is None:
        return
    if answer.value == UNSURE or danger_in(answer.value):
        return
    other, _, found = answer.value.rpartition(":")  # something else was seen: it makes another task of the part due
    for about in (Action(other),) if other else (step.action, *step.also):
        progress.saw.append(Saw(step.item_id, step.slot, about, Found(found), answer.at))
    if step.is_task:  # the look was all there was to do
        progress.done.append(Done(step.item_id, step.slot, Action.INSPECT, answer.at))


def _failed(step: Step, answer: Answer, progress: Progress) -> None:
    """What a failed test leaves: the work is due again, or a new part is."""
    about = Action.REPLACE if answer.value == RENEW else step.action
    if about is not None and step.item_id is not None:
        progress.saw.append(Saw(step.item_id, step.slot or "", about, Found.DUE, answer.at))


def _learn_of_its_life(step: Step, gone: Gone, at: datetime, progress: Progress) -> None:
    """Why a part goes stands for a look at its life where there was none; one that goes by chance teaches nothing."""
    assert step.item_id is not None
    seen = [saw for saw in progress.saw if saw.item_id == step.item_id and saw.about is Action.REPLACE]
    if gone.tells is None:
        progress.saw = [saw for saw in progress.saw if saw not in seen]
    elif not seen:
        progress.saw.append(Saw(step.item_id, step.slot or "", Action.REPLACE, gone.tells, at))


def _handed_over(step: Step, answer: Answer, progress: Progress) -> None:
    """What somebody else did: the moves it takes, all at the time it was told."""
    assert step.item_id is not None
    assert step.action is not None
    back = step.new_item_id or step.item_id
    middle = Move(MoveKind.RETIRE, answer.at, reason=REPLACED) if step.new_item_id else None
    moves = [
        (step.item_id, Move(MoveKind.TAKE_OUT, answer.at)),
        (step.item_id, middle or Move(MoveKind.DRY_CLEAN, answer.at)),
        (back, Move(MoveKind.FIT, answer.at, machine_id=step.machine_id, slot=step.slot)),
    ]
    for item_id, made in moves if step.action is not Action.INSPECT else []:
        progress.items[item_id] = move(progress.items[item_id], made)
        progress.moves.append((item_id, made))
    progress.done.append(Done(step.item_id, step.slot or "", step.action, answer.at))


_COUNTS = {StepKind.CLEAN, StepKind.CLEAN_IN_PLACE, StepKind.WASH, StepKind.RETIRE}


def _count(step: Step, answer: Answer, progress: Progress) -> None:
    counts = step.kind in _COUNTS or answer.value == AGAIN
    if counts and step.item_id and step.slot and step.action:
        progress.done.append(Done(step.item_id, step.slot, step.action, answer.at))


Moves = tuple[Move, ...]


def _dry_check(step: Step, answer: Answer) -> Moves:
    """Dry, or damp still; or dry and not clean, and so at the sink once more."""
    if answer.value == AGAIN:
        return (*_wash(step, answer), Move(MoveKind.RACK, answer.at))
    return (Move(MoveKind.RELEASE if answer.value == DRY else MoveKind.STILL_DAMP, answer.at),)


def _rack(step: Step, answer: Answer) -> Moves:
    """On the rack, or wiped dry at once where no rest is prescribed."""
    onto = Move(MoveKind.RACK, answer.at)
    return (onto, Move(MoveKind.RELEASE, answer.at)) if answer.value == DRY else (onto,)


def _wash(step: Step, answer: Answer) -> Moves:
    return (Move(MoveKind.WASH, answer.at, floor_h=step.floor_h, drying=step.drying),)


def _fit(step: Step, answer: Answer) -> Moves:
    return (Move(MoveKind.FIT, answer.at, machine_id=step.machine_id, slot=step.slot),)


def _retire(step: Step, answer: Answer) -> Moves:
    reason = answer.value if answer.value in WHY_GONE else REPLACED
    return (Move(MoveKind.RETIRE, answer.at, reason=reason),)


def _simple(kind: MoveKind) -> Callable[[Step, Answer], Moves]:
    return lambda step, answer: (Move(kind, answer.at),)


_MOVES: dict[StepKind, Callable[[Step, Answer], Moves]] = {
    StepKind.OPEN: _simple(MoveKind.TAKE_OUT),
    StepKind.TAKE_OUT: _simple(MoveKind.TAKE_OUT),
    StepKind.CLEAN: _simple(MoveKind.DRY_CLEAN),
    StepKind.CLEAN_IN_PLACE: _simple(MoveKind.CLEAN_IN_PLACE),
    StepKind.WASH: _wash,
    StepKind.RACK: _rack,
    StepKind.RETIRE: _retire,
    StepKind.DRY_CHECK: _dry_check,
    StepKind.FIT: _fit,
    StepKind.CLOSE: _fit,
}
"""The moves of the part that a step names; an opening and its closing name one where it comes off with them."""
