"""The season of a household as it stands: its chores from how machines stand, the plan, and what follows from it."""

import logging
from collections import defaultdict
from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass, replace
from datetime import date, datetime, time, timedelta
from typing import Any
from uuid import UUID

from django.db import DatabaseError, transaction

from care.due import assess_machine
from care.rules import Drying
from care.season import (
    Barred,
    Chore,
    ChoreKey,
    Circumstances,
    InStock,
    Season,
    Wishes,
    chores_of,
    plan,
    with_parts_back,
)
from care.season.calendar import followed
from care.season.compare import own_dates_score
from care.season.minutes import Pace
from care.season.model import SEASON_DAYS, Score
from care.vocabulary import Action
from server.base import clock
from server.base.storage import trouble_of
from server.drying.services import hours_to_dry
from server.due.state import MachineState, machine_states
from server.due.stored import board_rows
from server.household.models import Member
from server.household.services import answers_at, pace_of, today_of
from server.logbook.memo import of_all, remembered
from server.season import records
from server.season.models import LastPlan
from server.season.records import Asked, Habits, What
from server.shelf.buying import OnShelf, shelf
from server.use.services import away_days

log = logging.getLogger(__name__)
THOROUGH = 1.0
"""How hard a plan is looked for that is made from nothing, or on another day than the last one [-]."""


@dataclass(frozen=True, slots=True)
class OrderBy:
    """Parts of a kind that visits need beyond what is there: how many, for which day, and by when to order."""

    name: str
    kind_id: UUID
    count: int
    for_day: date
    by: date


@dataclass(frozen=True, slots=True)
class Planned:
    """A plan with what it rests on. `proposal` tells that the household told nothing of its days yet."""

    season: Season
    machines: Mapping[UUID, MachineState]
    habits: Habits
    proposal: bool
    pace: Pace
    asked: tuple[Asked, ...]
    own_dates: Score
    orders: tuple[OrderBy, ...]
    left_out: tuple[str, ...]
    """Machines that cannot be worked out: Round says why."""

    def ready_at(self, chore: Chore, day: date) -> datetime | None:
        """When what a chore wets on a day is dry; None where it stays dry."""
        if not chore.dries_h:
            return None
        zone = self.machines[chore.key.machine_id].context.zone
        return datetime.combine(day, self.habits.at, tzinfo=zone) + timedelta(hours=chore.dries_h)


def season_of(member: Member) -> Planned:
    """The season as it stands now. What was planned before stays unless there is a reason."""
    key = ("season", of_all(member.household_id), today_of(member), pace_of(member.household_id))
    return remembered(key, lambda: _planned(member))


def _planned(member: Member) -> Planned:
    today = today_of(member)
    states, left_out = sound_states(member)
    skill = answers_at(member.household_id, clock.now()).at_the_bench.skill
    own = records.habits_of(member)
    habits = own or records.usual_habits(skill)
    asked = tuple(_still_asked(records.wishes_of(member, today), states))
    pace = Pace(*pace_of(member.household_id))
    kinds = shelf(member).kinds
    chores = chores_of_house(member, states, kinds, pace, habits.at)
    made_on, before = records.last_plan(member)
    weights = habits.weighing.weights
    fresh = not before or made_on != today
    season = plan(
        chores, wishes_of_house(member, habits, asked), today, weights, before=before, effort=THOROUGH if fresh else 0.0
    )
    if own is not None:
        _keep(member, season, today)
    return Planned(
        season,
        states,
        habits,
        own is None,
        pace,
        asked,
        own_dates_score(season.planned, weights),
        tuple(_orders(season, kinds, today)),
        left_out,
    )


def sound_states(member: Member) -> tuple[dict[UUID, MachineState], tuple[str, ...]]:
    """How machines stand, and the names of those that cannot be worked out: these keep no other from its plan."""
    rows = board_rows(member)
    sound = [row.machine_id for row in rows if row.fault is None]
    states = {state.machine.id: state for state in machine_states(member, only=sound)}
    return states, tuple(str(row.fault["machine_name"]) for row in rows if row.fault is not None)


def wishes_of_house(member: Member, habits: Habits, asked: Iterable[Asked] = ()) -> Wishes:
    """What the core plans around: who has time when and goes how far, days away, what was asked."""
    away = [Barred(rest.first, rest.last or date.max, "away") for rest in away_days(member)]
    barred = [one.barred for one in asked if one.what == What.NO_VISIT]
    pins = [one.pin for one in asked if one.what == What.ON and one.chores]
    left_out = [no for one in asked if one.what == What.LEAVE_OUT for no in one.left_out]
    home = answers_at(member.household_id, clock.now()).at_the_bench
    hands = tuple(one.within(home.skill) for one in habits.hands)
    return Wishes(hands, (*barred, *away), tuple(pins), tuple(left_out))


def _still_asked(asked: Iterable[Asked], states: Mapping[UUID, MachineState]) -> Iterable[Asked]:
    """Wishes without chores that were done since they were asked, or whose machine is not there any more."""
    for one in asked:
        kept = tuple(key for key in one.chores if key.machine_id in states and not _done_since(key, one, states))
        if kept or not one.chores:
            yield replace(one, chores=kept)


