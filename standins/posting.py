"""How a made-up device posts: it keeps its lines until they are confirmed, and misbehaves on request."""

import json
import random
import time
from collections.abc import Iterable
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from itertools import count
from threading import Lock
from typing import Any
from urllib.error import HTTPError, URLError
from urllib.request import Request, urlopen

BATCH = 100
MOODS = ("silent", "repeat", "late", "shuffle", "nonsense")
"""How it may misbehave: posts nothing, posts twice, keeps lines back, mixes their order, says what cannot be."""


@dataclass
class Clock:
    """The time in a made-up world: it began at `now` when the real clock showed `real` [s], and runs so much faster."""

    speed: float = 1.0
    now_then: datetime = field(default_factory=lambda: datetime.now(UTC))
    real: float = field(default_factory=time.time)

    def now(self) -> datetime:
        """The instant it is there."""
        return self.now_then + timedelta(seconds=(time.time() - self.real) * self.speed)

    def sleep(self, minutes: float) -> None:
        """Wait so many of its minutes."""
        time.sleep(max(0.05, minutes * 60 / self.speed))


class Outbox:
    """Lines that are not confirmed yet, and the way to where they go."""

    def __init__(self, address: str, token: str, seed: int = 1) -> None:
        self.address, self.token = address, token
        self.moods: set[str] = set()
        self.waiting: dict[str, dict[str, Any]] = {}
        self.told: list[str] = []
        self.count = {"taken": 0, "known": 0, "held": 0, "refused": 0, "failed": 0}
        self._chance, self._numbers, self._lock = random.Random(seed), count(1), Lock()
        self._series = f"{self._chance.getrandbits(32):08x}"

    def say(self, at: datetime, **line: object) -> None:
        """Keep a line, under an id that it has over every try."""
        key = f"{self._series}-{next(self._numbers)}"
        with self._lock:
            self.waiting[key] = {"id": key, "at": at.isoformat(timespec="seconds"), **line}

    def post(self) -> None:
        """Send what waits, as it is in the mood to; what is not confirmed stays."""
        if "silent" in self.moods or ("late" in self.moods and self._chance.random() < 0.8):
            return
        with self._lock:
            some = list(self.waiting.values())[:BATCH]
        if "shuffle" in self.moods:
            self._chance.shuffle(some)
        if "repeat" in self.moods and some:
            some += self._chance.sample(some, max(1, len(some) // 2))
        if some:
            self._sent(some)

    def _sent(self, some: list[dict[str, Any]]) -> None:
        headers = {"Authorization": f"Bearer {self.token}", "Content-Type": "application/json"}
        try:
            with urlopen(Request(self.address, json.dumps(some).encode(), headers), timeout=30) as answer:
                told = json.load(answer)
        except (HTTPError, URLError, OSError, ValueError) as error:
            self.count["failed"] += 1
            self._note(f"not sent: {error}")
            return
        again = {one["id"] for one in told["lines"] if one["status"] == "again"}
        with self._lock:
            for line in some:
                if line["id"] not in again:
                    self.waiting.pop(line["id"], None)
        for name in ("taken", "known", "held", "refused"):
            self.count[name] += told[name]
        self._note(f"{told['taken']} taken, {told['known']} known")
        for one in told["lines"]:
            self._note(f"{one['status']}: {one['problem']}")

    def _note(self, words: str) -> None:
        self.told = [*self.told[-11:], words]


def lines_shown(outbox: Outbox) -> Iterable[str]:
    """What an outbox did lately, in lines."""
    yield ", ".join(f"{count} {name}" for name, count in outbox.count.items()) + f"; {len(outbox.waiting)} waiting"
    yield from reversed(outbox.told)
