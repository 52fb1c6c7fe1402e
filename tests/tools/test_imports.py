"""Every module loads by itself: none imports, while it loads, one that waits for it."""

import ast
from graphlib import CycleError, TopologicalSorter
from pathlib import Path

from django.test import SimpleTestCase

ROOT = Path(__file__).resolve().parents[2]


def modules():
    """The modules of the core and the server by name."""
    for room in ("care", "server"):
        for path in (ROOT / room).rglob("*.py"):
            if "migrations" not in path.parts:
                yield ".".join(path.relative_to(ROOT).with_suffix("").parts).removesuffix(".__init__"), path


def above(name):
    """A module and the packages it is in: these load before it, and it does not wait for what else they load."""
    parts = name.split(".")
    return {".".join(parts[:n]) for n in range(1, len(parts) + 1)}


def imported(tree, known):
    """The modules that loading a module loads: those it names, and the packages they are in."""
    for node in tree.body:
        if isinstance(node, ast.ImportFrom) and node.module:
            yield from above(node.module)
            yield from (full for one in node.names if (full := f"{node.module}.{one.name}") in known)
        elif isinstance(node, ast.Import):
            yield from (one.name for one in node.names)


def cycle(known):
    """Modules that wait for each other, in a row; None where none do."""
    graph = {n: set(imported(ast.parse(path.read_text()), known)) & set(known) - above(n) for n, path in known.items()}
    try:
        TopologicalSorter(graph).prepare()
    except CycleError as error:
        return error.args[1]
    return None


class Modules(SimpleTestCase):
    def test_import_each_other_in_one_direction(self):
        known = dict(modules())
        self.assertGreater(len(known), 200)
        self.assertIsNone(cycle(known))
