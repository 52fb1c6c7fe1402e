"""What a household tells of its season: each use case is one transaction and takes the member."""

from collections.abc import Collection
from dataclasses import dataclass, replace
from datetime import date, timedelta
from uuid import UUID

from django.db import transaction

from care.due.schedule import Schedule
from care.errors import InvalidValue, require
from care.model import Why
from care.season import Chore, ChoreKey
from care.season.model import SEASON_DAYS
from care.vocabulary import Consequence
from server.base.problems import Conflict
from server.due.state import machine_states
from server.household.models import Member
from server.household.services import journal_beside, require_writer, today_of
from server.logbook.models import Entry
from server.logbook.services import Journal, as_one_action
from server.machines.services import machine_of
from server.season import records
from server.season.models import HabitsVersion, Wish
from server.season.planning import Planned, season_of
from server.season.records import Habits, What
from server.use.services import rest, set_schedule

MOST_WISHES = 200
"""More than this nobody asks of one season."""


@transaction.atomic
def keep_habits(*, member: Member, habits: Habits) -> Entry:
    """On which days this household likes visits, from now on. Raises `InvalidValue` for weights out of range."""
    require_writer(member)
    habits.weighing.weights  # noqa: B018  refuses what is out of range
    return _journal(member).tell(HabitsVersion, value=records.habits_json(habits))


@transaction.atomic
def ask(
    *, member: Member, what: str, first: date, last: date, chores: Collection[ChoreKey] = (), note: str = ""
) -> Entry:
    """Ask something of the season: chores on a day, no visit on some days, chores left out on some days.

    Raises `InvalidValue` for days that are past, outside the season or the wrong way round, for chores that nobody has
    to do, and for what keeps somebody safe beyond its date; `Conflict` for a day without visits.
    """
    require_writer(member)
    today = today_of(member)
    require(today <= first <= last, "first", first, f"a day from today ({today}) on, not after the last")
    require(last < today + timedelta(days=SEASON_DAYS), "last", last, f"a day within {SEASON_DAYS // 7} weeks")
    require(len(records.wishes_of(member, today)) < MOST_WISHES, "what", "one more", f"fewer than {MOST_WISHES} wishes")
    for machine_id in {key.machine_id for key in chores}:
        machine_of(member, machine_id)
    require(bool(chores) != (what == What.NO_VISIT), "chores", len(chores), "some chores, or none for whole days")
    if what != What.NO_VISIT:
        _check(season_of(member), what, first, last, chores)
    keys = sorted(records.key_json(key) for key in chores)
    return _journal(member).tell(Wish, what=what, first=first, last=last, chores=keys, note=note.strip())


@dataclass(frozen=True, slots=True)
class Taken:
    """What is taken from a calendar: days away, days without a visit, and the usual week of a machine."""

    away: tuple[tuple[date, date], ...] = ()
    no_visit: tuple[tuple[date, date, str], ...] = ()
    week: tuple[UUID, Schedule] | None = None


@transaction.atomic
def take(*, member: Member, taken: Taken) -> Entry:
    """Take holidays and a machine's week from a calendar, all of it or nothing. Raises `InvalidValue` for nothing."""
    require_writer(member)
    entries = [rest(member=member, machine_id=None, why=Why.AWAY, first=first, last=last) for first, last in taken.away]
    entries += [
        ask(member=member, what=What.NO_VISIT, first=first, last=last, note=note)
        for first, last, note in taken.no_visit
    ]
    if taken.week is not None:
        machine_id, schedule = taken.week
        machine_of(member, machine_id)
        [state] = machine_states(member, only=[machine_id])
        if state.schedule is not None:  # a calendar tells neither
            schedule = replace(schedule, mops=state.schedule.mops, silence=state.schedule.silence)
        entries.append(set_schedule(member=member, machine_id=machine_id, schedule=schedule, dock=state.dock))
    require(bool(entries), "away", "nothing", "something to take from it")
    as_one_action(entries)
    return entries[-1]


def _check(planned: Planned, what: str, first: date, last: date, chores: Collection[ChoreKey]) -> None:
    """Refuse chores that are not there, what keeps somebody safe later than its date, and days that are taken."""
    known = {chore.key: chore for chore in planned.season.planned}
    known |= {one.chore.key: one.chore for one in planned.season.between}
    for key in chores:
        require(key in known, "chores", f"{key.slot} {key.action}", "chores that come up this season")
        until = last if what == What.LEAVE_OUT else first
        _keeps_safe(known[key], (until - planned.season.start).days, what)
    if what == What.ON:
        barred = next((one for one in planned.asked if one.what == What.NO_VISIT and one.barred.holds(first)), None)
        if barred is not None:
            raise Conflict(
                f"first: no visit was asked for from {barred.first} to {barred.last}",
                field="first",
                fix="Choose another day, or take that wish back first.",
            )


def _keeps_safe(chore: Chore, day: int, what: str) -> None:
    """Refuse to leave until later what keeps somebody safe. Raises `InvalidValue`."""
    if chore.stake is not Consequence.SAFETY:
        return
    latest = next((n for n in range(chore.days + 1) if chore.first(n) > 1), chore.days)
    late = day >= latest if what == What.LEAVE_OUT else day > max(latest, 0)
    if late and latest < chore.days:
        raise InvalidValue(
            f"chores: {chore.key.slot} {chore.key.action} keeps you safe and is due before that",
            field="chores",
            fix="Do it earlier; the rest may wait.",
        )


def _journal(member: Member) -> Journal:
    """A journal of the season: its entries move no machine's dates."""
    return journal_beside(member, "season")
