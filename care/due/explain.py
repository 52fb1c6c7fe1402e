"""Why a date is what it is, as a tree of codes and figures; words are made where it is shown."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from care.due.context import Context
from care.due.learning import Factor
from care.due.triggers import STRETCH, UNMEASURED, Gone, TriggerState, clock_meter, in_clock_units
from care.kinds import Rule, School, Trigger
from care.model import Because, Inspection, LoadEvent, Scalar, ToldFilling


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
    origin: Because
    gone: Gone
    index: float | None
    factor: Factor
    looks: Sequence[Inspection]
    events: Sequence[LoadEvent]
    counter: Because | None
    counted_by_machine: bool
    contradicted: tuple[int, datetime] | None
    elsewhere: Mapping[School, tuple[Trigger, float] | None]
    told: ToldFilling | None = None


def explain(why: Grounds, context: Context) -> Because:
    """The tree: what governs, since when, how much ran, how load, looks and school placed it, what else there is."""
    usual = context.pace
    used = why.gone.used
    parts = [
        _trigger(why.first, why.index),
        why.origin,
        Because(
            "used",
            {
                "run_hours": round(used.run_hours, 3),
                "runs": used.runs,
                "assumed_h": round(used.assumed_h, 3),
                "mop_runs": used.mop_runs,
                "fills": round(used.fills, 1),
                "assumed_fills": round(used.assumed_fills, 1),
            },
        ),
        Because(
            "usual_use",
            {
                "hours_per_week": round(usual.hours_per_week, 3),
                "runs_per_week": round(usual.runs_per_week, 2),
                "changed": changed.isoformat() if (changed := context.changed) else None,
            },
        ),
        _school(why),
        Because("book", {"figure_kind": why.book.figure, "reason": why.book.reason, "moved_by": why.book.moved_by}),
    ]
    parts += _household(why)
    parts += [Because("mishap", {"kind": mishap}) for mishap in why.rule.after if mishap in why.gone.mishaps]
    if why.looks:
        parts.append(_learned(why, context) if why.factor.looks else _last_look(why, context))
    if why.contradicted is not None:
        way, since = why.contradicted
        parts.append(Because("contradicted", {"way": way, "since": since.isoformat()}))
    fine = why.gone.fine
    if fine is not None and why.first.trigger.meter not in UNMEASURED:
        parts.append(Because("seen_fine", {"found": fine.found, "day": context.local_day(fine.at).isoformat()}))
    if why.events:
        parts.append(Because("load_events", {"count": len(why.events)}, tuple(_event(e) for e in why.events)))
    if why.counter is not None:
        parts.append(why.counter)
    if why.rule.is_life and not why.counted_by_machine:
        parts.append(Because("no_counter", {}))
    if why.others:
        others = tuple(_trigger(t, why.index) for t in why.others)
        parts.append(Because("other_triggers", {"count": len(others)}, others))
    schools = tuple(_other(why, school) for school in why.elsewhere)
    parts.append(Because("other_schools", {"count": len(schools)}, schools))
    share = why.first.clock.share
    return Because("due" if share >= 1 else "not_yet", {"share": round(share, 3)}, tuple(parts))


def _household(why: Grounds) -> list[Because]:
    """What else is said of the figure: by others, and by the household itself: one of its own, how long its container
    takes to fill, that good enough is enough.
    """
    prints = tuple(Because("print", {"figure": p.figure, "by": p.by, "told": p.told}) for p in why.book.history)
    made = [Because("history", {"count": len(prints)}, prints)] if prints else []
    if why.book.eased != 1.0:
        made.append(Because("eased", {"times": why.book.eased}))
    if why.book.own is not None:
        made.append(Because("own_figure", {"why": why.book.own.why}))
    if why.told is not None:
        pace = round(why.told.hours_per_week, 3)
        made.append(Because("told_filling", {"weeks": round(why.told.weeks, 2), "hours_per_week": pace}))
    return made


def _trigger(state: TriggerState, index: float | None) -> Because:
    trigger, clock = state.trigger, state.clock
    return Because(
        "trigger",
        {
            "meter": trigger.meter,
            "calendar": trigger.calendar,
            "low": trigger.low,
            "high": trigger.high,
            "figure": round(state.figure, 3),
            "by_load": round(state.by_load, 3),
            "cap": round(state.cap, 3),
            "longest": state.figure >= state.cap,
            "reference_h_per_week": trigger.reference_h_per_week,
            "index": index,
            "after": trigger.after,
            "learned": trigger.counts_use,
            "clock": clock.meter,
            "used": round(clock.used, 3),
            "limit": round(clock.limit, 3),
        },
    )


def _school(why: Grounds) -> Because:
    school = why.school
    variant = why.book.schools.get(school)
    stretch = 1.0 if why.book.never_stretch else STRETCH[school]
    return Because("school", {"school": school, "stretch": stretch, "why": variant.why if variant else None})


def _other(why: Grounds, school: School) -> Because:
    """What another school would say: its limit in the unit of its clock, or that it does without."""
    variant = why.book.schools.get(school)
    holds = why.elsewhere[school]
    values: dict[str, Scalar] = {"school": school, "why": variant.why if variant else None, "off": holds is None}
    if holds is not None:
        trigger, figure = holds
        values |= {"meter": trigger.meter, "figure": round(figure, 3), "calendar": trigger.calendar}
        values |= {"clock": clock_meter(trigger), "limit": round(in_clock_units(trigger, figure), 3)}
    return Because("other_school", values)


def _learned(why: Grounds, context: Context) -> Because:
    factor, last = why.factor, why.looks[-1]
    return Because(
        "learned",
        {
            "factor": round(factor.median, 3),
            "p10": round(factor.quantile(0.1), 3),
            "p90": round(factor.quantile(0.9), 3),
            "looks": factor.looks,
            "last_found": last.found,
            "last_day": context.local_day(last.at).isoformat(),
        },
    )


def _last_look(why: Grounds, context: Context) -> Because:
    """What was found last, where it teaches no rate."""
    last = why.looks[-1]
    return Because("last_look", {"found": last.found, "day": context.local_day(last.at).isoformat()})


def _event(event: LoadEvent) -> Because:
    values: dict[str, Scalar] = {
        "kind": event.kind,
        "first": event.first.isoformat(),
        "last": event.last.isoformat(),
        "level": event.level,
        "note": event.note,
    }
    return Because("load_event", values)
