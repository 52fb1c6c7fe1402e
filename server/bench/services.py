"""Use cases at the bench: open a sheet, answer its steps, end its sitting."""

from collections.abc import Iterable, Iterator
from dataclasses import asdict, dataclass
from datetime import datetime
from typing import Any, cast
from uuid import UUID, uuid4

from django.db import transaction
from django.dispatch import receiver

from care.bench import Chosen, Job, Progress, StepKind, build, build_refit, follow, with_extra
from care.bench import Sheet as CoreSheet
from care.bench.depth import extras
from care.bench.drying import Hanging
from care.bench.steps import SITTINGS, SKIP, danger_in
from care.book import load_book
from care.errors import CareError, IllegalMove, require
from care.household import AtTheBench
from care.items import Item, State
from care.kinds import Archetype
from care.model import DueState
from care.overrides import Aspect, HowFar, habits, key_of
from care.parts import Slot
from care.rules import Rule
from care.vocabulary import Action
from server.base import clock
from server.base.problems import Conflict, NotFound
from server.bench import records
from server.bench.models import Sheet, SheetEvent
from server.bench.signals import finished, opening_for_case
from server.drying.services import refuse_place, still_there
from server.due.dangers import refuse_in_danger, tell
from server.due.state import MachineState, machine_states
from server.household.models import Member
from server.household.services import answers_at, require_writer
from server.logbook.models import Entry
from server.machines.records import archetype_of
from server.machines.services import fitted_slots, item_of, last_moves, machine_of, machines_of
from server.machines.signals import changing
from server.notes.readings import feel_pull, pulls_of
from server.notes.services import newest_pictures
from server.work.services import SheetRecords, record_sheet


@dataclass(frozen=True, slots=True)
class Pick:
    """A task somebody picked for a sheet."""

    machine_id: UUID
    slot: str
    action: Action


@dataclass(frozen=True, slots=True)
class OnSheet:
    """A machine that a sheet is for."""

    name: str
    archetype: Archetype


@dataclass(frozen=True, slots=True)
class SheetState:
    """A sheet with where it stands, and its machines in the order in which they are opened.

    `pictures` are the newest photos of its parts by machine and slot: how they sat; `taken` the ids of all
    answers, `late` counts those that came late; `pulls` how each machine was felt to pull before and after.
    """

    row: Sheet
    sheet: CoreSheet
    progress: Progress
    machines: dict[UUID, OnSheet]
    overtaken: bool
    taken: list[UUID]
    late: int
    pictures: dict[tuple[UUID, str], UUID]
    pulls: dict[tuple[UUID, str], int]

    @property
    def may_drop(self) -> bool:
        """Whether giving it up leaves the records true: no part was moved on it, or others recorded otherwise."""
        return self.overtaken or not self.progress.moves


@dataclass(frozen=True, slots=True)
class Change:
    """What a finished sitting changed for one rule of one slot; `now_in` names a part that was not there before."""

    machine_id: UUID
    slot: str
    now_in: str | None
    before: DueState | None
    after: DueState


@dataclass(frozen=True, slots=True)
class Ending:
    """A finished sitting: its sheet, what it changed, and the parts it left on the rack."""

    sheet: SheetState
    changes: list[Change]
    on_rack: list[Item]


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
    _refuse_ended(state)
    offered = {(machine_id, slot.key, rule.action) for machine_id, slot, rule in extras_of(member, state)}
    told = (pick.machine_id, pick.slot, pick.action)
    require(told in offered, "slot", pick.slot, "something that may be done besides while it lies open")
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
    follows = _origin(member, items) if sheet.sitting == SITTINGS[1] else None
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


def _origin(member: Member, items: dict[UUID, Item]) -> Sheet | None:
    """The last finished sheet that put one of these parts on the rack."""
    ended = Sheet.objects.of(member.household_id).filter(status=Sheet.Status.FINISHED).order_by("-ended_at")
    wanted = {str(item_id) for item_id in items}
    return next((row for row in ended[:50] if wanted & set(row.frozen["items"])), None)


def sheet_state(member: Member, sheet_id: UUID) -> SheetState:
    """A sheet and where it stands. Raises `NotFound`."""
    row: Sheet = Sheet.objects.one(member.household_id, sheet_id, "sheet")
    frozen = records.thaw(row)
    events = list(SheetEvent.objects.of(member.household_id).filter(sheet=row).order_by("number"))
    answers = records.standing_answers(events)
    progress = follow(frozen.sheet, frozen.items, answers)
    overtaken = row.status == Sheet.Status.OPEN and _overtaken(member, frozen.items)
    rows = machines_of(member, frozen.sheet.machines)
    machines = {machine_id: OnSheet(machine.name, archetype_of(machine)) for machine_id, machine in rows.items()}
    late = sum(event.late for event in events)
    taken = [event.pk for event in events]
    pictures = newest_pictures(member, machines)
    pulls = pulls_of(member, [x for x in (row.pk, row.follows_id) if x])
    return SheetState(row, frozen.sheet, progress, machines, overtaken, taken, late, pictures, pulls)


