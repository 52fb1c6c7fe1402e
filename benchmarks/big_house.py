"""A household far larger than any: 200 machines of 12 parts with daily runs, and what Round costs there.

    python -m benchmarks.big_house make --years 5 --database FILE    makes it
    python -m benchmarks.big_house measure --database FILE           prints its figures as JSON
    python -m benchmarks.big_house board --database FILE             prints the warm board's, after `measure`

Each machine ran daily; each part was looked at and cleaned every 30 days. The rows are written straight into the
tables, since living five years through the services takes an hour; the figures are taken through HTTP views.
"""

import argparse
import json
import os
import resource
import subprocess
import sys
import tempfile
from collections.abc import Callable, Iterator
from datetime import UTC, datetime, timedelta
from pathlib import Path
from statistics import median
from time import perf_counter
from typing import Any
from uuid import UUID, uuid4

MACHINES = 200
KIND = "cordless-two-filter"
CLEANED_EVERY = 30
NOW = datetime(2026, 11, 24, 9, tzinfo=UTC)
DAY = timedelta(days=1)
FOUND = ("light", "due", "due", "light", "overdue")
USER, PASSWORD = "big", "big-house"


def measure() -> list[str]:
    """Both sizes, each made and measured in processes of its own."""
    with tempfile.TemporaryDirectory() as folder:
        homes = {years: Path(folder) / f"{years}.sqlite3" for years in (1, 5)}
        figures = {years: _one_size(years, home) for years, home in homes.items()}
        in_turn = [{years: _run("board", home) for years, home in homes.items()} for _ in range(5)]
    for years in homes:
        figures[years]["board_ms"] = median(pair[years]["median_ms"] for pair in in_turn)
        figures[years]["board_best_ms"] = min(pair[years]["best_ms"] for pair in in_turn)
    lines = [f"{MACHINES} machines of 12 parts, daily runs; milliseconds, medians; 1 year | 5 years | ratio"]
    names = {
        "board_ms": "board, warm",
        "board_best_ms": "board, warm, the fastest of all: what other work on the machine does not blur",
        "write_ms": "one run written, with the board after it",
        "page_ms": "a machine's page with all reasons",
        "new_day_ms": "board, first request of a new day",
        "memory_mb": "memory of the worker after all that [MB]",
    }
    for key, name in names.items():
        one, five = figures[1][key], figures[5][key]
        lines.append(f"  {one:9.0f} | {five:9.0f} | {five / one:5.2f}  {name}")
    lines.append(f"  {figures[1]['runs']:9.0f} | {figures[5]['runs']:9.0f} |        runs on record")
    return lines


def _one_size(years: int, database: Path) -> dict[str, float]:
    made = [sys.executable, "-m", "benchmarks.big_house", "make", "--years", str(years), "--database", str(database)]
    subprocess.run(made, check=True)
    return _run("measure", database)


def _run(command: str, database: Path) -> dict[str, float]:
    """The figures of a command in a process of its own."""
    asked = [sys.executable, "-m", "benchmarks.big_house", command, "--database", str(database)]
    done = subprocess.run(asked, check=True, stdout=subprocess.PIPE, text=True)
    figures: dict[str, float] = json.loads(done.stdout)
    return figures


def set_up(database: Path) -> None:
    """Work on this database from now on, at the house's instant."""
    os.environ.update(
        DJANGO_SETTINGS_MODULE="server.config.settings",
        YPERON_DATABASE=str(database),
        YPERON_NOW=NOW.isoformat(),
    )
    import django

    django.setup()


# --- Making it ----------------------------------------------------------------------------------------------------


def make(years: int) -> None:
    """Fill an empty database with the household."""
    from django.core.management import call_command

    from server.base.storage import analyse

    call_command("migrate", interactive=False, verbosity=0)
    live(machines=MACHINES, days=365 * years)
    analyse()


