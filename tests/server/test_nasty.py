"""Every operation of the API is sent what nobody should send: refused, nothing changes; taken, every page answers."""

from itertools import islice
from types import SimpleNamespace
from unittest.mock import patch
from uuid import uuid4

from django.db import transaction

from care.season import solve
from server.logbook import memo
from server.logbook.models import Entry
from server.season import planning
from tests.effort import DEEP
from tests.server.house import household
from tests.server.operations import OperationsTestCase, document

TEXTS = ("", "\x00", "\ud800", "x" * 20_000, "=1+1", "\u202e\U0001f9f9")
NUMBERS = (-1, 0, 1e-308, 1e308, 10**400, float("nan"), float("inf"), "soon", None)
DAYS = ("0001-01-01", "1999-12-31", "2000-01-01", "2031-03-01", "9999-12-31", "2026-02-30", "")
TIMES = ("25:00", "10:15+02:00", "00:00")
LISTS = ([], ["x"] * 2000, [None], "x")
AT_ONCE = 5
"""So many operations are sent what they take before all pages are looked at, which takes longest."""
SECRETS = {"season_feed_make", "invitations_create", "devices_connect"}
"""What these show is shown once: it is not kept for whoever asks again."""


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


class EveryOperation(OperationsTestCase):
    def pages(self):
        """Every page of the house."""
        for path, methods in document()["paths"].items():
            if "get" in methods and not any(
                f"{{{name}}}" in path for name in ("item_id", "case_id", "sheet_id", "secret", "name")
            ):
                yield self.address(path)

    def setUp(self):
        """What is worked out takes little, and is kept for the next page as where no transaction of a test is open."""
        super().setUp()
        self.enterContext(patch.object(planning, "THOROUGH", 0.0))
        self.enterContext(patch.object(solve, "ROUNDS", 4))
        self.enterContext(patch.object(memo, "connection", SimpleNamespace(in_atomic_block=False)))

    def assert_pages_answer(self, after):
        for page in self.pages():
            answer = self.client.get(page)
            told = b"".join(answer.streaming_content) if answer.streaming else answer.content
            self.assertEqual(answer.status_code, 200, f"{page} after {after}: {told[:300]}")
        told = self.client.get("/api/round").json()
        self.assertEqual(told["faults"], [], after)

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
        self.taken = []
        for method, path, operation, schemas in self.operations():
            name = operation["operationId"]
            with self.subTest(name), self.undone():
                for body in self.bodies(samples.get(name), operation, schemas):
                    with transaction.atomic():
                        answer = self.send(method, self.address(path), body)
                        transaction.set_rollback(answer.status_code < 300)
                    self.assertNotEqual(answer.status_code, 500, f"{body}"[:300])
                    if answer.status_code < 300:
                        self.taken.append((name, method, self.address(path), body))
                self.assertEqual(self.rows(), before, "nothing that was refused left anything")
        named = list(dict.fromkeys(name for name, *_ in self.taken))
        for names in (named[n : n + AT_ONCE] for n in range(0, len(named), AT_ONCE)):
            with self.subTest(names):
                for refused in self.pages_stand(names):
                    self.assertEqual(self.pages_stand([refused]), [], "what was taken alone is taken alone")

    def pages_stand(self, names):
        """All that was taken of these operations, done one after the other: every page answers.

        Gives the operations of which nothing was taken, since others had gone before.
        """
        mine, done = [one for one in self.taken if one[0] in names], set()
        with self.undone():
            for name, method, address, body in mine:
                if self.send(method, address, body).status_code < 300:
                    done.add(name)
            self.assert_pages_answer(f"{[(name, body) for name, _, _, body in mine]}"[:600])
        return [name for name in names if name not in done]

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
                    if name in SECRETS:
                        self.assertEqual((again.status_code, again.json()["code"]), (409, "shown_once"))
                    else:
                        self.assertEqual((again.status_code, again.content), (first.status_code, first.content))
                    self.assertEqual(self.rows(), rows)
