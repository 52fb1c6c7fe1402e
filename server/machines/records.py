"""Rows to core values and back: the only file that knows both."""

import json
from collections.abc import Iterable
from datetime import tzinfo
from functools import lru_cache
from typing import Any
from uuid import UUID

from care import items as core_items
from care import model as core
from care import overrides
from care.bench.drying import Stay
from care.bench.weighing import Weighing
from care.book import load_book
from care.due.assumed import Plan
from care.due.schedule import Schedule
from care.due.usage import AtDock
from care.household import DryingPlace
from care.kinds import Archetype
from care.vocabulary import Action, Found, Silence
from server.machines import models


def archetype_of(row: models.Machine) -> Archetype:
    """The kind of machine a row is, as this household has it."""
    return _tailored(row.archetype, json.dumps(row.own), tuple(row.features))


@lru_cache(maxsize=256)
def _tailored(archetype: str, settings: str, features: tuple[str, ...]) -> Archetype:
    """Kept, since it is asked for every row of a machine and for most machines somebody told of a mark."""
    book = load_book()
    return overrides.tailored(book.archetypes[archetype], json.loads(settings), book.parts, features)


def to_machine(
    row: models.Machine, fittings: Iterable[core_items.Fitting], docks: Iterable[models.Machine]
) -> core.Machine:
    """A machine with what sits in its slots now, and with what its docks do for it."""
    fitted = {f.slot: f.item_id for f in fittings if f.end is None and f.machine_id == row.pk}
    provided = {feature for dock in docks for feature in archetype_of(dock).provides}
    return core.Machine(row.pk, row.name, archetype_of(row), fitted, frozenset({*row.features, *provided}))


RUN = ("day", "run_s", "start", "mopped", "provenance", "emptied", "entry__happened_at")
"""What is read of a run's row: years of runs are read as plain values, since building rows costs four times as much."""
SERVICE = ("item_id", "slot", "action", "entry__happened_at")
INSPECTION = ("item_id", "slot", "about", "found", "entry__happened_at")


def to_run(values: tuple[Any, ...], dock: AtDock, zone: tzinfo) -> core.Run:
    """A run from the values named by `RUN`; its hours count from its entry's instant, its emptyings as it told them
    itself, else by what the dock is set to.
    """
    day, run_s, start, mopped, provenance, emptied, at = values
    evacuations = dock.emptyings(run_s, start.astimezone(zone) if start else None) if emptied is None else emptied
    return core.Run(day, run_s, at, start, core.Provenance(provenance), mopped, evacuations)


def to_schedule(row: models.ScheduleVersion | None) -> Schedule | None:
    """A usual week, or None when there is none."""
    if row is None or not row.rule:
        return None
    return Schedule(row.rule, row.run_min, row.starts, row.mops, Silence(row.silence))


def to_dock(row: models.ScheduleVersion) -> AtDock:
    """What a robot and its dock are set to."""
    quiet = (row.quiet_from, row.quiet_until) if row.quiet_from and row.quiet_until else None
    return AtDock(row.return_min, quiet, row.dry_h)


def to_plan(row: models.ScheduleVersion, zone: tzinfo) -> Plan:
    """A usual week with the local day from which it holds."""
    return Plan(row.entry.happened_at.astimezone(zone).date(), to_schedule(row))


def to_rest(row: models.Rest) -> core.Rest:
    """Days off."""
    return core.Rest(core.Why(row.why), row.first, row.last)


def to_counter(row: models.Counter) -> core.CounterReading:
    """What a machine's own counter said."""
    return core.CounterReading(row.item_id, row.slot, row.used_h, row.entry.happened_at, row.trusted)


def to_home_changed(row: models.HomeChanged) -> core.HomeChanged:
    """What was said when looks contradicted what was believed."""
    return core.HomeChanged(row.slot, Action(row.action), row.entry.happened_at, row.since, row.changed)


def to_not_known(row: models.NotKnown) -> core.NotKnown:
    """A part of which nobody knows how far it was."""
    return core.NotKnown(row.item_id, row.slot, row.entry.happened_at, row.life)


