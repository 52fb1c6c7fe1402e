"""Sheets on the server: they wait, they write only when the sitting ends, and two people cannot finish one twice."""

import json
from dataclasses import replace
from datetime import timedelta
from importlib import import_module
from types import SimpleNamespace
from unittest.mock import patch
from uuid import uuid4

from django.db import connection
from django.test.utils import CaptureQueriesContext

from care.bench.depth import Depth
from care.bench.steps import StepKind
from care.errors import IllegalMove, InvalidValue
from care.household import Profile
from care.items import State
from care.model import Level
from care.vocabulary import Action, School
from care.washability import Mark, Ruling, Trait, WashReason
from server.base import clock
from server.base.problems import Conflict, NotFound
from server.bench import ending, opening, records, services, sheets
from server.bench.ending_schemas import ended_sheet_out
from server.bench.models import Sheet, SheetEvent
from server.bench.opening import Pick
from server.bench.plan import plan as make_plan
from server.bench.services import Given
from server.bench.sheets import ended_sheets
from server.drying.rack import rack_page
from server.drying.services import answer_household
from server.drying.wash import wash_card
from server.due.history import history
from server.logbook.models import Entry
from server.logbook.services import undo
from server.machines.models import Inspection
from server.notes.readings import feel_pull
from server.round.board import round_of
from server.setup.overrides import choose_school, mark_part
from server.setup.services import Spare, add_machine
from server.work.looks import why_gone
from server.work.services import already_done
from tests.server.house import DAY, NOON, RESTED, HouseTestCase, household


class BenchTestCase(HouseTestCase):
    spares = [Spare("filter", "Filter B")]

    def open(self, *picks):
        chosen = [Pick(self.machine.pk, slot, action) for slot, action in picks]
        return opening.open_sheet(member=self.member, sheet_id=uuid4(), picks=chosen)

    def say(self, sheet, value=None, reason="", event_id=None, at=None):
        step = sheet.progress.current
        value = value or next(v for v in ("done", "pass", "dry", "due", "screws:1") if v in step.answers)
        given = Given(event_id or uuid4(), step.key, value, reason, at=at)
        return services.answer(member=self.member, sheet_id=sheet.row.pk, given=given)

    def say_all(self, sheet, given):
        return services.answer_all(member=self.member, sheet_id=sheet.row.pk, given=given)

    def work(self, sheet):
        while sheet.progress.current is not None:
            sheet = self.say(sheet)
        return sheet

    def finish(self, sheet):
        return ending.finish(member=self.member, sheet_id=sheet.row.pk)

    def records(self):
        return Entry.objects.of(self.member.household_id).filter(source="sheet").count()


