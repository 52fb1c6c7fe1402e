"""Opening sheets: for picked tasks, for parts from the rack, and what is added to a running one."""

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any
from uuid import UUID, uuid4

from django.db import transaction
from django.dispatch import receiver

from care.bench import Chosen, Job, build, build_refit, with_extra
from care.bench import Sheet as CoreSheet
from care.bench.depth import extras
from care.bench.steps import SITTINGS
from care.book import load_book
from care.errors import IllegalMove, require
from care.household import AtTheBench
from care.items import Item, State
from care.overrides import Aspect, HowFar, habits, key_of
from care.parts import Slot
from care.rules import Rule
from care.vocabulary import Action
from server.base import clock
from server.base.problems import Conflict, NotFound
from server.bench import records
from server.bench.models import Sheet
from server.bench.sheets import SheetState, origin_of, refuse_ended, sheet_state
from server.bench.signals import opening_for_case
from server.due.dangers import refuse_in_danger
from server.due.state import MachineState, machine_states
from server.household.models import Member
from server.household.services import answers_at, require_writer
from server.machines.records import archetype_of
from server.machines.services import fitted_slots, machine_of, machines_of
from server.machines.signals import changing


@dataclass(frozen=True, slots=True)
class Pick:
    """A task somebody picked for a sheet."""

    machine_id: UUID
    slot: str
    action: Action


@transaction.atomic
def open_sheet(*, member: Member, sheet_id: UUID, picks: Iterable[Pick], case_id: UUID | None = None) -> SheetState:
    """A sheet for the picked tasks, of one machine or several. The same `sheet_id` again gives it as it stands.

    `case_id` is the search for a fault that it puts right, if one does.
    Raises `Conflict` when another sheet of one of these machines is open, or a picked slot is empty; `NotFound` for a
    case of others.
    """
    require_writer(member)
    known = Sheet.objects.of(member.household_id).filter(pk=sheet_id).first()
    if known is not None:
        return sheet_state(member, sheet_id)
    jobs, home, _ = jobs_of(member, picks)
    _refuse_open_sheet(member.household_id, [job.machine_id for job in jobs], "machine_id")
    if case_id is not None:
        machines = frozenset(job.machine_id for job in jobs)
        opening_for_case.send(sender=Sheet, member=member, case_id=case_id, machines=machines)
    sheet = build(jobs, load_book(), home)
    chosen = [task for job in jobs for task in job.chosen]
    items = {task.item.id: task.item for task in chosen}
    items |= {other.id: other for task in chosen for other in (task.spare, task.partner) if other}
    items |= {
        t.new_item_id: Item(t.new_item_id, t.item.part, t.item.name, State.READY) for t in chosen if t.new_item_id
    }
    return _save(member, sheet_id, sheet, items, case_id)


def jobs_of(member: Member, picks: Iterable[Pick]) -> tuple[list[Job], AtTheBench, dict[UUID, MachineState]]:
    """The picked tasks by machine with the parts they are about, what a sheet must know of the household, and how the
    machines stand. Raises `NotFound` for a machine of others.
    """
    by_machine: dict[UUID, list[Pick]] = {}
    for pick in picks:
        by_machine.setdefault(pick.machine_id, []).append(pick)
    require(bool(by_machine), "tasks", "none", "at least one task")
    rows = machines_of(member, by_machine)
    refuse_in_danger(member, rows.values(), "tasks")
    states = {state.machine.id: state for state in machine_states(member, only=by_machine)}
    jobs = []
    settings = {pk: row.own for pk, row in rows.items()}
    for machine_id, mine in by_machine.items():
        state = states[machine_id]
        chosen = tuple(_chosen(state, pick) for pick in [*mine, *_habits(state, settings[machine_id], mine)])
        jobs.append(Job(machine_id, state.machine.archetype, chosen, _off(state), state.machine.features))
    return jobs, next(iter(states.values())).home, states


def _habits(state: MachineState, settings: dict[str, Any], picks: list[Pick]) -> list[Pick]:
    """What is done besides in each sitting that lays it open, where these picks do."""
    thorough, kept = settings.get(key_of(Aspect.LEVEL)) == HowFar.THOROUGH, habits(settings)
    named = {(pick.slot, pick.action) for pick in picks}
    return [
        Pick(state.machine.id, slot.key, rule.action)
        for slot, rule in _extras(state, [state.machine.archetype.slot(pick.slot).opening for pick in picks])
        if (slot.key, rule.action) not in named and ((slot.key, rule.action) in kept or (thorough and not rule.is_life))
    ]


def _extras(state: MachineState, opened: Iterable[str | None]) -> list[tuple[Slot, Rule]]:
    """What may be done besides, of the parts that are in."""
    machine = state.machine
    found = extras(machine.archetype, machine.features, state.context.school, opened)
    return [(slot, rule) for slot, rule in found if slot.key in machine.fitted]


def extras_of(member: Member, sheet: SheetState) -> list[tuple[UUID, Slot, Rule]]:
    """What may be done besides where the sheet stands now: what lies open, and is not on it yet."""
    if sheet.row.status != Sheet.Status.OPEN or sheet.sheet.sitting != SITTINGS[0]:
        return []
    there = {(step.machine_id, step.slot, step.action) for step in sheet.sheet.steps}
    school = answers_at(member.household_id, clock.now()).school
    fitted = fitted_slots(member.household_id, sheet.machines)
    made = []
    for machine_id, row in machines_of(member, sheet.machines).items():
        ways = [opening for machine, opening in sheet.progress.open if machine == machine_id]
        found = extras(archetype_of(row), frozenset(row.features), school, [*ways, None])
        made += [
            (machine_id, slot, rule)
            for slot, rule in found
            if not rule.is_life
            and (machine_id, slot.key) in fitted
            and (machine_id, slot.key, rule.action) not in there
        ]
    return made


