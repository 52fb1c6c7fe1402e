"""What was done to parts and found on them: each use case is one transaction and takes the member."""

from collections import Counter
from collections.abc import Collection
from datetime import date, datetime, time, timedelta
from typing import Any
from uuid import UUID

from django.db import transaction
from django.db.models import QuerySet

from care.due.learning import contradict
from care.errors import require
from care.items import REPLACED, Move, MoveKind, Override
from care.parts import Slot
from care.vocabulary import Action, Found, Gone
from server.base import clock
from server.base.problems import Conflict
from server.drying import services as drying
from server.due.dangers import refuse_in_danger, tell
from server.due.state import machine_states
from server.household.models import Member
from server.household.services import journal_by, require_writer, zone_of
from server.logbook.models import Entry
from server.logbook.services import Journal, standing
from server.machines import items, records
from server.machines.models import Inspection, Item, Machine, Service
from server.machines.services import about_to_change, fitted_item, item_of, local_time, machine_of, told_at
from server.setup.services import new_part
from server.work.counters import _write_counter

Moves = list[tuple[UUID, Move]]


@transaction.atomic
def already_done(
    *,
    member: Member,
    machine_id: UUID,
    slot_key: str,
    action: Action,
    day: date | None = None,
    found: Found | None = None,
    gone: Gone | None = None,
) -> Entry:
    """A task done without a sheet, on a local day (today if none is given). Writes the records a sheet would write.

    `gone` says of a part that was replaced why; where nobody tells what was found, it stands for that.
    """
    require_writer(member)
    machine = machine_of(member, machine_id)
    slot = records.archetype_of(machine).slot(slot_key)
    rule = slot.rule(action)
    require(found is not None or action is not Action.INSPECT, "found", found, "what you found, for a look")
    require(gone is None or action is Action.REPLACE, "gone", gone, "a reason only for a part that was replaced")
    by_chance = gone is not None and gone.tells is None
    require(not by_chance or found is None, "found", found, "nothing found of a part that went by chance")
    found = found or (gone.tells if gone else None)
    item, at = fitted_item(machine, slot), told_at(member, machine, day)
    journal = journal_by(member, machine.pk)
    if found is not None:
        about = rule.about or action
        _refuse_contradiction(member, item, slot, about, found, at, worked=action is not Action.INSPECT)
        items.write_inspection(journal, item, slot=slot.key, about=about, found=found, at=at)
        if action is Action.INSPECT:
            _tell_danger(member, machine, slot, about, found, journal)
    worked_on = _partner(machine, slot) if action is Action.SWAP else item
    entry = items.write_service(journal, worked_on, slot=slot.key, action=action, at=at)
    moves = _moves_done(machine, slot, item, action, at, gone)
    if any(move.kind is MoveKind.RACK for _, move in moves):
        drying.write_hung(journal, item.pk, drying.usual_hanging(journal.household_id), at)
    items.record_moves(journal, moves)
    if action is Action.REPLACE:
        items.tell_renewed(journal, _fitted(moves), at)
    return entry


def _fitted(moves: Moves) -> list[UUID]:
    return [item_id for item_id, move in moves if move.kind is MoveKind.FIT]


@transaction.atomic
def look(
    *, member: Member, machine_id: UUID, slot_key: str, about: Action, found: Found, day: date | None = None
) -> Entry:
    """What was found on a part about an action, nothing done. It counts as the look that an inspection asks for.

    An answer that tells of a danger puts the machine out of use. Raises `InvalidValue` for an action the part does not
    have, `Conflict` when it contradicts a look of that day.
    """
    require_writer(member)
    machine = machine_of(member, machine_id)
    slot = records.archetype_of(machine).slot(slot_key)
    rule = slot.rule(about)
    item, at = fitted_item(machine, slot), told_at(member, machine, day)
    about = rule.about or about
    _refuse_contradiction(member, item, slot, about, found, at)
    journal = journal_by(member, machine.pk)
    entry = items.write_inspection(journal, item, slot=slot.key, about=about, found=found, at=at)
    if any(r.action is Action.INSPECT and r.about is about for r in slot.rules):
        items.write_service(journal, item, slot=slot.key, action=Action.INSPECT, at=at)
    _tell_danger(member, machine, slot, about, found, journal)
    return entry


