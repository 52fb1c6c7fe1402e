"""What an answer of the household changes: the intervals that a load moves, before and after."""

from collections.abc import Iterable
from dataclasses import dataclass
from math import log

from care.due.learning import prior
from care.due.triggers import limit_at
from care.model import Load, Machine
from care.parts import Slot
from care.rules import Rule, Trigger
from care.vocabulary import Action, Calendar, LoadKind, Meter, School


@dataclass(frozen=True, slots=True)
class AnswerEffect:
    """One interval of one part: its figure at two loads, in the unit of its trigger's meter."""

    machine: str
    part: str
    action: Action
    meter: Meter
    calendar: Calendar | None
    before: float
    after: float

    @property
    def size(self) -> float:
        """How much it changes, the same for twice and for half [-]."""
        return abs(log(self.after / self.before))


def effects(before: Load, after: Load, machines: Iterable[Machine], school: School) -> list[AnswerEffect]:
    """Every interval that differs between two loads, the largest change first. What was found is left out."""
    moved = {kind for kind in LoadKind if before.of(kind) != after.of(kind)}
    made = [
        effect
        for machine in machines
        for slot in machine.archetype.parts(machine.features)
        for rule in slot.rules
        if rule.holds_with(machine.features) and rule.moved_by in moved
        if (effect := _effect(machine, slot, rule, before, after, slot.school_in(school))) is not None
    ]
    return sorted(made, key=lambda effect: -effect.size)


def _effect(machine: Machine, slot: Slot, book: Rule, before: Load, after: Load, school: School) -> AnswerEffect | None:
    rule = book.in_force(school)
    if rule is None or rule.moved_by is None:
        return None
    for trigger in rule.triggers:
        was = _limit(trigger, rule, school, before.of(rule.moved_by))
        now = _limit(trigger, rule, school, after.of(rule.moved_by))
        if round(was, 1) != round(now, 1):
            return AnswerEffect(machine.name, slot.name, rule.action, trigger.meter, trigger.calendar, was, now)
    return None


def _limit(trigger: Trigger, rule: Rule, school: School, index: float) -> float:
    return limit_at(trigger, rule, school, index, prior())
