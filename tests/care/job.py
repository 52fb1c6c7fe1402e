"""Reads docs/job.md, and tells of each of its rows whether what it names is there."""

import re
from dataclasses import dataclass
from functools import cache
from importlib import import_module
from pathlib import Path
from uuid import uuid4

from care.bench import Chosen, Job, build
from care.items import Item, State
from care.overrides import Aspect, key_of, tailored
from care.vocabulary import Action, School
from tests.care.world import BOOK, MACHINE, START

ROOT = Path(__file__).resolve().parents[2]
FILE = ROOT / "docs/job.md"
ROW = re.compile(r"^\| (J\d{3}) \| (.+?) \| (.+) \|$", re.MULTILINE)
CHECK = re.compile(r"`([^`]+)`")


@dataclass(frozen=True, slots=True)
class Row:
    """A row of the job: its id, what it asks for, and the checks that it names."""

    id: str
    what: str
    checks: tuple[str, ...]


def rows():
    """All rows of the table."""
    return [Row(i, what, tuple(CHECK.findall(where))) for i, what, where in ROW.findall(FILE.read_text())]


def lacks(check):
    """What a check does not find: nothing where all is there, else a sentence."""
    verb, _, rest = check.partition(" ")
    name, _, words = rest.partition(": ")
    told = VERBS[verb](name)
    missing = [word for word in words.split(" + ") if word and word.lower() not in told.lower()]
    return "" if not missing else f"{check}: nothing says {missing} there"


def sheet(name):
    """All that a sheet for these tasks says: `kind[feature] slot.action slot.action`."""
    kind, *tasks = name.split()
    key, _, feature = kind.rstrip("]").partition("[")
    made, jobs = _kind(key, feature), []
    for task in tasks:
        slot, _, action = task.partition(".")
        part = made.slot(slot)
        item = Item(uuid4(), part.part, part.name, State.FITTED, START, MACHINE, slot)
        other = Item(uuid4(), part.part, part.name, State.FITTED) if action == "swap" else None
        new = uuid4() if action == "replace" else None
        jobs.append(Chosen(slot, Action(action), item, new_item_id=new, partner=other))
    features = frozenset(filter(None, [feature]))
    built = build([Job(MACHINE, made, tuple(jobs), frozenset(), features)], BOOK)
    lines = []
    for step in built.steps:
        lines += [
            step.key,
            step.kind,
            *step.text,
            *step.each,
            *step.seat,
            *(step.found_words or {}).values(),
            step.drying,
        ]
        lines += [BOOK.cautions[one].text for one in step.cautions] + [f"waits {step.wait_min:g} min", *step.answers]
    for one in built.tools:
        tool = BOOK.tools[one]
        lines += [tool.name, tool.mind, *(f"{sub.name} {sub.mind}" for sub in tool.instead)]
    return " | ".join(lines)


@cache
def _kind(key, feature):
    seen = {"marked": "yes", "wires": "no"}
    book = BOOK.archetypes[key]
    settings = {key_of(Aspect.MARKS, slot.key): seen for slot in book.slots}
    return tailored(book, settings, BOOK.parts, filter(None, [feature]))


def rule(name):
    """The figures of a task by a school, and all that is said of it: `kind slot.action school`."""
    kind, task, school = name.split()
    slot, _, action = task.partition(".")
    part = _kind(kind, "").slot(slot)
    held = part.rule(Action(action))
    by = held.in_force(School(school))
    figures = [f"{t.meter} {t.low:g}-{t.high:g} {t.after or ''}" for t in by.triggers] if by else ["off"]
    told = [held.reason, *(f"{one.figure} {one.told}" for one in held.history), held.moved_by or "", held.consequence]
    why = [held.schools[School(school)].why] if School(school) in held.schools else []
    return " | ".join([*figures, *told, *why, *part.words(Action(action)).values()])


def wash(name):
    """All that the card of a kind of part says."""
    kind = next(slot.washing for slot in BOOK.parts.values() if slot.washing.key == name)
    views = [f"{view.school} {view.says} {view.risk}" for view in kind.views]
    told = [*kind.dry, *kind.how, *kind.never, kind.until, kind.agent, kind.temperature, kind.touch, kind.disposal]
    needs = ["needs a mark"] * kind.needs_mark + ["rules out wires"] * kind.rules_out_wires
    return " | ".join([*told, *kind.direction.values(), *views, *needs, *kind.asks])


def _said(one, *names):
    return " | ".join(str(getattr(one, name)) for name in names)


def _of(listed, name, *names):
    return _said(next(one for one in listed if one.key == name), *names)


def fault(name):
    """All that is said of a fault."""
    one = next(one for one in BOOK.faults.faults if one.key == name)
    shown = " | ".join(f"{show.symptom} {show.why}" for show in one.shows)
    return _said(one, "name", "cure", "stop", "hand_over", "meant", "behind", "moved") + shown


def check(name):
    """All that is said of a check."""
    one = next(one for one in BOOK.faults.checks if one.key == name)
    answers = " | ".join(f"{outcome.words} {outcome.danger}" for outcome in one.outcomes)
    return _said(one, "name", "how", "tools", "cautions", "live") + answers


def a_test(name):
    """The name of a test, a class or a module of tests that is there."""
    module, *inside = name.split("/")
    found = import_module(module)
    for one in inside:
        found = getattr(found, one)
    return name


def screen(name):
    """What stands in the file of a screen."""
    [path] = (ROOT / "web/src").rglob(name)
    return re.sub(r"\s+", " ", path.read_text())


VERBS = {
    "sheet": sheet,
    "rule": rule,
    "wash": wash,
    "fault": fault,
    "check": check,
    "test": a_test,
    "screen": screen,
    "dries": lambda name: f"{BOOK.drying[name].floor_h:g} h at least, {BOOK.drying[name].reference_h:g} h",
    "symptom": lambda name: _of(BOOK.faults.symptoms, name, "name", "feel", "danger", "first"),
    "caution": lambda name: _said(BOOK.cautions[name], "text", "ready", "power", "gate", "dangers"),
    "danger": lambda name: _said(BOOK.dangers[name], "seen", "now", "who", "over"),
    "tool": lambda name: _said(BOOK.tools[name], "name", "mind", "instead"),
    "pickup": lambda name: _of(BOOK.pickups, name, "name", "also", "verdict", "why", "instead", "mishap"),
    "before": lambda name: _of(BOOK.before_run, name, "text", "such_as", "by_hand"),
    "bundle": lambda name: _of(BOOK.bundles, name, "name", "why", "low", "high", "tasks", "with_dock"),
    "route": lambda name: " | ".join(f"{r.school} {r.name} {r.why}" for r in BOOK.faults.routes if r.school == name),
    "measure": lambda name: _of(BOOK.measures, name, "name", "how", "why", "limit", "limit_share", "parts"),
    "kind": lambda name: f"{BOOK.archetypes[name].name} {[o.question for o in BOOK.archetypes[name].options]}",
    "tick": lambda name: _of(BOOK.faults.ticks, name, "words", "check", "says"),
}
"""What each kind of check reads."""
