"""Sheets on the server: they wait, they write only when the sitting ends, and two people cannot finish one twice."""

from datetime import timedelta
from uuid import uuid4

from care.errors import IllegalMove, InvalidValue
from care.items import State
from care.kinds import Action
from care.model import Level
from server.bench import services
from server.bench.models import Sheet
from server.bench.services import Pick
from server.config.problems import Conflict, NotFound
from server.logbook.models import Entry
from server.logbook.services import undo
from server.machines.setup import Spare
from server.machines.work import already_done
from server.round.board import round_of
from tests.server.house import NOON, RESTED, HouseTestCase, household


class BenchTestCase(HouseTestCase):
    spares = [Spare("filter", "Filter B")]

    def open(self, *picks):
        chosen = [Pick(slot, action) for slot, action in picks]
        return services.open_sheet(member=self.member, sheet_id=uuid4(), machine_id=self.machine.pk, picks=chosen)

    def say(self, sheet, value=None, reason="", event_id=None):
        step = sheet.progress.current
        value = value or next(v for v in ("done", "pass", "dry", "due") if v in step.answers)
        return services.answer(
            member=self.member,
            sheet_id=sheet.row.pk,
            event_id=event_id or uuid4(),
            step=step.key,
            value=value,
            reason=reason,
        )

    def work(self, sheet):
        while sheet.progress.current is not None:
            sheet = self.say(sheet)
        return sheet

    def finish(self, sheet):
        return services.finish(member=self.member, sheet_id=sheet.row.pk)

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
        again = services.sheet_state(self.member, sheet.row.pk)
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

    def test_that_clashes_with_what_was_recorded_meanwhile_writes_nothing(self):
        sheet = self.work(self.open(("filter", Action.WASH)))
        self.at(NOON + timedelta(minutes=5))
        already_done(member=self.member, machine_id=self.machine.pk, slot_key="filter", action=Action.WASH)
        with self.assertRaises(Conflict) as refused:
            self.finish(sheet)
        self.assertIn("Something changed", refused.exception.detail)
        self.assertEqual(self.records(), 0)
        services.drop(member=self.member, sheet_id=sheet.row.pk)
        self.assertIsNotNone(self.open(("contacts", Action.WIPE)), "it is no dead end")

    def test_replaces_a_part_with_a_new_one(self):
        old = self.item("side-brush").id
        self.finish(self.work(self.open(("side-brush", Action.REPLACE))))
        self.assertNotEqual(self.item("side-brush").id, old)
        self.assertEqual(self.due("side-brush", Action.REPLACE).clocks[0].used, 0)


class Opening(BenchTestCase):
    def test_one_sheet_a_machine_at_a_time(self):
        self.open(("contacts", Action.WIPE))
        with self.assertRaises(Conflict) as refused:
            self.open(("wheels", Action.WIPE))
        self.assertEqual(refused.exception.field, "machine_id")

    def test_the_same_id_again_is_the_same_sheet(self):
        sheet = self.say(self.open(("contacts", Action.WIPE)))
        again = services.open_sheet(
            member=self.member, sheet_id=sheet.row.pk, machine_id=self.machine.pk, picks=[Pick("wheels", Action.WIPE)]
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
            services.sheet_state(other, sheet.row.pk)
        with self.assertRaises(NotFound):
            services.open_sheet(member=other, sheet_id=uuid4(), machine_id=self.machine.pk, picks=[])


class GivingUp(BenchTestCase):
    def test_is_possible_until_a_part_was_touched(self):
        sheet = self.say(self.open(("filter", Action.WASH)))
        services.drop(member=self.member, sheet_id=sheet.row.pk)
        self.assertEqual(Sheet.objects.of(self.member.household_id).get().status, "dropped")
        with self.assertRaises(Conflict):
            self.say(sheet)

    def test_is_refused_with_a_part_out(self):
        sheet = self.open(("side-brush", Action.DE_HAIR))
        sheet = self.say(self.say(sheet))
        with self.assertRaises(Conflict) as refused:
            services.drop(member=self.member, sheet_id=sheet.row.pk)
        self.assertIn("Step back", refused.exception.fix)


class TwoSittings(BenchTestCase):
    spares = []

    def setUp(self):
        super().setUp()
        self.first = self.work(self.open(("filter", Action.WASH)))
        self.finish(self.first)
        [(_, self.wet)] = self.state().on_rack

    def refit(self):
        return services.open_refit(member=self.member, sheet_id=uuid4(), item_id=self.wet.id)

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
