"""From rules, fittings, runs and records to due states with their explanation.

Leaves out learning from what people found, and forecast bands.
"""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta, tzinfo
from math import ceil
from uuid import UUID

from care.due.usage import Pace, Reading, Schedule, UsageLog, pace, weeks_to_use
from care.items import Fitting, Item
from care.model import (
    Because,
    Calendar,
    Clock,
    DueState,
    Level,
    Load,
    Machine,
    Meter,
    Rule,
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
"""A date further away than this is no date [weeks]: a machine that hardly ever runs."""


@dataclass(frozen=True, slots=True)
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

    @property
    def pace(self) -> Pace:
        """The machine's usual pace."""
        return pace(self.usage, self.schedule, self.now)


@dataclass(frozen=True, slots=True)
class TriggerState:
    """One trigger of a rule: its clock, the day it is expected to be reached, and how its limit came about."""

    trigger: Trigger
    clock: Clock
    due_on: date | None
    because: Because


def interval(trigger: Trigger, *, index: float | None, school: School) -> float:
    """The figure a trigger stands at, in its meter's unit: the load index [0..1] places it in the range, once.

    high * (low / high) ** index; by the label the lower figure caps it, whatever the load.

    >>> interval(Trigger(Meter.RUNS, 1, 4), index=0.5, school=School.WORKSHOP)
    2.0
    """
    placed: float = trigger.high * (trigger.low / trigger.high) ** (index if index is not None else 0.5)
    return min(placed, trigger.low) if school is School.LABEL else placed


def assess_machine(
    machine: Machine,
    *,
    items: Mapping[UUID, Item],
    fittings: Iterable[Fitting],
    services: Iterable[ServiceRecord],
    context: Context,
) -> list[DueState]:
    """Every rule of every slot of `machine`; a slot without an item gives one state, `missing`."""
    by_item: dict[UUID, list[Fitting]] = {}
    for fitting in fittings:
        by_item.setdefault(fitting.item_id, []).append(fitting)
    done: dict[UUID, list[ServiceRecord]] = {}
    for service in services:
        done.setdefault(service.item_id, []).append(service)
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
                fittings=by_item.get(item_id, []),
                services=done.get(item_id, []),
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
    context: Context,
) -> list[DueState]:
    """One state for each rule of `slot`, for the `item` that sits in it.

    The service clock counts since the item's own last such action, the life clock since it was new; both count only
    while it was fitted. Of several triggers the first governs.
    """
    return [_assess_rule(rule, slot, item, fittings, services, context) for rule in slot.rules]


def _assess_rule(
    rule: Rule,
    slot: Slot,
    item: Item,
    fittings: Sequence[Fitting],
    services: Sequence[ServiceRecord],
    context: Context,
) -> DueState:
    since, origin = _origin(rule, fittings, services, context)
    used = _used(fittings, since, context)
    index = context.load.of(rule.moved_by) if rule.moved_by else None
    triggers = [_trigger_state(t, since, used, item, index, context) for t in rule.triggers]
    first = min(triggers, key=_urgency)
    return DueState(
        slot=slot.key,
        action=rule.action,
        item_id=item.id,
        level=_level(first.clock.share),
        share=first.clock.share,
        clocks=(first.clock, *(t.clock for t in triggers if t is not first)),
        due_on=first.due_on,
        stake=rule.stake,
        because=_explain(rule, first, triggers, origin, used, context),
    )


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


def _used(fittings: Sequence[Fitting], since: datetime, context: Context) -> Reading:
    """What the meters counted after `since` while the item was fitted."""
    total = Reading()
    for fitting in fittings:
        start, end = max(fitting.start, since), min(fitting.end or context.now, context.now)
        if end > start:
            total += context.usage.between(start, end)
    return total


def _trigger_state(
    trigger: Trigger, since: datetime, used: Reading, item: Item, index: float | None, context: Context
) -> TriggerState:
    figure = interval(trigger, index=index, school=context.school)
    days = max(0, (context.today - context.local_day(since)).days)
    if trigger.calendar is Calendar.STANDS_FOR_USE:
        reference = trigger.reference_h_per_week or 0.0
        clock = Clock(Meter.RUN_HOURS, round(used.run_hours, 6), figure / 7 * reference)
    elif trigger.meter is Meter.DAYS:
        clock = Clock(Meter.DAYS, days, figure)
    elif trigger.meter is Meter.RUN_HOURS:
        clock = Clock(Meter.RUN_HOURS, round(used.run_hours, 6), figure)
    elif trigger.meter is Meter.RUNS:
        clock = Clock(Meter.RUNS, used.runs, figure)
    else:
        clock = Clock(Meter.WASHES, item.wash_count, figure)
    return TriggerState(trigger, clock, _expected_day(clock, context), _explain_trigger(trigger, clock, figure, index))


def _expected_day(clock: Clock, context: Context) -> date | None:
    """The local day on which a clock reaches its limit at the usual pace; None when it never does.

    A usual week is walked run by run; without one, the pace of the last weeks is drawn on.
    """
    if clock.left == 0:
        return context.today
    if clock.meter is Meter.DAYS:
        return context.today + timedelta(days=ceil(clock.left))
    per_run = {Meter.RUN_HOURS: context.schedule.run_min / 60 if context.schedule else 0.0, Meter.RUNS: 1.0}
    if context.schedule and clock.meter in per_run:
        return context.schedule.nth_run(ceil(round(clock.left / per_run[clock.meter], 6)), context.next_run_from)
    weekly = {Meter.RUN_HOURS: context.pace.hours_per_week, Meter.RUNS: context.pace.runs_per_week}
    weeks = weeks_to_use(clock.left, weekly.get(clock.meter, 0.0))
    return context.today + timedelta(days=ceil(weeks * 7)) if weeks < FAR_WEEKS else None


def _urgency(state: TriggerState) -> tuple[bool, date, float]:
    past = state.clock.share >= 1
    return (not past, date.max if past else (state.due_on or date.max), -state.clock.share)


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
            due_on=None,
            stake=stake,
            because=Because("slot_empty", {"slot": slot.key}),
        )
    ]


def _explain_trigger(trigger: Trigger, clock: Clock, figure: float, index: float | None) -> Because:
    return Because(
        "trigger",
        {
            "meter": trigger.meter,
            "calendar": trigger.calendar,
            "low": trigger.low,
            "high": trigger.high,
            "figure": round(figure, 3),
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
    context: Context,
) -> Because:
    """The tree: what governs, since when, how much ran, how school and load placed the figure, the other triggers."""
    usual = context.pace
    parts = [
        first.because,
        origin,
        Because("used", {"run_hours": round(used.run_hours, 3), "runs": used.runs}),
        Because(
            "usual_use",
            {"hours_per_week": round(usual.hours_per_week, 3), "runs_per_week": usual.runs_per_week},
        ),
        Because("school", {"school": context.school}),
        Because("book", {"figure_kind": rule.figure, "reason": rule.reason, "moved_by": rule.moved_by}),
    ]
    others = tuple(t.because for t in triggers if t is not first)
    if others:
        parts.append(Because("other_triggers", {"count": len(others)}, others))
    return Because("due" if first.clock.share >= 1 else "not_yet", {"share": round(first.clock.share, 3)}, tuple(parts))
