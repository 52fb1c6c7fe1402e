"""Machines, the parts in their slots, and what happened to them.

`Item`'s state columns and all of `Fitting` are derived: they equal the replay of the moves that stand.
"""

from django.db import models

from care.faults.airflow import At
from care.items import MoveKind, State
from care.model import Provenance, Why
from care.units import Quantity
from care.vocabulary import Action, Ended, Found, Mishap, Silence
from server.logbook.models import Detail, Entry
from server.logbook.scoping import OfHousehold


def _choices(values: type) -> list[tuple[str, str]]:
    return [(str(value), str(value)) for value in values]  # type: ignore[attr-defined]


class Machine(OfHousehold):
    """A vacuum cleaner or dock of the household; its kind is a key of the care book.

    `features` are options of its kind; a dock `serves` a robot. `own` are its settings that stand, by their key, and
    with `features`, `status` and `name` derived from entries; `given_name`, `given_features` are those at set-up.
    """

    class Status(models.TextChoices):
        """Whether the household uses it."""

        IN_USE = "in_use", "in use"
        ARCHIVED = "archived", "put away"
        LENT = "lent", "lent"
        SOLD = "sold", "sold or given away"
        REPLACED = "replaced", "replaced"

    id = models.UUIDField(primary_key=True)
    name = models.CharField(max_length=60)
    given_name = models.CharField(max_length=60, default="")
    archetype = models.CharField(max_length=60)
    features = models.JSONField(default=list)
    given_features = models.JSONField(default=list)
    serves = models.ForeignKey("self", null=True, on_delete=models.SET_NULL, related_name="docks")
    set_up = models.OneToOneField(Entry, on_delete=models.PROTECT, related_name="+")
    own = models.JSONField(default=dict)
    status = models.CharField(max_length=10, choices=Status.choices, default=Status.IN_USE)
    replaces = models.ForeignKey("self", null=True, on_delete=models.SET_NULL, related_name="+")

    class Meta(OfHousehold.Meta):
        constraints = [models.UniqueConstraint(fields=["household", "name"], name="machine_name_once")]


class ScheduleVersion(Detail):
    """A machine's usual week, from its entry's instant until the next version. An empty rule: no usual week.

    `return_min` is the dock's setting after how many minutes the robot comes home to be emptied, if it does; within its
    quiet hours it does not empty; `dry_h` is how long it dries the mops [h].
    """

    entry_kind = Entry.Kind.SCHEDULE
    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="schedules")
    rule = models.CharField(max_length=200, blank=True)
    run_min = models.FloatField()
    starts = models.TimeField(null=True)
    mops = models.BooleanField(default=False)
    silence = models.CharField(max_length=10, choices=_choices(Silence), default=Silence.RESTED)
    return_min = models.FloatField(null=True)
    quiet_from = models.TimeField(null=True)
    quiet_until = models.TimeField(null=True)
    dry_h = models.FloatField(null=True)


class Run(Detail):
    """A run. `start` only if known; a measured run may stand in for a logged one by `supersedes`.

    What only a machine that reports by itself tells: floor covered [m2], the share of the battery it took [-], how
    often a dock emptied it, and why it ended.
    """

    entry_kind = Entry.Kind.RUN
    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="runs")
    day = models.DateField()
    run_s = models.FloatField()
    start = models.DateTimeField(null=True)
    mopped = models.BooleanField(default=False)
    provenance = models.CharField(max_length=10, choices=_choices(Provenance))
    supersedes = models.ForeignKey("self", null=True, on_delete=models.SET_NULL, related_name="superseded_by")
    area_m2 = models.FloatField(null=True)
    battery = models.FloatField(null=True)
    emptied = models.PositiveSmallIntegerField(null=True)
    ended = models.CharField(max_length=10, choices=_choices(Ended), blank=True, default="")

    class Meta(Detail.Meta):
        indexes = [models.Index(fields=["machine", "day"])]


class Rest(Detail):
    """Days on which a machine, or with none named the whole house, did not run as usual."""

    entry_kind = Entry.Kind.REST
    machine = models.ForeignKey(Machine, null=True, on_delete=models.CASCADE, related_name="rests")
    why = models.CharField(max_length=12, choices=_choices(Why))
    first = models.DateField()
    last = models.DateField(null=True)


class Item(OfHousehold):
    """One physical part; `home_*` says which slot it is meant for, `first_*` which one it was bought for."""

    id = models.UUIDField(primary_key=True)
    part = models.CharField(max_length=60)
    name = models.CharField(max_length=60)
    home_machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="items")
    home_slot = models.CharField(max_length=60)
    first_machine = models.ForeignKey(Machine, null=True, on_delete=models.CASCADE, related_name="+")
    first_slot = models.CharField(max_length=60, blank=True)

    state = models.CharField(max_length=12, choices=_choices(State), default=State.UNKNOWN)
    moved_at = models.DateTimeField(null=True)
    machine = models.ForeignKey(Machine, null=True, on_delete=models.SET_NULL, related_name="+")
    slot = models.CharField(max_length=60, blank=True)
    damp_until = models.DateTimeField(null=True)
    floor_until = models.DateTimeField(null=True)
    wash_count = models.PositiveIntegerField(default=0)
    cleanings = models.PositiveIntegerField(default=0)
    early_by = models.CharField(max_length=80, blank=True)
    early_reason = models.CharField(max_length=200, blank=True)


