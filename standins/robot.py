"""A made-up robot: it runs by its hours, gathers hair and dust, tires, complains, and is better when seen to."""

import argparse
import random
from collections.abc import Callable, Mapping
from datetime import datetime, time, timedelta

from standins.page import Device, run
from standins.posting import Clock, Outbox

FLOOR_M2, PACE_M2_MIN = 38.0, 0.95
"""The floor of its rooms [m2], and what it covers in a minute with a clean brush [m2/min]."""
CHARGE_MIN = 95.0
"""How long a charge lasts with a clean brush [min]."""
HAIR_G_A_RUN, DUST_G_A_RUN = 0.55, 3.0
"""What a run leaves on the brush, and in the filter and bin [g]."""
STUCK_AT_G = 5.5
"""From so much hair on the brush it stops now and then [g]."""
STEP_MIN = 10.0


class Robot:
    """Its laws: hair on the brush slows it and tires its battery by the square; dust in the filter tires it slowly."""

    def __init__(self, clock: Clock, outbox: Outbox, *, starts: time, days: str, seed: int, hair_g: float) -> None:
        self.name = "Made-up robot"
        self.outbox, self._clock, self._starts, self._days = outbox, clock, starts, days
        self._chance = random.Random(seed)
        self.hair_g, self.dust_g, self.total_min = hair_g, 8.0, 20_000.0
        self._last = clock.now()
        self._said = ""
        self.does: Mapping[str, Callable[[dict[str, str]], None]] = {
            "brush-cleaned": self.brush_cleaned,
            "filter-cleaned": self.filter_cleaned,
            "run-now": self.run_now,
        }

    def brush_cleaned(self, told: dict[str, str]) -> None:
        """Somebody took the hair out."""
        self.hair_g = 0.2

    def filter_cleaned(self, told: dict[str, str]) -> None:
        """Somebody washed the filter, and emptied the bin."""
        self.dust_g = 1.0

    def run_now(self, told: dict[str, str]) -> None:
        """Run out of turn."""
        self._run(self._clock.now() - timedelta(minutes=60))

    def live(self) -> None:
        """Wait a little; run if it is time."""
        self._clock.sleep(STEP_MIN)
        now = self._clock.now()
        start = now.astimezone().replace(hour=self._starts.hour, minute=self._starts.minute, second=0, microsecond=0)
        over = start + timedelta(minutes=75)
        if self._last < over <= now and start.strftime("%a").upper()[:2] in self._days:
            self._run(start)
        self._last = now

    def _run(self, start: datetime) -> None:
        drag = 1 + (self.hair_g / 7) ** 2 + self.dust_g / 400
        lasts = CHARGE_MIN / drag
        stuck = self.hair_g > STUCK_AT_G and self._chance.random() < 0.5
        pace = PACE_M2_MIN / (1 + 0.5 * (drag - 1)) * self._chance.uniform(0.97, 1.03)
        minutes = min(FLOOR_M2 / pace, 55.0) * (self._chance.uniform(0.4, 0.8) if stuck else 1)
        self.total_min += minutes
        self.hair_g += HAIR_G_A_RUN * self._chance.uniform(0.7, 1.4)
        self.dust_g += DUST_G_A_RUN * self._chance.uniform(0.6, 1.3)
        ended = "stuck" if stuck else "battery" if minutes > 0.9 * lasts else "done"
        self.outbox.say(
            start,
            kind="run",
            minutes=round(minutes, 1),
            area_m2=round(pace * minutes, 1),
            battery_used_percent=round(min(100.0, 100 * minutes / lasts), 1),
            emptied=1,
            ended=ended,
            total_min=round(self.total_min, 1),
        )
        end = start + timedelta(minutes=minutes)
        self._said = f"ran {minutes:.0f} min, {pace * minutes:.0f} m², {ended}"
        if stuck:
            self.outbox.say(end, kind="message", code="brush-stuck", words="The main brush does not turn freely")
        if "nonsense" in self.outbox.moods:
            self.outbox.say(end - timedelta(days=1), kind="run", minutes=1430, area_m2=9000)

    def shown(self) -> list[str]:
        """Its state."""
        return [
            f"{self.hair_g:.1f} g of hair on the brush, {self.dust_g:.0f} g of dust in filter and bin",
            f"last: {self._said or 'has not run yet'}",
            f"runs at {self._starts:%H:%M} on {self._days}",
        ]


def made(told: argparse.Namespace, clock: Clock, outbox: Outbox) -> Device:
    """A robot as it is asked for."""
    starts = time.fromisoformat(told.starts)
    return Robot(clock, outbox, starts=starts, days=told.days, seed=told.seed, hair_g=told.hair)


if __name__ == "__main__":
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--starts", default="10:15", help="when it runs, by the clock of this computer")
    parser.add_argument("--days", default="MO,TU,WE,TH,FR,SA,SU")
    parser.add_argument("--hair", type=float, default=2.0, help="hair on its brush at first, in grams")
    run(made, parser)
