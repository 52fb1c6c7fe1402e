"""What is done to a part and what was found, in words: for the screens, paper, calendars and the Log alike.

The screens' table is made from here by `make contract`.
"""

from dataclasses import dataclass

from care.vocabulary import Action, Found


@dataclass(frozen=True, slots=True)
class Deed:
    """An action as it is asked ("take the hair out"), as it was done ("de-haired"), as a thing ("de-hairing"), and as
    it stands where there is little room ("de-hair").
    """

    ask: str
    done: str
    noun: str
    brief: str


DEEDS = {
    Action.EMPTY: Deed("empty", "emptied", "emptying", "empty"),
    Action.INSPECT: Deed("look", "looked at", "look", "look"),
    Action.RINSE: Deed("rinse", "rinsed", "rinse", "rinse"),
    Action.SWAP: Deed("swap sides", "swapped", "swap", "swap sides"),
    Action.DE_HAIR: Deed("take the hair out", "de-haired", "de-hairing", "de-hair"),
    Action.WIPE: Deed("wipe", "wiped", "wipe", "wipe"),
    Action.WASH: Deed("wash", "washed", "wash", "wash"),
    Action.AIR: Deed("air", "aired", "airing", "air"),
    Action.CLEAN: Deed("clean", "cleaned", "cleaning", "clean"),
    Action.REPLACE: Deed("replace", "replaced", "replacement", "replace"),
}
SAW = {Found.CLEAN: "clean", Found.LIGHT: "a little dirty", Found.DUE: "dirty", Found.OVERDUE: "far gone"}
"""What a look saw, within a sentence."""
