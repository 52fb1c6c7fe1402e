"""A long log, and a household of 200 machines as a file: how long the Log takes, and what goes out and comes in.

    python -m benchmarks.long_log log --database FILE       the Log of the house in it, through HTTP views, as JSON
    python -m benchmarks.long_log out --database FILE --file HOUSE.json
    python -m benchmarks.long_log in --database EMPTY --file HOUSE.json

The house is the one of `big_house`, of five years; the demo's is taken out and in as well.
"""

import argparse
import json
import resource
import subprocess
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path
from statistics import median
from time import perf_counter

from benchmarks import big_house

TIMES = 7
ASKED = {
    "first page": "",
    "one machine": "machine={machine}",
    "one part": "machine={machine}&slot={slot}",
    "one kind": "group=looks",
    "one person": "by={person}",
    "a year ago": "last=2025-11-24",
    "a word that is everywhere: machine": "words=machine",
    "a part that most machines have: filter": "words=filter",
    "a part's name and a machine's: filter 007": "words=007+filter",
    "a word of one note in all": "words=whistles",
    "a word that is nowhere": "words=nowhere-at-all",
}


def measure() -> list[str]:
    """The Log of the big house, then both households out and in."""
    with tempfile.TemporaryDirectory() as told:
        folder = Path(told)
        big = folder / "big.sqlite3"
        made = [sys.executable, "-m", "benchmarks.big_house", "make", "--years", "5", "--database", str(big)]
        subprocess.run(made, check=True)
        log = _run("log", big)
        lines = [f"the Log of {log.pop('records'):,.0f} records, milliseconds, medians of {TIMES}"]
        lines += [f"  {ms:7.0f}  {name}" for name, ms in log.items()]
        out = _run("out", big, folder / "big.json")
        into = _run("in", folder / "empty.sqlite3", folder / "big.json")
        lines.append(
            f"200 machines, five years: {out['mb']:.0f} MB, out in {out['s']:.0f} s with {out['memory_mb']:.0f} MB"
        )
        lines.append(f"  in again in {into['s']:.0f} s with {into['memory_mb']:.0f} MB, {into['records']:,.0f} records")
    return lines


def _run(command: str, database: Path, file: Path | None = None) -> dict[str, float]:
    asked = [sys.executable, "-m", "benchmarks.long_log", command, "--database", str(database)]
    done = subprocess.run(
        [*asked, *(["--file", str(file)] if file else [])], check=True, stdout=subprocess.PIPE, text=True
    )
    figures: dict[str, float] = json.loads(done.stdout)
    return figures


def log() -> dict[str, float]:
    """Milliseconds of what the Log may be asked, warm."""
    from django.conf import settings
    from django.test import Client

    from server.household.models import Member
    from server.logbook.models import Entry
    from server.machines.models import Item
    from server.notes.services import add_note

    settings.ALLOWED_HOSTS = ["*"]
    member = Member.everything.select_related("user", "household").get(user__username=big_house.USER)
    item = Item.objects.of(member.household_id).order_by("home_machine__name", "home_slot")[50]
    add_note(member=member, machine_id=item.home_machine_id, text="The lid whistles")
    client = Client()
    assert member.user is not None
    client.force_login(member.user)
    found: dict[str, float] = {"records": Entry.objects.of(member.household_id).count()}
    for name, query in ASKED.items():
        asked = query.format(machine=item.home_machine_id, slot=item.home_slot, person=member.pk)

        def ask(asked: str = asked) -> None:
            answer = client.get(f"/api/log?{asked}")
            assert answer.status_code == 200, answer.content

        ask()
        found[name] = median(_ms(ask) for _ in range(TIMES))
    return found


def _ms(call: Callable[[], None]) -> float:
    began = perf_counter()
    call()
    return 1000 * (perf_counter() - began)


def out(file: Path) -> dict[str, float]:
    """A household is taken out [s, MB]."""
    from server.document.taking_out import plain
    from server.household.models import Household

    began = perf_counter()
    with file.open("wb") as into:
        plain(Household.objects.get().pk, into)
    return {"s": perf_counter() - began, "mb": file.stat().st_size / 1e6, "memory_mb": _memory()}


def bring(file: Path) -> dict[str, float]:
    """A household is brought in [s, MB]."""
    from django.contrib.auth.models import User
    from django.core.management import call_command

    from server.document.bringing_in import bring_in
    from server.document.parcel import opened
    from server.logbook.models import Entry

    call_command("migrate", interactive=False, verbosity=0)
    user = User.objects.create_user("mover")
    began = perf_counter()
    with file.open("rb") as read:
        bring_in(user=user, parcel=opened(read), name=file.name)
    return {"s": perf_counter() - began, "memory_mb": _memory(), "records": Entry.everything.count()}


def _memory() -> float:
    return resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024


def main() -> int:
    """The three commands."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("command", choices=["log", "out", "in"])
    parser.add_argument("--database", type=Path, required=True)
    parser.add_argument("--file", type=Path)
    asked = parser.parse_args()
    big_house.set_up(asked.database)
    if asked.command == "log":
        print(json.dumps(log()))
    else:
        print(json.dumps(out(asked.file) if asked.command == "out" else bring(asked.file)))
    return 0


if __name__ == "__main__":
    sys.exit(main())
