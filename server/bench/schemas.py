"""What the API takes and gives at the bench."""

from collections.abc import Iterable, Mapping, Sequence
from datetime import date, datetime, timedelta
from types import MappingProxyType
from uuid import UUID

from care.bench.progress import ahead
from care.bench.steps import Sheet, Step, StepEffect, StepKind, danger_in, gate_of
from care.book import load_book
from care.content import Tool
from care.kinds import Archetype
from care.parts import Slot
from care.rules import Rule
from care.vocabulary import Action
from server.base.schema import Schema
from server.bench.ending import Change, Ending
from server.bench.models import Sheet as Row
from server.bench.records import thaw
from server.bench.sheets import OnSheet, SheetState
from server.due.dangers import ActiveDanger, dangers_beside, dangers_of
from server.due.schemas import ItemOut, StateOut, item_out, state_out
from server.due.strip_schemas import DangerOut, danger_out
from server.household.services import pace_of

NO_DANGERS: Mapping[UUID, Sequence[ActiveDanger]] = MappingProxyType({})


class ExtraSaidOut(Schema):
    """Something that may be done besides while it lies open."""

    machine_id: UUID
    machine_name: str
    slot: str
    slot_name: str
    action: Action
    why: str
    minutes: float


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


class BesideOut(Schema):
    """A danger at a dock or robot that belongs to a machine of the sheet and is not on it."""

    machine: str
    danger: DangerOut


class ToolOut(Schema):
    """A tool the sheet takes, or what the household has in its place; `mind` is how to keep it, or what it risks.

    `lacking`: the household said it has neither; `instead` is then, and where nobody told, what serves as well.
    """

    name: str
    mind: str
    instead: list[str]
    lacking: bool


class SheetMachineOut(Schema):
    """A machine that a sheet is for; `empties_robot`: a dock that must not empty its robot without its parts;
    `pulls`: no dock, and so felt at the floor.

    `dangers` are why it is out of use, told on this sheet or elsewhere.
    """

    id: UUID
    name: str
    empties_robot: bool
    pulls: bool
    pull_before: int | None
    pull_after: int | None
    dangers: list[DangerOut] = []


class SheetOut(Schema):
    """A sheet and where it stands: all its steps in order, and which are `answered`, in the order of the answers.

    `current` is None when all that apply are answered. `taken` are
    the ids of the answers the server has; `late` counts those that are only kept as notes. `case_id` is the search for
    a fault that it puts right. It is `practised` where each of its parts was done at the bench twice.
    """

    id: UUID
    case_id: UUID | None = None
    status: str
    sitting: str
    machines: list[SheetMachineOut]
    beside: list[BesideOut]
    minutes: float
    tools: list[ToolOut]
    steps: list[StepOut]
    answered: list[str]
    taken: list[UUID]
    current: str | None
    late: int
    may_drop: bool
    practised: bool
    extras: list[ExtraSaidOut]


class ChangeOut(Schema):
    """What a sitting changed."""

    machine_id: UUID
    machine_name: str
    slot_name: str
    now_in: str | None
    before: StateOut | None
    after: StateOut


class EndingOut(Schema):
    """A finished sitting."""

    today: date
    sheet: SheetOut
    changes: list[ChangeOut]
    on_rack: list[ItemOut]


class OpenSheetOut(Schema):
    """An open sheet in one line."""

    id: UUID
    machines: list[SheetMachineOut]
    sitting: str
    answered: int
    steps: int


class EndedSheetOut(Schema):
    """A finished sheet in one line: how long it took from its making [min], and its parts."""

    id: UUID
    machines: list[str]
    ended_at: datetime
    took_min: float
    by: str
    parts: list[str]


def ended_sheet_out(row: Row) -> EndedSheetOut:
    """A finished sheet in one line."""
    assert row.ended_at is not None
    steps = thaw(row).sheet.steps
    return EndedSheetOut(
        id=row.pk,
        machines=[machine.name for machine in row.machines.all()],
        ended_at=row.ended_at,
        took_min=(row.ended_at - row.made_at) / timedelta(minutes=1),
        by=row.made_by.name if row.made_by else "",
        parts=list(dict.fromkeys(step.item_name for step in steps if step.slot and step.item_name)),
    )