def _overtaken(member: Member, items: dict[UUID, Item]) -> bool:
    """Whether a part was moved in the records since the sheet was made."""
    return any(items[item_id].at != at for item_id, at in last_moves(member, items).items() if at is not None)


def open_sheets(member: Member) -> list[SheetState]:
    """The sheets that are open, oldest first."""
    rows = Sheet.objects.of(member.household_id).filter(status=Sheet.Status.OPEN).order_by("made_at")
    return [sheet_state(member, row.pk) for row in rows]


@dataclass(frozen=True, slots=True)
class Given:
    """An answer as a device sends it: its id, and when it was given there if it could not be sent at once."""

    event_id: UUID
    step: str
    value: str
    reason: str = ""
    hanging: Hanging | None = None
    at: datetime | None = None


@transaction.atomic
def answer(*, member: Member, sheet_id: UUID, given: Given, late: bool = False) -> SheetState:
    """Answer the step where the sheet stands, or take the last answer back (`back`). Sent twice, it counts once.

    Its hanging tells where a washed part hangs; without it, where the last one did. A `late` answer is kept as a note.
    Raises `InvalidValue` for an answer out of turn or a place nobody told of, `Conflict` on a sheet that has ended.
    """
    require_writer(member)
    state = sheet_state(member, sheet_id)
    events = SheetEvent.objects.of(member.household_id).filter(sheet=state.row)
    if events.filter(pk=given.event_id).exists():
        return state
    if SheetEvent.everything.filter(pk=given.event_id).exists():
        raise NotFound("answer: this id belongs to another sheet", field="id", fix="Give the answer again.")
    if not late:
        _refuse_ended(state)
        if given.hanging is not None:
            refuse_place(member.household_id, given.hanging)
    SheetEvent.everything.create(
        id=given.event_id,
        household_id=member.household_id,
        sheet=state.row,
        number=events.count(),
        step=given.step,
        value=given.value,
        reason=given.reason.strip(),
        hanging=asdict(given.hanging) if given.hanging else None,
        late=late,
        at=_when(given.at, state),
        by=member,
    )
    after = sheet_state(member, sheet_id)
    if (found := danger_in(given.value)) is not None:  # at once: nobody waits with that for the end of the sitting
        tell(member=member, machine_id=state.sheet.step(given.step).machine_id, danger=found)
    return after


def _when(told: datetime | None, state: SheetState) -> datetime:
    """When an answer was given: as the device tells, but not before the one before it, nor in the future."""
    now = clock.now()
    if told is None:
        return now
    before = max((a.at for a in state.progress.answers.values()), default=state.row.made_at)
    return min(max(told, before), now)


def _refuse_ended(state: SheetState) -> None:
    if state.row.status != Sheet.Status.OPEN:
        raise Conflict("This sheet has ended.", field="sheet", fix="Open a new one from Round.")


def ended_by(member: Member, sheet_id: UUID, finish_id: UUID) -> dict[str, Any] | None:
    """What the end of the sitting answered, where `finish_id` is what ended it; None otherwise."""
    row: Sheet = Sheet.objects.one(member.household_id, sheet_id, "sheet")
    return cast("dict[str, Any] | None", row.ending) if row.finish_id == finish_id else None


def keep_ending(member: Member, sheet_id: UUID, finish_id: UUID, ending: dict[str, Any]) -> None:
    """Keep what the end of the sitting answered; inside the caller's transaction."""
    rows = Sheet.objects.of(member.household_id).filter(pk=sheet_id)
    rows.update(finish_id=finish_id, ending=ending)


@transaction.atomic
def finish(*, member: Member, sheet_id: UUID) -> Ending:
    """End the sitting: only now records are written and clocks move. Raises `Conflict` while a step is open."""
    require_writer(member)
    state = sheet_state(member, sheet_id)
    _refuse_ended(state)
    if state.progress.current is not None:
        raise Conflict(
            f"sheet: the step {state.progress.current.key} is still open", field="sheet", fix="Answer it or skip it."
        )
    before = _due(member, state)
    action_id = uuid4()
    try:
        for machine_id, what in _records_of(state).items():
            record_sheet(member=member, machine_id=machine_id, sheet_id=sheet_id, action_id=action_id, what=what)
    except CareError as error:
        raise Conflict(
            f"Something changed since this sheet was opened: {error.detail}",
            field="sheet",
            fix="Give this sheet up and open a new one; your notes stay with it.",
        ) from error
    Sheet.objects.of(member.household_id).filter(pk=sheet_id).update(
        status=Sheet.Status.FINISHED, ended_at=clock.now(), action_id=action_id
    )
    after = _due(member, state)
    done = {(state.sheet.machine_of(d.item_id), d.slot, d.action) for d in state.progress.done}
    changes = [
        Change(key[0], key[1], _swapped(before.get(key), due, member), before.get(key), due)
        for key, due in after.items()
        if key in done or _moved(before.get(key), due)
    ]
    wet = [item for item in state.progress.items.values() if item.state in (State.WASHED, State.DRYING)]
    ended = sheet_state(member, sheet_id)
    finished.send(sender=Sheet, member=member, sheet=ended)
    return Ending(ended, changes, wet)


