"""How a suspect is put right: by a task of its part, or in the book's own words, on the spot or at the bench."""

from collections.abc import Iterable
from dataclasses import dataclass

from care.faults.book import Fault
from care.faults.subject import Spot, Suspect
from care.parts import Slot
from care.vocabulary import Action

ON_THE_SPOT = frozenset({Action.EMPTY, Action.CLEAN, Action.DE_HAIR, Action.WIPE})
"""Done where one stands, the part goes back at once; what is wetted or renewed goes over a bench sheet."""


@dataclass(frozen=True, slots=True)
class Cure:
    """What puts a suspect right: the task of its part, if one does, the words, hands-on minutes, hours hands off."""

    action: Action | None
    words: tuple[str, ...]
    minutes: float
    wait_h: float

    @property
    def on_the_spot(self) -> bool:
        """Whether it is a task that leaves its part in its place, so that a case may record it by itself."""
        return self.action in ON_THE_SPOT

    @property
    def at_the_bench(self) -> bool:
        """Whether a sheet should lead through it: something dries, or a part is renewed."""
        return self.action is not None and not self.on_the_spot


def cure_of(suspect: Suspect) -> Cure:
    """How `suspect` is put right; of one that is handed over nothing."""
    slot, fault = suspect.at.slot, suspect.fault
    if slot and (action := slot.first_of(fault.actions)) is not None:
        return Cure(action, slot.rule(action).card.how, slot.rule(action).card.effort_min, fault.wait_h)
    words = (fault.cure,) if fault.cure else ()
    return Cure(None, words, 0.0 if fault.hand_over else fault.minutes, fault.wait_h)


def put_right_by_new(slot: Slot, faults: Iterable[Fault]) -> tuple[str, ...]:
    """What may be wrong at a place that a new part puts right, in words: where renewing it is the first way it has."""
    here = (one for one in faults if slot.use in one.parts)
    renewed = (one for one in here if slot.first_of(one.actions) is Action.REPLACE)
    return tuple(Spot("", None, slot).in_words(one.name) for one in renewed)
