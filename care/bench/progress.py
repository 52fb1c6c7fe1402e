"""From a sheet and its answers to where it stands and what they changed. Nothing is written here: the sheet's
records follow when the sitting ends.
"""

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from datetime import datetime
from uuid import UUID

from care.bench.drying import Hanging
from care.bench.sheets import DAMP, DRY, SKIP, UNSURE, Sheet, Step, StepKind
from care.errors import InvalidValue
from care.items import Item, Move, MoveKind, move
from care.kinds import Action, Found


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
    open: set[str] = field(default_factory=set)
    moves: list[tuple[UUID, Move]] = field(default_factory=list)
    done: list[Done] = field(default_factory=list)
    saw: list[Saw] = field(default_factory=list)
    hung: list[tuple[UUID, Hanging | None, datetime]] = field(default_factory=list)
    current: Step | None = None


def follow(sheet: Sheet, items: Mapping[UUID, Item], answers: Iterable[Answer], *, machine_id: UUID) -> Progress:
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
        _check(step, answer)
        _apply(step, answer, progress, machine_id)
        progress.answers[step.key] = answer
        progress.current = _next(sheet, progress)
    return progress


def _next(sheet: Sheet, progress: Progress) -> Step | None:
    for step in sheet.steps:
        if step.key not in progress.answers and applies(step, progress):
            return step
    return None


def applies(step: Step, progress: Progress) -> bool:
    """Whether the step is to be done, as far as the answers so far tell."""
    if step.instead_of is not None and not _was(step.instead_of, SKIP, progress):
        return False
    return all(key in progress.answers and not _was(key, (SKIP, DAMP), progress) for key in step.needs)


def ahead(sheet: Sheet, progress: Progress) -> list[Step]:
    """The steps that were answered, and those to come if every answer to come is a yes."""
    shown: dict[str, Step] = {}
    for step in sheet.steps:
        answered = step.key in progress.answers
        swapped = step.instead_of is None or _was(step.instead_of, SKIP, progress)
        if answered or (swapped and all(key in shown and not _was(key, (SKIP, DAMP), progress) for key in step.needs)):
            shown[step.key] = step
    return list(shown.values())


def _was(key: str, values: str | tuple[str, ...], progress: Progress) -> bool:
    answer = progress.answers.get(key)
    return answer is not None and answer.value in ((values,) if isinstance(values, str) else values)


def _check(step: Step, answer: Answer) -> None:
    if answer.value not in step.answers:
        raise InvalidValue(
            f"answer: {answer.value!r} is no answer to this step",
            field="answer",
            fix="Choose one of: " + ", ".join(step.answers) + ".",
        )
    if answer.value == SKIP and not answer.reason.strip():
        raise InvalidValue("reason: a skipped step needs a reason", field="reason", fix="Say in a few words why.")


def _apply(step: Step, answer: Answer, progress: Progress, machine_id: UUID) -> None:
    if answer.value == SKIP:
        return
    if step.kind is StepKind.OPEN and step.opening:
        progress.open.add(step.opening)
    elif step.kind is StepKind.CLOSE and step.opening:
        progress.open.discard(step.opening)
    elif step.kind is StepKind.LOOK:
        _look(step, answer, progress)
    elif step.kind is StepKind.HAND_OVER:
        _handed_over(step, answer, progress, machine_id)
    elif step.kind in _MOVES and step.item_id is not None:
        made = _MOVES[step.kind](step, answer, machine_id)
        progress.items[step.item_id] = move(progress.items[step.item_id], made)
        progress.moves.append((step.item_id, made))
        _count(step, answer, progress)
        if step.kind is StepKind.RACK:
            progress.hung.append((step.item_id, answer.hanging, answer.at))
        if step.kind is StepKind.FIT and step.is_task:
            progress.done.append(Done(step.item_id, step.slot or "", Action.SWAP, answer.at))


def _look(step: Step, answer: Answer, progress: Progress) -> None:
    if answer.value == UNSURE or step.item_id is None or step.slot is None or step.action is None:
        return
    progress.saw.append(Saw(step.item_id, step.slot, step.action, Found(answer.value), answer.at))
    if step.is_task:  # the look was all there was to do
        progress.done.append(Done(step.item_id, step.slot, Action.INSPECT, answer.at))


def _handed_over(step: Step, answer: Answer, progress: Progress, machine_id: UUID) -> None:
    """What somebody else did: the moves it takes, all at the time it was told."""
    assert step.item_id is not None
    assert step.action is not None
    back = step.new_item_id or step.item_id
    middle = Move(MoveKind.RETIRE, answer.at, reason="replaced") if step.new_item_id else None
    moves = [
        (step.item_id, Move(MoveKind.TAKE_OUT, answer.at)),
        (step.item_id, middle or Move(MoveKind.DRY_CLEAN, answer.at)),
        (back, Move(MoveKind.FIT, answer.at, machine_id=machine_id, slot=step.slot)),
    ]
    for item_id, made in moves if step.action is not Action.INSPECT else []:
        progress.items[item_id] = move(progress.items[item_id], made)
        progress.moves.append((item_id, made))
    progress.done.append(Done(step.item_id, step.slot or "", step.action, answer.at))


_COUNTS = {StepKind.CLEAN, StepKind.CLEAN_IN_PLACE, StepKind.WASH, StepKind.RETIRE}


def _count(step: Step, answer: Answer, progress: Progress) -> None:
    if step.kind in _COUNTS and step.item_id and step.slot and step.action:
        progress.done.append(Done(step.item_id, step.slot, step.action, answer.at))


def _dry_check(step: Step, answer: Answer, machine_id: UUID) -> Move:
    return Move(MoveKind.RELEASE if answer.value == DRY else MoveKind.STILL_DAMP, answer.at)


def _simple(kind: MoveKind) -> Callable[[Step, Answer, UUID], Move]:
    return lambda step, answer, machine_id: Move(kind, answer.at)


_MOVES: dict[StepKind, Callable[[Step, Answer, UUID], Move]] = {
    StepKind.TAKE_OUT: _simple(MoveKind.TAKE_OUT),
    StepKind.CLEAN: _simple(MoveKind.DRY_CLEAN),
    StepKind.CLEAN_IN_PLACE: _simple(MoveKind.CLEAN_IN_PLACE),
    StepKind.WASH: lambda step, answer, machine_id: Move(MoveKind.WASH, answer.at, floor_h=step.floor_h),
    StepKind.RACK: _simple(MoveKind.RACK),
    StepKind.RETIRE: lambda step, answer, machine_id: Move(MoveKind.RETIRE, answer.at, reason="replaced"),
    StepKind.DRY_CHECK: _dry_check,
    StepKind.FIT: lambda step, answer, machine_id: Move(MoveKind.FIT, answer.at, machine_id=machine_id, slot=step.slot),
}
