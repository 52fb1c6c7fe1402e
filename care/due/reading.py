"""What the meters counted between two instants."""

from dataclasses import dataclass
from datetime import timedelta

from care.vocabulary import Meter

DAY = timedelta(days=1)


@dataclass(frozen=True, slots=True)
class Reading:
    """What the meters counted over some time; `assumed_h` and `assumed_fills` are the parts of `run_hours` and `fills`
    that nobody reported.
    """

    run_hours: float = 0.0
    runs: float = 0
    mop_runs: float = 0
    evacuations: float = 0
    assumed_h: float = 0.0
    fills: float = 0
    charges: float = 0.0
    assumed_fills: float = 0.0

    def __add__(self, other: "Reading") -> "Reading":
        a, b = self, other
        return Reading(
            a.run_hours + b.run_hours,
            a.runs + b.runs,
            a.mop_runs + b.mop_runs,
            a.evacuations + b.evacuations,
            a.assumed_h + b.assumed_h,
            a.fills + b.fills,
            a.charges + b.charges,
            a.assumed_fills + b.assumed_fills,
        )

    def assumed(self, meter: Meter) -> float:
        """The share of what a meter of use counted that nobody reported [-]."""
        if meter is Meter.FILLS:
            return self.assumed_fills / self.fills if self.fills else 0.0
        return self.assumed_h / self.run_hours if self.run_hours else 0.0

    def of(self, meter: Meter) -> float:
        """The count of one meter of use, in its unit."""
        return float(getattr(self, meter.value))
