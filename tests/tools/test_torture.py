"""What `make torture` runs."""

from argparse import ArgumentParser
from contextlib import redirect_stderr
from io import StringIO

from django.test import SimpleTestCase

from benchmarks.torture import PARTS, chosen


class Chosen(SimpleTestCase):
    def parser(self):
        parser = ArgumentParser()
        parser.add_argument("parts", nargs="*")
        return parser

    def test_all_of_it_where_nothing_is_asked_for_and_nothing_unknown(self):
        self.assertEqual(chosen(self.parser(), []), list(PARTS))
        self.assertEqual(chosen(self.parser(), ["kills"]), ["kills"])
        with self.assertRaises(SystemExit), redirect_stderr(StringIO()):
            chosen(self.parser(), ["kisses"])
