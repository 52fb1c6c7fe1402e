"""Prints what is due and coming, with every reason, as JSON."""

import json
from argparse import ArgumentParser
from typing import Any
from uuid import UUID

from django.core.management.base import BaseCommand, CommandError

from care.due import agenda
from care.due.agenda import Task
from server.due.schemas import task_out
from server.due.state import MachineState, machine_states
from server.household.models import Household, Member
from server.household.services import owner_of


class Command(BaseCommand):
    """`python manage.py due --json [--household NAME] [--machine NAME]`."""

    help = "Print what is due and coming, most at stake first, with every reason, as JSON."

    def add_arguments(self, parser: ArgumentParser) -> None:
        """Which households and machines; JSON is the one format so far."""
        parser.add_argument("--json", action="store_true", required=True, help="print JSON")
        parser.add_argument("--household", help="the name of one household; all if not given")
        parser.add_argument("--machine", help="the name of one machine; all if not given")

    def handle(self, *, household: str | None, machine: str | None, **options: object) -> None:
        """Print one document. Raises `CommandError` when nothing has that name."""
        rows = Household.objects.order_by("name")
        found = [_household(owner_of(row), machine) for row in (rows.filter(name=household) if household else rows)]
        if household and not found:
            raise CommandError(f"There is no household {household!r}. Leave --household out to see all.")
        if machine and not any(one["machines"] for one in found):
            raise CommandError(f"There is no machine {machine!r}. Leave --machine out to see all.")
        self.stdout.write(json.dumps(found, indent=2, ensure_ascii=False))


def _household(member: Member, machine: str | None) -> dict[str, Any]:
    states = [state for state in machine_states(member) if machine in (None, state.machine.name)]
    work = agenda(task for state in states for task in state.tasks)
    by_id = {state.machine.id: state for state in states}
    return {
        "household": member.household.name,
        "minutes_today": work.minutes,
        "machines": [_machine(state) for state in states],
        "due": [_task(task, by_id) for task in work.due],
        "coming": [_task(task, by_id) for task in work.coming],
    }


def _task(task: Task, states: dict[UUID, MachineState]) -> dict[str, Any]:
    return task_out(task, states[task.machine_id], short=False).model_dump(mode="json")


def _machine(state: MachineState) -> dict[str, Any]:
    return {
        "name": state.machine.name,
        "kind": state.machine.archetype.key,
        "out_of_use": list(state.machine.empty_slots),
        "hours_per_week": round(state.context.pace.hours_per_week, 2),
    }
