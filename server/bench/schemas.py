"""What the API takes and gives at the bench."""

from collections.abc import Iterable, Mapping, Sequence
from types import MappingProxyType
from uuid import UUID

from care.bench.progress import ahead
from care.bench.steps import Sheet
from care.book import load_book
from care.content import Tool
from care.parts import Slot
from care.rules import Rule
from care.vocabulary import Action
from server.base.schema import Schema
from server.bench.sheets import SheetState
from server.bench.step_schemas import StepOut, step_out
from server.due.dangers import ActiveDanger, dangers_beside, dangers_of
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


class OpenSheetOut(Schema):
    """An open sheet in one line."""

    id: UUID
    machines: list[SheetMachineOut]
    sitting: str
    answered: int
    steps: int


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
        steps=[step_out(step, state) for step in state.sheet.steps],
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
