"""Bags and bins: litres a week from a known container and from what is found, and the day on which it is full."""

from datetime import UTC, date, datetime, timedelta

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from care.errors import InvalidValue
from care.kinds import Found
from care.shelf.dust import (
    Container,
    Known,
    Rate,
    Seen,
    filling,
    first_guess,
    forecast,
    heavier,
    in_unit,
    learn,
    litres,
    off_by,
    weeks_full,
)
from care.shelf.fillings import Filled, usual_miss
from tests.effort import examples

TODAY = date(2026, 3, 4)
BAG = Container(2.4)


class Litres(SimpleTestCase):
    def test_units_are_us_liquid_ones(self):
        for value, unit, expected in ((1, "L", 1), (1, "qt", 0.946), (1, "gal", 3.785), (4, "cup", 0.946)):
            self.assertAlmostEqual(litres(value, unit), expected, places=3)

    def test_there_and_back(self):
        for unit in ("L", "qt", "gal", "cup"):
            self.assertAlmostEqual(in_unit(litres(2.6, unit), unit), 2.6)

    def test_a_unit_nobody_knows_or_a_volume_nobody_has_is_refused_by_name(self):
        for value, unit, field in ((1, "pint", "unit"), (1, "", "unit"), (0, "L", "volume"), (90, "gal", "volume")):
            with self.subTest(value, unit=unit), self.assertRaises(InvalidValue) as told:
                litres(value, unit)
            self.assertEqual(told.exception.field, field)

    def test_a_cup_of_2_6_quarts_filled_in_two_weeks_and_a_bag_of_2_4_litres(self):
        cup = Known(litres(2.6, "qt"), weeks=2)
        self.assertAlmostEqual(cup.litres_per_week, 1.23, places=2)
        self.assertAlmostEqual(weeks_full(BAG, cup.litres_per_week), 1.76, places=2)
        pressed = Known(litres(2.6, "qt"), weeks=2, pressed=1.5)
        self.assertAlmostEqual(weeks_full(BAG, pressed.litres_per_week), 2.63, places=2)


class WhatIsFound(SimpleTestCase):
    def after(self, *seen, guess=None):
        return learn(guess or Rate(1.23, 0.45), BAG, seen)

    def test_each_full_bag_brings_the_rate_nearer_and_the_band_in(self):
        real = 2.16 / 3.0  # three weeks to fill
        errors, bands = [], []
        for bags in range(4):
            rate = self.after(*[Seen(3.0, Found.DUE)] * bags)
            errors.append(abs(rate.litres_per_week - real))
            bands.append(rate.sd)
        self.assertEqual(errors, sorted(errors, reverse=True))
        self.assertEqual(bands, sorted(bands, reverse=True))
        self.assertLess(errors[1] / real, 0.2)

    def test_half_full_after_twelve_days_says_full_after_twenty_four(self):
        rate = self.after(*[Seen(12 / 7, Found.LIGHT, emptied=False)] * 60)
        self.assertAlmostEqual(weeks_full(BAG, rate.litres_per_week) * 7, 24, delta=0.5)

    def test_the_last_filling_counts_more_than_one_long_ago(self):
        slow, fast = Seen(4.0, Found.DUE), Seen(2.0, Found.DUE)
        rising = self.after(*[slow] * 4, *[fast] * 4)
        falling = self.after(*[fast] * 4, *[slow] * 4)
        self.assertGreater(rising.litres_per_week, falling.litres_per_week)

    def test_without_a_container_that_is_known_the_books_interval_begins(self):
        self.assertAlmostEqual(first_guess(BAG, None, 4.0).litres_per_week, 0.54)
        self.assertIsNone(first_guess(BAG, None, None))
        self.assertEqual(first_guess(BAG, Known(1.0, 1.0), 4.0).litres_per_week, 1.0)

    def test_a_rate_that_is_not_exceeded_in_nine_of_ten_cases(self):
        rate = Rate(1.2, 0.3)
        self.assertAlmostEqual(rate.quantile(0.5), 1.2)
        self.assertAlmostEqual(rate.quantile(0.9), 1.2 * 1.4689, places=3)  # exp(1.2816 x 0.3)
        self.assertAlmostEqual(rate.quantile(0.1) * rate.quantile(0.9), 1.44)

    @given(st.lists(st.tuples(st.floats(0.2, 30), st.sampled_from(list(Found))), max_size=6))
    @examples(50)
    def test_what_is_found_never_makes_it_less_sure_nor_wild(self, told):
        seen = [Seen(weeks, found) for weeks, found in told]
        rate = self.after(*seen)
        self.assertLessEqual(rate.sd, 0.45 + 1e-9)
        each = [1.23, *(level * 2.16 / s.weeks for s in seen for level in (0.1, 0.5, 1.0, 1.15))]
        self.assertTrue(min(each) - 1e-9 <= rate.litres_per_week <= max(each) + 1e-9)


