"""A part that a household added to a machine of the book."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from care.errors import require
from care.parts import Overlay, Slot
from care.rules import WETTING, Card, Drying, Rule, Trigger
from care.vocabulary import Action, Figure, Found, Meter
from care.washability import NO_UNKNOWN_KEYS, Washing


@dataclass(frozen=True, slots=True)
class OwnPart:
    """A part the household added: one of the book (`use`), or its own, with one task to begin with."""

    name: str
    station: str
    use: str | None = None
    material: str = ""
    action: Action | None = None
    trigger: Trigger | None = None

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(0 < len(self.name.strip()) <= 60, "name", repr(self.name), "a name of 1 to 60 characters")
        own = self.use is None
        require(own == (self.action is not None), "action", self.action, "what is done to a part that the book lacks")
        require(own == (self.trigger is not None), "figure", self.trigger, "how often, for a part that the book lacks")


AS_FOUND = {
    Found.CLEAN: "as new",
    Found.LIGHT: "a little dirt or wear",
    Found.DUE: "dirty or worn: it was time",
    Found.OVERDUE: "far gone",
}


WORN = {
    Found.CLEAN: "like new",
    Found.LIGHT: "a little worn, works as ever",
    Found.DUE: "worn, torn or no longer comes clean",
    Found.OVERDUE: "broken, or should have gone long ago",
}
"""What one sees at each answer when asking whether a part of the household's own has to be replaced."""


OWN_DRYING = Drying("own", "part of your own", reference_h=28.0, floor_h=24.0)
"""How a part dries that the book does not know: as long as a pleated filter. Ours."""


OWN_EFFORT_MIN = 3.0
"""Hands-on time of a task nobody timed [min]. Ours."""


def own_slot(key: str, part: OwnPart, parts: Mapping[str, Slot]) -> Slot:
    """The slot of an added part."""
    laid = Overlay(material=part.material, added=True)
    if part.use is not None:
        require(part.use in parts, "use", part.use, "a part of the care book")
        known = parts[part.use]
        book = known.over.wet_rules or known.rules
        rules = tuple(rule for rule in book if rule.only_with is None and rule.action is not Action.SWAP)
        return replace(
            known, key=key, station=part.station, name=part.name, rules=rules, over=laid,
            swaps_with=None, counted_by_machine=False, needed_to_run=False, opening=None,
        )  # fmt: skip
    assert part.action is not None
    assert part.trigger is not None
    rule = Rule(
        action=part.action,
        triggers=(part.trigger,),
        consequence="pick_up",
        figure=Figure.HOUSEHOLD,
        reason="You added this part and said how often.",
        card=Card(OWN_EFFORT_MIN, ("Do it as its label or manual says.",)),
        about=Action.REPLACE if part.action is Action.INSPECT else None,
    )
    looked_for = [_by_finding()] if part.action is not Action.REPLACE else []
    washing = _made_of(part.material, parts)
    return Slot(
        key=key,
        station=part.station,
        part="own part",
        name=part.name,
        short=part.name.lower()[:14],
        removable=True,
        as_found=AS_FOUND,
        rules=(rule, *looked_for),
        take_out="Take it out as its manual shows; note which way round it sits.",
        put_back="Put it back the way round it sat.",
        drying=OWN_DRYING if part.action in WETTING else None,
        washing=washing,
        needed_to_run=False,
        over=laid,
    )


def _made_of(material: str, parts: Mapping[str, Slot]) -> Washing | None:
    """How a part of one's own is washed, by what it is made of; None where the book knows no such word.

    Of several words the longest decides.
    """
    kinds = {slot.washing.key: slot.washing for slot in parts.values() if slot.washing}
    said = material.lower()
    named = [(len(word), key) for key, kind in kinds.items() for word in kind.materials if word in said]
    return kinds[max(named)[1]] if named else None


def _by_finding() -> Rule:
    """What every part is replaced by: its looks."""
    return Rule(
        action=Action.REPLACE,
        triggers=(Trigger(Meter.CONDITION),),
        consequence="pick_up",
        figure=Figure.OURS,
        reason="What is torn, cracked or no longer comes clean is replaced.",
        card=Card(OWN_EFFORT_MIN, ("Hold the new one beside the old one: same size, same seat.",)),
        as_found=WORN,
    )
