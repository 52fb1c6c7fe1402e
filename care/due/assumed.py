"""Runs that nobody reported but that silence stands for.

For each local week: what the usual week plans, less what really ran, never below nothing. Days away, paused or told as
"did not run" plan nothing. Today is not assumed: it may still be told.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, time, timedelta, tzinfo
from itertools import takewhile

from care.due.reading import DAY
from care.due.schedule import Schedule
from care.model import Provenance, Rest, Run, Why
from care.vocabulary import Silence

LEAST_MIN = 1.0
"""A shortfall below this is not a run [min]."""


def with_returns(rests: Iterable[Rest]) -> list[Rest]:
    """Days off as they were told, in that order, each ended by a return that was told after it.

    Days off that begin after a return are not touched by it.
    """
    made: list[Rest] = []
    for rest in rests:
        if rest.why is Why.BACK:
            made = [cut for one in made if (cut := _until(one, rest.first)) is not None]
        else:
            made.append(rest)
    return made


def _until(rest: Rest, back: date) -> Rest | None:
    """What is left of days off when the machine is back on a day."""
    if rest.first > back or (rest.last is not None and rest.last < back):
        return rest
    return replace(rest, last=back - DAY) if rest.first < back else None


@dataclass(frozen=True, slots=True)
class Plan:
    """A usual week in force from local day `since` until the next plan; None: no usual week."""

    since: date
    schedule: Schedule | None


def week_since(plans: Sequence[Plan]) -> date | None:
    """The local day from which the present usual week holds, where another one held before; None where none did."""
    alike = [*takewhile(lambda plan: _pace(plan) == _pace(plans[-1]), reversed(plans))]
    return alike[-1].since if len(alike) < len(plans) else None


def _pace(plan: Plan) -> tuple[str, float] | None:
    return (plan.schedule.rule, plan.schedule.run_min) if plan.schedule else None


def assumed_runs(
    plans: Sequence[Plan], runs: Iterable[Run], rests: Iterable[Rest], *, today: date, zone: tzinfo
) -> list[Run]:
    """The runs that silence stands for, oldest first; none before the first plan or from today on."""
    real: dict[date, float] = {}
    for run in runs:
        real[run.day] = real.get(run.day, 0.0) + run.run_s / 60
    quiet = list(rests)
    made: list[Run] = []
    ends = [*(plan.since for plan in plans[1:]), today]
    for plan, until in zip(plans, ends, strict=False):
        if plan.schedule is not None and plan.schedule.silence is Silence.RAN:
            made += _of_plan(plan.schedule, plan.since, min(until, today), real, quiet, zone)
    return made


def _of_plan(
    schedule: Schedule, since: date, until: date, real: dict[date, float], rests: Sequence[Rest], zone: tzinfo
) -> list[Run]:
    by_week: dict[date, list[date]] = {}
    for day in schedule.days(since, until):
        if not any(rest.holds(day) for rest in rests):
            by_week.setdefault(day - day.weekday() * DAY, []).append(day)
    made: list[Run] = []
    for monday, planned in by_week.items():
        ran = sum(real.get(monday + n * DAY, 0.0) for n in range(7) if since <= monday + n * DAY < until)
        missing = len(planned) * schedule.run_min - ran
        free = [day for day in planned if day not in real]
        for day in free:
            minutes = min(schedule.run_min, missing)
            if minutes < LEAST_MIN:
                break
            made.append(_run(schedule, day, minutes, zone))
            missing -= minutes
    return made


def _run(schedule: Schedule, day: date, minutes: float, zone: tzinfo) -> Run:
    at = datetime.combine(day, schedule.starts or time(12), tzinfo=zone) + timedelta(minutes=minutes)
    return Run(day, minutes * 60, at, provenance=Provenance.ASSUMED, mopped=schedule.mops)
