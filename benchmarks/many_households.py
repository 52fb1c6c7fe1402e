"""A host of many households: what they weigh, what one request costs among all, and how a Saturday goes.

    python -m benchmarks.many_households make --count 10000 --database FILE       all in one file
    python -m benchmarks.many_households cost --database FILE                     milliseconds of what is asked, as JSON
    python -m benchmarks.many_households together --database FILE --seconds 20    two processes that write at once

One household is lived through and copied by the database itself: every id gets the number of its copy in its last eight
digits. `--postgres dbname=...` in place of `--database` does the same there (it needs psycopg, which the app does not).
The Saturday is a queue of another law than the app: requests at drawn times, each of a length that was measured.
"""

import argparse
import heapq
import json
import multiprocessing
import os
import random
import sqlite3
import subprocess
import sys
import tempfile
from collections.abc import Callable, Iterator
from contextlib import closing
from pathlib import Path
from statistics import median, quantiles
from time import perf_counter
from typing import Any
from uuid import uuid4

from benchmarks import big_house

COUNT = 10_000
MACHINES, DAYS = 2, 90
TIMES = 25
HOURS = 24
CORES = (2, 4, 8, 16)
LOOKS_A_DAY, RUNS_A_DAY, SITTING, TAPS = 2.0, 0.6, 0.5, 30
"""Assumed of a household's Saturday: it is opened twice, runs are noted, every other one has a sitting of 30 taps."""
FIRST_USER = 1000


def measure() -> list[str]:
    """All in one file against a file each, and the Saturday of both."""
    with tempfile.TemporaryDirectory() as told:
        one, many = Path(told) / "alone.sqlite3", Path(told) / "all.sqlite3"
        made = {file: _run("make", file, count=count) for file, count in ((one, 1), (many, COUNT))}
        cost = {file: _run("cost", file) for file in (one, many)}
        together = {name: _run("together", file) for name, file in (("one file", many), ("a file each", one))}
    lines = [f"{COUNT:,} households of {MACHINES} machines and {DAYS} days; alone in a file | among all in one file"]
    for key, name in NAMES.items():
        a, b = (made | cost for made, cost in ((made[file], cost[file]) for file in (one, many)))
        lines.append(f"  {a[key]:9.1f} | {b[key]:9.1f}  {name}")
    lines += [f"  {told['a_second']:9.1f} writes a second by two processes, {name}" for name, told in together.items()]
    return lines + list(saturday(cost[one]["read_ms"], cost[one]["write_ms"], cost[one]["new_day_ms"]))


NAMES = {
    "records": "records a household",
    "kb": "kB on disk a household",
    "s": "s to make all of it",
    "new_day_ms": "ms Round, the first of a day",
    "read_ms": "ms Round, warm",
    "write_ms": "ms a run, with the board after it",
    "log_ms": "ms the first page of the Log",
    "copy_s": "s to copy everything and read it back",
}


def _run(command: str, database: Path, **more: object) -> dict[str, float]:
    asked = [sys.executable, "-m", "benchmarks.many_households", command, "--database", str(database)]
    asked += [part for name, value in more.items() for part in (f"--{name}", str(value))]
    figures: dict[str, float] = json.loads(subprocess.run(asked, check=True, stdout=subprocess.PIPE, text=True).stdout)
    return figures


def set_up(asked: argparse.Namespace) -> None:
    """Work on this database from now on."""
    if not asked.postgres:
        big_house.set_up(asked.database)
        return
    os.environ.update(DJANGO_SETTINGS_MODULE="server.config.settings", YPERON_NOW=big_house.NOW.isoformat())
    import django
    from django.conf import settings

    name = asked.postgres.removeprefix("dbname=")
    settings.DATABASES["default"] = {"ENGINE": "django.db.backends.postgresql", "NAME": name}
    django.setup()


# --- Making them --------------------------------------------------------------------------------------------------


def make(count: int) -> dict[str, float]:
    """Fill an empty database with so many households that differ in nothing but their ids."""
    from django.core.management import call_command
    from django.db import connection, transaction

    from server.base.storage import analyse
    from server.logbook.models import Entry

    call_command("migrate", interactive=False, verbosity=0)
    template = big_house.live(machines=MACHINES, days=DAYS)
    records = Entry.objects.of(template).count()
    began = perf_counter()
    with transaction.atomic(), connection.cursor() as cursor:
        for statement in _copies(template.hex, count - 1):
            cursor.execute(statement)
    analyse()
    return {"records": records, "s": perf_counter() - began, "kb": _size() / count / 1000}


def _size() -> float:
    from django.db import connection

    of = (
        "SELECT pg_database_size(current_database())"
        if connection.vendor == "postgresql"
        else "SELECT page_count * page_size FROM pragma_page_count(), pragma_page_size()"
    )
    with connection.cursor() as cursor:
        cursor.execute(of)
        return float(cursor.fetchone()[0])


