"""What a machine takes to keep: minutes a run, a week and a year, and what it uses up, before anything has happened."""

from dataclasses import dataclass

from care.due.learning import prior
from care.due.triggers import clock_meter, in_clock_units, limit_at
from care.due.usage import FILLS_A_RUN, Pace
from care.kinds import Archetype
from care.model import Load
from care.parts import Slot
from care.rules import Rule, Trigger
from care.vocabulary import Action, LoadKind, Meter, School

WEEKS = 365.25 / 7
"""Weeks a year [-]."""

EVERY_DAYS = (1, 2, 3, 4)
"""How often people who weigh it let a machine run: once in so many days [days]."""


@dataclass(frozen=True, slots=True)
class Upkeep:
    """Hands-on minutes a year [min], runs a year, and parts used up a year (name -> count)."""

    minutes_a_year: float
    runs_a_year: float
    uses_up: dict[str, float]

    @property
    def minutes_a_week(self) -> float:
        """Hands-on minutes of an average week [min]."""
        return self.minutes_a_year / WEEKS

    @property
    def minutes_a_run(self) -> float:
        """Hands-on minutes for each run [min]; 0 where it never runs."""
        return self.minutes_a_year / self.runs_a_year if self.runs_a_year else 0.0


def upkeep(
    archetype: Archetype, features: frozenset[str], pace: Pace, load: Load, school: School, *, dirtier: float = 1.0
) -> Upkeep:
    """What a kind of machine takes at a usual week: each opening counts as often as its most frequent task.

    `dirtier` is how many times as much dirt a run takes up as usual [-].
    """
    minutes, used = 0.0, dict[str, float]()
    openings: dict[str, float] = {}
    for slot in archetype.parts(features):
        for rule in (r for r in slot.rules if r.holds_with(features)):
            often = _a_year(slot, rule, archetype, pace, load, school, dirtier)
            minutes += often * rule.card.effort_min
            if slot.opening and often:
                openings[slot.opening] = max(openings.get(slot.opening, 0.0), often)
            if rule.action is Action.REPLACE and often:
                used[slot.name] = used.get(slot.name, 0.0) + often
    minutes += sum(often * archetype.opening(key).setup_min for key, often in openings.items())
    return Upkeep(minutes, pace.runs_per_week * WEEKS, used)


def times_a_year(slot: Slot, action: Action, archetype: Archetype, pace: Pace, load: Load, school: School) -> float:
    """How often a year an action on a part falls due at this use [1/year]; 0 where it has no such rule, or no date."""
    rule = next((rule for rule in slot.rules if rule.action is action), None)
    return _a_year(slot, rule, archetype, pace, load, school) if rule else 0.0


@dataclass(frozen=True, slots=True)
class RunsEvery:
    """A machine that runs once in so many days [days], and what it then takes."""

    days: int
    takes: Upkeep


def if_it_ran(
    archetype: Archetype, features: frozenset[str], pace: Pace, load: Load, school: School
) -> list[RunsEvery]:
    """What it would take if it ran daily, or every second to fourth day, for as long each time as now.

    The household sheds as much however often it runs: dust and volume come in fewer, dirtier runs. Hair winds up by the
    hours it turns, and some work is due by the calendar, so fewer runs save less than in proportion. Empty for one that
    does not run.
    """
    if not pace.runs_per_week:
        return []
    made = []
    for days in EVERY_DAYS:
        less = 7 / days / pace.runs_per_week
        scaled = Pace(pace.hours_per_week * less, pace.runs_per_week * less)
        made.append(RunsEvery(days, upkeep(archetype, features, scaled, load, school, dirtier=1 / less)))
    return made


def _a_year(
    slot: Slot, book: Rule, archetype: Archetype, pace: Pace, load: Load, school: School, dirtier: float = 1.0
) -> float:
    """How often a year a rule falls due: by the first of its triggers."""
    school = slot.school_in(school)
    rule = book.in_force(school)
    if rule is None:
        return 0.0
    index = load.of(rule.moved_by) if rule.moved_by else None
    fills = dirtier if rule.moved_by in (LoadKind.DUST, LoadKind.VOLUME) else 1.0
    return max(_speed(clock_meter(t), archetype, pace, fills) / _limit(t, rule, school, index) for t in rule.triggers)


def _speed(meter: Meter, archetype: Archetype, pace: Pace, fills: float) -> float:
    """A meter's speed a year, as many times as fast as more dirt brings its work sooner; the calendar does not."""
    return speed_a_year(meter, archetype, pace) * (1.0 if meter is Meter.DAYS else fills)


def _limit(trigger: Trigger, rule: Rule, school: School, index: float | None) -> float:
    return in_clock_units(trigger, limit_at(trigger, rule, school, index, prior()))


def speed_a_year(meter: Meter, archetype: Archetype, pace: Pace) -> float:
    """How far a meter of a clock goes in a year, in its unit; 0 for what nobody can foresee."""
    hours, runs = pace.hours_per_week * WEEKS, pace.runs_per_week * WEEKS
    per_charge = archetype.minutes_per_charge
    return {
        Meter.RUN_HOURS: hours,
        Meter.RUNS: runs,
        Meter.MOP_RUNS: runs if archetype.mops else 0.0,
        Meter.EVACUATIONS: runs,
        Meter.FILLS: runs * FILLS_A_RUN,
        Meter.CHARGES: hours * 60 / per_charge if per_charge else 0.0,
        Meter.DAYS: 365.25,
    }.get(meter, 0.0)
