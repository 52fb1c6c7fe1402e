"""Why a date is what it is, as facts."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from care.due.context import Context
from care.due.learning import Factor
from care.due.reading import Reading
from care.due.triggers import STRETCH, UNMEASURED, Elapsed, TriggerState, clock_meter, in_clock_units
from care.model import Inspection, LoadEvent, ToldFilling
from care.reasons import (
    Because,
    BookFact,
    ContradictedFact,
    CounterFact,
    EasedFact,
    Fact,
    LastLookFact,
    LearnedFact,
    LimitFact,
    LoadEventFact,
    MishapFact,
    NoCounterFact,
    OtherSchoolFact,
    OtherTriggersFact,
    OwnFigureFact,
    PrintFact,
    SchoolFact,
    SeenFineFact,
    ToldFillingFact,
    TriggerFact,
    UsedFact,
    UsualUseFact,
)
from care.rules import Rule, Trigger
from care.since import SinceFact
from care.vocabulary import School


@dataclass(frozen=True, slots=True)
class Grounds:
    """What an explanation rests on: the governing trigger and the others, since when, looks, events, the counter.

    `contradicted` tells which way the last looks contradict what was believed, and since when. `elsewhere` tells of
    each other school what would govern there and at which figure, by what was learned of its own rule; None where it
    does without. `told` is what was told of the container, where it moves the figure.
    """

    book: Rule
    rule: Rule
    school: School
    first: TriggerState
    others: Sequence[TriggerState]
    origin: SinceFact
    gone: Elapsed
    index: float | None
    factor: Factor
    looks: Sequence[Inspection]
    events: Sequence[LoadEvent]
    counter: CounterFact | None
    counted_by_machine: bool
    contradicted: tuple[int, datetime] | None
    elsewhere: Mapping[School, tuple[Trigger, float] | None]
    told: ToldFilling | None = None


def explain(why: Grounds, context: Context) -> Because:
    """What governs, since when, how much ran, how load, looks and school placed it, what else there is."""
    return tuple(_facts(why, context))


def _facts(why: Grounds, context: Context) -> Iterator[Fact]:
    yield _trigger(why.first, why.index)
    yield why.origin
    yield _used(why.gone.used)
    yield _usual(context)
    yield _school(why)
    yield BookFact(figure_kind=why.book.figure, reason=why.book.reason, moved_by=why.book.moved_by)
    yield from _household(why)
    yield from (MishapFact(kind=mishap) for mishap in why.rule.after if mishap in why.gone.mishaps)
    if why.looks:
        yield _learned(why, context) if why.factor.looks else _last_look(why, context)
    if why.contradicted is not None:
        way, since = why.contradicted
        yield ContradictedFact(way=way, since=since)
    fine = why.gone.fine
    if fine is not None and why.first.trigger.meter not in UNMEASURED:
        yield SeenFineFact(found=fine.found, day=context.local_day(fine.at))
    yield from map(_event, why.events)
    if why.counter is not None:
        yield why.counter
    if why.rule.is_life and not why.counted_by_machine:
        yield NoCounterFact()
    if why.others:
        yield OtherTriggersFact(triggers=tuple(_trigger(t, why.index) for t in why.others))
    yield from (_other(why, school) for school in why.elsewhere)


def _used(used: Reading) -> UsedFact:
    return UsedFact(
        run_hours=round(used.run_hours, 3),
        runs=used.runs,
        assumed_h=round(used.assumed_h, 3),
        mop_runs=used.mop_runs,
        fills=round(used.fills, 1),
        assumed_fills=round(used.assumed_fills, 1),
    )


def _usual(context: Context) -> UsualUseFact:
    pace = context.pace
    hours, runs = round(pace.hours_per_week, 3), round(pace.runs_per_week, 2)
    return UsualUseFact(hours_per_week=hours, runs_per_week=runs, changed=context.changed)


def _household(why: Grounds) -> Iterator[Fact]:
    """What else is said of the figure: by others, and by the household itself: one of its own, how long its container
    takes to fill, that good enough is enough.
    """
    yield from (PrintFact(figure=p.figure, by=p.by, told=p.told) for p in why.book.history)
    if why.book.eased != 1.0:
        yield EasedFact(times=why.book.eased)
    if why.book.own is not None:
        yield OwnFigureFact(why=why.book.own.why)
    if why.told is not None:
        yield ToldFillingFact(weeks=round(why.told.weeks, 2), hours_per_week=round(why.told.hours_per_week, 3))


def _trigger(state: TriggerState, index: float | None) -> TriggerFact:
    trigger, clock = state.trigger, state.clock
    return TriggerFact(
        meter=trigger.meter,
        calendar=trigger.calendar,
        low=trigger.low,
        high=trigger.high,
        figure=round(state.figure, 3),
        by_load=round(state.by_load, 3),
        cap=round(state.cap, 3),
        longest=state.at_longest,
        index=index,
        after=trigger.after,
        learned=trigger.counts_use,
        clock=clock.meter,
        used=round(clock.used, 3),
        limit=round(clock.limit, 3),
    )


def _school(why: Grounds) -> SchoolFact:
    school = why.school
    variant = why.book.schools.get(school)
    stretch = 1.0 if why.book.never_stretch else STRETCH[school]
    return SchoolFact(school=school, stretch=stretch, why=variant.why if variant else None)


def _other(why: Grounds, school: School) -> OtherSchoolFact:
    """What another school would say: its limit, or that it does without."""
    variant, limit = why.book.schools.get(school), None
    if (holds := why.elsewhere[school]) is not None:
        trigger, figure = holds
        limit = LimitFact(
            meter=trigger.meter,
            calendar=trigger.calendar,
            after=trigger.after,
            figure=round(figure, 3),
            clock=clock_meter(trigger),
            limit=round(in_clock_units(trigger, figure), 3),
        )
    return OtherSchoolFact(school=school, why=variant.why if variant else None, limit=limit)


def _learned(why: Grounds, context: Context) -> LearnedFact:
    factor, last = why.factor, why.looks[-1]
    return LearnedFact(
        factor=round(factor.median, 3),
        p10=round(factor.quantile(0.1), 3),
        p90=round(factor.quantile(0.9), 3),
        looks=factor.looks,
        last_found=last.found,
        last_day=context.local_day(last.at),
    )


def _last_look(why: Grounds, context: Context) -> LastLookFact:
    """What was found last, where it teaches no rate."""
    last = why.looks[-1]
    return LastLookFact(found=last.found, day=context.local_day(last.at))


def _event(event: LoadEvent) -> LoadEventFact:
    return LoadEventFact(kind=event.kind, first=event.first, last=event.last, level=event.level, note=event.note)