class ASitting(BenchTestCase):
    def test_writes_nothing_until_it_ends(self):
        for n in range(8):
            self.ran(minutes=60, days_ago=n)
        before = self.due("bristle-roller", Action.DE_HAIR)
        sheet = self.work(self.open(("bristle-roller", Action.DE_HAIR)))
        self.assertEqual(self.records(), 0)
        self.assertEqual(self.due("bristle-roller", Action.DE_HAIR), before)
        ending = self.finish(sheet)
        self.assertGreater(self.records(), 0)
        self.assertEqual(self.due("bristle-roller", Action.DE_HAIR).clocks[0].used, 0)
        [change] = [c for c in ending.changes if c.after.action is Action.DE_HAIR]
        self.assertEqual((change.before.level, change.after.level), (before.level, Level.FRESH))

    def test_stands_where_it_was_for_anybody_who_looks_again(self):
        sheet = self.say(self.say(self.open(("contacts", Action.WIPE))))
        again = sheets.sheet_state(self.member, sheet.row.pk)
        self.assertEqual(again.progress.current.key, sheet.progress.current.key)
        self.assertEqual(len(again.progress.answers), 2)

    def test_an_answer_sent_twice_counts_once(self):
        sheet, event_id = self.open(("contacts", Action.WIPE)), uuid4()
        once = self.say(sheet, event_id=event_id)
        twice = self.say(sheet, event_id=event_id)
        self.assertEqual(once.progress.current.key, twice.progress.current.key)

    def test_an_answer_s_id_of_another_sheet_is_refused(self):
        event_id = uuid4()
        sheet = self.say(self.open(("contacts", Action.WIPE)), event_id=event_id)
        self.finish(self.work(sheet))
        with self.assertRaises(NotFound):
            self.say(self.open(("contacts", Action.WIPE)), event_id=event_id)

    def test_a_late_answer_of_a_second_person_is_told_where_the_sheet_stands(self):
        sheet = self.open(("contacts", Action.WIPE))
        self.say(sheet)
        with self.assertRaises(InvalidValue) as refused:
            self.say(sheet)
        self.assertEqual(refused.exception.field, "step")

    def test_answers_sent_together_count_all_or_not_at_all_and_sent_again_once(self):
        sheet = self.open(("contacts", Action.WIPE))
        keys = [step.key for step in sheet.sheet.steps]
        said = [Given(uuid4(), key, value) for key, value in zip(keys, ("done", "due", "done"), strict=False)]
        back, again = Given(uuid4(), keys[3], "back"), Given(uuid4(), keys[2], "done")
        for wrong in ([replace(said[0], event_id=uuid4())], [Given(uuid4(), "no such step", "done"), back]):
            with self.subTest(wrong=wrong), self.assertRaises(InvalidValue):
                self.say_all(sheet, [*said, *wrong])
            self.assertFalse(SheetEvent.everything.exists())
        self.say_all(sheet, said[:2])
        stands = self.say_all(sheet, [*said, back, again])
        self.assertEqual(list(stands.progress.answers), keys[:3])
        self.assertEqual(SheetEvent.everything.count(), 5)
        backs = [Given(uuid4(), keys[3], "back") for _ in range(3)]
        with patch("server.bench.services.sheet_state", wraps=sheets.sheet_state) as looked_at:
            self.assertEqual(self.say_all(stands, backs).progress.answers, {})
        self.assertEqual(looked_at.call_count, 2, "steps back in a row are followed once")

    def test_a_late_answer_is_kept_as_a_note_and_changes_nothing(self):
        sheet = self.work(self.open(("contacts", Action.WIPE)))
        self.finish(sheet)
        given = Given(uuid4(), "contacts.wipe.look", "overdue", late=True)
        kept = services.answer(member=self.member, sheet_id=sheet.row.pk, given=given)
        self.assertEqual(kept.progress.answers, sheets.sheet_state(self.member, sheet.row.pk).progress.answers)
        self.assertEqual(list(SheetEvent.everything.filter(late=True).values_list("value", flat=True)), ["overdue"])

    def test_an_answer_given_without_a_connection_counts_from_when_it_was_given(self):
        sheet, made = self.open(("contacts", Action.WIPE)), NOON
        self.at(NOON + timedelta(hours=3))
        for told, counts in ((timedelta(hours=1), 1), (timedelta(0), 1), (timedelta(hours=9), 3)):
            sheet = self.say(sheet, at=made + told)
            last = max(a.at for a in sheet.progress.answers.values())
            self.assertEqual(last, made + timedelta(hours=counts), "never before the one before it, nor in the future")

    def test_a_step_back_takes_the_last_answer_away(self):
        sheet = self.say(self.say(self.open(("contacts", Action.WIPE)), "done"), "overdue")
        back = self.say(sheet, "back")
        self.assertEqual(back.progress.current.key, "contacts.wipe.look")
        self.assertEqual(back.progress.saw, [])

    def test_with_an_open_step_does_not_end(self):
        with self.assertRaises(Conflict) as refused:
            self.finish(self.say(self.open(("contacts", Action.WIPE))))
        self.assertIn("contacts.wipe.look", refused.exception.detail)
        self.assertEqual(self.records(), 0)

    def test_ends_once(self):
        sheet = self.work(self.open(("contacts", Action.WIPE)))
        self.finish(sheet)
        with self.assertRaises(Conflict):
            self.finish(sheet)

    def test_as_a_whole_can_be_undone(self):
        sheet = self.work(self.open(("filter", Action.WASH)))
        self.finish(sheet)
        entry = Entry.objects.of(self.member.household_id).filter(kind="service").get()
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=entry.pk)
        self.assertEqual(self.item("filter").name, "Filter A")
        self.assertEqual(self.spare("Filter B").state, State.READY)

    def test_is_practised_when_each_of_its_parts_was_done_twice_at_the_bench(self):
        for n in range(2):
            self.at(NOON + timedelta(days=n))
            sheet = self.open(("contacts", Action.WIPE))
            self.assertFalse(sheet.practised)
            self.finish(self.work(sheet))
        self.at(NOON + timedelta(days=3))
        both = self.open(("contacts", Action.WIPE), ("sensors", Action.WIPE))
        self.assertFalse(both.practised, "the sensors are new")
        ending.drop(member=self.member, sheet_id=both.row.pk)
        self.assertTrue(self.open(("contacts", Action.WIPE)).practised)
        ended = ended_sheets(self.member, most=8)
        self.assertEqual([ended_sheet_out(row).parts for row in ended], [["Charging contacts"]] * 2)

    def test_that_clashes_with_what_was_recorded_meanwhile_writes_nothing(self):
        sheet = self.work(self.open(("filter", Action.WASH)))
        self.at(NOON + timedelta(minutes=5))
        already_done(member=self.member, machine_id=self.machine.pk, slot_key="filter", action=Action.WASH)
        with self.assertRaises(Conflict) as refused:
            self.finish(sheet)
        self.assertIn("Something changed", refused.exception.detail)
        self.assertEqual(self.records(), 0)
        ending.drop(member=self.member, sheet_id=sheet.row.pk)
        self.assertIsNotNone(self.open(("contacts", Action.WIPE)), "it is no dead end")

    def test_replaces_a_part_with_a_new_one(self):
        old = self.item("side-brush").id
        self.finish(self.work(self.open(("side-brush", Action.REPLACE))))
        self.assertNotEqual(self.item("side-brush").id, old)
        self.assertEqual(self.due("side-brush", Action.REPLACE).clocks[0].used, 0)

    def test_why_a_part_was_replaced_is_on_record_and_stands_in_for_a_look(self):
        old = self.item("side-brush").id
        sheet = self.open(("side-brush", Action.REPLACE))
        says = {StepKind.LOOK: "unsure", StepKind.RETIRE: "schedule"}
        while sheet.progress.current is not None:
            sheet = self.say(sheet, says.get(sheet.progress.current.kind))
        self.finish(sheet)
        self.assertEqual(why_gone(self.member, [old]), {old: "schedule"})
        seen = Inspection.objects.of(self.member.household_id).get(item_id=old)
        self.assertEqual((seen.about, seen.found), (Action.REPLACE, "light"))