class WhatWasExpected(SimpleTestCase):
    def test_the_band_of_a_filling_is_wider_than_that_of_the_rate(self):
        known = forecast(Rate(1.23, 0.0), BAG)
        self.assertAlmostEqual(known.p50, 1.76, places=2)
        self.assertAlmostEqual(known.p90 / known.p50, known.p50 / known.p10)
        self.assertAlmostEqual(known.p90 / known.p50, 1.292, places=3)  # exp(1.2816 x 0.2)
        self.assertGreater(forecast(Rate(1.23, 0.45), BAG).p90, known.p90)

    def test_one_that_came_out_half_full_would_have_taken_twice_as_long(self):
        expected = forecast(Rate(0.54, 0.1), BAG)  # 4 weeks
        for weeks, found, off in ((4, Found.DUE, 1.0), (4, Found.LIGHT, 2.0), (2, Found.DUE, 0.5)):
            self.assertAlmostEqual(off_by(expected, Seen(weeks, found)), off)

    def test_missed_by_twice_and_by_half_is_missed_alike(self):
        expected = forecast(Rate(0.54, 0.1), BAG)
        at = datetime(2026, 1, 1, tzinfo=UTC)
        twice, half, untold = (Filled(at, at, w, f, expected) for w, f in ((8, Found.DUE), (2, Found.DUE), (3, None)))
        self.assertAlmostEqual(usual_miss([twice]), 1.0)
        self.assertAlmostEqual(usual_miss([half, twice, untold]), 1.0)
        self.assertIsNone(usual_miss([untold]))


class WhenFull(SimpleTestCase):
    def test_the_day_and_its_band(self):
        found = filling(BAG, Rate(1.23, 0.2, 3), 0.5, today=TODAY)
        self.assertEqual(found.full.p50, TODAY + timedelta(days=9))
        self.assertLess(found.full.p10, found.full.p50)
        self.assertGreater(found.full.p90, found.full.p50)
        self.assertAlmostEqual(found.share, 0.5 / 1.756, places=2)

    def test_a_time_of_more_dirt_brings_the_day_forward(self):
        plain = filling(BAG, Rate(0.6, 0.1), 0, today=TODAY).full.p50
        moult = filling(BAG, Rate(0.6, 0.1), 0, today=TODAY, weight=lambda day: heavier(1.0, 0.5)).full.p50
        self.assertAlmostEqual((plain - TODAY).days / (moult - TODAY).days, heavier(1.0, 0.5), delta=0.15)

    def test_past_full_it_says_today_and_unused_never(self):
        self.assertEqual(filling(BAG, Rate(1.23, 0.1), 3, today=TODAY).full.p50, TODAY)
        self.assertIsNone(filling(BAG, Rate(0.001, 0.1), 0, today=TODAY).full)
        self.assertIsNone(filling(BAG, Rate(1.0, 0.1), 0, today=TODAY, weight=lambda day: 0.0).full)
