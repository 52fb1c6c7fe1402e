"""Forecasts: quantiles of the first trigger, from use that was really seen."""

from dataclasses import replace
from datetime import timedelta

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from care.due.assumed import Plan, week_since
from care.due.forecast import Futures, Remaining, expected
from care.due.learning import learn, prior
from care.due.schedule import Schedule, every_so_many_days
from care.due.usage import UsageLog
from care.model import Rest, Why
from care.vocabulary import Found, Meter
from tests.care.world import DAILY_BUT_SUNDAY, DAY, START, runs
from tests.effort import examples

TODAY = START.date()


def futures(done=(), schedule=None, ran_today=False):
    """Futures of a machine from START on."""
    return Futures(UsageLog(done), schedule, today=TODAY, from_day=TODAY + DAY * ran_today)


def hours(limit, used=0.0, cap=1e9, learned=True):
    """A need counted in hours of running."""
    return Remaining(Meter.RUN_HOURS, ((used, limit),), limit, cap, learned)


class TheBand(SimpleTestCase):
    @examples(40)
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
        needs = [
            hours(60),
            Remaining(Meter.RUNS, (), 50, 1e9, learned=True),
            Remaining(Meter.DAYS, (), 75, 1e9, learned=False),
        ]
        shared = futures(schedule=DAILY_BUT_SUNDAY)
        together = expected(needs, prior(), shared)
        for need in needs:
            alone = expected([need], prior(), shared)
            self.assertLessEqual(together.p50, alone.p50)

    def test_a_cap_bounds_the_late_side_only(self):
        """Sixty hours by the book, at most thirty by the label: 36 runs of 50 minutes, six a week."""
        due = expected([hours(60, cap=30)], prior(), futures(schedule=DAILY_BUT_SUNDAY))
        self.assertEqual(due.p90, TODAY + timedelta(days=5 * 7 + 5))


class Rests(SimpleTestCase):
    def days_until(self, rests):
        """Days until seven hours are run at an hour a day, with these rests to come."""
        daily = Schedule("RRULE:FREQ=DAILY", 60)
        drawn = Futures(UsageLog([]), daily, today=TODAY, from_day=TODAY, rests=rests)
        due = expected([hours(7, learned=False)], prior(), drawn)
        return (due.p50 - TODAY).days if due else None

    def test_to_come_put_a_date_off_by_their_days(self):
        self.assertEqual(self.days_until([]), 6)
        self.assertEqual(self.days_until([Rest(Why.AWAY, TODAY + 2 * DAY, TODAY + 11 * DAY)]), 16)

    def test_without_an_end_leave_no_date(self):
        self.assertIsNone(self.days_until([Rest(Why.PAUSED, TODAY + 2 * DAY, None)]))

    def test_that_are_over_change_nothing(self):
        self.assertEqual(self.days_until([Rest(Why.AWAY, TODAY - 9 * DAY, TODAY - DAY)]), 6)

    def test_past_ones_are_not_taken_for_the_usual_pace(self):
        away = Rest(Why.AWAY, TODAY - 21 * DAY, TODAY - DAY)
        seen = runs(14, minutes=60, first=START - 35 * DAY)
        drawn = Futures(UsageLog(seen), None, today=TODAY, from_day=TODAY, rests=[away])
        due = expected([hours(7, learned=False)], prior(), drawn)
        self.assertEqual((due.p50 - TODAY).days, 6)

    def test_eight_weeks_of_them_and_more_leave_the_pace_of_the_weeks_before(self):
        """Nine weeks away: the dates are those of the weeks that were lived here, not two years off."""
        away = Rest(Why.AWAY, TODAY - 63 * DAY, TODAY - DAY)
        seen = runs(14, minutes=60, first=START - 77 * DAY)
        drawn = Futures(UsageLog(seen), None, today=TODAY, from_day=TODAY, rests=[away])
        self.assertEqual((expected([hours(7, learned=False)], prior(), drawn).p50 - TODAY).days, 6)


