"""Due states as the server gives them: learned from records, printed by command."""

import json
from datetime import timedelta
from io import StringIO

from django.core.management import CommandError, call_command

from care.vocabulary import Action, Found
from server.logbook.services import undo
from server.work.services import already_done
from tests.server.house import DAY, NOON, HouseTestCase, household


class Learning(HouseTestCase):
    def find(self, found):
        self.at(NOON + timedelta(minutes=1))
        return already_done(
            member=self.member,
            machine_id=self.machine.pk,
            slot_key="rubber-roller",
            action=Action.DE_HAIR,
            found=found,
        )

    def limit(self):
        return self.due("rubber-roller", Action.DE_HAIR).clocks[0].limit

    def test_what_was_found_moves_the_limit_and_undo_moves_it_back(self):
        for day in range(4):
            self.ran(minutes=60, days_ago=day)
        before = self.limit()
        entry = self.find(Found.OVERDUE)
        self.assertLess(self.limit(), 0.8 * before)
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=entry.pk)
        self.assertEqual(self.limit(), before)

    def test_what_was_found_on_a_part_stays_with_its_place_when_it_is_replaced(self):
        for day in range(4):
            self.ran(minutes=60, days_ago=day)
        self.find(Found.OVERDUE)
        learned = self.limit()
        self.at(NOON + DAY)
        already_done(member=self.member, machine_id=self.machine.pk, slot_key="rubber-roller", action=Action.REPLACE)
        self.assertEqual(self.limit(), learned)


class ByCommand(HouseTestCase):
    def print_due(self, **options):
        out = StringIO()
        call_command("due", "--json", stdout=out, **options)
        return json.loads(out.getvalue())

    def test_prints_every_household_with_reasons(self):
        household("Testgate 2", "other")
        first, second = self.print_due()
        self.assertEqual([first["household"], second["household"]], ["Testgate 1", "Testgate 2"])
        self.assertEqual([m["kind"] for m in first["machines"]], ["robot-two-roller"])
        self.assertEqual(first["due"][0]["slot"], "sensors")
        self.assertEqual(first["due"][0]["because"][0]["code"], "trigger")
        self.assertTrue(all(task["due"]["p10"] <= task["due"]["p90"] for task in first["coming"]))

    def test_of_one_machine_only(self):
        [one] = self.print_due(household="Testgate 1", machine="Robot")
        self.assertEqual(len(one["machines"]), 1)

    def test_says_which_name_is_unknown(self):
        for option in ({"household": "Nowhere"}, {"machine": "Broom"}):
            with self.subTest(option), self.assertRaises(CommandError) as refused:
                self.print_due(**option)
            self.assertIn(next(iter(option.values())), str(refused.exception))
