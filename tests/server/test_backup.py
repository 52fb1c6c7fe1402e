"""Copies of everything: whole, read back, kept in turn, restored into a running app, refused where not ours."""

import os
import sqlite3
import subprocess
import sys
import tomllib
from contextlib import closing
from datetime import UTC, datetime, timedelta
from io import StringIO
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest.mock import patch

from django.conf import settings
from django.contrib.auth.models import User
from django.core.management import CommandError, call_command
from django.db import connection
from django.test import SimpleTestCase, TransactionTestCase, override_settings
from hypothesis import given
from hypothesis import strategies as st

from server.base import backup, build
from server.base.backup import Backup, superfluous
from server.base.management.commands.serve import Command as Serve
from server.base.problems import Conflict
from server.household.models import Household
from tests.effort import examples
from tests.server.house import DAY, NOON, household

NOW = datetime(2026, 3, 4, 12, tzinfo=UTC)


class WhatIsKept(SimpleTestCase):
    def left(self, ages_h):
        made = [Backup(Path(str(age)), NOW - timedelta(hours=age), 1) for age in ages_h]
        gone = {one.file for one in superfluous(made, NOW)}
        return [one for one in made if one.file not in gone]

    def test_a_year_of_nights_leaves_days_weeks_and_months(self):
        kept = self.left(range(1, 24 * 400, 24))
        days = [int((NOW - one.at).days) for one in kept]
        self.assertEqual([0, 1, 2, 3, 4, 5, 6], days[:7])
        self.assertLessEqual(len(kept), 7 + 4 + 13)
        self.assertGreater(max(days), 330)
        self.assertLess(max(days), 31 * 12 + 1)

    @given(st.lists(st.integers(0, 24 * 500), unique=True, min_size=1, max_size=60))
    @examples(60)
    def test_the_newest_stays_and_what_is_left_out_is_never_the_last_of_a_day_of_this_week(self, ages):
        kept = {one.at for one in self.left(ages)}
        self.assertIn(NOW - timedelta(hours=min(ages)), kept)
        for day in range(6):
            of_day = [
                NOW - timedelta(hours=age)
                for age in ages
                if (NOW - timedelta(hours=age)).date() == (NOW - day * DAY).date()
            ]
            if of_day:
                self.assertIn(max(of_day), kept)


