"""Reading tables that people give as CSV: whatever encoding and separator a spreadsheet wrote, faults by line."""

import csv
import io
from codecs import BOM_UTF16_BE, BOM_UTF16_LE
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import TypeVar

from care.errors import CareError, InvalidValue, require

T = TypeVar("T")
MOST_TOLD = 50
"""How many bad lines are told of at once."""
SEPARATORS = (",", ";", "\t")
SAVE_AS = "Save it as CSV with the encoding UTF-8."


@dataclass(frozen=True, slots=True)
class LineProblem:
    """What is wrong with a line of a list: its number (from 1, the header counted), and how to mend it."""

    line: int
    problem: str
    fix: str


class BadLines(InvalidValue):
    """A list of which some lines cannot be read; nothing of it is taken."""

    code = "bad_lines"

    def __init__(self, problems: Sequence[LineProblem]) -> None:
        first = problems[0]
        more = f", and {len(problems) - 1} more" if len(problems) > 1 else ""
        super().__init__(
            f"line {first.line}: {first.problem}{more}",
            field="file",
            fix=first.fix,
            lines=[{"line": p.line, "problem": p.problem, "fix": p.fix} for p in problems[:MOST_TOLD]],
        )


def text_of(data: bytes, most_bytes: int) -> str:
    """A file's text, of UTF-8 or UTF-16 with its mark. Raises `InvalidValue` for what is neither, or too large."""
    require(len(data) <= most_bytes, "file", f"{len(data)} bytes", f"at most {most_bytes} bytes")
    wide = data[:2] in (BOM_UTF16_LE, BOM_UTF16_BE)
    try:
        return data.decode("utf-16" if wide else "utf-8-sig")
    except UnicodeDecodeError as error:
        raise InvalidValue(f"file: not UTF-8 at byte {error.start}", field="file", fix=SAVE_AS) from error


def rows_of(text: str, columns: Sequence[str], needed: Iterable[str]) -> list[tuple[int, Mapping[str, str]]]:
    """The lines of a CSV with their numbers, by column, empty ones left out; the header may have any of `columns`.

    Raises `InvalidValue` for a file that is none, or for columns that are missing or unknown.
    """
    rows = csv.reader(io.StringIO(text, newline=""), delimiter=_separator(text))
    try:
        header = [name.strip().lower().replace(" ", "_") for name in next(rows, [])]
        _check_columns(header, columns, needed)
        lines = [(rows.line_num, row) for row in rows if any(cell.strip() for cell in row)]
    except csv.Error as error:
        words = f"file: no CSV: {error} in line {rows.line_num}"
        raise InvalidValue(words, field="file", fix=SAVE_AS) from error
    return [(n, {name: cell.strip() for name, cell in zip(header, row, strict=False)}) for n, row in lines]


def all_good(lines: Iterable[tuple[int, T]], make: Callable[[int, T], None]) -> None:
    """`make` something of every line; of those that are refused all are told. Raises `BadLines`."""
    problems: list[LineProblem] = []
    for line, cells in lines:
        try:
            make(line, cells)
        except CareError as error:
            problems.append(LineProblem(line, error.detail, error.fix))
    if problems:
        raise BadLines(problems)


def _separator(text: str) -> str:
    """What stands most often in the header."""
    header = text.split("\n", 1)[0]
    return max(SEPARATORS, key=header.count)


def _check_columns(header: Sequence[str], columns: Sequence[str], needed: Iterable[str]) -> None:
    missing = [name for name in needed if name not in header]
    unknown = [name for name in header if name not in columns]
    found = ", ".join(header) or "none"
    require(not missing, "columns", found, f"the columns {', '.join(columns)} (missing: {', '.join(missing)})")
    require(not unknown, "columns", ", ".join(unknown) or "one without a name", f"only {', '.join(columns)}")
