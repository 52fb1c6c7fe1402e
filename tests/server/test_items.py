"""Tasks done without a sheet, the rack, and derived state that equals the replay."""

from datetime import date, timedelta

from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase as HypothesisTestCase

from care import items as core_items
from care import moves as core_moves
from care.errors import CareError, IllegalMove, InvalidValue
from care.items import State
from care.model import Level
from care.vocabulary import Action, Found, Meter
from server.base import clock
from server.base.problems import Conflict
from server.drying.services import Hanging, check_dry, hang, weigh
from server.logbook.models import Entry
from server.logbook.scoping import OfHousehold, UnscopedQueryError
from server.logbook.services import standing, undo
from server.machines import records
from server.machines.models import Fitting, Item, Move
from server.setup.services import Spare
from server.work.services import already_done, fit_item
from tests.care.world import fact
from tests.effort import examples
from tests.server.house import DAY, NOON, RESTED, HouseTestCase, hours_of, move_in


class AlreadyDone(HouseTestCase):
    def done(self, slot, action, **more):
        return already_done(member=self.member, machine_id=self.machine.pk, slot_key=slot, action=action, **more)

    def test_last_tuesday_counts_from_that_day(self):
        self.ran()
        self.done("rubber-roller", Action.DE_HAIR, day=(NOON - 8 * DAY).date(), found=Found.DUE)
        state = self.due("rubber-roller", Action.DE_HAIR)
        self.assertEqual(fact(state, "since_service").day, date(2026, 2, 24))
        self.assertEqual((state.clocks[0].meter, state.clocks[0].used), (Meter.RUNS, 1.0))
        self.assertEqual(self.item("rubber-roller").cleanings, 1)

    def test_a_wash_of_last_week_is_dry_and_back(self):
        self.done("filter", Action.WASH, day=(NOON - 7 * DAY).date())
        item = self.item("filter")
        self.assertEqual((item.state, item.wash_count, item.damp_until), (State.FITTED, 1, None))

    def test_a_wash_of_today_is_on_the_rack_and_the_machine_out_of_use(self):
        self.done("filter", Action.WASH)
        self.assertEqual(self.state().machine.empty_slots, ("filter",))
        [(slot, item)] = self.state().on_rack
        self.assertEqual((slot, item.damp_until), ("filter", NOON + RESTED))
        with self.assertRaises(Conflict):
            self.done("filter", Action.WASH)

    def test_cleaning_adds_a_wash_and_leaves_the_life_clock(self):
        for n in range(4):
            self.ran(minutes=60, days_ago=n)
        before = hours_of(self.due("filter", Action.REPLACE))
        self.done("filter", Action.WASH, day=(NOON - 20 * DAY).date())
        after = self.due("filter", Action.REPLACE)
        self.assertEqual((before, hours_of(after)), (4, 4))
        self.assertEqual(self.item("filter").wash_count, 1)

    def test_a_replacement_starts_both_clocks_anew(self):
        self.ran()
        old = self.item("side-brush").id
        self.at(NOON + timedelta(minutes=1))
        self.done("side-brush", Action.REPLACE)
        self.assertNotEqual(self.item("side-brush").id, old)
        used = [self.due("side-brush", action).clocks[0].used for action in (Action.DE_HAIR, Action.REPLACE)]
        self.assertEqual(used, [0, 0])

    def test_undo_takes_service_finding_and_moves_back_together(self):
        entry = self.done("filter", Action.WASH, found=Found.OVERDUE)
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=entry.pk)
        self.assertEqual(self.item("filter").wash_count, 0)
        self.assertEqual(self.state().machine.empty_slots, ())
        found = Entry.objects.of(self.member.household_id).filter(kind="inspection", voided_by=None)
        self.assertFalse(found.exists())

    def test_what_later_records_build_on_is_not_undone(self):
        entry = self.done("filter", Action.WASH)
        self.at(NOON + 2 * DAY)
        check_dry(member=self.member, item_id=self.state().on_rack[0][1].id, dry=True)
        with self.assertRaises(Conflict) as refused:
            undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=entry.pk)
        self.assertEqual(refused.exception.detail, "Filter: the check for damp of 6 March 2026 needs it.")
        self.assertIsNone(self.item("filter"), "nothing was half undone")

    def test_wrong_days_parts_and_actions_are_refused_by_field(self):
        cases = {
            "day": {"slot": "bin", "action": Action.EMPTY, "day": (NOON + DAY).date()},
            "slot": {"slot": "wing", "action": Action.EMPTY},
            "action": {"slot": "bin", "action": Action.SWAP},
        }
        for field, case in cases.items():
            with self.subTest(field), self.assertRaises(InvalidValue) as refused:
                self.done(**case)
            self.assertEqual(refused.exception.field, field)

    def test_a_day_before_the_part_s_last_move_or_before_the_machine_is_refused(self):
        self.done("bin", Action.EMPTY)
        with self.assertRaises(IllegalMove):
            self.done("bin", Action.REPLACE, day=(NOON - 30 * DAY).date())
        with self.assertRaises(InvalidValue):
            self.done("bin", Action.EMPTY, day=(NOON - 60 * DAY).date())


