"""The season over HTTP."""

from dataclasses import dataclass
from datetime import date

from django.http import HttpRequest, HttpResponse
from ninja import Router

from server.base.csv_out import csv_file
from server.base.http import REFUSALS, Problem
from server.base.problems import NotFound
from server.household.auth import asking
from server.household.services import today_of, zone_of
from server.household.writes import changes_nothing, for_everybody, tells_a_secret
from server.round.answer import WRITTEN, written
from server.season import feeds, ics_in, services, whatif
from server.season.asked_schemas import HabitsIn, WishIn
from server.season.calendar_schemas import FeedIn, FeedMade, FeedOut, FoundOut, TakeIn, feed_out, found_out
from server.season.feeds import Shown
from server.season.ical import calendar_of
from server.season.planning import season_of
from server.season.schemas import SeasonOut, season_out
from server.season.whatif_schemas import ChangeIn, WhatIfIn, WhatIfOut, WhatIfStart, what_if_start_out
from server.shelf.buying import shelf

router = Router(tags=["season"])


@router.get("/season", response=SeasonOut, operation_id="season_get")
def get_season(request: HttpRequest) -> SeasonOut:
    """Half a year in visits, as it stands now."""
    member = asking(request)
    return season_out(season_of(member), shelf(member).currency)


@router.post("/season/habits", response=WRITTEN, operation_id="season_habits")
def keep_habits(request: HttpRequest, data: HabitsIn) -> HttpResponse:
    """On which days visits are liked, from now on."""
    member = asking(request)
    entry = services.keep_habits(member=member, habits=data.habits())
    return written(member, entry.pk)


@router.post("/season/wishes", response=WRITTEN, operation_id="season_wish")
def wish(request: HttpRequest, data: WishIn) -> HttpResponse:
    """Ask something of the season; the plan goes around it."""
    member = asking(request)
    chores = {one.key() for one in data.chores}
    entry = services.ask(member=member, what=data.what, first=data.first, last=data.last, chores=chores, note=data.note)
    return written(member, entry.pk)


@router.get("/season/feed", response=FeedOut, operation_id="season_feed")
def feed(request: HttpRequest) -> FeedOut:
    """Whether calendars take the visits from an address of this member's, and how they are shown there."""
    return feed_out(feeds.feed_of(asking(request)))


@router.post("/season/feed", response={201: FeedMade, **REFUSALS}, operation_id="season_feed_make")
@for_everybody
@tells_a_secret
def make_feed(request: HttpRequest, data: FeedIn) -> tuple[int, FeedMade]:
    """A new private address, told this once; one that was made before is revoked by it."""
    member = asking(request)
    secret = feeds.make_feed(member=member, shown=Shown(data.all_day, data.alarm_min))
    address = f"{_base(request)}/api/calendar/{secret}.ics"
    return 201, FeedMade(address=address, feed=feed_out(feeds.feed_of(member)))


@router.delete("/season/feed", response={200: FeedOut, **REFUSALS}, operation_id="season_feed_revoke")
@for_everybody
def revoke_feed(request: HttpRequest) -> FeedOut:
    """Nobody reaches the address any more."""
    member = asking(request)
    feeds.revoke_feed(member=member)
    return feed_out(None)


@router.get("/season.ics", operation_id="season_file", response={200: str})
def file(request: HttpRequest, all_day: bool = False) -> HttpResponse:
    """The visits as an iCalendar file to take away."""
    member = asking(request)
    answer = _as_calendar(calendar_of(member, Shown(all_day, None), _base(request)))
    answer["Content-Disposition"] = 'attachment; filename="visits.ics"'
    return answer


@dataclass(frozen=True, slots=True)
class VisitRow:
    """A chore of a visit as a line of a table: hands-on minutes, days before its date (late where less than 0)."""

    day: date
    machine: str
    part: str
    task: str
    minutes: float
    days_early: int


@router.get("/visits.csv", operation_id="visits_csv", response={200: None})
def visits_csv(request: HttpRequest) -> HttpResponse:
    """The visits of the coming half year as a table, a line for each chore."""
    member = asking(request)
    season = season_out(season_of(member), shelf(member).currency)
    rows = (
        VisitRow(visit.date, job.machine_name, job.slot_name, job.action, round(job.minutes, 1), job.early_days)
        for visit in season.visits
        for job in visit.jobs
    )
    return csv_file("visits", VisitRow, rows)


@router.get("/calendar/{secret}.ics", operation_id="calendar_feed", response={200: str, 404: Problem}, auth=None)
def calendar(request: HttpRequest, secret: str) -> HttpResponse:
    """The visits for a calendar that knows the address."""
    found = feeds.by_secret(secret)
    if found is None:
        raise NotFound("calendar: this address is not in use", field="secret", fix="Make a new one on the Season page.")
    return _as_calendar(calendar_of(*found, _base(request)))


@router.post("/season/import/preview", response={200: FoundOut, **REFUSALS}, operation_id="season_import_preview")
@changes_nothing
def preview(request: HttpRequest) -> FoundOut:
    """What an iCalendar file tells of the coming half year; nothing is recorded. The file is the body."""
    member = asking(request)
    return found_out(ics_in.read(request.body, today_of(member), zone_of(member)))


@router.post("/season/import", response=WRITTEN, operation_id="season_import")
def take(request: HttpRequest, data: TakeIn) -> HttpResponse:
    """Take days away, days without a visit and a machine's week from a calendar, all of it or nothing."""
    member = asking(request)
    entry = services.take(member=member, taken=data.taken())
    return written(member, entry.pk)


@router.get("/what-if", response=WhatIfStart, operation_id="what_if_start")
def what_if_start(request: HttpRequest) -> WhatIfStart:
    """How the household lives now, and a year of it."""
    member = asking(request)
    return what_if_start_out(whatif.as_it_is(member), whatif.now_of(member), shelf(member).currency)


@router.post("/what-if", response={200: WhatIfOut, **REFUSALS}, operation_id="what_if")
@changes_nothing
def what_if(request: HttpRequest, data: WhatIfIn) -> WhatIfOut:
    """A year of each way of living; nothing is recorded."""
    member = asking(request)
    return WhatIfOut.model_validate(
        {"compared": [whatif.compare(member, one.change()) for one in data.changes]}, from_attributes=True
    )


@router.post("/what-if/adopt", response=WRITTEN, operation_id="what_if_adopt")
def adopt(request: HttpRequest, data: ChangeIn) -> HttpResponse:
    """Live so from now on, in one action."""
    member = asking(request)
    entry = whatif.adopt(member=member, change=data.change())
    return written(member, entry.pk)


def _as_calendar(text: bytes) -> HttpResponse:
    return HttpResponse(text, content_type="text/calendar; charset=utf-8")


def _base(request: HttpRequest) -> str:
    return request.build_absolute_uri("/").rstrip("/")
