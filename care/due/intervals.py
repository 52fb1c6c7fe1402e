"""From rules, fittings, runs and records to due states with their explanation."""

from bisect import bisect_left
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from functools import cached_property
from typing import Any, Protocol, TypeVar
from uuid import UUID

from care.due.context import Context
from care.due.counters import reconcile
from care.due.explain import Grounds, explain
from care.due.forecast import expected
from care.due.learning import ASKS, BORDERS, Factor, contradiction, learn
from care.due.triggers import (
    FOUND_BASE,
    FOUND_SHARE,
    UNMEASURED,
    Elapsed,
    Span,
    TriggerState,
    as_told,
    limit_at,
    share_by_the_book,
    trigger_state,
    urgency,
)
from care.due.usage import Reading
from care.items import Fitting, Item
from care.model import (
    CounterReading,
    DueState,
    HomeChanged,
    Inspection,
    Level,
    LoadEvent,
    Machine,
    NotKnown,
    PaceKnown,
    ServiceRecord,
    earlier,
)
from care.parts import Slot
from care.reasons import (
    BeforeWorkFact,
    CounterFact,
    GuardMissedFact,
    SinceFact,
    SinceFittedFact,
    SinceLookFact,
    SinceNewFact,
    SinceServiceFact,
    SinceUnknownFact,
    SlotEmptyFact,
)
from care.rules import Rule, Trigger
from care.vocabulary import Action, Column, Consequence, Found, Meter, School

WEARING_FROM = BORDERS[Found.DUE][0]
"""Share of the interval from which a part counts as wearing [-]: the border of "light" as people see it."""
OVERDUE_FROM = BORDERS[Found.OVERDUE][0]
"""Share of the interval from which a part counts as overdue [-]: the border of "due" as people see it."""


FINE = (Found.CLEAN, Found.LIGHT)
"""What says that it is not yet in need of it."""
NOT_READ: tuple[float, CounterFact | None, datetime | None] = (0.0, None, None)


@dataclass(frozen=True)
class Past:
    """What happened in one slot, or on one machine, to whatever items; `parts` tells what kind of part each item is."""

    fittings: Sequence[Fitting] = ()
    services: Sequence[ServiceRecord] = ()
    inspections: Sequence[Inspection] = ()
    counters: Sequence[CounterReading] = ()
    unknowns: Sequence[NotKnown] = ()
    changes: Sequence[HomeChanged] = ()
    parts: Mapping[UUID, str] | None = None

    @cached_property
    def _by_item(self) -> dict[UUID, tuple[list[Fitting], list[ServiceRecord]]]:
        made: dict[UUID, tuple[list[Fitting], list[ServiceRecord]]] = {}
        for fitting in self.fittings:
            made.setdefault(fitting.item_id, ([], []))[0].append(fitting)
        for service in self.services:
            made.setdefault(service.item_id, ([], []))[1].append(service)
        return made

    def of(self, item_id: UUID) -> tuple[list[Fitting], list[ServiceRecord]]:
        """The fittings and services of one item."""
        return self._by_item.get(item_id, ([], []))

    def same_part(self, item_id: UUID, part: str) -> bool:
        """Whether an item is of that kind of part, as far as is known."""
        return self.parts is None or self.parts.get(item_id, part) == part


class Facts:
    """What happened to the `items` of one machine, sorted once by slot and by item."""

    def __init__(
        self,
        items: Mapping[UUID, Item],
        *,
        fittings: Iterable[Fitting],
        services: Iterable[ServiceRecord],
        inspections: Iterable[Inspection] = (),
        counters: Iterable[CounterReading] = (),
        unknowns: Iterable[NotKnown] = (),
        changes: Iterable[HomeChanged] = (),
    ) -> None:
        whole = Past(tuple(fittings), tuple(services), tuple(inspections), tuple(counters), tuple(unknowns))
        self.items = items
        self._by_slot = _sorted_in(whole, lambda fact: fact.slot)
        self._by_item = _sorted_in(whole, lambda fact: fact.item_id)
        self._parts = {item_id: item.part for item_id, item in items.items()}
        self._changes = list(changes)

    def of(self, slot: str, item_id: UUID) -> Past:
        """What happened in a slot to whatever items, and to the item in it anywhere on the machine."""
        changes = [one for one in self._changes if one.slot == slot]
        return _together(self._by_slot.get(slot), self._by_item.get(item_id), self._parts, changes)


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