class Opening(BenchTestCase):
    def test_one_sheet_a_machine_at_a_time(self):
        self.open(("contacts", Action.WIPE))
        with self.assertRaises(Conflict) as refused:
            self.open(("wheels", Action.WIPE))
        self.assertEqual(refused.exception.field, "machine_id")

    def test_the_same_id_again_is_the_same_sheet(self):
        sheet = self.say(self.open(("contacts", Action.WIPE)))
        again = opening.open_sheet(
            member=self.member, sheet_id=sheet.row.pk, picks=[Pick(self.machine.pk, "wheels", Action.WIPE)]
        )
        self.assertEqual(again.progress.current.key, sheet.progress.current.key)

    def test_nothing_chosen_or_an_empty_slot_is_refused(self):
        with self.assertRaises(InvalidValue):
            self.open()
        already_done(member=self.member, machine_id=self.machine.pk, slot_key="filter", action=Action.WASH)
        with self.assertRaises(Conflict) as refused:
            self.open(("filter", Action.WASH))
        self.assertEqual(refused.exception.field, "tasks")

    def test_another_household_does_not_see_it(self):
        sheet = self.open(("contacts", Action.WIPE))
        other = household("Testgate 2", "other")
        with self.assertRaises(NotFound):
            sheets.sheet_state(other, sheet.row.pk)
        with self.assertRaises(NotFound):
            opening.open_sheet(member=other, sheet_id=uuid4(), picks=[Pick(self.machine.pk, "wheels", Action.WIPE)])


