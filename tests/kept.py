"""Databases that tests begin with, made once and kept by a hash of all that they are made from."""

import fcntl
import sqlite3
from collections.abc import Callable, Iterable
from hashlib import sha256
from pathlib import Path

from django.conf import settings
from django.db import connection


def kept(name: str, made_from: Iterable[bytes], make: Callable[[], object]) -> Path:
    """The file of a database; where there is none, what `make` leaves in the database of the tests becomes it.

    Several shards ask at once: one makes it, the others wait.
    """
    hashed = sha256(b"\0".join(made_from)).hexdigest()[:16]
    folder = Path(settings.VAR_DIR) / "tests"
    path = folder / f"{name}-{hashed}.sqlite3"
    folder.mkdir(parents=True, exist_ok=True)
    with (folder / f"{name}.lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not path.exists():
            make()
            for old in folder.glob(f"{name}-{'[0-9a-f]' * 16}.sqlite3"):
                old.unlink()
            _copy(path)
    return path


def _copy(path: Path) -> None:
    fresh = path.with_suffix(".new")
    with sqlite3.connect(fresh) as into:
        connection.ensure_connection()
        connection.connection.backup(into)
    into.close()
    fresh.replace(path)


__all__ = ["kept"]
