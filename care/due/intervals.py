"""From rules, fittings, runs and records to due states with their explanation.

A figure of the book is placed in its range by the household's load, once. The learned factor of the slot and action
divides it; the school's cap bounds what comes out. Leaves out dated loads: a look is read with today's load.
"""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta, tzinfo
from functools import cached_property
from typing import Protocol, TypeVar
from uuid import UUID

from care.due.forecast import Futures, Need, expected
from care.due.learning import Factor, learn
from care.due.usage import Pace, Reading, Schedule, UsageLog, pace, weeks_to_use
from care.items import Fitting, Item
from care.model import (
    Because,
    Calendar,
    Clock,
    DueState,
    Inspection,
    Level,
    Load,
    Machine,
    Meter,
    Rule,
    Scalar,
    School,
    ServiceRecord,
    Slot,
    Trigger,
)

WEARING_FROM = 0.5**0.5
"""Share of the interval from which a part counts as wearing [-]: the border of "light" as people see it."""
OVERDUE_FROM = 1.5**0.5
"""Share of the interval from which a part counts as overdue [-]: the border of "due" as people see it."""
FAR_WEEKS = 5_200
"""Further away than this is never [weeks]: a machine that hardly ever runs."""
STRETCH = {School.LABEL: 1.0, School.WORKSHOP: 1.5, School.THRIFTY: 2.5}
"""How far past its upper figure a school lets an interval go [-]; by the label it is the lower figure that caps."""


@dataclass(frozen=True)
class Context:
    """What all due states of one machine share: its runs and usual week, the household, the moment."""

    usage: UsageLog
    schedule: Schedule | None
    load: Load
    school: School
    now: datetime
    zone: tzinfo

    @property
    def today(self) -> date:
        """The local day of the household."""
        return self.now.astimezone(self.zone).date()

    def local_day(self, at: datetime) -> date:
        """The household's local day of an instant."""
        return at.astimezone(self.zone).date()

    @property
    def next_run_from(self) -> date:
        """The first day on which the next usual run can be: tomorrow, once it has run today."""
        last = self.usage.last_before(self.now)
        ran_today = last is not None and self.local_day(last) == self.today
        return self.today + timedelta(days=1) if ran_today else self.today

    @cached_property
    def pace(self) -> Pace:
        """The machine's usual pace."""
        return pace(self.usage, self.schedule, self.now)

    @cached_property
    def futures(self) -> Futures:
        """Draws of the machine's coming use, shared by all its rules."""
        return Futures(self.usage, self.schedule, today=self.today, from_day=self.next_run_from)


@dataclass(frozen=True, slots=True)
class TriggerState:
    """One trigger of a rule: its clock, what it still needs, and how its limit came about."""

    trigger: Trigger
    clock: Clock
    need: Need
    because: Because


def placed(trigger: Trigger, index: float | None) -> float:
    """The figure of a trigger in its meter's unit: the load index [0..1] places it in the range, once.

    high * (low / high) ** index; the middle where no load moves the rule.

    >>> placed(Trigger(Meter.RUNS, 1, 4), 0.5)
    2.0
    """
    figure: float = trigger.high * (trigger.low / trigger.high) ** (0.5 if index is None else index)
    return figure


def cap(trigger: Trigger, rule: Rule, school: School) -> float:
    """The longest a school lets the interval be, in the trigger's unit: by the label its lower figure."""
    if school is School.LABEL:
        return trigger.low
    return trigger.high * (1.0 if rule.never_stretch else STRETCH[school])


def is_learned(trigger: Trigger) -> bool:
    """Whether the learned factor moves a trigger: what counts use, not what ages or wears by washing."""
    return trigger.meter in (Meter.RUN_HOURS, Meter.RUNS) or trigger.calendar is Calendar.STANDS_FOR_USE


def assess_machine(
    machine: Machine,
    *,
    items: Mapping[UUID, Item],
    fittings: Iterable[Fitting],
    services: Iterable[ServiceRecord],
    inspections: Iterable[Inspection] = (),
    context: Context,
) -> list[DueState]:
    """Every rule of every slot of `machine`; a slot without an item gives one state, `missing`."""
    sat = _by_slot(fittings)
    done, seen = _by_slot(services), _by_slot(inspections)
    states: list[DueState] = []
    for slot in machine.archetype.slots:
        item_id = machine.fitted.get(slot.key)
        if item_id is None:
            states.extend(_missing(slot))
            continue
        states.extend(
            assess(
                slot,
                items[item_id],
                fittings=sat.get(slot.key, []),
                services=done.get(slot.key, []),
                inspections=seen.get(slot.key, []),
                context=context,
            )
        )
    return states


