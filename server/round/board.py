"""Round: the whole household at one moment, for one answer."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from server.bench.sheets import SheetState, open_sheets
from server.drying.rack import OnRack, rack
from server.due.state import MachineState
from server.due.stored import BoardRow, board_rows
from server.household.models import Member
from server.notes.services import Reminder, reminders
from server.season.ahead import Ahead, ahead

COMING_SHOWN = 6
"""How many tasks to come the answer carries; the rest is on the machines' pages."""
DUE_SHOWN = 60
"""How many due tasks the answer carries: more than anybody does in a day; the count tells of the rest."""


@dataclass(frozen=True, slots=True)
class Round:
    """All machines as they stand, due tasks most at stake first, tasks to come by date, the rack, the open sheets.

    Tasks are as the API gives them, no more than are shown; `due_count` counts all that are due. `faults` are machines
    that cannot be worked out, `reminders` what somebody wanted to be reminded of by today, `ahead` the visits planned.
    """

    rows: list[BoardRow]
    due: list[dict[str, Any]]
    due_count: int
    coming: list[dict[str, Any]]
    put_off: list[dict[str, Any]]
    rack: list[OnRack]
    sheets: list[SheetState]
    faults: list[dict[str, Any]]
    reminders: list[Reminder]
    ahead: Ahead | None

    @property
    def minutes(self) -> float:
        """Hands-on minutes of everything that is due [min]."""
        return sum(stand.minutes for stand in self.rows)

    @property
    def small_min(self) -> float:
        """Hands-on minutes that are spared while the small ones wait [min]."""
        return sum(stand.small_min for stand in self.rows)


def round_of(member: Member, known: Sequence[MachineState] = (), *, strict: bool = False) -> Round:
    """The household as it stands now; `known` states need not be computed again.

    A machine that cannot be worked out is told under `faults` beside the rest; `strict` raises, as `board_rows` does.
    """
    every = board_rows(member, known, strict=strict)
    all_ = [one for one in every if one.fault is None]
    due = sorted((rank, i, n) for i, one in enumerate(all_) for n, rank in enumerate(one.due))
    coming = sorted((rank, i, n) for i, one in enumerate(all_) for n, rank in enumerate(one.coming))
    return Round(
        rows=all_,
        due=[all_[i].listed["due"][n] for _, i, n in due[:DUE_SHOWN]],
        due_count=len(due),
        coming=[all_[i].listed["coming"][n] for _, i, n in coming[:COMING_SHOWN]],
        put_off=[task for one in all_ for task in one.put_off],
        rack=rack(member),
        sheets=open_sheets(member),
        faults=[one.fault for one in every if one.fault is not None],
        reminders=reminders(member),
        ahead=ahead(member),
    )
