"""The household's answers, set-up and changes over HTTP."""

from uuid import uuid4

from django.core.files.uploadedfile import SimpleUploadedFile

from server.household.models import Member
from server.household.services import versions
from tests.server.test_api import ApiTestCase
from tests.server.test_duties import photo

ANSWERS = {
    "long_haired": 2,
    "animals": 1,
    "children": 0,
    "area": 220,
    "carpet": 0.5,
    "dust": ["workshop"],
    "school": "workshop",
}


class TheAnswers(ApiTestCase):
    def test_before_anybody_told_any_are_the_middle_by_the_label(self):
        told = self.client.get("/api/household").json()
        self.assertFalse(told["answered"])
        self.assertEqual(len(told["versions"]), 1, "the loads that the house was made with")

    def test_show_what_each_of_them_changes_and_keep_nothing_until_told(self):
        preview = self.post(
            "/household/preview", **ANSWERS, places=[{"name": "Cellar", "temp_c": 12, "rh_pct": 85}]
        ).json()
        self.assertEqual(preview["load"], {"hair": 0.8, "dust": 0.82, "volume": 0.59})
        hair = next(one for one in preview["answers"] if one["answer"] == "long_haired")
        self.assertGreater(hair["count"], 0)
        self.assertGreater(hair["largest"][0]["before"], hair["largest"][0]["after"])
        self.assertTrue(preview["climates"][0]["mildew"])
        self.assertEqual(len(versions(self.member)), 1)
        bare = self.post("/household/preview", **{**ANSWERS, "long_haired": 0}).json()
        self.assertNotIn("long_haired", [one["answer"] for one in bare["answers"]])

    def test_are_kept_as_a_version_and_move_the_dates(self):
        before = self.client.get("/api/round").json()
        after = self.post("/household", **ANSWERS).json()
        self.assertNotEqual(before["coming"], after["round"]["coming"])
        told = self.client.get("/api/household").json()
        self.assertEqual((told["answered"], len(told["versions"]), told["profile"]["animals"]), (True, 2, 1))
        self.post(f"/entries/{after['entry_id']}/undo")
        self.assertFalse(self.client.get("/api/household").json()["answered"])

    def test_a_floor_in_the_other_unit_is_asked_about_and_kept_when_meant(self):
        mixed = {**ANSWERS, "area": 650}
        problem = self.assert_problem(self.post("/household", **mixed), 422, "area")
        self.assertTrue(problem["values"]["unit_check"])
        self.assertEqual(self.post("/household", **mixed, sure=True).status_code, 201)
        feet = {**ANSWERS, "area": 650, "area_unit": "sq_ft"}
        self.post("/household", **feet)
        self.assertAlmostEqual(self.client.get("/api/household").json()["area_m2"], 60.39, 1)

    def test_out_of_bounds_name_their_field(self):
        for field, values in {
            "animals": {"animals": -1},
            "places.temp_c": {"places": [{"name": "Oven", "temp_c": 90, "rh_pct": 20}]},
            "school": {"school": "strict"},
        }.items():
            with self.subTest(field):
                self.assert_problem(self.post("/household", **{**ANSWERS, **values}), 422, field)

    def test_units_are_each_person_s_own(self):
        put = lambda units: self.client.put("/api/tastes", {"units": units}, content_type="application/json")  # noqa: E731
        self.assertEqual(put("us").status_code, 200)
        self.assertEqual(self.client.get("/api/session").json()["member"]["tastes"]["units"], "us")
        self.assert_problem(put("furlongs"), 422, "units")

    def test_a_viewer_may_look_at_them(self):
        Member.everything.filter(pk=self.member.pk).update(role=Member.Role.VIEWER)
        self.assertEqual(self.post("/household/preview", **ANSWERS).status_code, 200)
        self.assert_problem(self.post("/household", **ANSWERS), 403)


