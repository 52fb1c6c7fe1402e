"""Forecasts: quantiles of the first trigger, from use that was really seen."""

from datetime import timedelta

from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st

from care.due.forecast import Futures, Need, expected
from care.due.learning import learn, prior
from care.due.usage import Schedule, UsageLog
from care.kinds import Found, Meter
from tests.care.world import DAILY_BUT_SUNDAY, DAY, START, runs

TODAY = START.date()


def futures(done=(), schedule=None, ran_today=False):
    """Futures of a machine from START on."""
    return Futures(UsageLog(done), schedule, today=TODAY, from_day=TODAY + DAY * ran_today)


def hours(limit, used=0.0, cap=1e9, learned=True):
    """A need counted in hours of running."""
    return Need(Meter.RUN_HOURS, used, limit, cap, learned)


class TheBand(SimpleTestCase):
    @settings(max_examples=40, deadline=None)
    @given(st.floats(1, 400), st.floats(0, 400), st.lists(st.sampled_from(Found), max_size=3))
    def test_is_in_order_and_never_before_today(self, limit, used, seen):
        due = expected([hours(limit, used)], learn((1.0, found) for found in seen), futures(schedule=DAILY_BUT_SUNDAY))
        self.assertLessEqual(TODAY, due.p10)
        self.assertLessEqual(due.p10, due.p50)
        self.assertLessEqual(due.p50, due.p90)

    def test_narrows_with_what_was_found(self):
        known = learn([(1.0, Found.DUE)] * 5)
        wide, narrow = (expected([hours(60)], f, futures(schedule=DAILY_BUT_SUNDAY)) for f in (prior(), known))
        self.assertLess(narrow.p90 - narrow.p10, 0.8 * (wide.p90 - wide.p10))

    def test_begins_today_when_part_of_the_belief_has_it_past(self):
        """At 10 of 10 h by the book, half of the homes are past it; the slow ones still have days."""
        due = expected([hours(10, 10)], prior(), futures(schedule=DAILY_BUT_SUNDAY))
        self.assertEqual((due.p10, due.p50), (TODAY, TODAY))
        self.assertGreater(due.p90, TODAY + DAY)

    def test_stays_still_while_nothing_happens(self):
        twice = [expected([hours(60)], prior(), futures(schedule=DAILY_BUT_SUNDAY)) for _ in range(2)]
        self.assertEqual(*twice)


class TheFirstOfAll(SimpleTestCase):
    def test_is_never_later_than_any_one_of_them(self):
        needs = [hours(60), Need(Meter.RUNS, 0, 50, 1e9, learned=True), Need(Meter.DAYS, 0, 75, 1e9, learned=False)]
        shared = futures(schedule=DAILY_BUT_SUNDAY)
        together = expected(needs, prior(), shared)
        for need in needs:
            alone = expected([need], prior(), shared)
            self.assertLessEqual(together.p50, alone.p50)

    def test_a_cap_bounds_the_late_side_only(self):
        """Sixty hours by the book, at most thirty by the label: 36 runs of 50 minutes, six a week."""
        due = expected([hours(60, cap=30)], prior(), futures(schedule=DAILY_BUT_SUNDAY))
        self.assertEqual(due.p90, TODAY + timedelta(days=5 * 7 + 5))


class WhatIsDrawn(SimpleTestCase):
    def test_whole_weeks_that_were_seen(self):
        """Every other week idle: a week's need is met within one week or it takes two or more, as the weeks fall."""
        busy = [r for n in (1, 3, 5, 7) for r in runs(7, minutes=60, first=START - (7 * n) * DAY)]
        due = expected([hours(7, learned=False)], prior(), futures(busy))
        self.assertLessEqual((due.p10 - TODAY).days, 6)
        self.assertGreater((due.p90 - TODAY).days, 13)

    def test_nothing_seen_and_nothing_planned_is_not_while_unused(self):
        self.assertIsNone(expected([hours(10)], prior(), futures()))

    def test_a_few_days_without_a_plan_give_their_mean(self):
        three_days = runs(3, minutes=60, first=START - 3 * DAY)
        due = expected([hours(10, learned=False)], prior(), futures(three_days))
        self.assertEqual((due.p50 - TODAY).days, 9)

    def test_far_dates_go_on_at_the_mean_pace(self):
        daily = Schedule("RRULE:FREQ=DAILY", 60)
        due = expected([hours(1000, learned=False)], prior(), futures(schedule=daily))
        self.assertAlmostEqual((due.p50 - TODAY).days, 1000, delta=1)

    def test_today_is_left_out_once_it_has_run(self):
        daily = Schedule("RRULE:FREQ=DAILY", 60)
        need = [hours(1, learned=False)]
        self.assertEqual(expected(need, prior(), futures(schedule=daily)).p50, TODAY)
        self.assertEqual(expected(need, prior(), futures(schedule=daily, ran_today=True)).p50, TODAY + DAY)
