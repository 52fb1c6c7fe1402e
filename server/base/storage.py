"""When the disk does not take what is to be kept: what is wrong with it, in words, and the way out."""

import errno
import logging
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass

from django.conf import settings
from django.db import DatabaseError, connection
from django.db.migrations.executor import MigrationExecutor

log = logging.getLogger(__name__)


@dataclass(frozen=True, slots=True)
class Trouble:
    """What keeps a record from being kept: a code, the words, what to do; `soon`: it passes by itself."""

    code: str
    detail: str
    fix: str
    soon: bool = False


FULL = Trouble(
    "disk_full",
    "The disk of the machine that runs Yperon is full; nothing was recorded.",
    "Free some space there and try again; Yperon need not be started anew.",
)
READ_ONLY = Trouble(
    "read_only",
    "Yperon may not write into its folder; nothing was recorded.",
    "Give the account that runs Yperon the right to write there, then try again.",
)
BUSY = Trouble(
    "busy", "Others are recording at this moment; nothing was recorded.", "Try again in a few seconds.", soon=True
)
UNREADABLE = Trouble(
    "unreadable",
    "The file that holds the records cannot be opened or read; nothing was recorded.",
    "Look whether its disk is there and whole. The terminal that runs Yperon says more.",
)
_SAID = (
    ("disk is full", FULL),
    ("readonly database", READ_ONLY),
    ("attempt to write", READ_ONLY),
    ("is locked", BUSY),
    ("unable to open", UNREADABLE),
    ("disk i/o error", UNREADABLE),
    ("malformed", UNREADABLE),
    ("not a database", UNREADABLE),
)
_NUMBERS = {errno.ENOSPC: FULL, errno.EDQUOT: FULL, errno.EROFS: READ_ONLY, errno.EACCES: READ_ONLY}


def trouble_of(error: BaseException | None) -> Trouble | None:
    """What is wrong with the disk if that is why `error` was raised; None for any other error."""
    if isinstance(error, DatabaseError):
        said = str(error).lower()
        return next((trouble for words, trouble in _SAID if words in said), None)
    if isinstance(error, OSError):
        return _NUMBERS.get(error.errno or 0)
    return None


def is_up_to_date() -> bool:
    """Whether the database is there with every table the code expects, so that it can at least be read."""
    try:
        made = MigrationExecutor(connection)
        return not made.migration_plan(made.loader.graph.leaf_nodes())
    except DatabaseError:
        return False


def applied_migrations() -> list[tuple[str, str]]:
    """The steps that brought the database to its shape; none where there is no database yet."""
    return list(MigrationExecutor(connection).loader.applied_migrations)


def is_behind() -> bool:
    """Whether there is a database, made by an older Yperon."""
    return bool(applied_migrations()) and not is_up_to_date()


def checkpoint() -> None:
    """Write what waits in the log into the database itself, so that one file holds everything once nobody serves it."""
    try:
        with connection.cursor() as cursor:
            cursor.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    except DatabaseError as error:
        log.warning("the log stays beside the database: %s", error)


def folder() -> str:
    """Where the records are kept, for words in the terminal."""
    return str(settings.DATABASES["default"]["NAME"])


@contextmanager
def snapshot() -> Iterator[None]:
    """Let everything that is read inside be of one instant, while others go on recording."""
    if connection.in_atomic_block:
        yield
        return
    with connection.cursor() as cursor:
        cursor.execute("BEGIN DEFERRED")
        try:
            yield
        finally:
            cursor.execute("ROLLBACK")


def analyse() -> None:
    """Let the database look at a sample of its tables, so that it reads a few rows by their ids and not by whose they
    are: all of a household's may be all there are. A few milliseconds; at the start, each night, after much came in.
    """
    try:
        with connection.cursor() as cursor:
            cursor.execute("PRAGMA analysis_limit = 1000")
            cursor.execute("ANALYZE")
    except DatabaseError as error:
        log.warning("the tables could not be looked at: %s", error)
