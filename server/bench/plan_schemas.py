"""What the API gives of a sitting that is only planned."""

from datetime import datetime
from uuid import UUID

from care.vocabulary import Action
from server.base import bounds
from server.base.schema import Schema
from server.bench.answer_schemas import PickIn
from server.bench.plan import Dries, Plan, PlannedMachine, PlannedPart
from server.bench.schemas import ToolOut, tools_out


class PlanIn(Schema):
    """The tasks of a sitting."""

    tasks: bounds.Many[PickIn]


class DriesOut(Schema):
    """A part that will dry: as what, where it is taken to hang, until when; `stops`: the machine rests that long, and
    `misses` these runs.
    """

    name: str
    place: str | None
    ready_at: datetime
    spare: str | None
    stops: bool
    misses: list[datetime]


class ChoiceOut(Schema):
    """A depth, and what is done then."""

    depth: str
    actions: list[Action]


class PlannedPartOut(Schema):
    """A part of the sitting."""

    slot: str
    slot_name: str
    actions: list[Action]
    depth: str | None
    choices: list[ChoiceOut]
    minutes: float
    may_wait: bool
    dries: DriesOut | None


class PlannedMachineOut(Schema):
    """A machine of the sitting."""

    machine_id: UUID
    name: str
    minutes: float
    parts: list[PlannedPartOut]


class PlanOut(Schema):
    """A sitting as it would be."""

    minutes: float
    steps: int
    tools: list[ToolOut]
    machines: list[PlannedMachineOut]
    longest: DriesOut | None


def _dries_out(dries: Dries | None) -> DriesOut | None:
    if dries is None:
        return None
    return DriesOut(
        name=dries.drying.name,
        place=dries.place,
        ready_at=dries.ready_at,
        spare=dries.spare.name if dries.spare else None,
        stops=dries.stops,
        misses=list(dries.misses),
    )


def _part_out(part: PlannedPart) -> PlannedPartOut:
    return PlannedPartOut(
        slot=part.slot.key,
        slot_name=part.slot.name,
        actions=list(part.actions),
        depth=part.depth.name.lower() if part.depth else None,
        choices=[ChoiceOut(depth=c.depth.name.lower(), actions=list(c.actions)) for c in part.choices],
        minutes=part.minutes,
        may_wait=part.may_wait,
        dries=_dries_out(part.dries),
    )


def _machine_out(machine: PlannedMachine) -> PlannedMachineOut:
    return PlannedMachineOut(
        machine_id=machine.machine_id,
        name=machine.name,
        minutes=machine.minutes,
        parts=[_part_out(part) for part in machine.parts],
    )


def plan_out(plan: Plan) -> PlanOut:
    """A planned sitting as the API gives it."""
    return PlanOut(
        minutes=plan.minutes,
        steps=len(plan.sheet.steps),
        tools=tools_out(plan.sheet),
        machines=[_machine_out(machine) for machine in plan.machines],
        longest=_dries_out(plan.longest),
    )
