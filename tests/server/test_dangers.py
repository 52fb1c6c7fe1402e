"""Dangers: told anywhere, a machine is out of use everywhere, until somebody records that it is over."""

from uuid import uuid4

from care.book import load_book
from care.errors import InvalidValue
from care.vocabulary import Action, Mishap
from server.base.problems import Conflict
from server.bench import ending, opening
from server.bench import services as bench
from server.bench.opening import Pick
from server.bench.schemas import sheet_out
from server.bench.services import Given
from server.due.dangers import dangers_of, is_over, tell
from server.faults import services as faults
from server.faults.services import NewEvent
from server.logbook.services import undo
from server.machines.models import Item
from server.round.board import round_of
from server.setup.services import add_machine
from server.use.schemas import floor_out
from server.use.services import log_run
from server.work.services import already_done, fit_item
from tests.server.house import DAY, NOON, HouseTestCase

CASTER = ("caster", Action.DE_HAIR)


class DangerTestCase(HouseTestCase):
    def setUp(self):
        super().setUp()
        self.on = {"member": self.member, "machine_id": self.machine.pk}

    def stands(self):
        return [one.danger.key for one in dangers_of(self.member.household_id, [self.machine.pk])[self.machine.pk]]

    def open(self, *tasks):
        picks = [Pick(self.machine.pk, *task) for task in tasks or [CASTER]]
        return opening.open_sheet(member=self.member, sheet_id=uuid4(), picks=picks)

    def say(self, sheet, value):
        given = Given(uuid4(), sheet.progress.current.key, value)
        return bench.answer(member=self.member, sheet_id=sheet.row.pk, given=given)

    def run_it(self):
        log_run(**self.on, run_id=uuid4(), minutes=20)


class OutOfUse(DangerTestCase):
    def test_a_sheet_tells_of_a_danger_at_the_dock_that_belongs_to_its_robot_and_back(self):
        dock = add_machine(
            member=self.member,
            machine_id=uuid4(),
            name="Dock",
            archetype="dock-bag",
            schedule=None,
            serves=self.machine.pk,
        )
        robot = self.open()
        of_dock = opening.open_sheet(member=self.member, sheet_id=uuid4(), picks=[Pick(dock.pk, "bag", Action.REPLACE)])
        self.assertEqual(sheet_out(robot).beside, [])
        tell(member=self.member, machine_id=dock.pk, danger="cord")
        [beside] = sheet_out(robot).beside
        self.assertEqual((beside.machine, beside.danger.key), ("Dock", "cord"))
        self.assertEqual(sheet_out(of_dock).beside, [], "on the sheet itself")
        tell(**self.on, danger="pack")
        self.assertEqual([one.danger.key for one in sheet_out(of_dock).beside], ["pack"])

    def test_it_is_not_run_not_worked_on_not_proposed_and_every_screen_says_so(self):
        self.assertTrue(round_of(self.member).due)
        already_done(**self.on, slot_key="filter", action=Action.WASH)
        wet = Item.objects.of(self.member.household_id).get(home_slot="filter")
        tell(**self.on, danger="burnt")

        def refit():
            fit_item(member=self.member, item_id=wet.pk, early_reason="I must")

        for what in (self.run_it, self.open, refit):
            with self.assertRaises(Conflict) as refused:
                what()
            self.assertIn("out of use", refused.exception.detail)
            self.assertIn("repairer", refused.exception.fix)
        state = self.state()
        self.assertEqual(([one.danger.key for one in state.dangers], state.tasks), (["burnt"], []))
        self.assertEqual(round_of(self.member).due_count, 0)
        self.assertEqual(floor_out(state).brings_forward, {})
        self.assertTrue(floor_out(None).pickups, "what may be picked up is told all the same")

    def test_until_somebody_records_that_it_is_over(self):
        tell(**self.on, danger="pack")
        tell(**self.on, danger="burnt")
        is_over(**self.on, danger="burnt")
        with self.assertRaises(Conflict):
            self.run_it()
        ended = is_over(**self.on, danger="pack")
        self.run_it()
        self.assertEqual(self.stands(), [])
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=ended.pk)
        self.assertEqual(self.stands(), ["pack"])
        with self.assertRaises(Conflict):
            is_over(**self.on, danger="cord")
        with self.assertRaises(InvalidValue) as refused:
            tell(**self.on, danger="dragons")
        self.assertEqual(refused.exception.field, "danger")

    def test_told_twice_it_is_one_and_taken_back_at_once(self):
        first, again = (tell(**self.on, danger="burnt") for _ in range(2))
        self.assertEqual(first.pk, again.pk)
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=first.pk)
        self.assertEqual(self.stands(), [])

    def test_silence_stands_for_no_run_while_it_is_out_of_use(self):
        tell(**self.on, danger="burnt")
        self.at(NOON + 14 * DAY)
        is_over(**self.on, danger="burnt")
        self.at(NOON + 15 * DAY)
        rests = [rest for rest in self.state().context.rests if rest.first == NOON.date()]
        self.assertEqual([rest.last for rest in rests], [(NOON + 14 * DAY).date()])


