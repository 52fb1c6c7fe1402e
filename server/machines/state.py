"""How the machines of a household stand now: rows loaded once, the core's due states for all of them."""

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime
from uuid import UUID

from care import items as core_items
from care import model as core
from care.due import Context, UsageLog, assess_machine
from care.due.agenda import Task
from care.due.usage import Schedule
from server.config import clock
from server.household.models import Member
from server.household.services import answers_at, zone_of
from server.logbook.services import standing
from server.machines import records
from server.machines.models import Fitting, Inspection, Item, Machine, Run, ScheduleVersion, Service


@dataclass(frozen=True, slots=True)
class MachineState:
    """One machine with its parts, its runs and its due states."""

    machine: core.Machine
    items: dict[UUID, core_items.Item]
    homes: dict[UUID, str]
    fittings: list[core_items.Fitting]
    schedule: Schedule | None
    runs: list[core.Run]
    context: Context
    due: list[core.DueState]

    @property
    def tasks(self) -> list[Task]:
        """The due states as tasks of this machine."""
        return [Task(self.machine.id, self.machine.archetype, state) for state in self.due]

    @property
    def on_rack(self) -> list[tuple[str, core_items.Item]]:
        """Parts of this machine that were washed and are not fitted: (slot they are meant for, item)."""
        wet = (core_items.State.WASHED, core_items.State.DRYING)
        return [(self.homes[item.id], item) for item in self.items.values() if item.state in wet]

    def usual_minutes(self) -> float:
        """What a tap on "It ran" fills in: the usual week's minutes, else the last run's, else the kind's [min]."""
        if self.schedule is not None:
            return self.schedule.run_min
        return round(self.runs[-1].run_s / 60) if self.runs else self.machine.archetype.usual_run_min


def machine_states(member: Member, machine_id: UUID | None = None) -> list[MachineState]:
    """All machines of the member's household (or one), in order of name, with their due states at this moment."""
    household_id = member.household_id
    wanted = Machine.objects.of(household_id).order_by("name")
    machines = list(wanted.filter(pk=machine_id) if machine_id else wanted)
    loaded = _Rows(household_id, machines)
    now, zone = clock.now(), zone_of(member)
    answers = answers_at(household_id, now)
    states = []
    for row in machines:
        fittings = loaded.fittings[row.pk]
        machine = records.to_machine(row, fittings)
        runs = loaded.runs[row.pk]
        schedule = loaded.schedules.get(row.pk)
        context = Context(UsageLog(runs), schedule, answers.load, answers.school, now, zone)
        items = {item.id: item for item in loaded.items[row.pk]}
        due = assess_machine(
            machine,
            items=items,
            fittings=fittings,
            services=loaded.services[row.pk],
            inspections=loaded.inspections[row.pk],
            context=context,
        )
        homes = {item_id: loaded.homes[item_id] for item_id in items}
        states.append(MachineState(machine, items, homes, fittings, schedule, runs, context, due))
    return states


class _Rows:
    """Everything the due engine needs of some machines, in seven queries however many they are."""

    def __init__(self, household_id: UUID, machines: Iterable[Machine]) -> None:
        ids = [machine.pk for machine in machines]
        self.homes: dict[UUID, str] = {}
        self.items: dict[UUID, list[core_items.Item]] = defaultdict(list)
        for item in Item.objects.of(household_id).filter(home_machine__in=ids):
            self.items[item.home_machine_id].append(records.to_item(item))
            self.homes[item.pk] = item.home_slot
        self.fittings: dict[UUID, list[core_items.Fitting]] = defaultdict(list)
        for fitting in Fitting.objects.of(household_id).filter(machine__in=ids):
            self.fittings[fitting.machine_id].append(records.to_fitting(fitting))
        self.services: dict[UUID, list[core.ServiceRecord]] = defaultdict(list)
        for service in standing(Service.objects.of(household_id).filter(machine__in=ids)):
            self.services[service.machine_id].append(records.to_service(service))
        self.inspections: dict[UUID, list[core.Inspection]] = defaultdict(list)
        for look in standing(Inspection.objects.of(household_id).filter(machine__in=ids)):
            self.inspections[look.machine_id].append(records.to_inspection(look))
        self.runs: dict[UUID, list[core.Run]] = defaultdict(list)
        for run in standing(Run.objects.of(household_id).filter(machine__in=ids, superseded_by=None)):
            self.runs[run.machine_id].append(records.to_run(run))
        self.schedules: dict[UUID, Schedule | None] = {}
        for version in standing(ScheduleVersion.objects.of(household_id).filter(machine__in=ids)):
            self.schedules[version.machine_id] = records.to_schedule(version)


@dataclass(frozen=True, slots=True)
class HistoryLine:
    """A line of a machine's history, newest first."""

    entry_id: UUID
    kind: str
    at: datetime
    day: date
    by: str
    slot: str = ""
    item: str = ""
    action: str = ""
    found: str = ""
    minutes: float | None = None
    provenance: str = ""


def history(member: Member, state: MachineState, most: int = 40) -> list[HistoryLine]:
    """What happened to a machine: the latest runs, services and findings that stand (`most` of each), newest first."""
    household_id, machine_id = member.household_id, state.machine.id
    lines: list[HistoryLine] = []
    for run in _latest(Run.objects.of(household_id).filter(machine=machine_id), most):
        lines.append(_line(run, state, minutes=run.run_s / 60, provenance=run.provenance, day=run.day))
    for service in _latest(Service.objects.of(household_id).filter(machine=machine_id), most):
        lines.append(_line(service, state, slot=service.slot, item=service.item.name, action=service.action))
    for saw in _latest(Inspection.objects.of(household_id).filter(machine=machine_id), most):
        lines.append(_line(saw, state, slot=saw.slot, item=saw.item.name, action=saw.about, found=saw.found))
    return sorted(lines, key=lambda line: line.at, reverse=True)


def _latest(rows, most: int):  # type: ignore[no-untyped-def]
    return standing(rows).select_related("entry__by").order_by("-entry__happened_at", "-entry__sequence")[:most]


def _line(row: Run | Service | Inspection, state: MachineState, **more: object) -> HistoryLine:
    entry = row.entry
    values = {"day": state.context.local_day(entry.happened_at), **more}
    return HistoryLine(
        entry_id=entry.pk,
        kind=entry.kind,
        at=entry.happened_at,
        by=entry.by.name if entry.by else "",
        **values,  # type: ignore[arg-type]
    )
