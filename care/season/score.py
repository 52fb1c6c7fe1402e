"""What any way of doing chores takes: the one count that the plan, what it is compared with, and measurements ask."""

from collections import Counter, defaultdict
from collections.abc import Iterable, Mapping, Sequence

import numpy as np

from care.season.chore import Chore, ChoreKey, Floats
from care.season.model import Score
from care.season.weights import Weights
from care.vocabulary import Consequence

Doing = Mapping[ChoreKey, Sequence[int]]
"""On which days, counted from today, each chore is done; rising."""


def shares_from(chore: Chore, since: int | None) -> Floats:
    """The share of the interval that is gone at the start of each day from `since` on; from today on where None."""
    if since is None:
        so_far: Floats = chore.gone + (chore.growth - chore.growth[:, [0]]).max(axis=0)
        return so_far
    shares: Floats = (chore.growth[:, since:] - chore.growth[:, [since]]).max(axis=0)
    return shares


def set_back_on(chore: Chore, doing: Doing, coverers: Mapping[ChoreKey, Sequence[Chore]]) -> list[int]:
    """The days on which a chore's clock is set back: its own, and those of what covers it."""
    days = set(doing.get(chore.key, ()))
    for other in coverers.get(chore.key, ()):
        days |= set(doing.get(other.key, ()))
    return sorted(days)


def coverers_of(chores: Iterable[Chore]) -> dict[ChoreKey, list[Chore]]:
    """What sets each chore back besides itself."""
    made: dict[ChoreKey, list[Chore]] = defaultdict(list)
    for chore in chores:
        for key in chore.covers:
            made[key].append(chore)
    return made


def score(chores: Sequence[Chore], doing: Doing, weights: Weights) -> Score:
    """What it takes to do chores on these days. Each opening of a machine counts once a day."""
    coverers = coverers_of(chores)
    late_days: Counter[Consequence] = Counter()
    late: dict[Consequence, float] = {}
    early_min = early_cents = 0.0
    for chore in chores:
        days, past, early = _timing(chore, set_back_on(chore, doing, coverers), set(doing.get(chore.key, ())))
        late_days[chore.stake] += days
        late[chore.stake] = late.get(chore.stake, 0.0) + past
        early_min += early * chore.effort_min
        early_cents += early * (chore.price or 0)
    by_day = jobs_by_day(chores, doing)
    minutes = sum(hands_on_min(jobs) for jobs in by_day.values())
    machines = sum(len({chore.key.machine_id for chore in jobs}) for jobs in by_day.values())
    missed = sum(missed_on(jobs, day) for day, jobs in by_day.items())
    ready = weights.visit_min * len(by_day) + weights.machine_min * machines
    return Score(len(by_day), minutes, ready, missed, dict(late_days), late, early_min, early_cents)


def jobs_by_day(chores: Iterable[Chore], doing: Doing) -> dict[int, list[Chore]]:
    """What is done on each day that has anything."""
    made: dict[int, list[Chore]] = defaultdict(list)
    for chore in chores:
        for day in doing.get(chore.key, ()):
            made[day].append(chore)
    return dict(sorted(made.items()))


def hands_on_min(jobs: Iterable[Chore]) -> float:
    """Hands-on minutes of chores done in one go [min]: each opening of a machine counts once."""
    chosen = list(jobs)
    openings = {(chore.key.machine_id, chore.opening): chore.opening_min for chore in chosen if chore.opening}
    return sum(chore.effort_min for chore in chosen) + sum(openings.values())


def missed_on(jobs: Iterable[Chore], day: int) -> int:
    """Runs that machines miss for what dries when these are done on a day: parts of one machine dry side by side."""
    most: dict[object, int] = {}
    for chore in jobs:
        if chore.missed:
            machine = chore.key.machine_id
            most[machine] = max(most.get(machine, 0), chore.missed[day])
    return sum(most.values())


def _timing(chore: Chore, set_back: Sequence[int], own: set[int]) -> tuple[int, float, float]:
    """Days on which it is past its date, by how many intervals in all [-], and the intervals thrown away early [-].

    What was late on the first day already is no plan's doing and counts from there on.
    """
    days, late, early, since = 0, 0.0, 0.0, None
    for end in [*set_back, None]:
        shares = shares_from(chore, since)
        shares = shares if end is None else shares[: end - (since or 0) + 1]
        days += int(np.count_nonzero(shares[:-1] > 1 + 1e-9))
        late += max(0.0, float(shares[-1]) - max(1.0, float(shares[0])))
        if end in own:
            early += max(0.0, 1.0 - float(shares[-1]))
        since = end
    return days, late, early
