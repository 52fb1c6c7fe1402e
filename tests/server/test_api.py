"""The HTTP interface: who gets in, how refusals are told, and that each write answers with the house after it."""

import json
from collections import defaultdict
from enum import Enum
from typing import get_args, get_type_hints
from uuid import uuid4

from django.test import Client, SimpleTestCase

from server.base.schema import Schema
from server.household.models import Member
from tests.server.house import HouseTestCase, household
from tools.check import SNAPSHOT


class ApiTestCase(HouseTestCase):
    def setUp(self):
        super().setUp()
        self.client.force_login(self.member.user)

    def post(self, path, **body):
        return self.client.post(f"/api{path}", body, content_type="application/json")

    def log_run(self, minutes=50, **more):
        return self.post(f"/machines/{self.machine.pk}/runs", id=str(uuid4()), minutes=minutes, **more)

    def assert_problem(self, answer, status, field=None):
        self.assertEqual(answer.status_code, status, answer.content)
        self.assertEqual(answer["Content-Type"], "application/problem+json")
        problem = answer.json()
        self.assertEqual(problem["status"], status)
        self.assertTrue(problem["detail"] and problem["fix"])
        if field:
            self.assertEqual(problem["field"], field)
        return problem


class WhoGetsIn(ApiTestCase):
    def test_nobody_without_signing_in(self):
        self.client.logout()
        for path in ("/round", f"/machines/{self.machine.pk}", "/sheets"):
            with self.subTest(path):
                self.assert_problem(self.client.get(f"/api{path}"), 401)

    def test_signing_in_and_out(self):
        visitor = Client()
        self.assertIsNone(visitor.get("/api/session").json()["member"])
        wrong = visitor.post(
            "/api/session", {"user_name": "tester", "password": "guess"}, content_type="application/json"
        )
        self.assert_problem(wrong, 401, "password")
        right = {"user_name": "tester", "password": "a-long-one"}
        self.assertEqual(
            visitor.post("/api/session", right, content_type="application/json").json()["member"]["name"], "Ash"
        )
        visitor.delete("/api/session")
        self.assertEqual(visitor.get("/api/round").status_code, 401)

    def test_writing_and_signing_in_need_the_csrf_token(self):
        strict = Client(enforce_csrf_checks=True)
        right = {"user_name": "tester", "password": "a-long-one"}
        self.assertEqual(strict.post("/api/session", right, content_type="application/json").status_code, 403)
        strict.force_login(self.member.user)
        run = {"id": str(uuid4()), "minutes": 50}
        path = f"/api/machines/{self.machine.pk}/runs"
        self.assertEqual(strict.post(path, run, content_type="application/json").status_code, 403)
        token = strict.get("/api/session").cookies["csrftoken"].value
        signed = strict.post(path, run, content_type="application/json", headers={"X-CSRFToken": token})
        self.assertEqual(signed.status_code, 201)

    def test_a_viewer_is_told_that_looking_is_all(self):
        Member.everything.filter(pk=self.member.pk).update(role=Member.Role.VIEWER)
        self.assertEqual(self.client.get("/api/round").status_code, 200)
        self.assert_problem(self.log_run(), 403)


class Refusals(ApiTestCase):
    def test_unknown_and_foreign_ids_are_not_found(self):
        other = household("Testgate 2", "other")
        self.client.force_login(other.user)
        for machine in (self.machine.pk, uuid4()):
            with self.subTest(machine):
                self.assert_problem(self.client.get(f"/api/machines/{machine}"), 404)
                self.assert_problem(self.post(f"/machines/{machine}/runs", id=str(uuid4()), minutes=5), 404)
                self.assert_problem(self.client.get(f"/api/sheets/{machine}"), 404)
                self.assert_problem(self.post(f"/entries/{machine}/undo"), 404)
                self.assert_problem(self.post(f"/items/{machine}/dry-check", dry=True), 404)

    def test_wrong_figures_name_their_field(self):
        for minutes in (0, -3, 1441):
            with self.subTest(minutes):
                self.assert_problem(self.log_run(minutes), 422, "minutes")
        self.assert_problem(self.log_run("soon"), 422, "minutes")
        self.assert_problem(self.log_run(day="2026-03-09"), 422, "day")
        self.assert_problem(self.log_run(day="yesterday"), 422, "day")

    def test_unknown_addresses_are_not_the_page(self):
        for path in ("/api/nothing", "/assets/gone.js", "/nothing.js"):
            self.assertEqual(self.client.get(path).status_code, 404)

    def test_a_machine_needs_a_name_of_its_own_and_a_known_kind(self):
        robot = {"id": str(uuid4()), "name": "Robot", "archetype": "robot-two-roller", "minutes": 40}
        self.assert_problem(self.post("/machines", **robot), 409, "name")
        self.assert_problem(self.post("/machines", **{**robot, "name": " "}), 422, "name")
        self.assert_problem(self.post("/machines", **{**robot, "name": "B", "archetype": "broom"}), 422, "archetype")
        self.assert_problem(self.post("/machines", **{**robot, "name": "B", "days": ["SO"]}), 422, "days")
        self.assertEqual(len(self.client.get("/api/round").json()["machines"]), 1)


