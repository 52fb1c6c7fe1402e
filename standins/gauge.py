"""A made-up suction gauge: somebody holds it on a machine now and then, whose filter clogs day by day."""

import argparse
import random
from collections.abc import Callable, Mapping
from datetime import timedelta

from standins.page import Device, run
from standins.posting import Clock, Outbox

CLEAN_KPA = 13.5
DAYS_TO_HALF = 45.0
"""After so many days without care the suction at an open hose is half [days]."""


class Gauge:
    """Its law: suction falls as a hyperbola of the days since the filter was cleaned, with a hand's unsteadiness."""

    def __init__(self, clock: Clock, outbox: Outbox, seed: int) -> None:
        self.name = "Made-up suction gauge"
        self.outbox, self._clock, self._chance = outbox, clock, random.Random(seed)
        self._cleaned = clock.now() - timedelta(days=20)
        self._next = clock.now() + timedelta(hours=2)
        self._read = 0.0
        self.does: Mapping[str, Callable[[dict[str, str]], None]] = {
            "measure": self.measure,
            "filter-cleaned": self.filter_cleaned,
        }

    def filter_cleaned(self, told: dict[str, str]) -> None:
        """Somebody washed the filter of its machine."""
        self._cleaned = self._clock.now()

    def measure(self, told: dict[str, str]) -> None:
        """Hold it on the open hose."""
        days = (self._clock.now() - self._cleaned) / timedelta(days=1)
        self._read = CLEAN_KPA / (1 + days / DAYS_TO_HALF) * self._chance.uniform(0.97, 1.03)
        value = 59.0 if "nonsense" in self.outbox.moods else self._read
        self.outbox.say(self._clock.now(), kind="suction", value=round(value, 2), unit="kPa", opening="open")

    def live(self) -> None:
        """Measure every other day."""
        self._clock.sleep(20)
        if self._clock.now() >= self._next:
            self.measure({})
            self._next += timedelta(days=2)

    def shown(self) -> list[str]:
        """Its state."""
        return [f"last reading: {self._read:.1f} kPa at the open hose"]


def made(told: argparse.Namespace, clock: Clock, outbox: Outbox) -> Device:
    """A gauge."""
    return Gauge(clock, outbox, told.seed)


if __name__ == "__main__":
    run(made, argparse.ArgumentParser(description=__doc__))
