"""What the API takes and gives at the bench."""

from datetime import date, datetime
from uuid import UUID

from ninja import Schema

from care.bench.drying import Hanging
from care.bench.progress import ahead
from care.bench.sheets import Effect, Step, StepKind
from care.book import load_book
from care.kinds import Action
from server.bench.services import Ending, SheetState
from server.machines.schemas import ItemOut, StateOut, item_out, state_out


class PickIn(Schema):
    """A task for a sheet."""

    slot: str
    action: Action


class SheetIn(Schema):
    """A sheet to open; the id is the client's."""

    id: UUID
    machine_id: UUID
    tasks: list[PickIn]


class RefitIn(Schema):
    """A refit sitting for a part from the rack."""

    id: UUID
    item_id: UUID


class HangingIn(Schema):
    """Where a washed part hangs."""

    place: str | None = None
    pressed: bool = False
    moving: bool = False

    def hanging(self) -> Hanging:
        """As the core has it."""
        return Hanging(self.place, self.pressed, self.moving)


class AnswerIn(Schema):
    """An answer to a step, or `back`; what goes on the rack may say where it hangs."""

    id: UUID
    step: str
    value: str
    reason: str = ""
    hanging: HangingIn | None = None


class CautionOut(Schema):
    """A caution to show before the step."""

    key: str
    text: str
    gate: bool


class StepOut(Schema):
    """A step of a sheet, with its answer if it has one."""

    key: str
    kind: StepKind
    effect: Effect
    text: list[str]
    slot: str | None
    slot_name: str | None
    action: Action | None
    item_id: UUID | None
    item_name: str | None
    opening_name: str | None
    cautions: list[CautionOut]
    answers: list[str]
    found_words: dict[str, str] | None
    floor_h: float
    answer: str | None
    reason: str


class ToolOut(Schema):
    """A tool the sheet takes, with what serves as well; `lacking`: the household said it has none."""

    name: str
    instead: list[str]
    lacking: bool


class SheetOut(Schema):
    """A sheet and where it stands: the steps that apply so far, in order; `current` is None when all are answered."""

    id: UUID
    status: str
    sitting: str
    machine_id: UUID
    machine_name: str
    minutes: float
    tools: list[ToolOut]
    steps: list[StepOut]
    current: str | None
    may_drop: bool
    made_at: datetime
    ended_at: datetime | None


class ChangeOut(Schema):
    """What a sitting changed."""

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
    machine_id: UUID
    machine_name: str
    sitting: str
    answered: int
    steps: int


def _step_out(step: Step, state: SheetState) -> StepOut:
    book = load_book()
    names = {slot.key: slot.name for slot in state.archetype.slots}
    answer = state.progress.answers.get(step.key)
    cautions = [book.cautions[key] for key in step.cautions if not book.cautions[key].gate]
    return StepOut(
        key=step.key,
        kind=step.kind,
        effect=step.effect,
        text=list(step.text),
        slot=step.slot,
        slot_name=names.get(step.slot, step.slot) if step.slot else None,
        action=step.action,
        item_id=step.item_id,
        item_name=step.item_name,
        opening_name=state.archetype.opening(step.opening).name if step.opening else None,
        cautions=[CautionOut(key=c.key, text=c.text, gate=c.gate) for c in cautions],
        answers=list(step.answers),
        found_words=dict(step.found_words) if step.found_words else None,
        floor_h=step.floor_h,
        answer=answer.value if answer else None,
        reason=answer.reason if answer else "",
    )


def sheet_out(state: SheetState) -> SheetOut:
    """A sheet as the API gives it."""
    tools = load_book().tools
    return SheetOut(
        id=state.row.pk,
        status=state.row.status,
        sitting=state.sheet.sitting,
        machine_id=state.row.machine_id,
        machine_name=state.machine_name,
        minutes=state.sheet.minutes,
        tools=[
            ToolOut(name=tools[key].name, instead=list(tools[key].instead), lacking=key in state.sheet.lacking)
            for key in state.sheet.tools
            if key in tools
        ],
        steps=[_step_out(step, state) for step in ahead(state.sheet, state.progress)],
        current=state.progress.current.key if state.progress.current else None,
        may_drop=state.may_drop,
        made_at=state.row.made_at,
        ended_at=state.row.ended_at,
    )


def open_sheet_out(state: SheetState) -> OpenSheetOut:
    """An open sheet in one line."""
    return OpenSheetOut(
        id=state.row.pk,
        machine_id=state.row.machine_id,
        machine_name=state.machine_name,
        sitting=state.sheet.sitting,
        answered=len(state.progress.answers),
        steps=len(ahead(state.sheet, state.progress)),
    )


def ending_out(ending: Ending, today: date) -> EndingOut:
    """A finished sitting as the API gives it."""
    archetype = ending.sheet.archetype
    changes = [
        ChangeOut(
            slot_name=archetype.slot(change.slot).name,
            now_in=change.now_in,
            before=state_out(change.before, archetype) if change.before else None,
            after=state_out(change.after, archetype),
        )
        for change in ending.changes
    ]
    return EndingOut(
        today=today, sheet=sheet_out(ending.sheet), changes=changes, on_rack=[item_out(i) for i in ending.on_rack]
    )
