"""What if: the household as it is, and a copy of it that lives otherwise, over a year and in pairs of futures."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import partial
from typing import Any
from uuid import UUID

from django.db import transaction

from care.due import LoadLine, assess_machine
from care.due.schedule import WEEKDAYS, weekly
from care.errors import require
from care.household import Profile, load_of
from care.season.days import days_of
from care.season.futures import YEAR_DAYS, Band, Year, band, year_of
from care.season.minutes import Pace
from care.season.plan import by_skill, split
from care.vocabulary import School
from server.base import clock
from server.base.problems import Conflict
from server.due.state import MachineState, machine_states
from server.household.models import Member
from server.household.services import answer_profile, answers_at, pace_of, require_writer, today_of
from server.logbook.memo import of_all, remembered
from server.logbook.models import Entry
from server.logbook.services import as_one_action
from server.machines.services import machine_of
from server.season import records
from server.season.planning import chores_of_house, sound_states, wishes_of_house
from server.season.records import Habits
from server.season.services import keep_habits
from server.shelf.buying import shelf
from server.use.services import set_schedule


@dataclass(frozen=True, slots=True)
class Change:
    """Another way of living; what is None or empty stays as it is.

    `runs` is on how many days a week a machine runs. `sets` are places that get a second part to take turns.
    """

    runs: Mapping[UUID, int] = field(default_factory=dict)
    animals: int | None = None
    long_haired: int | None = None
    children: int | None = None
    carpet: float | None = None
    school: School | None = None
    sets: frozenset[tuple[UUID, str]] = frozenset()
    weekdays: tuple[str, ...] = ()
    hour_value: int | None = None

    @property
    def answers(self) -> dict[str, Any]:
        """The answers of the household that it changes."""
        changed = {name: getattr(self, name) for name in ("animals", "long_haired", "children", "carpet")}
        return {name: value for name, value in changed.items() if value is not None}

    @property
    def needs_buying(self) -> bool:
        """Whether it takes more than saying so: a set has to be there first."""
        return bool(self.sets)


@dataclass(frozen=True, slots=True)
class Figures:
    """Figures of a year, each with its band: in hours [h], counts, and money [cents]."""

    hours: Band
    visits: Band
    missed: Band
    parts: Band
    parts_cost: Band
    unused_cost: Band
    cost: Band


@dataclass(frozen=True, slots=True)
class Compared:
    """A way of living: its year, and how it differs from today's in the same futures."""

    year: Figures
    differs: Figures


def as_it_is(member: Member) -> Figures:
    """A year as the household lives now."""
    return _figures(_year(member, Change()), _hour_value(member, Change()))


def compare(member: Member, change: Change) -> Compared:
    """A year lived otherwise, beside the year as it is. Raises `InvalidValue` for what cannot be."""
    _check(member, change)
    ours, theirs = _year(member, Change()), _year(member, change)
    now, then = _hour_value(member, Change()), _hour_value(member, change)
    return Compared(_figures(theirs, then), _differs(ours, theirs, now, then))


def _hour_value(member: Member, change: Change) -> int:
    return _habits(member, change).weighing.hour_value


def _check(member: Member, change: Change) -> None:
    """Refuse what cannot be: a machine of others, days that a week has not, a place without a part that dries."""
    for machine_id, days in change.runs.items():
        machine_of(member, machine_id)
        require(1 <= days <= 7, "runs", days, "1 to 7 days a week")
    for machine_id, slot in change.sets:
        machine_of(member, machine_id)
        [state] = machine_states(member, only=[machine_id])
        place = state.machine.archetype.slot(slot)
        require(place.stops_while_wet, "sets", slot, "a part that dries while its machine waits")
    if change.answers:
        replace(_profile(member), **change.answers)


def _year(member: Member, change: Change) -> Year:
    key = ("what if", of_all(member.household_id), today_of(member), repr(change))
    return remembered(key, partial(_worked_out, member, change))


def _worked_out(member: Member, change: Change) -> Year:
    states, _ = sound_states(member)
    habits = _habits(member, change)
    runs = {pk: states[pk].context.pace.runs_per_week for pk in change.runs if pk in states}
    use = {pk: change.runs[pk] / usual for pk, usual in runs.items() if usual}
    moved = {pk: _moved(member, state, change) for pk, state in states.items()}
    kinds, pace = shelf(member).kinds, Pace(*pace_of(member.household_id))
    chores = chores_of_house(member, moved, kinds, pace, habits.at, days=YEAR_DAYS, use=use, more_spares=change.sets)
    wishes, weights = wishes_of_house(member, habits), habits.weighing.weights
    usual = None if change == Change() else _year(member, Change()).rhythm
    mine, _ = by_skill(chores, wishes)
    between, planned = split(mine, wishes, weights)
    days = days_of(wishes, today_of(member), YEAR_DAYS)
    return year_of(planned, [one.chore for one in between], days, weights, usual)


