"""Where sheets stand after each answer, as vectors for the screens, which have the same rule to go on without a server.

`python -m tests.care.test_follow_vectors` writes them anew; the test holds the committed file to what the core says.
"""

import json
import random
from pathlib import Path

from django.test import SimpleTestCase

from care.bench import StepKind, build
from care.bench.progress import ahead
from care.bench.steps import danger_in
from care.vocabulary import Action
from tests.care.test_visits import House, tasks_of
from tests.care.world import BOOK

FILE = Path(__file__).resolve().parents[2] / "web/tests/follow.json"
VISITS = (("robot-two-roller",), ("robot-mop", "upright-belt"), ("cordless-two-filter",), ("canister-layered",))
SEED = 20261126


def vectors():
    """Sheets with their steps, and how they stand after each answer of somebody who says all sorts of things."""
    chance = random.Random(SEED)
    often = [_visit(kinds, chance, lambda step: chance.choice(step.answers)) for kinds in VISITS for _ in range(2)]
    return [*often, _visit(("upright-belt",), chance, _finds_the_cord_cut, CORD_AND_BELT)]


CORD_AND_BELT = [("cord", Action.INSPECT), ("belt", Action.INSPECT), ("roll", Action.DE_HAIR)]


def _finds_the_cord_cut(step):
    at_look = step.kind is StepKind.LOOK and next((one for one in step.answers if danger_in(one)), None)
    return at_look or step.answers[0]


def _visit(kinds, chance, say, tasks=None):
    house = House(kinds)
    jobs = [
        house.job(machine, tasks or sorted(chance.sample(tasks_of(kind), 5)), True)
        for machine, kind in zip(house.kinds, kinds, strict=True)
    ]
    sheet = build(jobs, BOOK)
    steps = [
        {
            "key": step.key,
            "answers": list(step.answers),
            "needs": list(step.needs),
            "only_if": list(step.only_if) if step.only_if else None,
            "whole": [list(place) for place in step.whole],
            "missing": [list(place) for place in step.missing],
            "halted_by": list(step.halted_by),
        }
        for step in sheet.steps
    ]
    stands = [
        {
            "step": step.key,
            "value": value,
            "current": progress.current.key if progress.current else None,
            "ahead": [one.key for one in ahead(sheet, progress)],
        }
        for step, value, progress in house.work(sheet, say)
    ]
    return {"steps": steps, "stands": stands}


def text():
    """The vectors as the file has them."""
    return json.dumps(vectors(), separators=(",", ":")) + "\n"


class Vectors(SimpleTestCase):
    def test_the_committed_ones_are_what_the_core_says(self):
        self.assertEqual(FILE.read_text(), text(), "run: python -m tests.care.test_follow_vectors")


if __name__ == "__main__":
    FILE.parent.mkdir(exist_ok=True)
    FILE.write_text(text())
