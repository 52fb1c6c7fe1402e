"""The Log: a line for each action, found by whatever is asked for, and nothing told twice over its pages."""

from unittest import mock
from uuid import uuid4

from django.db import connection
from django.test import TransactionTestCase
from django.test.utils import CaptureQueriesContext

from care.vocabulary import Action, Found, School
from server.base import clock
from server.base.problems import Conflict
from server.document.tables import all_kinds
from server.household.models import Member
from server.household.services import journal_by
from server.log import finding, services
from server.log.finding import GROUPS, Wanted
from server.log.words import SAYS
from server.logbook import scoping
from server.logbook.models import Entry
from server.logbook.services import undo
from server.machines.models import Note
from server.notes.services import add_note
from server.setup.overrides import choose_school, rename_part
from server.use.services import log_run
from server.work.services import already_done, look
from tests.demo_house import NOW, restore
from tests.server.house import DAY, NOON, HouseTestCase
from tests.server.test_api import ApiTestCase


class WhatIsTold(HouseTestCase):
    def test_every_kind_of_record_has_words_and_is_found_by_one_choice(self):
        self.assertEqual(set(SAYS), set(all_kinds()))
        told = [kind for _, kinds in GROUPS.values() for kind in kinds]
        self.assertEqual(sorted([*told, Entry.Kind.VOID]), sorted(Entry.Kind.values))

    def test_settings_are_told_without_any_key(self):
        rename_part(member=self.member, machine_id=self.machine.pk, slot="caster", name="Front wheel")
        choose_school(member=self.member, machine_id=self.machine.pk, slot="caster", school=School.THRIFTY)
        schooled, renamed, *_ = self.lines()
        self.assertEqual(schooled.words, "Robot: Front wheel: school set: thrifty")
        self.assertEqual(renamed.words, "Robot: Front wheel: name set: Front wheel")

    def test_a_table_asks_for_no_more_ids_at_once_than_the_database_looks_up(self):
        for n in range(5):
            rename_part(member=self.member, machine_id=self.machine.pk, slot="caster", name=f"Wheel {n}")
        whole = list(services.every(self.member, Wanted()))
        with mock.patch.object(scoping, "IDS_AT_ONCE", 2), CaptureQueriesContext(connection) as asked:
            self.assertEqual(list(services.every(self.member, Wanted())), whole)
        by_id = [one["sql"] for one in asked if '"logbook_entry"."id" IN (' in one["sql"]]
        headers = [sql for sql in by_id if '"entered_at"' in sql]
        self.assertGreater(len(headers), 2)
        self.assertLessEqual(max(sql.split(" IN (")[1].split(")")[0].count(",") for sql in headers), 1)

    def lines(self, **wanted):
        return services.page(self.member, Wanted(**wanted)).lines

    def did(self):
        on = {"member": self.member, "machine_id": self.machine.pk}
        with clock.at(NOON - 2 * DAY):
            self.run = log_run(**on, run_id=uuid4(), minutes=42.5, part_was_out=True)
            add_note(**on, text="The lid sticks a little")
        with clock.at(NOON - DAY):
            self.looked = look(**on, slot_key="caster", about=Action.DE_HAIR, found=Found.DUE)
            self.washed = already_done(**on, slot_key="filter", action=Action.WASH)

    def test_an_action_is_one_line_that_opens_on_its_records(self):
        self.did()
        washed, looked, noted, ran, *_ = self.lines()
        self.assertEqual(washed.words, "Robot: Filter washed")
        self.assertGreater(washed.count, 3)
        self.assertEqual((ran.words, ran.by), ("Robot: Ran 42.5 min (logged)", "Ash"))
        self.assertEqual(noted.words, "Robot: Note: The lid sticks a little")
        self.assertIn("found dirty", looked.words)
        opened = services.opened(self.member, washed.entry_id)
        self.assertEqual((len(opened.records), opened.count), (washed.count, washed.count))
        self.assertIn("Filter washed", [one.words for one in opened.records])

    def test_a_large_action_tells_its_machines_and_counts_what_it_does_not_tell(self):
        journal = journal_by(self.member, self.machine.pk)
        for n in range(9):
            journal.tell(Note, machine=self.machine, slot="", text=f"Note {n}")
        told = self.lines()[0]
        self.assertEqual(told.words, "Robot: Note: Note 0, Note: Note 1, Note: Note 2, Note: Note 3, and 5 more")
        self.assertEqual([one.words for one in services.opened(self.member, told.entry_id).records][8], "Note: Note 8")
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=told.entry_id)
        self.assertEqual(
            [services.opened(self.member, one.entry_id).count for one in self.lines(undone=True)[:2]], [9, 9]
        )

    def test_many_of_a_part_are_met_in_the_order_of_time_and_few_by_their_ids(self):
        for days in range(6):
            with clock.at(NOON - days * DAY):
                look(
                    member=self.member,
                    machine_id=self.machine.pk,
                    slot_key="caster",
                    about=Action.DE_HAIR,
                    found=Found.DUE,
                )
                add_note(member=self.member, machine_id=self.machine.pk, slot="filter", text="Grey")
        asked = ({"words": "caster"}, {"words": "caster found"}, {"words": "filter grey"}, {"words": "robot wheel ran"},
                 {"machine_id": self.machine.pk, "slot": "caster"}, {"words": "caster", "group": "runs"},
                 {"words": "found", "group": "looks"})  # fmt: skip
        by_ids = [self.lines(**one) for one in asked]
        with mock.patch.object(finding, "FEW", 2):
            self.assertEqual([self.lines(**one) for one in asked], by_ids)
        self.assertEqual([len(one) for one in by_ids], [7, 6, 6, 0, 7, 0, 6])

    def test_it_is_found_by_machine_part_person_kind_time_and_words(self):
        self.did()
        bo = Member.everything.create(
            id=uuid4(), household=self.member.household, name="Una", role="helper", joined_at=NOON
        )
        log_run(member=bo, machine_id=self.machine.pk, run_id=uuid4(), minutes=10, part_was_out=True)
        self.assertEqual([one.by for one in self.lines(by=bo.pk)], ["Una"])
        self.assertEqual({one.words.split(": ")[0] for one in self.lines(machine_id=self.machine.pk)}, {"Robot"})
        of_part = self.lines(machine_id=self.machine.pk, slot="caster", group="looks")
        self.assertEqual(of_part[0].words, self.lines(group="looks")[0].words)
        self.assertEqual(len(self.lines(first=(NOON - DAY).date(), last=(NOON - DAY).date())), 2)
        [noted] = self.lines(group="notes")
        self.assertEqual([one.entry_id for one in self.lines(words="sticks lid")], [noted.entry_id])
        self.assertEqual([one.by for one in self.lines(words="una run")], ["Una"])
        self.assertEqual(self.lines(words="nothing-like-that"), ())
        self.assertTrue(all("filter" in one.words.lower() for one in self.lines(words="filter", group="work")[:1]))

    def test_what_was_taken_back_is_told_when_it_is_asked_for_with_who_and_why(self):
        self.did()
        before = len(self.lines())
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=self.run.pk, reason="wrong machine")
        self.assertEqual(len(self.lines()), before - 1)
        all_ = self.lines(undone=True)
        self.assertEqual(all_[0].words, "Robot: Taken back: wrong machine")
        gone = next(one for one in all_ if one.entry_id == self.run.pk)
        self.assertEqual((gone.undone_by, gone.reason), ("Ash", "wrong machine"))
        self.assertEqual([one.words for one in self.lines(words="wrong", undone=True)], [all_[0].words])

    def test_what_a_later_record_needs_is_refused_by_name_and_day(self):
        self.did()
        with clock.at(NOON):
            rows = Entry.objects.of(self.member.household_id).filter(action_id=self.washed.action_id)
            first, later = rows.order_by("sequence")[0], rows.filter(kind="move").order_by("-sequence")[0]
            Entry.everything.filter(pk=later.pk).update(action_id=uuid4())
            with self.assertRaises(Conflict) as refused:
                undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=first.pk)
        self.assertRegex(refused.exception.detail, r"^Filter: the [a-z ]+ of 3 March 2026 needs it\.$")


