"""How the machines of a household stand now: rows loaded once, the core's due states for all of them."""

from collections import defaultdict
from collections.abc import Hashable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime, tzinfo
from uuid import UUID

from django.db.models import QuerySet

from care import items as core_items
from care import model as core
from care.bench.rotation import next_in_turn
from care.due import Context, Facts, UsageLog, assess_machine
from care.due.agenda import Task
from care.due.assumed import Plan, assumed_runs, week_since, with_returns
from care.due.schedule import Schedule
from care.due.usage import NOT_SET, AtDock
from care.due_state import DueState
from care.household import AtTheBench
from care.vocabulary import Action, Mishap
from server.base import clock
from server.due.dangers import ActiveDanger, days_out_of_use, spans_of, standing_of
from server.due.duties import Duties, duties_of
from server.due.on_record import by_machine, on_record
from server.household.models import Member
from server.household.services import Answers, answers_at, pace_of, zone_of
from server.logbook.memo import keep, marks, recalled
from server.logbook.services import standing
from server.machines import records
from server.machines.containers import Size, fillings_told, sizes_of
from server.machines.models import (
    Machine,
    MishapRecord,
    Rest,
    Run,
    ScheduleVersion,
)


@dataclass(frozen=True, slots=True)
class MachineState:
    """One machine with its parts, its runs (assumed ones among them) and its due states."""

    machine: core.Machine
    items: Mapping[UUID, core_items.Item]
    homes: Mapping[UUID, str]
    fittings: Sequence[core_items.Fitting]
    schedule: Schedule | None
    runs: list[core.Run]
    context: Context
    due: list[DueState]
    robot: UUID | None = None
    duties: Duties = field(default_factory=Duties)
    home: AtTheBench = field(default_factory=AtTheBench)
    dock: AtDock = NOT_SET
    """What a robot and its dock are set to."""
    area_m2: float | None = None
    """The floor that the household vacuums, where it told [m2]."""
    emptied_at_home: bool = False
    """Whether it has a dock that empties it."""
    dangers: Sequence[ActiveDanger] = ()
    """What puts it out of use, until somebody records that it is over."""
    facts: Facts = field(default_factory=lambda: Facts({}, fittings=(), services=()))
    sizes: Mapping[str, Size] = field(default_factory=dict)
    """What was told of the sizes of its bags and bins, by slot."""

    @property
    def tasks(self) -> list[Task]:
        """The due states as tasks of this machine; none while a danger stands: nobody works on it."""
        if self.dangers:
            return []
        return [
            Task(
                self.machine.id,
                self.machine.archetype,
                state,
                self.duties.put_off(state.slot, state.action, self.context.today),
                self.duties.taken(state.slot, state.action),
            )
            for state in self.due
        ]

    @property
    def on_rack(self) -> list[tuple[str, core_items.Item]]:
        """Parts of this machine that were washed and are not fitted: (slot they are meant for, item)."""
        wet = (core_items.State.WASHED, core_items.State.DRYING)
        return [(self.homes[item.id], item) for item in self.items.values() if item.state in wet]

    def spare(self, slot: str) -> core_items.Item | None:
        """The dry part meant for `slot` that goes in next."""
        return next_in_turn(item for item in self.items.values() if self.homes[item.id] == slot)

    def usual_minutes(self) -> float:
        """What a tap on "It ran" fills in: the usual week's minutes, else the last run's, else the kind's [min]."""
        if self.schedule is not None:
            return self.schedule.run_min
        return round(self.runs[-1].run_s / 60) if self.runs else self.machine.archetype.usual_run_min


def machine_states(
    member: Member, machine_id: UUID | None = None, *, only: Iterable[UUID] | None = None
) -> list[MachineState]:
    """All machines the household uses (or one, or `only` some, of any status), by name, with their due states."""
    household_id = member.household_id
    wanted = Machine.objects.of(household_id).order_by("name")
    if machine_id is not None or only is not None:
        wanted = wanted.filter(pk__in=[machine_id] if only is None else list(only))
    else:
        wanted = wanted.filter(status=Machine.Status.IN_USE)
    machines = list(wanted)
    keys = _keys(member, machines)
    kept = {row.pk: recalled(("state", row.pk)) for row in machines}
    known: dict[UUID, MachineState] = {pk: one[1] for pk, one in kept.items() if one and one[0] == keys[pk]}
    if missing := [row for row in machines if row.pk not in known]:
        zone, answers = zone_of(member), answers_at(household_id, clock.now())
        loaded = _Rows(household_id, missing, zone)
        for row in missing:
            known[row.pk] = _state(row, loaded, answers, zone)
            keep(("state", row.pk), (keys[row.pk], known[row.pk]))
    return [known[row.pk] for row in machines]