def to_item(row: models.Item) -> core_items.Item:
    """An item in its stored state."""
    early = core_items.Override(row.early_by, row.early_reason) if row.early_reason else None
    return core_items.Item(
        id=row.pk,
        part=row.part,
        name=row.name,
        state=core_items.State(row.state),
        at=row.moved_at,
        machine_id=row.machine_id,
        slot=row.slot or None,
        damp_until=row.damp_until,
        floor_until=row.floor_until,
        wash_count=row.wash_count,
        cleanings=row.cleanings,
        refitted_early=early,
    )


def new_item(row: models.Item) -> core_items.Item:
    """An item before anything happened to it: where a replay starts."""
    return core_items.Item(id=row.pk, part=row.part, name=row.name)


def put_state(row: models.Item, item: core_items.Item) -> None:
    """Copy an item's state into its row, unsaved."""
    row.state, row.moved_at = item.state, item.at
    row.machine_id, row.slot = item.machine_id, item.slot or ""
    row.damp_until, row.floor_until = item.damp_until, item.floor_until
    row.wash_count, row.cleanings = item.wash_count, item.cleanings
    row.early_by = item.refitted_early.by if item.refitted_early else ""
    row.early_reason = item.refitted_early.reason if item.refitted_early else ""


def to_move(row: models.Move) -> core_items.Move:
    """A move at its entry's instant."""
    override = core_items.Override(row.override_by, row.override_reason) if row.override_reason else None
    return core_items.Move(
        kind=core_items.MoveKind(row.kind),
        at=row.entry.happened_at,
        machine_id=row.machine_id,
        slot=row.slot or None,
        floor_h=row.floor_h,
        drying=row.drying,
        override=override,
        reason=row.reason,
        until=row.until,
    )


def from_move(entry_id: UUID, household_id: UUID, item_id: UUID, move: core_items.Move) -> models.Move:
    """The detail row of a move, unsaved."""
    return models.Move(
        entry_id=entry_id,
        household_id=household_id,
        item_id=item_id,
        kind=move.kind,
        machine_id=move.machine_id,
        slot=move.slot or "",
        floor_h=move.floor_h,
        drying=move.drying,
        until=move.until,
        override_by=move.override.by if move.override else "",
        override_reason=move.override.reason if move.override else "",
        reason=move.reason,
    )


def to_stay(row: models.Hung) -> Stay:
    """Where a part hung from its entry's instant on, in the air that was told of then."""
    temp_c, rh_pct = row.temp_c, row.rh_pct
    air = DryingPlace(row.place, temp_c, rh_pct) if temp_c is not None and rh_pct is not None else None
    return Stay(row.entry.happened_at, air, row.pressed, row.moving, row.slow)


def to_weighing(row: models.Weight) -> Weighing:
    """A reading of the scale."""
    return Weighing(row.entry.happened_at, row.grams)


def to_fitting(row: models.Fitting) -> core_items.Fitting:
    """A fitting."""
    early = core_items.Override(row.early_by, row.early_reason) if row.early_reason else None
    return core_items.Fitting(row.item_id, row.machine_id, row.slot, row.start, row.end, early)


def from_fitting(household_id: UUID, fitting: core_items.Fitting) -> models.Fitting:
    """The row of a fitting, unsaved."""
    return models.Fitting(
        household_id=household_id,
        item_id=fitting.item_id,
        machine_id=fitting.machine_id,
        slot=fitting.slot,
        start=fitting.start,
        end=fitting.end,
        early_by=fitting.early.by if fitting.early else "",
        early_reason=fitting.early.reason if fitting.early else "",
    )


def to_service(values: tuple[Any, ...]) -> core.ServiceRecord:
    """An action done, from the values named by `SERVICE`."""
    item_id, slot, action, at = values
    return core.ServiceRecord(item_id, slot, Action(action), at)


def to_inspection(values: tuple[Any, ...]) -> core.Inspection:
    """What was found, from the values named by `INSPECTION`."""
    item_id, slot, about, found, at = values
    return core.Inspection(item_id, slot, Action(about), Found(found), at)
