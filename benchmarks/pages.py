"""What each main page of the demo household asks of the server, warm, against Round."""

import os
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path
from statistics import median
from typing import TYPE_CHECKING, Any
from uuid import uuid4

if TYPE_CHECKING:
    from django.test import Client

TIMES = 9
"""So often each page is asked, in turn with the others."""


def measure() -> list[str]:
    """Each page in a process and a database of its own: medians [ms] and how many times Round's."""
    with tempfile.TemporaryDirectory() as folder:
        env = {**os.environ, "YPERON_DATABASE": str(Path(folder) / "demo.sqlite3"), "YPERON_NOW": NOW}
        done = subprocess.run(
            [sys.executable, "-m", "benchmarks.pages"], check=True, stdout=subprocess.PIPE, text=True, env=env
        )
    return done.stdout.splitlines()


USER, PASSWORD = "keeper", "quillgate"
NOW = "2026-11-24T09:00:00+00:00"
"""The demo's morning."""


def _asked(machine_id: str) -> dict[str, str]:
    one = f"/api/machines/{machine_id}"
    return {
        "Round": "/api/round",
        "a machine's page": one,
        "Change it": f"{one}/setup",
        "Bench": "/api/sheets",
        "Rack": "/api/rack",
        "Shelf": "/api/shelf",
        "Ways to buy": "/api/shelf/ways",
        "Wear": f"{one}/wear",
        "Worth": f"{one}/worth",
        "Bags": f"{one}/dust",
        "Faults, begin": f"{one}/trace",
        "Before a run": "/api/floor",
        "Household": "/api/household",
        "Labels": "/api/labels",
        "Season, as planned": "/api/season",
    }


def _main() -> None:
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.config.settings")
    import django

    django.setup()
    from django.conf import settings
    from django.core.management import call_command
    from django.test import Client

    from demo.quillgate import load
    from server.base import clock
    from server.machines.models import Machine

    call_command("migrate", interactive=False, verbosity=0)
    member = load(now=clock.now(), user_name=USER, password=PASSWORD)
    settings.ALLOWED_HOSTS = ["*"]
    client = Client()
    assert member.user is not None
    client.force_login(member.user)
    pages = _asked(str(Machine.objects.of(member.household_id).get(given_name="Ground robot").pk))
    took: dict[str, list[float]] = {name: [] for name in pages}
    for turn in range(TIMES + 1):
        for name, path in pages.items():
            began = time.perf_counter()
            answer = client.get(path)
            if answer.status_code != 200:
                raise SystemExit(f"{path}: {answer.status_code}")
            if turn:
                took[name].append(1000 * (time.perf_counter() - began))
    first = median(took["Round"])
    for name, every in took.items():
        print(f"{median(every):7.0f} ms {median(every) / first:5.1f} times Round  {name}")
    for name, took_s in _planned(client, pages["a machine's page"]):
        print(f"{1000 * took_s:7.0f} ms {1000 * took_s / first:5.1f} times Round  {name}")


def _planned(client: "Client", machine: str) -> Iterator[tuple[str, float]]:
    """The season made anew after a run, and a year lived otherwise: seconds each [s]."""

    def timed(ask: Callable[[], Any]) -> float:
        began = time.perf_counter()
        if ask().status_code >= 300:
            raise SystemExit("the season does not answer")
        return time.perf_counter() - began

    def post(path: str, body: dict[str, Any]) -> Any:
        return client.post(path, body, content_type="application/json")

    for n in range(2):
        post(f"{machine}/runs", {"id": str(uuid4()), "minutes": 10 + n})
        once = timed(lambda: client.get("/api/season"))
    yield "Season, planned anew after a run", once
    yield "What if, the year as it is", timed(lambda: client.get("/api/what-if"))
    for animals in (0, 3):
        once = timed(partial(post, "/api/what-if", {"changes": [{"animals": animals}]}))
    yield "What if, one year otherwise", once


if __name__ == "__main__":
    _main()
