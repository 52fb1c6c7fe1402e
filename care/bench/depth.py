"""How far a part is cleaned in a sitting: emptied, cleaned dry or wiped, washed. Deeper takes in what is shallower."""

from collections.abc import Iterable
from dataclasses import dataclass
from enum import IntEnum

from care.kinds import Archetype
from care.parts import Slot
from care.rules import Rule
from care.vocabulary import Action, Consequence, School


class Depth(IntEnum):
    """How far somebody goes with a part."""

    EMPTY = 1
    CLEAN = 2
    WASH = 3


DEPTH_OF = {
    Action.EMPTY: Depth.EMPTY,
    Action.CLEAN: Depth.CLEAN,
    Action.DE_HAIR: Depth.CLEAN,
    Action.WIPE: Depth.CLEAN,
    Action.RINSE: Depth.WASH,
    Action.WASH: Depth.WASH,
}
"""Actions that are a depth of cleaning; looks, swaps and new parts are none."""


def extras(
    archetype: Archetype, features: frozenset[str], school: School, opened: Iterable[str | None]
) -> list[tuple[Slot, Rule]]:
    """What may be done besides by who likes, while these openings are undone: (part, rule); None: what needs none."""
    ways = set(opened)
    return [
        (slot, rule)
        for slot in archetype.parts(features)
        for rule in slot.rules
        if rule.extra and slot.opening in ways and rule.holds_with(features) and rule.in_force(slot.school_in(school))
    ]


@dataclass(frozen=True, slots=True)
class Choice:
    """A depth that a part offers, and all that is done to it then."""

    depth: Depth
    actions: tuple[Action, ...]


def choices(slot: Slot, features: frozenset[str], school: School) -> tuple[Choice, ...]:
    """The depths that a part of a machine with these features offers where it is kept by `school`, shallow first.

    A wash makes a wipe needless.
    """
    held = (r for r in slot.rules if r.holds_with(features) and r.in_force(school) and not r.extra)
    mine = [r.action for r in held if r.action in DEPTH_OF]
    made = []
    for depth in Depth:
        if depth not in {DEPTH_OF[action] for action in mine}:
            continue
        wiped = depth is Depth.WASH
        upto = [a for a in mine if DEPTH_OF[a] <= depth and not (wiped and a is Action.WIPE)]
        made.append(Choice(depth, tuple(sorted(upto, key=lambda a: (DEPTH_OF[a], a)))))
    return tuple(made)


def depth_of(actions: Iterable[Action]) -> Depth | None:
    """How deep these actions go together; None where none of them is a cleaning."""
    return max((DEPTH_OF[action] for action in actions if action in DEPTH_OF), default=None)


CAN_WAIT = (Consequence.SMELL, Consequence.LOOKS)
"""What is at stake where a task may be left for another day by somebody in a hurry."""