def live(*, machines: int, days: int) -> UUID:
    """A household of so many machines that have run daily and were cleaned for so many days; gives its id."""
    from django.db import transaction

    from server.base import clock
    from server.household.services import create_household
    from server.machines.models import Item
    from server.setup.services import add_machine

    since = NOW - days * DAY
    with clock.at(since), transaction.atomic():
        member = create_household(
            name="Big house", time_zone="Europe/Dublin", user_name=USER, password=PASSWORD, person="Ash"
        )
        ids = [uuid4() for _ in range(machines)]
        for n, machine_id in enumerate(ids):
            add_machine(
                member=member,
                machine_id=machine_id,
                name=f"Machine {n:03}",
                archetype=KIND,
                schedule=None,
                since=since,
            )
    parts = {
        machine_id: list(
            Item.objects.of(member.household_id).filter(home_machine=machine_id).values_list("pk", "home_slot")
        )
        for machine_id in ids
    }
    with transaction.atomic():
        _Rows(member.household_id, since, days).write(parts)
    return member.household_id


class _Rows:
    """Straight rows of entries and details; ids as SQLite keeps them, instants as Django writes them."""

    def __init__(self, household_id: UUID, since: datetime, days: int) -> None:
        from django.db.models import Max

        from server.logbook.models import Entry

        self.household, self.since, self.days = household_id.hex, since, days
        self._sequence = Entry.objects.of(household_id).aggregate(last=Max("sequence"))["last"]

    def write(self, parts: dict[UUID, list[tuple[UUID, str]]]) -> None:
        for machine, its in parts.items():
            self._insert("machines_run", list(self._runs(machine)))
            self._insert(
                "machines_service", [row for item, slot in its for row in self._cleanings(machine, item, slot)]
            )
            self._insert("machines_inspection", [row for i, slot in its for row in self._looks(machine, i, slot)])
        self._revisions(list(parts))

    def _entry(self, kind: str, at: datetime, machine: UUID) -> dict[str, Any]:
        self._sequence += 1
        return {
            "id": uuid4().hex,
            "household_id": self.household,
            "action_id": uuid4().hex,
            "subject_id": machine.hex,
            "kind": kind,
            "happened_at": f"{at:%Y-%m-%d %H:%M:%S}",
            "entered_at": f"{at:%Y-%m-%d %H:%M:%S}",
            "by_id": None,
            "source": "person",
            "sequence": self._sequence,
            "voids_id": None,
            "reason": "",
        }

    def _runs(self, machine: UUID) -> Iterator[tuple[dict[str, Any], dict[str, Any]]]:
        for n in range(1, self.days):
            at = self.since + n * DAY
            minutes = 12 + n * 7 % 9
            yield (
                self._entry("run", at, machine),
                {
                    "machine_id": machine.hex,
                    "day": f"{at:%Y-%m-%d}",
                    "run_s": minutes * 60,
                    "start": None,
                    "mopped": False,
                    "provenance": "logged",
                    "supersedes_id": None,
                    "ended": "",
                },
            )

    def _care(self, offset: int) -> Iterator[tuple[int, datetime]]:
        for n, day in enumerate(range(offset % CLEANED_EVERY + 5, self.days, CLEANED_EVERY)):
            yield n, self.since + day * DAY + timedelta(hours=5)

    def _on_part(self, machine: UUID, item: UUID, slot: str) -> dict[str, Any]:
        return {"machine_id": machine.hex, "slot": slot, "item_id": item.hex, "sheet_id": None}

    def _cleanings(self, machine: UUID, item: UUID, slot: str) -> Iterator[tuple[dict[str, Any], dict[str, Any]]]:
        for _, at in self._care(item.int):
            yield self._entry("service", at, machine), {**self._on_part(machine, item, slot), "action": _action(slot)}

    def _looks(self, machine: UUID, item: UUID, slot: str) -> Iterator[tuple[dict[str, Any], dict[str, Any]]]:
        for n, at in self._care(item.int):
            found = FOUND[(n + item.int) % len(FOUND)]
            yield (
                self._entry("inspection", at, machine),
                {**self._on_part(machine, item, slot), "about": _action(slot), "found": found},
            )

    def _insert(self, table: str, rows: list[tuple[dict[str, Any], dict[str, Any]]]) -> None:
        self._many("logbook_entry", [entry for entry, _ in rows])
        self._many(table, [{"entry_id": e["id"], "household_id": self.household, **detail} for e, detail in rows])

    def _many(self, table: str, rows: list[dict[str, Any]]) -> None:
        from django.db import connection

        columns = ", ".join(f'"{name}"' for name in rows[0])
        marks = ", ".join(["%s"] * len(rows[0]))
        with connection.cursor() as cursor:
            cursor.executemany(f"INSERT INTO {table} ({columns}) VALUES ({marks})", [list(r.values()) for r in rows])  # noqa: S608

    def _revisions(self, machines: list[UUID]) -> None:
        from server.logbook.models import Revision

        Revision.everything.filter(subject_id__in=machines).update(number=self._sequence)


