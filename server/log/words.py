"""What a record says, in words: one function a kind, for the screen, the table and paper."""

from collections.abc import Callable
from typing import Any

from care.book import load_book
from care.items import MoveKind
from care.overrides import Aspect
from care.vocabulary import Ended
from care.words import DEEDS, SAW
from server.document.kinds import Record
from server.log.names import Names

MOVED = {
    MoveKind.SETTLE: "lies here", MoveKind.TAKE_OUT: "taken out", MoveKind.CLEAN_IN_PLACE: "cleaned in place",
    MoveKind.DRY_CLEAN: "cleaned dry", MoveKind.WASH: "washed", MoveKind.RACK: "hung up",
    MoveKind.REST: "rests until it is dry", MoveKind.STILL_DAMP: "found still damp", MoveKind.RELEASE: "found dry",
    MoveKind.FIT: "put in", MoveKind.ASSIGN: "meant for another place", MoveKind.RETIRE: "went for good",
}  # fmt: skip
STATUS = {
    "in_use": "is in use again", "archived": "was put away", "lent": "was lent", "sold": "was sold or given away",
    "replaced": "was replaced",
}  # fmt: skip


def words_of(record: Record, names: Names) -> str:
    """What a record says, without the machine that it is about."""
    said = SAYS[record.what](record, names)  # type: ignore[attr-defined]
    return said[:1].upper() + said[1:]


def machine_of(record: Any, names: Names) -> str:
    """The machine that a record is about, by name; nothing where it is about none."""
    machine_id, item_id = getattr(record, "machine_id", None), getattr(record, "item_id", None)
    if machine_id is None and item_id is not None and item_id in names.items:
        machine_id = names.items[item_id][0]
    return names.machine(machine_id or record.subject_id)


def minutes(seconds: float) -> str:
    """Minutes as they are told.

    >>> minutes(2550), minutes(3000)
    ('42.5 min', '50 min')
    """
    return f"{round(seconds / 60, 1):g} min"


def _part(one: Any, names: Names) -> str:
    return names.place(one.machine_id, one.slot)


def _days(one: Any) -> str:
    if one.last is None:
        return f"from {one.first:%-d %b %Y} on"
    return f"{one.first:%-d %b %Y}" if one.first == one.last else f"{one.first:%-d %b} to {one.last:%-d %b %Y}"


def _move(one: Any, names: Names) -> str:
    early = f", before it was dry: {one.override_reason}" if one.override_reason else ""
    why = f": {one.reason}" if one.reason else ""
    return f"{names.item(one.item_id)} {MOVED[one.kind]}{early}{why}"


ASPECTS = {
    Aspect.NAME: "name", Aspect.PLACE: "place on the air path", Aspect.GONE: "whether it is there",
    Aspect.PART: "part of your own", Aspect.RULE: "figure for", Aspect.SCHOOL: "school",
    Aspect.MARKS: "mark for washing", Aspect.FEATURE: "option", Aspect.LEVEL: "how far it is cleaned",
    Aspect.HABIT: "habit", Aspect.ROUND: "done in one go",
}  # fmt: skip
"""What of a machine a setting changes, in words."""


def _setting(one: Any, names: Names) -> str:
    """ "Filter: figure for wash set", "name set: Hall"."""
    aspect, slot, action = [*one.key.split("/", 2), "", ""][:3]
    place = names.place(one.machine_id, slot)
    what = " ".join(word for word in (ASPECTS[Aspect(aspect)], action.replace("_", " ")) if word)
    to = f": {one.value}" if isinstance(one.value, str) else ""
    said = f"{what} as the book has it again" if one.value is None else f"{what} set{to}"
    return f"{place}: {said}" if place else said


def _danger(one: Any, names: Names) -> str:
    danger = load_book().dangers[one.danger]
    return danger.over if one.over else f"danger: {danger.name}"


def _case(one: Any, names: Names) -> str:
    noticed = ", ".join(str(each["name"]).lower() for each in one.symptoms)
    causes = ", ".join(str(each["name"]).lower() for each in one.causes)
    ended = f"it was: {causes}" if causes else f"ended: {one.reason or one.stand}"
    return f"looked for: {noticed}; {ended}"


def _stock(one: Any, names: Names) -> str:
    return f"shelf: {one.count:+d} ({one.why.label}){': ' + one.note if one.note else ''}"


def _order(one: Any, names: Names) -> str:
    lines = ", ".join(f"{line.count} of {line.name}" for line in one.lines)
    return f"ordered {lines}"


def _people(one: Any, names: Names) -> str:
    said = {
        "joined": f"{one.name} joined as {one.role}",
        "left": f"{one.name} left",
        "role": f"{one.name} is {one.role} now, was {one.before}",
        "renamed": f"{one.before} is called {one.name} now",
        "house": f"the household is called {one.name} now, was {one.before}",
    }
    return said[one.change]