class _Fact(Protocol):
    @property
    def slot(self) -> str: ...
    @property
    def item_id(self) -> UUID: ...


K = TypeVar("K")
KINDS = ("fittings", "services", "inspections", "counters", "unknowns")


def _sorted_in(past: Past, key: Callable[[_Fact], K]) -> dict[K, dict[str, list[Any]]]:
    """What happened, sorted by slot or by item, each kind of fact apart."""
    made: dict[K, dict[str, list[Any]]] = {}
    for kind in KINDS:
        for fact in getattr(past, kind):
            made.setdefault(key(fact), {name: [] for name in KINDS})[kind].append(fact)
    return made


def _together(
    here: dict[str, list[Any]] | None,
    item: dict[str, list[Any]] | None,
    parts: Mapping[UUID, str],
    changes: Sequence[HomeChanged],
) -> Past:
    """What happened in a slot to any item, and what happened to its item anywhere on the machine."""
    facts = {kind: list(here[kind]) if here else [] for kind in KINDS}
    for kind in KINDS if item else ():
        known = {id(fact) for fact in facts[kind]}
        facts[kind] += [fact for fact in item[kind] if id(fact) not in known] if item else []
    return Past(**facts, parts=parts, changes=changes)


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
        theirs = learn((share, found) for _, share, found in _shares(held, looks, past, context))
        there = governing(held, other, theirs)[0]
        return there.trigger, there.figure

    triggers = governing(rule, school, factor)
    first, others = triggers[0], triggers[1:]
    unsure = start.origin.code == "since_unknown"
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
        contradicted=_contradicted(rule, shares, past),
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


@dataclass(frozen=True, slots=True)
class Belief:
    """What is known of one task before any figure: where its clock starts, what it counted since, at which load; what
    was found, the share of the interval at each look, and the rate that they teach.
    """

    start: "Start"
    gone: Elapsed
    counter: CounterFact | None
    index: float | None
    looks: Sequence[Inspection]
    shares: "Shares"
    factor: Factor


def belief(rule: Rule, slot: Slot, item: Item, past: Past, context: Context) -> Belief:
    """What is known of the task of a rule on the `item` that sits in `slot`."""
    fittings, services = past.of(item.id)
    looks = _looks(rule, slot, item, past)
    start = _origin(rule, fittings, services, context)
    start = _not_known(rule, item, past, looks, start, context) or start
    index = context.loads.index(rule.moved_by, context.now, context.zone) if rule.moved_by else None
    shares = _shares(rule, looks, past, context)
    gone, counter = _gone(rule, item, fittings, services, start, past, context)
    return Belief(start, gone, counter, index, looks, shares, learn((share, found) for _, share, found in shares))


def _gone(
    rule: Rule,
    item: Item,
    fittings: Sequence[Fitting],
    services: Sequence[ServiceRecord],
    start: "Start",
    past: Past,
    context: Context,
) -> tuple[Elapsed, CounterFact | None]:
    since = start.since
    spans = _spans(fittings, since, context.now)
    used = _total(spans, context)
    counted = any(trigger.meter is Meter.RUN_HOURS for trigger in rule.triggers)
    added, counter, read = _counter(rule, item, since, fittings, services, past, context) if counted else NOT_READ
    about = _speaks_of(rule)
    found = [look for look in past.inspections if look.about in about and look.item_id == item.id]
    found = [look for look in found if look.at > since or (start.base and look.at == since)]
    last = max(found, key=lambda look: look.at) if found else None
    fine = last if last is not None and last.found in FINE and start.base is None else None
    return (
        Elapsed(
            since=since,
            spans=spans,
            used=used,
            days=max(0, (context.today - context.local_day(since)).days),
            washes=item.wash_count,
            condition=FOUND_SHARE[last.found] if last else 0.0,
            counter_h=added,
            base=start.base,
            mishaps=frozenset(kind for at, kind in context.mishaps if at > since),
            fine=fine,
            days_seen=max(0, (context.local_day(fine.at) - context.local_day(since)).days) if fine else 0,
            counter_seen=fine is not None and read is not None and read <= fine.at,
        ),
        counter,
    )


