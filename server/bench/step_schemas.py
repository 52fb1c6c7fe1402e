"""What a step of a sheet is like for whoever stands at the bench."""

from uuid import UUID

from care.bench.steps import Step, StepEffect, StepKind, danger_in, gate_of
from care.book import load_book
from care.kinds import Archetype
from care.vocabulary import Action
from server.base.schema import Schema
from server.bench.sheets import SheetState


class CautionOut(Schema):
    """A caution to show before the step."""

    key: str
    text: str
    gate: bool


class DangerSaidOut(Schema):
    """A danger that may be told at a gate by the answer `value`: its words, and what to do at once."""

    value: str
    name: str
    seen: str
    now: str
    who: str


class StepOut(Schema):
    """A step of a sheet, with its answer if it has one.

    `title` is set where its kind does not say it all; a gate that makes a machine safe has none, any other asks
    something: `yes` and `no` are the words of its answers, `no_more` what a no leads to.
    When it applies follows from `needs`, `only_if`, `whole`, `missing`.
    Where `counts` names a step, it is answered by a number of screws: `screws:` and how many.
    """

    key: str
    kind: StepKind
    effect: StepEffect
    machine_id: UUID
    machine_name: str
    title: str
    yes: str
    no: str
    no_more: str
    text: list[str]
    slot: str | None
    slot_name: str | None
    action: Action | None
    item_id: UUID | None
    item_name: str | None
    opening_name: str | None
    cautions: list[CautionOut]
    answers: list[str]
    dangers: list[DangerSaidOut]
    found_words: dict[str, str] | None
    worn_words: dict[str, str] | None
    floor_h: float
    wait_min: float
    each: list[str]
    picture: UUID | None
    needs: list[str]
    only_if: list[str] | None
    whole: list[list[str]]
    missing: list[list[str]]
    halted_by: list[str]
    counts: str
    seat: list[str]
    drawing: str
    is_dusty: bool
    answer: str | None
    reason: str


def step_out(step: Step, state: SheetState) -> StepOut:
    """A step in its words, with its answer if it has one."""
    book, on = load_book(), state.machines[step.machine_id]
    names = {slot.key: slot.name for slot in on.archetype.slots}
    answer = state.progress.answers.get(step.key)
    cautions = [book.cautions[key] for key in step.cautions if not book.cautions[key].gate]
    asks = book.cautions.get(gate_of(step)) if step.kind is StepKind.GATE else None
    return StepOut(
        key=step.key,
        kind=step.kind,
        effect=step.effect,
        machine_id=step.machine_id,
        machine_name=on.name,
        title=asks.title if asks else step.title,
        yes=asks.yes if asks else "",
        no=asks.no if asks else "",
        no_more=asks.no_more if asks else "",
        text=list(step.text),
        slot=step.slot,
        slot_name=names.get(step.slot, step.slot) if step.slot else None,
        action=step.action,
        item_id=step.item_id,
        item_name=step.item_name,
        opening_name=on.archetype.opening(step.opening).name if step.opening else None,
        cautions=[CautionOut.model_validate(c) for c in cautions],
        answers=list(step.answers),
        dangers=_dangers(step),
        found_words=dict(step.found_words) if step.found_words else None,
        worn_words=_worn_words(on.archetype, step.slot),
        floor_h=step.floor_h,
        wait_min=step.wait_min,
        each=list(step.each),
        picture=state.pictures.get((step.machine_id, step.slot)) if step.slot else None,
        needs=list(step.needs),
        only_if=list(step.only_if) if step.only_if else None,
        whole=[list(place) for place in step.whole],
        missing=[list(place) for place in step.missing],
        halted_by=list(step.halted_by),
        counts=step.counts,
        seat=list(step.seat),
        drawing=step.drawing,
        is_dusty=step.is_dusty,
        answer=answer.value if answer else None,
        reason=answer.reason if answer else "",
    )


def _dangers(step: Step) -> list[DangerSaidOut]:
    known = load_book().dangers
    found = ((value, known[key]) for value in step.answers if (key := danger_in(value)))
    return [DangerSaidOut(value=v, name=d.name, seen=d.seen, now=d.now, who=d.who) for v, d in found]


def _worn_words(kind: Archetype, slot_key: str | None) -> dict[str, str] | None:
    """What tells that a part has to be replaced, where it can be; None for a step that is about no part."""
    slot = next((one for one in kind.slots if one.key == slot_key), None)
    if slot is None or not slot.is_renewed:
        return None
    return {str(found): words for found, words in slot.words(Action.REPLACE).items()}
