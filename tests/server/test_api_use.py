"""Use, looks, counters, kits and days off over HTTP: what each write answers, and how bad input is told."""

from datetime import timedelta
from uuid import uuid4

from care.vocabulary import Action
from server.logbook.models import Entry
from server.machines.models import ScheduleVersion
from server.round.page_schemas import MachineOut
from server.round.schemas import RoundOut, Written
from tests.server.house import DAY, NOON
from tests.server.test_api import ApiTestCase

TODAY = NOON.date()


class TheAnswer(ApiTestCase):
    """Stored rows go out as text; they are what the contract says all the same."""

    def test_of_round_is_what_the_contract_says(self):
        self.ran(minutes=400, days_ago=1)
        told = RoundOut.model_validate(self.client.get("/api/round").json())
        self.assertEqual([machine.name for machine in told.machines], ["Robot"])
        self.assertEqual(len(told.due), told.due_count)
        self.assertGreater(told.minutes, 0)
        self.assertTrue(all(task.because for task in told.due))

    def test_of_a_write_carries_the_machine_s_page_with_every_reason(self):
        told = Written.model_validate(self.log_run().json())
        self.assertEqual(told.entry_id, Entry.objects.of(self.member.household_id).get(kind="run").pk)
        page = MachineOut.model_validate(told.machine)
        filter_ = next(part for part in page.parts if part.slot == "filter")
        codes = {part.code for state in filter_.states for part in state.because}
        self.assertLessEqual({"trigger", "used", "school", "book", "other_school"}, codes)
        self.assertEqual(sum(week.told_h for week in page.weeks), 50 / 60)


class OnParts(ApiTestCase):
    def on_machine(self, what, **body):
        return self.post(f"/machines/{self.machine.pk}/{what}", **body)

    def test_a_look_moves_the_date_and_can_be_undone(self):
        self.ran(minutes=150, days_ago=1)
        before = self.due("filter", Action.WASH).due
        answer = self.on_machine("looks", slot="filter", about="wash", found="overdue")
        self.assertEqual(answer.status_code, 201)
        self.assertNotEqual(self.due("filter", Action.WASH).due, before)
        undone = self.post(f"/entries/{answer.json()['entry_id']}/undo")
        self.assertEqual(undone.status_code, 200)
        self.assertEqual(self.due("filter", Action.WASH).due, before)

    def test_bad_input_names_the_field_and_writes_nothing(self):
        entries = Entry.objects.of(self.member.household_id).count()
        for what, body, field in (
            ("looks", {"slot": "wing", "about": "wash", "found": "due"}, "slot"),
            ("looks", {"slot": "filter", "about": "swap", "found": "due"}, "action"),
            ("looks", {"slot": "filter", "about": "wash", "found": "shiny"}, "found"),
            ("looks", {"slot": "filter", "about": "wash", "found": "due", "day": f"{TODAY + DAY}"}, "day"),
            ("counters", {"slot": "filter", "value": 101, "unit": "percent", "sense": "left"}, "value"),
            ("counters", {"slot": "filter", "value": 5, "unit": "moons", "sense": "left"}, "unit"),
            ("counters", {"slot": "filter", "value": 5, "unit": "hours", "sense": "gone"}, "sense"),
            ("kits", {"kit": "wings"}, "kit"),
            ("week", {"days": ["XX"], "minutes": 30}, "days"),
            ("week", {"days": ["MO"], "minutes": 0}, "minutes"),
            ("services", {"slot": "caster", "action": "inspect"}, "found"),
        ):
            with self.subTest(what=what, field=field):
                self.assert_problem(self.on_machine(what, **body), 422, field)
        self.assertEqual(Entry.objects.of(self.member.household_id).count(), entries)

    def test_a_counter_and_a_kit_answer_with_the_page_after_them(self):
        answer = self.on_machine("counters", slot="filter", value=40, unit="percent", sense="used", trusted=True)
        page = MachineOut.model_validate(answer.json()["machine"])
        life = next(s for part in page.parts if part.slot == "filter" for s in part.states if s.is_life)
        self.assertEqual(next(c.used for c in life.clocks if c.meter == "run_hours"), 60)
        answer = self.on_machine("kits", kit="brushes")
        self.assertEqual(answer.status_code, 201)
        self.assertEqual(self.due("filter", Action.REPLACE).clocks[0].used, 0)

    def test_a_new_week_is_a_new_version_and_keeps_the_old_one(self):
        answer = self.on_machine("week", days=["SA"], minutes=90, starts="11:00", silence="ran", return_min=30)
        self.assertEqual(answer.json()["machine"]["strip"]["usual"]["rule"], "RRULE:FREQ=WEEKLY;BYDAY=SA")
        versions = ScheduleVersion.objects.of(self.member.household_id)
        self.assertEqual([v.rule[-2:] for v in versions.order_by("entry__sequence")], ["FR", "SA"])

    def test_a_part_moves_only_where_it_fits(self):
        item = self.item("filter")
        answer = self.post(f"/items/{item.id}/move", machine_id=str(self.machine.pk), slot="caster")
        self.assert_problem(answer, 422, "slot")
        answer = self.post(f"/items/{item.id}/move", machine_id=str(uuid4()), slot="filter")
        self.assert_problem(answer, 404)


class OnTheHouse(ApiTestCase):
    def test_away_holds_dates_still_and_stands_on_the_board(self):
        before = self.due("rubber-roller", Action.DE_HAIR).due.p50
        answer = self.post("/rests", why="away", first=f"{TODAY}", last=f"{TODAY + timedelta(days=20)}")
        self.assertEqual(answer.status_code, 201)
        [strip] = answer.json()["round"]["machines"]
        self.assertEqual(strip["resting"]["why"], "away")
        self.assertGreater(self.due("rubber-roller", Action.DE_HAIR).due.p50, before)

    def test_a_busy_time_brings_dates_nearer(self):
        self.ran(minutes=200, days_ago=1)
        before = self.due("filter", Action.WASH).share
        days = {"first": f"{TODAY - 3 * DAY}", "last": f"{TODAY}"}
        self.assertEqual(self.post("/loads", kind="dust", level=1.0, note="sanding", **days).status_code, 201)
        self.assertGreater(self.due("filter", Action.WASH).share, before)

    def test_days_and_levels_that_cannot_be_are_told(self):
        backwards = {"first": f"{TODAY}", "last": f"{TODAY - DAY}"}
        self.assert_problem(self.post("/rests", why="away", **backwards), 422, "last")
        self.assert_problem(self.post("/loads", kind="dust", level=1.0, **backwards), 422, "last")
        self.assert_problem(self.post("/loads", kind="dust", level=7, first=f"{TODAY}", last=f"{TODAY}"), 422, "level")
        unknown = {"machine_id": str(uuid4()), "why": "paused", "first": f"{TODAY}"}
        self.assert_problem(self.post("/rests", **unknown), 404)
