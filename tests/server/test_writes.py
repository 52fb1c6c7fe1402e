"""A write and its answer: both or neither, once for each id, and a house that survives one bad record."""

from datetime import date, timedelta
from unittest import mock
from uuid import uuid4

from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import OperationalError
from django.test import Client

from care.due import LoadLine
from care.due.schedule import weekly
from care.vocabulary import School
from server.base import storage
from server.due.stored import board_rows
from server.household.models import Sent
from server.household.services import Answers, answers_at
from server.household.writes import KEPT
from server.logbook import memo
from server.logbook.models import Entry
from server.logbook.services import Journal
from server.machines.models import Run, ScheduleVersion
from server.round import answer as answers
from server.setup.status import set_status
from server.use.services import set_schedule
from tests.server.house import DAY, NOON
from tests.server.test_api import ApiTestCase
from tests.server.test_duties import photo


class WritesTestCase(ApiTestCase):
    def setUp(self):
        super().setUp()
        self.client.raise_request_exception = False

    def count(self):
        return Entry.objects.of(self.member.household_id).count()

    def keyed(self, path, key, **body):
        return self.client.post(
            f"/api{path}", body, content_type="application/json", headers={"Idempotency-Key": str(key)}
        )

    def bad_week(self):
        """A usual week of the robot that nothing can be worked out with, as an older build could have written it."""
        entry = set_schedule(member=self.member, machine_id=self.machine.pk, schedule=weekly(["MO"], 40, None))
        ScheduleVersion.objects.of(self.member.household_id).filter(entry=entry).update(run_min=1e-308)
        return entry


class BothOrNeither(WritesTestCase):
    def test_a_write_whose_answer_cannot_be_made_is_not_recorded(self):
        before = self.count()
        with mock.patch.object(answers, "round_of", side_effect=OverflowError("date value out of range")):
            problem = self.assert_problem(self.log_run(), 500)
        self.assertIn("nothing was recorded", problem["detail"])
        self.assertEqual(self.count(), before)
        self.assertEqual(self.log_run().status_code, 201)

    def test_a_record_that_would_break_the_board_is_not_recorded(self):
        before = self.count()
        with mock.patch("server.due.state.assumed_runs", side_effect=OverflowError("date value out of range")):
            answer = self.post("/rests", why="away", first="2026-03-04")
        self.assert_problem(answer, 500)
        self.assertEqual(self.count(), before)
        self.assertEqual(self.client.get("/api/round").json()["faults"], [])

    def test_a_disk_that_takes_nothing_is_told_in_words_and_the_next_try_is_taken(self):
        for said, trouble in (
            ("database or disk is full", storage.FULL),
            ("attempt to write a readonly database", storage.READ_ONLY),
            ("database is locked", storage.BUSY),
        ):
            with self.subTest(said):
                with mock.patch.object(Journal, "write", side_effect=OperationalError(said)):
                    problem = self.assert_problem(self.log_run(), 503 if trouble.soon else 507)
                self.assertEqual((problem["code"], problem["fix"]), (trouble.code, trouble.fix))
        self.assertEqual(self.log_run().status_code, 201)


class Once(WritesTestCase):
    def test_the_same_id_again_answers_as_the_first_time_and_records_nothing(self):
        path, key = f"/machines/{self.machine.pk}/looks", uuid4()
        body = {"slot": "caster", "about": "de_hair", "found": "light"}
        first = self.keyed(path, key, **body)
        before = self.count()
        again = self.keyed(path, key, **body)
        self.assertEqual((again.status_code, again.content), (first.status_code, first.content))
        self.assertEqual((first.get("Idempotency-Replayed"), again["Idempotency-Replayed"]), (None, "true"))
        self.assertEqual(self.count(), before)
        told = self.client.get(f"/api/sent/{key}").json()
        self.assertEqual(told, {"recorded": True, "entry_id": first.json()["entry_id"]})

    def test_the_same_id_for_something_else_is_refused(self):
        path, key = f"/machines/{self.machine.pk}/looks", uuid4()
        self.keyed(path, key, slot="caster", about="de_hair", found="light")
        problem = self.assert_problem(self.keyed(path, key, slot="caster", about="de_hair", found="due"), 409)
        self.assertEqual(problem["code"], "recorded_otherwise")
        self.assert_problem(self.keyed(path, "no-id", slot="caster", about="de_hair", found="due"), 422)

    def test_a_refusal_uses_no_id_up(self):
        path, key = f"/machines/{self.machine.pk}/looks", uuid4()
        self.assert_problem(self.keyed(path, key, slot="nothing", about="de_hair", found="light"), 422)
        self.assertFalse(self.client.get(f"/api/sent/{key}").json()["recorded"])
        self.assertEqual(self.keyed(path, key, slot="caster", about="de_hair", found="light").status_code, 201)

    def test_a_form_with_a_picture_is_the_same_whatever_its_seams(self):
        key, before = uuid4(), self.count()
        for _ in range(2):
            form = {"text": "how it sat", "picture": SimpleUploadedFile("a.jpg", photo(), "image/jpeg")}
            answer = self.client.post(
                f"/api/machines/{self.machine.pk}/notes", form, headers={"Idempotency-Key": str(key)}
            )
            self.assertEqual(answer.status_code, 201)
        self.assertEqual(self.count(), before + 1)

    def test_a_form_without_seams_is_refused_with_an_id_and_without(self):
        strict = Client(enforce_csrf_checks=True)
        strict.force_login(self.member.user)
        token = {"X-CSRFToken": strict.get("/api/session").cookies["csrftoken"].value}
        for client, headers in ((strict, token), (self.client, {"Idempotency-Key": str(uuid4())})):
            sent = {"content_type": "multipart/form-data", "headers": headers}
            answer = client.generic("POST", "/api/rests", b"{}", **sent)
            self.assertIn(answer.status_code, (400, 403), answer.content)

    def test_answers_are_kept_for_some_days(self):
        self.keyed(f"/machines/{self.machine.pk}/runs", uuid4(), id=str(uuid4()), minutes=20)
        self.at(NOON + KEPT + DAY)
        self.keyed(f"/machines/{self.machine.pk}/runs", uuid4(), id=str(uuid4()), minutes=20)
        self.assertEqual(Sent.objects.of(self.member.household_id).count(), 1)