class Pages(TransactionTestCase):
    def _fixture_teardown(self):
        """Nothing: the demo household is put in the place of whatever is there."""

    def test_of_the_demo_tell_every_action_once_in_order(self):
        member = restore()
        with clock.at(NOW):
            seen, before = [], None
            for _ in range(200):
                page = services.page(member, Wanted(), before)
                seen += page.lines
                before = page.next
                if before is None:
                    break
            rows = Entry.objects.of(member.household_id).filter(voided_by=None).exclude(kind="void")
            self.assertEqual(len(seen), rows.values("action_id").distinct().count())
            self.assertEqual([one.at for one in seen], sorted((one.at for one in seen), reverse=True))


class OverHttp(ApiTestCase):
    def asked(self, path, **query):
        return self.client.get(f"/api{path}", query)

    def test_a_page_its_choices_the_year_and_a_table(self):
        for _ in range(60):
            self.log_run(minutes=5)
        first = self.asked("/log", group="runs").json()
        second = self.asked("/log", group="runs", before=first["next"]).json()
        runs = [one["entry_id"] for one in [*first["lines"], *second["lines"]] if "Ran" in one["words"]]
        self.assertEqual((len(runs), len(set(runs)), second["next"]), (60, 60, None))
        choices = self.asked("/log/choices").json()
        self.assertEqual([one["name"] for one in choices["machines"]], ["Robot"])
        self.assertEqual(self.asked("/log/statistics").json()["months"][-1]["run_hours"], 5.0)
        table = self.asked("/log.csv", group="runs").content.decode()
        self.assertEqual(table.count("Ran 5 min"), 60)
        opened = self.asked(f"/log/records/{runs[0]}").json()
        self.assertEqual([one["words"] for one in opened["records"]], ["Ran 5 min (logged)"])
        self.assert_problem(self.asked(f"/log/records/{uuid4()}"), 404, "id")
        self.assert_problem(self.asked("/log", before="soon"), 422, "before")
        self.assert_problem(self.asked("/log", group="everything"), 422, "group")

    def test_a_record_is_taken_back_with_a_reason(self):
        entry = self.log_run().json()["entry_id"]
        self.assertEqual(self.post(f"/entries/{entry}/undo", reason="it was yesterday").status_code, 200)
        void = Entry.objects.of(self.member.household_id).get(kind="void")
        self.assertEqual(void.reason, "it was yesterday")
