"""The plan of a season: chores into few visits, what is done between them, what cannot be met and what would help."""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import date, timedelta

from care.season.chore import Chore, ChoreKey, Waits
from care.season.days import contradictions, days_of, usual_gap
from care.season.model import SEASON_DAYS, Between, Day, Helps, Job, Season, Unmet, Visit
from care.season.score import Doing, coverers_of, hands_on_min, jobs_by_day, score, set_back_on, shares_from
from care.season.solve import EFFORT, solve
from care.season.ways import Asked
from care.season.weights import Weights
from care.season.wishes import Wishes
from care.vocabulary import Skill


def plan(
    chores: Sequence[Chore],
    wishes: Wishes,
    today: date,
    weights: Weights | None = None,
    *,
    before: Mapping[ChoreKey, Sequence[date]] | None = None,
    effort: float = EFFORT,
) -> Season:
    """The visits of a season that weigh least. `before` is what the last plan said: nothing moves without need.

    Pins that contradict something are dropped and told. The same question gives the same answer.
    """
    weights = weights or Weights()
    pins, dropped = contradictions(wishes, today)
    wishes = replace(wishes, pins=tuple(pins))
    days = days_of(wishes, today)
    mine, handed_over = by_skill(chores, wishes)
    pinned = frozenset(key for pin in pins for key in pin.chores)
    between, planned = split(mine, wishes, weights, pinned)
    solved = solve(planned, days, weights, Asked(pins, wishes.left_out, before or {}), effort)
    return Season(
        today,
        SEASON_DAYS,
        tuple(planned),
        _visits(planned, solved.doing, days),
        tuple(between),
        tuple(handed_over),
        tuple(_unmet(planned, solved.doing, days, wishes, today, weights)),
        score(planned, solved.doing, weights),
        solved.cost,
        solved.bound,
        _moved(before, solved.doing, today),
        tuple(dropped),
    )


def by_skill(chores: Sequence[Chore], wishes: Wishes) -> tuple[list[Chore], list[Chore]]:
    """What somebody of the household goes far enough for, and what is handed over."""
    skills = [hands.skill for hands in wishes.hands] or [Skill.STRIP_DOWN]
    reached = [any(skill.reaches(chore.skill) for skill in skills) for chore in chores]
    mine = [chore for chore, ours in zip(chores, reached, strict=True) if ours]
    return mine, [chore for chore, ours in zip(chores, reached, strict=True) if not ours]


SELDOM = 0.6
"""What may go so much of the longest distance between two days for visits is put on each of them all the same, and told
as too late where it is [-]. Ours."""
LITTLE_MIN, OFTEN_DAYS = 2.0, 14.0
"""What takes no longer than this [min] and comes more often than that [days] is done when the machine is at hand: to
get ready for it would take longer than to do it. Ours."""


def every_days(chore: Chore, weights: Weights) -> float:
    """How many days a chore may go at the usual pace of the season [days]; the whole season where it hardly moves."""
    whole = chore.reach(0, chore.days)
    return chore.days * weights.limit(chore) / whole if whole > 0 else float(chore.days)


def split(
    chores: Sequence[Chore], wishes: Wishes, weights: Weights, pinned: frozenset[ChoreKey] = frozenset()
) -> tuple[list[Between], list[Chore]]:
    """What comes too often for the household's days, and what visits are made for."""
    gap = usual_gap(wishes)
    between, planned = [], []
    for chore in chores:
        every, takes = every_days(chore, weights), chore.effort_min + chore.opening_min
        often = every < SELDOM * gap or (every < OFTEN_DAYS and takes <= LITTLE_MIN)
        if often and chore.key not in pinned:
            times = chore.reach(0, chore.days) + chore.gone
            between.append(Between(chore, times, times * takes))
        elif chore.key in pinned or chore.first(chore.days) > weights.limit(chore):
            planned.append(chore)
    return between, planned