def _copies(template: str, count: int) -> Iterator[str]:
    """One statement a table: each row of the template as often as there are copies."""
    from django.apps import apps
    from django.contrib.auth.models import User
    from django.db import connection
    from django.db.models import Field, UUIDField

    from server.household.models import Household, Member

    postgres = connection.vendor == "postgresql"
    counted = f"WITH RECURSIVE n(i) AS (VALUES(1) UNION ALL SELECT i + 1 FROM n WHERE i < {count})"  # noqa: S608
    numbers = f"generate_series(1, {count}) AS n(i)" if postgres else f"({counted} SELECT i FROM n)"  # noqa: S608
    other_id = (
        "(substr({0}::text, 1, 28) || lpad(to_hex(i), 8, '0'))::uuid"
        if postgres
        else "substr({0}, 1, 24) || printf('%08x', i)"
    )
    same = "password, is_superuser, first_name, last_name, email, is_staff, is_active, date_joined"
    yield (
        f"INSERT INTO auth_user (id, username, {same}) SELECT {FIRST_USER} + i, username || i, {same}"  # noqa: S608
        f" FROM auth_user, {numbers}"
    )
    models = [model for model in apps.get_models() if model is Household or _of_household(model)]
    for model in sorted(models, key=lambda model: (model is not Household, model is not Member)):
        columns, values = [], []
        for field in model._meta.concrete_fields:
            column = f't."{field.column}"'
            kept: Any = getattr(field, "target_field", field)
            if field.is_relation and field.related_model is User:
                value = f"CASE WHEN {column} IS NULL THEN NULL ELSE {FIRST_USER} + i END"
            elif isinstance(kept, UUIDField):
                value = other_id.format(column)
            elif isinstance(field, Field) and field.primary_key:
                continue
            else:
                value = column
            columns.append(f'"{field.column}"')
            values.append(value)
        whose = "id" if model is Household else "household_id"
        into = f"INSERT INTO {model._meta.db_table} ({', '.join(columns)}) SELECT {', '.join(values)}"
        yield f"{into} FROM {model._meta.db_table} t, {numbers} WHERE t.{whose} = '{template}'"


def _of_household(model: type[Any]) -> bool:
    names = {field.name for field in model._meta.concrete_fields}
    return "household" in names and model._meta.db_table != "machines_standing"


# --- What one of them costs ---------------------------------------------------------------------------------------


def cost() -> dict[str, float]:
    """Milliseconds of what is asked by households drawn from all, and seconds of a copy."""
    desks = _desks(TIMES)
    new_day = median(_ms(desk.board) for desk in desks)
    return {
        "new_day_ms": new_day,
        "read_ms": median(_ms(desk.board) for desk in desks),
        "write_ms": median(_ms(desk.write) for desk in desks),
        "log_ms": median(_ms(desk.log) for desk in desks),
        "copy_s": _copy_s(),
    }


def _copy_s() -> float:
    from django.db import connection

    from server.base.backup import back_up

    if connection.vendor == "postgresql":
        return float("nan")
    with tempfile.TemporaryDirectory() as folder:
        return _ms(lambda: back_up(Path(folder) / "copy.sqlite3")) / 1000


class _Desk:
    """Somebody signed in at one of the households."""

    def __init__(self, user: Any) -> None:
        from django.test import Client

        from server.household.models import Member
        from server.machines.models import Machine

        self._client = Client()
        self._client.force_login(user)
        household = Member.everything.get(user=user).household_id
        self._machine = Machine.objects.of(household).order_by("name")[0].pk

    def board(self) -> None:
        assert self._client.get("/api/round").status_code == 200

    def log(self) -> None:
        assert self._client.get("/api/log").status_code == 200

    def write(self) -> None:
        body = {"id": str(uuid4()), "minutes": 15}
        answer = self._client.post(f"/api/machines/{self._machine}/runs", body, content_type="application/json")
        assert answer.status_code == 201, answer.content


def _desks(count: int, seed: int = 5) -> list[_Desk]:
    from django.conf import settings
    from django.contrib.auth.models import User

    settings.ALLOWED_HOSTS = ["*"]
    users = sorted(User.objects.values_list("pk", flat=True))
    chance = random.Random(seed)
    chosen = chance.sample(users, min(count, len(users)))
    return [_Desk(User.objects.get(pk=chosen[n % len(chosen)])) for n in range(count)]


def _ms(call: Callable[[], object]) -> float:
    began = perf_counter()
    call()
    return 1000 * (perf_counter() - began)


# --- Two at once --------------------------------------------------------------------------------------------------


