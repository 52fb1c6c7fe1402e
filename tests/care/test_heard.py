"""What devices say: nonsense is doubted, a scale tells its part, a fall is noticed and luck is not."""

from datetime import UTC, datetime, timedelta
from uuid import UUID, uuid4

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from care.book import load_book
from care.heard.falls import LATELY, LEAST_FALL, WINDOW, fall
from care.heard.scale import Drying, might_be, on_scale
from care.heard.sense import Doubt, charge_min, counts_back, doubt_air, doubt_run
from care.vocabulary import Says

NOW = datetime(2026, 3, 4, 12, tzinfo=UTC)
DAY = timedelta(days=1)


class Sense(SimpleTestCase):
    def test_what_no_machine_does_is_doubted(self):
        self.assertEqual(doubt_run(1440, None, 0), Doubt.TOO_LONG)
        self.assertEqual(doubt_run(300, None, 1000), Doubt.TOO_LONG)
        self.assertEqual(doubt_run(45, 600, 0), Doubt.TOO_FAST)
        self.assertIsNone(doubt_run(45, 40, 120))
        told = [doubt_air(*air) for air in ((80, 40), (-40, 40), (20, 0), (35, 40), (5, 100))]
        self.assertEqual(told, [Doubt.ODD_AIR] * 3 + [None] * 2)

    def test_a_total_goes_up_with_time_in_whatever_order_it_comes(self):
        told = [(NOW, 100.0), (NOW + 2 * DAY, 160.0)]
        self.assertFalse(counts_back(told, NOW + DAY, 130))
        self.assertTrue(counts_back(told, NOW + DAY, 90))
        self.assertTrue(counts_back(told, NOW + DAY, 170))
        self.assertTrue(counts_back(told, NOW - DAY, 101))

    @given(st.lists(st.floats(0, 1e6), min_size=1, max_size=20).map(sorted), st.randoms())
    def test_true_totals_are_never_doubted(self, totals, chance):
        lines = [(NOW + n * DAY, total) for n, total in enumerate(totals)]
        chance.shuffle(lines)
        for n, (at, total) in enumerate(lines):
            self.assertFalse(counts_back(lines[:n], at, total))

    def test_a_charge_is_told_by_a_run_that_took_enough_of_it(self):
        self.assertEqual(charge_min(45, 0.6), 75)
        self.assertIsNone(charge_min(45, 0.1))

    def test_each_word_of_a_machine_is_something_that_is_looked_for(self):
        said = [word for symptom in load_book().faults.symptoms for word in symptom.said_as]
        self.assertEqual(sorted(said), sorted(Says))


class Scale(SimpleTestCase):
    filter, pads = uuid4(), uuid4()

    def test_the_nearest_by_its_last_weight_or_by_its_dry_one(self):
        parts = [Drying(self.filter, 42, 95), Drying(self.pads, 60, 180)]
        self.assertEqual(on_scale(92, parts), self.filter)
        self.assertEqual(on_scale(171, parts), self.pads)
        self.assertIsNone(on_scale(12, parts))
        self.assertEqual(might_be(62, parts), [self.filter, self.pads])

    def test_two_that_it_could_be_are_asked_about(self):
        self.assertIsNone(on_scale(80, [Drying(self.filter, 42, 95), Drying(self.pads, 43, 93)]))
        self.assertIsNone(on_scale(80, [Drying(self.filter, None, None), Drying(self.pads, None, None)]))

    def test_one_alone_is_it_if_it_can_weigh_so_much(self):
        self.assertEqual(on_scale(80, [Drying(self.filter, None, None)]), self.filter)
        self.assertIsNone(on_scale(20, [Drying(self.filter, 42, None)]))

    @given(st.lists(st.tuples(st.uuids(), st.floats(5, 500), st.floats(1, 6)), min_size=1, max_size=5), st.data())
    def test_what_it_says_can_weigh_that(self, told, data):
        parts = [Drying(UUID(str(item)), dry, dry * wet) for item, dry, wet in told]
        grams = data.draw(st.floats(1, 3000))
        found = on_scale(grams, parts)
        if found is not None:
            self.assertEqual(might_be(grams, parts)[0], found)
            self.assertTrue(any(p.item_id == found and p.dry_g * 0.9 <= grams + 1 <= p.last_g + 4 for p in parts))


class Falls(SimpleTestCase):
    def figures(self, values):
        return [(NOW - (len(values) - n) * DAY, float(value)) for n, value in enumerate(values)]

    def test_a_fall_is_told_with_what_it_was_and_is(self):
        fell = fall(self.figures([40, 41, 39] * 8 + [32, 31, 33, 32, 30, 32, 31]), NOW)
        self.assertEqual((fell.before, fell.now), (40, 32))
        self.assertAlmostEqual(fell.share, 0.2, places=2)

    def test_a_few_figures_say_nothing(self):
        self.assertIsNone(fall(self.figures([40] * (WINDOW - 1) + [20] * LATELY), NOW))

    def test_it_rises_again_and_nothing_is_said(self):
        self.assertIsNone(fall(self.figures([40, 41, 39] * 8 + [30] * 10 + [40] * LATELY), NOW))

    def test_luck_is_seldom_taken_for_a_fall(self):
        """Two years of a machine that does not change, with a fifth of spread from room to room."""
        told = 0
        for seed in range(200):
            values = np.random.default_rng(seed).normal(40, 8, 120)
            told += fall(self.figures(np.maximum(values, 1)), NOW) is not None
        self.assertLess(told / 200, 0.05)

    def test_a_third_less_is_noticed_in_nine_of_ten(self):
        noticed = 0
        for seed in range(100):
            chance = np.random.default_rng(seed)
            values = [*chance.normal(40, 5, 60), *chance.normal(27, 4, LATELY)]
            noticed += fall(self.figures(values), NOW) is not None
        self.assertGreater(noticed / 100, 0.9)

    @given(st.lists(st.floats(1, 1000), max_size=60))
    def test_what_is_told_has_fallen(self, values):
        if fell := fall(self.figures(values), NOW):
            self.assertGreaterEqual(fell.share, LEAST_FALL)
            self.assertLess(fell.now, fell.before)
