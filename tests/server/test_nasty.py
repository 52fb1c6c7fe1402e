"""Every operation of the API is sent what nobody should send: refused, nothing changes; taken, every page answers."""

import json
from contextlib import contextmanager
from datetime import timedelta
from functools import cache
from itertools import islice
from types import SimpleNamespace
from unittest.mock import patch
from uuid import uuid4

from django.apps import apps
from django.db import transaction

from care.season import solve
from care.vocabulary import Action
from server.logbook import memo
from server.logbook.models import Entry
from server.machines.models import Item
from server.season import planning
from server.shelf.models import SpareVersion
from server.work.services import already_done
from tests.effort import DEEP
from tests.server.house import NOON, household
from tests.server.test_api import ApiTestCase
from tests.server.test_api_house import ANSWERS
from tools.check import SNAPSHOT

DAY = NOON.date()
TEXTS = ("", "\x00", "\ud800", "x" * 20_000, "=1+1", "\u202e\U0001f9f9")
NUMBERS = (-1, 0, 1e-308, 1e308, 10**400, float("nan"), float("inf"), "soon", None)
DAYS = ("0001-01-01", "1999-12-31", "2000-01-01", "2031-03-01", "9999-12-31", "2026-02-30", "")
TIMES = ("25:00", "10:15+02:00", "00:00")
LISTS = ([], ["x"] * 2000, [None], "x")
OWN_SPENDING = {"sheets_refit", "prices_ask", "session_create", "session_delete"}
"""Left out: they need a part at rest or a shop, or are about who is signed in; other tests send those."""


@cache
def document():
    """The API as it is: `make test` holds the committed contract to it."""
    return json.loads(SNAPSHOT.read_text())


def nasties(schema, schemas):
    """Values that a field of this schema may be sent."""
    if "$ref" in schema:
        schema = schemas[schema["$ref"].rsplit("/", 1)[-1]]
    for choice in (*schema.get("anyOf", ()), *schema.get("allOf", ())):
        yield from nasties(choice, schemas)
    kind, form = schema.get("type"), schema.get("format")
    if form == "date":
        yield from DAYS
    elif form == "time":
        yield from TIMES
    elif form == "uuid":
        yield from (str(uuid4()), "no-id")
    elif kind in ("number", "integer"):
        yield from NUMBERS
    elif kind == "array":
        yield from LISTS
    elif kind == "object":
        yield from ({}, {"\x00": 1}, {str(n): 1 for n in range(3000)})
    else:
        yield from TEXTS


