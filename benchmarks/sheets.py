"""Building one sheet in the core for five machines and thirty tasks, and following it to its end."""

from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from statistics import median
from time import perf_counter
from uuid import UUID, uuid4

from care.bench import Answer, Chosen, Job, Sheet, build, follow
from care.book import load_book
from care.items import Item, State
from care.vocabulary import Action, Found

START = datetime(2026, 1, 5, 9, tzinfo=UTC)
KINDS = ("robot-two-roller", "dock-wash", "upright-belt", "canister-layered", "cordless-two-filter")
TASKS = 30
AIM_MS = 20.0


def measure() -> list[str]:
    """Medians of 31 rounds, the two in turn."""
    jobs, items = _visit()
    sheet = build(jobs, load_book())
    answers = _answers(sheet, items)
    built, followed = [], []
    for _ in range(31):
        built.append(_timed(lambda: build(jobs, load_book())))
        followed.append(_timed(lambda: follow(sheet, items, answers)))
    a, b = median(built) * 1000, median(followed) * 1000
    tasks = sum(len(job.chosen) for job in jobs)
    return [
        f"{len(jobs)} machines, {tasks} tasks, {len(sheet.steps)} steps: {a:.2f} ms to build (aim {AIM_MS:.0f})",
        f"the same sheet answered to its end at once: {b:.2f} ms",
    ]


def _timed(call: Callable[[], object]) -> float:
    began = perf_counter()
    call()
    return perf_counter() - began


def _visit() -> tuple[list[Job], dict[UUID, Item]]:
    """Six tasks on each machine, in the order of the book, each part once."""
    jobs: list[Job] = []
    items: dict[UUID, Item] = {}
    for kind in KINDS:
        archetype, machine_id = load_book().archetypes[kind], uuid4()
        chosen: list[Chosen] = []
        for slot in archetype.slots:
            if len(chosen) == TASKS // len(KINDS):
                break
            action = next((r.action for r in slot.rules if r.action not in (Action.SWAP, Action.REPLACE)), None)
            if action is not None:
                item = Item(uuid4(), slot.part, slot.name, State.FITTED, START, machine_id, slot.key)
                items[item.id] = item
                chosen.append(Chosen(slot.key, action, item))
        jobs.append(Job(machine_id, archetype, tuple(chosen)))
    return jobs, items


def _answers(sheet: Sheet, items: dict[UUID, Item]) -> list[Answer]:
    answers: list[Answer] = []
    while (step := follow(sheet, items, answers).current) is not None:
        value = Found.DUE if Found.DUE in step.answers else step.answers[0]
        answers.append(Answer(step.key, value, START + timedelta(days=1, minutes=len(answers))))
    return answers
