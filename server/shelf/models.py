"""The shelf: kinds of spare part, what goes in and out, price lists, orders. All of it entries that can be undone."""

from django.db import models

from server.logbook.models import Detail, Entry


class SpareVersion(Detail):
    """A kind of spare part from its entry's instant on, as the core's `SparePart` in JSON; None: no longer kept."""

    entry_kind = Entry.Kind.SPARE
    spare_id = models.UUIDField(db_index=True)
    value = models.JSONField(null=True)


class PricesVersion(Detail):
    """A supplier's price list from its entry's instant on, as the core's `PriceList` in JSON; None: no longer used."""

    entry_kind = Entry.Kind.PRICES
    supplier = models.CharField(max_length=60)
    value = models.JSONField(null=True)


class Order(Detail):
    """What was ordered: lines with what was paid and what is in them, and the day it is expected.

    A line is {supplier, code, name, price [cents], count, contents: {spare id: how many in one}, numbers: {spare id:
    part number}}.
    """

    entry_kind = Entry.Kind.ORDER
    lines = models.JSONField()
    delivery = models.PositiveIntegerField(default=0)
    expected = models.DateField()


class OrderClosed(Detail):
    """What had not come of an order by then does not come any more."""

    entry_kind = Entry.Kind.ORDER
    order = models.ForeignKey(Order, on_delete=models.PROTECT, related_name="closings")


class Movement(Detail):
    """So many of a kind of part came in or went out; the sum of those that stand is what is there.

    `number` is the part number if it is known, `item` the part that it became in a machine, `order` what it came with.
    """

    entry_kind = Entry.Kind.STOCK

    class Why(models.TextChoices):
        """Why it moved."""

        CAME = "came", "came with an order"
        BOUGHT = "bought", "bought elsewhere"
        FITTED = "fitted", "went into a machine"
        TURN = "turn", "takes turns from now on"
        COUNTED = "counted", "counted anew"
        GONE = "gone", "lost, given away or thrown away"

    spare_id = models.UUIDField(db_index=True)
    count = models.IntegerField()
    why = models.CharField(max_length=10, choices=Why.choices)
    number = models.CharField(max_length=40, blank=True)
    note = models.CharField(max_length=200, blank=True)
    item_id = models.UUIDField(null=True)
    order = models.ForeignKey(Order, null=True, on_delete=models.PROTECT, related_name="arrivals")


class Measured(Detail):
    """What somebody measured on one part: a measure of the book, the figure in its scale, and what was typed."""

    entry_kind = Entry.Kind.READING
    item_id = models.UUIDField(db_index=True)
    measure = models.CharField(max_length=40)
    value = models.FloatField()
    typed = models.FloatField()
    unit = models.CharField(max_length=10)


class WorthVersion(Detail):
    """What was told of a machine's worth from its entry's instant on: the core's `CostBasis` in JSON, its guarantee."""

    entry_kind = Entry.Kind.SPARE
    machine_id = models.UUIDField(db_index=True)
    value = models.JSONField()
    guarantee_until = models.DateField(null=True)