def _counter(
    rule: Rule,
    item: Item,
    since: datetime,
    fittings: Sequence[Fitting],
    services: Sequence[ServiceRecord],
    past: Past,
    context: Context,
) -> tuple[float, CounterFact | None, datetime | None]:
    """What the machine's own counter, read since the clock started, adds to our hours [h]; what it said, and when.

    Each reading is held against our count as the readings before it left it; one that ours counts on against changes
    nothing.
    """
    added, node, read = NOT_READ
    for told in sorted((c for c in past.counters if c.item_id == item.id and c.at >= since), key=lambda c: c.at):
        ran = _total(_spans(fittings, since, told.at), context).run_hours
        cleaned = max((s.at for s in services if s.at <= told.at and s.action is not Action.REPLACE), default=None)
        after = _total(_spans(fittings, cleaned, told.at), context).run_hours if cleaned and rule.is_life else None
        both = reconcile(counter_h=told.used_h, ours_h=ran + added, since_cleaning_h=after, trusted=told.trusted)
        if not both.ignored:
            added, read = told.used_h - ran, told.at
        node = CounterFact(
            day=context.local_day(told.at),
            counter_h=round(both.counter_h, 2),
            ours_h=round(both.ours_h, 2),
            looks_reset=both.looks_reset,
            ignored=both.ignored,
            chosen=told.trusted is not None,
        )
    return added, node, read


def _looks(rule: Rule, slot: Slot, item: Item, past: Past) -> list[Inspection]:
    """What was found in this slot about the rule's action, oldest first; of a life only on the same kind of part.

    A factor belongs to its slot: what was found on the item while it sat elsewhere teaches nothing here.
    """
    about = _speaks_of(rule)
    looks = [look for look in past.inspections if look.about in about and look.slot == slot.key]
    if rule.is_life:
        looks = [look for look in looks if past.same_part(look.item_id, item.part)]
    return sorted(looks, key=lambda look: look.at)


Shares = list[tuple[datetime, float, Found]]
"""Looks: when, the share of the interval that the book's rate gave then [-], and what was found."""


def _shares(rule: Rule, looks: Sequence[Inspection], past: Past, context: Context) -> Shares:
    """What each look tells of the rate, with the load of its time; none from before something changed at home."""
    learned = [t for t in rule.triggers if t.counts_use]
    if not learned or rule.action is Action.INSPECT or not looks:
        return []
    since = max((one.since for one in _answers(rule, past) if one.changed), default=None)
    looks = [look for look in looks if since is None or look.at >= since]
    return list(_each_share(rule, learned, looks, past, context))


def _answers(rule: Rule, past: Past) -> list[HomeChanged]:
    return [one for one in past.changes if one.about in _speaks_of(rule)]


def _contradicted(rule: Rule, shares: Shares, past: Past) -> tuple[int, datetime] | None:
    """Which way the last looks contradict what was believed, and since when, where nobody was asked about them yet."""
    asked = max((one.at for one in _answers(rule, past)), default=None)
    fresh = [at for at, _, _ in shares if asked is None or at > asked]
    way = contradiction([(share, found) for _, share, found in shares]) if len(fresh) >= ASKS else 0
    return (way, fresh[-ASKS]) if way else None


def _each_share(
    rule: Rule, learned: Sequence[Trigger], looks: Sequence[Inspection], past: Past, context: Context
) -> Iterator[tuple[datetime, float, Found]]:
    done: dict[UUID, list[datetime]] = {}
    dark = {unknown.item_id for unknown in past.unknowns if unknown.life is rule.is_life}
    for look in _one_a_day(looks, past, context):
        fittings, services = past.of(look.item_id)
        if look.item_id not in done:
            done[look.item_id] = sorted(s.at for s in services if s.action in _counts(rule))
        n = bisect_left(done[look.item_id], look.at)
        last = done[look.item_id][n - 1] if n and not rule.is_life else None
        if last is None and look.item_id in dark:
            continue  # nobody knows how far it was, so the look tells no rate
        since = last or min((f.start for f in fittings if f.start < look.at), default=look.at)
        spans = _spans(fittings, since, look.at)
        yield look.at, max(share_by_the_book(trigger, rule, spans, context) for trigger in learned), look.found


