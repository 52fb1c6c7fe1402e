"""A small made-up world for the core's tests: one slot, its item, runs at a steady pace."""

from collections.abc import Iterable
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import UUID, uuid4

from care.book import load_book
from care.due import Context, LoadLine, Past, Schedule, UsageLog, assess
from care.due_state import DueState
from care.items import Fitting, Item, Move, MoveKind
from care.kinds import Archetype
from care.model import Load, Machine, Run, ServiceRecord
from care.moves import replay
from care.overrides import Aspect, key_of, tailored
from care.parts import Slot
from care.rules import Card, Rule, Trigger
from care.vocabulary import Action, Calendar, Figure, Found, LoadKind, Meter, School
from care.washability import Trait

BOOK = load_book()


def washable(kind: Archetype) -> Archetype:
    """A kind of machine of which somebody saw that all its parts are marked washable and have no wires."""
    seen = {str(Trait.MARKED): "yes", str(Trait.WIRES): "no"}
    return tailored(kind, {key_of(Aspect.MARKS, slot.key): seen for slot in kind.slots}, BOOK.parts)


WASHABLE = {key: washable(kind) for key, kind in BOOK.archetypes.items()}
ROBOT = WASHABLE["robot-two-roller"]
MACHINE = UUID(int=1)
START = datetime(2026, 1, 5, 9, 0, tzinfo=UTC)
"""A Monday."""
DAILY_BUT_SUNDAY = Schedule("RRULE:FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR,SA", 50)
DAY = timedelta(days=1)


def hours_trigger(hours: float) -> Trigger:
    """So many hours of running."""
    return Trigger(Meter.RUN_HOURS, hours, hours)


def usual_days_trigger(low: float, high: float) -> Trigger:
    """Days that stand for five hours of running a week."""
    return Trigger(Meter.DAYS, low, high, Calendar.STANDS_FOR_USE, 5.0)


def ageing_trigger(days: float) -> Trigger:
    """Days that pass whether it runs or not."""
    return Trigger(Meter.DAYS, days, days, Calendar.AGES)


def rule(action: Action, *triggers: Trigger, moved_by: LoadKind | None = None) -> Rule:
    """A rule with nothing special but its triggers."""
    return Rule(action, triggers, "pick_up", Figure.PRINTED, "because", Card(1.0, ("Do it.",)), moved_by)


def slot(*rules: Rule) -> Slot:
    """A slot with these rules."""
    words = {found: str(found) for found in Found}
    return Slot("part", "here", "part", "Part", "part", True, words, rules, take_out="out", put_back="in")


def runs(count: int, *, minutes: float = 50, first: datetime = START + timedelta(hours=1), every: timedelta = DAY):
    """`count` runs of equal length, one each `every`."""
    made = []
    for n in range(count):
        end = first + n * every
        made.append(Run(end.date(), minutes * 60, end))
    return made


def context(
    done: Iterable[Run] = (),
    *,
    now: datetime,
    schedule: Schedule | None = None,
    load: Load | None = None,
    school: School = School.WORKSHOP,
    **more: object,
) -> Context:
    """The circumstances of an assessment."""
    usual = {"usage": UsageLog(done), "loads": LoadLine([(START, load or Load())])}
    return Context(**{**usual, "schedule": schedule, "school": school, "now": now, "zone": UTC, **more})


def new_item(at: datetime = START) -> tuple[Item, list[Move]]:
    """An item that was fitted new at `at`, and the moves that brought it there."""
    moves = [Move(MoveKind.SETTLE, at), Move(MoveKind.FIT, at, machine_id=MACHINE, slot="part")]
    item, _ = replay(Item(uuid4(), "part", "Part"), moves)
    return item, moves


def all_new(kind: Archetype, features: frozenset[str] = frozenset()) -> tuple[Machine, dict[UUID, Item], list[Fitting]]:
    """A machine of a kind with every part new at `START`; its parts and their fittings."""
    slots, items, fittings = {}, {}, []
    for slot in kind.parts(features):
        moves = [Move(MoveKind.SETTLE, START), Move(MoveKind.FIT, START, machine_id=MACHINE, slot=slot.key)]
        item, into = replay(Item(uuid4(), slot.part, slot.name), moves)
        slots[slot.key], items[item.id] = item.id, item
        fittings += into
    return Machine(MACHINE, kind.name, kind, slots, features), items, fittings


def fitted(item: Item, start: datetime = START) -> list[Fitting]:
    """The item's one fitting, from `start` on."""
    return [Fitting(item.id, MACHINE, "part", start)]


def service(item: Item, action: Action, at: datetime) -> ServiceRecord:
    """The action done to the item at `at`."""
    return ServiceRecord(item.id, "part", action, at)


def fact(state: DueState, code: str) -> Any:
    """The first fact of this kind in the explanation of a state; None where there is none."""
    return next((one for one in state.because if one.code == code), None)


def one_state(a_rule: Rule, circumstances: Context, services: Iterable[ServiceRecord] = (), start=START) -> DueState:
    """How `a_rule` stands for an item fitted new at `start`."""
    item, _ = new_item(start)
    own = [replace(s, item_id=item.id) for s in services]
    [state] = assess(slot(a_rule), item, past=Past(fitted(item, start), own), context=circumstances)
    return state