def _wish(one: Any, names: Names) -> str:
    what = {"on": "asked for a visit", "no_visit": "no visit", "leave_out": "left out of visits"}[one.wish]
    return f"{what} {_days(one)}{': ' + one.note if one.note else ''}"


ENDED = {
    Ended.DONE: "", Ended.BATTERY: "its battery was low", Ended.STUCK: "it was stuck", Ended.FULL: "its bin was full",
    Ended.STOPPED: "somebody stopped it",
}  # fmt: skip


def _run(one: Any, names: Names) -> str:
    """ "ran 45 min, 38 m², mopped; its battery was low (measured)"."""
    area = f", {one.area_m2:.0f} m²" if one.area_m2 else ""
    ended = ENDED[one.ended] if one.ended else ""
    mopped = ", mopped" if one.mopped else ""
    return f"ran {minutes(one.run_s)}{area}{mopped}{'; ' + ended if ended else ''} ({one.provenance})"


def _said(one: Any, names: Names) -> str:
    said = " ".join(word for word in (one.code.replace("-", " "), f"“{one.words}”" if one.words else "") if word)
    return f"said: {said}"


def _device(one: Any, names: Names) -> str:
    of = names.machine(one.machine_id) if one.machine_id else one.place
    return f"device {one.name}{' (' + of + ')' if of else ''} {'connected' if one.change == 'connected' else 'ended'}"


SAYS: dict[str, Callable[[Any, Names], str]] = {
    "machine": lambda one, names: "set up",
    "void": lambda one, names: f"taken back: {one.reason or 'undone'}",
    "run": _run,
    "week": lambda one, names: f"usual week: {minutes(one.run_min * 60)} a run" if one.rule else "no usual week",
    "rest": lambda one, names: f"{one.why.replace('_', ' ')} {_days(one)}",
    "move": _move,
    "service": lambda one, names: f"{_part(one, names)} {DEEDS[one.action].done}",
    "look": lambda one, names: f"{_part(one, names)} found {SAW[one.found]}",
    "counter": lambda one, names: f"{_part(one, names)}: its counter says {one.typed:g} {one.unit} {one.sense}",
    "not_known": lambda one, names: f"{_part(one, names)}: not known since when",
    "setting": _setting,
    "status": lambda one, names: STATUS[one.status],
    "mishap": lambda one, names: f"took in: {one.kind.replace('_', ' ')}",
    "danger": _danger,
    "wait": lambda one, names: f"{_part(one, names)} put off until {one.until:%-d %b %Y}: {one.reason}",
    "claim": lambda one, names: f"{_part(one, names)}: taken on",
    "changed": lambda one, names: f"{'something' if one.changed else 'nothing'} changed at home",
    "hung": lambda one, names: f"{names.item(one.item_id)} hung up{' in ' + one.place if one.place else ''}",
    "weight": lambda one, names: f"{names.item(one.item_id)} weighed {one.typed:g} {one.unit}",
    "dry_check": lambda one, names: f"{names.item(one.item_id)} felt {'still damp' if one.damp else 'dry'}",
    "reading": lambda one, names: f"{one.quantity.replace('_', ' ')} {one.typed:g} {one.unit} {one.moment}".strip(),
    "case": _case,
    "note": lambda one, names: f"note: {one.text}" if one.text else "photo" if one.width else "reminder done",
    "size": lambda one, names: (
        f"{_part(one, names)} holds {one.value.volume:g} {one.value.unit}"
        if one.value
        else f"{_part(one, names)}: size not known any more"
    ),
    "answers": lambda one, names: f"answers of the household, school {one.school}",
    "more_load": lambda one, names: f"more {one.kind} than usual {_days(one)}",
    "season_habits": lambda one, names: "days for visits set",
    "wish": _wish,
    "spare": lambda one, names: f"kept on the shelf: {one.value.name}" if one.value else "not kept any more",
    "prices": lambda one, names: f"price list of {one.supplier}{'' if one.value else ' dropped'}",
    "order": _order,
    "order_closed": lambda one, names: "the rest of an order does not come",
    "stock": _stock,
    "measured": lambda one, names: f"{names.item(one.item_id)}: {one.measure} {one.typed:g} {one.unit}",
    "worth": lambda one, names: "figures for repair or replace set",
    "people": _people,
    "import": lambda one, names: f"brought in from {one.name}: {one.added} records",
    "air": lambda one, names: f"{one.place}: {one.temp_c:.1f} °C, {one.rh_pct:.0f} %",
    "said": _said,
    "device": _device,
    "settled": lambda one, names: f"what was held apart {'counts' if one.counts else 'does not count'}",
    "held": lambda one, names: f"{one.name}, not counted: {one.why}",
}
"""What each kind of record says."""
