"""What is changed on a machine, what becomes of it, and that every change can be taken back."""

from uuid import uuid4

from care.bench import StepKind
from care.due.schedule import weekly
from care.errors import IllegalMove, InvalidValue
from care.overrides import PlacedAt
from care.vocabulary import Action, Found, Meter, School, Silence
from care.washability import Mark, Trait
from server.base import clock
from server.base.problems import Conflict
from server.bench.ending import drop, finish
from server.bench.opening import Pick, add_extra, extras_of, open_sheet
from server.bench.services import Given, answer
from server.due.state import machine_states
from server.due.stored import board_rows
from server.logbook.services import undo
from server.machines import records
from server.machines.models import Fitting, Item, Machine, Move, Service
from server.setup import overrides, parts, rounds, status
from server.setup.bookparts import catch_up, tell_feature
from server.setup.services import New, Spare, set_up
from tests.server.house import DAY, NOON, HouseTestCase

SLOT = {"slot": "filter"}


class OwnTestCase(HouseTestCase):
    spares = [Spare("filter", "Filter B")]

    def setUp(self):
        super().setUp()
        self.on = {"member": self.member, "machine_id": self.machine.pk}

    def row(self, pk=None):
        return Machine.objects.of(self.member.household_id).get(pk=pk or self.machine.pk)

    def take_back(self, entry):
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=entry.pk)

    def slots(self):
        return [slot.key for slot in records.archetype_of(self.row()).slots]


class Settings(OwnTestCase):
    def test_stand_until_they_are_undone_and_each_by_itself(self):
        first = overrides.rename_part(**self.on, **SLOT, name="Big filter")
        overrides.place_part(**self.on, slot="caster", place=PlacedAt("bay", 3, 3))
        self.take_back(first)
        kind = records.archetype_of(self.row())
        self.assertEqual((kind.slot("filter").name, kind.slot("caster").station), ("Filter", "bay"))
        overrides.place_part(**self.on, slot="caster", place=None)
        self.assertEqual(self.row().own, {"marks/filter": {"marked": "yes"}}, "what was told when it was set up")

    def test_of_wires_told_at_set_up_decide_about_water(self):
        for wires, wet in ((Mark.NO, True), (Mark.YES, False), (Mark.UNKNOWN, False)):
            new = New(uuid4(), f"Upright {wires}", "upright-twin-roller", wires={"cup": wires})
            [row] = set_up(member=self.member, machines=[new])
            with self.subTest(wires):
                cup = records.archetype_of(row).slot("cup")
                self.assertEqual(cup.asks_first, (Trait.WIRES,))
                self.assertEqual(Action.WASH in {rule.action for rule in cup.rules}, wet)
        with self.assertRaises(InvalidValue) as refused:
            set_up(member=self.member, machines=[New(uuid4(), "Another", "robot-belt", wires={"filter": Mark.NO})])
        self.assertEqual(refused.exception.field, "wires")

    def test_of_names_are_one_of_a_kind(self):
        overrides.rename_machine(**self.on, name="  Ground floor ")
        self.assertEqual(self.row().name, "Ground floor")
        [other] = set_up(member=self.member, machines=[New(uuid4(), "Attic", "robot-belt")])
        with self.assertRaises(Conflict) as refused:
            overrides.rename_machine(member=self.member, machine_id=other.pk, name="ground FLOOR")
        self.assertEqual(refused.exception.field, "name")

    def test_of_an_own_figure_move_the_date_and_the_board_and_go_back(self):
        self.ran(days_ago=1)
        before, board = self.due("filter", Action.WASH), board_rows(self.member)
        entry = overrides.own_figure(**self.on, **SLOT, action=Action.WASH, meter=Meter.DAYS, figure=3, why="soot")
        after = self.due("filter", Action.WASH)
        self.assertLess(after.due_on, before.due_on)
        self.assertNotEqual([s.strip for s in board_rows(self.member)], [s.strip for s in board])
        self.take_back(entry)
        self.assertEqual(self.due("filter", Action.WASH), before)

    def test_of_doing_without_take_the_task_off_the_list(self):
        overrides.own_figure(**self.on, slot="caster", action=Action.INSPECT, off=True, why="seen at each clean")
        self.assertNotIn(("caster", Action.INSPECT), [(d.slot, d.action) for d in self.state().due])
        with self.assertRaises(InvalidValue):
            overrides.own_figure(**self.on, slot="caster", action=Action.DE_HAIR, off=True, why=" ")

    def test_of_a_school_hold_for_one_part_only(self):
        overrides.choose_school(**self.on, slot="side-brush", school=School.THRIFTY)
        by_looks = self.due("side-brush", Action.REPLACE)
        self.assertEqual(by_looks.clocks[0].meter, Meter.CONDITION)
        self.assertNotEqual(self.due("filter", Action.REPLACE).clocks[0].meter, Meter.CONDITION)


