"""What a machine takes to keep: minutes a run, a week and a year, and what it uses up, before anything has happened."""

from dataclasses import dataclass

from care.due.learning import prior
from care.due.triggers import clock_meter, in_clock_units, limit_at
from care.due.usage import Pace
from care.kinds import Action, Archetype, Meter, Rule, School, Slot, Trigger
from care.model import Load

WEEKS = 365.25 / 7
"""Weeks a year [-]."""
FILLS_A_RUN = 0.3
"""Full bins a run of a machine whose bin nobody counts yet [-]. Ours."""


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


def upkeep(archetype: Archetype, features: frozenset[str], pace: Pace, load: Load, school: School) -> Upkeep:
    """What a kind of machine takes at a usual week: each opening counts as often as its most frequent task."""
    minutes, used = 0.0, dict[str, float]()
    openings: dict[str, float] = {}
    for slot in archetype.parts(features):
        for rule in (r for r in slot.rules if r.holds_with(features)):
            often = _a_year(slot, rule, archetype, pace, load, school)
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


def _a_year(slot: Slot, book: Rule, archetype: Archetype, pace: Pace, load: Load, school: School) -> float:
    """How often a year a rule falls due: by the first of its triggers."""
    school = slot.school or school
    rule = book.in_force(school)
    if rule is None:
        return 0.0
    index = load.of(rule.moved_by) if rule.moved_by else None
    return max(speed_a_year(clock_meter(t), archetype, pace) / _limit(t, rule, school, index) for t in rule.triggers)


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
