"""How long sittings took, beside what the book says."""

from datetime import datetime, timedelta

from django.db.models import Min

from care.season.minutes import Took
from server.bench.models import Sheet
from server.bench.records import thaw
from server.household.models import Member

LATEST = 40
"""So many of the last sittings tell of a household's pace [-]. Ours."""


def sittings_took(member: Member) -> list[Took]:
    """The last sittings that were ended: minutes by the book, and from the first answer to the end [min]."""
    ended = Sheet.objects.of(member.household_id).filter(status=Sheet.Status.FINISHED, follows=None)
    rows = ended.annotate(began=Min("events__at")).exclude(began=None).order_by("-ended_at")[:LATEST]
    return [
        Took(thaw(row).sheet.minutes, (row.ended_at - row.began) / timedelta(minutes=1)) for row in rows if row.ended_at
    ]


def sittings_since(member: Member, since: datetime) -> list[tuple[datetime, float]]:
    """When sittings ended since then, and their minutes: as they took, or by the book where nobody knows."""
    ended = Sheet.objects.of(member.household_id).filter(status=Sheet.Status.FINISHED, ended_at__gte=since)
    sittings = []
    for row in ended.annotate(began=Min("events__at")):
        book = thaw(row).sheet.minutes
        took = Took(book, (row.ended_at - row.began) / timedelta(minutes=1)) if row.began else None
        sittings.append((row.ended_at, took.took_min if took and took.tells else book))
    return sittings
