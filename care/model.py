"""What happened to the machines of a household, and what follows from it, as frozen values.

Units stand in the names (`_h` hours, `_min` minutes, `_s` seconds). What the care book says stands in `care.kinds`;
what happened (`Run`, `Inspection`, `ServiceRecord`) is built by the server from its records.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from enum import StrEnum
from uuid import UUID

from care.errors import require
from care.kinds import Archetype
from care.vocabulary import Action, Consequence, Found, LoadKind


class Level(StrEnum):
    """How a part stands, told by shape, text and colour together."""

    FRESH = "fresh"
    WEARING = "wearing"
    DUE = "due"
    OVERDUE = "overdue"
    DRYING = "drying"
    MISSING = "missing"
    UNKNOWN = "unknown"
    """Nobody knows how far it is; a look settles it."""


class Provenance(StrEnum):
    """How we know of a run."""

    MEASURED = "measured"
    LOGGED = "logged"
    ASSUMED = "assumed"


# --- What happened ---------------------------------------------------------------------------------------------


@dataclass(frozen=True, slots=True)
class Run:
    """One run of a machine: its local day, its length [s], its start only if known.

    `counts_at` is the instant from which its hours count on every clock: its end if known, else when it was told.
    `evacuations` is how often a dock emptied the robot in and after it.
    """

    day: date
    run_s: float
    counts_at: datetime
    start: datetime | None = None
    provenance: Provenance = Provenance.LOGGED
    mopped: bool = False
    evacuations: int = 1

    def __post_init__(self) -> None:
        require(0 < self.run_s <= 86_400, "run_s", self.run_s, "more than 0 and at most 24 h (86 400 s)")
        require(self.evacuations >= 0, "evacuations", self.evacuations, "0 or more")

    @property
    def end(self) -> datetime | None:
        """When it ended, if its start is known."""
        return self.start + timedelta(seconds=self.run_s) if self.start else None


@dataclass(frozen=True, slots=True)
class ServiceRecord:
    """An action done to an item at an instant."""

    item_id: UUID
    slot: str
    action: Action
    at: datetime


@dataclass(frozen=True, slots=True)
class Inspection:
    """What a person found on an item before doing anything to it; `about` is the action it speaks of."""

    item_id: UUID
    slot: str
    about: Action
    found: Found
    at: datetime


@dataclass(frozen=True, slots=True)
class NotKnown:
    """From `at` on nobody knows how far a part was through its interval, or with `life` through its life."""

    item_id: UUID
    slot: str
    at: datetime
    life: bool = False


@dataclass(frozen=True, slots=True)
class Load:
    """How much the household loads its machines: three indices, each 0 (little) to 1 (much)."""

    hair: float = 0.5
    dust: float = 0.5
    volume: float = 0.5

    def __post_init__(self) -> None:
        for name in LoadKind:
            require(0 <= self.of(name) <= 1, name, self.of(name), "0 to 1")

    def of(self, kind: LoadKind) -> float:
        """The index of `kind` [-]."""
        index: float = getattr(self, kind.value)
        return index


@dataclass(frozen=True, slots=True)
class LoadEvent:
    """A time of more load than usual (moulting, building work), from day `first` to day `last`, both included.

    `level` is the index [0..1] that `kind` has meanwhile, where that is more than the household's own.
    """

    kind: LoadKind
    first: date
    last: date
    level: float
    note: str = ""

    def __post_init__(self) -> None:
        require(0 <= self.level <= 1, "level", self.level, "0 to 1")
        require(self.last >= self.first, "last", self.last, f"a day not before the first ({self.first})")


@dataclass(frozen=True, slots=True)
class PutOff:
    """A due task that waits until a day, and why."""

    slot: str
    action: Action
    until: date
    reason: str
    by: str = ""


LONGEST_WAIT_DAYS = 60
"""How long a task may be put off in one go [days]. Ours: what waits longer is a pause or an interval of your own."""


def check_wait(put_off: PutOff, stake: Consequence, *, today: date) -> None:
    """Refuse a wait without a reason, without end, or of what keeps people safe. Raises `InvalidValue`."""
    require(stake is not Consequence.SAFETY, "action", put_off.action, "a task that can wait: this one keeps you safe")
    require(bool(put_off.reason.strip()), "reason", repr(put_off.reason), "a reason in a few words")
    last = today + timedelta(days=LONGEST_WAIT_DAYS)
    require(today < put_off.until <= last, "until", put_off.until, f"a day from tomorrow to {last}")


class Why(StrEnum):
    """Why a machine rests; or that it is back, which ends what was told before of rest on that day."""

    DID_NOT_RUN = "did_not_run"
    AWAY = "away"
    PAUSED = "paused"
    BACK = "back"


@dataclass(frozen=True, slots=True)
class Rest:
    """Days on which a machine did not run as usual, `first` to `last`, both included; None: until further notice."""

    why: Why
    first: date
    last: date | None

    def __post_init__(self) -> None:
        fits = self.last is None or self.last >= self.first
        require(fits, "last", self.last, f"a day not before the first ({self.first})")

    def holds(self, day: date) -> bool:
        """Whether the machine rests on `day`."""
        return self.first <= day and (self.last is None or day <= self.last)


@dataclass(frozen=True, slots=True)
class HomeChanged:
    """What a household said when looks in a row contradicted what was believed of a part: whether something changed.

    `since` is the instant of the first of those looks: where something `changed`, what was seen before tells nothing.
    """

    slot: str
    about: Action
    at: datetime
    since: datetime
    changed: bool


@dataclass(frozen=True, slots=True)
class ToldFilling:
    """How long a bag or bin takes to fill by what the household told of its size: so many weeks [weeks], at the pace
    [h/week, runs/week] and the load [0..1] of the time when it told.
    """

    weeks: float
    hours_per_week: float
    runs_per_week: float
    index: float


@dataclass(frozen=True, slots=True)
class CounterReading:
    """What a machine's own counter of a part said at an instant: hours used so far [h].

    `trusted` is what whoever read it chose, where it was far from our own count: it counts on, or ours does.
    """

    item_id: UUID
    slot: str
    used_h: float
    at: datetime
    trusted: bool | None = None

    def __post_init__(self) -> None:
        require(self.used_h >= 0, "used_h", self.used_h, "0 h or more")


@dataclass(frozen=True, slots=True)
class Machine:
    """A machine of the household: which archetype it follows and what sits in its slots now (slot key -> item id).

    `features` are what it was set up with and what its dock provides.
    """

    id: UUID
    name: str
    archetype: Archetype
    fitted: Mapping[str, UUID]
    features: frozenset[str] = frozenset()

    @property
    def empty_slots(self) -> tuple[str, ...]:
        """Slots the machine must not run without that hold nothing."""
        parts = self.archetype.parts(self.features)
        return tuple(s.key for s in parts if s.needed_to_run and s.key not in self.fitted)


# --- What follows from it --------------------------------------------------------------------------------------