def _moved(member: Member, state: MachineState, change: Change) -> MachineState:
    """How a machine stands where the household lives otherwise from now on."""
    if not change.answers and change.school is None:
        return state
    context = state.context
    if change.answers:
        load = load_of(replace(_profile(member), **change.answers))
        loads = LoadLine([*context.loads.answers, (context.now, load)], context.loads.events)
        context = replace(context, loads=loads)
    if change.school is not None:
        context = replace(context, school=change.school)
    return replace(state, context=context, due=assess_machine(state.machine, state.facts, context))


def _profile(member: Member) -> Profile:
    return answers_at(member.household_id, clock.now()).profile or Profile()


def _habits(member: Member, change: Change) -> Habits:
    """Who has time and what that is weighed by: all that the household told, but for what the change says."""
    skill = answers_at(member.household_id, clock.now()).at_the_bench.skill
    habits = records.habits_of(member) or records.usual_habits(skill)
    first, *others = habits.hands
    if change.weekdays:
        first = replace(first, weekdays=change.weekdays)
    weighing = habits.weighing
    if change.hour_value is not None:
        weighing = replace(weighing, hour_value=change.hour_value)
    return replace(habits, hands=(first, *others), weighing=weighing)


def _figures(year: Year, hour_value: int) -> Figures:
    hours = (year.minutes + year.ready_min) / 60
    return Figures(
        hours=band(hours),
        visits=band(year.visits),
        missed=band(year.missed),
        parts=band(year.parts),
        parts_cost=band(year.cents),
        unused_cost=band(year.unused_cents),
        cost=band(year.cents + hours * hour_value),
    )


def _differs(ours: Year, theirs: Year, now: int, then: int) -> Figures:
    mine, other = ((year.minutes + year.ready_min) / 60 for year in (ours, theirs))
    return Figures(
        hours=band(other - mine),
        visits=band(theirs.visits - ours.visits),
        missed=band(theirs.missed - ours.missed),
        parts=band(theirs.parts - ours.parts),
        parts_cost=band(theirs.cents - ours.cents),
        unused_cost=band(theirs.unused_cents - ours.unused_cents),
        cost=band(theirs.cents + other * then - ours.cents - mine * now),
    )


@transaction.atomic
def adopt(*, member: Member, change: Change) -> Entry:
    """Live so from now on: answers, school, weeks and days for visits in one action.

    Raises `InvalidValue` for nothing to adopt, `Conflict` for sets, which have to be bought first.
    """
    require_writer(member)
    _check(member, change)
    if change.needs_buying:
        raise Conflict(
            "sets: a second set has to be there first", field="sets", fix="Order it on the Shelf; then it takes turns."
        )
    entries: list[Entry] = []
    if change.answers or change.school is not None:
        answers = answers_at(member.household_id, clock.now())
        profile = replace(_profile(member), **change.answers)
        entries.append(answer_profile(member=member, profile=profile, school=change.school or answers.school))
    for machine_id, days in change.runs.items():
        entries.append(_run_on(member, machine_id, days))
    if change.weekdays or change.hour_value is not None:
        entries.append(keep_habits(member=member, habits=_habits(member, change)))
    require(bool(entries), "change", "nothing", "something that is otherwise than now")
    as_one_action(entries)
    return entries[-1]


def _run_on(member: Member, machine_id: UUID, days: int) -> Entry:
    """A machine's usual week on so many days, as even as they fall, its minutes and hour as they were."""
    [state] = machine_states(member, only=[machine_id])
    usual = state.schedule
    minutes = usual.run_min if usual else state.usual_minutes()
    chosen = [WEEKDAYS[round(n * 7 / days) % 7] for n in range(days)]
    more: dict[str, Any] = {"mops": usual.mops, "silence": usual.silence} if usual else {}
    week = weekly(chosen, minutes, usual.starts if usual else None, **more)
    return set_schedule(member=member, machine_id=machine_id, schedule=week, dock=state.dock)


@dataclass(frozen=True, slots=True)
class Now:
    """How the household lives now, as far as it may be otherwise."""

    profile: Profile
    school: School
    weekdays: tuple[str, ...]
    hour_value: int
    runners: tuple[MachineState, ...]
    sets: tuple[tuple[MachineState, str], ...]


def now_of(member: Member) -> Now:
    """How the household lives now: which machines run, which parts keep theirs waiting while they dry."""
    states = [state for state in sound_states(member)[0].values() if not state.dangers]
    answers = answers_at(member.household_id, clock.now())
    runners = [one for one in states if one.robot is None and one.context.pace.runs_per_week]
    sets = [
        (state, slot.key)
        for state in states
        for slot in state.machine.archetype.parts(state.machine.features)
        if slot.stops_while_wet and slot.wetting and state.spare(slot.key) is None
    ]
    return Now(
        _profile(member),
        answers.school,
        _habits(member, Change()).hands[0].weekdays,
        _hour_value(member, Change()),
        tuple(runners),
        tuple(sets),
    )