class GivingUp(BenchTestCase):
    def test_is_possible_until_a_part_was_touched(self):
        sheet = self.say(self.open(("filter", Action.WASH)))
        ending.drop(member=self.member, sheet_id=sheet.row.pk)
        self.assertEqual(Sheet.objects.of(self.member.household_id).get().status, "dropped")
        with self.assertRaises(Conflict):
            self.say(sheet)

    def test_is_refused_with_a_part_out(self):
        sheet = self.open(("side-brush", Action.DE_HAIR))
        sheet = self.say(self.say(sheet))
        with self.assertRaises(Conflict) as refused:
            ending.drop(member=self.member, sheet_id=sheet.row.pk)
        self.assertIn("Step back", refused.exception.fix)


class TwoSittings(BenchTestCase):
    spares = []

    def setUp(self):
        super().setUp()
        self.first = self.work(self.open(("filter", Action.WASH)))
        self.finish(self.first)
        [(_, self.wet)] = self.state().on_rack

    def refit(self):
        return opening.open_refit(member=self.member, sheet_id=uuid4(), item_id=self.wet.id)

    def test_the_machine_is_out_of_use_between_them(self):
        self.assertEqual(self.state().machine.empty_slots, ("filter",))
        [on_rack] = round_of(self.member).rack
        self.assertTrue(on_rack.slot_empty)

    def test_the_second_waits_for_the_rest_of_the_part(self):
        with self.assertRaises(IllegalMove) as refused:
            self.refit()
        self.assertIn("ready_at", refused.exception.values)

    def test_the_second_follows_the_first_and_fits_the_dry_part(self):
        self.at(NOON + RESTED)
        sheet = self.refit()
        self.assertEqual(sheet.row.follows_id, self.first.row.pk)
        self.finish(self.work(sheet))
        self.assertEqual(self.item("filter").id, self.wet.id)
        self.assertEqual(self.state().machine.empty_slots, ())

    def test_found_damp_the_part_rests_on(self):
        self.at(NOON + RESTED)
        sheet = self.refit()
        while sheet.progress.current is not None:
            sheet = self.say(sheet, "damp" if "damp" in sheet.progress.current.answers else None)
        self.finish(sheet)
        [(_, wet)] = self.state().on_rack
        self.assertEqual(wet.damp_until, NOON + RESTED + timedelta(hours=12))


class ThePlan(BenchTestCase):
    spares = []

    def plan(self, *tasks):
        return make_plan(self.member, [Pick(self.machine.pk, slot, action) for slot, action in tasks])

    def part(self, *tasks):
        [machine] = self.plan(*tasks).machines
        return machine.parts[0]

    def no_wires_in_the_bin(self):
        mark_part(member=self.member, machine_id=self.machine.pk, slot="bin", marks={Trait.WIRES: Mark.NO})

    def test_tells_what_waits_for_a_part_that_dries_and_what_may_be_left(self):
        wash = self.part(("filter", Action.WASH))
        self.assertTrue(wash.dries.stops)
        self.assertEqual(wash.dries.ready_at, NOON + RESTED)
        self.assertFalse(wash.may_wait, "the motor is at stake")
        self.no_wires_in_the_bin()
        self.assertTrue(self.part(("bin", Action.WASH)).may_wait, "only a smell is")
        self.assertEqual(self.plan(("filter", Action.WASH), ("bin", Action.WIPE)).longest, wash.dries)

    def test_offers_the_depths_of_a_part_each_with_what_is_before_it(self):
        self.no_wires_in_the_bin()
        told = {c.depth: c.actions for c in self.part(("bin", Action.EMPTY)).choices}
        self.assertEqual(told[Depth.EMPTY], (Action.EMPTY,))
        self.assertEqual(told[Depth.CLEAN], (Action.EMPTY, Action.WIPE))
        self.assertEqual(told[Depth.WASH], (Action.EMPTY, Action.WASH), "a wash makes a wipe needless")
        self.assertEqual(self.part(("bin", Action.EMPTY), ("bin", Action.WIPE)).depth, Depth.CLEAN)
        self.assertIsNone(self.part(("side-brush", Action.REPLACE)).depth)

    def test_opens_nothing_and_asks_no_more_of_the_database_for_more_tasks(self):
        with CaptureQueriesContext(connection) as few:
            self.plan(("contacts", Action.WIPE))
        with CaptureQueriesContext(connection) as many:
            self.plan(*((slot, Action.WIPE) for slot in ("contacts", "sensors", "wheels")))
        self.assertEqual(len(many), len(few))
        self.assertEqual(Sheet.everything.count(), 0)


