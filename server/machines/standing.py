"""What Round shows of each machine, stored with the revisions it was made from and made anew only where these moved."""

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from django.db import transaction

from care.due import agenda
from server.household.models import Member
from server.household.services import today_of
from server.logbook.services import revisions
from server.machines.models import Machine, Standing
from server.machines.schemas import strip_out, task_out
from server.machines.state import MachineState, machine_states

COMING_KEPT = 6
"""How many tasks to come are kept of each machine: as many as Round shows of all."""


@dataclass(frozen=True, slots=True)
class Stand:
    """A machine on the board: its strip, its minutes of due work [min], tasks due and coming, as the API gives them."""

    machine_id: UUID
    strip: dict[str, Any]
    minutes: float
    due: list[dict[str, Any]]
    coming: list[dict[str, Any]]


def stands(member: Member) -> list[Stand]:
    """All machines of the household by name, as they stand today."""
    household_id, today = member.household_id, today_of(member)
    machines = list(Machine.objects.of(household_id).order_by("name").values_list("pk", "serves_id"))
    wanted = _wanted(household_id, machines)
    kept = {row.pk: row for row in Standing.objects.of(household_id)}
    stale = [pk for pk, revision in wanted.items() if not _holds(kept.get(pk), revision, today)]
    if stale:
        kept |= _renew(member, stale, wanted)
    return [Stand(pk, **kept[pk].document) for pk, _ in machines]


def _wanted(household_id: UUID, machines: Iterable[tuple[UUID, UUID | None]]) -> dict[UUID, str]:
    """The revision that each machine's row has to be made from: its own, the house's, its robot's or its docks'."""
    numbers = revisions(household_id)
    linked: dict[UUID, list[UUID]] = {}
    for dock, robot in machines:
        if robot is not None:
            linked.setdefault(dock, []).append(robot)
            linked.setdefault(robot, []).append(dock)
    return {
        pk: ".".join(str(numbers.get(of, 0)) for of in (household_id, pk, *sorted(linked.get(pk, []))))
        for pk, _ in machines
    }


def _holds(row: Standing | None, revision: str, today: object) -> bool:
    return row is not None and row.day == today and row.revision == revision


@transaction.atomic
def _renew(member: Member, stale: list[UUID], wanted: dict[UUID, str]) -> dict[UUID, Standing]:
    rows = [
        Standing(
            machine_id=state.machine.id,
            household_id=member.household_id,
            day=state.context.today,
            revision=wanted[state.machine.id],
            document=document(state),
        )
        for state in machine_states(member, only=stale)
    ]
    Standing.everything.bulk_create(
        rows,
        update_conflicts=True,
        unique_fields=["machine"],
        update_fields=["day", "revision", "document"],
    )
    return {row.pk: row for row in rows}


def document(state: MachineState) -> dict[str, Any]:
    """What is kept of a machine."""
    work = agenda(state.tasks)
    name = state.machine.name
    return {
        "strip": strip_out(state).model_dump(mode="json"),
        "minutes": work.minutes,
        "due": [task_out(task, name).model_dump(mode="json") for task in work.due],
        "coming": [task_out(task, name).model_dump(mode="json") for task in work.coming[:COMING_KEPT]],
    }