class Parts(OwnTestCase):
    def test_of_one_s_own_are_assessed_from_the_day_they_are_added(self):
        parts.add_part(**self.on, name="Felt ring", station="filter", action=Action.CLEAN, figure=10, is_new=False)
        slot = self.slots()[-1]
        self.assertTrue(self.due(slot, Action.CLEAN).unsure)
        parts.add_part(**self.on, name="Extra foam", station="filter", use="foam-pad")
        self.assertFalse(self.due(self.slots()[-1], Action.WASH).unsure)
        for field, values in {
            "station": {"name": "Foam 2", "station": "attic", "use": "foam-pad"},
            "name": {"name": "felt RING", "station": "filter", "use": "foam-pad"},
            "figure": {"name": "Foam 3", "station": "filter", "action": Action.CLEAN},
            "use": {"name": "Foam 4", "station": "filter", "use": "wing"},
        }.items():
            with self.subTest(field), self.assertRaises(InvalidValue) as refused:
                parts.add_part(**self.on, **values)
            self.assertEqual(refused.exception.field, field)

    def test_that_are_not_there_leave_the_lists_and_come_back(self):
        gone = parts.remove_part(**self.on, slot="caster")
        self.assertNotIn("caster", self.slots())
        self.assertEqual(Item.objects.of(self.member.household_id).get(home_slot="caster").state, "retired")
        self.take_back(gone)
        self.assertIn("caster", self.slots())
        self.assertEqual(self.item("caster").state, "fitted")
        parts.remove_part(**self.on, slot="caster")
        parts.bring_back_part(**self.on, slot="caster")
        self.assertTrue(self.due("caster", Action.REPLACE).unsure)

    def test_are_not_taken_off_under_an_open_sheet(self):
        open_sheet(member=self.member, sheet_id=uuid4(), picks=[Pick(self.machine.pk, "sensors", Action.WIPE)])
        with self.assertRaises(Conflict):
            parts.remove_part(**self.on, slot="caster")
        with self.assertRaises(Conflict):
            status.set_status(**self.on, status="archived")

    def test_that_are_spare_may_be_meant_for_another_machine_or_thrown_away(self):
        [other] = set_up(member=self.member, machines=[New(uuid4(), "Second", "robot-two-roller")])
        spare = self.spare("Filter B")
        entry = parts.assign_spare(member=self.member, item_id=spare.id, machine_id=other.pk, slot="filter")
        row = Item.objects.of(self.member.household_id).get(pk=spare.id)
        self.assertEqual((row.home_machine_id, row.state), (other.pk, "ready"))
        self.take_back(entry)
        self.assertEqual(self.spare("Filter B").state, "ready")
        with self.assertRaises(InvalidValue):
            parts.assign_spare(member=self.member, item_id=spare.id, machine_id=other.pk, slot="caster")
        parts.retire_item(member=self.member, item_id=spare.id, reason="torn")
        with self.assertRaises(IllegalMove):
            parts.retire_item(member=self.member, item_id=self.item("filter").id, reason="in the machine")

    def test_a_further_spare_lies_ready(self):
        parts.add_spare(**self.on, slot="filter", name="Filter C")
        self.assertEqual(self.spare("Filter C").state, "ready")
        with self.assertRaises(InvalidValue):
            parts.add_spare(**self.on, slot="wheels", name="Wheels B")


