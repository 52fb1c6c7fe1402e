"""From the due states of a machine to its chores: how fast each comes again, what it takes, what it waits for."""

from bisect import bisect_left, bisect_right
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime, time, timedelta
from math import ceil
from uuid import UUID

import numpy as np

from care.bench.rotation import missed_runs, stands_still
from care.due.context import Context
from care.due.past import counting_actions
from care.due_state import Clock, DueState
from care.kinds import Archetype
from care.model import Machine
from care.parts import Slot
from care.rules import Drying, Rule
from care.season.chore import Chore, ChoreKey, Floats, Waits
from care.season.model import SEASON_DAYS
from care.vocabulary import Action, LoadKind, Meter, Skill

VISIT_AT = time(18)
"""When a visit is taken to be where it matters which run comes next: after work. Ours."""
QUIET = (Meter.CONDITION, Meter.MISHAPS)
"""Meters that nobody can foresee."""


@dataclass(frozen=True, slots=True)
class InStock:
    """How a place's part is to be had: how many are there, in how many days one ordered today comes, its price [cents].

    Of a place of which no kind of part is kept nothing is known: `None` on hand.
    """

    on_hand: int | None = None
    lead_days: int = 0
    price: int | None = None


@dataclass(frozen=True)
class Circumstances:
    """What a season needs to know of a machine besides its due states.

    `spares` are slots with a dry part that goes in meanwhile, `back_on` the days on which parts come off the rack,
    `put_off` until when tasks wait, `dries_h` how long a part dries in the household's air [h], `pace` how many times
    the book's minutes this household takes [-], `at` the time of day at which a visit begins.
    """

    spares: frozenset[str] = frozenset()
    back_on: Mapping[str, date] = field(default_factory=dict)
    put_off: Mapping[tuple[str, Action], date] = field(default_factory=dict)
    stock: Mapping[str, InStock] = field(default_factory=dict)
    dries_h: Callable[[Drying], float] = lambda drying: max(drying.reference_h, drying.floor_h)
    pace: float = 1.0
    at: time = VISIT_AT
    use: float = 1.0
    """How many times as often it runs as it does now, for who asks what if [-]."""
    days: int = SEASON_DAYS
    """How far chores are worked out [days]."""


def with_parts_back(machine: Machine, on_rack: Mapping[str, UUID]) -> Machine:
    """The machine as it is once what dries is back in its empty places."""
    return Machine(machine.id, machine.name, machine.archetype, {**on_rack, **machine.fitted}, machine.features)


def chores_of(machine: Machine, states: Sequence[DueState], context: Context, known: Circumstances) -> list[Chore]:
    """The chores of a machine whose parts are all in: what has a date, by every meter that moves it.

    What only a find makes due is one until it is done. What the book leaves to a repairer is none.
    """
    kind = machine.archetype
    starts = _runs(context, known.days)
    made = []
    for state in states:
        slot = kind.slot(state.slot)
        if state.item_id is None or state.due is None or kind.slot(state.slot).for_repairer(state.action):
            continue
        if (state.due.p50 - context.today).days > known.days and not state.is_due:
            continue
        made.append(_chore(machine.id, kind, slot, state, context, known, starts))
    return made


def _chore(
    machine_id: UUID,
    kind: Archetype,
    slot: Slot,
    state: DueState,
    context: Context,
    known: Circumstances,
    starts: list[datetime],
) -> Chore:
    key = ChoreKey(machine_id, slot.key, state.action)
    rule = slot.rule(state.action)
    opening = kind.opening(slot.opening) if slot.opening else None
    drying = None if rule.is_life else slot.drying_of(state.action)
    stops = drying is not None and stands_still(slot, drying, has_spare=slot.key in known.spares)
    hours = known.dries_h(drying) if drying is not None else 0.0
    growth = growth_of(state, context, known.days)
    gone = gone_of(state, growth, context.today)
    stock = known.stock.get(slot.key, InStock()) if rule.is_life else InStock()
    not_before, waits = _waits(slot, state, context, known, stock)
    return Chore(
        key,
        state.stake,
        rule.card.effort_min * known.pace,
        gone,
        growth * _use_of(state, rule, known.use)[:, None],
        opening=opening.key if opening else None,
        opening_min=opening.setup_min * known.pace if opening else 0.0,
        skill=opening.skill if opening else Skill.MODULES,
        not_before=not_before,
        waits=waits,
        missed=tuple(_missed(starts, hours, context, known)) if stops else (),
        turns=drying is not None and slot.key in known.spares and slot.needed_to_run and drying.floor_h > 0,
        dries_h=hours,
        covers=frozenset(covered_by(machine_id, slot, state.action)),
        price=stock.price,
        spread=_spread(state, context.today),
    )


