"""The command of an installed package."""

import json
import os
import subprocess
import sys
from contextlib import redirect_stdout
from io import StringIO
from unittest.mock import patch

from django.conf import settings
from django.core.management import get_commands
from django.test import SimpleTestCase

from server.config import cli


class TheCommand(SimpleTestCase):
    def told(self, *words):
        out = StringIO()
        with patch.object(sys, "argv", ["yperon", *words]), redirect_stdout(out):
            return cli.main(), out.getvalue()

    def test_says_what_there_is_and_all_of_it_is_there(self):
        code, text = self.told()
        self.assertEqual(code, 0)
        self.assertEqual(self.told("sweep")[0], 2)
        for name, (behind, does) in cli.COMMANDS.items():
            self.assertIn(behind, get_commands())
            self.assertIn(f"{name:<12} {does}", text)

    def test_the_log_is_words_or_an_object_a_line_and_names_nobody(self):
        told = "import logging, django; django.setup(); logging.getLogger('yperon').warning('%s', 'it runs')"
        env = {**os.environ, "DJANGO_SETTINGS_MODULE": "server.config.settings"}
        for form, line in (("lines", "it runs"), ("json", '"message": "it runs"')):
            asked = [sys.executable, "-c", told]
            done = subprocess.run(
                asked, cwd=settings.BASE_DIR, env={**env, "YPERON_LOG": form}, capture_output=True, text=True
            )
            self.assertIn(line, done.stderr)
        self.assertEqual(json.loads(done.stderr)["levelname"], "WARNING")

    def test_a_setting_that_is_wrong_is_named_in_one_line(self):
        asked = [sys.executable, "-m", "server.config.cli", "due"]
        env = {**os.environ, "YPERON_DEBUG": "maybe"}
        done = subprocess.run(asked, cwd=settings.BASE_DIR, env=env, capture_output=True, text=True)
        self.assertEqual((done.returncode, done.stderr), (2, "yperon: YPERON_DEBUG is 'maybe': set it to 1 or 0\n"))
