"""Looks, counters, kits, changes of sides and moves between machines: through the services."""

from uuid import uuid4

from care.errors import IllegalMove, InvalidValue
from care.vocabulary import Action, Found
from server.base import clock
from server.base.problems import Conflict
from server.bench.ending import drop, finish
from server.bench.opening import Pick, open_sheet
from server.bench.services import Given, answer
from server.due.state import machine_states
from server.household.services import answer as answer_household
from server.logbook.models import Entry
from server.logbook.services import undo
from server.machines.models import Fitting
from server.setup.services import add_machine
from server.work.counters import read_counter
from server.work.services import already_done, look, move_item, renew_kit
from tests.care.world import fact
from tests.server.house import DAY, NOON, HouseTestCase, Load, School, hours_of


class Looks(HouseTestCase):
    def look(self, slot, about, found, day=None):
        return look(member=self.member, machine_id=self.machine.pk, slot_key=slot, about=about, found=found, day=day)

    def test_raise_what_has_no_date_of_its_own(self):
        self.assertFalse(self.due("exhaust-foams", Action.CLEAN).is_due)
        self.look("exhaust-foams", Action.CLEAN, Found.DUE)
        self.at(NOON + DAY)
        self.assertTrue(self.due("exhaust-foams", Action.CLEAN).is_due)

    def test_count_as_the_look_that_was_due(self):
        self.ran(minutes=1400, days_ago=1)
        self.assertTrue(self.due("caster", Action.INSPECT).is_due)
        self.look("caster", Action.DE_HAIR, Found.CLEAN)
        self.assertFalse(self.due("caster", Action.INSPECT).is_due)

    def test_move_the_date_and_undo_moves_it_back(self):
        self.ran(minutes=120, days_ago=1)
        before = self.due("filter", Action.WASH).due
        entry = self.look("filter", Action.WASH, Found.OVERDUE)
        self.assertLess(self.due("filter", Action.WASH).due.p50, before.p50)
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=entry.pk)
        self.assertEqual(self.due("filter", Action.WASH).due, before)

    def test_that_contradict_each_other_on_one_day_are_refused(self):
        self.look("filter", Action.WASH, Found.CLEAN)
        entries = Entry.objects.of(self.member.household_id).count()
        with self.assertRaises(Conflict) as refused:
            self.look("filter", Action.WASH, Found.OVERDUE)
        self.assertEqual(refused.exception.field, "found")
        self.assertEqual(Entry.objects.of(self.member.household_id).count(), entries)
        self.assertIn("no dirt comes off", refused.exception.detail)
        self.look("filter", Action.WASH, Found.LIGHT)

    def test_do_not_contradict_across_a_cleaning(self):
        done = {"slot_key": "wheels", "action": Action.WIPE, "found": Found.OVERDUE}
        already_done(member=self.member, machine_id=self.machine.pk, **done)
        self.at(NOON + DAY / 12)
        self.look("wheels", Action.WIPE, Found.CLEAN)


class Counters(HouseTestCase):
    def read(self, slot, value, unit="percent", sense="left", trusted=None):
        of = {"member": self.member, "machine_id": self.machine.pk, "slot_key": slot}
        return read_counter(**of, value=value, unit=unit, sense=sense, trusted=trusted)

    def test_far_from_ours_is_asked_about_and_the_choice_stands(self):
        with self.assertRaises(Conflict) as refused:
            self.read("side-brush", 40)
        self.assertEqual((refused.exception.field, refused.exception.values["counter_h"]), ("trusted", 120))
        self.read("side-brush", 40, trusted=False)
        self.assertEqual(hours_of(self.due("side-brush", Action.REPLACE)), 0)
        self.at(NOON + DAY)
        self.read("side-brush", 40, trusted=True)
        self.assertEqual(hours_of(self.due("side-brush", Action.REPLACE)), 120)

    def test_of_an_earlier_day_is_held_against_what_was_counted_then(self):
        for days_ago in range(4):
            self.ran(minutes=300, days_ago=days_ago)
        on = {"member": self.member, "machine_id": self.machine.pk, "slot_key": "side-brush"}
        on["day"] = NOON.date() - 2 * DAY
        with self.assertRaises(Conflict) as refused:
            read_counter(**on, value=40, unit="percent", sense="left")
        self.assertEqual(refused.exception.values["counter_h"], 120)
        self.assertLess(refused.exception.values["ours_h"], 20, "what ran since then counts for no part of it")

    def test_beyond_reason_is_refused(self):
        with self.assertRaises(InvalidValue) as refused:
            self.read("side-brush", 50_000, unit="hours", sense="used")
        self.assertEqual(refused.exception.field, "value")

    def test_rebase_the_life_of_a_part(self):
        self.read("side-brush", 64, trusted=True)
        self.assertEqual(hours_of(self.due("side-brush", Action.REPLACE)), 72)

    def test_move_the_clock_of_a_service_in_hours_until_it_is_done(self):
        self.read("sensors", 10, trusted=True)
        hours = {c.meter: c.used for c in self.due("sensors", Action.WIPE).clocks}
        self.assertEqual(hours["run_hours"], 27)
        self.at(NOON + DAY)
        already_done(member=self.member, machine_id=self.machine.pk, slot_key="sensors", action=Action.WIPE)
        hours = {c.meter: c.used for c in self.due("sensors", Action.WIPE).clocks}
        self.assertEqual(hours["run_hours"], 0)

    def test_of_parts_that_no_machine_counts_are_refused(self):
        for slot, value, field in (("caster", 50, "slot"), ("side-brush", 120, "value"), ("sensors", -1, "value")):
            with self.subTest(slot), self.assertRaises(InvalidValue) as refused:
                self.read(slot, value)
            self.assertEqual(refused.exception.field, field)


