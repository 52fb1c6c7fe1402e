"""A made-up kitchen scale with a drying filter on it."""

import argparse
import random
from collections.abc import Callable, Mapping
from datetime import timedelta

from standins.page import Device, run
from standins.posting import Clock, Outbox

DRIES_G_H = 2.6
"""While a part is wet it loses so much [g/h]; the last fifth ever more slowly."""
EVERY = timedelta(minutes=40)


class Scale:
    """Its law: water leaves at one rate down to a fifth of it, then in proportion to what is left; half grams show."""

    def __init__(self, clock: Clock, outbox: Outbox, seed: int) -> None:
        self.name = "Made-up kitchen scale"
        self.outbox, self._clock, self._chance = outbox, clock, random.Random(seed)
        self.dry_g, self.water_g, self._full_g = 0.0, 0.0, 0.0
        self._then = self._said = clock.now()
        self.does: Mapping[str, Callable[[dict[str, str]], None]] = {"put": self.put, "take-off": self.take_off}

    def put(self, told: dict[str, str]) -> None:
        """Put a wet part on it, of so much dry and with so much water [g]."""
        self.dry_g, self.water_g = float(told.get("dry", 42)), float(told.get("water", 60))
        self._full_g, self._then = self.water_g, self._clock.now()

    def take_off(self, told: dict[str, str]) -> None:
        """Take it off."""
        self.dry_g = 0.0

    def live(self) -> None:
        """Let it dry, and weigh it now and then."""
        self._clock.sleep(10)
        now = self._clock.now()
        hours, self._then = (now - self._then) / timedelta(hours=1), now
        slow = min(1.0, self.water_g / (0.2 * self._full_g)) if self._full_g else 0.0
        self.water_g = max(0.0, self.water_g - DRIES_G_H * hours * slow)
        if self.dry_g and now - self._said >= EVERY:
            self._said = now
            grams = 19_000.0 if "nonsense" in self.outbox.moods else self.dry_g + self.water_g
            shown = round(2 * (grams + self._chance.gauss(0, 0.15))) / 2
            self.outbox.say(now, kind="weight", value=shown, unit="g")

    def shown(self) -> list[str]:
        """Its state."""
        on = f"{self.dry_g:.0f} g of part and {self.water_g:.1f} g of water on it"
        return [on if self.dry_g else "nothing lies on it"]


def made(told: argparse.Namespace, clock: Clock, outbox: Outbox) -> Device:
    """A scale."""
    return Scale(clock, outbox, told.seed)


if __name__ == "__main__":
    run(made, argparse.ArgumentParser(description=__doc__))
