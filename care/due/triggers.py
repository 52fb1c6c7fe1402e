"""One trigger of a rule: where its figure comes from, what its clock has counted, and what is still needed.

A figure of the book is placed in its range by the household's load, once. The learned factor divides it; the school's
cap bounds what comes out. What was used under another load counts by the figure that was in force then, cap included:
so more load is never later, and less load never at once overdue.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta

from care.due.context import Context
from care.due.forecast import Remaining, Spent
from care.due.learning import BORDERS, Factor
from care.due.reading import Reading
from care.due.usage import Pace, a_week, weeks_to_use
from care.due_state import Clock
from care.model import Inspection, ToldFilling
from care.rules import Rule, Trigger
from care.vocabulary import Action, Calendar, Figure, Found, Meter, Mishap, School

FAR_WEEKS = 5_200
"""Further away than this is never [weeks]: a machine that hardly ever runs."""
STRETCH = {School.LABEL: 1.0, School.WORKSHOP: 1.5, School.THRIFTY: 2.5}
"""How far past its longer figure a school lets an interval go [-]."""
FOUND_SHARE = {Found.CLEAN: 0.0, Found.LIGHT: 0.5, Found.DUE: 1.0, Found.OVERDUE: 1.5}
"""What an answer is worth as a share of a condition [-]: at 1 it falls due."""
LONGEST_GONE = 2.0
"""No part whose start nobody knew is taken to be further gone than this share of its interval [-]."""
FOUND_BASE: dict[Found, tuple[float, float]] = {
    found: (1.0 if found is Found.DUE else low, min(high, LONGEST_GONE)) for found, (low, high) in BORDERS.items()
}
"""Where an answer puts a part whose start nobody knew, as a share of its interval [-, from and to]: due is due."""

FEWEST_WASHES = 3
"""From so many washes on their pace tells when the last one a part stands will come [-]. Ours."""

EMPTYING = (Action.REPLACE, Action.EMPTY)
"""What empties a bag or bin."""
WHOLE = frozenset({Meter.RUNS, Meter.MOP_RUNS, Meter.EVACUATIONS, Meter.FILLS, Meter.CHARGES})
"""Meters that count whole things: no load asks for half of one."""

Span = tuple[datetime, datetime]
UNMEASURED = frozenset({Meter.WASHES, Meter.CONDITION, Meter.MISHAPS})
"""Meters of which a part cannot be some way through without anybody knowing."""


@dataclass(frozen=True, slots=True)
class Elapsed:
    """What has happened to an item since a clock of its started.

    `used` is what the meters counted while it was fitted, in `spans`; `days` local days, `washes` of its whole life,
    `condition` what was last found [-]; `counter_h` what the machine's own counter added to the hours [h]. `base` is
    the share of the interval [-, from and to] gone before that, where nobody knows it; `mishaps` came since. `fine` is
    the last look that found it not in need of it: what was counted before that is no more than the answer says.
    `days_seen` are the local days until then, and `counter_seen` tells that the counter was read by then.
    """

    since: datetime
    spans: Sequence[Span]
    used: Reading
    days: int
    washes: int
    condition: float
    counter_h: float = 0.0
    base: tuple[float, float] | None = None
    mishaps: frozenset[Mishap] = frozenset()
    fine: Inspection | None = None
    days_seen: int = 0
    counter_seen: bool = False

    def split(self) -> tuple[Sequence[Span], Sequence[Span]]:
        """The spans before and after it was seen; all of them after where it was not."""
        if self.fine is None:
            return (), self.spans
        at = self.fine.at
        before = [(start, min(end, at)) for start, end in self.spans if start < at]
        return before, [(max(start, at), end) for start, end in self.spans if end > at]


@dataclass(frozen=True, slots=True)
class TriggerState:
    """One trigger: its clock, what it still needs, and the figures behind its limit (in the trigger's unit)."""

    trigger: Trigger
    clock: Clock
    need: Remaining
    figure: float
    by_load: float
    cap: float

    @property
    def at_longest(self) -> bool:
        """Whether the figure is the longest that the school allows."""
        return self.figure >= self.cap


def placed(trigger: Trigger, rule: Rule, index: float | None) -> float:
    """The figure of a trigger in its meter's unit: the load index [0..1] places it in the range, once.

    high * (low / high) ** index; the middle where no load moves the rule; 1 for a condition. A single figure stands for
    an ordinary home: up to the middle load it holds as it is, from there it falls to the rule's share at full load.
    What a household told of its container makes it so many times as long.

    >>> from care.rules import Card, Rule
    >>> from care.vocabulary import Action, Figure, LoadKind
    >>> rule = Rule(Action.WASH, (Trigger(Meter.RUNS, 1, 4),), "smell", Figure.OURS, "", Card(1, ("x",)), LoadKind.HAIR)
    >>> placed(rule.triggers[0], rule, 0.5), placed(Trigger(Meter.RUNS, 10, 10), rule, 1.0)
    (2.0, 5.0)
    """
    if trigger.meter is Meter.CONDITION:
        return 1.0
    index = 0.5 if index is None else index
    if trigger.low < trigger.high or not trigger.counts_use:
        by_load: float = trigger.high * (trigger.low / trigger.high) ** index
    else:
        by_load = trigger.high * rule.full_load ** max(0.0, 2 * index - 1)
    own = by_load * trigger.times
    return max(1.0, own) if trigger.meter in WHOLE else own


def as_told(rule: Rule, filling: ToldFilling | None, context: Context) -> Rule:
    """A rule whose figures of use are what the household told of its container; no figure that it set itself moves.

    The bound of a school stays the book's.
    """
    if filling is None or rule.action not in EMPTYING or rule.moved_by is None or rule.figure is Figure.HOUSEHOLD:
        return rule
    usual = Pace(filling.hours_per_week, filling.runs_per_week)

    def one(trigger: Trigger) -> Trigger:
        if not trigger.counts_use:
            return trigger
        book = in_clock_units(trigger, placed(trigger, rule, filling.index))
        took = filling.weeks * a_week(clock_meter(trigger), usual, context.usage, context.now)
        return replace(trigger, times=took / book) if took else trigger

    return replace(rule, triggers=tuple(one(trigger) for trigger in rule.triggers))


def cap(trigger: Trigger, rule: Rule, school: School) -> float:
    """The longest a school lets the interval be, in the trigger's unit: the longer figure, stretched by some schools.

    A figure of the household's own is never stretched.
    """
    if trigger.meter is Meter.CONDITION:
        return 1.0
    stretched = not rule.never_stretch and rule.figure is not Figure.HOUSEHOLD
    return trigger.high * (STRETCH[school] if stretched else 1.0)


def clock_meter(trigger: Trigger) -> Meter:
    """What its clock counts: days that stand for use are counted in hours."""
    return Meter.RUN_HOURS if trigger.calendar is Calendar.STANDS_FOR_USE else trigger.meter


def in_clock_units(trigger: Trigger, figure: float) -> float:
    """A figure in the unit its clock counts: days that stand for use become hours of running [h]."""
    return figure / 7 * (trigger.reference_h_per_week or 0.0) if trigger.calendar is Calendar.STANDS_FOR_USE else figure


def counted_by_load(trigger: Trigger, rule: Rule, spans: Sequence[Span], context: Context) -> Spent:
    """What a trigger's clock counted in `spans`, each stretch of another load apart: (count, figure placed by the load
    of that time), both in the unit of its clock.
    """
    meter, usage = clock_meter(trigger), context.usage
    if rule.moved_by is None:
        counted = sum(usage.count(meter, start, end) for start, end in spans)
        return ((counted, in_clock_units(trigger, placed(trigger, rule, None))),)
    at_load: dict[float, float] = {}
    for start, end in spans:
        for stretch in context.loads.stretches(rule.moved_by, start, end, context.zone):
            counted = usage.count(meter, stretch.start, stretch.end)
            if counted:
                at_load[stretch.index] = at_load.get(stretch.index, 0.0) + counted
    return tuple(
        (count, in_clock_units(trigger, placed(trigger, rule, index))) for index, count in sorted(at_load.items())
    )


def share_by_the_book(trigger: Trigger, rule: Rule, spans: Sequence[Span], context: Context) -> float:
    """The share of the interval [-] that `spans` took at the book's own rate, whatever a school allows: dirt knows no
    cap.
    """
    return sum(count / figure for count, figure in counted_by_load(trigger, rule, spans, context))


def limit_at(trigger: Trigger, rule: Rule, school: School, index: float | None, factor: Factor) -> float:
    """The interval in the trigger's unit: placed by load, moved by what was found, bounded by the school."""
    own = placed(trigger, rule, index)
    if _learns(trigger, rule) and factor.looks:
        own /= factor.median
    return min(own, cap(trigger, rule, school))


def _learns(trigger: Trigger, rule: Rule) -> bool:
    """Whether what is found moves the trigger's figure: never one that the household set itself."""
    return trigger.counts_use and rule.figure is not Figure.HOUSEHOLD


def trigger_state(
    trigger: Trigger, rule: Rule, gone: Elapsed, index: float | None, factor: Factor, context: Context, school: School
) -> TriggerState:
    """How one trigger stands now. Of a start that nobody knows, the clock takes the middle."""
    by_load, longest = placed(trigger, rule, index), cap(trigger, rule, school)
    figure = limit_at(trigger, rule, school, index, factor)
    meter = clock_meter(trigger)
    limit = in_clock_units(trigger, figure)
    base = gone.base if trigger.meter not in UNMEASURED else None
    before, after = _spent(trigger, rule, gone, in_clock_units(trigger, by_load), context)
    need = Remaining(
        meter,
        after,
        in_clock_units(trigger, by_load),
        in_clock_units(trigger, longest),
        learned=_learns(trigger, rule),
        assumed=gone.used.assumed(meter) if trigger.counts_use else 0.0,
        base=base,
        a_day=_washes_a_day(gone) if meter is Meter.WASHES else 0.0,
        before=before,
        at_most=FOUND_BASE[gone.fine.found][1] if gone.fine else 1.0,
    )
    rate = factor.median if need.learned and factor.looks else 1.0
    count = max(0.0, round(limit * float(need.share(rate)), 6))
    clock = Clock(meter, count + sum(base) / 2 * limit if base else count, limit)
    return TriggerState(trigger, clock, need, figure, by_load, longest)


def _washes_a_day(gone: Elapsed) -> float:
    """How often it was washed so far [1/day]; 0 while that tells nothing yet."""
    return gone.washes / gone.days if gone.washes >= FEWEST_WASHES and gone.days else 0.0


def _spent(trigger: Trigger, rule: Rule, gone: Elapsed, by_load: float, context: Context) -> tuple[Spent, Spent]:
    """What the trigger's clock has counted before and after it was last seen; all of it after where it was not."""
    if trigger.counts_use:
        before, after = (counted_by_load(trigger, rule, spans, context) for spans in gone.split())
        if clock_meter(trigger) is not Meter.RUN_HOURS or not gone.counter_h:
            return before, after
        added = ((gone.counter_h, by_load),)
        return ((*before, *added), after) if gone.counter_seen else (before, (*after, *added))
    if trigger.after is not None:
        return (), ((float(trigger.after in gone.mishaps), by_load),)
    if trigger.meter is Meter.DAYS:
        return ((gone.days_seen, by_load),), ((gone.days - gone.days_seen, by_load),)
    counted = {Meter.WASHES: float(gone.washes), Meter.CONDITION: gone.condition}
    return (), ((counted[trigger.meter], by_load),)


def urgency(state: TriggerState, context: Context) -> tuple[bool, date, float]:
    """Past ones first, the furthest past before the others; then by the day each is expected at the usual pace."""
    past = state.clock.share >= 1
    speed = state.need.a_day * 7 or a_week(state.clock.meter, context.pace, context.usage, context.now)
    weeks = min(weeks_to_use(state.clock.left, speed), FAR_WEEKS)
    return (not past, date.max if past else context.today + timedelta(weeks=weeks), -state.clock.share)
