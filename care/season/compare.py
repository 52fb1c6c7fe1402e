"""What a plan is held against: each task on its own date, and everything that is due on one day of the week."""

from collections.abc import Callable, Sequence

from care.season.chore import Chore, ChoreKey
from care.season.model import Score
from care.season.score import score
from care.season.weights import Weights


def on_own_dates(chores: Sequence[Chore]) -> dict[ChoreKey, list[int]]:
    """Each chore on the very day on which it is due, as somebody does who follows each date."""
    return _whenever(chores, lambda day: True)


def on_one_weekday(chores: Sequence[Chore], first: int, *, ahead: int = 0) -> dict[ChoreKey, list[int]]:
    """Everything that is due by then, or so many days later, on every seventh day from day `first` on."""
    return _whenever(chores, lambda day: (day - first) % 7 == 0, ahead)


def own_dates_score(chores: Sequence[Chore], weights: Weights) -> Score:
    """What each chore on its own date takes."""
    return score(chores, on_own_dates(chores), weights)


def _whenever(chores: Sequence[Chore], on: Callable[[int], bool], ahead: int = 0) -> dict[ChoreKey, list[int]]:
    since: dict[ChoreKey, int | None] = {chore.key: None for chore in chores}
    doing: dict[ChoreKey, list[int]] = {chore.key: [] for chore in chores}
    order = sorted(chores, key=lambda chore: (-len(chore.covers), chore.key.slot, chore.key.action))
    last = max((chore.days for chore in chores), default=0)
    for day in filter(on, range(last)):
        done: set[ChoreKey] = set()
        for chore in order:
            if chore.key in done or day < chore.not_before:
                continue
            start = since[chore.key]
            then = min(day + ahead, chore.days)
            if (chore.first(then) if start is None else chore.reach(start, then)) >= 1:
                doing[chore.key].append(day)
                done |= {chore.key, *chore.covers}
        for key in done & set(since):
            since[key] = day
    return doing