def assess(
    slot: Slot,
    item: Item,
    *,
    fittings: Sequence[Fitting],
    services: Sequence[ServiceRecord],
    inspections: Sequence[Inspection] = (),
    context: Context,
) -> list[DueState]:
    """One state for each rule of `slot`, for the `item` that sits in it; what was found on earlier items counts, too.

    The service clock counts since the item's own last such action, the life clock since it was new; both count only
    while it was fitted. Of several triggers the first governs.
    """
    past = _Past(fittings, services, inspections)
    return [_assess_rule(rule, slot, item, past, context) for rule in slot.rules]


@dataclass(frozen=True, slots=True)
class _Past:
    """What happened in a slot, to whatever item."""

    fittings: Sequence[Fitting]
    services: Sequence[ServiceRecord]
    inspections: Sequence[Inspection]

    def of(self, item_id: UUID) -> tuple[list[Fitting], list[ServiceRecord]]:
        """The fittings and services of one item."""
        fittings = [f for f in self.fittings if f.item_id == item_id]
        return fittings, [s for s in self.services if s.item_id == item_id]


class _InSlot(Protocol):
    @property
    def slot(self) -> str: ...


S = TypeVar("S", bound=_InSlot)


def _by_slot(facts: Iterable[S]) -> dict[str, list[S]]:
    sorted_in: dict[str, list[S]] = {}
    for fact in facts:
        sorted_in.setdefault(fact.slot, []).append(fact)
    return sorted_in


def _assess_rule(rule: Rule, slot: Slot, item: Item, past: _Past, context: Context) -> DueState:
    fittings, services = past.of(item.id)
    since, origin = _origin(rule, fittings, services, context)
    used = _used(fittings, since, context.now, context)
    index = context.load.of(rule.moved_by) if rule.moved_by else None
    looks = _looks(rule, past, index, context)
    factor = learn((share, look.found) for look, share in looks)
    triggers = [_trigger_state(t, rule, since, used, item, index, factor, context) for t in rule.triggers]
    due = expected([t.need for t in triggers], factor, context.futures)
    first = min(triggers, key=lambda t: _urgency(t, context))
    return DueState(
        slot=slot.key,
        action=rule.action,
        item_id=item.id,
        level=_level(first.clock.share),
        share=first.clock.share,
        clocks=(first.clock, *(t.clock for t in triggers if t is not first)),
        due=due,
        stake=rule.stake,
        because=_explain(rule, first, triggers, origin, used, _learned(factor, looks, context), context),
    )


def _looks(rule: Rule, past: _Past, index: float | None, context: Context) -> list[tuple[Inspection, float]]:
    """What was found about the rule's action, each with the share [-] that the book's rate gave at that time."""
    return [
        (look, _share_then(rule, look, past, index, context))
        for look in sorted(past.inspections, key=lambda look: look.at)
        if look.about is rule.action
    ]


def _share_then(rule: Rule, look: Inspection, past: _Past, index: float | None, context: Context) -> float:
    fittings, services = past.of(look.item_id)
    before = [f for f in fittings if f.start < look.at]
    since, _ = _origin(rule, before, [s for s in services if s.at < look.at], context)
    used = _used(before, since, look.at, context)
    shares = [_count(t, used, 0, 0) / _in_clock_units(t, placed(t, index)) for t in rule.triggers if is_learned(t)]
    return max(shares, default=0.0)


def _learned(factor: Factor, looks: Sequence[tuple[Inspection, float]], context: Context) -> Because | None:
    if not looks:
        return None
    last, _ = looks[-1]
    values: dict[str, Scalar] = {
        "factor": round(factor.median, 3),
        "p10": round(factor.quantile(0.1), 3),
        "p90": round(factor.quantile(0.9), 3),
        "looks": factor.looks,
        "last_found": last.found,
        "last_day": context.local_day(last.at).isoformat(),
    }
    return Because("learned", values)


def _origin(
    rule: Rule, fittings: Sequence[Fitting], services: Sequence[ServiceRecord], context: Context
) -> tuple[datetime, Because]:
    """Where the rule's clock starts, and why: the last such action on this item, or its first fitting."""
    new = min((f.start for f in fittings), default=context.now)
    if rule.is_life:
        return new, Because("since_new", {"day": context.local_day(new).isoformat()})
    counts = {rule.action, *rule.done_by}
    last = max((s for s in services if s.action in counts), key=lambda s: s.at, default=None)
    if last is None:
        return new, Because("since_new", {"day": context.local_day(new).isoformat()})
    cleaned = {"day": context.local_day(last.at).isoformat(), "action": last.action}
    went_in = min((context.local_day(f.start) for f in fittings if f.start >= last.at), default=None)
    if went_in is not None and went_in > context.local_day(last.at):
        return last.at, Because("since_fitted", {**cleaned, "day": went_in.isoformat(), "cleaned": cleaned["day"]})
    return last.at, Because("since_service", cleaned)


def _used(fittings: Sequence[Fitting], since: datetime, until: datetime, context: Context) -> Reading:
    """What the meters counted after `since` and until `until` while the item was fitted."""
    total = Reading()
    for fitting in fittings:
        start, end = max(fitting.start, since), min(fitting.end or until, until)
        if end > start:
            total += context.usage.between(start, end)
    return total