def together(asked: argparse.Namespace) -> dict[str, float]:
    """Runs a second that two processes write: into one database, or, of one household alone, into a copy each."""
    databases = [asked.database] * 2
    with tempfile.TemporaryDirectory() as folder:
        if not asked.postgres and _is_alone(asked.database):
            databases = [Path(folder) / f"{n}.sqlite3" for n in range(2)]
            for file in databases:
                with closing(sqlite3.connect(asked.database)) as opened:
                    opened.execute("VACUUM INTO ?", [str(file)])
        with multiprocessing.get_context("spawn").Pool(2) as pool:
            told = [(argparse.Namespace(**{**vars(asked), "database": file}), n) for n, file in enumerate(databases)]
            return {"a_second": sum(pool.starmap(_write_on, told)) / asked.seconds}


def _is_alone(database: Path) -> bool:
    with closing(sqlite3.connect(database)) as opened:
        return bool(opened.execute("SELECT count(*) = 1 FROM household_household").fetchone()[0])


def _write_on(asked: argparse.Namespace, seed: int) -> int:
    """Write for so many seconds; gives how many runs were noted."""
    set_up(asked)
    desks, count = _desks(TIMES, seed), 0
    for desk in desks:
        desk.write()
    until = perf_counter() + asked.seconds
    while perf_counter() < until:
        desks[count % TIMES].write()
        count += 1
    return count


# --- A Saturday ---------------------------------------------------------------------------------------------------


def saturday(read_ms: float, write_ms: float, new_day_ms: float, count: int = COUNT) -> Iterator[str]:
    """How long households wait on a Saturday, by cores, with one lock for all writes and without."""
    asked = _arrivals(count, random.Random(11), read_ms / 1000, write_ms / 1000, new_day_ms / 1000)
    busy = sum(length for _, _, length in asked)
    yield f"a Saturday of {count:,} households: {len(asked):,} requests, {busy / 3600:.1f} hours of one core"
    for one_writer in (True, False):
        for cores in CORES:
            waits = _waits(asked, cores, one_writer=one_writer)
            cuts = quantiles(waits, n=100)
            how = "one writer at a time for all" if one_writer else "writers of different households at once"
            yield f"  {cores:2} cores, {how}: median {cuts[49]:.2f} s, 95 of 100 within {cuts[94]:.1f} s"


def _arrivals(
    count: int, chance: random.Random, read_s: float, write_s: float, first_s: float
) -> list[tuple[float, bool, float]]:
    """When, whether it writes, how long it takes [s]: each household's Saturday, in order of time."""
    asked = []
    for _ in range(count):
        for look in range(_drawn(LOOKS_A_DAY, chance)):
            asked.append((_hour(chance) * 3600, False, first_s if look == 0 else read_s))
        for _ in range(_drawn(RUNS_A_DAY, chance)):
            asked.append((_hour(chance) * 3600, True, write_s))
        if chance.random() < SITTING:
            at = _hour(chance) * 3600
            for _ in range(TAPS):
                at += chance.expovariate(1 / 40)
                asked.append((at, True, write_s))
    return sorted((at, writes, length * chance.lognormvariate(0, 0.4)) for at, writes, length in asked)


def _drawn(mean: float, chance: random.Random) -> int:
    whole = int(mean)
    return whole + (chance.random() < mean - whole)


def _hour(chance: random.Random) -> float:
    """Half of it all in the morning, a third in the evening, the rest at any time."""
    kind = chance.random()
    if kind < 0.5:
        return min(max(chance.gauss(10, 1), 0), HOURS)
    return min(max(chance.gauss(19, 1.2), 0), HOURS) if kind < 0.83 else chance.uniform(7, 23)


def _waits(asked: list[tuple[float, bool, float]], cores: int, *, one_writer: bool) -> list[float]:
    """How long each was under way [s]: first come, first served by the cores; a writer waits for the lock first."""
    free = [0.0] * cores
    heapq.heapify(free)
    lock, waits = 0.0, []
    for at, writes, length in asked:
        begin = max(at, heapq.heappop(free))
        if writes and one_writer:
            begin = max(begin, lock)
        end = begin + length
        if writes:
            lock = end
        heapq.heappush(free, end)
        waits.append(end - at)
    return waits


def main() -> int:
    """The three commands."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("command", choices=["make", "cost", "together"])
    parser.add_argument("--database", type=Path)
    parser.add_argument("--postgres", default="")
    parser.add_argument("--count", type=int, default=COUNT)
    parser.add_argument("--seconds", type=float, default=20)
    asked = parser.parse_args()
    if asked.command == "together":
        print(json.dumps(together(asked)))
        return 0
    set_up(asked)
    print(json.dumps(make(asked.count) if asked.command == "make" else cost()))
    return 0


if __name__ == "__main__":
    sys.exit(main())
