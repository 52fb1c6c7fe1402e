"""The season: on which days a household likes visits, what it asked of them, and what was planned last."""

from django.db import models

from server.logbook.models import Detail, Entry
from server.logbook.scoping import OfHousehold


class HabitsVersion(Detail):
    """On which days a household likes visits, from its entry's instant on: `records.Habits` in JSON."""

    entry_kind = Entry.Kind.SEASON
    value = models.JSONField()


class Wish(Detail):
    """Something that somebody asked of the season; while its entry stands, the plan goes around it.

    `chores` are [machine, slot, action]; a wish about whole days names none.
    """

    entry_kind = Entry.Kind.WISH

    class What(models.TextChoices):
        """What was asked."""

        ON = "on", "do these on that day"
        NO_VISIT = "no_visit", "no visit on these days"
        LEAVE_OUT = "leave_out", "not these on these days"

    what = models.CharField(max_length=10, choices=What.choices)
    first = models.DateField()
    last = models.DateField()
    chores = models.JSONField(default=list)
    note = models.CharField(max_length=80, blank=True)


class LastPlan(OfHousehold):
    """On which days the last plan had each chore: [machine, slot, action, days]. Made anew it moves nothing unasked.

    `visits` are its days with their hands-on minutes, for who only wants to know when the next one is; `calendar` its
    visits as entries of calendars: `care.season.calendar.Entry` in JSON.
    """

    household = models.OneToOneField("household.Household", primary_key=True, on_delete=models.CASCADE)
    made_on = models.DateField()
    doing = models.JSONField()
    visits = models.JSONField()
    calendar = models.JSONField(default=list)


class Feed(OfHousehold):
    """A member's private address from which calendars take the visits. Only a digest of its secret is kept."""

    member = models.OneToOneField("household.Member", primary_key=True, on_delete=models.CASCADE)
    digest = models.CharField(max_length=64, unique=True)
    all_day = models.BooleanField()
    alarm_min = models.PositiveIntegerField(null=True)
    """So many minutes before a visit an alarm rings; None: none."""
    made_at = models.DateTimeField()
    used_at = models.DateTimeField(null=True)
