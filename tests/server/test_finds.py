"""What somebody finds decides: through the services, in every school."""

from uuid import uuid4

from care.errors import InvalidValue
from care.vocabulary import Action, Found
from server.base.problems import Conflict
from server.due.changes import home_changed
from server.due.dangers import dangers_of
from server.due.history import history
from server.due.state import machine_states
from server.logbook.services import undo
from server.setup.services import add_machine
from server.use.services import log_run
from server.work.services import already_done, look
from tests.care.world import fact
from tests.server.house import DAY, NOON, HouseTestCase


class Finds(HouseTestCase):
    def run_now(self, minutes):
        log_run(member=self.member, run_id=uuid4(), machine_id=self.machine.pk, minutes=minutes)


class Looks(Finds):
    def look(self, slot, about, found, machine=None):
        at = machine or self.machine.pk
        return look(member=self.member, machine_id=at, slot_key=slot, about=about, found=found)

    def test_find_makes_due_whatever_the_clock_says_and_a_new_one_ends_it(self):
        self.look("side-brush", Action.REPLACE, Found.OVERDUE)
        self.assertTrue(self.due("side-brush", Action.REPLACE).is_due)
        self.at(NOON + DAY)
        already_done(member=self.member, machine_id=self.machine.pk, slot_key="side-brush", action=Action.REPLACE)
        self.assertFalse(self.due("side-brush", Action.REPLACE).is_due)

    def test_what_looks_fine_is_not_overdue_and_counts_on_from_there(self):
        for days_ago in range(2, 14):
            self.ran(days_ago=days_ago)
        self.assertTrue(self.due("rubber-roller", Action.DE_HAIR).is_due)
        self.look("rubber-roller", Action.DE_HAIR, Found.CLEAN)
        after = self.due("rubber-roller", Action.DE_HAIR)
        self.assertFalse(after.is_due)
        self.assertEqual(fact(after, "seen_fine").found, Found.CLEAN)
        self.at(NOON + DAY)
        self.run_now(300)
        self.assertGreater(self.due("rubber-roller", Action.DE_HAIR).share, after.share)

    def test_several_on_one_day_are_one(self):
        self.ran(minutes=200, days_ago=2)
        self.look("wheels", Action.WIPE, Found.LIGHT)
        once = self.due("wheels", Action.WIPE)
        for hour in range(1, 5):
            self.at(NOON + hour * DAY / 24)
            self.look("wheels", Action.WIPE, Found.LIGHT)
        self.assertEqual(fact(self.due("wheels", Action.WIPE), "learned").looks, 1)
        self.assertAlmostEqual(self.due("wheels", Action.WIPE).share, once.share, 6)

    def test_a_cord_that_is_cut_puts_its_machine_out_of_use_and_undo_takes_both_back(self):
        upright = add_machine(
            member=self.member, machine_id=uuid4(), name="Upright", archetype="upright-belt", schedule=None
        )
        self.at(NOON + DAY / 24)
        entry = self.look("cord", Action.REPLACE, Found.OVERDUE, upright.pk)
        self.assertEqual([one.danger.key for one in self.dangers(upright)], ["cord"])
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=entry.pk)
        self.assertEqual(self.dangers(upright), [])

    def dangers(self, machine):
        return dangers_of(self.member.household_id, [machine.pk])[machine.pk]

    def test_under_a_dock_that_washes_mops_a_look_at_them_asks_about_the_washing_it_may_need(self):
        robot = add_machine(member=self.member, machine_id=uuid4(), name="Mopper", archetype="robot-mop", schedule=None)
        add_machine(
            member=self.member, machine_id=uuid4(), name="Dock", archetype="dock-wash", schedule=None, serves=robot.pk
        )
        self.at(NOON + DAY / 24)
        self.look("mops", Action.INSPECT, Found.OVERDUE, robot.pk)
        [state] = machine_states(self.member, robot.pk)
        self.assertTrue(next(s for s in state.due if (s.slot, s.action) == ("mops", Action.WASH)).is_due)


class SomethingChanged(Finds):
    """Six looks as the book says, then three in a row far dirtier."""

    def setUp(self):
        super().setUp()
        for n in range(9):
            self.at(NOON + 3 * n * DAY)
            self.run_now(400 if n < 6 else 200)
            found = Found.DUE if n < 6 else Found.OVERDUE
            done = {"slot_key": "rubber-roller", "action": Action.DE_HAIR, "found": found}
            already_done(member=self.member, machine_id=self.machine.pk, **done)
            self.at(NOON + (3 * n + 1) * DAY)

    def asked(self):
        return fact(self.due("rubber-roller", Action.DE_HAIR), "contradicted")

    def say(self, changed):
        task = {"slot": "rubber-roller", "action": Action.DE_HAIR}
        return home_changed(member=self.member, machine_id=self.machine.pk, changed=changed, **task)

    def test_is_asked_once_and_a_yes_forgets_what_was_seen_before(self):
        self.assertEqual(self.asked().way, 1)
        before = fact(self.due("rubber-roller", Action.DE_HAIR), "learned")
        entry = self.say(True)
        after = fact(self.due("rubber-roller", Action.DE_HAIR), "learned")
        self.assertEqual((before.looks, after.looks), (9, 3))
        self.assertIsNone(self.asked())
        [state] = machine_states(self.member, self.machine.pk)
        told = next(line for line in history(self.member, state) if line.kind == "changed")
        self.assertEqual((told.slot, told.changed), ("rubber-roller", True))
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=entry.pk)
        self.assertIsNotNone(self.asked())

    def test_a_no_keeps_it_and_is_not_asked_again(self):
        self.say(False)
        self.assertIsNone(self.asked())
        self.assertEqual(fact(self.due("rubber-roller", Action.DE_HAIR), "learned").looks, 9)
        with self.assertRaises(Conflict):
            self.say(True)

    def test_of_a_task_that_there_is_not_is_refused(self):
        with self.assertRaises((Conflict, InvalidValue)):
            home_changed(
                member=self.member, machine_id=self.machine.pk, slot="caster", action=Action.DE_HAIR, changed=True
            )
