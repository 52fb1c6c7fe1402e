"""What is known of one task before any figure: since when its clock runs, what it counted, what was found."""

from bisect import bisect_left
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from care.due.context import Context
from care.due.counters import reconcile
from care.due.learning import ASKS, Factor, contradiction, learn
from care.due.past import Past, counting_actions, spans, speaks_of, total_of
from care.due.triggers import (
    FOUND_BASE,
    FOUND_SHARE,
    UNMEASURED,
    Elapsed,
    share_by_the_book,
)
from care.items import Fitting, Item
from care.model import (
    HomeChanged,
    Inspection,
    ServiceRecord,
)
from care.parts import Slot
from care.reasons import CounterFact
from care.rules import Rule, Trigger
from care.since import SinceFact, SinceFittedFact, SinceLookFact, SinceNewFact, SinceServiceFact, SinceUnknownFact
from care.vocabulary import Action, Found, Meter

FINE = (Found.CLEAN, Found.LIGHT)
"""What says that it is not yet in need of it."""


NOT_READ: tuple[float, CounterFact | None, datetime | None] = (0.0, None, None)


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
    shares = shares_at_looks(rule, looks, past, context)
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
    fitted = spans(fittings, since, context.now)
    used = total_of(fitted, context)
    counted = any(trigger.meter is Meter.RUN_HOURS for trigger in rule.triggers)
    added, counter, read = _counter(rule, item, since, fittings, services, past, context) if counted else NOT_READ
    about = speaks_of(rule)
    found = [look for look in past.inspections if look.about in about and look.item_id == item.id]
    found = [look for look in found if look.at > since or (start.base and look.at == since)]
    last = max(found, key=lambda look: look.at) if found else None
    fine = last if last is not None and last.found in FINE and start.base is None else None
    return (
        Elapsed(
            since=since,
            spans=fitted,
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
    for counter in sorted((c for c in past.counters if c.item_id == item.id and c.at >= since), key=lambda c: c.at):
        ran = total_of(spans(fittings, since, counter.at), context).run_hours
        cleaned = max((s.at for s in services if s.at <= counter.at and s.action is not Action.REPLACE), default=None)
        after = total_of(spans(fittings, cleaned, counter.at), context).run_hours if cleaned and rule.is_life else None
        both = reconcile(counter_h=counter.used_h, ours_h=ran + added, since_cleaning_h=after, trusted=counter.trusted)
        if not both.ignored:
            added, read = counter.used_h - ran, counter.at
        node = CounterFact(
            day=context.local_day(counter.at),
            counter_h=round(both.counter_h, 2),
            ours_h=round(both.ours_h, 2),
            looks_reset=both.looks_reset,
            ignored=both.ignored,
            chosen=counter.trusted is not None,
        )
    return added, node, read


def _looks(rule: Rule, slot: Slot, item: Item, past: Past) -> list[Inspection]:
    """What was found in this slot about the rule's action, oldest first; of a life only on the same kind of part.

    A factor belongs to its slot: what was found on the item while it sat elsewhere teaches nothing here.
    """
    about = speaks_of(rule)
    looks = [look for look in past.inspections if look.about in about and look.slot == slot.key]
    if rule.is_life:
        looks = [look for look in looks if past.same_part(look.item_id, item.part)]
    return sorted(looks, key=lambda look: look.at)


Shares = list[tuple[datetime, float, Found]]
"""Looks: when, the share of the interval that the book's rate gave then [-], and what was found."""


def shares_at_looks(rule: Rule, looks: Sequence[Inspection], past: Past, context: Context) -> Shares:
    """What each look tells of the rate, with the load of its time; none from before something changed at home."""
    learned = [t for t in rule.triggers if t.counts_use]
    if not learned or rule.action is Action.INSPECT or not looks:
        return []
    since = max((one.since for one in _answers(rule, past) if one.changed), default=None)
    looks = [look for look in looks if since is None or look.at >= since]
    return list(_each_share(rule, learned, looks, past, context))


def _answers(rule: Rule, past: Past) -> list[HomeChanged]:
    return [one for one in past.changes if one.about in speaks_of(rule)]


def contradicted(rule: Rule, shares: Shares, past: Past) -> tuple[int, datetime] | None:
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
            done[look.item_id] = sorted(s.at for s in services if s.action in counting_actions(rule))
        n = bisect_left(done[look.item_id], look.at)
        last = done[look.item_id][n - 1] if n and not rule.is_life else None
        if last is None and look.item_id in dark:
            continue  # nobody knows how far it was, so the look tells no rate
        since = last or min((f.start for f in fittings if f.start < look.at), default=look.at)
        fitted = spans(fittings, since, look.at)
        yield look.at, max(share_by_the_book(trigger, rule, fitted, context) for trigger in learned), look.found


def _one_a_day(looks: Sequence[Inspection], past: Past, context: Context) -> list[Inspection]:
    """The last of the looks at one part on one day, nothing done between: however often somebody looks, it is one."""
    made: dict[object, Inspection] = {}
    work: dict[UUID, list[datetime]] = {}
    for look in looks:
        if look.item_id not in work:
            services = past.of(look.item_id)[1]
            work[look.item_id] = sorted(s.at for s in services if s.action is not Action.INSPECT)
        done = bisect_left(work[look.item_id], look.at)
        made[look.item_id, context.local_day(look.at), done] = look
    return list(made.values())


@dataclass(frozen=True, slots=True)
class Start:
    """Where a rule's clock starts and why; `base` is the share of the interval [-] that may have been gone by then.

    `is_new`: nothing was ever done since it was new; `is_unknown`: nobody knows how far it was, and no look settled it.
    """

    since: datetime
    origin: SinceFact
    base: tuple[float, float] | None = None
    is_new: bool = False
    is_unknown: bool = False


def _not_known(
    rule: Rule, item: Item, past: Past, looks: Sequence[Inspection], start: Start, context: Context
) -> Start | None:
    """The start of a clock of which nobody knows how far it was: anywhere, until the first look settles it."""
    unknowns = [u for u in past.unknowns if u.item_id == item.id and u.life is rule.is_life]
    if not unknowns or not start.is_new or all(t.meter in UNMEASURED for t in rule.triggers):
        return None
    since = max(unknown.at for unknown in unknowns)
    seen = [look for look in looks if look.item_id == item.id and look.at >= since]
    if not seen:
        return Start(since, SinceUnknownFact(day=context.local_day(since)), (0.0, 1.0), is_unknown=True)
    last = seen[-1]
    settled = SinceLookFact(day=context.local_day(last.at), found=last.found)
    return Start(last.at, settled, FOUND_BASE[last.found])


def _origin(rule: Rule, fittings: Sequence[Fitting], services: Sequence[ServiceRecord], context: Context) -> Start:
    """Where the rule's clock starts, and why: the last such action on this item, or its first fitting."""
    new = min((f.start for f in fittings), default=context.now)
    counts = counting_actions(rule)
    done = () if rule.is_life else (s for s in services if s.action in counts)
    last = max(done, key=lambda s: s.at, default=None)
    if last is None:
        return Start(new, SinceNewFact(day=context.local_day(new)), is_new=True)
    cleaned = context.local_day(last.at)
    went_in = min((context.local_day(f.start) for f in fittings if f.start >= last.at), default=None)
    if went_in is not None and went_in > cleaned:
        return Start(last.at, SinceFittedFact(day=went_in, action=last.action, cleaned=cleaned))
    return Start(last.at, SinceServiceFact(day=cleaned, action=last.action))
