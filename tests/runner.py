"""Django's test runner with a closing line that says how many tests passed and failed."""

import shutil
from pathlib import Path
from typing import Any
from unittest import TestSuite, TextTestResult

from django.conf import settings
from django.db import connections
from django.test.runner import DiscoverRunner

from tests.kept import kept


def _migrations() -> list[bytes]:
    """All that the tables of an empty database are made from."""
    files = [*Path(settings.BASE_DIR).glob("server/*/migrations/*.py"), Path(settings.BASE_DIR) / "requirements.lock"]
    return [file.read_bytes() for file in sorted(files)]


class CountingRunner(DiscoverRunner):
    """Prints `N passed, N failed` as its last line."""

    def setup_test_environment(self, **kwargs: Any) -> None:
        """What makes data safe takes time and is not what tests are about: a slow hash, and waiting for the disk."""
        super().setup_test_environment(**kwargs)
        settings.LIVE = False  # or every page of a test holds a thread; what is about it switches it on
        settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
        options = connections["default"].settings_dict["OPTIONS"]
        options["init_command"] = options["init_command"].replace("synchronous=FULL", "synchronous=OFF")

    def setup_databases(self, **kwargs: Any) -> Any:
        """Begin with a copy of the tables as an earlier run left them: migrating takes longer than most tests do."""
        if "default" not in kwargs.get("aliases", ()):
            return super().setup_databases(**kwargs)
        made: list[Any] = []
        migrate = super().setup_databases
        tables = kept("tables", _migrations(), lambda: made.extend(migrate(**kwargs)))
        if made:
            return made
        database = Path(connections["default"].settings_dict["TEST"]["NAME"])
        for left in ("-wal", "-shm"):  # of a run that was stopped: they belong to another file
            database.with_name(database.name + left).unlink(missing_ok=True)
        shutil.copyfile(tables, database)
        asked, self.keepdb = self.keepdb, True  # only while it is set up
        made = migrate(**kwargs)
        self.keepdb = asked
        return made

    def run_suite(self, suite: TestSuite, **kwargs: Any) -> TextTestResult:
        """Run the suite and keep the counts for the closing line."""
        result = super().run_suite(suite, **kwargs)
        failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
        skipped = f", {len(result.skipped)} skipped" if result.skipped else ""
        self.closing = f"{result.testsRun - failed - len(result.skipped)} passed, {failed} failed{skipped}"
        return result

    def run_tests(self, test_labels: list[str], **kwargs: Any) -> int:
        """Run everything; the closing line comes after the database is gone."""
        failures = super().run_tests(test_labels, **kwargs)
        print(self.closing, flush=True)
        return failures
