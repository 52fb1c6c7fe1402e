"""What a sitting would take, before anything is opened: minutes, tools, how deep, what dries and for how long."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from care.bench import Chosen, Job, Sheet, build
from care.bench.depth import CAN_WAIT, Choice, Depth, choices, depth_of
from care.bench.drying import Hanging, quickest
from care.bench.rotation import missed_runs, stands_still
from care.book import load_book
from care.items import Item
from care.parts import Slot
from care.rules import Drying
from care.vocabulary import Action
from server.base import clock
from server.bench.opening import Pick, jobs_of
from server.drying.services import places_of, ready_at
from server.due.state import MachineState
from server.household.models import Member
from server.household.services import zone_of
from server.machines.services import item_of


@dataclass(frozen=True, slots=True)
class Dries:
    """A part that will be on the rack: where it dries soonest, when it is ready there, what goes in meanwhile.

    Where that `stops` the machine, `misses` are its runs before it is ready: begun after the first, it misses one less.
    """

    drying: Drying
    place: str | None
    ready_at: datetime
    spare: Item | None
    stops: bool
    misses: tuple[datetime, ...] = ()


@dataclass(frozen=True, slots=True)
class PlannedPart:
    """A part of the sitting: what is done to it, how deep that is and may be; `may_wait`: little is at stake."""

    slot: Slot
    actions: tuple[Action, ...]
    depth: Depth | None
    choices: tuple[Choice, ...]
    minutes: float
    may_wait: bool
    dries: Dries | None


@dataclass(frozen=True, slots=True)
class PlannedMachine:
    """A machine of the sitting."""

    machine_id: UUID
    name: str
    minutes: float
    parts: tuple[PlannedPart, ...]


@dataclass(frozen=True, slots=True)
class Plan:
    """A sitting as it would be."""

    sheet: Sheet
    machines: tuple[PlannedMachine, ...]
    pace: float
    """How many times the book's minutes the household takes [-]."""

    @property
    def minutes(self) -> float:
        """How long it will take the household [min]."""
        return self.sheet.minutes * self.pace

    @property
    def longest(self) -> Dries | None:
        """What dries longest."""
        wet = [part.dries for machine in self.machines for part in machine.parts if part.dries]
        return max(wet, key=lambda one: one.ready_at, default=None)


def plan(member: Member, picks: Iterable[Pick]) -> Plan:
    """What a sheet for these tasks would take. Raises as `open_sheet` does, but for sheets that are open."""
    jobs, home, states = jobs_of(member, picks)
    machines = tuple(_machine(member, job, states[job.machine_id]) for job in jobs)
    return Plan(build(jobs, load_book(), home), machines, home.pace)


def _machine(member: Member, job: Job, state: MachineState) -> PlannedMachine:
    by_slot: dict[str, list[Chosen]] = {}
    for task in job.chosen:
        by_slot.setdefault(task.slot, []).append(task)
    return PlannedMachine(
        job.machine_id,
        state.machine.name,
        job.archetype.hands_on_min((t.slot, t.action) for t in job.chosen) * state.home.pace,
        tuple(_part(member, job.archetype.slot(key), tasks, state) for key, tasks in by_slot.items()),
    )


def _part(member: Member, slot: Slot, tasks: list[Chosen], state: MachineState) -> PlannedPart:
    actions = tuple(task.action for task in tasks)
    stakes = [slot.rule(action).stake for action in actions]
    school = slot.school_in(state.context.school)
    return PlannedPart(
        slot,
        actions,
        depth_of(actions),
        choices(slot, state.machine.features, school),
        sum(slot.rule(action).card.effort_min for action in actions) * state.home.pace,
        all(stake in CAN_WAIT for stake in stakes),
        _dries(member, slot, tasks, state),
    )


def _dries(member: Member, slot: Slot, tasks: list[Chosen], state: MachineState) -> Dries | None:
    wet = next((task for task in tasks if slot.drying_of(task.action)), None)
    if wet is None or any(task.action is Action.REPLACE for task in tasks):
        return None
    drying = slot.drying_of(wet.action)
    assert drying is not None
    best = quickest(places_of(member.household_id))
    hanging = Hanging(best.name if best else None)
    ready = ready_at(item_of(member, wet.item.id), wet.action, hanging, clock.now())
    stops = stands_still(slot, drying, has_spare=wet.spare is not None)
    zone, rests = zone_of(member), state.context.rests
    misses = missed_runs(state.schedule, rests, now=clock.now(), until=ready, zone=zone) if stops else []
    return Dries(drying, hanging.place, ready, wet.spare, stops, tuple(misses))
