"""Households: making one, and answers that hold from a date on."""

from datetime import timedelta
from io import StringIO
from types import SimpleNamespace
from unittest.mock import patch

from django.contrib.auth.models import AnonymousUser
from django.core.management import CommandError, call_command
from django.test import TestCase

from care.errors import InvalidValue
from care.model import Load
from care.vocabulary import Action, School
from server.base import clock
from server.base.problems import Conflict, NotAllowed
from server.household.models import Household, Member
from server.household.services import answer, answers_at, create_household, member_of, today_of
from tests.care.world import fact
from tests.server.house import DAY, NOON, HouseTestCase, household


class Making(TestCase):
    def test_needs_a_name_and_a_real_time_zone(self):
        for field, values in {"name": {"name": "  "}, "time_zone": {"time_zone": "Middle/Earth"}}.items():
            given = {"name": "House", "time_zone": "UTC", "user_name": "a", "password": "b", "person": "A", **values}
            with self.subTest(field), self.assertRaises(InvalidValue) as refused:
                create_household(**given)
            self.assertEqual(refused.exception.field, field)
        self.assertFalse(Household.objects.exists())

    def test_a_user_name_is_taken_once(self):
        household()
        with self.assertRaises(Conflict) as refused:
            household("Another")
        self.assertEqual(refused.exception.field, "user_name")
        self.assertEqual(Household.objects.count(), 1, "nothing half-written")

    def test_by_command_asks_for_the_password(self):
        out = StringIO()
        with patch("server.household.management.commands.add_household.getpass", return_value="a-long-one"):
            call_command("add_household", "Our house", "--user-name", "ash", stdout=out)
            self.assertIn("Sign in as ash", out.getvalue())
            self.assertTrue(Member.everything.get(name="ash").user.check_password("a-long-one"))
            with self.assertRaises(CommandError) as refused:
                call_command("add_household", "Second", "--user-name", "bo", "--time-zone", "Nowhere")
        self.assertIn("IANA", str(refused.exception))

    def test_somebody_not_signed_in_is_no_member(self):
        self.assertIsNone(member_of(SimpleNamespace(user=AnonymousUser(), session={})))

    def test_today_is_the_household_s_own(self):
        east = household("East", "east", "Pacific/Auckland")
        with clock.at(NOON + timedelta(hours=1)):
            self.assertEqual(today_of(east), (NOON + DAY).date())


class Answers(HouseTestCase):
    def test_hold_from_their_date_on_and_not_before(self):
        with clock.at(NOON - 5 * DAY):
            answer(member=self.member, load=Load(hair=1.0), school=School.LABEL)
        before = answers_at(self.member.household_id, NOON - 6 * DAY)
        after = answers_at(self.member.household_id, NOON)
        self.assertEqual((before.school, after.school), (School.WORKSHOP, School.LABEL))
        self.assertEqual((before.loads.own(NOON).hair, after.loads.own(NOON).hair), (0.5, 1.0))

    def test_before_the_first_ones_stand_in_the_middle_by_the_label(self):
        before = answers_at(self.member.household_id, NOON - 90 * DAY)
        self.assertEqual((before.loads.own(NOON), before.school), (Load(), School.LABEL))

    def test_move_the_due_states(self):
        """What ran before the answer counts by the load of its own time, what runs after it by the new one."""
        self.ran(minutes=300, days_ago=2)
        middle = self.due("rubber-roller", Action.DE_HAIR).share
        answer(member=self.member, load=Load(hair=1.0), school=School.WORKSHOP, since=NOON - DAY)
        self.assertAlmostEqual(self.due("rubber-roller", Action.DE_HAIR).share, middle, 6)
        self.ran(minutes=300)
        hairy = self.due("rubber-roller", Action.DE_HAIR).share
        self.assertAlmostEqual(hairy - middle, 1.0, 6, "one run, of the one that so much hair leaves")
        self.assertEqual(fact(self.due("filter", Action.WASH), "trigger").index, 0.5)

    def test_are_not_for_viewers_to_give(self):
        self.member.role = Member.Role.VIEWER
        with self.assertRaises(NotAllowed):
            answer(member=self.member, load=Load(), school=School.LABEL)
