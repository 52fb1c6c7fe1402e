"""Copies of the whole database: made while it is in use, read back before they count, kept for a year, restored.

Photos lie in the database, so a copy is everything but the secret key, which only says who is signed in.
"""

import os
import re
import sqlite3
from collections.abc import Callable, Iterable, Iterator
from contextlib import closing, contextmanager
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path

from django.conf import settings
from django.db import connection
from django.db.migrations.loader import MigrationLoader

from server.base import clock
from server.base.problems import Conflict

NAME = re.compile(r".+-(\d{8}T\d{6})Z\.sqlite3")
STAMP = "%Y%m%dT%H%M%S"
DAYS, WEEKS, MONTHS = 7, 4, 12
"""So long the last copy of each day, week and month is kept. Ours."""
PAGES = 256
"""So many pages are copied at once, so that whoever writes meanwhile waits for a blink."""


@dataclass(frozen=True, slots=True)
class Backup:
    """A copy: where it is, when it was made, how large it is [bytes]."""

    file: Path
    at: datetime
    size: int


@dataclass(frozen=True, slots=True)
class Inside:
    """What a copy holds: households with how many machines each, records, the day of the last one (None: none)."""

    households: tuple[tuple[str, int], ...]
    records: int
    last_record: str | None


def folder() -> Path:
    """Where copies are kept."""
    return Path(settings.BACKUPS)


def backups() -> list[Backup]:
    """All copies of this database, newest first. What is not named as one is none."""
    made = []
    for file in folder().glob(f"{_stem()}-*.sqlite3") if folder().exists() else ():
        if match := NAME.fullmatch(file.name):
            at = datetime.fromisoformat(f"{match[1]}Z")
            made.append(Backup(file, at, file.stat().st_size))
    return sorted(made, key=lambda one: one.at, reverse=True)


def back_up(to: Path | None = None) -> Backup:
    """A copy of the database as it is now, read back before it counts; old ones are left out by the rotation.

    `to` puts it somewhere else, where nothing is left out. Raises `OSError` or `sqlite3.Error` where the disk takes
    nothing: then there is no half of one.
    """
    now = clock.now()
    target = to or folder() / f"{_stem()}-{now:{STAMP}}Z.sqlite3"
    target.parent.mkdir(parents=True, exist_ok=True)
    part = target.with_name(target.name + ".part")
    try:
        part.unlink(missing_ok=True)
        part.touch(mode=0o600)
        with _opened(_database()) as source, closing(sqlite3.connect(part)) as copy:
            source.backup(copy, pages=PAGES)
            copy.execute("PRAGMA journal_mode=DELETE")  # one file, without a log beside it
        look(part)
        with part.open("rb") as written:
            os.fsync(written.fileno())
        os.replace(part, target)
    finally:
        part.unlink(missing_ok=True)
    if to is None:
        for old in superfluous(backups(), now):
            old.file.unlink(missing_ok=True)
    return Backup(target, now, target.stat().st_size)


def superfluous(made: Iterable[Backup], now: datetime) -> list[Backup]:
    """The copies that are kept for no day, week or month any more. The newest is always kept."""
    newest_first = sorted(made, key=lambda one: one.at, reverse=True)
    kept: set[Path] = {one.file for one in newest_first[:1]}
    spans: tuple[tuple[Callable[[datetime], str], timedelta], ...] = (
        (lambda at: f"{at:%Y-%m-%d}", timedelta(days=DAYS)),
        (lambda at: f"{at:%G-%V}", timedelta(weeks=WEEKS)),
        (lambda at: f"{at:%Y-%m}", timedelta(days=31 * MONTHS)),
    )
    for name, long in spans:
        last_of: dict[str, Backup] = {}
        for one in newest_first:
            if now - one.at <= long:
                last_of.setdefault(name(one.at), one)
        kept |= {one.file for one in last_of.values()}
    return [one for one in newest_first if one.file not in kept]


def look(file: Path) -> Inside:
    """What a copy holds. Raises `Conflict` for a file that is none, is damaged, or comes from a newer Yperon."""
    with _opened(file) as copy:
        try:
            [verdict] = copy.execute("PRAGMA integrity_check(1)").fetchone()
            applied = set(copy.execute("SELECT app, name FROM django_migrations"))
            households = copy.execute(
                "SELECT h.name, (SELECT count(*) FROM machines_machine m WHERE m.household_id = h.id)"
                " FROM household_household h ORDER BY h.name"
            ).fetchall()
            records, last = copy.execute("SELECT count(*), max(happened_at) FROM logbook_entry").fetchone()
        except sqlite3.DatabaseError as error:
            raise _no_backup(file) from error
    if verdict != "ok":
        raise _no_backup(file)
    if newer := unknown_migrations(applied):
        raise Conflict(
            f"file: {file.name} was made by a newer Yperon (it has {newer[0]})",
            field="file",
            fix="Bring this Yperon up to date first.",
        )
    return Inside(tuple(households), records, str(last)[:10] if last else None)


def _no_backup(file: Path) -> Conflict:
    return Conflict(
        f"file: {file.name} is no backup of Yperon, or it is damaged", field="file", fix="Choose another one."
    )


def unknown_migrations(applied: Iterable[tuple[str, str]]) -> list[str]:
    """Steps of a database that this code does not know: it comes from a newer one."""
    known = MigrationLoader(None, ignore_no_migrations=True)
    ours = set(known.disk_migrations) | {key for one in known.disk_migrations.values() for key in one.replaces}
    return sorted(f"{app} {name}" for app, name in applied if app in known.migrated_apps and (app, name) not in ours)


def restore(file: Path) -> Backup | None:
    """Put a copy in the place of the database, also of one that is in use. What was there is backed up first and told:
    restoring that undoes it; None where there was nothing. Raises `Conflict` as `look` does, and then changes nothing.
    """
    look(file)
    before = back_up() if _database().exists() and connection.introspection.table_names() else None
    connection.close()
    with _opened(file) as copy, closing(sqlite3.connect(_database(), timeout=30)) as live:
        copy.backup(live)
    return before


def is_due(now: datetime) -> bool:
    """Whether the night's copy has not been made yet: none since three in the morning of UTC."""
    night = now.replace(hour=3, minute=0, second=0, microsecond=0)
    night = night if night <= now else night - timedelta(days=1)
    newest = next(iter(backups()), None)
    return newest is None or newest.at < night


def _stem() -> str:
    """What copies are called by: the demo's stand beside those of a household of one's own, and are no others'."""
    return _database().stem


def _database() -> Path:
    return Path(str(connection.settings_dict["NAME"]))


@contextmanager
def _opened(file: Path) -> Iterator[sqlite3.Connection]:
    """A database that is only read. Raises `Conflict` for one that is not there."""
    if not file.is_file():
        raise Conflict(f"file: there is no {file}", field="file", fix="Look how it is spelt.")
    with closing(sqlite3.connect(f"{file.resolve().as_uri()}?mode=ro", uri=True, timeout=30)) as opened:
        yield opened
