"""All checks, several beside each other, each with a line when it ends; the last line counts the Django tests."""

import difflib
import os
import re
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor, as_completed
from dataclasses import dataclass
from itertools import islice
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from tools import web_bounds
from tools.prepare import ROOT, WEB, npm

PYTHON = sys.executable
SNAPSHOT = ROOT / "docs" / "openapi.json"
TYPES = WEB / "src/lib/api/gen/schema.d.ts"
COUNTS = re.compile(r"^(\d+) passed, (\d+) failed(?:, (\d+) skipped)?$", re.MULTILINE)
SHARDS: dict[str, tuple[str, ...]] = {
    "screens: bench, faults, wear": ("web.test_bench", "web.test_faults", "web.test_wear", "web.test_setup"),
    "core": ("care", "tools"),
    "screens: round, house, machines": ("web.test_round", "web.test_household", "web.test_machine", "web.test_change"),
    "screens: shelf, rack, offline": ("web.test_shelf", "web.test_rack", "web.test_plan", "web.test_offline"),
    "server: shelf, faults, input": ("server.test_shelf", "server.test_faults", "server.test_nasty"),
    "server: api, bench, demo": (
        "server.test_api", "server.test_api_bench", "server.test_api_house", "server.test_api_use",
        "server.test_bench", "server.test_dangers", "server.test_demo", "server.test_drying",
    ),
}  # fmt: skip
"""What is tested together; what stands nowhere makes a shard of its room. The first makes the demo household, for which
others would wait; the core needs none. Then what takes longest."""


@dataclass(frozen=True, slots=True)
class Outcome:
    """Whether a check passed, what it printed, and for tests how many passed, failed and were skipped."""

    ok: bool
    output: str
    counts: tuple[int, int, int] | None = None


Check = Callable[[], Outcome]


def main() -> int:
    """Run every check, also after a failure. Returns the exit code."""
    tests = _tests()
    first = dict(islice(tests.items(), 2))  # one that makes the demo household, and one that needs none
    checks = first | _plain(npm()) | tests
    failed: list[str] = []
    counts: list[tuple[int, int, int]] = []
    with ThreadPoolExecutor(at_once()) as pool:
        running = {pool.submit(_timed, check): name for name, check in checks.items()}
        for number, done in enumerate(as_completed(running), 1):
            outcome, seconds = done.result()
            name = running[done]
            print(f"[{number:>2}/{len(checks)}] {name} {'ok' if outcome.ok else 'FAILED'}, {seconds:.0f} s", flush=True)
            if outcome.counts:
                counts.append(outcome.counts)
            if not outcome.ok:
                failed.append(name)
                print(outcome.output, flush=True)
    print(f"Failed: {', '.join(failed)}" if failed else "All checks passed.")
    print(_closing(counts, len(tests)), flush=True)
    return 1 if failed else 0


def at_once() -> int:
    """How many checks run beside each other: one more than there are cores, since a browser waits now and then."""
    return int(os.environ.get("YPERON_CHECKS_AT_ONCE", (os.cpu_count() or 1) + 1))


def _timed(check: Check) -> tuple[Outcome, float]:
    began = time.monotonic()
    return check(), time.monotonic() - began


def _closing(counts: list[tuple[int, int, int]], expected: int) -> str:
    """All tests counted in one line; a shard that printed no count counts as one that failed."""
    passed, failed, skipped = (sum(column) for column in zip(*counts, strict=True)) if counts else (0, 0, 0)
    failed += expected - len(counts)
    return f"{passed} passed, {failed} failed" + (f", {skipped} skipped" if skipped else "")


def _plain(node: list[str]) -> dict[str, Check]:
    """Everything but tests."""
    return {
        "svelte-check": lambda: _command([*node, "run", "--silent", "check"], WEB),
        "eslint and prettier": lambda: _command([*node, "run", "--silent", "lint"], WEB),
        "types (mypy)": lambda: _command([PYTHON, "-m", "mypy"]),
        "API contract": _contract,
        "types made from the contract": lambda: _generated_types(node),
        "import rules": lambda: _command([str(Path(PYTHON).parent / "lint-imports"), "--no-cache"]),
        "migrations are made": lambda: _command([PYTHON, "manage.py", "makemigrations", "--check", "--dry-run"]),
        "lint (ruff)": lambda: _command([PYTHON, "-m", "ruff", "check", "."]),
        "format (ruff)": lambda: _command([PYTHON, "-m", "ruff", "format", "--check", "--quiet", "."]),
    }


def _tests() -> dict[str, Check]:
    """The Django tests in shards, each a process with a database of its own."""
    return {name: _shard(number, labels) for number, (name, labels) in enumerate(shards().items())}


def shards() -> dict[str, tuple[str, ...]]:
    """Every module of tests once: those named together, and what is left of the server and the screens."""
    named = {label for labels in SHARDS.values() for label in labels}
    rest = {room: tuple(m for m in modules(room) if m not in named) for room in ("server", "web")}
    rests = {f"{room}: the rest": labels for room, labels in rest.items() if labels}
    long = {name: labels for name, labels in SHARDS.items() if not name.startswith("server")}
    return long | rests | SHARDS


def modules(room: str) -> list[str]:
    """The modules of tests of a room."""
    return sorted(f"{room}.{path.stem}" for path in (ROOT / "tests" / room).glob("test_*.py"))


def _shard(number: int, labels: tuple[str, ...]) -> Check:
    def run() -> Outcome:
        named = [f"tests.{label}" for label in labels]
        command = [PYTHON, "manage.py", "test", *named, "--noinput", "--timing"]
        done = _command(command, ROOT, DJANGO_ALLOW_ASYNC_UNSAFE="true", YPERON_SHARD=str(number))
        found = COUNTS.findall(done.output)
        if not found:
            return Outcome(False, done.output)
        passed, failed, skipped = (int(n or 0) for n in found[-1])
        return Outcome(done.ok, done.output, (passed, failed, skipped))

    return run


def _command(command: list[str], cwd: Path = ROOT, **env: str) -> Outcome:
    done = subprocess.run(
        command,
        cwd=cwd,
        env={**os.environ, **env},
        stdin=subprocess.DEVNULL,
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
        text=True,
        check=False,
    )
    return Outcome(done.returncode == 0, done.stdout)


def _contract() -> Outcome:
    """The API as it is equals the committed document."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "openapi.json"
        export = ["export_openapi_schema", "--api", "server.config.api.api", "--indent", "2", "--output", str(path)]
        made = _command([PYTHON, "manage.py", *export])
        if not made.ok:
            return made
        return _same(SNAPSHOT, path.read_text(), "make contract")


def _generated_types(node: list[str]) -> Outcome:
    """The committed TypeScript types and limits equal those made from the document."""
    limits = _same(web_bounds.TABLE, web_bounds.made(), "make contract")
    if not limits.ok:
        return limits
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "schema.d.ts"
        made = _command([*node, "exec", "--", "openapi-typescript", str(SNAPSHOT), "--output", str(path)], WEB)
        return _same(TYPES, path.read_text(), "make contract") if made.ok else made


def _same(committed: Path, now: str, mend: str) -> Outcome:
    old = committed.read_text()
    if old.strip() == now.strip():
        return Outcome(True, "")
    lines = difflib.unified_diff(old.splitlines(), now.splitlines(), "committed", "now", lineterm="", n=1)
    return Outcome(False, "\n".join([*list(lines)[:60], f"{committed.name} is not up to date. Run: {mend}"]))


if __name__ == "__main__":
    sys.exit(main())
