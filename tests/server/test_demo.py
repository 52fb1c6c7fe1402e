"""The demo household: lived through the services, the same story on every day of the week."""

from datetime import UTC, datetime, timedelta

from django.test import TransactionTestCase

from care.model import Level, Provenance
from server.base import clock
from server.drying.rack import rack_page
from server.due.state import machine_states
from server.faults.cases import open_cases
from server.round.board import round_of
from server.season.records import last_plan
from tests.demo_house import NOW, restore


def hold(test, moment):
    """Hold the clock for one test."""
    holding = clock.at(moment)
    holding.__enter__()
    test.addCleanup(holding.__exit__, None, None, None)


def machines(member):
    """The machines of a household by name."""
    return {state.machine.name: state for state in machine_states(member)}


class Quillgate(TransactionTestCase):
    """As it was lived through for the screens: once for each state of the code."""

    def setUp(self):
        self.member = restore()
        hold(self, NOW)
        self.house = machines(self.member)

    def test_is_a_house_of_five_machines_and_two_docks_with_its_clashes(self):
        house = self.house
        self.assertEqual(len(house), 7)
        due = {(task["machine_name"], task["slot"]): task["level"] for task in round_of(self.member).due}
        self.assertEqual(due["Ground robot", "filter"], Level.DUE)
        self.assertEqual(due["Workshop tub", "cloth"], Level.DUE)
        self.assertEqual(
            [key for key, level in due.items() if level == Level.OVERDUE], [("Ground robot", "rubber-roller")]
        )
        robot = house["Ground robot"]
        spare = next(item for item in robot.items.values() if robot.homes[item.id] == "filter" and item.name[-1] == "B")
        self.assertNotEqual(spare.state, "retired")
        attic = house["Attic robot"]
        self.assertEqual(attic.machine.empty_slots, ("filter",))
        [on] = rack_page(self.member)
        self.assertEqual([at.date() for at in on.missed], [NOW.date(), NOW.date() + timedelta(days=4)])
        self.assertEqual((on.job.stay.air.name, on.better.air.name), ("Utility room", "Airing cupboard"))

    def test_counts_a_dock_by_its_robot_and_assumes_what_nobody_tells(self):
        robot, dock, stairs = (self.house[name] for name in ("Ground robot", "Ground dock", "Stairs cordless"))
        self.assertEqual(dock.runs, robot.runs)
        self.assertNotIn("bin", {state.slot for state in robot.due if state.action == "empty"})
        told = {run.provenance for run in robot.runs}, {run.provenance for run in stairs.runs}
        self.assertEqual(told, ({Provenance.MEASURED}, {Provenance.LOGGED, Provenance.ASSUMED}))
        away = [
            run for run in stairs.runs if NOW.date() - timedelta(days=319) <= run.day <= NOW.date() - timedelta(306)
        ]
        self.assertEqual(away, [])


class YearsLater(TransactionTestCase):
    def test_on_a_sunday_evening_it_still_reads_the_same(self):
        now = datetime(2028, 7, 2, 20, tzinfo=UTC)
        member = restore(now)
        hold(self, now)
        house, seen = machines(member), round_of(member)
        self.assertEqual(house["Ground robot"].runs[-1].day, now.date())
        due = {(task["machine_name"], task["slot"]): task["level"] for task in seen.due}
        self.assertIn(("Ground robot", "filter"), due)
        self.assertEqual([k for k, level in due.items() if level == Level.OVERDUE], [("Ground robot", "rubber-roller")])
        self.assertTrue(15 <= seen.minutes <= 27, seen.minutes)
        self.assertEqual(house["Attic robot"].machine.empty_slots, ("filter",))
        self.assertTrue(rack_page(member)[0].missed)
        self.assertEqual(len(open_cases(member)), 1)
        self.assertEqual(last_plan(member)[0], now.date())