def _visits(chores: Sequence[Chore], doing: Doing, days: Sequence[Day]) -> tuple[Visit, ...]:
    at = {day.index: day for day in days}
    before = {chore.key: set_back_on(chore, doing, coverers_of(chores)) for chore in chores}
    made = []
    for index, jobs in jobs_by_day(chores, doing).items():
        jobs_done = [_job(chore, index, before[chore.key]) for chore in jobs]
        order = sorted(jobs_done, key=lambda job: (str(job.chore.key.machine_id), job.chore.stake, job.chore.key))
        made.append(Visit(at[index], tuple(order), hands_on_min(jobs)))
    return tuple(made)


def _job(chore: Chore, day: int, set_back: Sequence[int]) -> Job:
    since = max((n for n in set_back if n < day), default=None)
    shares = shares_from(chore, since)
    share = float(shares[day - (since or 0)])
    reached = next((n for n, at in enumerate(shares, since or 0) if at >= 1), chore.days)
    return Job(chore, share, reached - day)


def _moved(before: Mapping[ChoreKey, Sequence[date]] | None, doing: Doing, today: date) -> tuple[date, ...]:
    """Days of the last plan, from today on, that have no visit any more."""
    if not before:
        return ()
    now = {today + timedelta(days=n) for each in doing.values() for n in each}
    return tuple(sorted({day for each in before.values() for day in each if day >= today} - now))


# --- What cannot be met ------------------------------------------------------------------------------------------


def _unmet(
    chores: Sequence[Chore], doing: Doing, days: Sequence[Day], wishes: Wishes, today: date, weights: Weights
) -> list[Unmet]:
    """The first time that each chore waits longer than it may, and the least bad way out of that."""
    coverers = coverers_of(chores)
    made = []
    for chore in chores:
        limit = weights.limit(chore)
        start: int | None = None
        for end in [*set_back_on(chore, doing, coverers), None]:
            shares = shares_from(chore, start)[: None if end is None else end - (start or 0) + 1]
            over = next((n for n, share in enumerate(shares, start or 0) if share > limit + 1e-9), None)
            if over is not None and over != end:
                made.append(_way_out(chore, (start or 0, over, end), doing, chores, days, wishes, today))
                break
            start = end
    return sorted(made, key=lambda one: (one.chore.stake, one.since, one.chore.key.slot))


def _way_out(
    chore: Chore,
    when: tuple[int, int, int | None],
    doing: Doing,
    chores: Sequence[Chore],
    days: Sequence[Day],
    wishes: Wishes,
    today: date,
) -> Unmet:
    start, over, end = when
    since = today + timedelta(days=over)
    done_on = None if end is None else today + timedelta(days=end)
    if chore.waits in (Waits.ORDER, Waits.RACK, Waits.PUT_OFF) and over <= chore.not_before:
        return Unmet(chore, since, done_on, Helps.WAIT, today + timedelta(days=chore.not_before))
    needs = chore.effort_min + chore.opening_min
    earliest = max(start + 1 if start else 0, chore.not_before)
    near = [day for day in days if earliest <= day.index <= max(over, earliest)]
    if near and not any(day.reaching(chore.skill) > 0 for day in near):
        return Unmet(chore, since, done_on, Helps.MORE_SKILL, near[-1].date, needs)
    if near:
        by_day = jobs_by_day(chores, doing)
        room = {day.index: day.most - hands_on_min(by_day.get(day.index, [])) for day in near}
        day = max(near, key=lambda one: (room[one.index], -one.index))
        if room[day.index] < needs:
            return Unmet(chore, since, done_on, Helps.MORE_MINUTES, day.date, needs - max(0.0, room[day.index]))
    free = [n for n in range(earliest, max(over, earliest) + 1) if wishes.bars(today + timedelta(days=n)) is None]
    on = today + timedelta(days=free[-1]) if free else None
    return Unmet(chore, since, done_on, Helps.ANOTHER_DAY, on, needs)
