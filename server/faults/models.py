"""Cases: what was noticed, answered and put right, only ever added to; where they stand is computed."""

from django.db import models

from care.vocabulary import Says
from server.logbook.models import Detail, Entry
from server.logbook.scoping import OfHousehold


class Case(OfHousehold):
    """A search for a fault of one machine, its dock with it. It can rest and be taken up on another device.

    `influences` are what its records said when it was opened: what is put right meanwhile does not change that.
    """

    class Status(models.TextChoices):
        """Whether it is still looked for."""

        OPEN = "open", "open"
        CLOSED = "closed", "closed"

    id = models.UUIDField(primary_key=True)
    machine = models.ForeignKey("machines.Machine", on_delete=models.CASCADE, related_name="+")
    dock = models.ForeignKey("machines.Machine", null=True, on_delete=models.SET_NULL, related_name="+")
    influences = models.JSONField(default=list)
    status = models.CharField(max_length=10, choices=Status.choices, default=Status.OPEN)
    opened_at = models.DateTimeField()
    opened_by = models.ForeignKey("household.Member", null=True, on_delete=models.SET_NULL, related_name="+")
    closed_at = models.DateTimeField(null=True)
    record = models.ForeignKey("logbook.Entry", null=True, on_delete=models.SET_NULL, related_name="+")

    class Meta(OfHousehold.Meta):
        constraints = [
            models.UniqueConstraint(
                fields=["machine"], condition=models.Q(status="open"), name="one_open_case_of_a_machine"
            )
        ]


class CaseEvent(OfHousehold):
    """One thing told or done, or one step back. Client-made ids: sent twice, it counts once.

    `wrote` are the entries of the tasks that it recorded: a step back over it undoes them.
    """

    class Kind(models.TextChoices):
        """What it is."""

        NOTICED = "noticed", "noticed"
        ANSWERED = "answered", "answered"
        CURED = "cured", "put right"
        RETESTED = "retested", "tried again"
        RESTS = "rests", "rests meanwhile"
        BACK = "back", "one step back"

    id = models.UUIDField(primary_key=True)
    case = models.ForeignKey(Case, on_delete=models.CASCADE, related_name="events")
    number = models.PositiveIntegerField()
    kind = models.CharField(max_length=10, choices=Kind.choices)
    key = models.CharField(max_length=120, blank=True)
    says = models.CharField(max_length=20, blank=True)
    wrote = models.JSONField(default=list)
    at = models.DateTimeField()
    by = models.ForeignKey("household.Member", null=True, on_delete=models.SET_NULL, related_name="+")

    class Meta(OfHousehold.Meta):
        ordering = ["number"]
        constraints = [models.UniqueConstraint(fields=["case", "number"], name="case_events_in_one_order")]


class Said(Detail):
    """What a machine said of itself: a word of ours where it has one, and its own words; at which case it stands."""

    entry_kind = Entry.Kind.SAID
    machine = models.ForeignKey("machines.Machine", on_delete=models.CASCADE, related_name="+")
    code = models.CharField(max_length=20, blank=True, choices=[(str(one), str(one)) for one in Says])
    words = models.CharField(max_length=200, blank=True)
    case_id = models.UUIDField(null=True)
