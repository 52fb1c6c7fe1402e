"""The demo household: lived through the services, the same story on every day of the week."""

from datetime import UTC, datetime, timedelta

from django.test import TestCase

from care.model import Level
from demo.quillgate import ANCHOR, load
from server.config import clock
from server.machines.state import machine_states
from server.round.board import round_of


class Quillgate(TestCase):
    def load(self, now):
        member = load(now=now, user_name=f"keeper-{now:%d}", password="quillgate")
        holding = clock.at(now)
        holding.__enter__()
        self.addCleanup(holding.__exit__, None, None, None)
        return member

    def test_has_work_today_a_dry_spare_and_two_months_of_runs(self):
        now = datetime.combine(ANCHOR, datetime.min.time(), UTC) + timedelta(hours=9)
        member = self.load(now)
        [robot] = machine_states(member)
        self.assertGreater(len(robot.runs), 30)
        due = {task.state.slot: task.state.level for task in round_of(member).agenda.due}
        self.assertEqual((due["filter"], due["rubber-roller"]), (Level.DUE, Level.OVERDUE))
        spare = next(item for item in robot.items.values() if robot.homes[item.id] == "filter" and not item.machine_id)
        self.assertEqual((spare.state, spare.wash_count >= 1), ("ready", True))
        self.assertTrue(all(run.day.weekday() < 5 for run in robot.runs))

    def test_on_a_sunday_years_later_it_still_reads_the_same(self):
        now = datetime(2028, 7, 2, 20, tzinfo=UTC)
        member = self.load(now)
        [robot] = machine_states(member)
        self.assertEqual(robot.runs[-1].day, datetime(2028, 6, 30).date())  # noqa: DTZ001
        self.assertIn("filter", {task.state.slot for task in round_of(member).agenda.due})