class NotInUse(OwnTestCase):
    def test_a_machine_leaves_the_board_rests_and_comes_back_with_its_history(self):
        self.ran(days_ago=2)
        week = weekly(["MO", "TU", "WE", "TH", "FR"], 50, None, silence=Silence.RAN)
        from server.use.services import set_schedule

        set_schedule(**self.on, schedule=week)
        entry = status.set_status(**self.on, status="lent")
        self.assertEqual(
            (board_rows(self.member), [m.name for m in overrides.not_in_use(self.member)]), ([], ["Robot"])
        )
        with clock.at(NOON + 20 * DAY):
            status.set_status(**self.on, status="in_use")
        with clock.at(NOON + 21 * DAY):
            [state] = machine_states(self.member)
            self.assertEqual(len([r for r in state.runs if r.day > NOON.date()]), 1, "only the day it was back")
        with self.assertRaises(Conflict):
            status.set_status(**self.on, status="in_use")
        self.assertTrue(entry.pk)

    def test_a_dock_goes_and_comes_with_its_robot_and_serves_the_one_that_stands_in(self):
        [dock] = set_up(member=self.member, machines=[New(uuid4(), "Dock", "dock-bag", serves=self.machine.pk)])
        away = status.set_status(**self.on, status="lent")
        self.assertEqual((self.row().status, self.row(dock.pk).status), ("lent", "lent"))
        self.take_back(away)
        self.assertEqual((self.row().status, self.row(dock.pk).status), ("in_use", "in_use"))
        new = New(uuid4(), "Second", "robot-belt")
        status.replace_machine(member=self.member, old_id=self.machine.pk, machines=[new], keep=[], same_name=False)
        self.assertEqual((self.row(dock.pk).status, self.row(dock.pk).serves_id), ("in_use", new.id))

    def test_undo_brings_it_back_as_if_nothing_had_been(self):
        before = self.state().due
        self.take_back(status.set_status(**self.on, status="archived"))
        self.assertEqual((self.row().status, self.state().due), ("in_use", before))

    def test_what_is_sold_takes_its_spares_but_those_that_stay(self):
        parts.add_spare(**self.on, slot="filter", name="Filter C")
        status.set_status(**self.on, status="sold", keep=[self.spare("Filter C").id])
        states = dict(Item.objects.of(self.member.household_id).filter(home_slot="filter").values_list("name", "state"))
        self.assertEqual(states, {"Filter A": "fitted", "Filter B": "retired", "Filter C": "ready"})

    def test_another_stands_in_under_its_name_with_its_spares_and_the_old_history_stays(self):
        self.ran(days_ago=2)
        spare = self.spare("Filter B").id
        new = New(uuid4(), "ignored", "robot-two-roller", weekly(["MO"], 50, None))
        status.replace_machine(member=self.member, old_id=self.machine.pk, machines=[new], keep=[spare], same_name=True)
        self.assertEqual((self.row(new.id).name, self.row(new.id).replaces_id), ("Robot", self.machine.pk))
        self.assertEqual((self.row().name, self.row().status), ("Robot, until Mar 2026", "replaced"))
        self.assertEqual(Item.objects.of(self.member.household_id).get(pk=spare).home_machine_id, new.id)
        self.assertEqual(len(self.state().runs), 1)
        self.assertEqual([s.machine.name for s in machine_states(self.member)], ["Robot"])


class InOneGo(OwnTestCase):
    """A round that is taken up makes its tasks due together; undone as one; figures of one's own stay."""

    def figures(self, machine_id=None):
        return {
            (slot.key, rule.action): rule.own.trigger.high
            for slot in records.archetype_of(self.row(machine_id)).slots
            for rule in slot.rules
            if rule.own
        }

    def test_is_taken_up_left_again_and_undone_as_one(self):
        overrides.own_figure(**self.on, slot="caster", action=Action.DE_HAIR, meter=Meter.DAYS, figure=2, why="it jams")
        taken = rounds.keep_round(**self.on, key="robot-week", days=7)
        figures = self.figures()
        self.assertEqual(figures["bristle-roller", Action.DE_HAIR], 7)
        self.assertEqual(figures["caster", Action.DE_HAIR], 2, "a figure with a reason of its own stays")
        week = next(o for o in rounds.in_one_go(self.member.household_id, self.row()) if o.key == "robot-week")
        self.assertEqual(week.days, 7)
        self.take_back(taken)
        self.assertEqual(self.figures(), {("caster", Action.DE_HAIR): 2})
        rounds.keep_round(**self.on, key="robot-week", days=9)
        rounds.keep_round(**self.on, key="robot-week", days=None)
        self.assertEqual(self.figures(), {("caster", Action.DE_HAIR): 2})

    def test_takes_in_the_dock_and_refuses_what_there_is_not(self):
        [dock] = set_up(member=self.member, machines=[New(uuid4(), "Dock", "dock-bag", serves=self.machine.pk)])
        rounds.keep_round(**self.on, key="eyes", days=20)
        self.assertEqual(self.figures(dock.pk), {("contacts", Action.WIPE): 20})
        for told in ({"key": "month", "days": 30}, {"key": "smell", "days": 30}, {"key": "eyes", "days": 0}):
            with self.subTest(told), self.assertRaises(InvalidValue):
                rounds.keep_round(**self.on, **told)

    def test_of_a_kit_is_an_interval_for_all_its_parts(self):
        rounds.keep_round(**self.on, key="kit-brushes", days=200)
        self.assertEqual(set(self.figures().values()), {200})
        self.assertEqual({action for _, action in self.figures()}, {Action.REPLACE})


