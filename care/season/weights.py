"""What a plan weighs: being late, being early, going to the bench at all."""

from collections.abc import Mapping
from dataclasses import dataclass, field

from care.errors import require
from care.season.chore import Chore
from care.vocabulary import Consequence

LATEST: Mapping[Consequence, float] = {
    Consequence.SAFETY: 0.95,
    Consequence.MOTOR: 0.95,
    Consequence.STOPS: 1.1,
    Consequence.PICK_UP: 1.22,
    Consequence.SMELL: 1.22,
    Consequence.LOOKS: 1.5,
}
"""Up to which share of its interval a task may wait by what is at stake [-]: where somebody or a motor would be hurt,
a little before it is due, since a busy week comes unasked; else up to where it would show as overdue. Ours."""


STRICT = (Consequence.SAFETY, Consequence.MOTOR, Consequence.STOPS)
"""What is at stake where no plan of its own accord lets a task wait longer than it may."""


LATE_MIN: Mapping[Consequence, float] = {
    Consequence.SAFETY: 600.0,
    Consequence.MOTOR: 300.0,
    Consequence.STOPS: 60.0,
    Consequence.PICK_UP: 15.0,
    Consequence.SMELL: 10.0,
    Consequence.LOOKS: 5.0,
}
"""What waiting a whole interval past its date weighs by what is at stake, in minutes of work [min]. Ours."""


@dataclass(frozen=True, slots=True)
class Weights:
    """What a season is weighed by, all in minutes of work. Ours, and the household's to change.

    `visit_min` is getting ready and tidying up once a visit, `machine_min` making one machine safe and putting it back;
    `early` how much of the work counts as thrown away with the part of an interval that was not used [-]; `wait_min` a
    run that a machine misses while its part dries; `hour_value` what an hour is worth [cents], by which the price of a
    part that goes early is weighed; `late` a whole interval past its date.
    """

    visit_min: float = 6.0
    machine_min: float = 1.0
    early: float = 0.5
    wait_min: float = 8.0
    hour_value: int = 12_00
    late: Mapping[Consequence, float] = field(default_factory=lambda: dict(LATE_MIN))
    latest: Mapping[Consequence, float] = field(default_factory=lambda: dict(LATEST))

    def __post_init__(self) -> None:
        for name in ("visit_min", "machine_min", "wait_min"):
            require(0 <= getattr(self, name) <= 240, name, getattr(self, name), "0 to 240 minutes")
        require(0 <= self.early <= 5, "early", self.early, "0 to 5")
        require(0 <= self.hour_value <= 500_00, "hour_value", self.hour_value, "0 to 500 an hour")

    def worth(self, chore: Chore) -> float:
        """What a whole interval of a chore weighs when it is thrown away [min]."""
        minutes_a_cent = 60 / self.hour_value if self.hour_value else 0.0
        return self.early * chore.effort_min + (chore.price or 0) * minutes_a_cent

    def limit(self, chore: Chore) -> float:
        """Up to which share of its interval a chore may wait [-]."""
        return self.latest[chore.stake]