def _action(slot: str) -> str:
    """What the cleaning of a slot is called in the book."""
    from care.book import load_book
    from care.vocabulary import Action

    skipped = (Action.INSPECT, Action.REPLACE)
    return next(rule.action for rule in load_book().archetypes[KIND].slot(slot).rules if rule.action not in skipped)


# --- Measuring it -------------------------------------------------------------------------------------------------


class _Desk:
    """A signed-in person of the big house, whose requests go through the whole of Django in this process."""

    def __init__(self) -> None:
        from django.conf import settings
        from django.test import Client

        from server.household.models import Member
        from server.machines.models import Machine

        settings.ALLOWED_HOSTS = ["*"]
        self._client = Client()
        member = Member.everything.select_related("user").get(user__username=USER)
        self._client.force_login(member.user)
        self.household = member.household_id
        self._machine = Machine.objects.of(self.household).order_by("name")[7].pk

    def board(self) -> None:
        answer = self._client.get("/api/round")
        assert answer.status_code == 200, answer.content

    def page(self) -> None:
        assert self._client.get(f"/api/machines/{self._machine}").status_code == 200

    def write(self) -> None:
        body = {"id": str(uuid4()), "minutes": 15}
        answer = self._client.post(f"/api/machines/{self._machine}/runs", body, content_type="application/json")
        assert answer.status_code == 201, answer.content


def figures() -> dict[str, float]:
    """Milliseconds of the views in this process, and what it holds in memory at the end [MB]."""
    from django.conf import settings

    from server.machines.models import Run

    desk = _Desk()
    desk.board()
    written, opened = _ms(desk.write, 9), _ms(desk.page, 5)
    settings.FIXED_NOW = NOW + DAY
    return {
        "write_ms": written,
        "page_ms": opened,
        "new_day_ms": _ms(desk.board, 1),
        "runs": Run.objects.of(desk.household).count(),
        "memory_mb": resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024,
    }


def board() -> dict[str, float]:
    """The warm board on the day that `figures` left behind [ms]."""
    from django.conf import settings

    settings.FIXED_NOW = NOW + DAY
    desk = _Desk()
    desk.board()
    took = _times(desk.board, 15)
    return {"median_ms": median(took), "best_ms": min(took)}


def _ms(call: Callable[[], None], times: int) -> float:
    return median(_times(call, times))


def _times(call: Callable[[], None], times: int) -> list[float]:
    took = []
    for _ in range(times):
        began = perf_counter()
        call()
        took.append((perf_counter() - began) * 1000)
    return took


def main() -> int:
    """The three commands."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("command", choices=["make", "measure", "board"])
    parser.add_argument("--years", type=int, default=5)
    parser.add_argument("--database", type=Path, required=True)
    asked = parser.parse_args()
    set_up(asked.database)
    if asked.command == "make":
        make(asked.years)
    else:
        print(json.dumps(figures() if asked.command == "measure" else board()))
    return 0


if __name__ == "__main__":
    sys.exit(main())
