"""Assessing one machine in the core, with two months and with five years of daily runs."""

from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from statistics import median
from time import perf_counter
from uuid import uuid4

from care.book import load_book
from care.due import Context, LoadLine, Schedule, UsageLog, assess_machine
from care.items import Fitting, Item, State
from care.kinds import School
from care.model import DueState, Machine, Run

DAY = timedelta(days=1)
START = datetime(2021, 1, 4, 11, tzinfo=UTC)


def measure() -> list[str]:
    """Medians of 31 rounds each, the two in turn, and their ratio."""
    short, long = _case(60), _case(5 * 365)
    times: dict[str, list[float]] = {"short": [], "long": []}
    for _ in range(31):
        times["short"].append(_timed(short))
        times["long"].append(_timed(long))
    a, b = median(times["short"]), median(times["long"])
    return [
        f"60 daily runs:    {a * 1000:6.2f} ms to log and assess",
        f"1,825 daily runs: {b * 1000:6.2f} ms, {b / a:.1f} times the short history",
    ]


def _timed(call: Callable[[], object]) -> float:
    began = perf_counter()
    call()
    return perf_counter() - began


def _case(days: int) -> Callable[[], list[DueState]]:
    archetype = load_book().archetypes["robot-two-roller"]
    machine_id = uuid4()
    items = {s.key: Item(uuid4(), s.part, s.name, State.FITTED, START) for s in archetype.slots}
    machine = Machine(machine_id, "robot", archetype, {key: item.id for key, item in items.items()})
    fittings = [Fitting(item.id, machine_id, key, START) for key, item in items.items()]
    runs = [Run((START + n * DAY).date(), 3000, START + n * DAY) for n in range(1, days + 1)]
    schedule = Schedule("RRULE:FREQ=DAILY", 50)
    by_id = {item.id: item for item in items.values()}
    now = START + (days + 1) * DAY

    def assess() -> list[DueState]:
        context = Context(UsageLog(runs), schedule, LoadLine(), School.LABEL, now, UTC)
        return assess_machine(machine, items=by_id, fittings=fittings, services=[], context=context)

    return assess