def sheet_of_case(member: Member, case_id: UUID) -> UUID | None:
    """The open sheet that puts right what a search for a fault found."""
    rows = Sheet.objects.of(member.household_id).filter(case_id=case_id, status=Sheet.Status.OPEN)
    return rows.order_by("-made_at").values_list("pk", flat=True).first()


def cases_of_actions(household_id: UUID, actions: Iterable[UUID]) -> list[UUID]:
    """The searches for faults whose sheets ended with one of these actions."""
    rows = Sheet.objects.of(household_id).filter(action_id__in=list(actions)).exclude(case_id=None)
    return list(rows.values_list("case_id", flat=True))


def _due(member: Member, sheet: SheetState) -> dict[tuple[UUID, str, Action], DueState]:
    states = machine_states(member, only=set(sheet.machines))
    return {(state.machine.id, due.slot, due.action): due for state in states for due in state.due}


def _moved(before: DueState | None, after: DueState) -> bool:
    """Whether a rule's standing changed: its part went missing or came back, or its date moved."""
    return before is None or before.level != after.level or before.due != after.due


def _swapped(before: DueState | None, after: DueState, member: Member) -> str | None:
    """The name of the part that is in now, if another one was there before."""
    if before is None or after.item_id is None or before.item_id == after.item_id:
        return None
    return item_of(member, after.item_id).name


def _records_of(state: SheetState) -> dict[UUID, SheetRecords]:
    """What the sitting left at each machine."""
    progress, owner = state.progress, state.sheet.machine_of
    each = {machine_id: SheetRecords() for machine_id in state.machines}
    for item_id, move in progress.moves:
        each[owner(item_id)].moves.append((item_id, move))
    for d in progress.done:
        each[owner(d.item_id)].services.append((d.item_id, d.slot, d.action, d.at))
    for s in progress.saw:
        each[owner(s.item_id)].inspections.append((s.item_id, s.slot, s.about, s.found, s.at))
    for item_id, hanging, at in progress.hung:
        each[owner(item_id)].hung.append((item_id, still_there(state.row.household_id, hanging), at))
    for machine_id, part in _new_parts(state):
        each[machine_id].new_parts.append(part)
    return each


def _new_parts(state: SheetState) -> Iterator[tuple[UUID, tuple[UUID, str, str, datetime]]]:
    """The parts that are new with this sheet, with the machine they went into."""
    frozen = records.thaw(state.row).items
    for step in state.sheet.steps:
        answered = state.progress.answers.get(step.key)
        fits = step.new_item_id if step.kind is StepKind.HAND_OVER else step.item_id
        puts_in = step.kind in (StepKind.FIT, StepKind.CLOSE, StepKind.HAND_OVER)
        if puts_in and answered and answered.value != SKIP and fits and step.slot and frozen[fits].at is None:
            yield step.machine_id, (fits, step.slot, frozen[fits].name, answered.at)


@transaction.atomic
def drop(*, member: Member, sheet_id: UUID) -> None:
    """Give a sheet up: its answers stay with it, no record is written.

    Raises `Conflict` once a part was touched, since the records would then be untrue of the machine; a sheet whose
    parts were recorded otherwise meanwhile cannot be finished, so it can always be given up.
    """
    require_writer(member)
    state = sheet_state(member, sheet_id)
    _refuse_ended(state)
    if not state.may_drop:
        raise Conflict(
            "Parts were moved on this sheet; giving it up would leave the records untrue.",
            field="sheet",
            fix="Step back to before that, or go on and skip what is left with a reason.",
        )
    Sheet.objects.of(member.household_id).filter(pk=sheet_id).update(status=Sheet.Status.DROPPED, ended_at=clock.now())


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


@transaction.atomic
def pull(*, member: Member, machine_id: UUID, felt: int, moment: str, sheet_id: UUID | None = None) -> Entry:
    """As `feel_pull`; a sheet it belongs to has to be one of that machine. Raises `NotFound`."""
    if sheet_id is not None:
        sheet: Sheet = Sheet.objects.one(member.household_id, sheet_id, "sheet")
        if not sheet.machines.filter(pk=machine_id).exists():
            raise NotFound("sheet: it is not for this machine", field="sheet_id", fix="Load the sheet again.")
    return feel_pull(member=member, machine_id=machine_id, felt=felt, moment=moment, sheet_id=sheet_id)
