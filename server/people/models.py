"""How people get in, how each likes things shown, and what changed of who may do what."""

from django.conf import settings
from django.db import models

from server.household.models import Member
from server.logbook.models import Detail, Entry
from server.logbook.scoping import OfHousehold


class Invitation(OfHousehold):
    """A link that lets somebody in once, until it expires. Only a digest of its secret is kept.

    For a `member` who has an account it sets a new password; one without an account gets one by it.
    """

    id = models.UUIDField(primary_key=True)
    digest = models.CharField(max_length=64, unique=True)
    name = models.CharField(max_length=80, blank=True)
    role = models.CharField(max_length=10, choices=Member.Role.choices)
    member = models.ForeignKey(Member, null=True, on_delete=models.CASCADE, related_name="+")
    made_by = models.ForeignKey(Member, on_delete=models.CASCADE, related_name="+")
    made_at = models.DateTimeField()
    expires_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)
    """When it was used or taken back."""


class Tastes(models.Model):
    """How an account likes things shown, on every device and in every household."""

    class Units(models.TextChoices):
        """How lengths, weights and temperatures are shown."""

        METRIC = "metric", "metric"
        US = "us", "US"

    class Theme(models.TextChoices):
        """Light, dark, or as the device has it."""

        AUTO = "auto", "as the device has it"
        LIGHT = "light", "light"
        DARK = "dark", "dark"

    class Text(models.TextChoices):
        """How large letters are."""

        USUAL = "usual", "as usual"
        LARGE = "large", "to be read at arm's length"

    class Numbers(models.TextChoices):
        """How figures are written."""

        DEVICE = "device", "as the device has it"
        POINT = "point", "1,234.5"
        COMMA = "comma", "1.234,5"
        SPACE = "space", "1 234,5"

    user = models.OneToOneField(
        settings.AUTH_USER_MODEL, primary_key=True, on_delete=models.CASCADE, related_name="tastes"
    )
    units = models.CharField(max_length=6, choices=Units.choices, default=Units.METRIC)
    theme = models.CharField(max_length=5, choices=Theme.choices, default=Theme.AUTO)
    text = models.CharField(max_length=5, choices=Text.choices, default=Text.USUAL)
    numbers = models.CharField(max_length=6, choices=Numbers.choices, default=Numbers.DEVICE)


class PeopleChange(Detail):
    """Somebody was let in, left, may do more or less, or is called otherwise. Not undone: done anew the other way."""

    entry_kind = Entry.Kind.PEOPLE

    class What(models.TextChoices):
        """What changed."""

        JOINED = "joined", "joined"
        LEFT = "left", "left"
        ROLE = "role", "may do more or less"
        RENAMED = "renamed", "is called otherwise"
        HOUSE = "house", "the household is called otherwise"

    what = models.CharField(max_length=10, choices=What.choices)
    name = models.CharField(max_length=80)
    before = models.CharField(max_length=80, blank=True)
    role = models.CharField(max_length=10, choices=Member.Role.choices, blank=True)
