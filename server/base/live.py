"""Tells whoever waits that something was committed, so that a screen shows it at once.

Within one process at once; what another process wrote is found by looking now and then.
"""

from collections.abc import Callable, Generator
from threading import BoundedSemaphore, Condition
from time import monotonic

STREAMS = 12
"""So many screens are told at once: each holds a thread. One more asks now and then instead."""
LOOK_EVERY_S = 1.0
"""How often one looks for what another process wrote [s]."""
STILL_HERE_S = 15.0
"""How often a line is sent so that both sides notice when the other is gone [s]."""
LASTS_S = 300.0
"""How long one stream lasts [s]; the browser then opens another, and who may look is asked anew."""

_changed = Condition()
_count = 0
places = BoundedSemaphore(STREAMS)


def tell() -> None:
    """Something was committed."""
    global _count
    with _changed:
        _count += 1
        _changed.notify_all()


class Stream:
    """Server-sent events: what `latest` says now, then again whenever it says something else; it ends where that is
    None. Whoever was away compares the first one with what they saw last, so nothing is lost.

    It has one of the places, and gives it back when it is closed, whether or not anybody read it.
    """

    def __init__(self, latest: Callable[[], str | None]) -> None:
        self._events = _events(latest, monotonic() + LASTS_S)
        self._open = True

    def __iter__(self) -> "Stream":
        return self

    def __next__(self) -> bytes:
        return next(self._events)

    def close(self) -> None:
        """Nobody reads it any more."""
        self._events.close()
        if self._open:
            self._open = False
            places.release()


def _events(latest: Callable[[], str | None], until: float) -> Generator[bytes]:
    yield b"retry: 2000\n\n"
    sent, spoke = "", monotonic()
    while True:
        count = _count
        now = latest()
        if now is None:
            yield b"event: over\ndata: \n\n"
            return
        if now != sent:
            sent, spoke = now, monotonic()
            yield f"id: {now}\nevent: changed\ndata: {now}\n\n".encode()
        elif monotonic() - spoke > STILL_HERE_S:
            spoke = monotonic()
            yield b": still here\n\n"
        if monotonic() >= until:
            return
        _wait(count)


def _wait(count: int) -> None:
    with _changed:
        _changed.wait_for(lambda: _count != count, LOOK_EVERY_S)
