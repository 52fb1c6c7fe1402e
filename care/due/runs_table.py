"""Runs as a table: a line says which machine ran on which day for how long, and what else is known of it.

Columns: machine, day, minutes, started, mopped, id. Days are 2026-11-28 or 28.11.2026; minutes may have a point or a
comma. A line without an id gets one from what it says, so that the same file again brings nothing twice.
"""

from collections import Counter
from collections.abc import Collection, Mapping
from dataclasses import dataclass
from datetime import date, datetime, time
from uuid import UUID, uuid5

from care.errors import InvalidValue, require
from care.tables import all_good, rows_of, text_of

COLUMNS = ("machine", "day", "minutes", "started", "mopped", "id")
NEEDED = COLUMNS[:3]
MOST_BYTES = 5_000_000
MOST_LINES = 20_000
DAYS = ("%Y-%m-%d", "%d.%m.%Y")
TIMES = ("%H:%M", "%H:%M:%S")
YES, NO = ("yes", "true", "1"), ("no", "false", "0")


@dataclass(frozen=True, slots=True)
class RunLine:
    """One run of a table: its line, the machine by its name, how long it ran [min], the rest where it is known."""

    line: int
    id: UUID
    machine: str
    day: date
    minutes: float
    started: time | None = None
    mopped: bool | None = None


def read_runs(data: bytes, space: UUID, machines: Collection[str]) -> list[RunLine]:
    """The runs of a table of these `machines`; ids of lines without one are made within `space`, the household.

    Raises `InvalidValue` for a file that is none, `BadLines` for lines that are wrong; then none of them counts.
    """
    rows = rows_of(text_of(data, MOST_BYTES), COLUMNS, NEEDED)
    require(0 < len(rows) <= MOST_LINES, "file", f"{len(rows)} lines", f"1 to {MOST_LINES} lines")
    runs: list[RunLine] = []
    seen: Counter[str] = Counter()
    names = {name.strip().lower(): name for name in machines}
    all_good(rows, lambda line, row: runs.append(_run(line, row, space, names, seen)))
    return runs


def _run(line: int, row: Mapping[str, str], space: UUID, names: Mapping[str, str], seen: Counter[str]) -> RunLine:
    named = row.get("machine", "")
    known = ", ".join(sorted(names.values())) or "a machine that is set up"
    require(named.lower() in names, "machine", repr(named[:60]), f"one of: {known}")
    machine = names[named.lower()]
    day, minutes = _day(row.get("day", "")), _minutes(row.get("minutes", ""))
    started = _time(row["started"]) if row.get("started") else None
    said = f"{machine.lower()} {day} {started} {minutes:g}"
    seen[said] += 1
    run_id = _id(row["id"]) if row.get("id") else uuid5(space, f"run {said} {seen[said]}")
    return RunLine(line, run_id, machine, day, minutes, started, _yes(row.get("mopped", "")))


def _day(text: str) -> date:
    for form in DAYS:
        try:
            return datetime.strptime(text, form).date()  # noqa: DTZ007 - a day has no zone
        except ValueError:
            continue
    raise _refused("day", text, "a day such as 2026-11-28")


def _time(text: str) -> time:
    for form in TIMES:
        try:
            return datetime.strptime(text, form).time()  # noqa: DTZ007 - a time of day of the household
        except ValueError:
            continue
    raise _refused("started", text, "a time such as 09:30")


def _minutes(text: str) -> float:
    try:
        minutes = float(text.replace(",", "."))
    except ValueError as error:
        raise _refused("minutes", text, "a number of minutes such as 42.5") from error
    require(0 < minutes <= 1440, "minutes", text, "more than 0 and at most 1440 minutes (24 h)")
    return minutes


def _yes(text: str) -> bool | None:
    word = text.lower()
    require(not word or word in YES + NO, "mopped", text, "yes or no, or nothing where nobody knows")
    return word in YES if word else None


def _id(text: str) -> UUID:
    try:
        return UUID(text)
    except ValueError as error:
        raise _refused("id", text, "an id as it was taken out, or nothing") from error


def _refused(field: str, got: str, limit: str) -> InvalidValue:
    return InvalidValue(f"{field}: got {got[:40]!r}, needs {limit}", field=field, fix=f"Give {limit}.")
