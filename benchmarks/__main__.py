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
    from benchmarks import (
        big_house,
        devices,
        due,
        fault_finding,
        learning,
        long_log,
        pages,
        screens,
        season,
        shape,
        sheets,
        shelf,
    )

    parts: tuple[tuple[str, Callable[[], Iterable[str]]], ...] = (
        ("Core, one robot with two rollers, all its rules", due.measure),
        ("A year of work, all kinds of machines at 4 h a week", due.minutes_a_year),
        ("Bench, one visit", sheets.measure),
        ("Finding faults, simulated machines of another physics", fault_finding.measure),
        ("Learning, simulated parts of other forms than the core's", learning.measure),
        ("Measured instead of assumed use", learning.measured_against_assumed),
        ("Spare parts, bags and buying, simulated years of another form than the core's", shelf.measure),
        ("Seasons, houses out of the care book, planned and lived through", season.measure),
        ("A household larger than any", big_house.measure),
        ("A long log, and a large household as a file", long_log.measure),
        ("Devices that report", devices.measure),
        ("Pages of the demo, the server's part", pages.measure),
        ("Screens, in Chromium", screens.measure),
        ("First page, gzip", first_page),
        ("Shape of the code", shape.measure),
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


if __name__ == "__main__":
    sys.exit(main())
