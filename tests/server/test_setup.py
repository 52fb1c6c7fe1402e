"""Setting machines up, whatever is known of their past."""

from datetime import date, timedelta
from uuid import uuid4

from care.due.schedule import weekly
from care.errors import InvalidValue
from care.model import Level
from care.vocabulary import Action, Found, Silence
from server.base.problems import Conflict
from server.due.state import machine_states
from server.logbook.models import Entry
from server.machines.models import Item, Machine
from server.setup.services import Earlier, New, Spare, set_up
from server.work.services import already_done, look
from tests.care.world import fact
from tests.server.house import DAY, NOON, HouseTestCase

TODAY = NOON.date()
WEEK = weekly(["MO", "WE"], 30, None, silence=Silence.RAN)


class SettingUp(HouseTestCase):
    def add(self, earlier=None, **more):
        new = New(uuid4(), "Hall", "upright-belt", WEEK, earlier=earlier, **more)
        [machine] = set_up(member=self.member, machines=[new])
        [state] = machine_states(self.member, machine.pk)
        return state

    def of(self, state, slot, action):
        return next(d for d in state.due if (d.slot, d.action) == (slot, action))

    def test_of_a_new_machine_starts_every_clock_today(self):
        state = self.add()
        self.assertEqual({d.level for d in state.due if d.share > 0}, set())
        self.assertFalse(any(d.unsure for d in state.due))

    def test_of_one_nobody_knows_anything_of_is_honest_about_every_clock(self):
        state = self.add(Earlier())
        foam = self.of(state, "foam", Action.WASH)
        self.assertEqual((foam.level, foam.unsure), (Level.UNKNOWN, True))
        self.assertTrue(self.of(state, "belt", Action.REPLACE).unsure)
        self.assertGreater((foam.due.p90 - foam.due.p10).days, 14)

    def test_the_first_look_settles_a_date_and_so_does_the_work(self):
        state = self.add(Earlier())
        look(member=self.member, machine_id=state.machine.id, slot_key="foam", about=Action.WASH, found=Found.LIGHT)
        already_done(member=self.member, machine_id=state.machine.id, slot_key="roll", action=Action.DE_HAIR)
        [state] = machine_states(self.member, state.machine.id)
        self.assertFalse(self.of(state, "foam", Action.WASH).unsure)
        self.assertFalse(self.of(state, "roll", Action.DE_HAIR).unsure)
        self.assertTrue(self.of(state, "hose", Action.INSPECT).unsure)

    def test_a_known_day_counts_the_usual_weeks_since_then(self):
        """Four weeks ago: eight runs of 30 min, since nobody could tell of them before the machine was set up."""
        state = self.add(Earlier(bought=TODAY - timedelta(days=100), last_done=TODAY - timedelta(days=28)))
        foam = self.of(state, "foam", Action.WASH)
        self.assertAlmostEqual(foam.clocks[0].used, 4.0, 1)
        self.assertFalse(any(d.unsure for d in state.due))
        self.assertEqual(fact(self.of(state, "belt", Action.REPLACE), "since_new").day, date(2025, 11, 24))

    def test_one_part_may_have_been_seen_to_on_another_day_or_none_that_is_known(self):
        days = {"foam": TODAY, "hose": None}
        state = self.add(Earlier(last_done=TODAY - timedelta(days=28), parts=days))
        self.assertEqual(self.of(state, "foam", Action.WASH).share, 0)
        self.assertTrue(self.of(state, "hose", Action.INSPECT).unsure)
        self.assertGreater(self.of(state, "cyclone", Action.CLEAN).share, 0)

    def test_spares_lie_ready_and_the_fitted_one_is_lettered(self):
        state = self.add(spares=(Spare("foam", "Foam B"),))
        names = {item.name: item.state for item in state.items.values() if state.homes[item.id] == "foam"}
        self.assertEqual(names, {"Foam filter A": "fitted", "Foam B": "ready"})

    def test_a_robot_and_its_dock_are_added_together_or_not_at_all(self):
        robot, dock = uuid4(), uuid4()
        both = [New(robot, "Attic", "robot-belt", WEEK), New(dock, "Attic dock", "dock-bag", serves=robot)]
        set_up(member=self.member, machines=both)
        self.assertEqual(Machine.objects.of(self.member.household_id).get(pk=dock).serves_id, robot)
        before = Entry.objects.of(self.member.household_id).count()
        wrong = [New(uuid4(), "Loft", "robot-belt", WEEK), New(uuid4(), "attic DOCK", "dock-bag")]
        with self.assertRaises(Conflict) as refused:
            set_up(member=self.member, machines=wrong)
        self.assertEqual(refused.exception.field, "name")
        self.assertEqual(Entry.objects.of(self.member.household_id).count(), before)
        self.assertFalse(Item.objects.of(self.member.household_id).filter(home_machine__name="Loft").exists())

    def test_days_that_cannot_be_name_their_field(self):
        ahead, then = TODAY + timedelta(days=1), TODAY - timedelta(days=9)
        for field, earlier in [
            ("bought", Earlier(bought=ahead)),
            ("last_done", Earlier(last_done=ahead)),
            ("last_done", Earlier(bought=then, last_done=then - timedelta(days=1))),
            ("last_done", Earlier(bought=then, parts={"foam": date(2020, 1, 1)})),
            ("slot", Earlier(parts={"wing": TODAY})),
        ]:
            with self.subTest(earlier=earlier), self.assertRaises(InvalidValue) as refused:
                self.add(earlier)
            self.assertEqual(refused.exception.field, field)

    def test_nothing_is_assumed_before_anybody_says_when_it_runs(self):
        new = New(uuid4(), "Hall", "upright-belt", None, earlier=Earlier(last_done=TODAY - 30 * DAY))
        [machine] = set_up(member=self.member, machines=[new])
        [state] = machine_states(self.member, machine.pk)
        self.assertEqual(state.runs, [])
