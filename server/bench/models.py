"""Bench sheets: their steps frozen when they are made, and the answers given, which are only ever added."""

from django.db import models

from server.logbook.scoping import OfHousehold


class Sheet(OfHousehold):
    """One sitting, at one machine or several.

    `frozen` holds the core's sheet and the items as they were when it was made; `ending` what the end of the sitting
    answered, so that who asks again with the same `finish_id` gets the same answer. `case_id` is the search for a fault
    that it puts right.
    """

    class Status(models.TextChoices):
        """Where a sheet stands."""

        OPEN = "open", "open"
        FINISHED = "finished", "finished"
        DROPPED = "dropped", "given up"

    id = models.UUIDField(primary_key=True)
    machines = models.ManyToManyField("machines.Machine", related_name="sheets")
    frozen = models.JSONField()
    status = models.CharField(max_length=10, choices=Status.choices, default=Status.OPEN)
    made_at = models.DateTimeField()
    made_by = models.ForeignKey("household.Member", null=True, on_delete=models.SET_NULL, related_name="+")
    ended_at = models.DateTimeField(null=True)
    follows = models.ForeignKey("self", null=True, on_delete=models.SET_NULL, related_name="followed_by")
    action_id = models.UUIDField(null=True)
    finish_id = models.UUIDField(null=True)
    ending = models.JSONField(null=True)
    case_id = models.UUIDField(null=True, db_index=True)


class SheetEvent(OfHousehold):
    """An answer to a step, or one step back. Client-made ids: sent twice, it counts once.

    A `late` one came when the sheet had gone on or ended: it stays as a note and changes nothing.
    """

    id = models.UUIDField(primary_key=True)
    sheet = models.ForeignKey(Sheet, on_delete=models.CASCADE, related_name="events")
    number = models.PositiveIntegerField()
    step = models.CharField(max_length=120)
    value = models.CharField(max_length=20)
    reason = models.CharField(max_length=200, blank=True)
    hanging = models.JSONField(null=True)
    late = models.BooleanField(default=False)
    at = models.DateTimeField()
    by = models.ForeignKey("household.Member", null=True, on_delete=models.SET_NULL, related_name="+")

    class Meta(OfHousehold.Meta):
        ordering = ["number"]
        constraints = [models.UniqueConstraint(fields=["sheet", "number"], name="events_in_one_order")]
