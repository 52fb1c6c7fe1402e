"""From rules, fittings, runs and records to due states with their explanation."""

from collections.abc import Sequence
from dataclasses import replace
from datetime import datetime

from care.due.belief import belief, contradicted, shares_at_looks
from care.due.context import Context
from care.due.explain import Grounds, explain
from care.due.forecast import expected
from care.due.learning import BORDERS, Factor, learn
from care.due.past import Facts, Past
from care.due.triggers import (
    TriggerState,
    as_told,
    limit_at,
    trigger_state,
    urgency,
)
from care.due_state import DueState, PaceKnown, earlier
from care.items import Item
from care.model import Level, LoadEvent, Machine
from care.parts import Slot
from care.reasons import (
    BeforeWorkFact,
    GuardMissedFact,
    SlotEmptyFact,
)
from care.rules import Rule, Trigger
from care.vocabulary import Action, Column, Consequence, Found, Meter, School

WEARING_FROM = BORDERS[Found.DUE][0]
"""Share of the interval from which a part counts as wearing [-]: the border of "light" as people see it."""
OVERDUE_FROM = BORDERS[Found.OVERDUE][0]
"""Share of the interval from which a part counts as overdue [-]: the border of "due" as people see it."""


def assess_machine(machine: Machine, facts: Facts, context: Context) -> list[DueState]:
    """Every rule of every slot of `machine`; a slot without an item gives one state, `missing`."""
    states: list[DueState] = []
    missed = ""
    for slot in _guards_first(machine):
        item_id = machine.fitted.get(slot.key)
        if item_id is None:
            states.extend(_missing(slot, machine.features))
            continue
        past, item = facts.of(slot.key, item_id), facts.items[item_id]
        behind = missed if _is_behind_motor(machine, slot) else ""
        made = assess(slot, item, past=past, context=context, features=machine.features, missed=behind)
        missed = missed or (slot.name if _is_guard(machine, slot) and any(map(_was_missed, made)) else "")
        states.extend(made)
    order = {slot.key: n for n, slot in enumerate(machine.archetype.slots)}
    return sorted(states, key=lambda state: order[state.slot])


MISSED = 2.0
"""From so many times its interval on, a filter before the motor has let dust through to what lies behind [-]. Ours."""
SOONER = 0.5
"""How long what lies behind is then left unlooked at, beside what the book says [-]. Ours."""


def _guards_first(machine: Machine) -> list[Slot]:
    """The parts, those before the motor first: what they missed is known when what lies behind it is worked out."""
    parts = machine.archetype.parts(machine.features)
    return sorted(parts, key=lambda slot: not _is_guard(machine, slot))


def _is_guard(machine: Machine, slot: Slot) -> bool:
    return machine.archetype.column_of(slot) is Column.FILTER


def _is_behind_motor(machine: Machine, slot: Slot) -> bool:
    return machine.archetype.column_of(slot) is Column.EXHAUST


def _was_missed(state: DueState) -> bool:
    service = state.action not in (Action.REPLACE, Action.INSPECT)
    return service and state.stake is Consequence.MOTOR and not state.unsure and state.share >= MISSED


def _looked_at_sooner(rule: Rule) -> Rule:
    """A look at what lies behind the motor, in half its time."""
    if rule.action is not Action.INSPECT:
        return rule
    return replace(rule, triggers=tuple(replace(t, times=t.times * SOONER) for t in rule.triggers))


def assess(
    slot: Slot,
    item: Item,
    *,
    past: Past,
    context: Context,
    features: frozenset[str] = frozenset(),
    missed: str = "",
) -> list[DueState]:
    """One state for each rule of `slot` that holds, for the `item` that sits in it.

    What was found on earlier items counts, too. The service clock counts since the item's own last such action, the
    life clock since it was new; both count only while it was fitted. Of several triggers the first governs. `missed`
    names the filter before it that was left for too long: then it is looked at sooner.
    """
    states = []
    school = slot.school_in(context.school)
    for book in slot.rules:
        rule = book.in_force(school) if book.holds_with(features) else None
        if rule is not None:
            rule = as_told(rule, context.told.get(slot.key), context)
            rule = _looked_at_sooner(rule) if missed else rule
            states.append(_assess_rule(book, rule, school, slot, item, past, context))
    spared = {rule.about for rule in slot.rules if rule.about is not None}
    works = [state for state in states if state.action in spared]
    looks_first = [_before(works, state) if state.action is Action.INSPECT else state for state in states]
    return [_because_missed(state, missed) if state.action is Action.INSPECT else state for state in looks_first]


