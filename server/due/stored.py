"""What Round shows of each machine, stored with the revisions it was made from and made anew only where these moved."""

import json
import logging
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any
from uuid import UUID

from django.db import DatabaseError, connection, transaction
from pydantic import TypeAdapter

from care.book import load_book
from care.due import agenda
from care.due.agenda import Task
from server.base import build
from server.base.storage import trouble_of
from server.due.atfault import RecordAtFault, record_at_fault
from server.due.renewals import Renewing, from_stored, renewals_of
from server.due.schemas import TaskOut, task_out
from server.due.state import MachineState, machine_states
from server.due.strip_schemas import strip_out
from server.household.models import Member
from server.household.services import pace_of, today_of
from server.logbook.services import revisions
from server.machines.models import Machine, Standing
from server.machines.services import machine_of

log = logging.getLogger(__name__)
AT_ONCE = 8
"""How many machines are computed at once."""
COMING_KEPT = 6
"""How many tasks to come are kept of each machine: as many as Round shows of all."""
KEPT = ("machine_id", "day", "revision", "minutes", "strip", "tasks", "ranks", "renewals", "fault")


@dataclass(frozen=True)
class BoardRow:
    """A machine on the board.

    `minutes` is its due work [min], `small_min` what is spared of it while the small ones wait [min]; `strip` and
    `tasks` are JSON as the API gives it, `due` and `coming` the ranks of its tasks: the smaller goes first; `waiting`
    counts those put off. `renewals` are its places that are renewed.
    """

    machine_id: UUID
    minutes: float
    strip: str
    tasks: str
    due: Sequence[Sequence[float]]
    coming: Sequence[Sequence[Any]]
    waiting: int = 0
    small_min: float = 0.0
    renewals: Sequence[dict[str, Any]] = ()
    fault: dict[str, Any] | None = None
    """Why it could not be worked out, as the API gives it; nothing else is then told of it."""

    @cached_property
    def listed(self) -> dict[str, list[dict[str, Any]]]:
        """The tasks that are "due", "coming" and "put_off"; read from their text once, and only where one is shown."""
        read: dict[str, list[dict[str, Any]]] = json.loads(self.tasks)
        return read

    @property
    def put_off(self) -> list[dict[str, Any]]:
        """The tasks that somebody put off."""
        return self.listed["put_off"] if self.waiting else []


def board_rows(member: Member, known: Sequence[MachineState] = (), *, strict: bool = False) -> list[BoardRow]:
    """All machines of the household by name, as they stand today; `known` states need not be computed again.

    One that cannot be worked out stands with its fault. `strict` raises instead, for what was just recorded would be
    why; a machine that was at fault already keeps its fault.
    """
    household_id, today = member.household_id, today_of(member)
    in_use = Machine.objects.of(household_id).filter(status=Machine.Status.IN_USE)
    machines = list(in_use.order_by("name").values_list("pk", "serves_id"))
    wanted = _wanted(household_id, machines)
    kept: dict[UUID, BoardRow] = {}
    faulty: set[UUID] = set()
    for pk, day, revision, minutes, strip, tasks, ranks, renewals, fault in Standing.objects.of(
        household_id
    ).values_list(*KEPT):
        if fault is not None:
            faulty.add(pk)
        if day == today and wanted.get(pk) == revision:
            kept[pk] = BoardRow(pk, minutes, strip, tasks, **ranks, renewals=renewals, fault=fault)
    if stale := [pk for pk in wanted if pk not in kept]:
        may_fail = faulty if strict else set(stale)
        kept |= _renew(member, stale, wanted, {state.machine.id: state for state in known}, may_fail)
    return [kept[pk] for pk, _ in machines]


def renewing(member: Member) -> list[Renewing]:
    """The places of all machines whose parts are renewed, machines by name."""
    return [from_stored(one) for stand in board_rows(member) for one in stand.renewals]


def _wanted(household_id: UUID, machines: Iterable[tuple[UUID, UUID | None]]) -> dict[UUID, str]:
    """What each machine's row has to be made from: book, build, and the revisions of the house, the machine, its links.

    The build stands for the shape in which a row is told and for the rules it was made by.
    """
    numbers, digest = revisions(household_id), f"{load_book().digest}.{build.code()}.{pace_of(household_id)[0]:g}"
    linked: dict[UUID, list[UUID]] = {}
    for dock, robot in machines:
        if robot is not None:
            linked.setdefault(dock, []).append(robot)
            linked.setdefault(robot, []).append(dock)
    return {
        pk: ".".join([digest, *(str(numbers.get(of, 0)) for of in (household_id, pk, *sorted(linked.get(pk, []))))])
        for pk, _ in machines
    }