@transaction.atomic
def add_extra(*, member: Member, sheet_id: UUID, pick: Pick) -> SheetState:
    """Something extra as a step of an open sheet, before what it lies behind is closed.

    Raises `InvalidValue` for what is not extra, is there already, or no longer lies open.
    """
    require_writer(member)
    state = sheet_state(member, sheet_id)
    refuse_ended(state)
    offered = {(machine_id, slot.key, rule.action) for machine_id, slot, rule in extras_of(member, state)}
    key = (pick.machine_id, pick.slot, pick.action)
    require(key in offered, "slot", pick.slot, "something that may be done besides while it lies open")
    frozen = records.thaw(state.row)
    [machine] = machine_states(member, pick.machine_id)
    chosen = _chosen(machine, pick)
    job = Job(pick.machine_id, machine.machine.archetype, (chosen,), _off(machine), machine.machine.features)
    sheet = with_extra(frozen.sheet, job, set(state.progress.answers))
    known = frozen.items if chosen.item.id in frozen.items else {**frozen.items, chosen.item.id: chosen.item}
    Sheet.objects.of(member.household_id).filter(pk=sheet_id).update(frozen=records.freeze(sheet, known))
    return sheet_state(member, sheet_id)


def _off(state: MachineState) -> frozenset[str]:
    """The places that stand empty."""
    parts = state.machine.archetype.parts(state.machine.features)
    return frozenset(slot.key for slot in parts if slot.key not in state.machine.fitted)


def _chosen(state: MachineState, pick: Pick) -> Chosen:
    slot = state.machine.archetype.slot(pick.slot)
    slot.rule(pick.action)
    item_id = state.machine.fitted.get(pick.slot)
    if item_id is None:
        raise Conflict(f"tasks: {slot.name} is not in the machine", field="tasks", fix="Fit one first, from the rack.")
    new = uuid4() if pick.action is Action.REPLACE else None
    partner = state.machine.fitted.get(slot.swaps_with) if slot.swaps_with and pick.action is Action.SWAP else None
    other = state.items[partner] if partner else None
    return Chosen(pick.slot, pick.action, state.items[item_id], state.spare(pick.slot), new, other)


@transaction.atomic
def open_refit(*, member: Member, sheet_id: UUID, item_id: UUID) -> SheetState:
    """The refit-and-test sitting for a part on the rack whose rest is over. Raises `IllegalMove` before that."""
    require_writer(member)
    known = Sheet.objects.of(member.household_id).filter(pk=sheet_id).first()
    if known is not None:
        return sheet_state(member, sheet_id)
    state, slot, item = _on_rack(member, item_id)
    now = clock.now()
    if item.locked_until is not None and now < item.locked_until:
        raise IllegalMove(
            f"{item.name} is still drying",
            field="item_id",
            fix="Come back when its rest is over.",
            ready_at=item.locked_until.isoformat(),
        )
    if slot in state.machine.fitted:
        raise Conflict(
            f"item_id: another part sits in {state.machine.name}",
            field="item_id",
            fix="Check this one dry on the rack and keep it as the spare.",
        )
    _refuse_open_sheet(member.household_id, [state.machine.id], "machine_id")
    refuse_in_danger(member, [machine_of(member, state.machine.id)])
    kind = state.machine.archetype
    task = Chosen(slot, next(iter(kind.slot(slot).wetting), Action.CLEAN), item)
    job = Job(state.machine.id, kind, (task,), _off(state), state.machine.features)
    return _save(member, sheet_id, build_refit([job], load_book()), {item.id: item})


def _on_rack(member: Member, item_id: UUID) -> tuple[MachineState, str, Item]:
    for state in machine_states(member):
        for slot, item in state.on_rack:
            if item.id == item_id:
                return state, slot, item
    raise NotFound("item_id: this part is not on the rack", field="item_id", fix="Load the page again.")


def _save(
    member: Member, sheet_id: UUID, sheet: CoreSheet, items: dict[UUID, Item], case_id: UUID | None = None
) -> SheetState:
    if Sheet.everything.filter(pk=sheet_id).exists():
        raise NotFound("sheet: this id is not yours", field="id", fix="Open the sheet again.")
    follows = origin_of(member, items) if sheet.sitting == SITTINGS[1] else None
    row = Sheet.everything.create(
        id=sheet_id,
        household_id=member.household_id,
        frozen=records.freeze(sheet, items),
        made_at=clock.now(),
        made_by=member,
        follows=follows,
        case_id=follows.case_id if follows else case_id,
    )
    row.machines.set(sheet.machines)
    return sheet_state(member, sheet_id)


@receiver(changing)
def _refuse_open_sheet(household_id: UUID, machine_ids: list[UUID], field: str, **_: object) -> None:
    """Refuse while somebody works on one of these machines."""
    sheet = Sheet.objects.of(household_id).filter(machines__in=machine_ids, status=Sheet.Status.OPEN).first()
    if sheet is not None:
        names = ", ".join(sheet.machines.order_by("name").values_list("name", flat=True))
        raise Conflict(
            f"{field}: a sheet is open at {names}",
            field=field,
            fix="Finish or give up that sheet first; its steps speak of the parts as they were.",
        )
