"""The one clock of the server. The core never asks it; it is handed `now`."""

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from datetime import UTC, datetime

from django.conf import settings

_BEGAN = datetime.now(UTC)
"""When this process began: from then on the clock may run faster."""
_held: ContextVar[datetime | None] = ContextVar("held", default=None)


def now() -> datetime:
    """The present instant in UTC, unless it is held by `at`, or set by tests and screenshots for all; from the start on
    it may run faster than it does (YPERON_SPEED), so that a visitor sees weeks of devices in minutes.

    Always in UTC: hours added to a local time are hours of the wall clock, one too few or too many when clocks change.
    """
    fixed: datetime | None = settings.FIXED_NOW
    return (_held.get() or fixed or _running()).astimezone(UTC)


def _running() -> datetime:
    real = datetime.now(UTC)
    return real if settings.SPEED == 1 else _BEGAN + (real - _BEGAN) * settings.SPEED


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