class TheMachines(ApiTestCase):
    def test_the_catalogue_leads_to_each_kind_by_its_answers(self):
        told = self.client.get("/api/kinds").json()
        questions = {question["key"]: question["answers"] for question in told["questions"]}
        self.assertEqual(len(told["kinds"]), 19)
        for kind in told["kinds"]:
            self.assertTrue(kind["parts"] and kind["traits"], kind["key"])
            self.assertTrue(all(value in questions[key] for key, value in kind["traits"].items()))
        belt = next(kind for kind in told["kinds"] if kind["key"] == "robot-belt")
        self.assertEqual([part["name"] for part in belt["parts"] if part["is_filter"]], ["Fine filter"])
        self.assertEqual(belt["options"][0]["key"], "washable-filter")

    def test_what_one_takes_is_told_before_it_is_added(self):
        week = {"archetype": "robot-belt", "days": ["MO", "TH"], "minutes": 60}
        alone = self.post("/kinds/upkeep", **week).json()
        docked = self.post("/kinds/upkeep", **week, dock="dock-bag").json()
        self.assertGreater(alone["minutes_a_week"], 1)
        self.assertIn("Dust bag", [one["part"] for one in docked["uses_up"]])
        self.assert_problem(self.post("/kinds/upkeep", archetype="robot-belt", days=["XX"], minutes=60), 422, "days")

    def test_a_robot_comes_with_its_dock_in_one_go(self):
        robot, dock = str(uuid4()), str(uuid4())
        made = self.post(
            "/machines",
            id=robot,
            name="Attic",
            archetype="robot-belt",
            minutes=60,
            days=["SA"],
            earlier={"bought": None, "last_done": None},
            dock={"id": dock, "name": "Attic: dock", "archetype": "dock-bag"},
        ).json()
        strips = {strip["name"]: strip for strip in made["round"]["machines"]}
        self.assertEqual(strips["Attic: dock"]["serves"], robot)
        self.assertGreater(strips["Attic"]["unsure"], 5)

    def test_changes_answer_with_the_house_and_are_listed_beside_the_book_s(self):
        at = f"/machines/{self.machine.pk}"
        self.post(f"{at}/parts/filter/name", name="Big filter")
        self.post(f"{at}/parts/filter/figure", action="wash", meter="days", figure=5, why="soot")
        told = self.client.get(f"/api{at}/setup").json()
        part = next(part for part in told["parts"] if part["slot"] == "filter")
        self.assertEqual((part["name"], part["book_name"]), ("Big filter", "Filter"))
        wash = next(rule for rule in part["rules"] if rule["action"] == "wash")
        self.assertEqual((wash["own_figure"], wash["own_why"], wash["book"][0]["low"]), (5, "soot", 3.5))
        self.assert_problem(
            self.post(f"{at}/parts/filter/figure", action="wash", meter="days", figure=99, why="x"), 422, "figure"
        )
        self.client.delete(f"/api{at}/parts/caster")
        self.assertEqual(
            self.client.get(f"/api{at}/setup").json()["gone"], [{"slot": "caster", "name": "Front caster"}]
        )

    def test_put_away_is_listed_apart(self):
        self.post(f"/machines/{self.machine.pk}/status", status="archived")
        self.assertEqual([one["status"] for one in self.client.get("/api/machines").json()], ["archived"])
        self.assert_problem(self.post(f"/machines/{self.machine.pk}/status", status="eaten"), 422, "status")

    def test_a_photo_is_sent_as_a_form_and_comes_back_clean(self):
        at = f"/api/machines/{self.machine.pk}/notes"
        sent = self.client.post(at, {"slot": "filter", "picture": SimpleUploadedFile("a.jpg", photo(), "image/jpeg")})
        self.assertEqual(sent.status_code, 201, sent.content)
        [note] = self.client.get(at).json()["notes"]
        picture = self.client.get(f"/api/notes/{note['entry_id']}/picture")
        self.assertEqual((picture["Content-Type"], picture.content[:2]), ("image/jpeg", b"\xff\xd8"))
        wrong = self.client.post(at, {"picture": SimpleUploadedFile("a.jpg", b"oops", "image/jpeg")})
        self.assert_problem(wrong, 422, "picture")

    def test_the_floor_card_says_what_a_mishap_brings_forward_here(self):
        told = self.client.get(f"/api/floor?machine_id={self.machine.pk}").json()
        self.assertIn({"part": "Drive wheels", "action": "wipe"}, told["brings_forward"]["sticky"])
        self.assertTrue(any(check["only"] == "itself" for check in told["checks"]))
        self.assertEqual(self.client.get(f"/api/floor?machine_id={uuid4()}").status_code, 404)
