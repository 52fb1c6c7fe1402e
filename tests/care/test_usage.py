"""Meters from runs, and the usual week."""

from datetime import date, time, timedelta

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from care.due.reading import Reading
from care.due.schedule import Schedule, weekly
from care.due.usage import FILLS_A_RUN, AtDock, UsageLog, pace, weeks_to_use
from care.due_state import Clock
from care.errors import InvalidValue
from care.vocabulary import Consequence, Meter, School
from tests.care.test_loads import by_itself
from tests.care.world import DAILY_BUT_SUNDAY, DAY, START, WASHABLE, context, one_state, runs


class WhatADockIsSetTo(SimpleTestCase):
    EVENING = START.replace(hour=21, minute=15)

    def test_counts_emptyings_on_the_way_and_none_in_quiet_hours(self):
        half_hourly, night = AtDock(30), AtDock(30, (time(22), time(7)))
        self.assertEqual(half_hourly.emptyings(90 * 60, self.EVENING), 3)
        self.assertEqual(AtDock().emptyings(90 * 60, self.EVENING), 1)
        self.assertEqual(night.emptyings(90 * 60, self.EVENING), 1, "at 21:45 alone")
        self.assertEqual(night.emptyings(90 * 60, None), 3, "where nobody knows when it began, as without them")
        self.assertEqual(AtDock(None, (time(22), time(7))).emptyings(60 * 60, self.EVENING), 0)

    def test_refuses_what_no_dock_does(self):
        for told in ({"return_min": 2}, {"quiet": (time(7), time(7))}, {"dry_h": 0}, {"dry_h": 30}):
            with self.subTest(told), self.assertRaises(InvalidValue):
                AtDock(**told)


class WorkedNumbers(SimpleTestCase):
    def test_six_runs_of_fifty_minutes_are_five_hours_a_week(self):
        self.assertEqual(DAILY_BUT_SUNDAY.weekly, Reading(5.0, 6))

    def test_at_that_pace_a_brush_a_filter_and_sensors_last_60_30_and_6_weeks(self):
        hours = DAILY_BUT_SUNDAY.weekly.run_hours
        self.assertEqual([weeks_to_use(limit, hours) for limit in (300, 150, 30)], [60, 30, 6])

    def test_64_percent_left_of_200_hours_is_128_hours(self):
        clock = Clock(Meter.RUN_HOURS, used=72, limit=200)
        self.assertEqual((clock.share_left, clock.left), (0.64, 128))

    def test_past_its_limit_nothing_is_left_and_the_share_goes_on(self):
        clock = Clock(Meter.RUN_HOURS, used=250, limit=200)
        self.assertEqual((clock.left, clock.share_left, clock.share), (0, 0, 1.25))

    def test_a_resting_machine_never_uses_anything_up(self):
        self.assertEqual(weeks_to_use(30, hours_per_week=0), float("inf"))


class TheLog(SimpleTestCase):
    def test_counts_a_run_from_its_instant_on_not_before(self):
        log = UsageLog(runs(3))
        first = START + timedelta(hours=1)
        self.assertEqual(log.between(START, first - timedelta(seconds=1)), Reading())
        self.assertEqual(log.between(START, first).runs, 1)
        self.assertEqual(log.between(first, first + 10 * DAY).runs, 2)

    @given(st.lists(st.integers(1, 300), max_size=30), st.integers(-5, 40), st.integers(0, 40))
    def test_any_span_equals_adding_the_runs_up(self, minutes, start_day, length):
        done = [run for n, m in enumerate(minutes) for run in runs(1, minutes=m, first=START + n * DAY)]
        start, end = START + start_day * DAY, START + (start_day + length) * DAY
        inside = [run for run in done if start < run.counts_at <= end]
        reading = UsageLog(reversed(done)).between(start, end)
        self.assertAlmostEqual(reading.run_hours, sum(run.run_s for run in inside) / 3600)
        self.assertEqual(reading.runs, len(inside))

    def test_without_a_usual_week_the_last_four_weeks_give_the_pace(self):
        done = runs(56)
        usual = pace(UsageLog(done), None, START + 56 * DAY)
        self.assertEqual(usual.runs_per_week, 7)
        self.assertAlmostEqual(usual.hours_per_week, 7 * 50 / 60)