class TheRack(HouseTestCase):
    spares = [Spare("filter", "Filter B")]

    def setUp(self):
        super().setUp()
        already_done(member=self.member, machine_id=self.machine.pk, slot_key="filter", action=Action.WASH)
        self.wet = self.spare("Filter A")

    def test_is_locked_until_the_rest_is_over(self):
        self.at(NOON + RESTED - timedelta(minutes=1))
        with self.assertRaises(IllegalMove):
            check_dry(member=self.member, item_id=self.wet.id, dry=True)
        self.at(NOON + RESTED)
        check_dry(member=self.member, item_id=self.wet.id, dry=True)
        self.assertEqual(self.spare("Filter A").state, State.READY)

    def test_a_dry_spare_goes_in_meanwhile(self):
        fit_item(member=self.member, item_id=self.spare("Filter B").id)
        self.assertEqual(self.item("filter").name, "Filter B")
        self.assertEqual(self.due("filter", Action.WASH).level, Level.FRESH)

    def test_a_wet_one_goes_in_only_with_a_reason_that_stays_on_record(self):
        with self.assertRaises(IllegalMove):
            fit_item(member=self.member, item_id=self.wet.id)
        fit_item(member=self.member, item_id=self.wet.id, early_reason="guests at noon")
        self.assertEqual(self.item("filter").refitted_early, core_items.Override("Ash", "guests at noon"))
        row = Fitting.objects.of(self.member.household_id).get(item_id=self.wet.id, end=None)
        self.assertEqual(row.early_reason, "guests at noon")

    def test_no_second_part_goes_into_a_full_slot(self):
        fit_item(member=self.member, item_id=self.spare("Filter B").id)
        with self.assertRaises(IllegalMove) as refused:
            fit_item(member=self.member, item_id=self.wet.id, early_reason="why not")
        self.assertEqual(refused.exception.field, "slot")


DOINGS = ["wash", "fit", "dry", "damp", "hang", "weigh", "undo", "replace"]


class Derived(HypothesisTestCase):
    """Whatever people do, what is stored of items and fittings is what a replay of their moves gives."""

    @examples(12)
    @given(
        st.lists(
            st.tuples(
                st.sampled_from(["wash", "fit", "dry", "damp", "hang", "weigh", "undo", "replace"]), st.integers(1, 40)
            ),
            max_size=8,
        )
    )
    def test_equals_the_replay(self, doings):
        house = HouseTestCase()
        house.spares = [Spare("filter", "Filter B")]
        move_in(house)
        house.setUp()
        self.addCleanup(house.doCleanups)
        now, last = NOON, []
        for what, hours in doings:
            now += timedelta(hours=hours)
            with clock.at(now):
                try:
                    entry = self.do(house, what, last)
                except CareError:
                    continue
            last = [entry] if entry else []
        self.check(house)
        house.doCleanups()

    def do(self, house, what, last):
        member, machine_id = house.member, house.machine.pk
        if what in ("wash", "replace"):
            return already_done(member=member, machine_id=machine_id, slot_key="filter", action=Action(what))
        if what == "undo":
            for entry in last:
                undo(household_id=member.household_id, by_id=member.pk, entry_id=entry.pk)
            return None
        item = Item.objects.of(member.household_id).filter(home_slot="filter", machine=None).first()
        if item is not None and what == "hang":
            return hang(member=member, item_id=item.pk, hanging=Hanging(moving=True))
        if item is not None and what == "weigh":
            return weigh(member=member, item_id=item.pk, value=40)
        if item is None:
            return None
        if what == "fit":
            return fit_item(member=member, item_id=item.pk, early_reason="hurry")
        return check_dry(member=member, item_id=item.pk, dry=what == "dry")

    def check(self, house):
        household_id = house.member.household_id
        stored = {records.to_fitting(row) for row in Fitting.objects.of(household_id)}
        replayed = set()
        for row in Item.objects.of(household_id):
            moves = [records.to_move(m) for m in standing(Move.objects.of(household_id).filter(item=row))]
            item, fittings = core_moves.replay(records.new_item(row), moves)
            self.assertEqual(records.to_item(row), item)
            replayed |= set(fittings)
        self.assertEqual(stored, replayed)


class Scoping(HouseTestCase):
    def test_no_row_of_a_household_is_reached_without_saying_whose(self):
        def models(base):
            for model in base.__subclasses__():
                yield model
                yield from models(model)

        concrete = [model for model in models(OfHousehold) if not model._meta.abstract]
        self.assertGreater(len(concrete), 8)
        for model in concrete:
            with self.subTest(model.__name__), self.assertRaises(UnscopedQueryError):
                model.objects.all()
