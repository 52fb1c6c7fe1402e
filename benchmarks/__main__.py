"""Runs all measurements and prints one table."""

import gzip
import os
import re
import sys
from collections.abc import Callable, Iterable
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]


def main() -> int:
    """Measure and print. Returns the exit code."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.config.settings")
    import django

    django.setup()
    from benchmarks import big_house, due, fault_finding, learning, pages, screens, sheets, shelf

    parts: tuple[tuple[str, Callable[[], Iterable[str]]], ...] = (
        ("Core, one robot with two rollers, all its rules", due.measure),
        ("A year of work, all kinds of machines at 4 h a week", due.minutes_a_year),
        ("Bench, one visit", sheets.measure),
        ("Finding faults, simulated machines of another physics", fault_finding.measure),
        ("Learning, simulated parts of other forms than the core's", learning.measure),
        ("Spare parts, bags and buying, simulated years of another form than the core's", shelf.measure),
        ("A household larger than any", big_house.measure),
        ("Pages of the demo, the server's part", pages.measure),
        ("Screens, in Chromium", screens.measure),
        ("First page, gzip", first_page),
        ("Lines that are not blank", lines),
    )
    for heading, measure in parts:
        print(heading)
        for line in measure():
            print(f"  {line}")
    return 0


def first_page() -> list[str]:
    """Scripts and styles that index.html and Round load before anything can be done."""
    build = ROOT / "web" / "dist"
    index = build / "index.html"
    if not index.exists():
        return ["not built: run make build"]
    names = re.findall(r'(?:src|href)="/(assets/[^"]+\.(?:js|css))"', index.read_text())
    sizes = {name: len(gzip.compress((build / name).read_bytes(), 9)) for name in names}
    return [*(f"{size / 1000:6.1f} kB {name}" for name, size in sizes.items()), f"{sum(sizes.values()) / 1000:6.1f} kB"]


def lines() -> list[str]:
    """Code and test lines: .py .ts .svelte .js outside migrations and generated types."""
    count = {"code": 0, "tests": 0}
    for path in ROOT.rglob("*"):
        inside = path.relative_to(ROOT)
        skip = {"migrations", "node_modules", "dist", ".venv", "gen", "var"} & set(inside.parts)
        if path.suffix in {".py", ".ts", ".svelte", ".js"} and not skip and path.is_file():
            kind = "tests" if "tests" in inside.parts[:2] else "code"
            count[kind] += sum(1 for line in path.read_text().splitlines() if line.strip())
    share = 100 * count["tests"] / (count["code"] + count["tests"])
    return [f"{count['code']} code, {count['tests']} tests ({share:.0f} % of both)"]


if __name__ == "__main__":
    sys.exit(main())
