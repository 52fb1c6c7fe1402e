"""What silence means, days off, more load, docks: through the services."""

from datetime import time, timedelta
from uuid import uuid4

from care.due.schedule import weekly
from care.due.usage import AtDock
from care.errors import InvalidValue
from care.model import Provenance, Why
from care.vocabulary import Action, LoadKind, Silence
from server.base import clock
from server.base.problems import Conflict
from server.due.state import machine_states
from server.household.services import more_load, zone_of
from server.logbook.models import Entry
from server.logbook.services import undo
from server.machines.services import last_time
from server.setup.services import add_machine
from server.use.services import log_run, rest, set_schedule
from server.work.services import already_done
from tests.care.world import fact
from tests.server.house import DAY, NOON, HouseTestCase

TODAY = NOON.date()


class Upright(HouseTestCase):
    """A plug-in machine that nobody logs, used on Tuesdays and Saturdays."""

    def setUp(self):
        super().setUp()
        with clock.at(NOON - 30 * DAY):
            week = weekly(["TU", "SA"], 24, time(17), silence=Silence.RAN)
            self.upright = add_machine(
                member=self.member, machine_id=uuid4(), name="Upright", archetype="upright-belt", schedule=week
            )

    def runs(self):
        [state] = machine_states(self.member, self.upright.pk)
        return {run.day: run.provenance for run in state.runs}

    def rests(self, why, first, last, machine=None):
        return rest(member=self.member, machine_id=machine, why=why, first=first, last=last)

    def test_is_assumed_to_have_run_until_somebody_tells(self):
        self.assertEqual(len(self.runs()), 9)
        self.assertEqual(set(self.runs().values()), {Provenance.ASSUMED})
        tuesday = (NOON - DAY).date()
        log_run(member=self.member, run_id=uuid4(), machine_id=self.upright.pk, minutes=30, day=tuesday)
        self.assertEqual((len(self.runs()), self.runs()[tuesday]), (9, Provenance.LOGGED))

    def test_says_how_much_of_its_hours_is_assumed(self):
        [state] = machine_states(self.member, self.upright.pk)
        used = fact(next(s for s in state.due if s.slot == "foam" and s.action is Action.WASH), "used")
        self.assertEqual(used.assumed_h, used.run_hours)

    def test_rests_with_the_house_and_one_undo_takes_it_back(self):
        entry = self.rests(Why.AWAY, TODAY - 10 * DAY, TODAY - DAY)
        self.assertEqual(len(self.runs()), 6)
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=entry.pk)
        self.assertEqual(len(self.runs()), 9)

    def test_a_pause_holds_the_dates_still(self):
        def due():
            [state] = machine_states(self.member, self.upright.pk)
            return next(s for s in state.due if s.slot == "hose" and s.action is Action.INSPECT).due.p50

        before = due()
        self.rests(Why.PAUSED, TODAY, TODAY + 27 * DAY, self.upright.pk)
        self.assertGreaterEqual(due(), before + timedelta(days=14))

    def test_back_in_use_ends_a_pause_without_an_end_and_can_be_undone(self):
        self.rests(Why.PAUSED, TODAY - 10 * DAY, None, self.upright.pk)
        self.assertEqual(len(self.runs()), 6)
        entry = self.rests(Why.BACK, TODAY - 2 * DAY, TODAY - 2 * DAY, self.upright.pk)
        self.assertEqual(len(self.runs()), 7)
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=entry.pk)
        self.assertEqual(len(self.runs()), 6)

    def test_a_new_week_counts_from_today_and_the_old_one_explains_yesterday(self):
        set_schedule(member=self.member, machine_id=self.upright.pk, schedule=None)
        self.assertEqual(len(self.runs()), 9)

    def test_days_the_wrong_way_round_or_to_come_are_refused(self):
        entries = Entry.objects.of(self.member.household_id).count()
        for why, first, last in ((Why.AWAY, TODAY, TODAY - DAY), (Why.DID_NOT_RUN, TODAY, TODAY + DAY)):
            with self.subTest(why), self.assertRaises(InvalidValue) as refused:
                self.rests(why, first, last)
            self.assertEqual(refused.exception.field, "last")
        self.assertEqual(Entry.objects.of(self.member.household_id).count(), entries)


