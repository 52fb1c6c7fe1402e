"""Tables as CSV files to take away, in this one place."""

import csv
from collections.abc import Iterable, Sequence

from django.http import HttpResponse


def csv_file(name: str, head: Sequence[str], rows: Iterable[Sequence[object]]) -> HttpResponse:
    """A file `name`.csv in UTF-8 with a line of column names."""
    answer = HttpResponse(content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{name}.csv"'
    out = csv.writer(answer)
    out.writerow(head)
    out.writerows([_plain(cell) for cell in row] for row in rows)
    return answer


def _plain(cell: object) -> object:
    """A cell that no spreadsheet takes for a formula."""
    return f"'{cell}" if isinstance(cell, str) and cell[:1] in ("=", "+", "-", "@", "\t", "\r") else cell