class EveryOperation(ApiTestCase):
    """A robot at its dock, a part in the wash, a kind of spare, an open sheet and an open case."""

    def setUp(self):
        super().setUp()
        self.client.raise_request_exception = False
        robot = str(self.machine.pk)
        self.dock = str(uuid4())
        dock = {"id": self.dock, "name": "Dock", "archetype": "dock-charge", "minutes": 1, "serves": robot}
        self.sent(self.post("/machines", **dock))
        self.sent(self.post("/household", **ANSWERS, places=[{"name": "Cellar", "temp_c": 12, "rh_pct": 85}]))
        already_done(member=self.member, machine_id=self.machine.pk, slot_key="filter", action=Action.WASH)
        self.wet = str(Item.objects.of(self.member.household_id).get(home_slot="filter").pk)
        self.roller = str(Item.objects.of(self.member.household_id).get(home_slot="rubber-roller").pk)
        self.sent(self.post("/shelf/propose"))
        self.spare = str(SpareVersion.objects.of(self.member.household_id).first().spare_id)
        self.run = self.sent(self.log_run(part_was_out=True))["entry_id"]
        self.sheet, self.case = str(uuid4()), str(uuid4())
        self.task = {"machine_id": robot, "slot": "caster", "action": "de_hair"}
        self.step = self.sent(self.post("/sheets", id=self.sheet, tasks=[self.task]))["current"]
        symptom = self.client.get(f"/api/machines/{robot}/trace").json()["symptoms"][0]["key"]
        self.sent(self.post("/cases", id=self.case, machine_id=robot, symptoms=[symptom]))
        self.symptom = symptom

    def sent(self, answer):
        self.assertLess(answer.status_code, 300, answer.content[:300])
        return answer.json()

    def samples(self):
        """A body that is taken, by operation; what is not named needs none."""
        day, ahead, machine = str(DAY), str(DAY + timedelta(days=9)), str(self.machine.pk)
        week = {"days": ["MO", "TH"], "minutes": 40, "starts": "10:15", "return_min": 30}
        new = {"id": str(uuid4()), "name": "Hall", "archetype": "upright-belt", "features": [], "spares": []}
        past = {"bought": "2025-01-03", "last_done": "2026-02-01", "parts": {"belt": "2026-02-02"}}
        task = {"slot": "caster", "action": "de_hair"}
        spare = {
            "name": "Brushes",
            "places": [{"machine_id": machine, "slot": "side-brush"}],
            "numbers": [{"number": "B-1", "note": "n"}],
            "least": 1,
        }
        otherwise = {
            "runs": [{"machine_id": machine, "days": 3}],
            "animals": 2,
            "carpet": 0.5,
            "weekdays": ["MO"],
            "school": "thrifty",
            "hour_value": 900,
        }
        return {
            "week_create": week,
            "rests_create": {"machine_id": machine, "why": "away", "first": day, "last": ahead},
            "loads_create": {"kind": "hair", "first": day, "last": ahead, "level": 1, "note": "moult"},
            "looks_create": {"slot": "caster", "about": "de_hair", "found": "light", "day": day},
            "counters_create": {"slot": "filter", "value": 10, "unit": "percent", "sense": "used", "day": day},
            "changes_create": {"slot": "caster", "action": "de_hair", "changed": True},
            "kits_create": {"kit": "brushes", "day": day},
            "moves_create": {"machine_id": machine, "slot": "rubber-roller"},
            "runs_create": {"id": str(uuid4()), "minutes": 40, "day": day, "started": "09:00"},
            "services_create": {**task, "day": day, "found": "light"},
            "waits_create": {**task, "until": ahead, "reason": "visit"},
            "claims_create": task,
            "mishaps_create": {"kind": "wet", "day": day},
            "dangers_create": {"danger": "burnt"},
            "dry_check_create": {"dry": False},
            "items_fit": {"early_reason": "I must"},
            "kinds_upkeep": {**week, "archetype": "robot-belt", "features": [], "dock": "dock-charge"},
            "machines_create": {**week, **new, "earlier": past},
            "machines_rename": {"name": "Rob"},
            "machines_status": {"status": "lent", "keep": []},
            "machines_replace": {**week, **new, "id": str(uuid4()), "keep": [], "earlier": past},
            "machines_school": {"slot": "caster", "school": "thrifty"},
            "machines_level": {"level": "thorough"},
            "machines_round": {"key": "robot-week", "days": 10},
            "machines_habit": {"slot": "guard", "action": "clean", "kept": True},
            "machines_feature": {"feature": "layered-filter", "has": True},
            "extras_create": {"machine_id": machine, "slot": "guard", "action": "clean"},
            "parts_fit": {"number": "B-1", "check": "fits", "note": "n"},
            "parts_create": {"name": "Strip", "station": "bin", "use": None, "action": "clean", "figure": 30},
            "parts_rename": {"name": "Wheel"},
            "parts_place": {"station": "bin", "air_order": 2, "refit_order": 2},
            "parts_mark": {"marked": "yes"},
            "parts_figure": {"action": "de_hair", "meter": "days", "figure": 20, "why": "rabbit"},
            "spares_create": {"slot": "filter", "name": "Filter C"},
            "items_assign": {"machine_id": machine, "slot": "filter"},
            "items_retire": {"reason": "torn"},
            "machines_pull": {"felt": 3, "moment": "before", "sheet_id": self.sheet},
            "household_answer": {**ANSWERS, "places": [{"name": "Loft", "temp_c": 20, "rh_pct": 50}]},
            "household_preview": {**ANSWERS, "places": [{"name": "Loft", "temp_c": 20, "rh_pct": 50}]},
            "units_set": {"units": "us"},
            "items_hang": {"place": "Cellar"},
            "items_weigh": {"value": 50, "unit": "g"},
            "sheets_create": {"id": str(uuid4()), "tasks": [{**self.task, "machine_id": self.dock}]},
            "plan_make": {"tasks": [self.task]},
            "answers_create": {"id": str(uuid4()), "step": self.step, "value": "done", "reason": "r"},
            "sheets_finish": {"id": str(uuid4())},
            "cases_create": {"id": str(uuid4()), "machine_id": machine, "symptoms": [self.symptom]},
            "cases_tell": {"id": str(uuid4()), "after": 1, "kind": "noticed", "key": self.symptom, "day": day},
            "cases_close": {"reason": "tired"},
            "readings_create": {"quantity": "charge", "value": 60, "unit": "min", "moment": "", "day": day},
            "air_set": {"fills": {}, "opens": {}, "leaks": {}, "power": 1},
            "spares_keep": spare,
            "spares_count": {"on_hand": 2},
            "spares_move": {"count": 1, "why": "bought", "number": "", "note": "n"},
            "spares_turn": {"place": {"machine_id": machine, "slot": "filter"}, "name": "Filter D"},
            "orders_create": {"lines": [{"supplier": "Shop", "code": "A", "count": 1}]},
            "orders_arrived": {"day": day, "came": None, "rest_comes": True},
            "dust_tell": {"volume": 0.4, "unit": "L", "known_volume": 0.4, "known_weeks": 2, "pressed": 1},
            "wear_measure": {"measure": "bend", "value": 3, "unit": "mm", "day": day},
            "worth_tell": {"price_new": 40000, "life_years": 6, "hour_value": 1500, "guarantee_until": ahead},
            "worth_repair": {"cost": 4000, "minutes": 30, "adds_years": 2},
            "season_habits": {
                "hands": [{"who": "Ash", "weekdays": ["TH"], "minutes": 40, "skill": "screws"}],
                "at": "18:00",
                "visit_min": 5,
                "wait_min": 8,
                "hour_value": 1200,
            },
            "season_wish": {
                "what": "on",
                "first": ahead,
                "last": ahead,
                "chores": [{**self.task, "machine_id": machine}],
                "note": "n",
            },
            "season_feed_make": {"all_day": True, "alarm_min": 30},
            "season_import": {
                "away": [{"first": day, "last": ahead, "note": "n"}],
                "no_visit": [{"first": ahead, "last": ahead}],
                "week": {"machine_id": machine, "days": ["MO"], "minutes": 40, "starts": "09:00"},
            },
            "what_if": {"changes": [otherwise]},
            "what_if_adopt": otherwise,
        }

    def address(self, path, slot="caster"):
        """Where an operation is sent, with ids that are there."""
        item = self.wet if any(word in path for word in ("dry-check", "/fit", "/hang", "/weights")) else self.roller
        ids = {
            "machine_id": str(self.machine.pk),
            "item_id": item,
            "entry_id": self.run,
            "sheet_id": self.sheet,
            "case_id": self.case,
            "spare_id": self.spare,
            "order_id": str(uuid4()),
            "sent_id": str(uuid4()),
            "slot": "bin" if "dust" in path else slot,
        }
        if "/wear/" in path:
            ids["item_id"] = str(Item.objects.of(self.member.household_id).get(home_slot="side-brush").pk)
        query = "?supplier=Shop&currency=EUR" if path.endswith("/prices") else ""
        return path.format(**ids) + query

    def rows(self):
        """All that is kept but what is made from it, to see whether a refusal left something."""
        left_out = {"Standing", "Session", "Sent", "LastPlan"}
        models = [m for m in apps.get_models() if m.__name__ not in left_out]
        return {m.__name__: list(m._base_manager.order_by("pk").values()) for m in models}

    @contextmanager
    def undone(self):
        with transaction.atomic():
            yield
            transaction.set_rollback(True)

    def pages(self):
        """Every page of the house."""
        for path, methods in document()["paths"].items():
            if "get" in methods and not any(
                f"{{{name}}}" in path for name in ("item_id", "case_id", "sheet_id", "secret")
            ):
                yield self.address(path)

    def assert_pages_answer(self, after):
        """As outside a test, where no transaction is open, what is worked out for one page is kept for the next."""
        quick = patch.object(planning, "THOROUGH", 0.0), patch.object(solve, "ROUNDS", 4)
        with patch.object(memo, "connection", SimpleNamespace(in_atomic_block=False)), quick[0], quick[1]:
            self._assert_pages_answer(after)

    def _assert_pages_answer(self, after):
        for page in self.pages():
            answer = self.client.get(page)
            self.assertEqual(answer.status_code, 200, f"{page} after {after}: {answer.content[:300]}")
        told = self.client.get("/api/round").json()
        self.assertEqual(told["faults"], [], after)

    def operations(self):
        for path, methods in document()["paths"].items():
            for method, operation in methods.items():
                if method != "get" and operation["operationId"] not in OWN_SPENDING:
                    yield method, path, operation, document()["components"]["schemas"]

    def send(self, method, path, body=None):
        return getattr(self.client, method)(path, body, content_type="application/json")

    def test_the_samples_are_taken_or_refused_for_a_reason_of_the_job(self):
        samples = self.samples()
        for method, path, operation, _ in self.operations():
            with self.subTest(operation["operationId"]), self.undone():
                answer = self.send(method, self.address(path), samples.get(operation["operationId"], {}))
                self.assertNotIn(answer.status_code, (400, 500), answer.content[:300])
                if answer.status_code == 422:
                    self.assertNotEqual(answer.json()["code"], "malformed", answer.content[:300])

    def test_what_is_refused_changes_nothing_and_what_is_taken_breaks_no_page(self):
        samples, before = self.samples(), self.rows()
        for method, path, operation, schemas in self.operations():
            name = operation["operationId"]
            with self.subTest(name), self.undone():
                taken = []
                for body in self.bodies(samples.get(name), operation, schemas):
                    with transaction.atomic():
                        answer = self.send(method, self.address(path), body)
                        transaction.set_rollback(answer.status_code < 300)
                    self.assertNotEqual(answer.status_code, 500, f"{body}"[:300])
                    taken += [body] if answer.status_code < 300 else []
                self.assertEqual(self.rows(), before, "nothing that was refused left anything")
                for body in taken:
                    self.send(method, self.address(path), body)
                if taken:
                    self.assert_pages_answer(f"{name} {taken}"[:300])

    def bodies(self, sample, operation, schemas):
        """The sample with one field at a time made nasty; those of lists and of tables in it too.

        In `make test` every other value of a field, of the next field the others; in `make test-deep` all.
        """
        content = operation.get("requestBody", {}).get("content", {}).get("application/json")
        if content is None or sample is None:
            return
        yield from ([], "x", None)
        yield from self.spoilt(sample, content["schema"], schemas)

    def spoilt(self, sample, schema, schemas):
        if "$ref" in schema:
            schema = schemas[schema["$ref"].rsplit("/", 1)[-1]]
        for n, (name, field) in enumerate(schema.get("properties", {}).items()):
            for value in islice(nasties(field, schemas), 0 if DEEP else n % 2, None, 1 if DEEP else 2):
                yield {**sample, name: value}
            yield from self.deeper(sample, name, field, schemas)

    def deeper(self, sample, name, field, schemas):
        """The same of what a field holds: an object, or a list of them."""
        inner, value = field.get("items", field), sample.get(name)
        inner = next((one for one in inner.get("anyOf", ()) if "$ref" in one), inner)
        if isinstance(value, dict) and "$ref" in inner:
            yield from ({**sample, name: body} for body in self.spoilt(value, inner, schemas))
        elif isinstance(value, list) and value and isinstance(value[0], dict):
            yield from ({**sample, name: [body]} for body in self.spoilt(value[0], inner, schemas))

    def test_ids_of_another_household_are_not_found_wherever_they_stand(self):
        other = household("Testgate 9", "nosy")
        self.client.force_login(other.user)
        samples = self.samples()
        for method, path, operation, _ in self.operations():
            if "{" in path and operation["operationId"] not in ("spares_keep",):
                with self.subTest(operation["operationId"]), self.undone():
                    before = Entry.everything.count()
                    answer = self.send(method, self.address(path), samples.get(operation["operationId"], {}))
                    self.assertIn(answer.status_code, (404, 422), answer.content[:200])
                    self.assertEqual(Entry.everything.count(), before)

    def test_each_sent_twice_under_one_id_happens_once(self):
        samples = self.samples()
        for method, path, operation, _ in self.operations():
            name = operation["operationId"]
            with self.subTest(name), self.undone():
                sent = {"headers": {"Idempotency-Key": str(uuid4())}, "content_type": "application/json"}
                first = getattr(self.client, method)(self.address(path), samples.get(name, {}), **sent)
                if first.status_code < 300:
                    rows = self.rows()
                    again = getattr(self.client, method)(self.address(path), samples.get(name, {}), **sent)
                    self.assertEqual((again.status_code, again.content), (first.status_code, first.content))
                    self.assertEqual(self.rows(), rows)
