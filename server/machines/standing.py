"""What Round shows of each machine, stored with the revisions it was made from and made anew only where these moved."""

import json
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from django.db import transaction

from care.book import load_book
from care.due import agenda
from care.due.agenda import Task
from server.household.models import Member
from server.household.services import today_of
from server.logbook.services import revisions
from server.machines.models import Machine, Standing
from server.machines.renewals import Renewing, from_stored, renewals_of
from server.machines.schemas import TaskOut, strip_out, task_out
from server.machines.state import MachineState, machine_states

AT_ONCE = 8
"""How many machines are computed at once."""
COMING_KEPT = 6
"""How many tasks to come are kept of each machine: as many as Round shows of all."""
KEPT = ("machine_id", "day", "revision", "minutes", "strip", "tasks", "ranks", "renewals")


@dataclass(frozen=True, slots=True)
class Stand:
    """A machine on the board.

    `minutes` is its due work [min], `strip` and `tasks` are JSON as the API gives it, `due` and `coming` the ranks of
    its tasks: the smaller goes first; `waiting` counts those put off. `renewals` are its places that are renewed.
    """

    machine_id: UUID
    minutes: float
    strip: str
    tasks: str
    due: Sequence[Sequence[float]]
    coming: Sequence[Sequence[Any]]
    waiting: int = 0
    renewals: Sequence[dict[str, Any]] = ()

    @property
    def put_off(self) -> list[dict[str, Any]]:
        """The tasks that somebody put off."""
        listed: list[dict[str, Any]] = json.loads(self.tasks)["put_off"] if self.waiting else []
        return listed

    def task(self, kind: str, n: int) -> dict[str, Any]:
        """The `n`-th task that is "due" or "coming"."""
        one: dict[str, Any] = json.loads(self.tasks)[kind][n]
        return one


def stands(member: Member, known: Sequence[MachineState] = ()) -> list[Stand]:
    """All machines of the household by name, as they stand today; `known` states need not be computed again."""
    household_id, today = member.household_id, today_of(member)
    in_use = Machine.objects.of(household_id).filter(status=Machine.Status.IN_USE)
    machines = list(in_use.order_by("name").values_list("pk", "serves_id"))
    wanted = _wanted(household_id, machines)
    kept: dict[UUID, Stand] = {}
    for pk, day, revision, minutes, strip, tasks, ranks, renewals in Standing.objects.of(household_id).values_list(
        *KEPT
    ):
        if day == today and wanted.get(pk) == revision:
            kept[pk] = Stand(pk, minutes, strip, tasks, **ranks, renewals=renewals)
    if stale := [pk for pk in wanted if pk not in kept]:
        kept |= _renew(member, stale, wanted, {state.machine.id: state for state in known})
    return [kept[pk] for pk, _ in machines]


def renewing(member: Member) -> list[Renewing]:
    """The places of all machines whose parts are renewed, machines by name."""
    return [from_stored(one) for stand in stands(member) for one in stand.renewals]


def _wanted(household_id: UUID, machines: Iterable[tuple[UUID, UUID | None]]) -> dict[UUID, str]:
    """What each machine's row has to be made from: the book, and the revisions of the house, the machine, its links."""
    numbers, digest = revisions(household_id), load_book().digest
    linked: dict[UUID, list[UUID]] = {}
    for dock, robot in machines:
        if robot is not None:
            linked.setdefault(dock, []).append(robot)
            linked.setdefault(robot, []).append(dock)
    return {
        pk: ".".join([digest, *(str(numbers.get(of, 0)) for of in (household_id, pk, *sorted(linked.get(pk, []))))])
        for pk, _ in machines
    }


@transaction.atomic
def _renew(
    member: Member, stale: list[UUID], wanted: dict[UUID, str], known: dict[UUID, MachineState]
) -> dict[UUID, Stand]:
    """Make and store the stale rows, a few machines at a time: the futures of one take some megabytes."""
    made: dict[UUID, Stand] = {}
    for i in range(0, len(stale), AT_ONCE):
        some = stale[i : i + AT_ONCE]
        missing = [pk for pk in some if pk not in known]
        states = [known[pk] for pk in some if pk in known]
        states += machine_states(member, only=missing) if missing else []
        made |= {state.machine.id: stand(state) for state in states}
    today = today_of(member)
    Standing.everything.bulk_create(
        [
            Standing(
                machine_id=pk,
                household_id=member.household_id,
                day=today,
                revision=wanted[pk],
                minutes=one.minutes,
                strip=one.strip,
                tasks=one.tasks,
                ranks={"due": one.due, "coming": one.coming, "waiting": one.waiting},
                renewals=list(one.renewals),
            )
            for pk, one in made.items()
        ],
        update_conflicts=True,
        unique_fields=["machine"],
        update_fields=KEPT[1:],
    )
    return made


def stand(state: MachineState) -> Stand:
    """How a machine stands on the board."""
    work = agenda(state.tasks)
    coming = work.coming[:COMING_KEPT]
    listed = {"due": work.due, "coming": coming, "put_off": work.put_off}
    return Stand(
        machine_id=state.machine.id,
        minutes=work.minutes,
        strip=strip_out(state).model_dump_json(),
        tasks=json.dumps({kind: _told(tasks, state) for kind, tasks in listed.items()}),
        due=[[int(task.state.stake), -task.state.share] for task in work.due],
        coming=[[str(task.state.due_on), int(task.state.stake)] for task in coming],
        waiting=len(work.put_off),
        renewals=renewals_of(state),
    )


def _told(tasks: Iterable[Task], state: MachineState) -> list[dict[str, Any]]:
    made: list[TaskOut] = [task_out(task, state) for task in tasks]
    return [one.model_dump(mode="json") for one in made]
