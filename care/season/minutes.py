"""How long a household really takes beside what the book says: learned from the sittings that it ended."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import exp, log

PRIOR_SD = 0.4
"""How far households differ from the book, in log space [-]. Ours."""
SITTING_SD = 0.5
"""How far one sitting differs from the next in the same household, in log space [-]: the phone rings. Ours."""
SHORTEST_MIN = 3.0
"""Sittings of fewer minutes by the book say nothing of the pace [min]."""
LEFT_OPEN = 4.0
"""A sheet that was open for more than so many times its minutes was left lying, or ticked off afterwards [-]. Ours."""


@dataclass(frozen=True, slots=True)
class Took:
    """A sitting: its minutes by the book, and from its first answer to its end [min]."""

    book_min: float
    took_min: float

    @property
    def tells(self) -> bool:
        """Whether it says something of the pace."""
        share = self.took_min / self.book_min if self.book_min else 0.0
        return self.book_min >= SHORTEST_MIN and 1 / LEFT_OPEN <= share <= LEFT_OPEN


@dataclass(frozen=True, slots=True)
class Pace:
    """How many times the book's minutes a household takes [-], and from how many sittings that is known."""

    factor: float = 1.0
    sittings: int = 0


def pace_of(sittings: Sequence[Took]) -> Pace:
    """The pace that sittings tell of: a log-normal belief around the book's minutes, moved by each.

    >>> pace_of([]).factor, round(pace_of([Took(20, 30)] * 8).factor, 2)
    (1.0, 1.4)
    """
    logs = [log(one.took_min / one.book_min) for one in sittings if one.tells]
    weight = len(logs) / SITTING_SD**2
    middle = sum(logs) / SITTING_SD**2 / (weight + 1 / PRIOR_SD**2) if logs else 0.0
    return Pace(exp(middle), len(logs))