class MoreLoad(HouseTestCase):
    def test_shortens_what_its_kind_moves_and_nothing_else(self):
        self.ran(minutes=200, days_ago=2)
        hair, dust = self.due("rubber-roller", Action.DE_HAIR).share, self.due("filter", Action.WASH).share
        more_load(member=self.member, kind=LoadKind.HAIR, first=TODAY - 5 * DAY, last=TODAY - DAY, level=1.0)
        self.assertGreater(self.due("rubber-roller", Action.DE_HAIR).share, hair)
        self.assertEqual(self.due("filter", Action.WASH).share, dust)

    def test_with_days_or_level_that_cannot_be_is_refused(self):
        for field, last, level in (("last", TODAY - DAY, 1.0), ("level", TODAY, 1.5)):
            with self.subTest(field), self.assertRaises(InvalidValue) as refused:
                more_load(member=self.member, kind=LoadKind.DUST, first=TODAY, last=last, level=level)
            self.assertEqual(refused.exception.field, field)


class ADock(HouseTestCase):
    def setUp(self):
        super().setUp()
        with clock.at(NOON - 30 * DAY):
            self.dock = self.add("dock-wash", serves=self.machine.pk)

    def add(self, kind, **more):
        return add_machine(member=self.member, machine_id=uuid4(), name=kind, archetype=kind, schedule=None, **more)

    def test_counts_what_its_robot_ran_and_takes_the_emptying_over(self):
        log_run(member=self.member, run_id=uuid4(), machine_id=self.machine.pk, minutes=50, mopped=True)
        [dock] = machine_states(self.member, self.dock.pk)
        tank = next(s for s in dock.due if (s.slot, s.action) == ("dirty-tank", Action.EMPTY))
        self.assertEqual((tank.clocks[0].used, tank.is_due), (1, True))
        self.assertNotIn(("bin", Action.EMPTY), {(s.slot, s.action) for s in self.state().due})

    def test_is_emptied_into_as_often_as_the_robot_comes_home(self):
        week = weekly(["MO"], 50, None)
        set_schedule(member=self.member, machine_id=self.machine.pk, schedule=week, dock=AtDock(20))
        self.ran(minutes=50)
        [dock] = machine_states(self.member, self.dock.pk)
        bag = next(s for s in dock.due if (s.slot, s.action) == ("bag", Action.REPLACE))
        self.assertEqual(bag.clocks[0].used, 3)

    def test_has_no_runs_of_its_own(self):
        with self.assertRaises(Conflict) as refused:
            log_run(member=self.member, run_id=uuid4(), machine_id=self.dock.pk, minutes=5)
        self.assertIn("Log the run at its robot", refused.exception.fix)

    def test_serves_a_robot_only(self):
        upright = self.add("upright-belt")
        for kind, serves in (("dock-bag", upright.pk), ("upright-compact", self.machine.pk)):
            with self.subTest(kind), self.assertRaises(InvalidValue) as refused:
                self.add(kind, serves=serves)
            self.assertEqual(refused.exception.field, "serves")

    def test_a_feature_that_the_kind_does_not_have_is_refused(self):
        with self.assertRaises(InvalidValue) as refused:
            self.add("dock-bag", features=["wings"])
        self.assertEqual(refused.exception.field, "features")


class RunsThatCannotBe(HouseTestCase):
    """The robot of the house, asked about what cannot have been, or what has to be asked."""

    def log(self, minutes=50, **more):
        return log_run(member=self.member, run_id=uuid4(), machine_id=self.machine.pk, minutes=minutes, **more)

    def test_a_day_has_no_more_than_its_24_hours(self):
        self.log(1400, day=TODAY - DAY)
        with self.assertRaises(Conflict) as refused:
            self.log(60, day=TODAY - DAY)
        self.assertEqual(refused.exception.field, "minutes")
        self.log(40, day=TODAY - DAY)

    def test_a_run_without_its_filter_is_asked_about_and_kept_once_that_is_said(self):
        already_done(member=self.member, machine_id=self.machine.pk, slot_key="filter", action=Action.WASH)
        with self.assertRaises(Conflict) as refused:
            self.log()
        self.assertEqual((refused.exception.field, refused.exception.values["part_out"]), ("part_was_out", "filter"))
        self.log(part_was_out=True)
        self.log(day=TODAY - DAY)

    def test_just_after_midnight_a_start_before_it_was_yesterday_s(self):
        midnight = NOON.replace(hour=0, minute=20)
        with clock.at(midnight):
            at = last_time(self.member, None, time(23, 30))
            self.assertEqual(at.astimezone(zone_of(self.member)).time(), time(23, 30))
            self.assertLess(at, clock.now())