def _done_since(key: ChoreKey, one: Asked, states: Mapping[UUID, MachineState]) -> bool:
    state = states[key.machine_id]
    past = state.facts.of(key.slot, state.machine.fitted.get(key.slot, key.machine_id))
    return any(done.action is key.action and done.slot == key.slot and done.at > one.at for done in past.services)


def chores_of_house(
    member: Member,
    states: Mapping[UUID, MachineState],
    kinds: Iterable[OnShelf],
    pace: Pace,
    at: time,
    *,
    days: int = SEASON_DAYS,
    use: Mapping[UUID, float] | None = None,
    more_spares: Collection[tuple[UUID, str]] = (),
) -> list[Chore]:
    """The chores of all machines that may be worked on, for so many days; visits begin `at`.

    Who asks what if tells how many times as often machines run (`use`), and where a second set would take turns.
    """
    stock = _stock(kinds, _arriving(member))
    hours: dict[str, float] = {}

    def dries_h(drying: Drying) -> float:
        if drying.key not in hours:
            hours[drying.key] = hours_to_dry(member.household_id, drying)
        return hours[drying.key]

    made: list[Chore] = []
    for state in states.values():
        if state.dangers:
            continue  # nobody works on it
        rack = {slot: item for slot, item in state.on_rack if slot not in state.machine.fitted}
        machine = with_parts_back(state.machine, {slot: item.id for slot, item in rack.items()})
        due = assess_machine(machine, state.facts, state.context) if rack else state.due
        today, zone = state.context.today, state.context.zone
        spares = {key for key in machine.fitted if state.spare(key)}
        known = Circumstances(
            spares=frozenset(spares | {slot for pk, slot in more_spares if pk == machine.id}),
            back_on={slot: _back_on(item.damp_until, today, zone) for slot, item in rack.items()},
            put_off={key: wait.put_off.until for key, wait in state.duties.waits.items()},
            stock=stock.get(machine.id, {}),
            dries_h=dries_h,
            pace=pace.factor,
            use=(use or {}).get(state.robot or machine.id, 1.0),
            at=at,
            days=days,
        )
        made += chores_of(machine, due, state.context, known)
    return made


def _back_on(damp_until: datetime | None, today: date, zone: Any) -> date:
    return max(today, damp_until.astimezone(zone).date()) if damp_until else today


def _arriving(member: Member) -> dict[UUID, int]:
    """In how many days the next parts of each kind come that are ordered already [days]."""
    today = today_of(member)
    made: dict[UUID, int] = {}
    for order in shelf(member).orders:
        for kind in order.missing_by_kind:
            days = max(1, (order.row.expected - today).days)
            made[kind] = min(days, made.get(kind, days))
    return made


def _stock(kinds: Iterable[OnShelf], arriving: Mapping[UUID, int]) -> dict[UUID, dict[str, InStock]]:
    """How the part of each place is to be had, by machine and slot; `arriving` ones come in so many days [days]."""
    made: dict[UUID, dict[str, InStock]] = defaultdict(dict)
    for kind in kinds:
        sale = kind.cheapest
        price = round(sale.offer.price / sale.contents[kind.id]) if sale else None
        there = max(0, kind.holding.on_hand)
        for place in kind.part.places:
            comes = arriving.get(kind.id, kind.holding.lead_days)
            made[place.machine_id][place.slot] = InStock(there, comes, price)
    return made


def _orders(season: Season, kinds: Iterable[OnShelf], today: date) -> list[OrderBy]:
    """What visits need beyond what is there and on its way, by when each is to be ordered."""
    of_place = {(place.machine_id, place.slot): kind for kind in kinds for place in kind.part.places}
    left = {kind.id: kind.holding.on_hand + kind.holding.on_order for kind in of_place.values()}
    made: dict[UUID, OrderBy] = {}
    for visit in season.visits:
        for job in visit.jobs:
            kind = of_place.get((job.chore.key.machine_id, job.chore.key.slot))
            if kind is None or job.chore.key.action is not Action.REPLACE:
                continue
            left[kind.id] -= 1
            if left[kind.id] >= 0:
                continue
            if kind.id in made:
                made[kind.id] = replace(made[kind.id], count=made[kind.id].count + 1)
            else:
                by = max(today, visit.day.date - timedelta(days=kind.holding.lead_days))
                made[kind.id] = OrderBy(kind.part.name, kind.id, 1, visit.day.date, by)
    return sorted(made.values(), key=lambda one: (one.by, one.name))


def _keep(member: Member, season: Season, today: date) -> None:
    """Keep on which days each chore is: the next plan moves nothing unasked. A full disk is no reason to fail."""
    days: dict[ChoreKey, list[str]] = defaultdict(list)
    for visit in season.visits:
        for job in visit.jobs:
            days[job.chore.key].append(visit.day.date.isoformat())
    doing = [[*records.key_json(key), some] for key, some in days.items()]
    visits = [[visit.day.date.isoformat(), round(visit.minutes, 1)] for visit in season.visits]
    entries = followed(
        records.entries_of(member), season.visits, house=member.household_id, now=clock.now(), today=today
    )
    kept = {"made_on": today, "doing": doing, "visits": visits, "calendar": records.entries_json(entries)}
    try:
        with transaction.atomic():
            LastPlan.everything.update_or_create(household_id=member.household_id, defaults=kept)
    except DatabaseError as error:
        if trouble_of(error) is None:
            raise
        log.warning("the season's plan could not be kept: %s", error)
