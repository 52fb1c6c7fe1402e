"""The header of everything that happens. Details stand in the app of their kind."""

from typing import ClassVar

from django.db import models

from server.logbook.scoping import OfHousehold


class Entry(OfHousehold):
    """Something that happened. Never changed, never deleted: a correction is an entry that voids another.

    Entries written by one action share an `action_id`, and are undone together.
    """

    class Kind(models.TextChoices):
        """What happened; each kind but `void` has a detail row."""

        MACHINE = "machine", "machine set up"
        HOUSEHOLD = "household", "household settings"
        SCHEDULE = "schedule", "usual week"
        RUN = "run", "run"
        MOVE = "move", "part moved"
        SERVICE = "service", "service"
        INSPECTION = "inspection", "inspection"
        COUNTER = "counter", "machine's own counter"
        REST = "rest", "did not run"
        LOAD = "load", "more load than usual"
        OWN = "own", "changed on a machine"
        STATUS = "status", "put away or back"
        UNKNOWN = "unknown", "not known since when"
        MISHAP = "mishap", "ran over or took in"
        DANGER = "danger", "danger, or its end"
        CHANGED = "changed", "whether something changed at home"
        WAIT = "wait", "task put off"
        CLAIM = "claim", "task taken on"
        NOTE = "note", "note or photo"
        HUNG = "hung", "hung up to dry"
        WEIGHT = "weight", "weighed"
        CHECK = "check", "checked for damp"
        READING = "reading", "suction taken"
        CASE = "case", "search for a fault"
        AIR = "air", "air of a place"
        SAID = "said", "said by a machine"
        DEVICE = "device", "device"
        HELD = "held", "held apart"
        SETTLED = "settled", "settled what was held apart"
        SPARE = "spare", "kind of spare part"
        SIZE = "size", "size of a bag or bin"
        PRICES = "prices", "price list"
        STOCK = "stock", "in or out of the shelf"
        ORDER = "order", "ordered"
        SEASON = "season", "days for visits"
        WISH = "wish", "asked of a season"
        PEOPLE = "people", "who may do what"
        IMPORT = "import", "brought in from a file"
        VOID = "void", "correction"

    class Source(models.TextChoices):
        """Where an entry came from."""

        PERSON = "person", "a person"
        SHEET = "sheet", "a bench sheet"
        DEVICE = "device", "a machine"

    id = models.UUIDField(primary_key=True)
    action_id = models.UUIDField(db_index=True)
    subject_id = models.UUIDField()
    """Whose dates it moves: a machine, or the household for all of them."""
    kind = models.CharField(max_length=20, choices=Kind.choices)
    happened_at = models.DateTimeField()
    entered_at = models.DateTimeField()
    by = models.ForeignKey("household.Member", null=True, on_delete=models.SET_NULL, related_name="+", db_index=False)
    source = models.CharField(max_length=10, choices=Source.choices, default=Source.PERSON)
    sequence = models.PositiveIntegerField()
    """The order of entering within the household: decides between things of one instant."""
    voids = models.OneToOneField("self", null=True, on_delete=models.PROTECT, related_name="voided_by")
    reason = models.CharField(max_length=200, blank=True)

    class Meta(OfHousehold.Meta):
        # Each in the order in which the Log reads: it then takes the first page of many years without sorting them.
        indexes = [
            models.Index(fields=["household", *of, "happened_at", "sequence"], name=f"log_by_{'_'.join(of) or 'time'}")
            for of in (["kind"], [], ["subject_id"], ["by"])
        ]
        constraints = [
            models.UniqueConstraint(fields=["household", "sequence"], name="one_order_of_entering"),
            models.CheckConstraint(
                condition=models.Q(kind="void", voids__isnull=False) | ~models.Q(kind="void") & models.Q(voids=None),
                name="only_a_void_voids",
            ),
        ]


class Revision(OfHousehold):
    """The sequence of the latest entry about a subject: what is derived from its entries is true up to that number."""

    subject_id = models.UUIDField()
    number = models.PositiveIntegerField()

    class Meta(OfHousehold.Meta):
        constraints = [models.UniqueConstraint(fields=["household", "subject_id"], name="one_revision_a_subject")]


class Detail(OfHousehold):
    """A detail row: shares the id of its entry. `entry_kind` is what kind of entry it details."""

    entry_kind: ClassVar[Entry.Kind]
    entry = models.OneToOneField(Entry, primary_key=True, on_delete=models.CASCADE, related_name="+")

    class Meta(OfHousehold.Meta):
        abstract = True
