"""The life of one physical part: which moves are possible, what they change, and the fittings that follow.

    fitted -> off -> (dry_cleaned | washed) -> drying -> ready -> fitted, and retired; unknown, too.

A washed part may be fitted before it is ready only with an `Override` by a person, which stays on record.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta
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


LEGAL: dict[MoveKind, dict[State, State]] = {
    MoveKind.SETTLE: {State.UNKNOWN: State.READY},
    MoveKind.TAKE_OUT: {State.FITTED: State.OFF},
    MoveKind.CLEAN_IN_PLACE: {State.FITTED: State.FITTED},
    MoveKind.DRY_CLEAN: {State.OFF: State.DRY_CLEANED, State.DRY_CLEANED: State.DRY_CLEANED},
    MoveKind.WASH: {
        State.OFF: State.WASHED,
        State.DRY_CLEANED: State.WASHED,
        State.DRYING: State.WASHED,
        State.READY: State.WASHED,
    },
    MoveKind.RACK: {State.WASHED: State.DRYING},
    MoveKind.REST: {State.WASHED: State.WASHED, State.DRYING: State.DRYING},
    MoveKind.STILL_DAMP: {State.DRYING: State.DRYING},
    MoveKind.RELEASE: {State.DRYING: State.READY},
    MoveKind.FIT: {
        State.OFF: State.FITTED,
        State.DRY_CLEANED: State.FITTED,
        State.READY: State.FITTED,
        State.WASHED: State.FITTED,
        State.DRYING: State.FITTED,
    },
    MoveKind.ASSIGN: {State.READY: State.READY},
    MoveKind.RETIRE: {state: State.RETIRED for state in State if state not in (State.FITTED, State.RETIRED)},
}
"""Every legal move as data: from which states it starts and where it ends. What is not here cannot happen."""


def move(item: Item, step: Move) -> Item:
    """The item after `step`. Raises `IllegalMove` when the move is not possible, `item` being left as it was."""
    _check_time(item, step)
    target = LEGAL[step.kind].get(item.state)
    if target is None:
        starts = " or ".join(sorted(LEGAL[step.kind]))
        raise IllegalMove(
            f"{item.name} is {item.state}: {step.kind} starts from {starts}",
            field="move",
            fix=_way_out(item.state),
            state=item.state,
            move=step.kind,
        )
    return _EFFECTS.get(step.kind, _plain)(item, step, target)


def _plain(item: Item, step: Move, target: State) -> Item:
    return replace(item, state=target, at=step.at)


def _take_out(item: Item, step: Move, target: State) -> Item:
    """A part refitted damp is still damp when it comes out again before its time; after that, the air has dried it."""
    damp = item.damp_until is not None and step.at < item.damp_until
    return replace(
        item,
        state=State.DRYING if damp else target,
        at=step.at,
        machine_id=None,
        slot=None,
        damp_until=item.damp_until if damp else None,
        floor_until=item.floor_until if damp else None,
        refitted_early=None,
    )


def _cleaned(item: Item, step: Move, target: State) -> Item:
    again = item.state is State.DRY_CLEANED  # tapped out and freed of hair in one go: one cleaning, not two
    return replace(item, state=target, at=step.at, cleanings=item.cleanings + (0 if again else 1))


def _wash(item: Item, step: Move, target: State) -> Item:
    require(step.floor_h >= 0, "floor_h", step.floor_h, "0 h or more")
    ready = step.at + timedelta(hours=step.floor_h)
    floor = max(ready, item.floor_until or ready)
    again = item.state is State.DRY_CLEANED  # loose dirt first, then water: one cleaning, not two
    return replace(
        item,
        state=target,
        at=step.at,
        damp_until=max(floor, item.damp_until or floor),
        floor_until=floor if step.floor_h or item.floor_until else None,
        wash_count=item.wash_count + 1,
        cleanings=item.cleanings + (0 if again else 1),
    )


def _still_damp(item: Item, step: Move, target: State) -> Item:
    until = step.at + timedelta(hours=STILL_DAMP_H)
    return replace(item, state=target, at=step.at, damp_until=until, floor_until=until)


def _rest(item: Item, step: Move, target: State) -> Item:
    require(step.until is not None, "until", step.until, "until when it rests")
    assert step.until is not None
    until = max(step.until, item.floor_until or step.until)
    return replace(item, state=target, at=step.at, damp_until=until)


def _release(item: Item, step: Move, target: State) -> Item:
    if item.locked_until is not None and step.at < item.locked_until:
        hours = (item.locked_until - step.at).total_seconds() / 3600
        raise IllegalMove(
            f"{item.name} has {hours:.1f} h of drying to go, however dry it feels",
            field="at",
            fix="Leave it in free air; heat does harm. Fit a dry spare meanwhile if there is one.",
            ready_at=item.locked_until.isoformat(),
        )
    return replace(item, state=target, at=step.at, damp_until=None, floor_until=None)


def _fit(item: Item, step: Move, target: State) -> Item:
    require(step.machine_id is not None, "machine_id", step.machine_id, "the machine it goes into")
    require(bool(step.slot), "slot", step.slot, "the place it goes into")
    if item.damp_until is not None and step.override is None:
        raise IllegalMove(
            f"{item.name} is not known to be dry: a damp filter takes water into the motor",
            field="override",
            fix="Check it on the rack when its rest is over, or give a reason to fit it early.",
            ready_at=item.damp_until.isoformat(),
        )
    early = step.override if item.damp_until is not None else None
    return replace(item, state=target, at=step.at, machine_id=step.machine_id, slot=step.slot, refitted_early=early)


_EFFECTS = {
    MoveKind.TAKE_OUT: _take_out,
    MoveKind.CLEAN_IN_PLACE: _cleaned,
    MoveKind.DRY_CLEAN: _cleaned,
    MoveKind.WASH: _wash,
    MoveKind.REST: _rest,
    MoveKind.STILL_DAMP: _still_damp,
    MoveKind.RELEASE: _release,
    MoveKind.FIT: _fit,
}


def _check_time(item: Item, step: Move) -> None:
    if item.at is not None and step.at < item.at:
        raise IllegalMove(
            f"{item.name}: {step.kind} at {step.at:%Y-%m-%d %H:%M} is before its last move at {item.at:%Y-%m-%d %H:%M}",
            field="at",
            fix="Give a later time, or undo the later record first.",
            last_at=item.at.isoformat(),
        )


def _way_out(state: State) -> str:
    return {
        State.RETIRED: "A retired part stays retired; fit another one.",
        State.FITTED: "Take it out of the machine first.",
        State.UNKNOWN: "Say where it is first.",
    }.get(state, "Do the step before it first.")


def replay(item: Item, moves: Iterable[Move]) -> tuple[Item, tuple[Fitting, ...]]:
    """The item after all `moves` in order of time, and every fitting it had. Raises `IllegalMove` at the first bad one.

    Moves of one instant keep the order in which they are given.
    """
    item, _, fittings = carry_on(item, sorted(moves, key=lambda m: m.at))
    return item, fittings


def carry_on(item: Item, moves: Iterable[Move]) -> tuple[Item, datetime | None, tuple[Fitting, ...]]:
    """`item` after further `moves` in order of time: the item, when a fitting it was in ended, and new fittings.

    The same as the end of a `replay` of all its moves. Raises `IllegalMove` at the first bad one.
    """
    was_fitted, ended = item.state is State.FITTED, None
    fittings: list[Fitting] = []
    for step in moves:
        before, item = item, move(item, step)
        if step.kind is MoveKind.FIT and step.machine_id and step.slot:
            fittings.append(Fitting(item.id, step.machine_id, step.slot, step.at, early=item.refitted_early))
        elif before.state is State.FITTED and item.state is not State.FITTED:
            if fittings:
                fittings[-1] = replace(fittings[-1], end=step.at)
            elif was_fitted:
                ended = step.at
    return item, ended, tuple(fittings)


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