def _tell_danger(member: Member, machine: Machine, slot: Slot, about: Action, found: Found, journal: Journal) -> None:
    """Put the machine out of use where what was found tells of a danger; undone with what told of it."""
    if danger := slot.danger(about, found):
        tell(member=member, machine_id=machine.pk, danger=danger, action_id=journal.action_id)


def _refuse_contradiction(
    member: Member, item: Item, slot: Slot, about: Action, found: Found, at: datetime, *, worked: bool = False
) -> None:
    """Two looks at one part on one day cannot be far apart, unless it was worked on between them or at once after."""
    morning = local_time(member, at.astimezone(zone_of(member)).date(), time())
    looks = standing(Inspection.objects.of(member.household_id).filter(item=item, slot=slot.key, about=about))
    done = standing(Service.objects.of(member.household_id).filter(item=item, slot=slot.key))
    for row in looks.filter(entry__happened_at__range=(morning, morning + timedelta(days=1))):
        then = row.entry.happened_at
        if (worked and then > at) or not contradict(Found(row.found), found):
            continue
        between = (min(then, at), max(then, at))
        if not done.exclude(action=Action.INSPECT).filter(entry__happened_at__range=between).exists():
            raise Conflict(
                f"found: on that day it was already told as {slot.words(about)[Found(row.found)]!r}",
                field="found",
                fix="Undo that look first if it was wrong, or choose the answer between.",
            )


def _moves_done(
    machine: Machine, slot: Slot, item: Item, action: Action, at: datetime, gone: Gone | None = None
) -> Moves:
    """The moves that an action implies when nobody followed a sheet."""
    if action is Action.INSPECT:
        return []
    if action is Action.SWAP:
        return _swapped(machine, slot, item, at)
    if action is Action.REPLACE:
        new = items.create_item(machine, slot=slot.key, part=slot.part, name=item.name)
        old = [Move(MoveKind.TAKE_OUT, at), Move(MoveKind.RETIRE, at, reason=gone or REPLACED)]
        return [*((item.pk, move) for move in old), *new_part(new.pk, machine, slot.key, at)]
    dries = slot.drying_of(action)
    if not slot.removable and dries is None:
        return [(item.pk, Move(MoveKind.CLEAN_IN_PLACE, at))]
    out = (item.pk, Move(MoveKind.TAKE_OUT, at))
    back = (item.pk, Move(MoveKind.FIT, at, machine_id=machine.pk, slot=slot.key))
    if dries is None:
        return [out, (item.pk, Move(MoveKind.DRY_CLEAN, at)), back]
    return [out, *_washed(machine, slot, item, action, at)]


def _washed(machine: Machine, slot: Slot, item: Item, action: Action, at: datetime) -> Moves:
    """It hangs where the last part did; when it is dry by now, it went back in then, as nobody says otherwise.

    What needs no rest went back at once.
    """
    dries = drying.drying_of(item, action)
    rests_until = drying.ready_at(item, action, drying.usual_hanging(machine.household_id), at)
    ready_at = rests_until if dries.floor_h else at
    moves = [
        Move(MoveKind.WASH, at, floor_h=dries.floor_h, drying=dries.key),
        Move(MoveKind.RACK, at),
        Move(MoveKind.REST, at, until=ready_at),
    ]
    if ready_at <= clock.now():
        moves += [
            Move(MoveKind.RELEASE, ready_at),
            Move(MoveKind.FIT, ready_at, machine_id=machine.pk, slot=slot.key),
        ]
    return [(item.pk, move) for move in moves]


def _partner(machine: Machine, slot: Slot) -> Item:
    """The identical part on the other side: after a change of sides it is the one in this slot."""
    assert slot.swaps_with is not None
    return fitted_item(machine, records.archetype_of(machine).slot(slot.swaps_with))


def _swapped(machine: Machine, slot: Slot, item: Item, at: datetime) -> Moves:
    other = _partner(machine, slot)
    return [
        (item.pk, Move(MoveKind.TAKE_OUT, at)),
        (other.pk, Move(MoveKind.TAKE_OUT, at)),
        (other.pk, Move(MoveKind.FIT, at, machine_id=machine.pk, slot=slot.key)),
        (item.pk, Move(MoveKind.FIT, at, machine_id=machine.pk, slot=slot.swaps_with)),
    ]