def _because_missed(look: DueState, missed: str) -> DueState:
    """A look that comes sooner says why."""
    if not missed:
        return look
    return replace(look, because=(*look.because, GuardMissedFact(part=missed)))


def _before(works: Sequence[DueState], look: DueState) -> DueState:
    """A look comes no later than the work that it could spare."""
    for work in works:
        if work.due and look.due and work.due.p50 < look.due.p50:
            because = (*look.because, BeforeWorkFact(action=work.action))
            look = replace(look, due=earlier(look.due, work.due), because=because)
    return look


def _assess_rule(
    book: Rule, rule: Rule, school: School, slot: Slot, item: Item, past: Past, context: Context
) -> DueState:
    known = belief(rule, slot, item, past, context)
    start, looks, gone = known.start, known.looks, known.gone
    index, shares, factor = known.index, known.shares, known.factor

    def governing(held: Rule, by: School, learned: Factor) -> list[TriggerState]:
        states = [trigger_state(t, held, gone, index, learned, context, by) for t in held.triggers]
        return sorted(states, key=lambda state: urgency(state, context))

    def elsewhere(other: School) -> tuple[Trigger, float] | None:
        held, here = book.at_school(other), book.at_school(school)
        if held is None:
            return None
        figures = [state.trigger for state in triggers if state.trigger.meter is not Meter.CONDITION]
        same = here is not None and held.triggers == here.triggers
        held = as_told(held, context.told.get(slot.key), context)
        if figures and book.own is None and same:
            return figures[0], limit_at(figures[0], held, other, index, factor)  # only the school's bound differs
        theirs = learn((share, found) for _, share, found in shares_at_looks(held, looks, past, context))
        there = governing(held, other, theirs)[0]
        return there.trigger, there.figure

    triggers = governing(rule, school, factor)
    first, others = triggers[0], triggers[1:]
    unsure = start.is_unknown
    why = Grounds(
        book=book,
        rule=rule,
        school=school,
        first=first,
        others=others,
        origin=start.origin,
        gone=gone,
        index=index,
        factor=factor,
        looks=looks,
        events=_events(rule, start.since, context),
        counter=known.counter,
        told=context.told.get(slot.key) if any(t.times != 1 for t in rule.triggers) else None,
        counted_by_machine=slot.counted_by_machine,
        contradicted=contradicted(rule, shares, past),
        elsewhere={other: elsewhere(other) for other in School if book.own or other is not school},
    )
    learns = first.trigger.counts_use and not first.at_longest
    return DueState(
        slot=slot.key,
        action=rule.action,
        item_id=item.id,
        level=Level.UNKNOWN if unsure and first.clock.share < 1 else _level(first.clock.share),
        share=first.clock.share,
        clocks=(first.clock, *(t.clock for t in others)),
        due=expected([t.need for t in triggers], factor, context.futures),
        stake=rule.stake,
        because=explain(why, context),
        unsure=unsure,
        pace=PaceKnown(learns, factor.looks if looks else 0, why.contradicted[1] if why.contradicted else None),
    )


def _events(rule: Rule, since: datetime, context: Context) -> list[LoadEvent]:
    if rule.moved_by is None:
        return []
    return context.loads.on(rule.moved_by, context.local_day(since), context.today)


def _level(share: float) -> Level:
    if share >= OVERDUE_FROM:
        return Level.OVERDUE
    if share >= 1:
        return Level.DUE
    return Level.WEARING if share >= WEARING_FROM else Level.FRESH


def _missing(slot: Slot, features: frozenset[str]) -> list[DueState]:
    """An empty slot: the machine must not run. Nothing to say of a slot that may stay empty."""
    rules = [rule for rule in slot.rules if rule.holds_with(features)]
    if not slot.needed_to_run or not rules:
        return []
    return [
        DueState(
            slot=slot.key,
            action=rules[0].action,
            item_id=None,
            level=Level.MISSING,
            share=0.0,
            clocks=(),
            due=None,
            stake=min(rule.stake for rule in rules),
            because=(SlotEmptyFact(slot=slot.key),),
        )
    ]