class TwoMachines(BenchTestCase):
    def setUp(self):
        super().setUp()
        with clock.at(NOON - 30 * DAY):
            self.upright = add_machine(
                member=self.member, machine_id=uuid4(), name="Upright", archetype="upright-belt", schedule=None
            )

    def sitting(self):
        picks = [Pick(self.machine.pk, "caster", Action.DE_HAIR), Pick(self.upright.pk, "bin", Action.EMPTY)]
        return opening.open_sheet(member=self.member, sheet_id=uuid4(), picks=picks)

    def test_are_recorded_each_and_undone_as_one(self):
        ending = self.finish(self.work(self.sitting()))
        self.assertEqual({c.machine_id for c in ending.changes}, {self.machine.pk, self.upright.pk})
        done = Entry.objects.of(self.member.household_id).filter(kind="service")
        self.assertEqual({e.subject_id for e in done}, {self.machine.pk, self.upright.pk})
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=done.first().pk)
        self.assertEqual(done.filter(voided_by=None).count(), 0)

    def test_neither_takes_another_sheet_meanwhile(self):
        self.sitting()
        with self.assertRaises(Conflict) as refused:
            self.open(("sensors", Action.WIPE))
        self.assertIn("a sheet is open at Robot, Upright", refused.exception.detail)


class HowItPulls(BenchTestCase):
    def test_is_told_before_and_after_and_stands_in_the_records(self):
        sheet = self.open(("caster", Action.DE_HAIR))
        for felt, moment in ((2, "before"), (4, "after")):
            feel_pull(member=self.member, machine_id=self.machine.pk, felt=felt, moment=moment, sheet_id=sheet.row.pk)
        pulls = sheets.sheet_state(self.member, sheet.row.pk).pulls
        self.assertEqual(pulls, {(self.machine.pk, "before"): 2, (self.machine.pk, "after"): 4})
        told = [(line.kind, line.value) for line in history(self.member, self.state())[:2]]
        self.assertEqual(told, [("reading", 4), ("reading", 2)])

    def test_is_refused_beyond_its_scale(self):
        for felt, moment, field in ((0, "before", "felt"), (6, "after", "felt"), (3, "later", "moment")):
            with self.subTest(field=field), self.assertRaises(InvalidValue) as refused:
                feel_pull(member=self.member, machine_id=self.machine.pk, felt=felt, moment=moment)
            self.assertEqual(refused.exception.field, field)


