"""The belief about how fast a part loads: censored answers, noise, and what must never happen."""

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from care.due.learning import GRID, contradiction, learn, likelihood, prior, update
from care.errors import InvalidValue
from care.vocabulary import Found

ORDER = [Found.CLEAN, Found.LIGHT, Found.DUE, Found.OVERDUE]
shares = st.floats(0.02, 8)


class TheBelief(SimpleTestCase):
    def test_starts_around_the_book_with_a_spread_of_a_half(self):
        self.assertAlmostEqual(prior().median, 1, places=6)
        self.assertAlmostEqual(prior().quantile(0.9), 1.9, delta=0.01)  # exp(0.5 * 1.2816)

    def test_worked_by_hand_at_one_grid_point(self):
        """Factor 1 at share 1, seen "due": between -0.99 and 0.58 noise widths of log(1): 0.719 - 0.161 = 0.558."""
        middle = len(GRID) // 2
        self.assertAlmostEqual(GRID[middle], 1, places=9)
        self.assertAlmostEqual(float(likelihood(1.0, Found.DUE)[middle]), 0.558, delta=0.002)

    @given(shares)
    def test_the_four_answers_share_out_all_chances(self, share):
        total = sum(likelihood(share, found) for found in ORDER)
        self.assertTrue(all(abs(t - 1) < 5e-5 for t in total))

    @given(shares, st.lists(st.tuples(shares, st.sampled_from(ORDER)), max_size=4))
    def test_a_dirtier_answer_never_means_a_slower_part(self, share, earlier):
        before = learn(earlier)
        medians = [update(before, share=share, found=found).median for found in ORDER]
        self.assertEqual(medians, sorted(medians))

    @given(shares, st.lists(st.tuples(shares, st.sampled_from(ORDER)), max_size=4))
    def test_clean_never_makes_it_dirtier_nor_overdue_cleaner(self, share, earlier):
        before = learn(earlier)
        self.assertLessEqual(update(before, share=share, found=Found.CLEAN).median, before.median + 1e-9)
        self.assertGreaterEqual(update(before, share=share, found=Found.OVERDUE).median, before.median - 1e-9)

    def test_comes_to_the_truth_after_a_few_looks(self):
        """A part that loads 1.8 times as fast, looked at truthfully at 40, 60 and 70 % of the book's interval."""
        seen = [(0.4, Found.DUE), (0.6, Found.DUE), (0.7, Found.OVERDUE), (0.35, Found.LIGHT), (0.72, Found.OVERDUE)]
        belief = learn(seen)
        self.assertAlmostEqual(belief.median, 1.8, delta=0.25)
        self.assertLess(belief.quantile(0.9) / belief.quantile(0.1), 2.2)

    def test_seventy_looks_are_overruled_by_the_next_few(self):
        """A home twice as dirty of which nobody told: after three looks more than half of it is believed."""
        old = [(1.0, Found.DUE), (0.5, Found.LIGHT)] * 35
        self.assertAlmostEqual(learn(old).median, 1, delta=0.2)
        self.assertGreater(learn([*old, *[(1.0, Found.OVERDUE)] * 3]).median, 1.5)
        self.assertLess(learn([*old, *[(1.0, Found.CLEAN)] * 3]).median, 0.6)

    def test_three_in_a_row_the_same_way_contradict_it_and_nothing_less(self):
        old = [(1.0, Found.DUE), (0.5, Found.LIGHT)] * 3
        far = (0.5, Found.OVERDUE)
        self.assertEqual(contradiction([*old, far, far, far]), 1)
        self.assertEqual(contradiction([*old, *[(1.5, Found.CLEAN)] * 3]), -1)
        for looks in ([*old, far, far], [*old, far, far, (1.0, Found.DUE)], [far] * 5):
            self.assertEqual(contradiction(looks), 0)

    def test_at_share_nothing_nothing_is_learned(self):
        self.assertIs(update(prior(), share=0, found=Found.OVERDUE), prior())

    def test_a_negative_share_is_refused(self):
        with self.assertRaises(InvalidValue):
            update(prior(), share=-0.1, found=Found.DUE)
