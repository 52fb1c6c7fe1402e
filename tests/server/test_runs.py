"""Logging runs: what is counted, what is refused, and taking it back."""

from datetime import date, timedelta
from uuid import uuid4

from care.errors import InvalidValue
from care.model import Provenance
from care.vocabulary import Action
from server.base.problems import Conflict, NotAllowed, NotFound
from server.household.models import Member
from server.logbook.models import Entry
from server.logbook.services import undo
from server.machines.models import Run
from server.use.services import log_run
from tests.server.house import DAY, NOON, HouseTestCase, hours_of, household


class Logging(HouseTestCase):
    def run_it(self, **more):
        values = {"member": self.member, "run_id": uuid4(), "machine_id": self.machine.pk, "minutes": 50, **more}
        return log_run(**values)

    def bin_runs(self):
        return self.due("bin", Action.EMPTY).clocks[0].used

    def test_a_tap_moves_every_clock_and_undo_moves_it_back(self):
        entry = self.run_it()
        self.assertEqual(self.bin_runs(), 1)
        self.assertAlmostEqual(hours_of(self.due("bristle-roller", Action.REPLACE)), 50 / 60, places=5)
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=entry.pk)
        self.assertEqual(self.bin_runs(), 0)
        self.assertEqual(Run.objects.of(self.member.household_id).count(), 1, "the record stays, voided")

    def test_undoing_twice_is_refused(self):
        entry = self.run_it()
        for attempt in range(2):
            call = {"household_id": self.member.household_id, "by_id": self.member.pk, "entry_id": entry.pk}
            if attempt == 0:
                undo(**call)
            else:
                with self.assertRaises(Conflict):
                    undo(**call)

    def test_the_same_id_again_changes_nothing_and_is_refused_for_another_run(self):
        run_id = uuid4()
        first = self.run_it(run_id=run_id)
        self.assertEqual(self.run_it(run_id=run_id), first)
        for other in ({"minutes": 90}, {"mopped": True}, {"day": (NOON - DAY).date()}):
            with self.subTest(other), self.assertRaises(Conflict):
                self.run_it(run_id=run_id, **other)
        self.assertEqual(self.bin_runs(), 1)

    def test_a_tap_after_a_service_today_counts_after_it(self):
        from server.work.services import already_done

        self.at(NOON + timedelta(hours=1))
        already_done(member=self.member, machine_id=self.machine.pk, slot_key="bin", action=Action.EMPTY)
        self.at(NOON + timedelta(hours=2))
        self.run_it()
        self.assertEqual(self.bin_runs(), 1)

    def test_a_run_of_an_earlier_day_counts_on_that_day(self):
        self.run_it(day=date(2026, 3, 1))
        row = Run.objects.of(self.member.household_id).get()
        self.assertEqual((row.day, row.entry.happened_at), (date(2026, 3, 1), NOON - 3 * DAY))

    def test_the_day_is_the_household_s_own(self):
        """23:30 UTC on 31 March is half past midnight of 1 April in Dublin."""
        self.at(NOON + 40 * DAY)
        late = NOON.replace(month=3, day=31, hour=23, minute=30)
        self.run_it(start=late, provenance=Provenance.MEASURED)
        self.assertEqual(Run.objects.of(self.member.household_id).get().day, date(2026, 4, 1))

    def test_a_device_may_be_ten_minutes_ahead_no_more(self):
        self.run_it(start=NOON - timedelta(minutes=41))
        with self.assertRaises(InvalidValue) as refused:
            self.run_it(start=NOON - timedelta(minutes=30))
        self.assertEqual(refused.exception.field, "start")

    def test_wrong_runs_are_refused_by_field_and_nothing_is_written(self):
        wrong = {
            "minutes": [{"minutes": 0}, {"minutes": -5}, {"minutes": 1440.5}, {"minutes": float("nan")}],
            "day": [{"day": date(2026, 3, 5)}],
            "start": [{"start": NOON + DAY}],
        }
        before = Entry.objects.of(self.member.household_id).count()
        for field, cases in wrong.items():
            for case in cases:
                with self.subTest(case), self.assertRaises(InvalidValue) as refused:
                    self.run_it(**case)
                self.assertEqual(refused.exception.field, field)
                self.assertTrue(refused.exception.fix)
        self.assertEqual(Entry.objects.of(self.member.household_id).count(), before)

    def test_overlapping_an_exact_run_is_refused_touching_it_is_not(self):
        start = NOON - timedelta(hours=5)
        self.run_it(start=start)
        for shift in (-49, 0, 49):
            with self.subTest(shift), self.assertRaises(Conflict) as refused:
                self.run_it(start=start + timedelta(minutes=shift))
            self.assertEqual(refused.exception.field, "start")
        self.run_it(start=start + timedelta(minutes=50))
        self.run_it(start=start - timedelta(minutes=50))

    def test_an_undone_run_is_no_longer_in_the_way(self):
        start = NOON - timedelta(hours=5)
        entry = self.run_it(start=start)
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=entry.pk)
        self.run_it(start=start)

    def test_another_household_s_machine_and_run_ids_are_unknown(self):
        other = household("Testgate 2", "other")
        with self.assertRaises(NotFound):
            self.run_it(member=other)
        entry = self.run_it()
        with self.assertRaises(NotFound):
            undo(household_id=other.household_id, by_id=other.pk, entry_id=entry.pk)

    def test_a_viewer_may_look_not_log(self):
        Member.everything.filter(pk=self.member.pk).update(role=Member.Role.VIEWER)
        self.member.refresh_from_db()
        with self.assertRaises(NotAllowed):
            self.run_it()


class AMeasuredRun(HouseTestCase):
    """A robot's own report of a day that somebody had told of by a tap."""

    def measured(self, minutes, hour):
        start = NOON.replace(hour=hour) - DAY
        return log_run(
            member=self.member,
            run_id=uuid4(),
            machine_id=self.machine.pk,
            minutes=minutes,
            start=start,
            provenance=Provenance.MEASURED,
        )

    def hours(self):
        return [round(run.run_s / 60) for run in self.state().runs]

    def test_stands_in_for_the_one_told_of_and_undone_gives_it_back(self):
        self.ran(minutes=50, days_ago=1)
        entry = self.measured(47, hour=10)
        self.assertEqual(self.hours(), [47])
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=entry.pk)
        self.assertEqual(self.hours(), [50])
        self.measured(48, hour=10)
        self.assertEqual(self.hours(), [48])

    def test_stands_in_for_one_only(self):
        self.ran(minutes=50, days_ago=1)
        self.measured(47, hour=8)
        self.measured(20, hour=11)
        self.assertEqual(self.hours(), [47, 20])
