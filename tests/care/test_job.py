"""Every row of the job stands in docs/job.md, and what it names is there."""

from django.test import SimpleTestCase

from tests.care.job import lacks, rows

ROWS = 418
"""Facts of the job."""
LEFT_OUT = 8
"""So many rows at most may be left out, with a reason."""


class TheJob(SimpleTestCase):
    def test_each_row_stands_once_and_names_where_to_see_it(self):
        told = rows()
        self.assertEqual([row.id for row in told], [f"J{n:03d}" for n in range(1, ROWS + 1)])
        bare = [row.id for row in told if not row.checks]
        self.assertLessEqual(len(bare), LEFT_OUT, f"rows without anything to look at: {bare}")

    def test_what_the_rows_name_is_there(self):
        for row in rows():
            for check in row.checks:
                with self.subTest(row.id, check=check):
                    self.assertEqual(lacks(check), "")
