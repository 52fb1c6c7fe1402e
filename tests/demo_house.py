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
from server.due.stored import stands
from server.household.models import Household, Member
from server.household.services import keeper_of

NOW = datetime.combine(ANCHOR, time(9), UTC)
"""A Tuesday at nine, before the robot's usual run."""
ROOT = Path(settings.BASE_DIR)


@cache
def template() -> Path:
    """The file of the demo household at `NOW`, with what Round keeps of it. Made where there is none of this build."""
    path = settings.VAR_DIR / "tests" / f"quillgate-{_made_from()}.sqlite3"
    path.parent.mkdir(parents=True, exist_ok=True)
    with (path.parent / "quillgate.lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)  # several shards ask for it at once: one lives it through, the others wait
        if not path.exists():
            _live(path)
    return path


def _made_from() -> str:
    hashed = sha256(f"{build.code()} {NOW}".encode())
    for file in sorted([*(ROOT / "demo").rglob("*.py"), *(ROOT / "care").rglob("*.toml"), Path(__file__)]):
        hashed.update(file.read_bytes())
    return hashed.hexdigest()[:16]


def _live(path: Path) -> None:
    with transaction.atomic():
        member = load(now=NOW, user_name="keeper", password="quillgate")
        with clock.at(NOW):
            stands(member)
    for old in path.parent.glob("quillgate-*.sqlite3"):
        old.unlink(missing_ok=True)
    fresh = path.with_suffix(".new")
    with sqlite3.connect(fresh) as kept:
        connection.connection.backup(kept)
    kept.close()
    fresh.replace(path)


def restore() -> Member:
    """Put the demo household into the test database, in the place of all that is there; gives its keeper."""
    path = template()
    connection.ensure_connection()
    kept = sqlite3.connect(path)
    try:
        kept.backup(connection.connection)
    finally:
        kept.close()
    return keeper_of(Household.objects.get())


__all__ = ["NOW", "restore", "template"]