@transaction.atomic
def renew_kit(*, member: Member, machine_id: UUID, kit: str, day: date | None = None) -> Entry:
    """All parts of a kit replaced in one go, undone in one go. Raises `InvalidValue` for a kit of another kind."""
    require_writer(member)
    machine = machine_of(member, machine_id)
    kind = records.archetype_of(machine)
    found = next((one for one in kind.kits if one.key == kit), None)
    require(found is not None, "kit", kit, "one of " + (", ".join(k.key for k in kind.kits) or "none for this kind"))
    assert found is not None
    at = told_at(member, machine, day)
    journal = journal_by(member, machine.pk)
    moves: Moves = []
    for key in found.slots:
        slot = kind.slot(key)
        item = fitted_item(machine, slot)
        entry = items.write_service(journal, item, slot=key, action=Action.REPLACE, at=at)
        moves += _moves_done(machine, slot, item, Action.REPLACE, at)
    items.record_moves(journal, moves)
    items.tell_renewed(journal, _fitted(moves), at)
    return entry


@transaction.atomic
def fit_item(*, member: Member, item_id: UUID, early_reason: str = "") -> Entry:
    """Put a part back into its empty slot. Before it is dry only with a reason, which stays on record."""
    require_writer(member)
    item = item_of(member, item_id)
    refuse_in_danger(member, [machine_of(member, item.home_machine_id)], "item_id")
    override = Override(member.name, early_reason.strip()) if early_reason.strip() else None
    journal = journal_by(member, item.home_machine_id)
    step = Move(
        MoveKind.FIT, journal.entered_at, machine_id=item.home_machine_id, slot=item.home_slot, override=override
    )
    return items.record_moves(journal, [(item.pk, step)])[0]


@transaction.atomic
def move_item(*, member: Member, item_id: UUID, machine_id: UUID, slot_key: str) -> Entry:
    """A part that sits in one machine, or lies ready, goes into an empty slot of another, with the hours of its life.

    Raises `InvalidValue` when the slot takes another kind of part, `IllegalMove` when it is taken or the part is wet,
    `Conflict` while a sheet is open at either machine.
    """
    require_writer(member)
    item, target = item_of(member, item_id), machine_of(member, machine_id)
    about_to_change(member, {machine_id, item.machine_id or item.home_machine_id}, "item_id")
    slot = records.archetype_of(target).slot(slot_key)
    require(slot.part == item.part, "slot", f"{slot.name}, which takes a {slot.part}", f"a place for a {item.part}")
    life_h = _life_hours(member, item)
    out = journal_by(member, item.machine_id or item.home_machine_id)
    if item.machine_id is not None:
        items.record_moves(out, [(item.pk, Move(MoveKind.TAKE_OUT, out.entered_at))])
    into = journal_by(member, target.pk, action_id=out.action_id)
    fit = Move(MoveKind.FIT, into.entered_at, machine_id=target.pk, slot=slot.key)
    items.record_moves(into, [(item.pk, fit)])
    return _write_counter(
        into, item, target, slot.key, into.entered_at, life_h, typed=life_h, unit="hours", sense="used", trusted=True
    )


def _life_hours(member: Member, item: Item) -> float:
    """The hours that the machine it belongs to ran while the part was in it [h]."""
    [state] = machine_states(member, item.home_machine_id)
    spans = (f for f in state.fittings if f.item_id == item.pk)
    now = clock.now()
    return sum(state.context.usage.between(f.start, f.end or now).run_hours for f in spans)


def times_worked_on(
    household_id: UUID, machine_ids: Collection[UUID], actions: Collection[UUID] | QuerySet[Any, Any]
) -> Counter[tuple[UUID, str]]:
    """In how many of these actions something was done to each place (machine, slot), as the records stand."""
    rows = Service.objects.of(household_id).filter(machine_id__in=machine_ids, entry__action_id__in=actions)
    done = standing(rows).order_by().values_list("machine_id", "slot", "entry__action_id").distinct()
    return Counter((machine_id, slot) for machine_id, slot, _ in done)
