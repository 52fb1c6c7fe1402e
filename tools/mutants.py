"""Changes one token of the core at random, many times, and counts which changes no test notices.

    python tools/mutants.py --count 300 --seed 1 [--only care/due]

Each change is tried in a process of its own by the tests that run the changed line, those of the core first; which
those are is measured once for each state of the code, with `coverage`. A line that runs only while modules are loaded,
or of which only few tests are known (what is kept is run once), is tried by those of the core that run its file. A test
that fails, breaks or does not end notices it.
"""

import argparse
import importlib.abc
import importlib.util
import io
import json
import os
import random
import subprocess
import sys
import threading
import tokenize
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from importlib.machinery import ModuleSpec, SourceFileLoader
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
COVERED = ROOT / "var" / "mutants"
FEW = 4
MOST = 40
"""So many tests of the server are asked about one line: of one that all of them run, the first would fail."""
PATIENCE_S = 120.0
"""What takes longer than this does not end: the tests of a line take seconds."""
SWAPS = {
    "<": ["<="], "<=": ["<"], ">": [">="], ">=": [">"], "==": ["!="], "!=": ["=="],
    "+": ["-"], "-": ["+"], "*": ["/"], "/": ["*"], "+=": ["-="], "-=": ["+="],
    "and": ["or"], "or": ["and"], "not": [""], "True": ["False"], "False": ["True"],
    "min": ["max"], "max": ["min"], "any": ["all"], "all": ["any"], "is": ["is not"],
}  # fmt: skip
"""What a token becomes; a number becomes one more, or twice itself."""


@dataclass(frozen=True, slots=True)
class Mutant:
    """One token of a file changed into another."""

    path: str
    line: int
    column: int
    old: str
    new: str

    def source(self) -> str:
        """The file with the change."""
        lines = (ROOT / self.path).read_text().splitlines(keepends=True)
        text = lines[self.line - 1]
        lines[self.line - 1] = text[: self.column] + self.new + text[self.column + len(self.old) :]
        return "".join(lines)

    def __str__(self) -> str:
        text = (ROOT / self.path).read_text().splitlines()[self.line - 1].strip()
        return f"{self.path}:{self.line} {self.old!r} -> {self.new!r}   {text}"


def mutants(only: str) -> list[Mutant]:
    """Every change there is of the files below `only`."""
    return [m for path in sorted((ROOT / only).rglob("*.py")) for m in _of(path) if _compiles(m)]


def _of(path: Path) -> Iterator[Mutant]:
    name = str(path.relative_to(ROOT))
    for token in tokenize.generate_tokens(io.StringIO(path.read_text()).readline):
        (line, column), old = token.start, token.string
        for new in SWAPS.get(old, []) if token.type in (tokenize.OP, tokenize.NAME) else _numbers(token):
            yield Mutant(name, line, column, old, new)


def _numbers(token: tokenize.TokenInfo) -> list[str]:
    if token.type != tokenize.NUMBER:
        return []
    value = float(token.string.replace("_", ""))
    return [str(int(value) + 1) if token.string.isdigit() else repr(value * 2 or 1.0)]


def _compiles(mutant: Mutant) -> bool:
    try:
        compile(mutant.source(), mutant.path, "exec")
    except SyntaxError:
        return False
    return True


def covered() -> dict[str, list[str]]:
    """The tests that run each line, by "path:line"; measured once for each state of the code."""
    from server.base import build

    path = COVERED / f"lines-{build.code()}.json"
    if not path.exists():
        _measure(path)
    found: dict[str, list[str]] = json.loads(path.read_text())
    return found


def _measure(path: Path) -> None:
    import coverage

    COVERED.mkdir(parents=True, exist_ok=True)
    data = COVERED / "coverage"
    rc = COVERED / "coveragerc"
    rc.write_text(f"[run]\nsource = {ROOT / 'care'}\ndynamic_context = test_function\ndata_file = {data}\n")
    command = [sys.executable, "-m", "coverage", "run", f"--rcfile={rc}", "manage.py", "test"]
    labels = ["tests.care", "tests.server", "--noinput"]
    subprocess.run([*command, *labels], cwd=ROOT, check=True, env={**os.environ, "YPERON_SHARD": "mutants"})
    read = coverage.CoverageData(str(data))
    read.read()
    lines: dict[str, list[str]] = {}
    for file in read.measured_files():
        name = str(Path(file).relative_to(ROOT))
        for line, contexts in read.contexts_by_lineno(file).items():
            lines[f"{name}:{line}"] = sorted(c for c in contexts if c)
    path.write_text(json.dumps(lines))


