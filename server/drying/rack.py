"""What is drying now, why so long, and what it keeps from running."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from uuid import UUID

from care.bench.drying import Basis, Stay, best_place, estimate, mildews
from care.bench.rotation import missed_runs, sets_needed
from care.household import DryingPlace
from care.items import Item
from care.parts import Slot
from care.rules import Drying
from care.vocabulary import Action
from server.base import clock
from server.drying.services import WET, Job, drying_of, job_of, places_of, slowness
from server.due.renewals import turns_of
from server.due.state import MachineState, machine_states
from server.household.models import Member
from server.household.services import zone_of
from server.machines import models, records
from server.machines.models import Machine
from server.machines.services import item_of, machine_of


@dataclass(frozen=True, slots=True)
class OnRack:
    """A part on the rack, the machine and slot it belongs to, and whether that slot is empty meanwhile."""

    item: Item
    machine_id: UUID
    machine_name: str
    slot_name: str
    slot_empty: bool


def rack(member: Member) -> list[OnRack]:
    """All washed parts that are not fitted, the one that is ready first at the top."""
    wet = models.Item.objects.of(member.household_id).filter(state__in=WET)
    rows = list(wet.select_related("home_machine"))
    taken = set(
        models.Fitting.objects.of(member.household_id)
        .filter(machine__in=[row.home_machine_id for row in rows], end=None)
        .values_list("machine_id", "slot")
    )
    made = [
        OnRack(
            item=records.to_item(row),
            machine_id=row.home_machine_id,
            machine_name=row.home_machine.name,
            slot_name=records.archetype_of(row.home_machine).slot(row.home_slot).name,
            slot_empty=(row.home_machine_id, row.home_slot) not in taken,
        )
        for row in rows
    ]
    return sorted(made, key=lambda on: (on.item.damp_until is None, on.item.damp_until, on.item.name))


@dataclass(frozen=True, slots=True)
class InPlace:
    """When a part would be ready if it hung in a place from now on; `air` None: nobody told of a place."""

    air: DryingPlace | None
    ready_at: datetime
    mildew: bool


@dataclass(frozen=True, slots=True)
class Sets:
    """How many of a part there are, and how many keep the machine running."""

    have: int
    needed: int


@dataclass(frozen=True, slots=True)
class OnRackNow:
    """A part on the rack with what helps to decide: why so long, where better, what its machine misses meanwhile.

    `runner` is the machine whose runs need it (for a part of a dock, its robot), `missed` are its runs before the part
    is ready, `spare` lies ready to go in, `empties_robot` tells of a dock that must not empty its robot meanwhile,
    `better` is where it would dry clearly sooner.
    """

    on: OnRack
    job: Job
    runner: Machine
    needed: bool
    empties_robot: bool
    missed: list[datetime]
    spare: Item | None
    better: InPlace | None
    sets: Sets | None


def rack_page(member: Member) -> list[OnRackNow]:
    """All that dries now, in the order of `rack`, each with its reasons."""
    listed = rack(member)
    states = {state.machine.id: state for state in machine_states(member, only={on.machine_id for on in listed})}
    rows = models.Item.objects.of(member.household_id).filter(pk__in=[on.item.id for on in listed])
    jobs = {row.pk: job_of(row) for row in rows.select_related("home_machine")}
    places = _known_places(member)
    return [_now(member, on, jobs[on.item.id], states[on.machine_id], places) for on in listed]


def _known_places(member: Member) -> list[tuple[DryingPlace, float]]:
    """The household's drying places, each with how slow it was found."""
    return [(place, slowness(member.household_id, place.name)) for place in places_of(member.household_id)]


def _now(
    member: Member, on: OnRack, job: Job, state: MachineState, places: list[tuple[DryingPlace, float]]
) -> OnRackNow:
    slot = state.machine.archetype.slot(state.homes[on.item.id])
    zone, context = zone_of(member), state.context
    needed = on.slot_empty and slot.needed_to_run
    until = job.estimate.ready_at
    missed = missed_runs(state.schedule, context.rests, now=context.now, until=until, zone=zone) if needed else []
    by_air = job.estimate.basis is Basis.AIR  # else the scale knows better than any air
    better = best_place(job.drying, job.stay, places) if by_air else None
    there = replace(job.stay, since=context.now, air=better, slow=dict(places)[better]) if better else None
    return OnRackNow(
        on=on,
        job=job,
        runner=machine_of(member, state.robot or state.machine.id),
        needed=needed,
        empties_robot=needed and state.machine.archetype.empties_robot,
        missed=missed,
        spare=state.spare(slot.key),
        better=_in_place(job.drying, job.stays, job.estimate.floor_at, there) if there else None,
        sets=_sets(state, slot, job),
    )


def _in_place(drying: Drying, before: Sequence[Stay], floor_at: datetime, there: Stay) -> InPlace:
    """When a part that hung so before would be ready there."""
    made = estimate(drying, [*before, there], floor_at=floor_at)
    return InPlace(there.air, made.ready_at, there.air is not None and mildews(there.air))


def _sets(state: MachineState, slot: Slot, job: Job) -> Sets | None:
    """How many take turns; None where nothing waits for its drying."""
    turns = turns_of(state, slot)
    if turns is None:
        return None
    drying_h = (job.estimate.ready_at - job.washed_at) / timedelta(hours=1)
    return Sets(turns.have, sets_needed(drying_h, turns.wash_every_h, turns.gap_h))


def places_for(
    member: Member, item_id: UUID, *, pressed: bool, moving: bool, action: Action | None = None
) -> list[InPlace]:
    """When a part would be ready in each place from now on: one that dries goes on, any other is taken as just wetted
    by `action`, or by what wets it most.

    Without a place told of: in air of 20 degC and 50 %.
    """
    row, now = item_of(member, item_id), clock.now()
    job = job_of(row) if row.state in WET else None
    drying = job.drying if job else drying_of(row, action)
    before = job.stays if job else ()
    floor_at = job.estimate.floor_at if job else now + timedelta(hours=drying.floor_h)
    known: list[tuple[DryingPlace | None, float]] = [*_known_places(member)]
    return [
        _in_place(drying, before, floor_at, Stay(now, place, pressed, moving, slow))
        for place, slow in known or [(None, 1.0)]
    ]
