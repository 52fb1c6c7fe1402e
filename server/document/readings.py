"""Readings of machines and measures of wear as a table, each with its unit."""

from collections.abc import Iterator
from dataclasses import dataclass

from server.household.models import Member
from server.household.services import zone_of
from server.logbook.services import standing
from server.machines.models import Item, Reading
from server.shelf.models import Measured


@dataclass(frozen=True, slots=True)
class ReadingRow:
    """One figure: of what, as it was typed and in the unit in which it is kept (SI)."""

    day: str
    machine: str
    part: str
    of: str
    typed: float
    unit: str
    value_in_si: float
    taken: str


def readings_table(member: Member) -> Iterator[ReadingRow]:
    """All that stand, the first one first."""
    rows = [*_of_machines(member), *_of_parts(member)]
    yield from sorted(rows, key=lambda row: row.day)


def _of_machines(member: Member) -> Iterator[ReadingRow]:
    zone = zone_of(member)
    for row in standing(Reading.objects.of(member.household_id).select_related("machine")):
        day = row.entry.happened_at.astimezone(zone).date().isoformat()
        taken = " ".join(word for word in (row.opening, row.moment) if word)
        yield ReadingRow(day, row.machine.name, "", row.quantity, row.typed, row.unit, row.value, taken)


def _of_parts(member: Member) -> Iterator[ReadingRow]:
    zone = zone_of(member)
    parts = {item.pk: item for item in Item.objects.of(member.household_id).select_related("home_machine")}
    for row in standing(Measured.objects.of(member.household_id)):
        item = parts.get(row.item_id)
        if item is None:
            continue
        day = row.entry.happened_at.astimezone(zone).date().isoformat()
        machine, part = item.home_machine.name, item.name
        yield ReadingRow(day, machine, part, row.measure, row.typed, row.unit, row.value, "")