class AtTheBench(DangerTestCase):
    def test_told_at_a_gate_it_ends_the_work_at_once_and_nothing_was_touched(self):
        sheet = self.say(self.open(), "danger:pack")
        self.assertEqual((self.stands(), sheet.progress.current, sheet.progress.moves), (["pack"], None, []))
        ended = ending.finish(member=self.member, sheet_id=sheet.row.pk)
        self.assertEqual(ended.changes, [])
        self.assertEqual(self.stands(), ["pack"], "the end of the sitting changes nothing of it")

    def test_dust_that_may_be_harmful_is_neither_tapped_nor_emptied(self):
        sheet = self.say(self.open(("filter", Action.WASH), ("bin", Action.EMPTY)), "done")
        self.assertEqual(sheet.progress.current.key, "gate.hazardous-dust")
        sheet = self.say(sheet, "danger:dust")
        self.assertEqual((self.stands(), sheet.progress.current), (["dust"], None))

    def test_who_cannot_tell_opens_nothing_either(self):
        sheet = self.say(self.say(self.open(("bin", Action.EMPTY)), "done"), "skip")
        self.assertEqual((self.stands(), sheet.progress.current), ([], None))

    def test_every_gate_before_a_dusty_task_asks_for_harmful_dust_on_every_kind_of_machine(self):
        dusty = {"bin", "screen", "filter", "exhaust"}
        for kind in load_book().archetypes.values():
            columns = {station.key: station.column for station in kind.stations}
            for slot in kind.slots:
                for rule in (*slot.rules, *slot.over.wet_rules):
                    if columns[slot.station] in dusty and rule.action in ("empty", "clean", "wash", "replace"):
                        self.assertEqual(rule.card.cautions[:2], ("hazardous-dust", "dust"), f"{kind.key} {slot.key}")


class InACase(DangerTestCase):
    def open_case(self, *symptoms):
        return faults.open_case(member=self.member, case_id=uuid4(), machine_id=self.machine.pk, symptoms=symptoms)

    def test_a_burnt_smell_takes_it_out_of_use_when_the_case_is_opened(self):
        self.open_case("burnt")
        self.assertEqual(self.stands(), ["burnt"])

    def test_a_pack_that_is_found_swollen_does_and_a_step_back_does_not_put_it_right(self):
        self.machine = add_machine(
            member=self.member, machine_id=uuid4(), name="Stick", archetype="cordless-one-filter", schedule=None
        )
        case = self.open_case("dead")
        self.assertEqual(self.stands(), [])
        probe = next(p for p in case.known.subject.probes if p.check.key == "pack-look").key
        event = NewEvent(uuid4(), case.event_count, "answered", probe, "damaged")
        case = faults.tell(member=self.member, case_id=case.row.pk, event=event)
        self.assertEqual(self.stands(), ["pack"])
        faults.tell(member=self.member, case_id=case.row.pk, event=NewEvent(uuid4(), case.event_count, "back"))
        self.assertEqual(self.stands(), ["pack"])


class AMishap(DangerTestCase):
    def test_what_a_mishap_brings_forward_waits_until_it_is_in_use_again(self):
        tell(**self.on, danger="dust")
        self.assertEqual(floor_out(self.state()).brings_forward.get(Mishap.FINE_DUST), None)
        is_over(**self.on, danger="dust")
        self.assertTrue(floor_out(self.state()).brings_forward[Mishap.FINE_DUST])
