"""Every limit of a figure or a word: the last value that is taken, the first that is refused, and by which name."""

from collections.abc import Callable
from dataclasses import replace
from datetime import UTC, date, datetime
from typing import Any, NamedTuple
from uuid import UUID

from django.test import SimpleTestCase

from care.bench.rotation import sets_needed
from care.bench.weighing import Weighing
from care.content import Bundle
from care.due.containers import Container, OtherContainer
from care.due.counters import used_hours
from care.due.schedule import Schedule, weekly
from care.errors import InvalidValue
from care.faults.airflow import AirPlace as OnThePath
from care.faults.book import Outcome, Shows, Symptom, Tells
from care.faults.drag import Drag, Fan
from care.faults.effects import AirEffect, Solved
from care.household import MOST, DryingPlace, Profile, check_area
from care.items import Override
from care.kinds import Opening
from care.measures import Measure
from care.model import CounterReading, Load, LoadEvent, PutOff, Rest, Run, Why, check_wait
from care.own_part import OwnPart
from care.rules import Card, Drying, Trigger
from care.shelf import PartNumber, PartPlace, PriceList, SparePart
from care.shelf.buying import Need
from care.shelf.costs import CostBasis, Repair
from care.shelf.stock import FitCheck, Offer
from care.units import SUCTION, VOLUME, WEIGHT, Scale
from care.vocabulary import Calendar, Column, Consequence, LoadKind, Meter, Mishap
from tests.care.world import ROBOT

AT = datetime(2026, 3, 4, tzinfo=UTC)
DAY = date(2026, 3, 4)
HERE = PartPlace(UUID(int=1), "filter")


class Limit(NamedTuple):
    """What is made of a value; the field that is named; values just inside, values just outside."""

    make: Callable[[Any], object]
    field: str
    taken: tuple[Any, ...]
    refused: tuple[Any, ...]


def wait(until=date(2026, 3, 5), reason="visit", stake=Consequence.MOTOR):
    return check_wait(PutOff("filter", "wash", until, reason), stake, today=DAY)


def offer(**told):
    return Offer(**{"code": "A", "name": "Filter", "price": 690, "contents": {"A": 1}, **told})


def prices(**told):
    return PriceList(**{"supplier": "Shop", "currency": "EUR", "offers": (), **told})


def part(**told):
    return SparePart(**{"name": "Filter", "places": (HERE,), **told})


def measured(scale, unit=""):
    return lambda value: Measure("m", "M", "", scale, ("belt",), "", 0.3, limit=8.0).accepted(value, unit)


def counter(unit, sense):
    return lambda value: used_hours(value, unit=unit, sense=sense, limit_h=150)


