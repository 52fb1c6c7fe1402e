"""The checks themselves: a failing one is named, the rest still run, and the last line counts the tests."""

import io
import socket
import sys
import tempfile
from contextlib import redirect_stdout
from pathlib import Path
from unittest.mock import patch

from django.core.management import CommandError, call_command
from django.test import SimpleTestCase, TestCase

from tools import check
from tools.check import Outcome

PASSED = Outcome(True, "")


def counted(passed, failed=0):
    """A shard of tests that ran."""
    return lambda: Outcome(not failed, f"{passed} passed, {failed} failed", (passed, failed, 0))


class TheRun(SimpleTestCase):
    def run_with(self, shards, contract=PASSED):
        """All checks, with commands that pass, and these outcomes for the contract and the shards of tests."""
        heard = io.StringIO()
        with (
            patch.object(check, "npm", return_value=["npm"]),
            patch.object(check, "_command", return_value=Outcome(True, "")),
            patch.object(check, "_generated_types", return_value=PASSED),
            patch.object(check, "_contract", return_value=contract),
            patch.object(check, "_tests", return_value=shards),
            redirect_stdout(heard),
        ):
            code = check.main()
        return code, heard.getvalue().splitlines()

    def test_that_passes_ends_with_the_count_of_all_shards(self):
        code, lines = self.run_with({"core": counted(12), "screens": counted(3)})
        self.assertEqual((code, lines[-2:]), (0, ["All checks passed.", "15 passed, 0 failed"]))

    def test_names_what_failed_prints_it_and_goes_on(self):
        code, lines = self.run_with({"core": counted(12)}, Outcome(False, "the contract moved"))
        self.assertEqual((code, lines[-2:]), (1, ["Failed: API contract", "12 passed, 0 failed"]))
        self.assertIn("the contract moved", lines)

    def test_a_shard_without_a_count_never_reads_as_passed(self):
        code, lines = self.run_with({"core": counted(12, 1), "screens": lambda: Outcome(False, "the runner broke")})
        self.assertEqual((code, lines[-1]), (1, "12 passed, 2 failed"))

    def test_every_module_of_tests_stands_in_one_shard(self):
        listed = [label for labels in check.shards().values() for label in labels]
        self.assertEqual(len(listed), len(set(listed)))
        self.assertEqual(set(listed), {"care", "tools", *check.modules("server"), *check.modules("web")})


class Comparing(SimpleTestCase):
    def test_shows_the_lines_that_differ_and_how_to_mend_them(self):
        with tempfile.TemporaryDirectory() as folder:
            committed = Path(folder) / "openapi.json"
            committed.write_text("one\ntwo\n")
            self.assertTrue(check._same(committed, "one\ntwo", "make contract").ok)
            outcome = check._same(committed, "one\nthree", "make contract")
        self.assertFalse(outcome.ok)
        self.assertIn("-two", outcome.output)
        self.assertIn("Run: make contract", outcome.output)

    def test_a_command_s_words_are_kept_with_its_failure(self):
        outcome = check._command([sys.executable, "-c", "import sys; print('oh dear', file=sys.stderr); sys.exit(2)"])
        self.assertEqual((outcome.ok, outcome.output.strip()), (False, "oh dear"))


class Serving(TestCase):
    def test_a_port_that_is_taken_says_so_and_names_another(self):
        with socket.socket() as taken:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            with self.assertRaises(CommandError) as refused:
                call_command("serve", port=taken.getsockname()[1], stdout=io.StringIO())
        self.assertIn("is taken", str(refused.exception))
        self.assertIn("PORT=8001", str(refused.exception))
