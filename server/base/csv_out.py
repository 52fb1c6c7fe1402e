"""Tables as CSV files to take away, in this one place."""

import csv
from collections.abc import Iterable
from dataclasses import astuple, fields
from typing import Any

from django.http import HttpResponse


def csv_file(name: str, of: type[Any], rows: Iterable[Any]) -> HttpResponse:
    """A file `name`.csv in UTF-8: rows of one dataclass, whose fields are the columns."""
    answer = HttpResponse(content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{name}.csv"'
    out = csv.writer(answer)
    out.writerow([field.name.replace("_", " ") for field in fields(of)])
    out.writerows([_plain(cell) for cell in astuple(row)] for row in rows)
    return answer


def _plain(cell: object) -> object:
    """A cell that no spreadsheet takes for a formula."""
    return f"'{cell}" if isinstance(cell, str) and cell[:1] in ("=", "+", "-", "@", "\t", "\r") else cell
