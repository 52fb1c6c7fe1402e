"""Whether the fault finder's part of the book hangs together: every name in it stands somewhere."""

from collections.abc import Iterable, Iterator, Mapping
from typing import Any

from care.errors import BookError
from care.faults.book import Check, Fault, FaultBook
from care.kinds import Archetype
from care.vocabulary import Action, Column, Mishap, Skill

ANY = "any"
Named = tuple[str, str, str]
"""What is named, where, and its key."""


def check_faults(
    faults: FaultBook,
    parts: Mapping[str, Any],
    archetypes: Mapping[str, Archetype],
    cautions: Mapping[str, object],
    tools: Mapping[str, object],
    dangers: Mapping[str, object],
) -> None:
    """Raise `BookError` for a name that stands nowhere, or a key that stands twice."""
    known: dict[str, set[str]] = {
        "symptom": {s.key for s in faults.symptoms} | {ANY},
        "fault": {f.key for f in faults.faults},
        "check": {c.key for c in faults.checks},
        "part": set(parts),
        "column": {str(c) for c in Column},
        "caution": set(cautions),
        "tool": set(tools),
        "danger": set(dangers),
        "action": set(map(str, Action)),
        "trait": {key for a in archetypes.values() for key in a.traits_with(frozenset())}
        | {"dock", "dock_water", "wet"},
    }
    for what, count in (("fault", faults.faults), ("check", faults.checks), ("symptom", faults.symptoms)):
        keys = [one.key for one in count]
        if len(set(keys)) < len(keys):
            _refuse(what, "a key stands twice", max(keys, key=keys.count))
    for what, where, key in _named(faults):
        if key not in known[what]:
            _refuse(where, f"there is no {what}", key)
    for fault in faults.faults:
        _check_cure(fault, parts)
    _check_answers(faults, archetypes)
    _check_ticks(faults)
    _check_skills((*faults.faults, *faults.checks))


def _check_skills(every: Iterable[Fault | Check]) -> None:
    for one in every:
        if one.skill and one.skill not in set(Skill):
            _refuse(f"{one.key}.skill", "there is no skill", one.skill)


def _named(faults: FaultBook) -> Iterator[Named]:
    for fault in faults.faults:
        yield from _of_fault(fault)
    for check in faults.checks:
        yield from _of_check(check)
    for symptom in faults.symptoms:
        yield from (("trait", f"symptoms.{symptom.key}.when", key) for key in symptom.when)
        yield from (("danger", f"symptoms.{symptom.key}", key) for key in (symptom.out_of_use,) if key)
        yield from (("check", f"symptoms.{symptom.key}.first", key) for key in symptom.first)
    for tick in faults.ticks:
        yield from (("symptom", f"ticks.{tick.key}.symptoms", key) for key in tick.symptoms)
        yield from (("trait", f"ticks.{tick.key}.when", key) for key in tick.when)
    for route in faults.routes:
        yield from (("check", f"routes.{route.school}.checks", key) for key in route.checks)


def _of_fault(fault: Fault) -> Iterator[Named]:
    where = f"faults.{fault.key}"
    yield from (("part", f"{where}.parts", key) for key in fault.parts)
    yield from (("column", f"{where}.columns", key) for key in (*fault.columns, *filter(None, [fault.sits])))
    yield from (("symptom", f"{where}.shows", shown.symptom) for shown in fault.shows)
    yield from (("caution", f"{where}.cautions", key) for key in fault.cautions)
    yield from (("trait", f"{where}.when", key) for key in fault.when)
    yield from (("check", f"{where}.after", key) for key in fault.after)
    yield from (("fault", f"{where}.behind", key) for key in fault.behind)
    yield from (("part", f"{where}.served_at", key) for key in fault.served_at)
    yield from (("action", f"{where}.served_by", key) for key in fault.served_by)


def _of_check(check: Check) -> Iterator[Named]:
    where = f"checks.{check.key}"
    yield from (("part", f"{where}.parts", key) for key in check.parts)
    yield from (("column", f"{where}.columns", key) for key in check.columns)
    yield from (("fault", f"{where}.tells", tell.fault) for tell in check.tells)
    yield from (("danger", f"{where}.tells", tell.danger) for tell in check.tells if tell.danger)
    yield from (("danger", f"{where}.outcomes", one.danger) for one in check.outcomes if one.danger)
    yield from (("fault", f"{where}.cures", key) for key in check.cures)
    yield from (("caution", f"{where}.cautions", key) for key in (*check.cautions, *filter(None, [check.live])))
    yield from (("tool", f"{where}.tools", key) for key in check.tools)
    yield from (("trait", f"{where}.when", key) for key in check.when)
    yield from (("check", f"{where}.after", key) for key in check.after)


def _check_answers(faults: FaultBook, archetypes: Mapping[str, Archetype]) -> None:
    """Every answer but the first tells of something that may be so where the check is made; the air answers its own."""
    sits: dict[str, set[str]] = {}
    for kind in archetypes.values():
        columns = {station.key: str(station.column) for station in kind.stations}
        for slot in kind.slots:
            sits.setdefault(slot.use, set()).add(columns[slot.station])
    at = {
        fault.key: {*fault.parts, *fault.columns, *(column for part in fault.parts for column in sits.get(part, ()))}
        for fault in faults.faults
    }
    for check in (one for one in faults.checks if one.sign is None):
        _check_answer(check, at)


def _check_answer(check: Check, at: Mapping[str, set[str]]) -> None:
    for outcome in (one for one in check.outcomes[1:] if not one.danger):
        tells = [tell for tell in check.tells if tell.says == outcome.key]
        for place in (*check.parts, *check.columns) or ("",):
            if not any(tell.anywhere or not place or place in at[tell.fault] for tell in tells):
                _refuse(f"checks.{check.key}", f"nothing comes of {outcome.key!r} at", place)


def _check_ticks(faults: FaultBook) -> None:
    """What is told unasked is an answer to its check."""
    answers = {(check.key, outcome.key) for check in faults.checks for outcome in check.outcomes}
    for tick in faults.ticks:
        if tick.mishap and tick.mishap not in set(Mishap):
            _refuse(f"ticks.{tick.key}", "there is no mishap", tick.mishap)
        if (tick.check, tick.says) not in answers:
            _refuse(f"ticks.{tick.key}", "there is no such answer", f"{tick.check}: {tick.says}")


def _check_cure(fault: Fault, parts: Mapping[str, Any]) -> None:
    """A cure by an action needs one that each of its parts has; and so do the clocks that move its odds."""
    for part in fault.parts:
        have = {rule["action"] for rule in parts[part].get("rules", ())}
        for what, actions in (("actions", fault.actions), ("clocks", fault.clocks)):
            if actions and not have & set(actions):
                _refuse(f"faults.{fault.key}.{what}", f"{part} has none of", ", ".join(actions))


def _refuse(where: str, why: str, key: str) -> None:
    raise BookError(f"faults: {where}: {why} {key!r}", field=where, fix="Mend the file it stands in.")