class AnotherWeek(SimpleTestCase):
    def test_counts_from_the_day_it_holds_and_the_weeks_before_tell_nothing_of_it(self):
        """An hour a day until two weeks ago, since then on Mondays only: seven hours take seven weeks."""
        monday = Schedule("RRULE:FREQ=WEEKLY;BYDAY=MO", 60)
        seen = [
            *runs(42, minutes=60, first=START - 56 * DAY),
            *runs(2, minutes=60, first=START - 14 * DAY, every=7 * DAY),
        ]
        since = TODAY - 14 * DAY
        drawn = Futures(UsageLog(seen), monday, today=TODAY, from_day=TODAY, week_since=since)
        due = expected([hours(7, learned=False)], prior(), drawn)
        self.assertEqual(((due.p10 - TODAY).days, (due.p90 - TODAY).days), (42, 42))

    def test_holds_from_the_first_of_the_versions_that_run_alike(self):
        often, seldom = Schedule("RRULE:FREQ=DAILY", 60), Schedule("RRULE:FREQ=WEEKLY;BYDAY=MO", 60)
        mopping = replace(seldom, mops=True)
        days = [TODAY + n * DAY for n in range(3)]
        self.assertEqual(
            week_since([Plan(day, one) for day, one in zip(days, (often, seldom, mopping), strict=True)]), days[1]
        )
        self.assertIsNone(week_since([Plan(days[0], seldom), Plan(days[1], mopping)]))
        self.assertIsNone(week_since([]))

    def test_of_runs_some_days_apart_falls_on_other_weekdays_each_week(self):
        third = every_so_many_days(3, TODAY, 60, None)
        self.assertAlmostEqual(third.weekly.run_hours, 7 / 3)
        due = expected([hours(7, learned=False)], prior(), futures(schedule=third))
        self.assertIn((due.p50 - TODAY).days, range(15, 23))


class OtherMeters(SimpleTestCase):
    def until(self, meter, limit, log, fills_per_hour=0.0):
        drawn = Futures(log, None, today=TODAY, from_day=TODAY, fills_per_hour=fills_per_hour)
        due = expected([Remaining(meter, (), limit, 1e9, learned=False)], prior(), drawn)
        return (due.p50 - TODAY).days if due else None

    def setUp(self):
        daily = runs(28, minutes=60, first=START - 28 * DAY)
        mopped = [replace(run, mopped=n % 2 == 0, evacuations=2) for n, run in enumerate(daily)]
        self.log = UsageLog(mopped, minutes_per_charge=30)

    def test_go_at_their_own_pace(self):
        self.assertEqual(self.until(Meter.EVACUATIONS, 20, self.log), 9)
        self.assertEqual(self.until(Meter.CHARGES, 20, self.log), 9)
        self.assertEqual(self.until(Meter.FILLS, 5, self.log, fills_per_hour=0.5), 9)
        self.assertIn(self.until(Meter.MOP_RUNS, 7, self.log), range(12, 15))

    def test_that_nobody_feeds_give_no_date(self):
        self.assertIsNone(self.until(Meter.FILLS, 5, self.log))
        self.assertIsNone(self.until(Meter.CONDITION, 1, self.log))

    def test_a_condition_that_was_found_is_now(self):
        drawn = futures(schedule=DAILY_BUT_SUNDAY)
        due = expected([Remaining(Meter.CONDITION, ((1.0, 1.0),), 1.0, 1.0, learned=False)], prior(), drawn)
        self.assertEqual((due.p10, due.p90), (TODAY, TODAY))


class AssumedUse(SimpleTestCase):
    def test_widens_the_band(self):
        known, week = learn([(1.0, Found.DUE)] * 5), futures(schedule=DAILY_BUT_SUNDAY)
        told, guessed = (expected([replace(hours(40, 20), assumed=share)], known, week) for share in (0.0, 1.0))
        self.assertGreater((guessed.p90 - guessed.p10).days, (told.p90 - told.p10).days)


class WhatIsDrawn(SimpleTestCase):
    def test_whole_weeks_that_were_seen(self):
        """Every other week idle: a week's need is met within one week or it takes two or more, as the weeks fall."""
        busy = [r for n in (1, 3, 5, 7) for r in runs(7, minutes=60, first=START - (7 * n) * DAY)]
        due = expected([hours(7, learned=False)], prior(), futures(busy))
        self.assertLessEqual((due.p10 - TODAY).days, 6)
        self.assertGreaterEqual((due.p90 - TODAY).days, 13)

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
