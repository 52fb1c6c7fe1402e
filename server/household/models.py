"""Who lives here, who may do what, and the dated answers that move dates."""

from django.conf import settings
from django.db import models

from care.vocabulary import LoadKind
from server.logbook.models import Detail, Entry
from server.logbook.scoping import OfHousehold


class Household(models.Model):
    """A household and its time zone (an IANA name)."""

    id = models.UUIDField(primary_key=True)
    name = models.CharField(max_length=80)
    time_zone = models.CharField(max_length=64, default="UTC")
    created_at = models.DateTimeField()


class Member(OfHousehold):
    """Somebody of a household, with what they may do there. One account may belong to several households.

    Who has no account is known by name only; who left keeps their records, and does not get in any more.
    """

    class Role(models.TextChoices):
        """What a member may do."""

        OWNER = "owner", "does everything, and says who may do what"
        HELPER = "helper", "logs and does tasks"
        VIEWER = "viewer", "looks only"

    id = models.UUIDField(primary_key=True)
    user = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="memberships")
    name = models.CharField(max_length=80)
    role = models.CharField(max_length=10, choices=Role.choices)
    joined_at = models.DateTimeField()
    left_at = models.DateTimeField(null=True)

    class Meta(OfHousehold.Meta):
        constraints = [
            models.UniqueConstraint(
                fields=["household", "user"], condition=models.Q(user__isnull=False), name="once_in_a_household"
            )
        ]

    @property
    def may_write(self) -> bool:
        """Whether this member may record anything."""
        return self.role != self.Role.VIEWER

    @property
    def is_owner(self) -> bool:
        """Whether this member says who may do what."""
        return self.role == self.Role.OWNER


class Pace(OfHousehold):
    """How many times the book's minutes a household takes at the bench, and from how many sittings that is known."""

    household = models.OneToOneField(Household, primary_key=True, on_delete=models.CASCADE)
    factor = models.FloatField()
    sittings = models.PositiveIntegerField()


class Sent(OfHousehold):
    """A write that was answered, under the id that the client made for it: asked again, it answers the same."""

    sent_id = models.UUIDField()
    content = models.CharField(max_length=64)
    """A digest of what was asked."""
    status = models.PositiveSmallIntegerField()
    content_type = models.CharField(max_length=80)
    answer = models.BinaryField()
    """What was answered, compressed."""
    at = models.DateTimeField(db_index=True)

    class Meta(OfHousehold.Meta):
        constraints = [models.UniqueConstraint(fields=["household", "sent_id"], name="a_write_is_sent_once")]


class Settings(Detail):
    """A dated version of the answers that move dates: it holds from its entry's instant until the next one."""

    entry_kind = Entry.Kind.HOUSEHOLD
    hair = models.FloatField()
    dust = models.FloatField()
    volume = models.FloatField()
    school = models.CharField(max_length=10)
    profile = models.JSONField(null=True)
    """The answers that the loads were made from; None where only loads were told."""


class MoreLoad(Detail):
    """A time of more load than usual, both days included: moulting, building work, a visit."""

    entry_kind = Entry.Kind.LOAD
    kind = models.CharField(max_length=10, choices=[(kind.value, kind.value) for kind in LoadKind])
    first = models.DateField()
    last = models.DateField()
    level = models.FloatField()
    note = models.CharField(max_length=80, blank=True)