def _renew(
    member: Member, stale: list[UUID], wanted: dict[UUID, str], known: dict[UUID, MachineState], may_fail: set[UUID]
) -> dict[UUID, BoardRow]:
    """Make and store the stale rows, a few machines at a time: the futures of one take some megabytes.

    Where the disk takes nothing they are shown all the same, and made again the next time.
    """
    made: dict[UUID, BoardRow] = {}
    for i in range(0, len(stale), AT_ONCE):
        made |= _made(member, stale[i : i + AT_ONCE], known, may_fail)
    try:
        _store(member, made, wanted)
    except DatabaseError as error:
        if connection.in_atomic_block or trouble_of(error) is None:
            raise
        log.warning("what Round shows could not be stored: %s", error)
    return made


def _made(
    member: Member, some: list[UUID], known: dict[UUID, MachineState], may_fail: set[UUID]
) -> dict[UUID, BoardRow]:
    """Some machines as they stand; where one of those that `may_fail` does, each is tried by itself."""
    try:
        missing = [pk for pk in some if pk not in known]
        states = [known[pk] for pk in some if pk in known]
        states += machine_states(member, only=missing) if missing else []
        return {state.machine.id: stand(state) for state in states}
    except Exception:
        if not may_fail.intersection(some):
            raise
    made: dict[UUID, BoardRow] = {}
    for pk in some:
        made[pk] = _one(member, pk, pk in may_fail, [one.fault for one in made.values() if one.fault])
    return made


def _one(member: Member, pk: UUID, may_fail: bool, found: list[dict[str, Any]]) -> BoardRow:
    def work() -> BoardRow:
        [state] = machine_states(member, pk)
        return stand(state)

    try:
        return work()
    except Exception as error:
        if not may_fail:
            raise
        log.exception("machine %s cannot be worked out", pk)
        row = machine_of(member, pk)
        hints = [UUID(one["entry"]["entry_id"]) for one in found if one["entry"]]
        subjects = [pk, *([row.serves_id] if row.serves_id else [])]
        found_at = record_at_fault(member, subjects, work, hints)
        fault = Fault(machine_id=pk, machine_name=row.name, detail=str(error)[:300], entry=found_at)
        return BoardRow(pk, 0.0, "", "{}", [], [], fault=_fault.dump_python(fault, mode="json"))


@transaction.atomic
def _store(member: Member, made: dict[UUID, BoardRow], wanted: dict[UUID, str]) -> None:
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
                ranks={"due": one.due, "coming": one.coming, "waiting": one.waiting, "small_min": one.small_min},
                renewals=list(one.renewals),
                fault=one.fault,
            )
            for pk, one in made.items()
        ],
        update_conflicts=True,
        unique_fields=["machine"],
        update_fields=KEPT[1:],
    )


@dataclass(frozen=True, slots=True)
class Fault:
    """A machine that cannot be worked out, what was said when it was tried, and the record at fault where one is."""

    machine_id: UUID
    machine_name: str
    detail: str
    entry: RecordAtFault | None


_fault: TypeAdapter[Fault] = TypeAdapter(Fault)


def stand(state: MachineState) -> BoardRow:
    """How a machine stands on the board. Raises whatever its records cannot be worked out for."""
    work = agenda(state.tasks)
    coming = work.coming[:COMING_KEPT]
    listed = {"due": work.due, "coming": coming, "put_off": work.put_off}
    renewals = renewals_of(state)
    json.dumps(renewals, allow_nan=False)  # what no figure stands for is a fault of this machine, not of the database
    return BoardRow(
        machine_id=state.machine.id,
        minutes=work.minutes * state.home.pace,
        strip=strip_out(state, work).model_dump_json(),
        tasks=json.dumps({kind: _told(tasks, state) for kind, tasks in listed.items()}),
        due=[[int(task.state.stake), -task.state.share] for task in work.due],
        coming=[[str(task.state.due_on), int(task.state.stake)] for task in coming],
        waiting=len(work.put_off),
        small_min=work.small_min * state.home.pace,
        renewals=renewals,
    )


def _told(tasks: Iterable[Task], state: MachineState) -> list[dict[str, Any]]:
    made: list[TaskOut] = [task_out(task, state) for task in tasks]
    return [one.model_dump(mode="json") for one in made]