class OneAnswer(ApiTestCase):
    def test_a_run_answers_with_the_board_after_it(self):
        before = self.client.get("/api/round").json()
        self.assertEqual(before["due"][0]["slot"], "sensors")
        answer = self.log_run().json()
        after = answer["round"]
        bins = [c for m in after["machines"] for c in m["chambers"] if c["key"] == "bin"]
        self.assertEqual(bins[0]["fill"], min(1, 1 / 2**0.5))
        self.assertEqual(answer["machine"]["history"][0]["kind"], "run")
        undone = self.post(f"/entries/{answer['entry_id']}/undo").json()
        self.assertEqual(undone["round"]["machines"], before["machines"])

    def test_what_one_person_did_to_one_part_on_one_day_is_one_line_with_one_undo(self):
        before = self.client.get("/api/round").json()["due"]
        done = {"slot": "sensors", "action": "wipe"}
        self.post(f"/machines/{self.machine.pk}/looks", slot="sensors", about="wipe", found="due")
        self.post(f"/machines/{self.machine.pk}/services", **done)
        machine = self.log_run().json()["machine"]
        deeds = {line["deed"] for line in machine["history"] if line.get("slot") == "sensors"}
        self.assertEqual((len(deeds), len(machine["history"])), (1, 3))
        first, *rest = [line["entry_id"] for line in machine["history"] if line.get("slot") == "sensors"]
        missing = self.post(f"/entries/{first}/undo", also=[str(uuid4())])
        self.assert_problem(missing, 404, "id")
        undone = self.post(f"/entries/{first}/undo", also=rest).json()["round"]
        self.assertEqual([task["slot"] for task in undone["due"]][:1], [before[0]["slot"]])
        page = self.client.get(f"/api/machines/{self.machine.pk}").json()
        self.assertEqual([line["kind"] for line in page["history"]], ["run"])

    def test_a_service_moves_the_task_from_due_to_later(self):
        answer = self.post(f"/machines/{self.machine.pk}/services", slot="sensors", action="wipe", found="light").json()
        self.assertNotIn("sensors", [task["slot"] for task in answer["round"]["due"]])

    def test_a_new_machine_is_on_the_board(self):
        robot = {"id": str(uuid4()), "name": "Attic", "archetype": "robot-two-roller", "minutes": 40, "days": ["SA"]}
        answer = self.post("/machines", **robot).json()
        self.assertEqual([m["name"] for m in answer["round"]["machines"]], ["Attic", "Robot"])

    def test_a_sheet_goes_from_open_to_recorded(self):
        sheet_id = str(uuid4())
        task = {"machine_id": str(self.machine.pk), "slot": "sensors", "action": "wipe"}
        sheet = self.post("/sheets", id=sheet_id, tasks=[task]).json()
        self.assertEqual(len(self.client.get("/api/round").json()["sheets"]), 1)
        for value in ("done", "due", "done", "done", "pass"):
            answers = [{"id": str(uuid4()), "step": sheet["current"], "value": value}]
            sheet = self.post(f"/sheets/{sheet_id}/answers", answers=answers).json()
        self.assertIsNone(sheet["current"])
        end = str(uuid4())
        ending = self.post(f"/sheets/{sheet_id}/finish", id=end).json()
        self.assertEqual(ending["sheet"]["status"], "finished")
        self.assertEqual(self.post(f"/sheets/{sheet_id}/finish", id=end).json(), ending, "asked again: the same answer")
        self.assert_problem(self.post(f"/sheets/{sheet_id}/finish", id=str(uuid4())), 409)
        self.assertEqual(ending["changes"][0]["after"]["level"], "fresh")
        self.assert_problem(self.client.delete(f"/api/sheets/{sheet_id}"), 409)


def _named(kind, seen):
    """The classes that a field's type is made of, under the names that the contract gives them."""
    for inner in get_args(kind):
        _named(inner, seen)
    if isinstance(kind, type) and kind.__module__.startswith(("care.", "server.")) and kind not in seen[kind.__name__]:
        seen[kind.__name__].add(kind)
        for field in get_type_hints(kind, include_extras=True).values() if not issubclass(kind, Enum) else ():
            _named(field, seen)


class Names(SimpleTestCase):
    def test_no_two_shapes_of_the_contract_share_a_name(self):
        """One of them would stand for both."""
        seen = defaultdict(set)
        waiting = [Schema]
        while waiting:
            kind = waiting.pop()
            waiting += kind.__subclasses__()
            _named(kind, seen)
        self.assertEqual([name for name, kinds in seen.items() if len(kinds) > 1], [])
        self.assertGreater(len(seen), 200)


class ThePage(ApiTestCase):
    def test_tells_a_browser_that_is_signed_in_what_it_will_ask_first(self):
        self.assertIn("</api/round>; rel=preload", self.client.get("/")["Link"])
        self.client.logout()
        self.assertNotIn("Link", self.client.get("/"))

    def test_allows_nothing_from_elsewhere_and_nothing_inline(self):
        policy = dict(part.strip().split(" ", 1) for part in self.client.get("/")["Content-Security-Policy"].split(";"))
        self.assertEqual(policy["default-src"], "'self'")
        self.assertNotIn("script-src", policy)
        self.assertNotIn("unsafe", json.dumps(policy))
        self.assertNotIn("http", json.dumps(policy))

    def test_every_operation_is_named(self):
        for path, methods in json.loads(SNAPSHOT.read_text())["paths"].items():
            for operation in methods.values():
                self.assertNotIn("_api_", operation["operationId"], path)