def noticed(mutant: Mutant, tests: list[str]) -> bool:
    """Whether one of these tests fails with the change: those of the core are asked first, since they are quicker."""
    core = [label for label in tests if label.startswith("tests.care")]
    seen = any(_fails(mutant, some) for some in (core, [t for t in tests if t not in core][:MOST]) if some)
    print("." if seen else f"not noticed: {mutant}", flush=True)
    return seen


def _fails(mutant: Mutant, tests: list[str]) -> bool:
    shard = f"mutants-{threading.current_thread().name.rsplit('_', 1)[-1]}"
    env = {**os.environ, "YPERON_SHARD": shard, "DJANGO_SETTINGS_MODULE": "server.config.settings"}
    told = json.dumps({"path": mutant.path, "source": mutant.source(), "tests": tests})
    try:
        done = subprocess.run(
            [sys.executable, __file__, "--try"],
            cwd=ROOT, env=env, input=told, capture_output=True, text=True, timeout=PATIENCE_S, check=False,
        )  # fmt: skip
    except subprocess.TimeoutExpired:
        return True
    return done.returncode != 0


def tried() -> int:
    """In a process of its own: the changed module in the place of the other, and its tests. Returns the exit code."""
    told = json.loads(sys.stdin.read())
    sys.path.insert(0, str(ROOT))
    sys.meta_path.insert(0, _Changed(told["path"], told["source"]))
    from django.core.management import execute_from_command_line

    if told["path"].startswith(READ_ANEW):
        from care.book import parsed

        parsed.kept = lambda folder, read: read(folder)
    try:
        execute_from_command_line(["manage.py", "test", *told["tests"], "--noinput", "--failfast", "--keepdb"])
    except SystemExit as done:
        return int(done.code or 0)
    return 0


class _Changed(importlib.abc.MetaPathFinder):
    """Finds one module of the core in a changed source."""

    def __init__(self, path: str, source: str) -> None:
        self.name = path.removesuffix(".py").replace("/", ".").removesuffix(".__init__")
        self._loader = _Source(self.name, str(ROOT / path), source)

    def find_spec(self, name: str, path: object, target: object = None) -> ModuleSpec | None:
        """The changed module only."""
        return (
            importlib.util.spec_from_file_location(name, self._loader.path, loader=self._loader)
            if (name == self.name)
            else None
        )


class _Source(SourceFileLoader):
    """Loads a module from a source in memory, and leaves nothing compiled behind."""

    def __init__(self, name: str, path: str, source: str) -> None:
        super().__init__(name, path)
        self._text = source

    def get_data(self, path: str) -> bytes:
        """The changed source; nothing compiled is there."""
        if path != self.path:
            raise OSError(path)
        return self._text.encode()

    def set_data(self, path: str, data: object, *, _mode: int = 0o666) -> None:
        """Keep nothing."""


READ_ANEW = (
    "care/book",
    "care/vocabulary.py",
    "care/rules.py",
    "care/parts.py",
    "care/kinds.py",
    "care/content.py",
    "care/faults/book.py",
    "care/washability.py",
    "care/measures.py",
)
"""What the book is read with: a change of these has to read it, not what was kept of it."""


def main() -> int:
    """Change, try, and print what nobody noticed. Returns the exit code."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--count", type=int, default=300)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--only", default="care")
    parser.add_argument("--try", action="store_true", dest="one")
    chosen = parser.parse_args()
    if chosen.one:
        return tried()
    sys.path.insert(0, str(ROOT))
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.config.settings")
    import django

    django.setup()
    lines, all_ = covered(), mutants(chosen.only)
    some = random.Random(chosen.seed).sample(all_, min(chosen.count, len(all_)))  # noqa: S311 - changes, no secrets
    with ThreadPoolExecutor(os.cpu_count()) as pool:
        caught = sum(pool.map(lambda mutant: noticed(mutant, _tests_of(mutant, lines)), some))
    print(f"{caught} of {len(some)} changes noticed, {100 * caught / len(some):.0f} % (of {len(all_)} there are)")
    return 0


def _tests_of(mutant: Mutant, lines: dict[str, list[str]]) -> list[str]:
    """The tests that run the line; where these are few, also those of the core that run any of its file, or all."""
    found = [label for label in lines.get(f"{mutant.path}:{mutant.line}", []) if label.startswith("tests.")]
    if len(found) < FEW:
        mine = (labels for line, labels in lines.items() if line.startswith(f"{mutant.path}:"))
        found += [label for labels in mine for label in labels if label.startswith("tests.care")]
    return sorted(set(found)) or ["tests.care"]


if __name__ == "__main__":
    sys.exit(main())
