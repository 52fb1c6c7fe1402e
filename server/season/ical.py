"""The visits of a season as an iCalendar file, as phones and other programs read it."""

from collections.abc import Iterable
from datetime import UTC, datetime, timedelta
from math import ceil
from uuid import UUID

from icalendar import Alarm, Calendar, Event, vDuration

from care.book import load_book
from care.season import Visit
from care.season.calendar import Entry
from care.season.model import Job
from care.words import DEEDS
from server.household.models import Member
from server.household.services import zone_of
from server.season import records
from server.season.feeds import Shown
from server.season.planning import OrderBy, Planned, season_of

LOOK_IN = timedelta(hours=6)
"""How often a calendar is asked to look in again."""
MORNING = timedelta(hours=9)
"""When an alarm rings for a visit that is shown all day, from midnight on."""
TO_MINUTES = 5


def calendar_of(member: Member, shown: Shown, base_url: str) -> bytes:
    """The visits of a member's household from today on. `base_url` is where the app is reached, for links back."""
    planned = season_of(member)
    made = Calendar()
    made.add("prodid", "-//Yperon//Season//EN")
    made.add("version", "2.0")
    made.add("name", f"Vacuum care, {member.household.name}")
    made.add("refresh-interval", vDuration(LOOK_IN), parameters={"VALUE": "DURATION"})
    visits = {visit.day.date: visit for visit in planned.season.visits}
    for entry in records.entries_of(member):
        visit = visits.get(entry.day)
        if entry.cancelled:
            made.add_component(_cancelled(entry, planned, shown, member))
        elif visit is not None:
            made.add_component(_event(entry, visit, planned, shown, member, base_url))
    text: bytes = made.to_ical()
    return text


def _event(entry: Entry, visit: Visit, planned: Planned, shown: Shown, member: Member, base_url: str) -> Event:
    event = _begun(entry, planned, shown, member)
    weighing = planned.habits.weighing.weights
    ready = weighing.visit_min + weighing.machine_min * len(visit.machines)
    takes = timedelta(minutes=TO_MINUTES * ceil((visit.minutes + ready) / TO_MINUTES))
    names = [planned.machines[pk].machine.name for pk in visit.machines]
    event.add("dtend", entry.day + timedelta(days=1) if shown.all_day else _starts(entry, planned, member) + takes)
    summary = f"Vacuum care, {visit.minutes:.0f} min: {', '.join(names)}"
    event.add("summary", summary)
    event.add("description", "\n".join(_lines(visit, planned, base_url)))
    event.add("url", f"{base_url}/#/season")
    event.add("status", "CONFIRMED")
    event.add("transp", "TRANSPARENT" if shown.all_day else "OPAQUE")
    if shown.alarm_min is not None:
        event.add_component(_alarm(shown, summary))
    return event


def _begun(entry: Entry, planned: Planned, shown: Shown, member: Member) -> Event:
    event = Event()
    event.add("uid", f"{entry.uid}@yperon")
    event.add("sequence", entry.sequence)
    event.add("dtstamp", entry.modified)
    event.add("last-modified", entry.modified)
    event.add("dtstart", entry.day if shown.all_day else _starts(entry, planned, member))
    return event


def _starts(entry: Entry, planned: Planned, member: Member) -> datetime:
    """Its beginning as an instant: no program has to know the rules of a time zone to read it right."""
    return datetime.combine(entry.day, planned.habits.at, tzinfo=zone_of(member)).astimezone(UTC)


def _cancelled(entry: Entry, planned: Planned, shown: Shown, member: Member) -> Event:
    event = _begun(entry, planned, shown, member)
    event.add("summary", "Vacuum care: not any more")
    event.add("status", "CANCELLED")
    return event


def _alarm(shown: Shown, text: str) -> Alarm:
    alarm = Alarm()
    alarm.add("action", "DISPLAY")
    alarm.add("description", text)
    alarm.add("trigger", MORNING if shown.all_day else -timedelta(minutes=shown.alarm_min or 0))
    return alarm


def _lines(visit: Visit, planned: Planned, base_url: str) -> Iterable[str]:
    by_machine: dict[UUID, list[Job]] = {}
    for job in visit.jobs:
        by_machine.setdefault(job.chore.key.machine_id, []).append(job)
    for pk, jobs in by_machine.items():
        yield f"{planned.machines[pk].machine.name}: {'; '.join(_job(job, visit, planned) for job in jobs)}"
    ready = [*_tools(visit, planned), *(_part(one) for one in planned.orders if one.for_day == visit.day.date)]
    if ready:
        yield f"Have ready: {', '.join(ready)}"
    yield f"{base_url}/#/season"


def _job(job: Job, visit: Visit, planned: Planned) -> str:
    chore = job.chore
    slot = planned.machines[chore.key.machine_id].machine.archetype.slot(chore.key.slot)
    dry = planned.ready_at(chore, visit.day.date)
    dries = f" (dries until {dry:%a %d %b %H:%M})" if dry is not None and (chore.missed or chore.turns) else ""
    return f"{slot.name}, {DEEDS[chore.key.action].ask}{dries}"


def _tools(visit: Visit, planned: Planned) -> list[str]:
    book = load_book()
    keys = {
        tool
        for job in visit.jobs
        for tool in planned.machines[job.chore.key.machine_id]
        .machine.archetype.slot(job.chore.key.slot)
        .rule(job.chore.key.action)
        .card.tools
    }
    return sorted(book.tools[key].name.lower() for key in keys)


def _part(one: OrderBy) -> str:
    return f"new {one.name}"
