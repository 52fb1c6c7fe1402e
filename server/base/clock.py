"""The one clock of the server. The core never asks it; it is handed `now`."""

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from datetime import UTC, datetime

from django.conf import settings

_held: ContextVar[datetime | None] = ContextVar("held", default=None)


def now() -> datetime:
    """The present instant in UTC, unless it is held by `at`, or set by tests and screenshots for all.

    Always in UTC: hours added to a local time are hours of the wall clock, one too few or too many when clocks change.
    """
    fixed: datetime | None = settings.FIXED_NOW
    return (_held.get() or fixed or datetime.now(UTC)).astimezone(UTC)


def minute() -> datetime:
    """The present minute: what is worked out holds for as long, where no record is added."""
    return now().replace(second=0, microsecond=0)


@contextmanager
def at(moment: datetime) -> Iterator[None]:
    """Hold the clock at `moment`: how the demo household lives through its past."""
    token = _held.set(moment)
    try:
        yield
    finally:
        _held.reset(token)
