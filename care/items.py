"""The life of one physical part: which moves are possible, what they change, and the fittings that follow.

    fitted -> off -> (dry_cleaned | washed) -> drying -> ready -> fitted, and retired; unknown, too.

A washed part may be fitted before it is ready only with an `Override` by a person, which stays on record.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import UTC, datetime
from enum import StrEnum
from itertools import pairwise
from uuid import UUID

from care.errors import IllegalMove, require

STILL_DAMP_H = 12.0
"""Added to the rest when a part is found damp at its check [h]. A rule of the care book."""


class State(StrEnum):
    """Where an item is in its life."""

    UNKNOWN = "unknown"
    FITTED = "fitted"
    OFF = "off"
    DRY_CLEANED = "dry_cleaned"
    WASHED = "washed"
    DRYING = "drying"
    READY = "ready"
    RETIRED = "retired"


class MoveKind(StrEnum):
    """What can be done to an item."""

    SETTLE = "settle"
    """Of an item of unknown whereabouts: it lies here, dry."""
    TAKE_OUT = "take_out"
    CLEAN_IN_PLACE = "clean_in_place"
    DRY_CLEAN = "dry_clean"
    WASH = "wash"
    RACK = "rack"
    REST = "rest"
    """It is known until when it has to rest: by where it hangs, or by what it weighs."""
    STILL_DAMP = "still_damp"
    RELEASE = "release"
    FIT = "fit"
    ASSIGN = "assign"
    """It is meant for another slot from now on."""
    RETIRE = "retire"


@dataclass(frozen=True, slots=True)
class Override:
    """A person's decision to fit a part before it is ready, with the reason."""

    by: str
    reason: str

    def __post_init__(self) -> None:
        require(bool(self.reason.strip()), "reason", repr(self.reason), "a reason in words")


REPLACED = "replaced"
"""The reason of a part that made room for a new one, where nobody told why."""


@dataclass(frozen=True, slots=True)
class Move:
    """One move of one item at an instant.

    `machine_id` and `slot` go with FIT and ASSIGN, `until` with REST; with WASH `floor_h` [h] and how it dries from
    there, `drying`, a key of the book.
    """

    kind: MoveKind
    at: datetime
    machine_id: UUID | None = None
    slot: str | None = None
    floor_h: float = 0.0
    override: Override | None = None
    reason: str = ""
    until: datetime | None = None
    drying: str = ""

    def __post_init__(self) -> None:
        """Keep instants in UTC: a rest counts hours that pass, and hours added to a local time are the wall clock's."""
        object.__setattr__(self, "at", self.at.astimezone(UTC))


@dataclass(frozen=True, slots=True)
class Item:
    """One physical part.

    `wash_count` counts wet cleanings (a life trigger), `cleanings` all of them. `damp_until` is set from a wash until
    somebody has found the part dry, also while it sits in a machine refitted early; it never lies before `floor_until`,
    the shortest rest whatever the air. A part without that is locked by no clock: a feel is enough.
    """

    id: UUID
    part: str
    name: str
    state: State = State.UNKNOWN
    at: datetime | None = None
    machine_id: UUID | None = None
    slot: str | None = None
    damp_until: datetime | None = None
    floor_until: datetime | None = None
    wash_count: int = 0
    cleanings: int = 0
    refitted_early: Override | None = None

    @property
    def locked_until(self) -> datetime | None:
        """Until when nobody may find it dry, however it feels; None where a feel is enough."""
        return self.damp_until if self.floor_until is not None else None


@dataclass(frozen=True, slots=True)
class Fitting:
    """An item in a slot from `start` until `end` (None: still there). `early` tells that it went in damp."""

    item_id: UUID
    machine_id: UUID
    slot: str
    start: datetime
    end: datetime | None = None
    early: Override | None = None


def check_slots(fittings: Iterable[Fitting], names: Mapping[UUID, str]) -> None:
    """Raise `IllegalMove` when two items sat in one slot at one time; `names` gives the items' names."""
    by_slot: dict[tuple[UUID, str], list[Fitting]] = {}
    for fitting in fittings:
        by_slot.setdefault((fitting.machine_id, fitting.slot), []).append(fitting)
    for (_, slot), held in by_slot.items():
        held.sort(key=lambda f: (f.start, f.end is None))
        for first, second in pairwise(held):
            if first.end is None or second.start < first.end:
                raise IllegalMove(
                    f"{names[second.item_id]} cannot go into {slot}: {names[first.item_id]} sits there",
                    field="slot",
                    fix="Take the other one out first.",
                )