class OneBadRecord(WritesTestCase):
    def test_is_named_and_undone_while_the_rest_is_shown(self):
        upright = {"id": str(uuid4()), "name": "Hall", "archetype": "upright-belt", "minutes": 20}
        self.post("/machines", **upright)
        entry = self.bad_week()
        told = self.client.get("/api/round").json()
        self.assertEqual([one["name"] for one in told["machines"]], ["Hall"])
        [fault] = told["faults"]
        self.assertEqual((fault["machine_name"], fault["entry"]["kind"]), ("Robot", "schedule"))
        self.assertEqual(fault["entry"]["entry_id"], str(entry.pk))
        run = self.post(f"/machines/{upright['id']}/runs", id=str(uuid4()), minutes=10)
        self.assertEqual(run.status_code, 201, "the rest of the house can be worked with")
        self.assertEqual(self.client.get("/api/shelf").status_code, 200)
        season = self.client.get("/api/season").json()
        self.assertEqual((["Robot"], ["Hall"]), (season["left_out"], [one["name"] for one in season["machines"]]))
        self.assertEqual(self.client.get("/api/what-if").status_code, 200)
        after = self.post(f"/entries/{entry.pk}/undo").json()["round"]
        self.assertEqual((after["faults"], len(after["machines"])), ([], 2))

    def test_looking_for_it_changes_nothing(self):
        self.bad_week()
        before = self.count()
        board_rows(self.member)
        self.assertEqual(self.count(), before)


class WhatIsKept(WritesTestCase):
    def test_holds_for_a_minute_and_nothing_of_a_transaction_is_kept(self):
        asked = mock.patch(
            "server.household.services._answers_at", side_effect=lambda *told: Answers(LoadLine(), School.LABEL)
        )
        with asked as made, mock.patch.dict(memo._kept, clear=True):
            household_id = self.member.household_id
            answers_at(household_id, NOON)
            self.assertEqual(len(memo._kept), 0, "it may still be rolled back")
            with mock.patch.object(memo, "connection", mock.Mock(in_atomic_block=False)):
                for seconds in (0.25, 17.5, 59.75):
                    answers_at(household_id, NOON + timedelta(seconds=seconds))
                self.assertEqual(made.call_count, 2)
                answers_at(household_id, NOON + timedelta(seconds=61))
            self.assertEqual(made.call_count, 3)


class WhatBelongsToWhat(WritesTestCase):
    def test_a_machine_that_is_not_here_does_not_run(self):
        self.at(NOON + 2 * DAY)
        set_status(member=self.member, machine_id=self.machine.pk, status="lent")
        self.assert_problem(self.log_run(), 409, "machine_id")
        self.assertEqual(self.log_run(day=str(NOON.date())).status_code, 201, "before it was lent it may have run")

    def test_nothing_happened_before_the_machine_was_new(self):
        early = str((NOON - 40 * DAY).date())
        look = {"slot": "caster", "about": "de_hair", "found": "light", "day": early}
        self.assert_problem(self.log_run(day=early), 422, "day")
        for what, body in (
            ("looks", look),
            ("mishaps", {"kind": "wet", "day": early}),
            ("readings", {"quantity": "charge", "value": 60, "unit": "min", "day": early}),
        ):
            with self.subTest(what):
                self.assert_problem(self.post(f"/machines/{self.machine.pk}/{what}", **body), 422, "day")

    def test_of_a_machine_whose_age_nobody_knows_anything_may_be_told(self):
        old = {"id": str(uuid4()), "name": "Old", "archetype": "upright-belt", "minutes": 20, "earlier": {}}
        self.post("/machines", **old)
        run = self.post(f"/machines/{old['id']}/runs", id=str(uuid4()), minutes=20, day="2025-05-05")
        self.assertEqual(run.status_code, 201)
        self.assertEqual(Run.objects.of(self.member.household_id).get(machine=old["id"]).day, date(2025, 5, 5))

    def test_parts_sheets_and_cases_of_others_are_not_found(self):
        machine = self.machine.pk
        other = {"id": str(uuid4()), "name": "Hall", "archetype": "upright-belt", "minutes": 20}
        self.post("/machines", **other)
        brush = next(i for i in self.state().items.values() if self.state().homes[i.id] == "side-brush")
        wear = self.post(f"/machines/{other['id']}/wear/{brush.id}", measure="bend", value=2, unit="mm")
        self.assert_problem(wear, 404, "item_id")
        self.assert_problem(self.post(f"/machines/{machine}/pull", felt=3, moment="after", sheet_id=str(uuid4())), 404)
        task = {"machine_id": str(machine), "slot": "caster", "action": "de_hair"}
        sheet = self.post("/sheets", id=str(uuid4()), tasks=[task], case_id=str(uuid4()))
        self.assert_problem(sheet, 404)
        kept = self.post(f"/machines/{other['id']}/status", status="sold", keep=[str(brush.id)])
        self.assert_problem(kept, 404, "keep")

    def test_days_far_off_are_refused_with_the_limits(self):
        far = str(NOON.date() + timedelta(days=6 * 366))
        problem = self.assert_problem(self.post("/rests", why="away", first="2026-03-04", last=far), 422, "last")
        self.assertIn("2031-03-04", problem["detail"])