class AtEachSitting(OwnTestCase):
    """A habit, or a thorough machine, brings what is extra onto each sheet that lays it open."""

    def tasks(self):
        picks = [Pick(self.machine.pk, "bristle-roller", Action.DE_HAIR)]
        state = open_sheet(member=self.member, sheet_id=uuid4(), picks=picks)
        drop(member=self.member, sheet_id=state.row.pk)
        return {(step.slot, step.action) for step in state.sheet.steps}

    def test_what_is_extra_is_done_where_it_is_a_habit(self):
        self.assertNotIn(("guard", Action.CLEAN), self.tasks())
        kept = rounds.keep_habit(**self.on, slot="guard", action=Action.CLEAN, kept=True)
        self.assertIn(("guard", Action.CLEAN), self.tasks())
        self.take_back(kept)
        rounds.keep_level(**self.on, level="thorough")
        self.assertIn(("guard", Action.CLEAN), self.tasks())
        self.assertNotIn(("bumper", Action.REPLACE), self.tasks(), "a new strip is no cleaning")
        with self.assertRaises(InvalidValue):
            rounds.keep_habit(**self.on, slot="guard", action=Action.WIPE, kept=True)

    def test_it_is_offered_and_added_while_it_lies_open(self):
        sheet_id, at = uuid4(), {"member": self.member}
        picks = [Pick(self.machine.pk, "bristle-roller", Action.DE_HAIR)]
        state = open_sheet(**at, sheet_id=sheet_id, picks=picks)
        self.assertEqual([slot.key for _, slot, _ in extras_of(self.member, state)], [], "nothing is open yet")
        for value in ("done", "done"):
            state = answer(**at, sheet_id=sheet_id, given=Given(uuid4(), state.progress.current.key, value))
        self.assertEqual([slot.key for _, slot, _ in extras_of(self.member, state)], ["guard"])
        state = add_extra(**at, sheet_id=sheet_id, pick=Pick(self.machine.pk, "guard", Action.CLEAN))
        self.assertIn("guard.clean.extra", [step.key for step in state.sheet.steps])
        self.assertEqual(extras_of(self.member, state), [])
        while (step := state.progress.current) is not None:
            value = Found.DUE if step.kind is StepKind.LOOK else step.answers[0]
            state = answer(**at, sheet_id=sheet_id, given=Given(uuid4(), step.key, value))
        finish(**at, sheet_id=sheet_id)
        done = Service.objects.of(self.member.household_id).filter(slot="guard", action=Action.CLEAN)
        self.assertEqual(done.count(), 1)


class FeaturesAndParts(OwnTestCase):
    def fitted(self):
        [state] = machine_states(self.member, self.machine.pk)
        return set(state.machine.fitted)

    def test_told_later_brings_parts_of_unknown_age_and_takes_them_again(self):
        self.assertNotIn("filter-mesh", self.fitted())
        told = tell_feature(**self.on, feature="layered-filter", has=True)
        self.assertLessEqual({"filter-mesh", "filter-foam"}, self.fitted())
        [state] = machine_states(self.member, self.machine.pk)
        self.assertTrue(all(due.unsure for due in state.due if due.slot == "filter-mesh" and due.action == "clean"))
        self.take_back(told)
        self.assertNotIn("filter-mesh", self.fitted())
        tell_feature(**self.on, feature="layered-filter", has=True)
        tell_feature(**self.on, feature="layered-filter", has=False)
        self.assertNotIn("filter-mesh", self.fitted())
        with self.assertRaises(InvalidValue):
            tell_feature(**self.on, feature="wings", has=True)

    def test_of_the_book_come_to_machines_that_were_set_up_before_it_knew_them(self):
        gone = Item.objects.of(self.member.household_id).filter(home_slot__in=("bumper", "guard"))
        Fitting.objects.of(self.member.household_id).filter(item__in=gone).delete()
        Move.objects.of(self.member.household_id).filter(item__in=gone).delete()
        gone.delete()
        self.assertEqual(catch_up(), [("Robot", "guard"), ("Robot", "bumper")])
        self.assertLessEqual({"bumper", "guard"}, self.fitted())
        parts.remove_part(**self.on, slot="bumper")
        self.assertEqual(catch_up(), [], "what somebody took off stays off, and nothing comes twice")
