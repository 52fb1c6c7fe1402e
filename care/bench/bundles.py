"""Tasks that are done in one go: against a complaint, or as a round that has an interval of its own."""

from collections.abc import Iterable
from dataclasses import dataclass

from care.content import Bundle
from care.due_state import DueState
from care.kinds import Archetype
from care.overrides import own_trigger
from care.parts import Slot
from care.rules import OwnFigure, Trigger
from care.vocabulary import Action, Calendar, Consequence, Meter, School

LONGEST_H = 48.0
"""A part that rests longer than this after a wash is not washed as one of many [h]. Ours."""
ROBOT_H, OTHER_H = 5.0, 1.0
"""Hours of running a week that the days of a round stand for: of robots and docks, and of all else [h]. Ours."""


def tasks(bundle: Bundle, archetype: Archetype, features: frozenset[str], school: School) -> list[tuple[Slot, Action]]:
    """The tasks of a bundle on a machine with these features, part by part; new parts and swaps are none of them.

    A wash makes a wipe needless, and what is never washed as a rule (a hose) is looked through, aired and cleaned dry.
    What is done by who likes is none of them unless the bundle names it.
    """
    if bundle.only and archetype.traits.get("moves") not in bundle.only:
        return []
    columns = {station.key: station.column for station in archetype.stations}
    named = {tuple(one.split(".")) for one in bundle.tasks}
    chosen: list[tuple[Slot, Action]] = []
    for slot in archetype.parts(features):
        mine = [
            rule.action
            for rule in slot.rules
            if rule.holds_with(features)
            and rule.in_force(slot.school_in(school))
            and rule.action not in (Action.REPLACE, Action.SWAP)
            and (
                {(slot.use, rule.action), (slot.use, rule.instead_of)} & named
                or (rule.stake in bundle.at_stake and not rule.extra)
                or (columns[slot.station] in bundle.columns and {rule.action, rule.instead_of} & set(bundle.actions))
            )
        ]
        dry = slot.drying is not None and slot.drying.floor_h > LONGEST_H
        kept = [action for action in mine if not (dry and action is Action.WASH)]
        chosen += [(slot, action) for action in kept if not (action is Action.WIPE and Action.WASH in kept)]
    return chosen


def full_service(archetype: Archetype, states: Iterable[DueState]) -> list[tuple[str, Action]]:
    """All regular care of a machine as (slot, action): what has a date, of parts that are in; no new ones, no swaps."""
    return [
        (state.slot, state.action)
        for state in states
        if state.item_id is not None
        and state.due is not None
        and state.action is not Action.SWAP
        and not archetype.slot(state.slot).rule(state.action).is_life
    ]


@dataclass(frozen=True, slots=True)
class Kept:
    """A task of a round at the household's own interval [days]; `asked` is what it asked for."""

    slot: str
    action: Action
    figure: OwnFigure
    days: float
    asked: float

    @property
    def keeps_its_own(self) -> bool:
        """Whether the book lets it go no longer than its own figure, sooner than the round."""
        return self.days < self.asked


def rhythm(name: str, chosen: list[tuple[Slot, Action]], archetype: Archetype, days: float) -> list[Kept]:
    """The tasks of a round at an interval of `days` [days], so that they fall due together.

    What nobody stretches (a filter that guards a motor, sensors, a battery) keeps the book's longest figure where that
    is shorter, and is left as it is where the book counts it otherwise than in days.
    """
    made = []
    for slot, action in chosen:
        rule = slot.rule(action)
        guarded = rule.never_stretch or rule.stake is Consequence.SAFETY
        book = next((trigger for trigger in rule.triggers if trigger.meter is Meter.DAYS), None)
        if guarded and book is None:
            continue
        figure = min(days, book.high) if guarded and book else days
        trigger = own_trigger(rule, Meter.DAYS, figure) if guarded else _stands_for_use(figure, archetype)
        made.append(Kept(slot.key, action, OwnFigure(name, trigger), figure, days))
    return made


def _stands_for_use(days: float, archetype: Archetype) -> Trigger:
    reference_h = ROBOT_H if archetype.traits.get("moves") in ("itself", "stays") else OTHER_H
    return Trigger(Meter.DAYS, days, days, Calendar.STANDS_FOR_USE, reference_h)


def renewal(archetype: Archetype, slots: tuple[str, ...], name: str, days: float) -> list[Kept]:
    """The parts of a kit, renewed together every so many days of usual use [days]."""
    figure = OwnFigure(name, _stands_for_use(days, archetype))
    have = [slot for slot in archetype.slots if slot.key in slots and slot.is_renewed]
    return [Kept(slot.key, Action.REPLACE, figure, days, days) for slot in have]