LIMITS = (
    # use and days
    Limit(lambda s: Run(DAY, s, AT), "run_s", (1, 86_400), (0, 86_401)),
    Limit(lambda n: Run(DAY, 60, AT, evacuations=n), "evacuations", (0, 1), (-1,)),
    Limit(lambda m: Schedule("RRULE:FREQ=DAILY", m), "run_min", (0.1, 1440), (0, 1441)),
    Limit(lambda m: weekly(["MO"], m, None), "minutes", (0.1, 1440), (0, 1441)),
    Limit(lambda d: weekly([d], 30, None), "days", ("MO", "SU"), ("XX", "mo")),
    Limit(lambda d: Rest(Why.AWAY, DAY, d), "last", (DAY, None), (date(2026, 3, 3),)),
    Limit(lambda x: LoadEvent(LoadKind.HAIR, DAY, DAY, x), "level", (0, 1), (-0.01, 1.01)),
    Limit(lambda d: LoadEvent(LoadKind.HAIR, DAY, d, 1), "last", (DAY,), (date(2026, 3, 3),)),
    Limit(lambda x: Load(hair=x), "hair", (0, 1), (-0.01, 1.01)),
    Limit(lambda x: Load(volume=x), "volume", (0, 1), (-0.01, 1.01)),
    Limit(lambda h: CounterReading(UUID(int=1), "filter", h, AT), "used_h", (0,), (-0.1,)),
    Limit(lambda d: wait(until=d), "until", (date(2026, 3, 5), date(2026, 5, 3)), (DAY, date(2026, 5, 4))),
    Limit(lambda r: wait(reason=r), "reason", ("x",), ("", "  ")),
    Limit(lambda s: wait(stake=s), "action", (Consequence.MOTOR, Consequence.LOOKS), (Consequence.SAFETY,)),
    Limit(counter("percent", "left"), "value", (0, 100), (-1, 101)),
    Limit(counter("percent", "used"), "value", (0, 100), (-1, 101)),
    Limit(counter("hours", "left"), "value", (0, 150), (-1, 151)),
    Limit(counter("hours", "used"), "value", (0, 500), (-1,)),
    Limit(lambda u: used_hours(1, unit=u, sense="left", limit_h=150), "unit", ("percent", "hours"), ("h",)),
    Limit(lambda s: used_hours(1, unit="hours", sense=s, limit_h=150), "sense", ("left", "used"), ("gone",)),
    # the household
    *(Limit(lambda n, key=key: Profile(**{key: n}), key, (0, most), (-1, most + 1)) for key, most in MOST.items()),
    Limit(lambda a: Profile(area_m2=a), "area_m2", (5, 3000), (4.9, 3000.1)),
    Limit(lambda c: Profile(carpet=c), "carpet", (0, 1), (-0.1, 1.1)),
    Limit(lambda a: check_area(a, "m2"), "area", (400, 5), (401,)),
    Limit(lambda a: check_area(a, "sq_ft"), "area", (216, 9000), (215,)),  # 20 m2
    Limit(lambda u: check_area(100, u), "area_unit", ("m2",), ("ft",)),
    Limit(lambda n: DryingPlace(n, 20, 50), "places.name", ("x", "x" * 40), ("", " ", "x" * 41)),
    Limit(lambda t: DryingPlace("Loft", t, 50), "places.temp_c", (0, 40), (-1, 41)),
    Limit(lambda r: DryingPlace("Loft", 20, r), "places.rh_pct", (5, 98), (4, 99)),
    Limit(
        lambda second: Profile(places=(DryingPlace("Loft", 20, 50), DryingPlace(second, 20, 50))),
        "places.name",
        ("Cellar",),
        ("Loft", " loft "),
    ),
    # parts and how they dry
    Limit(lambda r: Override("me", r), "reason", ("x",), ("", " ")),
    Limit(lambda g: Weighing(AT, g), "grams", (0.1, 20_000), (0, 20_001)),
    Limit(lambda u: WEIGHT.accepted(1, u), "unit", ("g", "oz"), ("lb",)),
    Limit(lambda h: sets_needed(24, h, 1), "interval_h", (0.1,), (0, -1)),
    Limit(lambda n: OwnPart(n, "bin", use="belt"), "name", ("x", "x" * 60), ("", " ", "x" * 61)),
    # the shelf
    Limit(PartNumber, "number", ("A", "x" * 40, "A B-1/2"), ("", " ", "x" * 41, "a+b", "a,b", "a;b", "a\nb", "a\rb")),
    Limit(
        lambda c: PartNumber("A", check=c), "note", (FitCheck.FITS, FitCheck.UNCHECKED), (FitCheck.DIFFERS, FitCheck.NO)
    ),
    Limit(lambda n: PartNumber("A", check=FitCheck.NO, note=n), "note", ("too long",), (" ",)),
    Limit(lambda n: part(name=n), "name", ("x", "x" * 60), (" ", "x" * 61)),
    Limit(lambda p: part(places=p), "places", ((HERE,),), ((),)),
    Limit(lambda n: part(least=n), "least", (0, 50), (-1, 51)),
    Limit(lambda b: part(numbers=(PartNumber("a-1"), PartNumber(b))), "numbers", ("a-2",), ("a-1", "A-1")),
    Limit(lambda c: offer(code=c), "code", ("x", "x" * 40), (" ", "x" * 41)),
    Limit(lambda n: offer(name=n), "name", ("x", "x" * 120), (" ", "x" * 121)),
    Limit(lambda p: offer(price=p), "price", (1, 10_000_00), (0, 10_000_01)),
    Limit(lambda c: offer(contents=c), "contents", ({"A": 1}, {"A": 100}), ({}, {"A": 0}, {"A": 101})),
    Limit(lambda d: offer(lead_days=d), "lead_days", (0, 180), (-1, 181)),
    Limit(lambda s: prices(supplier=s), "supplier", ("x", "x" * 60), (" ", "x" * 61)),
    Limit(lambda c: prices(currency=c), "currency", ("EUR", "USD"), ("eur", "EU", "EURO", "E1R")),
    Limit(lambda d: prices(delivery=d), "delivery", (0, 1000_00), (-1, 1000_01)),
    Limit(lambda c: prices(offers=(offer(), offer(code=c))), "code", ("B",), ("A",)),
    Limit(
        lambda c: prices(offers=(offer(code="K", contents=c),)), "contents", ({"K": 2}, {"A": 1}), ({"K": 1, "B": 1},)
    ),
    Limit(lambda n: Need(n), "count", (0, 1000), (-1, 1001)),
    Limit(lambda n: Need(1, n), "later", (0, 1000), (-1, 1001)),
    Limit(lambda v: VOLUME.accepted(v, "L"), "volume", (0.05, 60), (0.049, 60.1)),
    Limit(lambda v: VOLUME.accepted(v, "gal"), "volume", (0.02, 15.8), (0.01, 15.9)),
    Limit(lambda v: Container(v), "volume", (0.05, 60), (0.049, 60.1)),
    Limit(lambda u: Container(1, u), "usable", (0.3, 1), (0.29, 1.01)),
    Limit(lambda v: OtherContainer(v, 1), "volume", (0.05, 60), (0.049, 60.1)),
    Limit(lambda w: OtherContainer(1, w), "weeks", (0.1, 52), (0.09, 52.1)),
    Limit(lambda p: OtherContainer(1, 1, p), "pressed", (1, 3), (0.9, 3.1)),
    Limit(lambda p: CostBasis(price_new=p), "price_new", (None, 1, 10_000_00), (0, 10_000_01)),
    Limit(lambda y: CostBasis(life_years=y), "life_years", (1, 40), (0.9, 40.1)),
    Limit(lambda v: CostBasis(hour_value=v), "hour_value", (0, 500_00), (-1, 500_01)),
    Limit(lambda c: Repair(c, 1, 1), "cost", (0, 10_000_00), (-1, 10_000_01)),
    Limit(lambda m: Repair(1, m, 1), "minutes", (0, 6000), (-1, 6001)),
    Limit(lambda y: Repair(1, 1, y), "adds_years", (0.25, 20), (0.24, 20.1)),
    # what is measured
    Limit(measured(Scale.MM), "value", (0, 400), (-0.1, 400.1)),
    Limit(measured(Scale.MM, "in"), "value", (0, 15.7), (-0.1, 15.8)),
    Limit(measured(Scale.COUNT), "value", (0, 3, 200), (-1, 2.5, 201)),
    Limit(measured(Scale.YES_NO), "value", (0, 1), (-1, 0.5, 2)),
    Limit(lambda u: measured(Scale.MM, u)(1), "unit", ("", "mm", "in"), ("cm", "count")),
    Limit(lambda p: Measure("m", "M", "", Scale.MM, p, "", 0.3, limit=8.0), "parts", (("belt",),), ((),)),
    Limit(lambda o: Measure("m", "M", "", Scale.MM, ("a",), "", o, limit=8.0), "off", (0, 1), (-0.1,)),
    Limit(lambda u: SUCTION.accepted(10, u), "unit", ("kPa", "inH2O"), ("m", "")),
    # the book
    Limit(lambda low: Trigger(Meter.RUNS, low, 4), "low", (0.1, 4), (0, -1)),
    Limit(lambda high: Trigger(Meter.RUNS, 2, high), "high", (2, 9), (1.9,)),
    Limit(lambda c: Trigger(Meter.DAYS, 1, 2, c), "calendar", (Calendar.AGES,), (None,)),
    Limit(lambda m: Trigger(m, 1, 2, Calendar.AGES), "calendar", (Meter.DAYS,), (Meter.RUNS,)),
    Limit(
        lambda h: Trigger(Meter.DAYS, 1, 2, Calendar.STANDS_FOR_USE, h), "reference_h_per_week", (0.1, 5), (None, 0, -1)
    ),
    Limit(lambda h: Trigger(Meter.DAYS, 1, 2, Calendar.AGES, h), "reference_h_per_week", (None,), (5,)),
    Limit(lambda a: Trigger(Meter.MISHAPS, 1, 1, after=a), "after", (Mishap.WET,), (None,)),
    Limit(lambda a: Trigger(Meter.RUNS, 1, 1, after=a), "after", (None,), (Mishap.WET,)),
    Limit(lambda n: Trigger(Meter.CONDITION, n, n), "meter", (0,), (1,)),
    Limit(lambda c: Trigger(Meter.CONDITION, calendar=c), "meter", (None,), (Calendar.AGES,)),
    Limit(lambda m: Card(m, ("Do it.",)), "effort_min", (0.1, 240), (0, 241)),
    Limit(lambda h: Card(1, h), "how", (("Do it.",),), ((),)),
    Limit(lambda w: Card(1, ("Do it.",), wait_min=w), "wait_min", (0, 120), (-1, 121)),
    Limit(lambda m: Opening("k", "n", "u", "c", m), "setup_min", (0, 120), (-1, 121)),
    Limit(lambda h: Drying("k", "n", h, 1), "reference_h", (0.1, 400), (0, 401)),
    Limit(lambda h: Drying("k", "n", 1, h), "floor_h", (0, 400), (-1, 401)),
    Limit(lambda m: replace(ROBOT, minutes_per_charge=m), "minutes_per_charge", (None, 0.1), (0, -1)),
    Limit(lambda m: replace(ROBOT, usual_run_min=m), "usual_run_min", (0.1, 1440), (0, 1441)),
    Limit(lambda s: Bundle("k", "n", stakes=s), "stakes", (("smell",),), (("fun",), ())),
    # faults and air
    Limit(lambda k: Drag(k=k), "k", (0, 1), (-0.1,)),
    Limit(lambda r: Drag(r=r), "r", (0, 1), (-0.1,)),
    Limit(lambda b: Drag(bore_mm=b), "bore_mm", (5, 100), (4.9, 100.1)),
    Limit(lambda h: Fan(h, 10), "head_pa", (100, 60_000), (99, 60_001)),
    Limit(lambda f: Fan(1000, f), "flow_l_s", (1, 100), (0.9, 100.1)),
    Limit(lambda p: Fan(1000, 10, p), "power", (0, 2), (-0.1, 2.1)),
    Limit(lambda o: AirEffect(open=o), "open", (0.01, 1), (0, 1.1)),
    Limit(lambda f: AirEffect(fill=f), "fill", (0, 3), (-0.1, 3.1)),
    Limit(lambda a: AirEffect(leak_mm2=a), "leak_mm2", (0, 2000), (-1, 2001)),
    Limit(lambda p: AirEffect(power=p), "power", (0.05, 1), (0.04, 1.1)),
    Limit(lambda s: Solved("pull", 0.5, s), "sd", (0.01,), (0,)),
    Limit(lambda p: Symptom("k", "n", "f", {}, normal=p), "normal", (0.01, 0.99), (0, 1)),
    Limit(lambda t: Symptom("k", "n", "f", {}, trust=t), "trust", (0.01, 1), (0, 1.1)),
    Limit(lambda s: Symptom("k", "n", "f", {}, stands_still=s, danger="hot"), "danger", (True,), (False,)),
    Limit(lambda p: Shows("s", p, "why"), "p", (0.01, 0.99), (0.009, 0.991)),
    Limit(lambda p: Tells("f", "a", p, "why"), "p", (0.01, 0.99), (0.009, 0.991)),
    Limit(lambda b: Outcome("k", "w", base=b), "base", (0.01, 0.99), (0, 1)),
    Limit(lambda o: OnThePath("bin", Column.BIN, Drag(), open=o), "open", (0.01, 1), (0, 1.1)),
    Limit(lambda f: OnThePath("bin", Column.BIN, Drag(), fill=f), "fill", (0, 5), (-0.1, 5.1)),
    Limit(lambda a: OnThePath("bin", Column.BIN, Drag(), leak_mm2=a), "leak_mm2", (0, 5000), (-1, 5001)),
)


class EveryLimit(SimpleTestCase):
    def test_the_last_value_inside_is_taken(self):
        for n, limit in enumerate(LIMITS):
            for value in limit.taken:
                with self.subTest(n, field=limit.field, value=value):
                    limit.make(value)

    def test_the_first_value_outside_is_refused_and_the_field_is_named_with_a_way_out(self):
        for n, limit in enumerate(LIMITS):
            for value in limit.refused:
                with self.subTest(n, field=limit.field, value=value):
                    with self.assertRaises(InvalidValue) as refused:
                        limit.make(value)
                    self.assertEqual(refused.exception.field, limit.field)
                    self.assertTrue(refused.exception.fix.endswith("."), refused.exception.fix)
