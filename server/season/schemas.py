"""What the season takes and gives. Words are made by the screen; here are figures, codes and the care book's names."""

from datetime import date, datetime
from uuid import UUID

from care.season.chore import Chore, Waits
from care.season.model import Between, Helps, Job, Score, Unmet, Visit
from care.vocabulary import Action
from server.base.schema import Schema
from server.season.asked_schemas import ChoreIn, HabitsIn, habits_out
from server.season.planning import Planned
from server.season.records import What


class ChoreOut(Schema):
    """A chore with the names of its machine and part."""

    machine_id: UUID
    machine_name: str
    slot: str
    slot_name: str
    action: Action
    stake: int
    minutes: float


class JobOut(ChoreOut):
    """A chore of a visit: by how many days it is early (late where less than 0), and why; when it is dry.

    `with_opening` tells that others of its machine are done behind the same opening; `skips` counts the runs that its
    machine misses meanwhile; `turns` that a dry one goes in at once; `pinned` that somebody put it on this day.
    """

    share: float
    early_days: int
    with_opening: str | None
    dry_at: datetime | None
    skips: int
    turns: bool
    pinned: bool


class VisitOut(Schema):
    """What is done on one day in one go, its hands-on minutes, and how many more than the day has [min]."""

    date: date
    minutes: float
    over_min: float
    jobs: list[JobOut]


class BesideVisitsOut(ChoreOut):
    """What comes too often for visits: about so many times a week, and the minutes of a week [min]."""

    a_week: float
    week_min: float


class UnmetOut(ChoreOut):
    """A chore that waits longer than it may, since when, when it is done, and the least bad way out."""

    since: date
    done_on: date | None
    way: Helps
    on: date | None
    needs_min: float
    waits: Waits | None


class ScoreOut(Schema):
    """What a way of doing things takes over the season."""

    visits: int
    minutes: float
    ready_min: float
    missed_runs: int
    late_days: int
    early_min: float
    early_cents: float


class WishOut(Schema):
    """A wish that stands, and the entry that takes it back."""

    entry_id: UUID
    what: str
    first: date
    last: date
    chores: list[ChoreIn]
    note: str
    by: str


class OrderByOut(Schema):
    """Parts that visits need beyond what is there: how many, for which day, by when to order."""

    name: str
    count: int
    for_day: date
    by: date


class DroppedOut(Schema):
    """Chores that were to be on a day and cannot, and what stands against it."""

    day: date
    chores: int
    why: str


class MachineNameOut(Schema):
    """A machine of the plan."""

    id: UUID
    name: str


class SeasonOut(Schema):
    """Half a year in visits. `proposal` tells that the household told nothing of its days yet; machines that cannot be
    worked out are `left_out`.
    """

    today: date
    days: int
    proposal: bool
    habits: HabitsIn
    currency: str
    machines: list[MachineNameOut]
    visits: list[VisitOut]
    between: list[BesideVisitsOut]
    handed_over: list[ChoreOut]
    unmet: list[UnmetOut]
    orders: list[OrderByOut]
    asked: list[WishOut]
    score: ScoreOut
    own_dates: ScoreOut
    gap: float
    moved: list[date]
    dropped: list[DroppedOut]
    pace: float
    sittings: int
    left_out: list[str]


def season_out(planned: Planned, currency: str) -> SeasonOut:
    """A season as the API gives it."""
    season, habits = planned.season, planned.habits
    return SeasonOut(
        today=season.start,
        days=season.days,
        proposal=planned.proposal,
        habits=habits_out(habits),
        currency=currency,
        machines=[MachineNameOut(id=pk, name=state.machine.name) for pk, state in planned.machines.items()],
        visits=[_visit(planned, visit) for visit in season.visits],
        between=[_between(planned, one) for one in season.between],
        handed_over=[ChoreOut.model_validate(_chore(planned, chore)) for chore in season.handed_over],
        unmet=[_unmet(planned, one) for one in season.unmet],
        orders=[OrderByOut.model_validate(one, from_attributes=True) for one in planned.orders],
        asked=[
            WishOut(
                entry_id=one.entry_id, what=one.what, first=one.first, last=one.last,
                chores=[ChoreIn(machine_id=key.machine_id, slot=key.slot, action=key.action) for key in one.chores],
                note=one.note, by=one.by,
            )
            for one in planned.asked
        ],
        score=_score(season.score),
        own_dates=_score(planned.own_dates),
        gap=season.gap,
        moved=list(season.moved),
        dropped=[DroppedOut(day=pin.day, chores=len(pin.chores), why=why) for pin, why in season.dropped],
        pace=planned.pace.factor,
        sittings=planned.pace.sittings,
        left_out=list(planned.left_out),
    )  # fmt: skip


def _chore(planned: Planned, chore: Chore) -> dict[str, object]:
    machine = planned.machines[chore.key.machine_id].machine
    return {
        "machine_id": machine.id,
        "machine_name": machine.name,
        "slot": chore.key.slot,
        "slot_name": machine.archetype.slot(chore.key.slot).name,
        "action": chore.key.action,
        "stake": int(chore.stake),
        "minutes": chore.effort_min,
    }


def _visit(planned: Planned, visit: Visit) -> VisitOut:
    return VisitOut(
        date=visit.day.date,
        minutes=visit.minutes,
        over_min=max(0.0, visit.minutes - visit.day.most),
        jobs=[_job(planned, visit, job) for job in visit.jobs],
    )


def _job(planned: Planned, visit: Visit, job: Job) -> JobOut:
    chore = job.chore
    kind = planned.machines[chore.key.machine_id].machine.archetype
    others = [
        other.chore
        for other in visit.jobs
        if other is not job
        and (other.chore.key.machine_id, other.chore.opening) == (chore.key.machine_id, chore.opening)
    ]
    opening = kind.opening(chore.opening).name if chore.opening and others else None
    day = visit.day.date
    pinned = any(one.what == What.ON and one.first == day and chore.key in one.chores for one in planned.asked)
    return JobOut(
        **_chore(planned, chore),
        share=job.share,
        early_days=job.early_days,
        with_opening=opening,
        dry_at=planned.ready_at(chore, day),
        skips=chore.missed[visit.day.index] if chore.missed else 0,
        turns=chore.turns,
        pinned=pinned,
    )


def _between(planned: Planned, one: Between) -> BesideVisitsOut:
    weeks = planned.season.days / 7
    return BesideVisitsOut(**_chore(planned, one.chore), a_week=one.times / weeks, week_min=one.minutes / weeks)


def _unmet(planned: Planned, one: Unmet) -> UnmetOut:
    return UnmetOut(
        **_chore(planned, one.chore),
        since=one.since,
        done_on=one.done_on,
        way=one.way,
        on=one.on,
        needs_min=one.minutes,
        waits=one.chore.waits,
    )


def _score(score: Score) -> ScoreOut:
    return ScoreOut(
        visits=score.visits,
        minutes=score.minutes,
        ready_min=score.ready_min,
        missed_runs=score.missed_runs,
        late_days=sum(score.late_days.values()),
        early_min=score.early_min,
        early_cents=score.early_cents,
    )
