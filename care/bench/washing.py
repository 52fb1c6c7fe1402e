"""The wash card of a part: whether it may get wet, and how, by what it is, what was seen of it, and who lives there."""

from dataclasses import dataclass, replace

from care.errors import InvalidValue
from care.parts import Slot
from care.vocabulary import School
from care.washability import Mark, Marks, Ruling, Trait, View, Washing, WashReason


@dataclass(frozen=True, slots=True)
class Side:
    """What a school does otherwise and its risk; `mine`: it is how this part is kept.

    `at_own_risk` tells that it may be chosen here although no mark was seen; the choice is then kept like a mark.
    """

    view: View
    mine: bool
    at_own_risk: bool = False


@dataclass(frozen=True, slots=True)
class WashCard:
    """What to do with a part at the sink, or why it stays away from it.

    `asks` are the traits that would matter and that nobody has told. `careful` holds for somebody with an allergy here.
    """

    name: str
    ruling: Ruling
    because: WashReason
    how: tuple[str, ...]
    temperature: str = ""
    agent: str = ""
    direction: str = ""
    touch: str = ""
    until: str = ""
    never: tuple[str, ...] = ()
    sides: tuple[Side, ...] = ()
    asks: tuple[Trait, ...] = ()
    careful: bool = False


def card(slot: Slot, marks: Marks, school: School, *, allergy: bool = False) -> WashCard:
    """The card of a part with these `marks`, kept by `school`. Raises `InvalidValue` where the book says nothing.

    All sides are shown with their risk, one's own marked. With an allergy in the house, views that risk what a fine
    filter holds back are left out.
    """
    washing = slot.washing
    if washing is None:
        raise InvalidValue(
            f"slot: the book says nothing of washing {slot.name}", field="slot", fix="Keep it dry; its manual decides."
        )
    ruling, because = washing.ruling(marks)
    made = WashCard(
        washing.name,
        ruling,
        because,
        washing.lines(marks),
        never=washing.never,
        sides=() if ruling is Ruling.LEAVE else _sides(washing, because, school, allergy),
        asks=tuple(trait for trait in washing.asks if marks.get(trait, Mark.UNKNOWN) is Mark.UNKNOWN),
        careful=allergy,
    )
    if ruling is not Ruling.WASH:
        return made
    return replace(
        made,
        temperature=washing.temperature,
        agent=washing.agent,
        direction=washing.direction.get(marks.get(Trait.CLOSED_END, Mark.UNKNOWN), ""),
        touch=washing.touch,
        until=washing.until,
    )


UNMARKED = (WashReason.NOT_MARKED, WashReason.UNMARKED_UNKNOWN, WashReason.OWN_RISK)
"""What decides where only the mark is lacking."""


def _sides(washing: Washing, because: WashReason, school: School, allergy: bool) -> tuple[Side, ...]:
    views = [v for v in washing.views if not (allergy and v.fine_dust)]
    daring = because in UNMARKED
    return tuple(Side(v, v.school == school, daring and v.unmarked and v.school == school) for v in views)
