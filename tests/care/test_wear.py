"""Wear: a line through what was measured, the day it meets its limit, and washing that helps no more."""

from datetime import date, timedelta

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from care.book import load_book
from care.errors import InvalidValue
from care.shelf.wear import Course, Point, recovery, trend
from care.units import Scale
from tests.effort import examples

TODAY = date(2026, 3, 4)
MEASURES = {one.key: one for one in load_book().measures}


def points(*told):
    return [Point(used_h, TODAY - timedelta(days=100 - n), value) for n, (used_h, value) in enumerate(told)]


class ALine(SimpleTestCase):
    def of(self, key, *told, used_h=None, hours_a_day=1.0):
        last = told[-1][0] if told else 0.0
        return trend(MEASURES[key], points(*told), used_h=used_h or last, hours_a_day=hours_a_day, today=TODAY)

    def test_bent_bristles_meet_ten_millimetres_where_the_line_says(self):
        found = self.of("bend", (50, 2), (100, 4))
        self.assertAlmostEqual(found.per_hour, 0.04)
        self.assertEqual((found.course, found.limit), (Course.WEARS, 10))
        self.assertAlmostEqual((found.reaches.p50 - TODAY).days, 150, delta=1)
        self.assertTrue(found.reaches.p10 < found.reaches.p50 < found.reaches.p90)

    def test_a_belt_grows_narrow_and_its_first_reading_stands_for_new(self):
        found = self.of("width", (0, 10.0), (100, 9.5))
        self.assertAlmostEqual(found.limit, 8.5)
        self.assertAlmostEqual((found.reaches.p50 - TODAY).days, 200, delta=1)

    def test_half_the_minutes_of_a_new_battery(self):
        self.assertEqual(self.of("charge", (10, 30), (400, 15)).course, Course.WORN)
        self.assertEqual(self.of("charge", (10, 30), (400, 16)).course, Course.WEARS)

    def test_a_crack_is_a_step(self):
        self.assertEqual(self.of("crack", (10, 0), (50, 0)).course, Course.STEADY)
        self.assertEqual(self.of("crack", (10, 0), (50, 1)).reaches.p50, TODAY)

    def test_one_reading_of_what_has_no_new_figure_tells_no_line(self):
        self.assertEqual(self.of("width", (50, 10.0)).course, Course.TOO_FEW)
        self.assertEqual(self.of("bend", (50, 2.0)).course, Course.WEARS)
        self.assertIsNone(trend(MEASURES["bend"], [], used_h=10, hours_a_day=1, today=TODAY))

    def test_what_does_not_go_towards_its_limit_is_steady_and_a_machine_that_rests_wears_nothing(self):
        self.assertEqual(self.of("bend", (50, 3), (100, 0)).course, Course.STEADY)
        self.assertIsNone(self.of("bend", (50, 2), (100, 4), hours_a_day=0).reaches)

    @given(st.lists(st.tuples(st.floats(0, 500), st.floats(0, 9)), min_size=1, max_size=6))
    @examples(60)
    def test_the_band_is_in_order_and_never_in_the_past(self, told):
        found = self.of("bend", *sorted(told), used_h=500)
        if found.reaches is not None:
            self.assertTrue(TODAY <= found.reaches.p10 <= found.reaches.p50 <= found.reaches.p90)


class Figures(SimpleTestCase):
    def test_what_cannot_be_is_refused(self):
        for key, value in (("bend", -1), ("bend", 401), ("nicks", 2.5), ("crack", 2), ("charge", 900)):
            with self.subTest(key, value=value), self.assertRaises(InvalidValue) as told:
                MEASURES[key].accepted(value)
            self.assertEqual(told.exception.field, "value")

    def test_every_measure_of_the_book_can_be_met(self):
        for one in MEASURES.values():
            with self.subTest(one.key):
                new = 30.0 if one.new is None else one.new
                self.assertNotEqual(one.ends_at(new), new)
                one.accepted(one.ends_at(10.0) if one.scale is not Scale.COUNT else 6)


class Washing(SimpleTestCase):
    def test_washing_that_brings_back_less_each_time(self):
        self.assertTrue(recovery([5, 4, 4, 3]).falling)
        self.assertFalse(recovery([5, 4]).falling)
        self.assertFalse(recovery([4, 4, 4, 4]).falling)
        self.assertIsNone(recovery([4]))
