"""Round: the whole household at one moment, for one answer."""

from dataclasses import dataclass
from typing import Any

from server.bench.services import SheetState, open_sheets
from server.household.models import Member
from server.machines.rack import OnRack, rack
from server.machines.standing import Stand, stands

COMING_SHOWN = 6
"""How many tasks to come the answer carries; the rest is on the machines' pages."""
DUE_SHOWN = 60
"""How many due tasks the answer carries: more than anybody does in a day; the count tells of the rest."""


@dataclass(frozen=True, slots=True)
class Round:
    """All machines as they stand, due tasks most at stake first, tasks to come by date, the rack, the open sheets."""

    stands: list[Stand]
    due: list[dict[str, Any]]
    coming: list[dict[str, Any]]
    rack: list[OnRack]
    sheets: list[SheetState]

    @property
    def minutes(self) -> float:
        """Hands-on minutes of everything that is due [min]."""
        return sum(stand.minutes for stand in self.stands)


def round_of(member: Member) -> Round:
    """The household as it stands now."""
    all_ = stands(member)
    due = sorted((task for one in all_ for task in one.due), key=lambda task: (task["stake"], -task["share"]))
    coming = sorted((t for one in all_ for t in one.coming), key=lambda task: (task["due"]["p50"], task["stake"]))
    return Round(all_, due, coming[:COMING_SHOWN], rack(member), open_sheets(member))