class Kits(HouseTestCase):
    def test_renew_several_parts_and_are_undone_as_one(self):
        self.ran(minutes=600)
        slots = ["bristle-roller", "rubber-roller", "side-brush", "filter"]
        old = [self.item(slot).id for slot in slots]
        entry = renew_kit(member=self.member, machine_id=self.machine.pk, kit="brushes")
        self.assertFalse(set(old) & {self.item(slot).id for slot in slots})
        self.assertEqual([self.due(slot, Action.REPLACE).clocks[0].used for slot in slots], [0, 0, 0, 0])
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=entry.pk)
        self.assertEqual(old, [self.item(slot).id for slot in slots])

    def test_that_a_kind_does_not_have_is_refused(self):
        with self.assertRaises(InvalidValue) as refused:
            renew_kit(member=self.member, machine_id=self.machine.pk, kit="wings")
        self.assertEqual(refused.exception.field, "kit")


class TwoSideBrushes(HouseTestCase):
    def setUp(self):
        super().setUp()
        with clock.at(NOON - 20 * DAY):
            answer_household(member=self.member, load=Load(), school=School.WORKSHOP)
            self.machine = self.add("Twin")

    def add(self, name):
        return add_machine(member=self.member, machine_id=uuid4(), name=name, archetype="robot-belt", schedule=None)

    def sides(self):
        return [self.item(slot).name for slot in ("side-left", "side-right")]

    def test_change_places_and_keep_their_own_history(self):
        self.ran(minutes=60, days_ago=3)
        before = self.sides()
        already_done(member=self.member, machine_id=self.machine.pk, slot_key="side-left", action=Action.SWAP)
        self.assertEqual(self.sides(), before[::-1])
        self.at(NOON + DAY)
        self.assertEqual(fact(self.due("side-left", Action.REPLACE), "used").run_hours, 1)
        self.assertEqual(self.due("side-left", Action.SWAP).clocks[0].used, 0)

    def test_what_was_found_on_one_side_teaches_nothing_of_the_other(self):
        self.ran(minutes=60, days_ago=3)
        for _ in range(3):
            self.find("side-left", Found.OVERDUE)
        learned = fact(self.due("side-left", Action.DE_HAIR), "learned").factor
        already_done(member=self.member, machine_id=self.machine.pk, slot_key="side-left", action=Action.SWAP)
        self.at(NOON + DAY)
        self.assertIsNone(fact(self.due("side-right", Action.DE_HAIR), "learned"))
        self.assertEqual(fact(self.due("side-left", Action.DE_HAIR), "learned").factor, learned)

    def find(self, slot, found):
        look(member=self.member, machine_id=self.machine.pk, slot_key=slot, about=Action.DE_HAIR, found=found)

    def test_change_places_on_a_sheet(self):
        before = self.sides()
        state = open_sheet(
            member=self.member, sheet_id=uuid4(), picks=[Pick(self.machine.pk, "side-left", Action.SWAP)]
        )
        while state.progress.current is not None:
            step = state.progress.current
            value = "done" if "done" in step.answers else "pass"
            state = answer(member=self.member, sheet_id=state.row.pk, given=Given(uuid4(), step.key, value))
        finish(member=self.member, sheet_id=state.row.pk)
        self.assertEqual(self.sides(), before[::-1])

    def test_a_part_moves_to_an_empty_place_of_another_machine_with_its_hours(self):
        self.ran(minutes=60, days_ago=3)
        other, brush = self.add("Other"), self.item("side-left")

        def go(slot="side-left"):
            return move_item(member=self.member, item_id=brush.id, machine_id=other.pk, slot_key=slot)

        with self.assertRaises(IllegalMove):
            go()
        with self.assertRaises(InvalidValue) as refused:
            go("brush")
        self.assertEqual(refused.exception.field, "slot")
        there = machine_states(self.member, other.pk)[0].machine.fitted["side-left"]
        Fitting.objects.of(self.member.household_id).filter(item=there).delete()
        entry = go()
        [state] = machine_states(self.member, other.pk)
        life = next(s for s in state.due if (s.slot, s.action) == ("side-left", Action.REPLACE))
        self.assertEqual((state.machine.fitted["side-left"], hours_of(life)), (brush.id, 1))
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=entry.pk)
        self.assertEqual(self.item("side-left").id, brush.id)

    def test_not_while_a_sheet_is_open(self):
        other = self.add("Other")
        sheet = uuid4()
        open_sheet(member=self.member, sheet_id=sheet, picks=[Pick(other.pk, "wheels", Action.WIPE)])
        brush = self.item("side-left")
        with self.assertRaises(Conflict) as refused:
            move_item(member=self.member, item_id=brush.id, machine_id=other.pk, slot_key="side-left")
        self.assertIn("Finish or give up", refused.exception.fix)
        drop(member=self.member, sheet_id=sheet)
