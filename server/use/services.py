"""What ran and what did not: each use case is one transaction and takes the member."""

from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any, cast
from uuid import UUID

from django.db import transaction

from care import model as core
from care.due.assumed import with_returns
from care.due.schedule import Schedule
from care.due.usage import AtDock
from care.errors import InvalidValue, require
from care.heard.sense import CLOCK_SKEW, charge_min
from care.units import READINGS, Quantity
from care.vocabulary import Ended, Mishap
from server.base import clock
from server.base.problems import Conflict, NotFound
from server.due.dangers import refuse_in_danger
from server.due.state import runs_that_count
from server.household.models import Member
from server.household.services import journal_by, require_writer, today_of, zone_of
from server.logbook.models import Entry
from server.logbook.services import Journal, standing
from server.machines import records
from server.machines.models import Machine, MishapRecord, Reading, Rest, Run
from server.machines.services import as_fitted, machine_of, noon, refuse_before, refuse_out_of_use, told_at
from server.setup.services import write_schedule

DAY_S = 24 * 3600.0


@dataclass(frozen=True, slots=True)
class Figures:
    """What a machine that reports by itself tells of a run: floor covered [m2], the share of the battery it took [-],
    how often a dock emptied it, why it ended.
    """

    area_m2: float | None = None
    battery: float | None = None
    emptied: int | None = None
    ended: Ended | None = None


NO_FIGURES = Figures()


@transaction.atomic
def log_run(
    *,
    member: Member,
    run_id: UUID,
    machine_id: UUID,
    day: date | None = None,
    minutes: float,
    start: datetime | None = None,
    mopped: bool | None = None,
    provenance: core.Provenance = core.Provenance.LOGGED,
    part_was_out: bool = False,
    figures: Figures = NO_FIGURES,
) -> Entry:
    """A run of a machine, on a local day or from a known start. The same `run_id` again changes nothing.

    A measured run stands in for one that somebody told of on that day without its start. Raises `InvalidValue` for a
    run of no, negative or over 24 h length, in the future or before the machine was new; `Conflict` when it overlaps an
    exact run, makes more than 24 h of one day, is of a dock or of a machine that was not in use, has the id of another
    run, is told without a start of a day of which the machine told itself, or is told today of a machine whose filter
    is out and nobody said that it was (`part_was_out`).
    """
    require_writer(member)
    machine = machine_of(member, machine_id)
    require(0 < minutes <= 1440, "minutes", f"{minutes:g}", "more than 0 and at most 1440 minutes (24 h)")
    _refuse_dock(machine)
    run_s = minutes * 60
    day, counts_at = _when(member, day, start, run_s)
    mops = _mops(machine) if mopped is None else mopped
    known = _logged_before(member, run_id)
    if known is not None:
        _refuse_otherwise(known, machine=machine, day=day, run_s=run_s, start=start, mopped=mops)
        return known.entry
    refuse_before(member, machine, day)
    refuse_out_of_use(member, machine, day)
    if day >= today_of(member):
        refuse_in_danger(member, [machine])
    if start is not None:
        _refuse_overlap(member, machine, start, start + timedelta(seconds=run_s))
    measured = provenance is core.Provenance.MEASURED
    if not measured:
        _refuse_long_day(machine, day, run_s)
        if start is None:
            _refuse_told_itself(member, machine, day)
        if day >= today_of(member) and not part_was_out:
            _ask_of_empty_places(member, machine)
    source = Entry.Source.DEVICE if measured else Entry.Source.PERSON
    journal = journal_by(member, machine.pk, source=source)
    entry = journal.tell(
        Run,
        counts_at,
        entry_id=run_id,
        machine=machine,
        day=day,
        run_s=run_s,
        start=start,
        mopped=mops,
        provenance=provenance,
        supersedes=_told_before(machine, day) if measured else None,
        area_m2=figures.area_m2,
        battery=figures.battery,
        emptied=figures.emptied,
        ended=figures.ended or "",
    )
    _read_off(journal, machine, counts_at, minutes, figures)
    return entry


