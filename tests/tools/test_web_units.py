"""The front end's own unit tests, each told as a test here, so that one runner counts them all."""

import json
import subprocess
import tempfile
from pathlib import Path
from unittest import TestCase, TestSuite

from tools.prepare import WEB, npm


class Unit(TestCase):
    """One unit test of the front end, which ran before."""

    def __init__(self, told):
        super().__init__("ran")
        self.told = told

    def ran(self):
        """Whether it passed there."""
        self.assertEqual(self.told["status"], "passed", "\n".join(self.told["failureMessages"]))

    def id(self):
        """Its name in the front end."""
        return f"web.{self.told['fullName']}"

    def __eq__(self, other):
        """Two of one name would be one: the runner keeps each once."""
        return isinstance(other, Unit) and self.id() == other.id()

    def __hash__(self):
        return hash(self.id())

    __str__ = id


class Runs(TestCase):
    def ran(self):
        """That the runner of the front end ran at all."""
        self.fail(f"the front end's tests did not run:\n{self.said}")


def load_tests(loader, tests, pattern):
    """Run them all at once, and give each as a test."""
    with tempfile.TemporaryDirectory() as folder:
        told = Path(folder) / "units.json"
        command = [*npm(), "exec", "--", "vitest", "run", "--reporter=json", f"--outputFile={told}"]
        done = subprocess.run(command, cwd=WEB, capture_output=True, text=True, check=False)
        found = json.loads(told.read_text())["testResults"] if told.exists() else []
    each = [Unit(one) for file in found for one in file["assertionResults"]]
    if not each or (done.returncode and all(one.told["status"] == "passed" for one in each)):
        broken = Runs("ran")
        broken.said = done.stdout + done.stderr
        each.append(broken)
    return TestSuite(each)
