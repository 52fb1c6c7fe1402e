"""What each kind of line does: it becomes a record of its machine, part or place, or a doubt that somebody settles."""

from collections.abc import Callable
from dataclasses import dataclass
from datetime import timedelta
from typing import Any
from uuid import UUID

from django.db.models import QuerySet, Sum

from care import model as core
from care.bench.drying import Basis
from care.bench.weighing import is_lighter, weighs_dry
from care.errors import CareError, InvalidValue
from care.heard.scale import Drying, might_be, on_scale
from care.heard.sense import SAME_G, WEIGHT_KEPT_EVERY, Doubt, counts_back, doubt_air, doubt_run
from care.units import WEIGHT, Quantity
from server.base.problems import Conflict
from server.devices import lines
from server.devices.models import Device, Received
from server.drying.air import place_called, tell_air
from server.drying.services import WET, job_of, weigh
from server.due.state import runs_that_count
from server.faults.gauged import answer_check
from server.faults.said import Message, hear
from server.household.models import Member
from server.household.services import zone_of
from server.logbook.models import Entry
from server.logbook.services import standing, undo
from server.machines.models import Item, Machine, Weight
from server.notes.readings import Figure, take
from server.use.services import Figures, log_run, overlapping
from server.work.counters import read_counter


class Doubted(Exception):
    """Something that a device said does not count before somebody was asked: the doubt, and why in words."""

    def __init__(self, doubt: Doubt, why: str) -> None:
        super().__init__(why)
        self.doubt, self.why = doubt, why


@dataclass(frozen=True, slots=True)
class Sure:
    """What somebody said of a line that was doubted: it counts; which part it weighed, and whether that is bone dry;
    which count goes on.
    """

    item_id: UUID | None = None
    trusted: bool | None = None
    bone_dry: bool = False


@dataclass(frozen=True, slots=True)
class Heard:
    """A line with the device it came from; `by` records it, `entry_id` is the id of what it becomes.

    `sure` is there where somebody was asked about it.
    """

    by: Member
    device: Device
    entry_id: UUID
    sure: Sure | None = None

    @property
    def machine(self) -> Machine:
        """The machine it is about."""
        assert self.device.machine is not None
        return self.device.machine


def take_line(heard: Heard, line: lines.AnyLine) -> Entry | None:
    """Record what a line says; None where it says nothing new. Raises `Doubted`, or `CareError` for what cannot be."""
    try:
        return _TAKES[line.kind](heard, line)
    except Conflict as error:
        raise Doubted(_CLASH.get(error.field or "", Doubt.CLASHES), f"{_words(error)} {error.fix}") from error


_CLASH = {"start": Doubt.OVERLAPS, "trusted": Doubt.WHICH_COUNTS}
"""The doubt that a clash with what is on record is, by its field."""


def _words(error: CareError) -> str:
    """What is wrong, without the name of a field that no person sees."""
    said = error.detail.removeprefix(f"{error.field}: ").rstrip(".")
    return f"{said[:1].upper()}{said[1:]}."


def _run(heard: Heard, line: lines.RunLine) -> Entry:
    machine = heard.machine
    if heard.sure is None:
        _doubt_run(heard, line)
    else:
        for row in overlapping(machine, line.at, line.at + timedelta(minutes=line.minutes)):
            undo(household_id=machine.household_id, by_id=heard.by.pk, entry_id=row.pk, reason="another run counts")
    used = line.battery_used_percent
    return log_run(
        member=heard.by,
        run_id=heard.entry_id,
        machine_id=machine.pk,
        minutes=line.minutes,
        start=line.at,
        mopped=line.mopped,
        provenance=core.Provenance.MEASURED,
        figures=Figures(line.area_m2, None if used is None else used / 100, line.emptied, line.ended),
    )


def _doubt_run(heard: Heard, line: lines.RunLine) -> None:
    machine, day = heard.machine, line.at.astimezone(zone_of(heard.by)).date()
    runs = runs_that_count(machine.household_id, [machine.pk]).filter(day=day)
    measured = standing(runs.filter(provenance=core.Provenance.MEASURED))
    before = (measured.order_by().aggregate(all=Sum("run_s"))["all"] or 0.0) / 60
    doubt = doubt_run(line.minutes, line.area_m2, before)
    if doubt is Doubt.TOO_LONG:
        more = f", besides {_long(before)}" if before else ""
        raise Doubted(doubt, f"It says that it ran {_long(line.minutes)} on {day:%-d %B}{more}.")
    if doubt is Doubt.TOO_FAST:
        raise Doubted(doubt, f"It says that it covered {line.area_m2:.0f} m² in {line.minutes:.0f} min.")
    if line.total_min is not None and counts_back(_totals(heard.device), line.at, line.total_min):
        why = f"Its own count says {_long(line.total_min)} in all, and said otherwise before."
        raise Doubted(Doubt.COUNTS_BACK, why)


def _long(minutes: float) -> str:
    """ "45 min", "10 h", "23 h 20 min"."""
    hours, rest = divmod(round(minutes), 60)
    return " ".join(part for part in (f"{hours} h" if hours else "", f"{rest} min" if rest else "") if part)