def _read_off(journal: Journal, machine: Machine, at: datetime, minutes: float, figures: Figures) -> None:
    """What a run tells of the machine itself: the floor it covers, how long a charge lasts; only what can be at all."""
    charge = charge_min(minutes, figures.battery) if figures.battery else None
    for quantity, figure, unit in ((Quantity.AREA, figures.area_m2, "m2"), (Quantity.CHARGE, charge, "min")):
        of = READINGS[quantity]
        if figure is not None and of.least <= (value := of.in_kept(figure, unit)) <= of.most:
            journal.tell(
                Reading, at, machine=machine, quantity=quantity, value=value, typed=round(figure, 1), unit=unit
            )


def _logged_before(member: Member, run_id: UUID) -> Run | None:
    """The run that was logged under this id. Raises `NotFound` for another household's, `Conflict` for no run's."""
    entry = Entry.everything.filter(pk=run_id).first()
    if entry is None:
        return None
    if entry.household_id != member.household_id:
        raise NotFound("run: this id is not yours", field="id", fix="Log the run again.")
    row = Run.objects.of(member.household_id).filter(pk=run_id).select_related("entry").first()
    if row is None:
        raise Conflict("id: something else has this id", field="id", fix="Log the run again.")
    return cast(Run, row)


def _refuse_otherwise(row: Run, *, machine: Machine, **fields: Any) -> None:
    """Refuse an id that is used again for a run that was otherwise."""
    if row.machine_id != machine.pk or any(getattr(row, name) != value for name, value in fields.items()):
        raise Conflict(
            "id: a run is logged under this id, and it was otherwise",
            field="id",
            fix="Look at the machine's records; undo that run if it is wrong, and log this one anew.",
        )


def _told_before(machine: Machine, day: date) -> Run | None:
    """The run of that day that a person told of and that no measured one stands in for yet."""
    runs = runs_that_count(machine.household_id, [machine.pk]).filter(
        day=day, provenance=core.Provenance.LOGGED, start=None
    )
    return standing(runs).first()


def _refuse_dock(machine: Machine) -> None:
    if records.archetype_of(machine).serves:
        raise Conflict(
            f"machine_id: {machine.name} is a dock; it counts what its robot runs",
            field="machine_id",
            fix="Log the run at its robot.",
        )


def _mops(machine: Machine) -> bool:
    """Whether its usual runs mop."""
    last = standing(machine.schedules.all()).last()
    return bool(last and last.mops)


def _when(member: Member, day: date | None, start: datetime | None, run_s: float) -> tuple[date, datetime]:
    """The local day of a run, and the instant from which it counts. Raises `InvalidValue` when that is to come."""
    now, zone, today = clock.now(), zone_of(member), today_of(member)
    if start is not None:
        require(start.tzinfo is not None, "start", start, "a time with its offset")
        end = start + timedelta(seconds=run_s)
        _refuse_future("start", end <= now + CLOCK_SKEW)
        return start.astimezone(zone).date(), min(end, now)
    day = day or today
    _refuse_future("day", day <= (now + CLOCK_SKEW).astimezone(zone).date())
    return day, now if day >= today else noon(day, member)


def _refuse_future(name: str, ok: bool) -> None:
    if not ok:
        raise InvalidValue(f"{name}: this run is in the future", field=name, fix="Log it when it is over.")


def overlapping(machine: Machine, start: datetime, end: datetime) -> list[Run]:
    """The runs on record, by their known start, during which these instants lie."""
    rows = Run.objects.of(machine.household_id).filter(machine=machine)
    near = standing(rows.filter(start__gt=start - timedelta(days=1), start__lt=end))
    return [row for row in near if row.start and row.start + timedelta(seconds=row.run_s) > start]


def _refuse_overlap(member: Member, machine: Machine, start: datetime, end: datetime) -> None:
    for row in overlapping(machine, start, end):
        assert row.start is not None  # or it would not be known to overlap
        began, ended = (at.astimezone(zone_of(member)) for at in (row.start, row.start + timedelta(seconds=row.run_s)))
        raise Conflict(
            f"start: {machine.name} already ran from {began:%H:%M} to {ended:%H:%M} on that day",
            field="start",
            fix="Change the start or the minutes, or undo the other run.",
        )