def _step_out(step: Step, state: SheetState) -> StepOut:
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


def tools_out(sheet: Sheet) -> list[ToolOut]:
    """The tools a sheet takes, in the order in which they are needed."""
    tools = load_book().tools
    return [_tool_out(tools[key], sheet) for key in sheet.tools if key in tools]


def _tool_out(tool: Tool, sheet: Sheet) -> ToolOut:
    taken = sheet.substitutes.get(tool.key)
    has = next((one for one in tool.instead if one.key == taken), tool)
    more = [one.name for one in tool.instead] if has is tool else []
    return ToolOut(name=has.name, mind=has.mind, instead=more, lacking=tool.key in sheet.lacking)


def _machines_out(
    state: SheetState, dangers: Mapping[UUID, Sequence[ActiveDanger]] = NO_DANGERS
) -> list[SheetMachineOut]:
    return [
        SheetMachineOut(
            id=machine_id,
            name=on.name,
            empties_robot=on.archetype.empties_robot,
            pulls=not on.archetype.serves,
            pull_before=state.pulls.get((machine_id, "before")),
            pull_after=state.pulls.get((machine_id, "after")),
            dangers=[danger_out(one) for one in dangers.get(machine_id, ())],
        )
        for machine_id, on in state.machines.items()
    ]


def sheet_out(state: SheetState, besides: Iterable[tuple[UUID, Slot, Rule]] = ()) -> SheetOut:
    """A sheet as the API gives it, with what may be done `besides` where it stands."""
    dangers = dangers_of(state.row.household_id, state.machines)
    beside = dangers_beside(state.row.household_id, state.machines)
    pace, _ = pace_of(state.row.household_id)
    return SheetOut(
        id=state.row.pk,
        case_id=state.row.case_id,
        status=state.row.status,
        sitting=state.sheet.sitting,
        machines=_machines_out(state, dangers),
        beside=[BesideOut(machine=name, danger=danger_out(one)) for name, one in beside],
        minutes=state.sheet.minutes * pace,
        tools=tools_out(state.sheet),
        steps=[_step_out(step, state) for step in state.sheet.steps],
        answered=list(state.progress.answers),
        taken=state.taken,
        late=state.late,
        current=state.progress.current.key if state.progress.current else None,
        may_drop=state.may_drop,
        practised=state.practised,
        extras=[
            ExtraSaidOut(
                machine_id=machine_id,
                machine_name=state.machines[machine_id].name,
                slot=slot.key,
                slot_name=slot.name,
                action=rule.action,
                why=rule.reason,
                minutes=rule.card.effort_min * pace,
            )
            for machine_id, slot, rule in besides
        ],
    )


def open_sheet_out(state: SheetState) -> OpenSheetOut:
    """An open sheet in one line."""
    return OpenSheetOut(
        id=state.row.pk,
        machines=_machines_out(state),
        sitting=state.sheet.sitting,
        answered=len(state.progress.answers),
        steps=len(ahead(state.sheet, state.progress)),
    )


def _change_out(change: Change, on: OnSheet, pace: float) -> ChangeOut:
    return ChangeOut(
        machine_id=change.machine_id,
        machine_name=on.name,
        slot_name=on.archetype.slot(change.slot).name,
        now_in=change.now_in,
        before=state_out(change.before, on.archetype, pace) if change.before else None,
        after=state_out(change.after, on.archetype, pace),
    )


def ending_out(ending: Ending, today: date) -> EndingOut:
    """A finished sitting as the API gives it."""
    pace, _ = pace_of(ending.sheet.row.household_id)
    changes = [_change_out(change, ending.sheet.machines[change.machine_id], pace) for change in ending.changes]
    return EndingOut(
        today=today, sheet=sheet_out(ending.sheet), changes=changes, on_rack=[item_out(i) for i in ending.on_rack]
    )
