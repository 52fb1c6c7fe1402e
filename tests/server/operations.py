"""Every operation of the API with what it takes, in a household where each has something to be about."""

import json
from contextlib import contextmanager
from datetime import timedelta
from functools import cache
from unittest.mock import patch
from uuid import uuid4

from django.apps import apps
from django.db import transaction
from django.test import override_settings

from care.vocabulary import Action
from server.devices.ingest import take_in
from server.devices.models import Held
from server.devices.services import connect
from server.machines.models import Item
from server.shelf.models import SpareVersion
from server.work.services import already_done
from tests.server.house import NOON
from tests.server.test_api import ApiTestCase
from tests.server.test_api_house import ANSWERS
from tools.check import SNAPSHOT

DAY = NOON.date()
OWN_SPENDING = {
    "sheets_refit", "prices_ask", "session_create", "session_delete", "session_household", "first_create",
    "password_set", "sign_ins_end", "sign_ins_end_others", "people_leave", "invited_look", "invited_accept",
    "households_create", "ingest", "devices_lines",
    "copies_make", "copies_restore", "document_bring", "document_look", "runs_bring", "runs_look",
}  # fmt: skip
"""Left out: they need a part at rest or a shop, or are about who is signed in; other tests send those."""


@cache
def document():
    """The API as it is: `make test` holds the committed contract to it."""
    return json.loads(SNAPSHOT.read_text())


class OperationsTestCase(ApiTestCase):
    """A robot at its dock, a part in the wash, a kind of spare, an open sheet and an open case."""

    def setUp(self):
        super().setUp()
        self.enterContext(override_settings(LIVE=True))
        self.enterContext(patch("server.base.live.LASTS_S", 0.0))  # or whoever reads all pages waits for news
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
        self.scale, _ = connect(member=self.member, kind="scale", name="Scale")
        robot, _ = connect(member=self.member, kind="machine", name="Robot", machine_id=self.machine.pk)
        long = {"id": "1", "kind": "run", "at": (NOON - timedelta(days=1)).isoformat(), "minutes": 1400}
        take_in(robot, [long])
        self.held = str(Held.objects.of(self.member.household_id).get().pk)

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
            "devices_connect": {"kind": "gauge", "name": "Gauge", "machine_id": machine},
            "devices_weighs": {"item_id": self.wet},
            "heard_count": {"entry_ids": [self.held]},
            "heard_drop": {"entry_ids": [self.held]},
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
            "tastes_set": {"units": "us", "text": "large"},
            "household_rename": {"name": "Testgate 2"},
            "households_create": {"name": "Hut", "time_zone": "UTC"},
            "people_change": {"name": "Ash", "role": "owner"},
            "invitations_create": {"name": "Bo", "role": "viewer"},
            "items_hang": {"place": "Cellar"},
            "items_weigh": {"value": 50, "unit": "g"},
            "sheets_create": {"id": str(uuid4()), "tasks": [{**self.task, "machine_id": self.dock}]},
            "plan_make": {"tasks": [self.task]},
            "answers_create": {"answers": [{"id": str(uuid4()), "step": self.step, "value": "done", "reason": "r"}]},
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
            "device_id": str(self.scale.pk),
            "item_id": item,
            "entry_id": self.run,
            "sheet_id": self.sheet,
            "case_id": self.case,
            "spare_id": self.spare,
            "order_id": str(uuid4()),
            "sent_id": str(uuid4()),
            "member_id": str(self.member.pk),
            "invitation_id": str(uuid4()),
            "sign_in_id": "none",
            "secret": "none",
            "name": "none",
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

    def operations(self):
        for path, methods in document()["paths"].items():
            for method, operation in methods.items():
                if method != "get" and operation["operationId"] not in OWN_SPENDING:
                    yield method, path, operation, document()["components"]["schemas"]

    def send(self, method, path, body=None):
        return getattr(self.client, method)(path, body, content_type="application/json")