def _refuse_told_itself(member: Member, machine: Machine, day: date) -> None:
    """Refuse a run without its start on a day of which the machine told by itself: it is likely the same run."""
    rows = Run.objects.of(machine.household_id).filter(machine=machine, day=day, provenance=core.Provenance.MEASURED)
    started = [row for row in standing(rows) if row.start is not None]
    if started:
        row = started[-1]
        began = row.start.astimezone(zone_of(member))
        raise Conflict(
            f"started: {machine.name} told itself of {row.run_s / 60:.0f} min on that day, from {began:%H:%M} on",
            field="started",
            fix="It is counted. If it ran another time as well, tell when that began.",
        )


def _refuse_long_day(machine: Machine, day: date, run_s: float) -> None:
    """Refuse more than 24 h of one machine on one day. Raises `Conflict`."""
    runs = standing(runs_that_count(machine.household_id, [machine.pk]).filter(day=day))
    before = sum(runs.values_list("run_s", flat=True))
    if before + run_s > DAY_S:
        raise Conflict(
            f"minutes: {before / 60:.0f} min of {machine.name} are logged on {day}; with these it is more than a day",
            field="minutes",
            fix="Change the minutes or the day, or undo the other run.",
        )


def _ask_of_empty_places(member: Member, machine: Machine) -> None:
    """Ask once where a machine is said to have run while a part that it needs is out. Raises `Conflict`."""
    fitted = as_fitted(member, machine.pk)
    out = [fitted.archetype.slot(key).name.lower() for key in fitted.empty_slots]
    if out:
        raise Conflict(
            f"part_was_out: by the records the {' and the '.join(out)} of {machine.name} is out",
            field="part_was_out",
            fix="If it is back in, record that first. If it ran without it, say so: then look at what lies behind it.",
            part_out=" and ".join(out),
        )


@transaction.atomic
def set_schedule(*, member: Member, machine_id: UUID, schedule: Schedule | None, dock: AtDock | None = None) -> Entry:
    """A machine's usual week from now on, or none, and what its dock is set to; what was before keeps explaining
    yesterday.
    """
    require_writer(member)
    machine = machine_of(member, machine_id)
    _refuse_dock(machine)
    journal = journal_by(member, machine.pk)
    usual = records.archetype_of(machine).usual_run_min
    return write_schedule(journal, machine, schedule, usual, journal.entered_at, dock or AtDock())


@transaction.atomic
def rest(*, member: Member, machine_id: UUID | None, why: core.Why, first: date, last: date | None) -> Entry:
    """Days on which a machine, or with None the whole house, did not or will not run as usual.

    Raises `InvalidValue` for days the wrong way round, or for "did not run" of days to come.
    """
    require_writer(member)
    machine = machine_of(member, machine_id) if machine_id else None
    if machine is not None:
        _refuse_dock(machine)
    days = core.Rest(why, first, last)
    if why is core.Why.DID_NOT_RUN:
        past = last is not None and last <= today_of(member)
        require(past, "last", last, "today or an earlier day; for days to come choose away or paused")
    journal = journal_by(member, machine.pk if machine else None)
    return journal.tell(Rest, machine=machine, why=days.why, first=days.first, last=days.last)


def away_days(member: Member) -> list[core.Rest]:
    """Days on which nobody is at home, past and to come, as they were told of the whole house."""
    rests = [records.to_rest(row) for row in standing(Rest.objects.of(member.household_id)) if row.machine_id is None]
    return [rest for rest in with_returns(rests) if rest.why is core.Why.AWAY]


@transaction.atomic
def mishap(*, member: Member, machine_id: UUID, kind: Mishap, day: date | None = None) -> Entry:
    """What a machine ran over or took in that it is not made for, on a local day (today if none is given).

    What that harms falls due at once. Raises `InvalidValue` for a day to come, `Conflict` for a dock.
    """
    require_writer(member)
    machine = machine_of(member, machine_id)
    _refuse_dock(machine)
    refuse_out_of_use(member, machine, day or today_of(member))
    journal = journal_by(member, machine.pk)
    at = told_at(member, machine, day)
    return journal.tell(MishapRecord, at, machine=machine, kind=kind)
