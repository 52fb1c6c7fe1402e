"""The set-up: does what is missing, does it once, and says what to do when it cannot."""

import io
import sys
import tempfile
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path
from unittest.mock import patch

from django.test import SimpleTestCase

from tools import prepare


class PrepareTestCase(SimpleTestCase):
    """A made-up checkout in a folder of its own; commands are noted, not run."""

    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.root = Path(folder.name)
        self.ran: list[str] = []
        places = {"ROOT": self.root, "VENV": self.root / ".venv", "WEB": self.root / "web"}
        for name, path in {**places, "STAMPS": self.root / "var" / "prepared"}.items():
            self.swap(name, path)
        self.swap("_run", lambda what, *rest, **more: self.ran.append(what))
        for name in ("requirements.lock", "requirements-dev.lock", "requirements-node.lock"):
            (self.root / name).write_text(name)
        (self.root / "web" / "node_modules").mkdir(parents=True)
        (self.root / "web" / "package-lock.json").write_text("{}")
        for tool in ("python", "pip"):
            path = self.root / ".venv" / "bin" / tool
            path.parent.mkdir(parents=True, exist_ok=True)
            path.touch()

    def swap(self, name, value):
        change = patch.object(prepare, name, value)
        change.start()
        self.addCleanup(change.stop)


class Once(PrepareTestCase):
    def test_a_second_start_installs_nothing(self):
        prepare.python_packages()
        prepare.python_packages()
        self.assertEqual(self.ran, ["Python packages (app)"])

    def test_a_changed_lock_installs_again(self):
        prepare.dev_packages()
        (self.root / "requirements-dev.lock").write_text("newer")
        prepare.dev_packages()
        self.assertEqual(self.ran, ["Python packages (dev)"] * 2)

    def test_the_larger_set_serves_the_app_too(self):
        prepare.dev_packages()
        prepare.python_packages()
        self.assertEqual(self.ran, ["Python packages (dev)"])

    def test_the_front_end_is_built_again_when_a_source_changed(self):
        source = self.root / "web" / "App.svelte"
        for text in ("one", "one", "two"):
            source.write_text(text)
            prepare.front_end()
            (self.root / "web" / "dist").mkdir(exist_ok=True)
            (self.root / "web" / "dist" / "index.html").touch()
        self.assertEqual(self.ran.count("front end"), 2)
        self.assertEqual(self.ran.count("npm packages"), 1)


class Node(PrepareTestCase):
    def test_the_system_s_is_taken_only_when_it_is_new_enough(self):
        with patch.object(prepare.shutil, "which", return_value="/usr/bin/node"):
            with patch.object(prepare, "_node_version", return_value=(20, 19)):
                self.assertEqual(prepare.npm(), ["npm"])
            with patch.object(prepare, "_node_version", return_value=(18, 19)):
                self.assertEqual(prepare.npm(), [str(self.root / ".venv/bin/npm")])
        self.assertEqual(self.ran, ["Node"])

    def test_something_that_is_no_node_counts_as_too_old(self):
        self.assertEqual(prepare._node_version("/bin/echo"), (0, 0))


class Trouble(SimpleTestCase):
    def test_a_step_that_fails_says_which_and_what_it_printed(self):
        with redirect_stdout(io.StringIO()), self.assertRaises(prepare.SetUpError) as refused:
            prepare._run("a broken step", [sys.executable, "-c", "print('out of paper'); raise SystemExit(3)"])
        self.assertIn("a broken step failed", str(refused.exception))
        self.assertIn("out of paper", str(refused.exception))

    def test_another_python_is_refused_with_the_way_out(self):
        heard = io.StringIO()
        with patch.object(prepare.sys, "version_info", (3, 9, 1)), redirect_stderr(heard):
            self.assertEqual(prepare.main("app"), 1)
        self.assertIn("Python 3.9", heard.getvalue())
        self.assertIn("make PYTHON=", heard.getvalue())

    def test_without_root_a_missing_debian_package_names_the_command(self):
        with patch.object(prepare.os, "geteuid", return_value=1000), self.assertRaises(prepare.SetUpError) as refused:
            prepare._apt("chromium-headless-shell")
        self.assertIn("sudo apt-get install chromium-headless-shell", str(refused.exception))


class Promises(SimpleTestCase):
    """What README and changelog name is there."""

    ROOT = Path(__file__).resolve().parents[2]

    def test_every_command_of_the_readme_is_a_target(self):
        targets = {line.split(":")[0] for line in (self.ROOT / "Makefile").read_text().splitlines() if ": ##" in line}
        named = {word.split()[1] for word in (self.ROOT / "README.md").read_text().split("`") if word[:5] == "make "}
        self.assertLessEqual({name.strip() for name in named}, targets)
        self.assertLessEqual({"demo", "test", "serve", "fmt", "bench", "screenshots"}, targets)

    def test_every_picture_the_readme_shows_exists(self):
        text = (self.ROOT / "README.md").read_text()
        shown = [part.split(")")[0] for part in text.split("](")[1:] if part.startswith("docs/")]
        self.assertGreater(len(shown), 5)
        for path in shown:
            self.assertTrue((self.ROOT / path).exists(), path)

    def test_no_lock_file_names_an_address(self):
        for name in ("requirements.lock", "requirements-dev.lock", "requirements-node.lock"):
            self.assertNotIn("://", (self.ROOT / name).read_text(), name)
        self.assertNotIn('"resolved"', (self.ROOT / "web" / "package-lock.json").read_text())
