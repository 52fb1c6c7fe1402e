"""The command of an installed package."""

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

    def test_a_setting_that_is_wrong_is_named_in_one_line(self):
        asked = [sys.executable, "-m", "server.config.cli", "due"]
        env = {**os.environ, "YPERON_DEBUG": "maybe"}
        done = subprocess.run(asked, cwd=settings.BASE_DIR, env=env, capture_output=True, text=True)
        self.assertEqual((done.returncode, done.stderr), (2, "yperon: YPERON_DEBUG is 'maybe': set it to 1 or 0\n"))