class Move(Detail):
    """One move of an item, as in the core's state machine."""

    entry_kind = Entry.Kind.MOVE
    item = models.ForeignKey(Item, on_delete=models.CASCADE, related_name="moves")
    kind = models.CharField(max_length=20, choices=_choices(MoveKind))
    machine = models.ForeignKey(Machine, null=True, on_delete=models.SET_NULL, related_name="+")
    slot = models.CharField(max_length=60, blank=True)
    floor_h = models.FloatField(default=0)
    drying = models.CharField(max_length=40, blank=True, default="")
    until = models.DateTimeField(null=True)
    override_by = models.CharField(max_length=80, blank=True)
    override_reason = models.CharField(max_length=200, blank=True)
    reason = models.CharField(max_length=200, blank=True)


class Fitting(OfHousehold):
    """An item in a slot of a machine, from `start` until `end`. Derived from the moves."""

    item = models.ForeignKey(Item, on_delete=models.CASCADE, related_name="fittings")
    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="fittings")
    slot = models.CharField(max_length=60)
    start = models.DateTimeField()
    end = models.DateTimeField(null=True)
    early_by = models.CharField(max_length=80, blank=True)
    early_reason = models.CharField(max_length=200, blank=True)

    class Meta(OfHousehold.Meta):
        constraints = [
            models.UniqueConstraint(
                fields=["machine", "slot"], condition=models.Q(end=None), name="one_item_in_a_slot"
            ),
            models.UniqueConstraint(fields=["item"], condition=models.Q(end=None), name="an_item_in_one_slot"),
        ]


class OnPart(Detail):
    """A detail about an item in a slot."""

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="%(class)ss")
    slot = models.CharField(max_length=60)
    item = models.ForeignKey(Item, on_delete=models.CASCADE, related_name="%(class)ss")
    sheet_id = models.UUIDField(null=True)

    class Meta(Detail.Meta):
        abstract = True


class Service(OnPart):
    """An action done to an item."""

    entry_kind = Entry.Kind.SERVICE
    action = models.CharField(max_length=20, choices=_choices(Action))


class Inspection(OnPart):
    """What a person found before doing anything."""

    entry_kind = Entry.Kind.INSPECTION
    about = models.CharField(max_length=20, choices=_choices(Action))
    found = models.CharField(max_length=10, choices=_choices(Found))


class Counter(OnPart):
    """What a machine's own counter said of a part's life: hours used, and what was typed."""

    entry_kind = Entry.Kind.COUNTER
    used_h = models.FloatField()
    typed = models.FloatField()
    unit = models.CharField(max_length=8)
    sense = models.CharField(max_length=5)
    trusted = models.BooleanField(null=True)
    """Whether it counts on where it was far from our own count; None: nobody was asked."""


class NotKnown(OnPart):
    """Nobody knows how far the part was through its interval, or with `life` through its life."""

    entry_kind = Entry.Kind.UNKNOWN
    life = models.BooleanField()


class OwnSetting(Detail):
    """One setting of a machine from its entry's instant on; None takes it back to what the book says."""

    entry_kind = Entry.Kind.OWN
    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="+")
    key = models.CharField(max_length=130)
    value = models.JSONField(null=True)


class StatusChange(Detail):
    """A machine was put away, lent, sold, replaced, or is in use again."""

    entry_kind = Entry.Kind.STATUS
    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="+")
    status = models.CharField(max_length=10, choices=Machine.Status.choices)


class MishapRecord(Detail):
    """What a machine ran over or took in that it is not made for."""

    entry_kind = Entry.Kind.MISHAP
    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="+")
    kind = models.CharField(max_length=10, choices=_choices(Mishap))


class DangerRecord(Detail):
    """A danger that somebody found at a machine (a key of the book), or that it is over."""

    entry_kind = Entry.Kind.DANGER
    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="+")
    danger = models.CharField(max_length=20)
    over = models.BooleanField(default=False)


class OnTask(Detail):
    """A detail about a task of a machine."""

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="+")
    slot = models.CharField(max_length=60)
    action = models.CharField(max_length=20, choices=_choices(Action))

    class Meta(Detail.Meta):
        abstract = True


class Wait(OnTask):
    """A task that waits until a day, and why."""

    entry_kind = Entry.Kind.WAIT
    until = models.DateField()
    reason = models.CharField(max_length=200)


class Claim(OnTask):
    """A task that the member of the entry took on."""

    entry_kind = Entry.Kind.CLAIM


