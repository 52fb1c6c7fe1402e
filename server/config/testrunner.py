"""Django's test runner with a closing line that says how many tests passed and failed."""

from typing import Any
from unittest import TestSuite, TextTestResult

from django.conf import settings
from django.db import connections
from django.test.runner import DiscoverRunner


class CountingRunner(DiscoverRunner):
    """Prints `N passed, N failed` as its last line."""

    def setup_test_environment(self, **kwargs: Any) -> None:
        """What makes data safe takes time and is not what tests are about: a slow hash, and waiting for the disk."""
        super().setup_test_environment(**kwargs)
        settings.LIVE = False  # or every page of a test holds a thread; what is about it switches it on
        settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
        options = connections["default"].settings_dict["OPTIONS"]
        options["init_command"] = options["init_command"].replace("synchronous=FULL", "synchronous=OFF")

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
