"""Every example in a docstring of the core gives what stands under it."""

import doctest
import importlib
import pkgutil
from unittest import TestLoader, TestSuite

import care


def load_tests(loader: TestLoader, tests: TestSuite, pattern: str | None) -> TestSuite:
    """Collect the examples of all modules of the core."""
    for module in pkgutil.walk_packages(care.__path__, "care."):
        examples = doctest.DocTestFinder().find(importlib.import_module(module.name))
        if any(example.examples for example in examples):
            tests.addTests(doctest.DocTestSuite(module.name))
    return tests