def _clock_meter(trigger: Trigger) -> Meter:
    return Meter.RUN_HOURS if trigger.calendar is Calendar.STANDS_FOR_USE else trigger.meter


def _in_clock_units(trigger: Trigger, figure: float) -> float:
    """A figure in the unit its clock counts: days that stand for use become hours of running [h]."""
    return figure / 7 * (trigger.reference_h_per_week or 0.0) if trigger.calendar is Calendar.STANDS_FOR_USE else figure


def _count(trigger: Trigger, used: Reading, days: float, washes: float) -> float:
    """What a trigger's clock has counted, in its unit."""
    counted = {
        Meter.RUN_HOURS: round(used.run_hours, 6),
        Meter.RUNS: used.runs,
        Meter.DAYS: days,
        Meter.WASHES: washes,
    }
    return counted[_clock_meter(trigger)]


def _trigger_state(
    trigger: Trigger,
    rule: Rule,
    since: datetime,
    used: Reading,
    item: Item,
    index: float | None,
    factor: Factor,
    context: Context,
) -> TriggerState:
    by_load, longest = placed(trigger, index), cap(trigger, rule, context.school)
    own = by_load / factor.median if is_learned(trigger) and factor.looks else by_load
    figure = min(own, longest)
    days = max(0, (context.today - context.local_day(since)).days)
    meter = _clock_meter(trigger)
    count = _count(trigger, used, days, item.wash_count)
    clock = Clock(meter, count, _in_clock_units(trigger, figure))
    need = Need(
        meter,
        count,
        _in_clock_units(trigger, by_load),
        _in_clock_units(trigger, longest),
        learned=is_learned(trigger),
    )
    because = _explain_trigger(trigger, clock, figure, by_load, longest, index)
    return TriggerState(trigger, clock, need, because)


def _urgency(state: TriggerState, context: Context) -> tuple[bool, date, float]:
    """Past ones first, the furthest past before the others; then by the day each is expected at the usual pace."""
    past = state.clock.share >= 1
    left = state.clock.left
    weekly = {Meter.DAYS: 7.0, Meter.RUN_HOURS: context.pace.hours_per_week, Meter.RUNS: context.pace.runs_per_week}
    weeks = min(weeks_to_use(left, weekly.get(state.clock.meter, 0.0)), FAR_WEEKS)
    return (not past, date.max if past else context.today + timedelta(weeks=weeks), -state.clock.share)


def _level(share: float) -> Level:
    if share >= OVERDUE_FROM:
        return Level.OVERDUE
    if share >= 1:
        return Level.DUE
    return Level.WEARING if share >= WEARING_FROM else Level.FRESH


def _missing(slot: Slot) -> list[DueState]:
    """An empty slot: the machine must not run. Nothing to say of a slot that may stay empty."""
    if not slot.needed_to_run or not slot.rules:
        return []
    stake = min(rule.stake for rule in slot.rules)
    return [
        DueState(
            slot=slot.key,
            action=slot.rules[0].action,
            item_id=None,
            level=Level.MISSING,
            share=0.0,
            clocks=(),
            due=None,
            stake=stake,
            because=Because("slot_empty", {"slot": slot.key}),
        )
    ]


def _explain_trigger(
    trigger: Trigger, clock: Clock, figure: float, by_load: float, longest: float, index: float | None
) -> Because:
    return Because(
        "trigger",
        {
            "meter": trigger.meter,
            "calendar": trigger.calendar,
            "low": trigger.low,
            "high": trigger.high,
            "figure": round(figure, 3),
            "by_load": round(by_load, 3),
            "cap": round(longest, 3),
            "reference_h_per_week": trigger.reference_h_per_week,
            "index": index,
            "clock": clock.meter,
            "used": round(clock.used, 3),
            "limit": round(clock.limit, 3),
        },
    )


def _explain(
    rule: Rule,
    first: TriggerState,
    triggers: Sequence[TriggerState],
    origin: Because,
    used: Reading,
    learned: Because | None,
    context: Context,
) -> Because:
    """The tree: what governs, since when, how much ran, how load, looks and school placed it, the other triggers."""
    usual = context.pace
    parts = [
        first.because,
        origin,
        Because("used", {"run_hours": round(used.run_hours, 3), "runs": used.runs}),
        Because("usual_use", {"hours_per_week": round(usual.hours_per_week, 3), "runs_per_week": usual.runs_per_week}),
        Because("school", {"school": context.school, "stretch": STRETCH[context.school]}),
        Because("book", {"figure_kind": rule.figure, "reason": rule.reason, "moved_by": rule.moved_by}),
    ]
    if learned is not None:
        parts.append(learned)
    others = tuple(t.because for t in triggers if t is not first)
    if others:
        parts.append(Because("other_triggers", {"count": len(others)}, others))
    return Because("due" if first.clock.share >= 1 else "not_yet", {"share": round(first.clock.share, 3)}, tuple(parts))
