"""What a household changed on one machine, laid over the book: names, places, parts added or gone, figures, schools.

Each change is a setting under a key of its own, `aspect/slot` or `aspect/slot/action`, so that one can be taken back
without the others. The book is never copied: what a setting does not name goes on following it.
"""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Any, TypeVar

from pydantic import ValidationError

from care.dust import dust_first
from care.errors import InvalidValue, require
from care.kinds import Archetype, Kit
from care.own_part import OwnPart, own_slot
from care.parts import Slot
from care.plain import plain
from care.rules import WETTING, OwnFigure, Rule, Trigger
from care.vocabulary import Action, Calendar, Column, Consequence, Meter, School
from care.washability import NO_UNKNOWN_KEYS, Mark, Trait

Settings = Mapping[str, Any]
"""Settings by key, as JSON values."""
T = TypeVar("T")


class Aspect(StrEnum):
    """What of a machine a setting changes."""

    NAME = "name"
    PLACE = "place"
    GONE = "gone"
    PART = "part"
    RULE = "rule"
    SCHOOL = "school"
    MARKS = "marks"
    FEATURE = "feature"
    """An option of its kind that it has, or has not, otherwise than told at set-up."""
    LEVEL = "level"
    """How far the machine is cleaned, always."""
    HABIT = "habit"
    """Something extra that is done in each sitting that lays it open."""
    ROUND = "round"
    """A round or a kit, by its key, whose tasks are done together every so many days."""


class HowFar(StrEnum):
    """How far a household goes with one machine, always."""

    GOOD_ENOUGH = "good_enough"
    """What only smells or looks is let go half as long again."""
    THOROUGH = "thorough"
    """All that is done by who likes is done in each sitting that lays it open."""


GOOD_ENOUGH = 1.5
"""How many times as long what only smells or looks is let go where good enough is enough [-]. Ours."""


@dataclass(frozen=True, slots=True)
class PlacedAt:
    """Where a part sits: its station, and among layers the order the air meets them and the order of putting in."""

    station: str
    air_order: int = 1
    refit_order: int = 1

    __pydantic_config__ = NO_UNKNOWN_KEYS


def key_of(aspect: Aspect, slot: str = "", action: Action | None = None) -> str:
    """The key of a setting.

    >>> key_of(Aspect.RULE, "filter", Action.WASH)
    'rule/filter/wash'
    """
    return "/".join([aspect, slot, *([action] if action else [])])


def as_seen(marked: Mapping[str, Mark], wires: Mapping[str, Mark]) -> dict[str, Any]:
    """Settings for parts (by slot) of which somebody saw whether they are marked washable, and whether there are wires
    in them; what is unknown is none.
    """
    made: dict[str, dict[str, str]] = {}
    for trait, seen in ((Trait.MARKED, marked), (Trait.WIRES, wires)):
        for slot, mark in seen.items():
            if mark is not Mark.UNKNOWN:
                made.setdefault(key_of(Aspect.MARKS, slot), {})[str(trait)] = str(mark)
    return made


def tailored(
    archetype: Archetype, settings: Settings, parts: Mapping[str, Slot], features: Iterable[str] = ()
) -> Archetype:
    """The kind of machine as this household has it; `parts` are those of the book. Raises `InvalidValue`.

    A feature told at set-up that a task with water hangs on counts as a mark that was seen.
    """
    features = frozenset(features)
    if not settings and not features:
        return archetype
    added = [own_slot(slot, _read(OwnPart, value), parts) for slot, _, value in _of(Aspect.PART, settings)]
    gone = {slot for slot, _, _ in _of(Aspect.GONE, settings)}
    columns = {station.key: station.column for station in archetype.stations}
    added = [dust_first(slot, columns.get(slot.station, Column.OFF_PATH)) for slot in added]
    slots = [_changed(slot, settings, gone, features) for slot in (*archetype.slots, *added) if slot.key not in gone]
    kits = tuple(kit for kit in (_without(kit, gone) for kit in archetype.kits) if len(kit.slots) > 1)
    return replace(archetype, slots=tuple(slots), kits=kits)


def _of(aspect: Aspect, settings: Settings) -> Iterator[tuple[str, str, Any]]:
    """The settings of one aspect: (slot, action or nothing, value)."""
    for key, value in settings.items():
        what, slot, *action = key.split("/")
        if what == aspect:
            yield slot, action[0] if action else "", value


def _changed(slot: Slot, settings: Settings, gone: set[str], features: frozenset[str]) -> Slot:
    own = {action: _read(OwnFigure, value) for named, action, value in _of(Aspect.RULE, settings) if named == slot.key}
    marks = _marks(settings.get(key_of(Aspect.MARKS, slot.key), {}))
    wet = slot.over.wet_rules or slot.rules
    featured = any(rule.only_with in features for rule in wet if rule.action in WETTING)
    marked = {Trait.MARKED: Mark.YES} if featured else {}
    slot = slot.seen({**marked, **marks})
    rules = [replace(rule, own=own.get(rule.action) or own.get(rule.instead_of or "")) for rule in slot.rules]
    partner = None if slot.swaps_with in gone else slot.swaps_with
    if partner is None:
        rules = [rule for rule in rules if rule.action is not Action.SWAP]
    if settings.get(key_of(Aspect.LEVEL)) == HowFar.GOOD_ENOUGH:
        rules = [eased(rule, GOOD_ENOUGH) for rule in rules]
    school = settings.get(key_of(Aspect.SCHOOL, slot.key)) or settings.get(key_of(Aspect.SCHOOL))
    place = settings.get(key_of(Aspect.PLACE, slot.key))
    at = _read(PlacedAt, place) if place else PlacedAt(slot.station, slot.air_order, slot.refit_order)
    return replace(
        slot,
        name=settings.get(key_of(Aspect.NAME, slot.key), slot.name),
        rules=tuple(rules),
        swaps_with=partner,
        over=replace(slot.over, school=School(school) if school else None),
        station=at.station,
        air_order=at.air_order,
        refit_order=at.refit_order,
    )