class Copies(TransactionTestCase):
    def setUp(self):
        folder = TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        held = override_settings(BACKUPS=self.folder / "copies", FIXED_NOW=NOON)
        held.enable()
        self.addCleanup(held.disable)
        household()

    def names(self):
        return list(Household.objects.order_by("name").values_list("name", flat=True))

    def test_is_one_whole_file_that_only_its_owner_reads(self):
        made = backup.back_up()
        self.assertEqual([made.file], list((self.folder / "copies").iterdir()), "no log, no half of one beside it")
        self.assertEqual(0o600, made.file.stat().st_mode & 0o777)
        self.assertEqual((("Testgate 1", 0),), backup.look(made.file).households)
        self.assertEqual([made], backup.backups())

    def test_a_copy_goes_back_into_the_app_that_runs_and_that_is_undone_by_restoring_what_was_there(self):
        first = backup.back_up()
        household("Later 2", "second")
        self.assertEqual(["Later 2", "Testgate 1"], self.names())
        with override_settings(FIXED_NOW=NOON + DAY):
            before = backup.restore(first.file)
        self.assertEqual(["Testgate 1"], self.names())
        with connection.cursor() as cursor:
            self.assertEqual("wal", cursor.execute("PRAGMA journal_mode").fetchone()[0])
        with override_settings(FIXED_NOW=NOON + 2 * DAY):
            backup.restore(before.file)
        self.assertEqual(["Later 2", "Testgate 1"], self.names())

    def test_what_is_no_copy_of_ours_is_refused_and_nothing_changes(self):
        good = backup.back_up().file
        torn = self.folder / "torn.sqlite3"
        torn.write_bytes(good.read_bytes()[: good.stat().st_size // 2])
        words = self.folder / "words.sqlite3"
        words.write_text("not a database at all, however long it is " * 200)
        empty = self.folder / "empty.sqlite3"
        sqlite3.connect(empty).close()
        newer = self.folder / "newer.sqlite3"
        newer.write_bytes(good.read_bytes())
        with closing(sqlite3.connect(newer)) as file:
            file.execute(
                "INSERT INTO django_migrations (app, name, applied) VALUES ('machines', '9999_later', '2030-01-01')"
            )
            file.commit()
        for bad in (torn, words, empty, newer, self.folder / "nowhere.sqlite3"):
            with self.subTest(bad.name), self.assertRaises(Conflict):
                backup.restore(bad)
        self.assertEqual(["Testgate 1"], self.names())

    def test_a_full_disk_leaves_no_half_copy_and_keeps_the_others(self):
        kept = backup.back_up()
        with (
            override_settings(FIXED_NOW=NOON + DAY),
            patch("os.replace", side_effect=OSError(28, "No space left on device")),
        ):
            with self.assertRaises(OSError):
                backup.back_up()
            with self.assertRaisesRegex(CommandError, "disk of the machine"):
                call_command("backup")
        self.assertEqual([kept.file], list((self.folder / "copies").iterdir()))

    def test_each_night_has_one_and_no_more(self):
        self.assertTrue(backup.is_due(NOON))
        backup.back_up()
        self.assertFalse(backup.is_due(NOON + timedelta(hours=14)))
        self.assertTrue(backup.is_due(NOON + timedelta(hours=16)))

    def test_the_commands_copy_list_look_and_restore(self):
        told = StringIO()
        call_command("backup", stdout=told)
        file = told.getvalue().split(",")[0]
        call_command("backup", "--list", stdout=told)
        self.assertEqual(2, told.getvalue().count(file))
        household("Later 3", "third")
        call_command("restore", file, stdout=told)
        self.assertIn("Nothing was changed", told.getvalue())
        self.assertEqual(["Later 3", "Testgate 1"], self.names())
        with override_settings(FIXED_NOW=NOON + DAY):
            call_command("restore", file, "--yes", stdout=told)
        self.assertEqual(["Testgate 1"], self.names())
        with self.assertRaises(CommandError):
            call_command("restore", str(self.folder / "nowhere"), stdout=told)

    def test_on_a_new_computer_the_copy_is_all_that_is_needed(self):
        copy = backup.back_up(self.folder / "stick.sqlite3").file
        new = {"YPERON_DATABASE": str(self.folder / "new" / "y.sqlite3"), "YPERON_BACKUPS": str(self.folder / "kept")}
        (self.folder / "new").mkdir()
        for command in (["restore", str(copy), "--yes"], ["plan", "--json"]):
            done = subprocess.run(
                [sys.executable, "manage.py", *command], cwd=settings.BASE_DIR, env={**os.environ, **new},
                stdout=subprocess.PIPE, text=True, check=True,
            )  # fmt: skip
        self.assertIn("Testgate 1", done.stdout)

    def test_to_a_file_of_ones_own_leaves_the_others_alone(self):
        own = backup.back_up(self.folder / "stick" / "mine.sqlite3")
        self.assertTrue(own.file.exists())
        self.assertEqual([], backup.backups())

    def test_records_of_a_newer_yperon_are_not_touched(self):
        with (
            patch(
                "server.base.management.commands.serve.applied_migrations", return_value=[("machines", "9999_later")]
            ),
            self.assertRaisesRegex(CommandError, "newer Yperon"),
        ):
            Serve()._bring_up_to_date()


class OnTheScreen(TransactionTestCase):
    def setUp(self):
        folder = TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        held = override_settings(BACKUPS=Path(folder.name), FIXED_NOW=NOON)
        held.enable()
        self.addCleanup(held.disable)
        self.client.force_login(household().user)

    def asked(self, method, path, status):
        answer = getattr(self.client, method)(f"/api{path}")
        self.assertEqual(answer.status_code, status, answer.content)
        return answer.json()

    def test_copies_are_made_looked_into_restored_and_that_undone(self):
        made = self.asked("post", "/copies", 201)
        self.assertEqual(self.asked("get", "/copies", 200)["copies"], [made])
        inside = self.asked("get", f"/copies/{made['name']}", 200)
        self.assertEqual(inside["households"], [{"name": "Testgate 1", "machines": 0}])
        household("Testgate 2", "other")
        with override_settings(FIXED_NOW=NOON + DAY):
            before = self.asked("post", f"/copies/{made['name']}/restore", 200)["before"]
            self.assertEqual([one.name for one in Household.objects.all()], ["Testgate 1"])
        with override_settings(FIXED_NOW=NOON + 2 * DAY):
            self.client.force_login(Household.objects.get() and User.objects.get())
            self.asked("post", f"/copies/{before['name']}/restore", 200)
        self.assertEqual(Household.objects.count(), 2)

    def test_what_is_no_copy_is_not_found_and_nobody_else_sees_them(self):
        for name in ("..", "nothing.sqlite3"):
            self.asked("get", f"/copies/{name}", 404)
            self.asked("post", f"/copies/{name}/restore", 404)
        self.client.force_login(household("Testgate 2", "other").user)
        self.asked("get", "/copies", 403)

    def test_health_says_that_it_runs_and_nothing_else(self):
        self.client.logout()
        self.assertEqual(self.asked("get", "/health", 200), {"well": True, "version": build.VERSION})
        version = tomllib.loads((settings.BASE_DIR / "pyproject.toml").read_text())["project"]["version"]
        self.assertEqual(build.VERSION, version)
