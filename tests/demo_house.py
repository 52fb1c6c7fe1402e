"""The demo household as a database, lived through once and kept by a hash of all that it is made from."""

import fcntl
import sqlite3
from datetime import UTC, datetime, time
from functools import cache
from hashlib import sha256
from pathlib import Path

from django.conf import settings
from django.db import connection, transaction

from demo.quillgate import load
from demo.story import ANCHOR
from server.base import build, clock
from server.due.stored import board_rows
from server.household.models import Household, Member
from server.household.services import owner_of

NOW = datetime.combine(ANCHOR, time(9), UTC)
"""A Tuesday at nine, before the robot's usual run."""
ROOT = Path(settings.BASE_DIR)


@cache
def template(now: datetime = NOW) -> Path:
    """The file of the demo household at an instant, with what Round keeps of it; made where there is none."""
    path = settings.VAR_DIR / "tests" / f"quillgate-{now:%Y%m%d}-{_made_from(now)}.sqlite3"
    path.parent.mkdir(parents=True, exist_ok=True)
    with (path.parent / f"quillgate-{now:%Y%m%d}.lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)  # several shards ask for it at once: one lives it through, the others wait
        if not path.exists():
            _live(path, now)
    return path


def _made_from(now: datetime) -> str:
    hashed = sha256(f"{build.code()} {now}".encode())
    for file in sorted([*(ROOT / "demo").rglob("*.py"), *(ROOT / "care").rglob("*.toml"), Path(__file__)]):
        hashed.update(file.read_bytes())
    return hashed.hexdigest()[:16]


def _live(path: Path, now: datetime) -> None:
    with transaction.atomic():
        member = load(now=now, user_name="keeper", password="quillgate")
        with clock.at(now):
            board_rows(member)
    for old in path.parent.glob(f"quillgate-{now:%Y%m%d}-*.sqlite3"):
        old.unlink(missing_ok=True)
    fresh = path.with_suffix(".new")
    with sqlite3.connect(fresh) as kept:
        connection.connection.backup(kept)
    kept.close()
    fresh.replace(path)


def restore(now: datetime = NOW) -> Member:
    """Put the demo household at an instant into the test database, in the place of all there is; gives its owner."""
    path = template(now)
    connection.ensure_connection()
    kept = sqlite3.connect(path)
    try:
        kept.backup(connection.connection)
    finally:
        kept.close()
    return owner_of(Household.objects.get())


__all__ = ["NOW", "restore", "template"]