def eased(rule: Rule, times: float) -> Rule:
    """A rule that is let go so many times as long, with what only smells or looks at stake; others as they are."""
    can_wait = rule.stake in (Consequence.SMELL, Consequence.LOOKS)
    if not can_wait or rule.never_stretch or rule.own or times == 1.0:
        return rule

    def longer(trigger: Trigger) -> Trigger:
        bare = trigger.meter in (Meter.CONDITION, Meter.MISHAPS, Meter.MOP_RUNS)
        return trigger if bare else replace(trigger, low=trigger.low * times, high=trigger.high * times)

    variants = {
        school: replace(variant, triggers=tuple(map(longer, variant.triggers)))
        for school, variant in rule.schools.items()
    }
    return replace(rule, triggers=tuple(map(longer, rule.triggers)), schools=variants, eased=times)


def features_with(at_set_up: Iterable[str], settings: Settings) -> list[str]:
    """The features that a machine had `at_set_up`, as changed since.

    >>> features_with(["mops"], {"feature/mops": False, "feature/self-clean": True})
    ['self-clean']
    """
    changed = {feature: bool(has) for feature, _, has in _of(Aspect.FEATURE, settings)}
    return sorted({one for one in at_set_up if changed.get(one, True)} | {one for one, has in changed.items() if has})


def habits(settings: Settings) -> set[tuple[str, Action]]:
    """What is done besides in each sitting that lays it open: (slot, action)."""
    return {(slot, Action(action)) for slot, action, kept in _of(Aspect.HABIT, settings) if kept}


def rounds(settings: Settings) -> dict[str, float]:
    """The rounds and kits that were taken up, by their key: every so many days [days]."""
    return {key: float(days) for key, _, days in _of(Aspect.ROUND, settings)}


def _marks(value: Mapping[str, str]) -> dict[Trait, Mark]:
    return {Trait(trait): Mark(mark) for trait, mark in value.items()}


def _without(kit: Kit, gone: set[str]) -> Kit:
    return replace(kit, slots=tuple(slot for slot in kit.slots if slot not in gone))


def own_trigger(rule: Rule, meter: Meter, figure: float) -> Trigger:
    """A household's figure as a trigger: its days mean what the book's days mean for this task."""
    days = next((t for t in rule.triggers if t.meter is Meter.DAYS), None) if meter is Meter.DAYS else None
    calendar = (days.calendar if days else Calendar.AGES) if meter is Meter.DAYS else None
    return Trigger(meter, figure, figure, calendar, days.reference_h_per_week if days else None)


def check(archetype: Archetype, aspect: Aspect, slot: str, action: Action | None, value: Any) -> None:
    """Refuse what would do harm or leave nothing. Raises `InvalidValue` naming the field."""
    if aspect is Aspect.RULE and value is not None:
        assert action is not None
        _check_rule(archetype.slot(slot).rule(action), _read(OwnFigure, value))
    if aspect is Aspect.GONE:
        archetype.slot(slot)
        require(len(archetype.slots) > 1, "slot", "the last part", "at least one part; put the machine away instead")
    if aspect is Aspect.PLACE and value is not None:
        stations = {station.key for station in archetype.stations}
        require(_read(PlacedAt, value).station in stations, "station", value["station"], "a station of this machine")
    if aspect is Aspect.LEVEL and value is not None:
        require(value in set(HowFar), "level", value, "one of " + ", ".join(HowFar) + ", or none")
    if aspect is Aspect.HABIT and value is not None:
        assert action is not None
        extra = archetype.slot(slot).rule(action).extra
        require(extra, "action", action, "something that is done by who likes")
    if aspect is Aspect.NAME and value is not None:
        require(0 < len(value.strip()) <= 60, "name", repr(value), "a name of 1 to 60 characters")
        taken = {other.name.lower() for other in archetype.slots if other.key != slot}
        require(value.strip().lower() not in taken, "name", value, "a name that no other part of this machine has")


def _check_rule(rule: Rule, own: OwnFigure) -> None:
    safety = rule.stake is Consequence.SAFETY
    require(not (own.off and (safety or rule.never_stretch)), "off", rule.action, "a figure: this one is not left out")
    if own.trigger is None or not (rule.never_stretch or safety):
        return
    known = {t.meter: t.high for t in rule.triggers}
    units = " or ".join(known)
    require(own.trigger.meter in known, "meter", own.trigger.meter, f"{units}, as in the book: this one is guarded")
    longest = known[own.trigger.meter]
    if own.trigger.high > longest:
        raise InvalidValue(
            f"figure: {own.trigger.high:g} is longer than the book's {longest:g}, and this one guards the motor or you",
            field="figure",
            fix=f"Give {longest:g} or less. Shorter is always possible.",
        )


def _read(kind: type[T], value: Any) -> T:
    """A setting's JSON as the core's value. Raises `InvalidValue` naming its key."""
    try:
        return plain(kind).validate_python(value)
    except ValidationError as error:
        first = error.errors()[0]
        field = ".".join(str(part) for part in first["loc"]) or "value"
        raise InvalidValue(f"{field}: {first['msg']}", field=field, fix=f"Correct {field}.") from error