def _one_a_day(looks: Sequence[Inspection], past: Past, context: Context) -> list[Inspection]:
    """The last of the looks at one part on one day, nothing done between: however often somebody looks, it is one."""
    made: dict[object, Inspection] = {}
    for look in looks:
        done = sum(s.at < look.at for s in past.of(look.item_id)[1] if s.action is not Action.INSPECT)
        made[look.item_id, context.local_day(look.at), done] = look
    return list(made.values())


def _counts(rule: Rule) -> set[Action]:
    """The actions that set the rule's service clock back."""
    return {rule.action, *rule.done_by, *_or_none(rule.about), *_or_none(rule.instead_of)}


def _speaks_of(rule: Rule) -> set[Action]:
    """The actions that looks may be about which tell of this rule: its own, and what it stands in for."""
    return {rule.about or rule.action, *_or_none(rule.instead_of)}


def _or_none(action: Action | None) -> tuple[Action, ...]:
    return (action,) if action else ()


def _events(rule: Rule, since: datetime, context: Context) -> list[LoadEvent]:
    if rule.moved_by is None:
        return []
    return context.loads.on(rule.moved_by, context.local_day(since), context.today)


@dataclass(frozen=True, slots=True)
class Start:
    """Where a rule's clock starts and why; `base` is the share of the interval [-] that may have been gone by then.

    `is_new`: nothing was ever done since it was new.
    """

    since: datetime
    origin: SinceFact
    base: tuple[float, float] | None = None
    is_new: bool = False


def _not_known(
    rule: Rule, item: Item, past: Past, looks: Sequence[Inspection], start: Start, context: Context
) -> Start | None:
    """The start of a clock of which nobody knows how far it was: anywhere, until the first look settles it."""
    told = [u for u in past.unknowns if u.item_id == item.id and u.life is rule.is_life]
    if not told or not start.is_new or all(t.meter in UNMEASURED for t in rule.triggers):
        return None
    since = max(unknown.at for unknown in told)
    seen = [look for look in looks if look.item_id == item.id and look.at >= since]
    if not seen:
        return Start(since, SinceUnknownFact(day=context.local_day(since)), (0.0, 1.0))
    last = seen[-1]
    settled = SinceLookFact(day=context.local_day(last.at), found=last.found)
    return Start(last.at, settled, FOUND_BASE[last.found])


def _origin(rule: Rule, fittings: Sequence[Fitting], services: Sequence[ServiceRecord], context: Context) -> Start:
    """Where the rule's clock starts, and why: the last such action on this item, or its first fitting."""
    new = min((f.start for f in fittings), default=context.now)
    counts = _counts(rule)
    done = () if rule.is_life else (s for s in services if s.action in counts)
    last = max(done, key=lambda s: s.at, default=None)
    if last is None:
        return Start(new, SinceNewFact(day=context.local_day(new)), is_new=True)
    cleaned = context.local_day(last.at)
    went_in = min((context.local_day(f.start) for f in fittings if f.start >= last.at), default=None)
    if went_in is not None and went_in > cleaned:
        return Start(last.at, SinceFittedFact(day=went_in, action=last.action, cleaned=cleaned))
    return Start(last.at, SinceServiceFact(day=cleaned, action=last.action))


def _spans(fittings: Sequence[Fitting], since: datetime, until: datetime) -> list[Span]:
    """The times after `since` and until `until` in which the item was fitted."""
    spans = ((max(f.start, since), min(f.end or until, until)) for f in fittings)
    return [(start, end) for start, end in spans if end > start]


def _total(spans: Sequence[Span], context: Context) -> Reading:
    total = Reading()
    for start, end in spans:
        total += context.usage.between(start, end)
    return total


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