class HomeChanged(OnTask):
    """What was said when looks in a row, from `since` on, contradicted what was believed of a task's pace."""

    entry_kind = Entry.Kind.CHANGED
    since = models.DateTimeField()
    changed = models.BooleanField()


class OnItem(Detail):
    """Something that happened to one part."""

    item = models.ForeignKey(Item, on_delete=models.CASCADE, related_name="+")

    class Meta(Detail.Meta):
        abstract = True


class Hung(OnItem):
    """From then on a part hangs in this place, whose air [degC, %] and slowness [-] are kept as they were known."""

    entry_kind = Entry.Kind.HUNG
    place = models.CharField(max_length=40, blank=True)
    temp_c = models.FloatField(null=True)
    rh_pct = models.FloatField(null=True)
    pressed = models.BooleanField(default=False)
    moving = models.BooleanField(default=False)
    slow = models.FloatField(default=1.0)


class AirReading(Detail):
    """What a device measured of the air in a drying place [degC, %]."""

    entry_kind = Entry.Kind.AIR
    place = models.CharField(max_length=40)
    temp_c = models.FloatField()
    rh_pct = models.FloatField()


class Weight(OnItem):
    """What a part weighed [g], as typed in a unit; `dry`: clean and bone dry, what later readings are held against."""

    entry_kind = Entry.Kind.WEIGHT
    grams = models.FloatField()
    typed = models.FloatField()
    unit = models.CharField(max_length=4)
    dry = models.BooleanField(default=False)


class DryCheck(OnItem):
    """Whether a part was still damp when it had dried to `share` [-] by the estimate, in a place."""

    entry_kind = Entry.Kind.CHECK
    place = models.CharField(max_length=40, blank=True)
    share = models.FloatField()
    damp = models.BooleanField()


class Reading(Detail):
    """A figure somebody took of a machine: of what, in SI and as typed, before or after some work.

    `opening` says of suction what the gauge drew on. `sheet_id` or `case_id` tell at which work it was taken.
    """

    entry_kind = Entry.Kind.READING

    class Moment(models.TextChoices):
        """When it was taken."""

        BEFORE = "before", "before the work"
        AFTER = "after", "after the work"

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="readings")
    quantity = models.CharField(max_length=10, choices=_choices(Quantity), default=Quantity.FELT)
    value = models.FloatField(default=0)
    typed = models.FloatField(default=0)
    unit = models.CharField(max_length=6, blank=True, default="")
    opening = models.CharField(max_length=8, blank=True, default="", choices=_choices(At))
    moment = models.CharField(max_length=10, choices=Moment.choices, blank=True, default="")
    sheet_id = models.UUIDField(null=True)
    case_id = models.UUIDField(null=True)


class CaseRecord(Detail):
    """How a search for a fault ended: what was noticed, what was the cause, and why it ended if it was not tried.

    `symptoms` and `causes` are keys with their words, `stand` is where the case stood.
    """

    entry_kind = Entry.Kind.CASE
    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="cases")
    case_id = models.UUIDField()
    symptoms = models.JSONField()
    causes = models.JSONField()
    stand = models.CharField(max_length=12)
    reason = models.CharField(max_length=200, blank=True)


class Note(Detail):
    """A note about a machine or one of its parts, with a picture or without. The picture is a clean JPEG.

    From `remind_on` on Round reminds of it, until a note says that it is `done`.
    """

    entry_kind = Entry.Kind.NOTE
    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="+")
    slot = models.CharField(max_length=60, blank=True)
    text = models.CharField(max_length=1000, blank=True)
    picture = models.BinaryField(null=True)
    remind_on = models.DateField(null=True)
    done = models.ForeignKey("self", null=True, on_delete=models.CASCADE, related_name="closings")
    width = models.PositiveIntegerField(default=0)
    height = models.PositiveIntegerField(default=0)


class Standing(OfHousehold):
    """What Round shows of a machine, kept so that it is not computed at each request.

    True for the local `day`, the book and the revisions it was made from, else it is made anew; it equals a full
    recompute. Strip and tasks are JSON text that goes out as it is; `ranks` puts the tasks of all machines in order,
    `renewals` is what its places will need new.
    """

    machine = models.OneToOneField(Machine, primary_key=True, on_delete=models.CASCADE, related_name="+")
    day = models.DateField()
    revision = models.CharField(max_length=200)
    minutes = models.FloatField()
    strip = models.TextField()
    tasks = models.TextField()
    ranks = models.JSONField()
    renewals = models.JSONField(default=list)
    fault = models.JSONField(null=True)
    """Why the machine could not be worked out, and the record at fault; None where it could."""


class ContainerVersion(Detail):
    """What a bag or bin holds from its entry's instant on, as `Size` in JSON; None: nobody says."""

    entry_kind = Entry.Kind.SIZE
    machine_id = models.UUIDField(db_index=True)
    slot = models.CharField(max_length=60)
    value = models.JSONField(null=True)