def _totals(device: Device) -> list[tuple[Any, float]]:
    """What the device said of its own total around now: the last ones say all, since each holds those before."""
    rows: QuerySet[Received] = device.lines.filter(kind="run").exclude(total=None).order_by("-at")
    return [(at, total) for at, total in rows.values_list("at", "total")[:200] if total is not None]


def _message(heard: Heard, line: lines.MessageLine) -> Entry:
    if line.code is None and not line.words.strip():
        raise InvalidValue("words: it says nothing", field="words", fix="Send a code of the list, words, or both.")
    message = Message(line.at, line.code, line.words.strip())
    return hear(member=heard.by, machine_id=heard.machine.pk, message=message, entry_id=heard.entry_id)


def _counter(heard: Heard, line: lines.CounterLine) -> Entry:
    return read_counter(
        member=heard.by,
        machine_id=heard.machine.pk,
        slot_key=line.part,
        value=line.value,
        unit=line.unit,
        sense=line.sense,
        day=line.at.astimezone(zone_of(heard.by)).date(),
        trusted=heard.sure.trusted if heard.sure else None,
    )


def _suction(heard: Heard, line: lines.SuctionLine) -> Entry:
    machine_id = heard.machine.pk
    answered = answer_check(
        member=heard.by,
        machine_id=machine_id,
        value=line.value,
        unit=line.unit,
        opening=line.opening,
        at=line.at,
        event_id=heard.entry_id,
    )
    if answered is not None:
        return answered
    figure = Figure(Quantity.SUCTION, line.value, line.unit, line.opening, at=line.at)
    return take(member=heard.by, machine_id=machine_id, figure=figure, entry_id=heard.entry_id)


def _weight(heard: Heard, line: lines.WeightLine) -> Entry | None:
    grams = WEIGHT.accepted(line.value, line.unit)
    item = _on_scale(heard, grams)
    job = job_of(item)
    dry_g = job.dry_g
    if heard.sure is None:
        if dry_g is not None and is_lighter(grams, dry_g):
            raise Doubted(Doubt.TOO_LIGHT, f"It says {grams:.0f} g; bone dry, {item.name} weighed {dry_g:.0f} g.")
        freed = job.estimate.basis is Basis.SETTLED and dry_g is not None and weighs_dry(grams, dry_g)
        if freed or _weighs_the_same(item, grams, line):
            return None
    return weigh(
        member=heard.by,
        item_id=item.pk,
        value=line.value,
        unit=line.unit,
        dry=heard.sure is not None and heard.sure.bone_dry,
        at=line.at,
        entry_id=heard.entry_id,
    )


def _on_scale(heard: Heard, grams: float) -> Item:
    """The part that lies on the scale: as somebody said, or as its weight tells. Raises `Doubted`."""
    wet: dict[UUID, Item] = {row.pk: row for row in Item.objects.of(heard.by.household_id).filter(state__in=WET)}
    chosen = heard.sure.item_id if heard.sure else heard.device.weighs_id
    if chosen is not None and chosen in wet:
        return wet[chosen]
    parts = [_drying(row) for row in wet.values()]
    found = on_scale(grams, parts)
    if found is not None:
        return wet[found]
    names = [wet[item_id].name for item_id in might_be(grams, parts)]
    could = f"It could be the {' or the '.join(names)}." if names else "No part on the rack can weigh that."
    raise Doubted(Doubt.WHICH_PART, f"It says {grams:.0f} g. {could}")


def _drying(row: Item) -> Drying:
    job = job_of(row)
    wet = standing(Weight.objects.of(row.household_id).filter(item=row, dry=False))
    last = wet.filter(entry__happened_at__gte=job.washed_at).last()
    return Drying(row.pk, job.dry_g, last.grams if last else None)


def _weighs_the_same(item: Item, grams: float, line: lines.WeightLine) -> bool:
    rows = standing(Weight.objects.of(item.household_id).filter(item=item))
    last = rows.filter(entry__happened_at__range=(line.at - WEIGHT_KEPT_EVERY, line.at)).last()
    return last is not None and abs(last.grams - grams) < SAME_G


def _air(heard: Heard, line: lines.AirLine) -> Entry | None:
    temp_c = line.temp if line.unit == "degC" else (line.temp - 32) / 1.8
    if (doubt := doubt_air(temp_c, line.humidity_percent)) is not None:
        if heard.sure is None:
            air = f"{temp_c:.0f} °C and {line.humidity_percent:.0f} %"
            raise Doubted(doubt, f"It says {air} in {heard.device.place}.")
        raise InvalidValue("temp: no home has such air", field="temp", fix="Drop it, and look at the sensor.")
    place = place_called(heard.by, heard.device.place)
    if place is None:
        raise Conflict(
            f"place: {heard.device.place} is no drying place of this household any more",
            field="place",
            fix="Tell of it on Household, or disconnect the sensor.",
        )
    rh_pct, at = line.humidity_percent, line.at
    return tell_air(member=heard.by, place=place.name, temp_c=temp_c, rh_pct=rh_pct, at=at, entry_id=heard.entry_id)


_TAKES: dict[str, Callable[[Heard, Any], Entry | None]] = {
    "run": _run, "message": _message, "counter": _counter, "suction": _suction, "weight": _weight, "air": _air,
}  # fmt: skip
