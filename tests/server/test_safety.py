"""What keeps a household safe from strangers, bad files, a full disk and many machines."""

import io
import zlib
from unittest.mock import patch

from django.conf import settings
from django.core.management import CommandError, call_command
from django.db import OperationalError, connection
from django.test import Client, SimpleTestCase
from django.test.utils import CaptureQueriesContext
from PIL import Image, PngImagePlugin
from qsessions.models import Session

from care.errors import InvalidValue
from server.base import storage
from server.due.state import machine_states
from server.household.services import create_household
from server.notes.services import clean_picture
from server.setup.services import add_machine
from tests.server.house import DAY, NOON, HouseTestCase
from tests.server.test_api import ApiTestCase


def png(size=(8, 8), **text):
    """A picture with text chunks."""
    told = PngImagePlugin.PngInfo()
    for key, value in text.items():
        told.add_text(key, value, zip=True)
    out = io.BytesIO()
    Image.new("RGB", size).save(out, "PNG", pnginfo=told)
    return out.getvalue()


class SigningIn(ApiTestCase):
    def sign_in(self, password, address="192.0.2.7", name="tester"):
        body = {"user_name": name, "password": password}
        return Client(REMOTE_ADDR=address).post("/api/session", body, content_type="application/json")

    def test_guessing_is_stopped_for_a_name_from_an_address_and_nobody_else(self):
        answers = [self.sign_in("guess").status_code for _ in range(settings.AXES_FAILURE_LIMIT + 1)]
        self.assertEqual((answers[0], answers[-1]), (401, 429))
        problem = self.assert_problem(self.sign_in("a-long-one"), 429, "password")
        self.assertIn("Wait 5 minutes", problem["fix"])
        self.assertEqual(self.sign_in("a-long-one", address="192.0.2.8").status_code, 200)

    def test_a_password_that_is_soon_guessed_is_refused(self):
        for password in ("short", "password1"):
            with self.subTest(password), self.assertRaises(InvalidValue) as refused:
                create_household(name="Soft", time_zone="UTC", user_name="soft", password=password, person="Ash")
            self.assertEqual(refused.exception.field, "password")

    def test_sessions_that_ended_are_cleared_when_somebody_signs_in(self):
        self.sign_in("a-long-one")
        Session.objects.update(expire_date=NOON - DAY)
        self.sign_in("a-long-one")
        self.assertEqual(Session.objects.count(), 1)

    def test_nobody_keeps_what_the_api_answers(self):
        for path in ("/api/round", "/api/session", "/api/nothing"):
            self.assertEqual(self.client.get(path)["Cache-Control"], "no-store", path)


class Pictures(SimpleTestCase):
    def refused(self, data):
        with self.assertRaises(InvalidValue) as told:
            clean_picture(data)
        self.assertEqual(told.exception.field, "picture")

    def test_only_what_phones_and_screens_make_is_opened(self):
        for kind, taken in (("JPEG", True), ("PNG", True), ("WEBP", True), ("GIF", False), ("BMP", False)):
            out = io.BytesIO()
            Image.new("RGB", (9, 9)).save(out, kind)
            with self.subTest(kind):
                if taken:
                    self.assertEqual(clean_picture(out.getvalue()).width, 9)
                else:
                    self.refused(out.getvalue())

    def test_text_that_unpacks_to_a_flood_and_a_file_that_is_cut_are_refused(self):
        self.refused(png(flood="x" * 80_000_000))
        self.refused(png(size=(900, 900))[:900])

    def test_one_that_says_it_is_huge_is_refused_before_it_is_unpacked(self):
        whole = png()
        head = whole[12:16] + (60_000).to_bytes(4, "big") * 2 + whole[24:29]
        self.refused(whole[:12] + head + zlib.crc32(head).to_bytes(4, "big") + whole[33:])


class TheDisk(HouseTestCase):
    def start(self, error):
        out = io.StringIO()
        of = "server.base.management.commands.serve."
        with patch(f"{of}call_command", side_effect=error), patch(f"{of}checkpoint"):
            call_command("serve", port=1, stdout=io.StringIO(), stderr=out)
        return out.getvalue()

    def test_a_full_one_is_told_at_the_start_and_what_is_there_is_served(self):
        served = []
        with patch("server.base.management.commands.serve.Command._here", return_value=lambda: served.append(1)):
            told = self.start(OperationalError("database or disk is full"))
        self.assertIn(storage.FULL.fix, told)
        self.assertEqual(served, [1])

    def test_without_records_it_says_that_it_cannot_start(self):
        with (
            patch("server.base.management.commands.serve.is_up_to_date", return_value=False),
            self.assertRaises(CommandError),
        ):
            self.start(OperationalError("attempt to write a readonly database"))

    def test_what_sqlite_and_the_system_say_is_known(self):
        self.assertIs(storage.trouble_of(OSError(28, "No space left on device")), storage.FULL)
        self.assertIs(storage.trouble_of(OperationalError("unable to open database file")), storage.UNREADABLE)
        self.assertIsNone(storage.trouble_of(ValueError("disk is full")))

    def test_an_acknowledged_write_is_on_the_disk(self):
        self.assertIn("synchronous=FULL", settings.DATABASES["default"]["OPTIONS"]["init_command"] + SHIPPED)


SHIPPED = (settings.BASE_DIR / "server/config/settings.py").read_text()
"""The settings as they are shipped; tests wait for no disk."""


class ManyMachines(HouseTestCase):
    def test_take_no_more_queries_than_one(self):
        from uuid import uuid4

        def count():
            with CaptureQueriesContext(connection) as asked:
                machine_states(self.member)
            return len(asked)

        one = count()
        for n in range(3):
            kind = {"archetype": "upright-belt", "schedule": None}
            add_machine(member=self.member, machine_id=uuid4(), name=f"Upright {n}", **kind)
        self.assertEqual(count(), one)
