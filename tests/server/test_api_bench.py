"""The bench over HTTP: the plan, wash cards, marks, how it pulls, labels; bad input is named and nothing is kept."""

from uuid import uuid4

from care.household import Profile
from care.vocabulary import School
from server.household.services import answer_profile
from server.logbook.models import Entry
from server.setup.services import Spare
from tests.server.house import household
from tests.server.test_api import ApiTestCase


class BenchApi(ApiTestCase):
    spares = [Spare("filter", "Filter B")]

    def task(self, slot, action, **more):
        return {"machine_id": str(self.machine.pk), "slot": slot, "action": action, **more}

    def at(self, path):
        return f"/machines/{self.machine.pk}{path}"

    def entries(self):
        return Entry.objects.of(self.member.household_id).count()


class ThePlan(BenchApi):
    def test_tells_minutes_tools_and_what_goes_in_meanwhile(self):
        told = self.post("/plan", tasks=[self.task("filter", "wash"), self.task("sensors", "wipe")]).json()
        [robot] = told["machines"]
        self.assertEqual([p["slot"] for p in robot["parts"]], ["filter", "sensors"])
        self.assertEqual(robot["parts"][0]["dries"]["spare"], "Filter B")
        self.assertFalse(robot["parts"][0]["dries"]["stops"])
        self.assertEqual(told["longest"], robot["parts"][0]["dries"])
        self.assertIn("soft dry cloth", [tool["name"] for tool in told["tools"]])

    def test_names_the_tool_that_the_household_has_and_what_that_risks(self):
        for owned, name, lacking in (
            ({"torch", "hair-blade"}, "hair tool", False),
            ({"torch", "seam-ripper", "letter-opener"}, "seam ripper", False),
            ({"torch"}, "hair tool", True),
        ):
            answer_profile(member=self.member, profile=Profile(tools=tuple(owned)), school=School.WORKSHOP)
            blade = self.post("/plan", tasks=[self.task("bristle-roller", "de_hair")]).json()["tools"][0]
            with self.subTest(owned=owned):
                self.assertTrue(blade["name"].startswith(name))
                self.assertEqual((blade["lacking"], bool(blade["instead"])), (lacking, name == "hair tool"))
                self.assertIn("bristles" if name == "seam ripper" else "hair only", blade["mind"])

    def test_of_nothing_or_of_what_is_not_there_is_refused(self):
        self.assert_problem(self.post("/plan", tasks=[]), 422, "tasks")
        self.assert_problem(self.post("/plan", tasks=[self.task("wing", "wash")]), 422, "slot")
        self.assert_problem(self.post("/plan", tasks=[self.task("filter", "swap")]), 422, "action")
        twice = [self.task("filter", "wash")] * 2
        self.assert_problem(self.post("/plan", tasks=twice), 422, "tasks")
        self.assert_problem(self.post("/plan", tasks=[{**twice[0], "machine_id": str(uuid4())}]), 404)


class WashCards(BenchApi):
    def card(self, slot="filter", **seen):
        return self.client.get(f"/api{self.at(f'/parts/{slot}/wash')}", seen).json()

    def test_follow_what_is_seen_and_what_is_kept(self):
        self.assertEqual((self.card()["ruling"], self.card()["because"]), ("wash", "marked"))
        self.assertEqual(self.card(marked="no")["ruling"], "dry")
        self.assertEqual(self.card()["ruling"], "wash", "seeing alone keeps nothing")
        self.assertEqual(self.post(self.at("/parts/filter/marks"), marked="no").status_code, 201)
        self.assertEqual((self.card()["because"], self.card()["kept"]), ("not_marked", {"marked": "no"}))
        self.assertEqual(self.post(self.at("/parts/filter/marks"), marked="unknown").status_code, 201)
        self.assertEqual((self.card()["ruling"], self.card()["kept"]), ("dry", {}))
        self.assertEqual(self.card()["because"], "unmarked_unknown")

    def test_of_sensors_say_cloth_and_never_water(self):
        told = self.card("sensors")
        self.assertEqual(told["ruling"], "dry")
        self.assertIn("water", told["never"])

    def test_refuse_what_is_not_asked_and_parts_that_are_not_there(self):
        before = self.entries()
        self.assert_problem(self.post(self.at("/parts/filter/marks"), wires="yes"), 422, "wires")
        self.assert_problem(self.post(self.at("/parts/filter/marks"), marked="perhaps"), 422, "marked")
        self.assert_problem(self.post(self.at("/parts/wing/marks"), marked="yes"), 422, "slot")
        self.assertEqual(self.entries(), before)


class HowItPulls(BenchApi):
    def test_stands_in_the_records_and_can_be_undone(self):
        answer = self.post(self.at("/pull"), felt=3, moment="before").json()
        [line] = self.records()
        self.assertEqual((line["kind"], line["value"], line["moment"]), ("reading", 3, "before"))
        self.post(f"/entries/{answer['entry_id']}/undo")
        self.assertEqual(self.records(), [])

    def records(self):
        return self.client.get(f"/api{self.at('')}").json()["history"]

    def test_is_refused_beyond_its_scale(self):
        self.assert_problem(self.post(self.at("/pull"), felt=9, moment="before"), 422, "felt")
        self.assert_problem(self.post(self.at("/pull"), felt=3, moment="during"), 422, "moment")


class Labels(BenchApi):
    def test_are_one_for_a_machine_and_one_for_each_part_that_takes_turns(self):
        told = self.client.get("/api/labels").json()
        self.assertEqual([label["part_name"] for label in told["labels"]], [None, "Filter A", "Filter B"])
        self.assertFalse(told["only_here"], "the test client comes by a name")
        rows = told["labels"][0]["rows"]
        self.assertEqual({len(row) for row in rows}, {len(rows)}, "a code is square")

    def test_of_another_household_are_not_shown(self):
        other = household("Testgate 2", "other")
        self.client.force_login(other.user)
        self.assertEqual(self.client.get("/api/labels").json()["labels"], [])
