"""The demo household as a database, lived through once and kept by a hash of all that it is made from."""

import sqlite3
from datetime import UTC, datetime, time
from functools import cache
from pathlib import Path

from django.conf import settings
from django.db import connection, transaction

from demo.quillgate import load
from demo.story import ANCHOR
from server.base import build, clock
from server.due.stored import board_rows
from server.household.models import Household, Member
from server.household.services import owner_of
from tests.kept import kept

NOW = datetime.combine(ANCHOR, time(9), UTC)
"""A Tuesday at nine, before the robot's usual run."""
ROOT = Path(settings.BASE_DIR)


@cache
def template(now: datetime = NOW) -> Path:
    """The file of the demo household at an instant, with what Round keeps of it; made where there is none."""
    files = sorted([*(ROOT / "demo").rglob("*.py"), *(ROOT / "care").rglob("*.toml"), Path(__file__)])
    made_from = [build.code().encode(), now.isoformat().encode(), *(file.read_bytes() for file in files)]
    return kept(f"quillgate-{now:%Y%m%d}", made_from, lambda: _live(now))


def _live(now: datetime) -> None:
    with transaction.atomic():
        member = load(now=now, user_name="keeper", password="quillgate")
        with clock.at(now):
            board_rows(member)


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
