"""A made-up climate sensor in a room with weather outside."""

import argparse
import random
from collections.abc import Callable, Mapping
from datetime import timedelta
from math import exp, pi, sin

from standins.page import Device, run
from standins.posting import Clock, Outbox

EVERY_MIN = 15.0
FRONT_DAYS = 3.0
"""Fronts pass in about so many days."""


class Room:
    """Its law: the day's warmth comes in damped, fronts wander, and the same water is a higher share of colder air."""

    def __init__(self, clock: Clock, outbox: Outbox, *, name: str, temp_c: float, rh_pct: float, seed: int) -> None:
        self.name = f"Made-up climate sensor, {name}"
        self.outbox, self._clock, self._chance = outbox, clock, random.Random(seed)
        self._mean_c, self._water = temp_c, rh_pct * _most_water(temp_c)
        self._front, self._aired = 0.0, 0.0
        self.temp_c, self.rh_pct = temp_c, rh_pct
        self.does: Mapping[str, Callable[[dict[str, str]], None]] = {"open-the-window": self.open_the_window}

    def open_the_window(self, told: dict[str, str]) -> None:
        """Drier air comes in for some hours."""
        self._aired = 1.0

    def live(self) -> None:
        """A quarter of an hour."""
        self._clock.sleep(EVERY_MIN)
        now = self._clock.now()
        step = EVERY_MIN / (FRONT_DAYS * 24 * 60)
        self._front += -self._front * step + self._chance.gauss(0, 1) * (2 * step) ** 0.5
        self._aired *= exp(-EVERY_MIN / 300)
        hour = (now.hour + now.minute / 60) / 24
        self.temp_c = self._mean_c + 1.4 * sin(2 * pi * (hour - 0.4)) + 1.2 * self._front - 1.5 * self._aired
        water = self._water * (1 + 0.12 * self._front - 0.3 * self._aired)
        self.rh_pct = min(97.0, max(15.0, water / _most_water(self.temp_c)))
        temp = 80.0 if "nonsense" in self.outbox.moods else self.temp_c
        told = {"temp": round(temp, 1), "unit": "degC", "humidity_percent": round(self.rh_pct)}
        self.outbox.say(now - timedelta(seconds=20), kind="air", **told)

    def shown(self) -> list[str]:
        """Its state."""
        return [f"{self.temp_c:.1f} °C, {self.rh_pct:.0f} %"]


def _most_water(temp_c: float) -> float:
    """How much water air holds at most, in no unit that matters: it doubles every eleven degrees."""
    return float(2 ** (temp_c / 11))


def made(told: argparse.Namespace, clock: Clock, outbox: Outbox) -> Device:
    """A room."""
    return Room(clock, outbox, name=told.name, temp_c=told.temp, rh_pct=told.humidity, seed=told.seed)


if __name__ == "__main__":
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--name", default="a room")
    parser.add_argument("--temp", type=float, default=15.0, help="its usual air in degrees Celsius")
    parser.add_argument("--humidity", type=float, default=75.0, help="and in percent")
    run(made, parser)
