"""What if: a copy of the household that lives otherwise, and living so from now on in one action."""

from dataclasses import replace
from uuid import uuid4

from care.errors import InvalidValue
from care.household import Profile
from care.season import Hands
from care.vocabulary import School, Skill
from server.base.problems import Conflict, NotFound
from server.household.services import answer_profile, answers_at
from server.logbook.models import Entry
from server.season import whatif
from server.season.records import Habits, Weighing, habits_of
from server.season.services import keep_habits
from server.season.whatif import Change, adopt, compare, now_of
from tests.server.house import NOON, HouseTestCase
from tests.server.test_api import ApiTestCase


class Otherwise(HouseTestCase):
    def setUp(self):
        super().setUp()
        answer_profile(member=self.member, profile=Profile(long_haired=1, animals=1), school=School.WORKSHOP)
        for days in range(1, 20):
            self.ran(days_ago=days)

    def test_running_half_as_often_saves_work_but_less_than_half(self):
        now = whatif.as_it_is(self.member)
        found = compare(self.member, Change(runs={self.machine.pk: 3}))
        self.assertLess(found.differs.hours.p90, 0)
        self.assertGreater(found.year.hours.p50, now.hours.p50 * 3 / 7)

    def test_more_animals_are_more_work_and_nothing_changed_is_nothing(self):
        more = compare(self.member, Change(animals=4)).differs
        self.assertGreater(more.hours.p10, 0)
        same = compare(self.member, Change(animals=1)).differs
        self.assertEqual((0, 0, 0), (same.hours.p50, same.visits.p50, same.cost.p50))

    def test_a_second_set_spares_the_runs_that_are_missed(self):
        tuesdays = Habits((Hands("Ash", ("TU",), 60, Skill.STRIP_DOWN),))
        keep_habits(member=self.member, habits=tuesdays)  # on Saturdays it would dry until the next run
        [(state, slot)] = [one for one in now_of(self.member).sets if one[1] == "filter"]
        found = compare(self.member, Change(sets=frozenset({(state.machine.id, slot)})))
        self.assertLess(found.differs.missed.p50, 0)
        with self.assertRaises(Conflict):
            adopt(member=self.member, change=Change(sets=frozenset({(state.machine.id, slot)})))

    def test_a_year_is_weighed_by_all_that_the_household_told(self):
        told = Habits((Hands("Ash", ("MO", "TH"), 60, Skill.STRIP_DOWN),))
        keep_habits(member=self.member, habits=told)
        before = whatif.as_it_is(self.member)
        keep_habits(member=self.member, habits=replace(told, weighing=Weighing(wait_min=240)))
        self.assertLess(
            whatif.as_it_is(self.member).missed.p50, before.missed.p50, "a run missed weighs eight times more"
        )

    def test_asking_records_nothing_and_what_cannot_be_is_refused(self):
        before = Entry.objects.of(self.member.household_id).count()
        compare(self.member, Change(school=School.THRIFTY, weekdays=("MO",), hour_value=0))
        self.assertEqual(before, Entry.objects.of(self.member.household_id).count())
        for change in (
            Change(runs={self.machine.pk: 9}),
            Change(animals=-1),
            Change(sets=frozenset({(self.machine.pk, "sensors")})),
        ):
            with self.assertRaises(InvalidValue):
                compare(self.member, change)
        with self.assertRaises(NotFound):
            compare(self.member, Change(runs={uuid4(): 3}))
        with self.assertRaises(InvalidValue):
            adopt(member=self.member, change=Change())

    def test_living_so_is_one_action_and_one_undo(self):
        change = Change(
            runs={self.machine.pk: 2}, animals=3, school=School.THRIFTY, weekdays=("MO", "TH"), hour_value=900
        )
        entry = adopt(member=self.member, change=change)
        self.at(NOON.replace(hour=13))
        answers = answers_at(self.member.household_id, NOON.replace(hour=13))
        self.assertEqual((3, School.THRIFTY), (answers.profile.animals, answers.school))
        self.assertEqual(2, len(self.state().schedule.rule.split("BYDAY=")[1].split(",")))
        habits = habits_of(self.member)
        self.assertEqual((("MO", "TH"), 900), (habits.hands[0].weekdays, habits.weighing.hour_value))
        self.assertEqual(
            3,
            Entry.objects.of(self.member.household_id)
            .filter(action_id=Entry.everything.get(pk=entry.pk).action_id)
            .count(),
        )


class OverHttp(ApiTestCase):
    def test_up_to_four_side_by_side_and_one_adopted(self):
        start = self.client.get("/api/what-if").json()
        self.assertEqual([str(self.machine.pk)], [one["machine_id"] for one in start["runs"]])
        change = {"runs": [{"machine_id": str(self.machine.pk), "days": 2}]}
        told = self.post("/what-if", changes=[change, {"school": "thrifty"}]).json()
        self.assertEqual(2, len(told["compared"]))
        self.assertEqual(422, self.post("/what-if", changes=[{}] * 5).status_code)
        self.assertEqual(201, self.post("/what-if/adopt", **change).status_code)
        self.assertEqual(422, self.post("/what-if/adopt").status_code)
