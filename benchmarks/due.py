"""Assessing one machine in the core, with two months and with five years of daily runs."""

from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from statistics import median
from time import perf_counter
from uuid import uuid4

from care.book import load_book
from care.due import Context, Facts, LoadLine, Schedule, UsageLog, assess_machine
from care.due.upkeep import upkeep
from care.due.usage import Pace
from care.due_state import DueState
from care.household import DustSource, Profile, load_of
from care.items import Fitting, Item, State
from care.model import Machine, Run
from care.vocabulary import School

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


QUIET = Profile(long_haired=0, animals=0, children=0, area_m2=60, carpet=0.1)
HAIRY = Profile(long_haired=3, animals=2, children=2, area_m2=180, carpet=0.6, dust=(DustSource.SOIL,))


def minutes_a_year() -> list[str]:
    """Hands-on minutes a year that every kind of machine would take in a quiet and in a hairy home, in each school."""
    lines = []
    for school in School:
        quiet, hairy = (
            sum(
                upkeep(kind, frozenset(), Pace(4.0, 5.0), load_of(home), school).minutes_a_year
                for kind in load_book().archetypes.values()
            )
            for home in (QUIET, HAIRY)
        )
        lines.append(f"{school:<9} {quiet / 60:5.0f} h quiet, {hairy / 60:5.0f} h hairy, {hairy / quiet:.2f} times")
    return lines


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
        return assess_machine(machine, Facts(by_id, fittings=fittings, services=[]), context)

    return assess
