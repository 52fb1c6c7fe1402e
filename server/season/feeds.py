"""Private addresses from which calendars take the visits: made, changed, revoked; their secret is shown once."""

from dataclasses import dataclass
from datetime import timedelta

from django.db import DatabaseError, transaction

from care.errors import require
from server.base import clock, tokens
from server.household.models import Member
from server.season.models import Feed

LONGEST_ALARM_MIN = 7 * 24 * 60
"""An alarm rings at most a week before a visit [min]."""
TOLD_EVERY = timedelta(hours=1)
"""So often it is noted that an address was used."""


@dataclass(frozen=True, slots=True)
class Shown:
    """How calendars are to show visits: all day or at their time, with an alarm so many minutes before (None: none)."""

    all_day: bool
    alarm_min: int | None

    def __post_init__(self) -> None:
        alarm = self.alarm_min
        fits = alarm is None or 0 <= alarm <= LONGEST_ALARM_MIN
        require(fits, "alarm_min", alarm, f"0 to {LONGEST_ALARM_MIN} minutes")


@transaction.atomic
def make_feed(*, member: Member, shown: Shown) -> str:
    """A new private address for this member; the one before is revoked by it. Returns its secret, which is not kept."""
    secret, digest = tokens.fresh()
    Feed.everything.update_or_create(
        member=member,
        defaults={
            "household_id": member.household_id,
            "digest": digest,
            "all_day": shown.all_day,
            "alarm_min": shown.alarm_min,
            "made_at": clock.now(),
            "used_at": None,
        },
    )
    return secret


@transaction.atomic
def revoke_feed(*, member: Member) -> None:
    """Nobody reaches this member's address any more."""
    Feed.objects.of(member.household_id).filter(member=member).delete()


def feed_of(member: Member) -> Feed | None:
    """This member's address, if there is one; its secret is nowhere."""
    row: Feed | None = Feed.objects.of(member.household_id).filter(member=member).first()
    return row


def by_secret(secret: str) -> tuple[Member, Shown] | None:
    """Whose address it is, and how visits are shown there; None for one that was never made, or was revoked."""
    digest = tokens.digest_of(secret)
    row = Feed.everything.filter(digest=digest, member__left_at=None).select_related("member__household").first()
    if row is None:
        return None
    _used(row)
    return row.member, Shown(row.all_day, row.alarm_min)


def _used(row: Feed) -> None:
    """Note that it was used, now and then; a calendar gets its answer also where the disk takes nothing."""
    now = clock.now()
    if row.used_at is not None and now - row.used_at < TOLD_EVERY:
        return
    try:
        Feed.everything.filter(pk=row.pk).update(used_at=now)
    except DatabaseError:
        return