class FullBins(SimpleTestCase):
    """Nobody taps every full bin; a filter that is washed every few of them has a date all the same."""

    def fills(self, *told, days=30):
        return UsageLog(runs(days), emptied=told).between(START - DAY, START + days * DAY)

    def test_are_assumed_by_the_run_where_nobody_ever_told_and_counted_where_somebody_does(self):
        never, some = self.fills(), self.fills(START + 10 * DAY, START + 20 * DAY)
        self.assertAlmostEqual(never.fills, 30 * FILLS_A_RUN)
        self.assertEqual((never.assumed(Meter.FILLS), some.fills, some.assumed(Meter.FILLS)), (1.0, 2, 0.0))

    def test_are_assumed_again_after_more_runs_than_a_bin_can_take(self):
        stopped = self.fills(START + 5 * DAY)
        self.assertAlmostEqual(stopped.fills, 1 + 25 * FILLS_A_RUN)
        self.assertLess(stopped.assumed(Meter.FILLS), 1)

    def test_give_what_guards_a_motor_a_date_in_every_school(self):
        for kind in WASHABLE.values():
            for rule in (r for slot in kind.slots for r in slot.rules if r.stake is Consequence.MOTOR):
                for school in School:
                    held = rule.in_force(school)
                    if held is None or all(trigger.meter is not Meter.FILLS for trigger in held.triggers):
                        continue
                    with self.subTest(kind.key, action=rule.action, school=school):
                        around = context(runs(10), now=START + 10 * DAY, school=school)
                        self.assertIsNotNone(one_state(by_itself(rule), around).due)


class TheUsualWeek(SimpleTestCase):
    def test_a_plain_week_and_the_general_rule_give_the_same_days(self):
        first, before = date(2026, 1, 6), date(2026, 3, 3)
        plain = weekly(["MO", "WE"], 30, None).days(first, before)
        general = Schedule("RRULE:FREQ=WEEKLY;INTERVAL=1;BYDAY=MO,WE", 30).days(first, before)
        self.assertEqual(plain, general)
        self.assertEqual(plain[:2], [date(2026, 1, 7), date(2026, 1, 12)])

    def test_a_weekday_of_a_month_is_no_weekday_of_every_week(self):
        monthly = Schedule("RRULE:FREQ=MONTHLY;BYDAY=1MO", 10)
        self.assertEqual(list(monthly.days(date(2026, 3, 1), date(2026, 5, 1))), [date(2026, 3, 2), date(2026, 4, 6)])
        every = Schedule("RRULE:FREQ=MONTHLY;BYDAY=MO", 10)
        other_weeks = Schedule("RRULE:FREQ=WEEKLY;INTERVAL=2;BYDAY=MO", 10)
        march = (date(2026, 3, 2), date(2026, 3, 30))
        self.assertEqual((len(every.days(*march)), len(other_weeks.days(*march))), (4, 2))

    def test_a_rule_that_ends_has_no_run_after_its_end(self):
        week = Schedule("RRULE:FREQ=DAILY;COUNT=2", 30)
        self.assertEqual(len(week.days(date(2026, 1, 6), date(2026, 2, 1))), 2)

    def test_a_wrong_rule_names_its_field(self):
        with self.assertRaises(InvalidValue) as refused:
            Schedule("RRULE:FREQ=SOMETIMES", 30)
        self.assertEqual(refused.exception.field, "schedule")

    def test_a_wrong_weekday_names_its_field(self):
        with self.assertRaises(InvalidValue) as refused:
            weekly(["MO", "XX"], 30, None)
        self.assertEqual(refused.exception.field, "days")

    def test_a_run_has_a_length(self):
        for minutes in (0, -5, 1441):
            with self.subTest(minutes=minutes), self.assertRaises(InvalidValue) as refused:
                Schedule("RRULE:FREQ=DAILY", minutes)
            self.assertEqual(refused.exception.field, "run_min")
