"""Devices with their tokens, the lines that came of them, and what was held apart."""

from django.db import models

from care.heard.sense import Doubt
from server.logbook.models import Detail, Entry
from server.logbook.scoping import OfHousehold
from server.machines.models import Item, Machine


class DeviceKind(models.TextChoices):
    """What a device is, and so what it may post."""

    MACHINE = "machine", "a machine that reports by itself"
    GAUGE = "gauge", "a suction gauge"
    SCALE = "scale", "a kitchen scale"
    CLIMATE = "climate", "a climate sensor"


class Device(OfHousehold):
    """Something that may post lines of its kind, for one machine or one place. Only a digest of its token is kept.

    `weighs` is the part that somebody said lies on a scale.
    """

    id = models.UUIDField(primary_key=True)
    kind = models.CharField(max_length=10, choices=DeviceKind.choices)
    name = models.CharField(max_length=60)
    machine = models.ForeignKey(Machine, null=True, on_delete=models.CASCADE, related_name="+")
    place = models.CharField(max_length=40, blank=True)
    digest = models.CharField(max_length=64, unique=True)
    made_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)
    seen_at = models.DateTimeField(null=True)
    weighs = models.ForeignKey(Item, null=True, on_delete=models.SET_NULL, related_name="+")


class Received(OfHousehold):
    """A line that came, under its device's id of it: sent again it counts once. `total` is the device's own count."""

    device = models.ForeignKey(Device, on_delete=models.CASCADE, related_name="lines")
    line_id = models.CharField(max_length=64)
    content = models.CharField(max_length=64)
    """A digest of what it said."""
    kind = models.CharField(max_length=10)
    at = models.DateTimeField()
    total = models.FloatField(null=True)

    class Meta(OfHousehold.Meta):
        constraints = [models.UniqueConstraint(fields=["device", "line_id"], name="a_line_once")]
        indexes = [models.Index(fields=["device", "kind", "at"], name="lines_in_time")]


class DeviceChange(Detail):
    """A device may post from now on, or may not any more."""

    entry_kind = Entry.Kind.DEVICE

    class What(models.TextChoices):
        """What changed."""

        CONNECTED = "connected", "may post"
        ENDED = "ended", "may not post any more"

    what = models.CharField(max_length=10, choices=What.choices)
    name = models.CharField(max_length=60)
    kind = models.CharField(max_length=10, choices=DeviceKind.choices)
    machine = models.ForeignKey(Machine, null=True, on_delete=models.CASCADE, related_name="+")
    place = models.CharField(max_length=40, blank=True)


class Held(Detail):
    """What a device said and nobody believes yet: it does not count, and is asked about until that is settled.

    `line` is what it said, `why` tells it in words; `device_id` is the device, which another installation may not have.
    """

    entry_kind = Entry.Kind.HELD
    device_id = models.UUIDField(db_index=True)
    name = models.CharField(max_length=60)
    kind = models.CharField(max_length=10, choices=DeviceKind.choices)
    machine = models.ForeignKey(Machine, null=True, on_delete=models.CASCADE, related_name="+")
    place = models.CharField(max_length=40, blank=True)
    doubt = models.CharField(max_length=14, choices=[(str(one), str(one)) for one in Doubt])
    why = models.CharField(max_length=300)
    line = models.JSONField()


class Settled(Detail):
    """What somebody said of a line that was held apart: it counts (what came of it is of the same action), or not."""

    entry_kind = Entry.Kind.SETTLED
    held = models.ForeignKey(Held, on_delete=models.CASCADE, related_name="settlings")
    counts = models.BooleanField()
