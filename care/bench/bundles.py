"""Tasks that are done in one go against a complaint."""

from care.kinds import Action, Archetype, Bundle, School, Slot

LONGEST_H = 48.0
"""A part that rests longer than this after a wash is not washed as one of many [h]. Ours."""


def tasks(bundle: Bundle, archetype: Archetype, features: frozenset[str], school: School) -> list[tuple[Slot, Action]]:
    """The tasks of a bundle on a machine with these features, part by part; new parts and swaps are none of them.

    A wash makes a wipe needless, and what is never washed as a rule (a hose) is looked through and cleaned dry.
    """
    columns = {station.key: station.column for station in archetype.stations}
    chosen: list[tuple[Slot, Action]] = []
    for slot in archetype.parts(features):
        mine = [
            rule.action
            for rule in slot.rules
            if rule.holds_with(features)
            and rule.in_force(slot.school or school)
            and rule.action not in (Action.REPLACE, Action.SWAP)
            and (
                rule.stake in bundle.at_stake
                or (columns[slot.station] in bundle.columns and {rule.action, rule.instead_of} & set(bundle.actions))
            )
        ]
        dry = slot.drying is not None and slot.drying.floor_h > LONGEST_H
        kept = [action for action in mine if not (dry and action is Action.WASH)]
        chosen += [(slot, action) for action in kept if not (action is Action.WIPE and Action.WASH in kept)]
    return chosen
