"""How a bag or bin fills by the due engine's own belief: how fast, how full it is now, each filling as it was foreseen.

Times are weeks of the machine's usual week, with as much dirt as now. What a school says beside that (emptied after
every use, whatever the level) is no matter here: it moves the date, not the dust.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from itertools import pairwise
from math import exp, expm1, hypot, inf, log
from statistics import NormalDist

from care.due.belief import Belief, belief
from care.due.context import Context
from care.due.forecast import WEATHER_SD
from care.due.learning import Factor, learn
from care.due.past import Past
from care.due.triggers import EMPTYING, as_told, clock_meter, in_clock_units, placed, share_by_the_book, trigger_state
from care.due.usage import a_week
from care.items import Item
from care.kinds import Archetype
from care.parts import Slot
from care.rules import Rule, Trigger
from care.vocabulary import Column, Found, LoadKind, School

LEVELS = {Found.CLEAN: 0.1, Found.LIGHT: 0.5, Found.DUE: 1.0, Found.OVERDUE: 1.15}
"""How full a container is that somebody found so, as a share of what is usable [-]. Ours."""
SAME_WORK = timedelta(hours=12)
"""An emptying so soon after a look was done because of it. Ours."""
LOGGED = 10
"""How many fillings are held against what was expected of them. Ours."""
Z90 = NormalDist().inv_cdf(0.9)
LATELY = 4
"""How many fillings tell how well they are foreseen. Ours."""


def holders(kind: Archetype, features: frozenset[str]) -> list[tuple[Slot, Rule]]:
    """The places of a kind of machine that fill with what it takes up and that a person empties, and the rule of it."""
    columns = {station.key: station.column for station in kind.stations}
    parts = (slot for slot in kind.parts(features) if columns[slot.station] is Column.BIN)
    return [(slot, rule) for slot in parts if (rule := _emptied_by(slot, features)) is not None]


def _emptied_by(slot: Slot, features: frozenset[str]) -> Rule | None:
    """A new bag, or else emptying it; None where a dock does it."""
    moved = {rule.action: rule for rule in slot.rules if rule.moved_by is LoadKind.VOLUME and rule.holds_with(features)}
    return next((moved[action] for action in EMPTYING if action in moved), None)


@dataclass(frozen=True, slots=True)
class Band:
    """A middle, and what is not exceeded in 10 and in 90 % of cases."""

    p10: float
    p50: float
    p90: float


@dataclass(frozen=True, slots=True)
class Filled:
    """One filling that is over: since when, until when, after how many usual weeks, how full it was found if told.

    `expected` is how long it was expected to take when it began, from what was found before and the sizes told by now.
    """

    start: datetime
    end: datetime
    weeks: float
    found: Found | None
    expected: Band

    @property
    def off_by(self) -> float | None:
        """How many times as long it would have taken to fill as was expected [-]; None where nobody said how full.

        >>> at, expected = datetime(2026, 1, 1), Band(3.0, 4.0, 5.0)
        >>> Filled(at, at, 6.0, Found.DUE, expected).off_by, Filled(at, at, 2.0, Found.LIGHT, expected).off_by
        (1.5, 1.0)
        """
        return self.weeks / LEVELS[self.found] / self.expected.p50 if self.found and self.weeks > 0 else None


@dataclass(frozen=True, slots=True)
class Filling:
    """How a bag or bin fills: how full it is taken to be [-], how often it fills in a week [1/week], how long a filling
    takes and how long this one lasts [usual weeks], how many were emptied, and the last of them.
    """

    share: float
    a_week: Band
    weeks: float
    weeks_since: float
    fillings: int
    log: Sequence[Filled]


def filling(rule: Rule, slot: Slot, item: Item, past: Past, context: Context) -> Filling | None:
    """How the `item` in `slot` fills by the book's own rule of emptying it; None while it does not run."""
    rule = as_told(rule, context.told.get(slot.key), context)
    paced = [
        (trigger, weeks)
        for trigger in rule.triggers
        if trigger.counts_use and (weeks := _weeks(trigger, rule, context))
    ]
    if not paced:
        return None
    trigger, book_weeks = min(paced, key=lambda pair: pair[1])
    known = belief(rule, slot, item, past, context)
    emptied = sorted(one.at for one in past.services if one.slot == slot.key and one.action in EMPTYING)
    first = min((one.start for one in past.fittings if one.slot == slot.key), default=context.now)

    def foreseen(start: datetime) -> Band:
        return _expected(learn((share, found) for at, share, found in known.shares if at <= start), book_weeks)

    def usual_weeks(start: datetime, end: datetime) -> float:
        return share_by_the_book(trigger, rule, [(start, end)], context) * book_weeks

    return Filling(
        share=_share(trigger, rule, known, context),
        a_week=Band(*(known.factor.quantile(share) / book_weeks for share in (0.1, 0.5, 0.9))),
        weeks=book_weeks / known.factor.median,
        weeks_since=usual_weeks(emptied[-1] if emptied else first, context.now),
        fillings=len(emptied),
        log=[
            Filled(start, end, usual_weeks(start, end), _found(known, start, end), foreseen(start))
            for start, end in pairwise([first, *emptied][-LOGGED - 1 :])
            if end > start
        ],
    )


def _expected(rate: Factor, book_weeks: float) -> Band:
    """How long a filling takes at a rate that may be off [usual weeks], one being unlike the next besides."""
    middle = rate.median
    faster, slower = (
        exp(hypot(log(off), Z90 * WEATHER_SD)) for off in (rate.quantile(0.9) / middle, middle / rate.quantile(0.1))
    )
    return Band(book_weeks / middle / faster, book_weeks / middle, book_weeks / middle * slower)


def _weeks(trigger: Trigger, rule: Rule, context: Context) -> float:
    """How long a filling takes by the book, at the usual pace and the household's own load [weeks]; 0 for never."""
    index = context.loads.own(context.now).of(rule.moved_by) if rule.moved_by else None
    speed = a_week(clock_meter(trigger), context.pace, context.usage, context.now)
    return in_clock_units(trigger, placed(trigger, rule, index)) / speed if speed else 0.0


def _share(trigger: Trigger, rule: Rule, known: Belief, context: Context) -> float:
    """How full it is [-], at the rate that is believed, no school's bound on it."""
    state = trigger_state(trigger, rule, known.gone, known.index, known.factor, context, School.LABEL)
    unbounded = replace(state.need, cap=inf)
    return float(unbounded.share(known.factor.median)) + sum(unbounded.base or (0.0, 0.0)) / 2


def _found(known: Belief, start: datetime, end: datetime) -> Found | None:
    """How full it was when it was emptied, by the last look before that."""
    seen = [look.found for look in known.looks if start < look.at <= end <= look.at + SAME_WORK]
    return seen[-1] if seen else None


def usual_miss(filled: Sequence[Filled]) -> float | None:
    """By how much the times expected were missed of late, either way [-]; None where nobody said how full it was.

    The last four that were found count: the first ones rest on what was borrowed. The mean of the logarithms, so that
    twice and half as long are missed alike.
    """
    misses = [abs(log(one.off_by)) for one in filled if one.off_by is not None][-LATELY:]
    return expm1(sum(misses) / len(misses)) if misses else None