class WhatWasSeenOfAPart(BenchTestCase):
    def mark(self, slot, **marks):
        return mark_part(
            member=self.member, machine_id=self.machine.pk, slot=slot, marks={Trait(k): v for k, v in marks.items()}
        )

    def test_decides_whether_its_wash_uses_water(self):
        self.assertIn("filter.wash.rack", [s.key for s in self.open(("filter", Action.WASH)).sheet.steps])
        ending.drop(member=self.member, sheet_id=Sheet.everything.get().pk)
        self.mark("filter", marked=Mark.NO)
        self.assertEqual(wash_card(self.member, self.machine.pk, "filter", {}).card.ruling, Ruling.DRY)
        with self.assertRaises(InvalidValue):
            self.open(("filter", Action.WASH))
        sheet = self.work(self.open(("filter", Action.CLEAN)))
        self.assertNotIn("filter.wash.rack", [s.key for s in sheet.sheet.steps])
        self.finish(sheet)
        self.assertEqual((self.item("filter").name, self.item("filter").wash_count), ("Filter A", 0))
        self.assertEqual(self.due("filter", Action.CLEAN).share, 0, "recorded as what was done")

    def test_washed_at_ones_own_risk_only_by_a_choice_that_is_kept_and_can_be_undone(self):
        self.mark("filter", marked=Mark.NO)
        with self.assertRaises(InvalidValue) as refused:
            self.mark("filter", marked=Mark.NO, own_risk=Mark.YES)
        self.assertEqual(refused.exception.field, "own_risk", "the workshop has no such way")
        choose_school(member=self.member, machine_id=self.machine.pk, slot="filter", school=School.THRIFTY)
        chosen = self.mark("filter", marked=Mark.NO, own_risk=Mark.YES)
        self.assertEqual(wash_card(self.member, self.machine.pk, "filter", {}).card.because, WashReason.OWN_RISK)
        self.assertIsNotNone(self.due("filter", Action.WASH))
        for then, because in (
            ({"own_risk": Mark.YES, "closed_end": Mark.NO}, WashReason.OWN_RISK),  # another mark beside it
            ({"own_risk": Mark.NO, "marked": Mark.NO}, WashReason.NOT_MARKED),  # dry again
            ({"own_risk": Mark.YES, "marked": Mark.YES}, WashReason.MARKED),  # a mark was found after all
        ):
            later = self.mark("filter", **then)
            self.assertEqual(wash_card(self.member, self.machine.pk, "filter", {}).card.because, because)
            undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=later.pk)
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=chosen.pk)
        self.assertEqual(wash_card(self.member, self.machine.pk, "filter", {}).card.because, WashReason.NOT_MARKED)

    def test_an_allergy_ends_washing_at_ones_own_risk_and_undone_brings_it_back(self):
        choose_school(member=self.member, machine_id=self.machine.pk, slot="filter", school=School.THRIFTY)
        self.mark("filter", marked=Mark.NO, own_risk=Mark.YES)
        for allergy, because in ((False, WashReason.OWN_RISK), (True, WashReason.NOT_MARKED)):
            told = answer_household(member=self.member, profile=Profile(allergy=allergy), school=School.WORKSHOP)
            self.assertEqual(wash_card(self.member, self.machine.pk, "filter", {}).card.because, because)
        self.assertIsNotNone(self.due("filter", Action.CLEAN))
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=told.pk)
        self.assertEqual(wash_card(self.member, self.machine.pk, "filter", {}).card.because, WashReason.OWN_RISK)

    def test_told_while_the_part_dries_leaves_the_rack_as_it_was(self):
        self.finish(self.work(self.open(("filter", Action.WASH))))
        [before] = rack_page(self.member)
        self.mark("filter", marked=Mark.NO)
        [after] = rack_page(self.member)
        self.assertEqual(after.job.estimate, before.job.estimate)

    def test_is_refused_where_nobody_asks_for_it(self):
        for trait in ("metal", "hazard"):
            with self.subTest(trait), self.assertRaises(InvalidValue) as refused:
                self.mark("filter", **{trait: Mark.YES})
            self.assertEqual(refused.exception.field, trait)


class AnOlderSheet(BenchTestCase):
    """Sheets made before one sitting could be for several machines."""

    def test_of_one_machine_goes_on_after_the_change(self):
        state = self.open(("filter", Action.WASH))
        now = records.freeze(state.sheet, records.thaw(state.row).items)
        before = json.loads(json.dumps(now))
        [(kind, version)] = before["sheet"].pop("made_of").items()
        before["sheet"] |= {"archetype": kind, "book_version": version}
        for step in before["sheet"]["steps"]:
            del step["machine_id"]
            told = step.pop("only_if")
            step["instead_of"] = told[0] if told else None
        row = SimpleNamespace(machine_id=self.machine.pk, frozen=before, machines=set(), save=lambda **_: None)
        rows = SimpleNamespace(_base_manager=SimpleNamespace(all=lambda: [row]))
        change = import_module("server.bench.migrations.0004_several_machines")
        change.several(SimpleNamespace(get_model=lambda *_: rows), None)
        self.assertEqual(row.machines, {self.machine.pk})
        self.assertEqual(records.thaw(row), records.thaw(state.row))
