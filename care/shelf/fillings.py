"""Bags and bins of a machine by its records: what empties them, what was found, what was expected, coming days."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from math import expm1
from math import log as ln

from care.due.context import Context
from care.due.upkeep import WEEKS, times_a_year
from care.kinds import Action, Archetype, Column, Found, LoadKind, Slot
from care.shelf.dust import Container, Forecast, Rate, Seen, forecast, heavier, learn, off_by

EMPTYING = (Action.REPLACE, Action.EMPTY)
"""What empties a bag or bin."""
SAME_WORK = timedelta(hours=12)
"""An emptying so soon after a look was done because of it. Ours."""
LOGGED = 10
"""How many fillings are held against what was expected of them. Ours."""
LATELY = 4
"""How many fillings tell how well they are foreseen. Ours."""


@dataclass(frozen=True, slots=True)
class Past:
    """What is on record of one bag or bin: since when there is one, when it was emptied, how it was found, in order."""

    first: datetime
    emptied: Sequence[datetime]
    looks: Sequence[tuple[datetime, Found]]

    @property
    def last(self) -> datetime:
        """When it was last empty."""
        return self.emptied[-1] if self.emptied else self.first


def holders(kind: Archetype, features: frozenset[str]) -> list[tuple[Slot, Action]]:
    """The places of a kind of machine that fill with what it takes up and that a person empties, and how."""
    columns = {station.key: station.column for station in kind.stations}
    parts = (slot for slot in kind.parts(features) if columns[slot.station] is Column.BIN)
    return [(slot, action) for slot in parts if (action := _emptied_by(slot, features)) is not None]


def _emptied_by(slot: Slot, features: frozenset[str]) -> Action | None:
    """A new bag, or else emptying it; None where a dock does it."""
    moved = {rule.action for rule in slot.rules if rule.moved_by is LoadKind.VOLUME and rule.holds_with(features)}
    return next((action for action in EMPTYING if action in moved), None)


def usual_weeks(start: datetime, end: datetime, context: Context) -> float:
    """How many weeks of usual use and dirt lie between [usual weeks]; the machine must have a pace."""
    now = context.loads.own(context.now).volume
    stretches = context.loads.stretches(LoadKind.VOLUME, start, end, context.zone)
    hours = (context.usage.between(s.start, s.end).run_hours * heavier(s.index, now) for s in stretches)
    return sum(hours) / context.pace.hours_per_week


def seen(past: Past, context: Context) -> list[Seen]:
    """How full it was found, each time after how many usual weeks since it was emptied or new."""
    return [one for _, one in _seen(past, context)]


def _seen(past: Past, context: Context) -> list[tuple[datetime, Seen]]:
    made = []
    for at, found in past.looks:
        since = max((one for one in past.emptied if one < at), default=past.first)
        if at > since:
            emptied = any(at <= one <= at + SAME_WORK for one in past.emptied)
            made.append((at, Seen(usual_weeks(since, at, context), found, emptied)))
    return made


@dataclass(frozen=True, slots=True)
class Filled:
    """One filling that is over: since when, until when, after how many usual weeks, how full it was found if told.

    `expected` is what was to be expected when it began, from the fillings before it and what is known of sizes today.
    """

    start: datetime
    end: datetime
    weeks: float
    found: Found | None
    expected: Forecast

    @property
    def off_by(self) -> float | None:
        """How many times as long it took to fill as was expected [-]; None where nobody told how full it was."""
        return off_by(self.expected, Seen(self.weeks, self.found)) if self.found and self.weeks > 0 else None


def log(past: Past, context: Context, guess: Rate, container: Container) -> list[Filled]:
    """The last fillings, each against what was expected of it, oldest first: what they were found like teaches."""
    made, known, times = [], _seen(past, context), [past.first, *past.emptied][-LOGGED - 1 :]
    start = times[0]
    for end in times[1:]:
        if end <= start:
            continue
        before = [one for at, one in known if at <= start]
        told = [found for at, found in past.looks if start < at <= end <= at + SAME_WORK]
        expected = forecast(learn(guess, container, before), container)
        made.append(Filled(start, end, usual_weeks(start, end, context), told[-1] if told else None, expected))
        start = end
    return made


def usual_miss(filled: Sequence[Filled]) -> float | None:
    """By how much the times expected were missed of late, either way [-]; None where nobody told how full it was.

    The last four that were found count: the first ones rest on what was borrowed. The mean of the logarithms, so that
    twice and half as long are missed alike.
    """
    misses = [abs(ln(one.off_by)) for one in filled if one.off_by is not None][-LATELY:]
    return expm1(sum(misses) / len(misses)) if misses else None


def book_weeks(slot: Slot, action: Action, kind: Archetype, context: Context) -> float | None:
    """How long the book gives it at this use [weeks]; None where nothing tells."""
    often = times_a_year(slot, action, kind, context.pace, context.loads.own(context.now), context.school)
    return WEEKS / often if often else None


def weight_of_days(context: Context) -> Callable[[date], float]:
    """How much a coming day counts [-]: nothing while the machine rests, more in a time of more dirt."""
    usual = context.loads.own(context.now).volume

    def weight(day: date) -> float:
        if any(rest.holds(day) for rest in context.rests):
            return 0.0
        noon = datetime.combine(day, time(12), tzinfo=context.zone)
        return heavier(context.loads.index(LoadKind.VOLUME, noon, context.zone), usual)

    return weight
