"""Years lived through in pairs: what was changed is all that differs, and bands hold what they say."""

from datetime import date, timedelta
from uuid import UUID

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from care.season import Chore, ChoreKey, Hands, Weights, Wishes
from care.season.days import days_of
from care.season.futures import DRAWS, YEAR_DAYS, band, luck, year_of
from care.vocabulary import Action, Consequence
from tests.effort import examples

TODAY = date(2026, 11, 26)
SATURDAYS = days_of(Wishes((Hands("us", ("SA",), 60),)), TODAY, YEAR_DAYS)


def chore(every=30.0, *, slot="part", action=Action.CLEAN, stake=Consequence.PICK_UP, **more):
    """A task that comes again every so many days."""
    growth = np.arange(YEAR_DAYS + 1)[None, :] / every
    return Chore(ChoreKey(UUID(int=1), slot, action), stake, 4.0, 0.0, growth, **more)


class AYear(SimpleTestCase):
    def test_a_task_of_plain_dates_is_done_as_often_as_its_dates_ask(self):
        year = year_of([chore(30, stake=Consequence.MOTOR)], [], SATURDAYS, Weights())
        middle = band(year.visits).p50
        self.assertTrue(YEAR_DAYS / 30 <= middle <= YEAR_DAYS / (0.95 * 30 - 14), middle)
        self.assertEqual(middle * 4.0, band(year.minutes).p50)
        self.assertEqual((DRAWS,), year.visits.shape)

    def test_what_is_done_between_visits_counts_and_makes_no_visit(self):
        year = year_of([], [chore(2)], SATURDAYS, Weights())
        self.assertAlmostEqual(YEAR_DAYS / 2 * 4.0, band(year.minutes).p50)
        self.assertEqual(0, year.visits.sum())

    def test_new_parts_cost_and_what_is_left_of_them_is_told(self):
        year = year_of([chore(90, action=Action.REPLACE, price=1000)], [], SATURDAYS, Weights())
        self.assertEqual(band(year.parts).p50 * 1000, band(year.cents).p50)
        self.assertLess(band(year.unused_cents).p50, band(year.cents).p50 / 4)

    def test_a_new_part_sets_its_other_tasks_back(self):
        wash = chore(20, action=Action.WASH)
        new = chore(25, action=Action.REPLACE, covers=frozenset({wash.key}))
        both = year_of([wash, new], [], SATURDAYS, Weights())
        alone = year_of([wash], [], SATURDAYS, Weights())
        self.assertLess(
            both.minutes.mean(), alone.minutes.mean() + year_of([new], [], SATURDAYS, Weights()).minutes.mean()
        )

    def test_runs_are_missed_while_it_dries_and_side_by_side_only_once(self):
        wet = {"missed": (2,) * (YEAR_DAYS + 1), "action": Action.WASH, "stake": Consequence.MOTOR}
        one = year_of([chore(28, **wet)], [], SATURDAYS, Weights())
        two = year_of([chore(28, **wet), chore(28, slot="other", **wet)], [], SATURDAYS, Weights())
        self.assertEqual(2 * one.visits.mean(), one.missed.mean())
        self.assertLess(two.missed.mean(), 1.3 * one.missed.mean())

    @given(st.floats(10, 80), st.floats(1.05, 3), st.floats(0, 0.4))
    @examples(12)
    def test_the_same_luck_meets_both_so_that_what_is_less_is_less_in_nearly_every_future(self, every, times, spread):
        often = year_of([chore(every, spread=spread, stake=Consequence.MOTOR)], [], SATURDAYS, Weights())
        seldom = year_of([chore(every * times, spread=spread, stake=Consequence.MOTOR)], [], SATURDAYS, Weights())
        self.assertGreaterEqual((seldom.minutes <= often.minutes).mean(), 0.98)

    def test_nothing_changed_is_no_difference_at_all(self):
        chores = [chore(20 + n, slot=f"s{n}", spread=0.3) for n in range(5)]
        one, other = (year_of(some, [], SATURDAYS, Weights()) for some in (chores, chores[::-1]))
        np.testing.assert_allclose(one.minutes, other.minutes)
        self.assertTrue((luck(*chores[0].key) == luck(*chores[0].key)).all())

    def test_a_year_without_days_for_visits_is_an_empty_one(self):
        year = year_of([chore()], [], [], Weights())
        self.assertEqual((0.0, 0.0), (year.visits.sum(), year.minutes.sum()))
        self.assertEqual(TODAY + timedelta(days=2), SATURDAYS[0].date)
