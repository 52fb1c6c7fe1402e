"""A chore: a task that comes again and again, as a season sees it."""

from dataclasses import dataclass
from enum import StrEnum
from typing import NamedTuple
from uuid import UUID

import numpy as np
from numpy.typing import NDArray

from care.vocabulary import Action, Consequence, Skill

Floats = NDArray[np.float64]


class ChoreKey(NamedTuple):
    """Which recurring task it is: machine, slot key, action."""

    machine_id: UUID
    slot: str
    action: Action


class Waits(StrEnum):
    """Why a chore cannot be done before a day."""

    PUT_OFF = "put_off"
    ORDER = "order"
    """No part for it is there; the earliest is the day on which one ordered today would come."""
    RACK = "rack"
    """Its part dries."""


@dataclass(frozen=True, slots=True)
class Chore:
    """A task that comes again and again, as the season sees it.

    `gone` is the share of its interval that is gone at the start of today, `growth[k, n]` what its trigger `k` takes of
    it from then to the start of day `n`. It is not done before day `not_before`, because it `waits`. Where its machine
    stands still while the part dries, `missed[n]` counts the runs that it misses when done on day `n`; a part that
    `turns` has a dry one to take its place. Doing it sets back what it `covers`. `price` is what a new part costs
    [cents], `spread` how far its pace may be off, in log space [-].
    """

    key: ChoreKey
    stake: Consequence
    effort_min: float
    gone: float
    growth: Floats
    opening: str | None = None
    opening_min: float = 0.0
    skill: Skill = Skill.MODULES
    not_before: int = 0
    waits: Waits | None = None
    missed: tuple[int, ...] = ()
    turns: bool = False
    dries_h: float = 0.0
    covers: frozenset[ChoreKey] = frozenset()
    price: int | None = None
    spread: float = 0.0

    def reach(self, start: int, end: int) -> float:
        """The share of its interval that passes from the start of day `start` to that of day `end`, done on `start`."""
        return float((self.growth[:, end] - self.growth[:, start]).max())

    def first(self, day: int) -> float:
        """The share of its interval that will be gone at the start of `day`, if nobody does it before."""
        return self.gone + self.reach(0, day)

    @property
    def days(self) -> int:
        """The last day that it is worked out for."""
        return int(self.growth.shape[1]) - 1