def _keys(member: Member, machines: Sequence[Machine]) -> dict[UUID, Hashable]:
    """What the state of each machine follows from: the minute, the latest records about it, its links and the house."""
    latest, minute = marks(member.household_id), clock.minute()
    pace = pace_of(member.household_id)[0]
    links = Machine.objects.of(member.household_id).filter(serves__in=machines, status=Machine.Status.IN_USE)
    docks: dict[UUID, list[UUID]] = defaultdict(list)
    for dock, robot in links.order_by("pk").values_list("pk", "serves_id"):
        docks[robot].append(dock)
    return {
        row.pk: (
            minute,
            member.household.time_zone,
            pace,
            *((of, latest.get(of)) for of in (member.household_id, row.pk, row.serves_id, *docks[row.pk]) if of),
        )
        for row in machines
    }


def _state(row: Machine, loaded: "_Rows", answers: Answers, zone: tzinfo) -> MachineState:
    now = clock.now()
    of = loaded.on_record[row.pk]
    machine = records.to_machine(row, of.fittings, loaded.docks[row.pk])
    source = row.serves_id or row.pk
    real = loaded.runs[source]
    rests = [*with_returns(loaded.rests[None]), *with_returns(loaded.rests[source])]
    rests += loaded.out_of_use.get(source, ())
    plans = loaded.plans[source]
    today = now.astimezone(zone).date()
    runs = sorted([*real, *assumed_runs(plans, real, rests, today=today, zone=zone)], key=lambda run: run.counts_at)
    bins = set(machine.archetype.bins)
    usage = UsageLog(
        runs,
        emptied=[s.at for s in of.services if s.action is Action.EMPTY and s.slot in bins],
        minutes_per_charge=machine.archetype.minutes_per_charge,
    )
    schedule = plans[-1].schedule if plans else None
    mishaps = loaded.mishaps[source]
    context = Context(
        usage, schedule, answers.loads, answers.school, now, zone, rests, mishaps, week_since(plans),
        told=fillings_told(of.sizes, plans, usage, answers.loads, zone),
    )  # fmt: skip
    due = assess_machine(machine, of.facts, context)
    duties = duties_of(of.waits, of.claims, of.services)
    return MachineState(
        machine, of.facts.items, of.homes, of.fittings, schedule, runs, context, due, row.serves_id, duties,
        answers.at_the_bench,
        dock=loaded.at_dock.get(row.pk, AtDock()),
        area_m2=answers.profile.area_m2 if answers.profile else None,
        emptied_at_home=any(records.archetype_of(dock).empties_robot for dock in loaded.docks[row.pk]),
        dangers=loaded.dangers.get(row.pk, ()),
        facts=of.facts, sizes=sizes_of(of.sizes),
    )  # fmt: skip


def runs_that_count(household_id: UUID, machine_ids: Sequence[UUID]) -> QuerySet[Run]:
    """The runs of machines without those that a measured run stands in for; one that was undone stands in for none."""
    rows: QuerySet[Run] = Run.objects.of(household_id).filter(machine__in=machine_ids)
    return rows.exclude(pk__in=standing(rows.exclude(supersedes=None)).order_by().values("supersedes"))


class _Rows:
    """Everything the due engine needs of some machines, in a dozen queries however many they are."""

    def __init__(self, household_id: UUID, machines: Sequence[Machine], zone: tzinfo) -> None:
        ids = [machine.pk for machine in machines]
        self.docks: dict[UUID, list[Machine]] = defaultdict(list)
        for dock in Machine.objects.of(household_id).filter(serves__in=ids, status=Machine.Status.IN_USE):
            self.docks[dock.serves_id].append(dock)
        run_by = [*ids, *(m.serves_id for m in machines if m.serves_id)]
        dangers = spans_of(household_id, run_by)
        self.dangers, self.out_of_use = standing_of(dangers), days_out_of_use(dangers, zone)
        self.on_record = on_record(household_id, ids)
        # A dock counts what its robot ran, so the robot's use is loaded for it.
        self._load_use(household_id, run_by, zone)

    def _load_use(self, household_id: UUID, ids: Sequence[UUID], zone: tzinfo) -> None:
        self.plans: dict[UUID, list[Plan]] = defaultdict(list)
        self.at_dock: dict[UUID, AtDock] = {}
        for version in standing(ScheduleVersion.objects.of(household_id).filter(machine__in=ids)):
            self.plans[version.machine_id].append(records.to_plan(version, zone))
            self.at_dock[version.machine_id] = records.to_dock(version)
        self.runs = by_machine(
            runs_that_count(household_id, ids),
            records.RUN,
            lambda pk, row: records.to_run(row, self.at_dock.get(pk, AtDock()), zone),
        )
        self.mishaps: dict[UUID, list[tuple[datetime, Mishap]]] = defaultdict(list)
        for record in standing(MishapRecord.objects.of(household_id).filter(machine__in=ids)):
            self.mishaps[record.machine_id].append((record.entry.happened_at, Mishap(record.kind)))
        self.rests: dict[UUID | None, list[core.Rest]] = defaultdict(list)
        for rest in standing(Rest.objects.of(household_id)):
            self.rests[rest.machine_id].append(records.to_rest(rest))
