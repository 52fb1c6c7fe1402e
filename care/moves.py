"""How an item moves between slot, rack and shelf, and what its past makes of it."""

from collections.abc import Iterable
from dataclasses import replace
from datetime import datetime, timedelta

from care.errors import IllegalMove, require
from care.items import STILL_DAMP_H, Fitting, Item, Move, MoveKind, State

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
