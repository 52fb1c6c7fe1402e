"""What silence stands for: the usual week less what was told, never below nothing."""

from dataclasses import replace
from datetime import UTC, date, timedelta

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from care.due.assumed import Plan, assumed_runs, with_returns
from care.due.schedule import Schedule
from care.model import Provenance, Rest, Run, Why
from care.vocabulary import Silence
from tests.care.world import DAY, START

MONDAY = START.date()
TWICE = Schedule("RRULE:FREQ=WEEKLY;BYDAY=TU,SA", 24, silence=Silence.RAN)


def told(day, minutes=24):
    """A run that somebody told of, on a day counted from the first Monday."""
    at = START + day * DAY
    return Run(at.date(), minutes * 60, at)


def assumed(runs=(), rests=(), weeks=2, schedule=TWICE):
    """Days (from the first Monday) and minutes of the assumed runs of so many weeks."""
    today = MONDAY + timedelta(weeks=weeks)
    made = assumed_runs([Plan(MONDAY, schedule)], runs, rests, today=today, zone=UTC)
    assert all(run.provenance is Provenance.ASSUMED for run in made)
    return [((run.day - MONDAY).days, round(run.run_s / 60)) for run in made]


class Silent(SimpleTestCase):
    def test_weeks_are_the_usual_ones(self):
        self.assertEqual(assumed(), [(1, 24), (5, 24), (8, 24), (12, 24)])

    def test_machines_that_report_are_taken_at_their_word(self):
        self.assertEqual(assumed(schedule=Schedule(TWICE.rule, 24, silence=Silence.RESTED)), [])

    def test_today_may_still_be_told(self):
        today = date(2026, 1, 6)
        self.assertEqual(today.weekday(), 1)
        self.assertEqual(assumed_runs([Plan(MONDAY, TWICE)], [], [], today=today, zone=UTC), [])


class Told(SimpleTestCase):
    def test_runs_stand_in_for_planned_ones_of_their_week_also_on_other_days(self):
        self.assertEqual(assumed([told(1)]), [(5, 24), (8, 24), (12, 24)])
        self.assertEqual(assumed([told(3)]), [(1, 24), (8, 24), (12, 24)])

    def test_a_short_run_leaves_the_rest_of_the_week_s_minutes(self):
        self.assertEqual(assumed([told(1, 10)], weeks=1), [(5, 24)])
        self.assertEqual(assumed([told(1, 40)], weeks=1), [(5, 8)])
        self.assertEqual(assumed([told(1, 60)], weeks=1), [])

    @given(st.lists(st.tuples(st.integers(0, 27), st.integers(1, 120)), max_size=12))
    def test_weeks_never_hold_less_than_told_nor_make_up_more_than_planned(self, runs):
        made = assumed([told(*run) for run in runs], weeks=4)
        for week in range(4):
            real = sum(minutes for day, minutes in runs if day // 7 == week)
            extra = sum(minutes for day, minutes in made if day // 7 == week)
            self.assertLessEqual(extra, max(0, 48 - real) + 1)
        self.assertFalse({day for day, _ in made} & {day for day, _ in runs})


class Rests(SimpleTestCase):
    def test_nothing_is_assumed_on_days_off(self):
        away = Rest(Why.AWAY, MONDAY + 5 * DAY, MONDAY + 8 * DAY)
        self.assertEqual(assumed(rests=[away]), [(1, 24), (12, 24)])

    def test_a_pause_without_an_end_goes_on(self):
        self.assertEqual(assumed(rests=[Rest(Why.PAUSED, MONDAY + 2 * DAY, None)]), [(1, 24)])

    def test_a_later_plan_takes_over_on_its_day(self):
        daily = Schedule("RRULE:FREQ=DAILY", 10, silence=Silence.RAN)
        plans = [Plan(MONDAY, TWICE), Plan(MONDAY + 7 * DAY, daily)]
        made = assumed_runs(plans, [], [], today=MONDAY + 9 * DAY, zone=UTC)
        self.assertEqual([((r.day - MONDAY).days, r.run_s / 60) for r in made], [(1, 24), (5, 24), (7, 10), (8, 10)])


class Returns(SimpleTestCase):
    """Being back ends what was told before it, and nothing else."""

    pause = Rest(Why.PAUSED, MONDAY + 2 * DAY, None)
    back = Rest(Why.BACK, MONDAY + 7 * DAY, MONDAY + 7 * DAY)

    def test_end_a_pause_the_day_before(self):
        self.assertEqual(with_returns([self.pause, self.back]), [Rest(Why.PAUSED, MONDAY + 2 * DAY, MONDAY + 6 * DAY)])

    def test_on_the_day_it_began_leave_nothing_of_it(self):
        self.assertEqual(with_returns([replace(self.pause, first=self.back.first), self.back]), [])

    def test_leave_what_is_over_what_is_to_come_and_what_is_told_later(self):
        over = Rest(Why.AWAY, MONDAY, MONDAY + DAY)
        to_come = Rest(Why.AWAY, MONDAY + 30 * DAY, MONDAY + 40 * DAY)
        later = Rest(Why.DID_NOT_RUN, MONDAY + 6 * DAY, MONDAY + 9 * DAY)
        self.assertEqual(with_returns([over, to_come, self.back, later]), [over, to_come, later])
