"""All checks, each with a progress line and a clear failure; the last line counts the Django tests."""

import difflib
import os
import re
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from tools.prepare import ROOT, WEB, npm

PYTHON = sys.executable
SNAPSHOT = ROOT / "docs" / "openapi.json"
TYPES = WEB / "src/lib/api/gen/schema.d.ts"
COUNTS = re.compile(r"^(\d+) passed, (\d+) failed.*$", re.MULTILINE)


@dataclass(frozen=True, slots=True)
class Outcome:
    """Whether a check passed, and what it printed."""

    ok: bool
    output: str


def main() -> int:
    """Run every check, also after a failure. Returns the exit code."""
    node = npm()
    checks: dict[str, Callable[[], Outcome]] = {
        "lint (ruff)": lambda: _command([PYTHON, "-m", "ruff", "check", "."]),
        "format (ruff)": lambda: _command([PYTHON, "-m", "ruff", "format", "--check", "--quiet", "."]),
        "types (mypy)": lambda: _command([PYTHON, "-m", "mypy"]),
        "import rules": lambda: _command([str(Path(PYTHON).parent / "lint-imports"), "--no-cache"]),
        "migrations are made": lambda: _command([PYTHON, "manage.py", "makemigrations", "--check", "--dry-run"]),
        "API contract": _contract,
        "types made from the contract": lambda: _generated_types(node),
        "svelte-check": lambda: _command([*node, "run", "--silent", "check"], WEB),
        "eslint and prettier": lambda: _command([*node, "run", "--silent", "lint"], WEB),
        "tests": _tests,
    }
    failed: list[str] = []
    counted = "0 passed, 1 failed"
    for number, (name, check) in enumerate(checks.items(), 1):
        print(f"[{number:>2}/{len(checks)}] {name} ...", end="", flush=True)
        began = time.monotonic()
        outcome = check()
        print(f" {'ok' if outcome.ok else 'FAILED'}, {time.monotonic() - began:.0f} s", flush=True)
        if not outcome.ok:
            failed.append(name)
            print(outcome.output, flush=True)
        if name == "tests" and (match := COUNTS.search(outcome.output)):
            counted = match.group(0)
    print(f"Failed: {', '.join(failed)}" if failed else "All checks passed.")
    print(counted, flush=True)
    return 1 if failed else 0


def _command(command: list[str], cwd: Path = ROOT, **env: str) -> Outcome:
    done = subprocess.run(
        command,
        cwd=cwd,
        env={**os.environ, **env},
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
        made = _command(
            [
                PYTHON,
                "manage.py",
                "export_openapi_schema",
                "--api",
                "server.config.api.api",
                "--indent",
                "2",
                "--output",
                str(path),
            ]
        )
        if not made.ok:
            return made
        return _same(SNAPSHOT, path.read_text(), "make contract")


def _generated_types(node: list[str]) -> Outcome:
    """The committed TypeScript types equal those made from the document."""
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


def _tests() -> Outcome:
    """Core, server and browser tests, by Django's runner."""
    return _command([PYTHON, "manage.py", "test", "tests", "--noinput", "--timing"], DJANGO_ALLOW_ASYNC_UNSAFE="true")


if __name__ == "__main__":
    sys.exit(main())
