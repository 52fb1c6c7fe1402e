"""Dust first: what lets dust out says so before its first step."""

from dataclasses import replace

from care.named import DUST_FIRST, NamedTool
from care.parts import Slot
from care.rules import Rule
from care.vocabulary import Action, Column

DUSTY = (Column.BIN, Column.SCREEN, Column.FILTER, Column.EXHAUST)
"""Where dust lies that comes out when somebody works there."""


DUST_TOOLS = (NamedTool.MASK, NamedTool.GOGGLES, NamedTool.GLOVES)
"""What is worn for it."""


_LETS_DUST_OUT = (Action.EMPTY, Action.CLEAN, Action.WASH, Action.REPLACE)


def dust_first(slot: Slot, column: Column) -> Slot:
    """The part with the cautions of dust before every task that lets some out, whatever its card says besides."""
    if column not in DUSTY:
        return slot

    def careful(rule: Rule) -> Rule:
        if rule.action not in _LETS_DUST_OUT:
            return rule
        cautions = tuple(dict.fromkeys((*DUST_FIRST, *rule.card.cautions)))
        tools = tuple(dict.fromkeys((*rule.card.tools, *DUST_TOOLS)))
        return replace(rule, card=replace(rule.card, cautions=cautions, tools=tools))

    wet = tuple(map(careful, slot.over.wet_rules))
    return replace(slot, rules=tuple(map(careful, slot.rules)), over=replace(slot.over, wet_rules=wet))