def growth_of(state: DueState, context: Context, days: int = SEASON_DAYS) -> Floats:
    """What each trigger takes of its interval from now to the start of each day: (trigger, day) [-]."""
    rows = [_growth(clock, state, context, days) for clock in _foreseen(state)]
    return np.array(rows) if rows else np.zeros((1, days + 1))


def _foreseen(state: DueState) -> list[Clock]:
    return [clock for clock in state.clocks if clock.meter not in QUIET]


def _use_of(state: DueState, rule: Rule, use: float) -> Floats:
    """How many times as fast each trigger goes where its machine runs so many times as often [-].

    A household sheds as much dust however often it is taken up: that comes in fewer, dirtier runs. Hair winds up by the
    hours it turns, and days pass anyway.
    """
    sheds = rule.moved_by in (LoadKind.DUST, LoadKind.VOLUME)
    each = [1.0 if sheds or clock.meter in (Meter.DAYS, Meter.WASHES) else use for clock in _foreseen(state)]
    return np.array(each or [1.0])


Z80 = 2.56
"""From the 10 to the 90 % point of a normal curve [standard deviations]."""


def _spread(state: DueState, today: date) -> float:
    """How far its pace may be off, in log space [-], as its band of dates tells; none for a plain date."""
    due = state.due
    if due is None or due.certain:
        return 0.0
    early, late = (max(1, (day - today).days) for day in (due.p10, due.p90))
    return float(min(0.5, np.log(late / early) / Z80))


def _growth(clock: Clock, state: DueState, context: Context, until: int) -> Floats:
    days = np.arange(until + 1, dtype=np.float64)
    if clock.meter is Meter.DAYS:
        return days / clock.limit
    if clock.meter is Meter.WASHES:
        ahead = (state.due.p50 - context.today).days if state.due else 0
        return days * (max(0.0, 1 - clock.share) / ahead) if ahead > 0 else 0 * days
    return context.futures.mean_until(clock.meter, until) / clock.limit


def gone_of(state: DueState, growth: Floats, today: date) -> float:
    """The share that is gone today so that it comes to 1 on the day on which it is expected: one forecast a thing."""
    if state.due is None:
        return 0.0
    ahead = (state.due.p50 - today).days
    if state.is_due or ahead <= 0:
        return max(1.0, state.share)
    to_end = (growth[:, -1] - growth[:, 0]).max()
    if ahead >= growth.shape[1]:
        return float(max(0.0, min(state.share, 0.999 - to_end)))
    return float(max(0.0, 1 - (growth[:, ahead] - growth[:, 0]).max()))


def _waits(
    slot: Slot, state: DueState, context: Context, known: Circumstances, stock: InStock
) -> tuple[int, Waits | None]:
    """The first day on which it can be done, and why not before."""
    until: list[tuple[int, Waits]] = []
    if put_off := known.put_off.get((slot.key, state.action)):
        until.append(((put_off - context.today).days, Waits.PUT_OFF))
    if back := known.back_on.get(slot.key):
        until.append(((back - context.today).days, Waits.RACK))
    if stock.on_hand == 0:
        until.append((stock.lead_days, Waits.ORDER))
    day, why = max(until, default=(0, None), key=lambda one: one[0])
    return (day, why) if day > 0 else (0, None)


def covered_by(machine_id: UUID, slot: Slot, action: Action) -> Iterator[ChoreKey]:
    """The chores of the same part whose clocks it sets back: of a new part all of them."""
    for rule in slot.rules:
        if rule.action is not action and (action is Action.REPLACE or action in counting_actions(rule)):
            yield ChoreKey(machine_id, slot.key, rule.action)


def _runs(context: Context, days: int) -> list[datetime]:
    """The usual runs of so many days and a little beyond."""
    until = context.now + timedelta(days=days + 30)
    return missed_runs(context.schedule, context.rests, now=context.now, until=until, zone=context.zone)


def _missed(starts: list[datetime], hours: float, context: Context, known: Circumstances) -> Iterator[int]:
    """How many runs fall into so many hours after a visit of each day."""
    for n in range(known.days + 1):
        at = datetime.combine(context.today + timedelta(days=n), known.at, tzinfo=context.zone)
        runs = bisect_left(starts, at + timedelta(hours=ceil(hours))) - bisect_right(starts, at)
        yield round(runs * known.use)
