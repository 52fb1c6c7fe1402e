"""What the API takes and gives of washing a part."""

from care.vocabulary import School
from care.washability import Mark, Marks, Ruling, Trait, WashReason
from server.base.schema import Schema
from server.drying.wash import CardOfPart


class MarksIn(Schema):
    """What somebody sees of a part; none where nothing is told."""

    marked: Mark | None = None
    closed_end: Mark | None = None
    metal: Mark | None = None
    wires: Mark | None = None
    hazard: Mark | None = None
    own_risk: Mark | None = None

    def marks(self) -> Marks:
        """As the core has it."""
        by_trait: dict[Trait, Mark] = {}
        for trait in Trait:
            mark = getattr(self, trait)
            if mark is not None:
                by_trait[trait] = mark
        return by_trait


class SideOut(Schema):
    """What a school does otherwise, and its risk."""

    school: School
    says: str
    risk: str
    mine: bool
    at_own_risk: bool


class WashCardOut(Schema):
    """Whether a part may get wet, why, and how."""

    slot_name: str
    name: str
    ruling: Ruling
    because: WashReason
    how: list[str]
    temperature: str
    agent: str
    direction: str
    touch: str
    until: str
    never: list[str]
    sides: list[SideOut]
    asks: list[Trait]
    may_ask: list[Trait]
    kept: dict[Trait, Mark]
    careful: bool


def wash_card_out(one: CardOfPart) -> WashCardOut:
    """A card as the API gives it."""
    card = one.card
    return WashCardOut(
        slot_name=one.slot.name,
        name=card.name,
        ruling=card.ruling,
        because=card.because,
        how=list(card.how),
        temperature=card.temperature,
        agent=card.agent,
        direction=card.direction,
        touch=card.touch,
        until=card.until,
        never=list(card.never),
        sides=[
            SideOut(
                school=School(s.view.school), says=s.view.says, risk=s.view.risk, mine=s.mine, at_own_risk=s.at_own_risk
            )
            for s in card.sides
        ],
        asks=list(card.asks),
        may_ask=list(one.slot.washing.asks) if one.slot.washing else [],
        kept=dict(one.marks),
        careful=card.careful,
    )
