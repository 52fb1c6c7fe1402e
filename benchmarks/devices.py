"""Devices: fifty of them at their worst, how soon a screen shows what one posted, and a long watch of the made-up ones.

    python -m benchmarks.devices                       the first two
    python -m benchmarks.devices watch --minutes 60    the demo with made-up devices, time 60 times as fast

Fifty machines post a thousand runs each in random order, some of them several times, some posts or answers lost, and
send again what was not confirmed; what is on record is then held against a plain loop over the lines.
"""

import argparse
import json
import os
import random
import sys
import tempfile
import threading
import time
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from pathlib import Path
from statistics import median, quantiles
from typing import Any
from uuid import uuid4

DEVICES, LINES = 50, 1000
POST, LOST, REPEATED = 200, 0.15, 0.3
"""Lines of a post; the chance that a post or its answer is lost; the share that is sent along once more [-]."""
NOW = datetime(2026, 11, 24, 9, tzinfo=UTC)
TIMES = 15
SPEED = 60


def measure() -> Iterator[str]:
    """Fifty devices against a plain loop, then from a post to the screen."""
    with tempfile.TemporaryDirectory() as folder:
        yield from _in_its_own_process("flood", Path(folder))
    yield from to_the_screen()


def _in_its_own_process(command: str, folder: Path) -> list[str]:
    import subprocess

    env = {**os.environ, "YPERON_DATABASE": str(folder / "devices.sqlite3"), "YPERON_NOW": NOW.isoformat()}
    asked = [sys.executable, "-m", "benchmarks.devices", command]
    return subprocess.run(asked, env=env, check=True, stdout=subprocess.PIPE, text=True).stdout.splitlines()


# --- At their worst -----------------------------------------------------------------------------------------------


def flood() -> Iterator[str]:
    """All lines of all devices, sent until each is confirmed; what is on record against a plain loop."""
    import django

    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.config.settings")
    django.setup()
    from server.machines.models import Run

    tokens = _connected()
    lines = {device.pk: _lines(n) for n, device in enumerate(tokens)}
    chance, posts, began = random.Random(17), 0, time.perf_counter()
    for device in tokens:
        posts += _send_all(device, lines[device.pk], chance)
    took = time.perf_counter() - began
    wrong = 0
    for device in tokens:
        runs = Run.objects.of(device.household_id).filter(machine=device.machine).values_list("run_s", flat=True)
        plain = [line["minutes"] for line in lines[device.pk]]  # the plain loop: every line once
        wrong += (len(runs), round(sum(runs) / 60, 3)) != (len(plain), round(sum(plain), 3))
    count = sum(map(len, lines.values()))
    yield f"{len(tokens)} devices, {count:,} lines in {posts} posts: {wrong} differ from a plain loop over them"
    yield f" {LOST:.0%} of posts or answers lost, {REPEATED:.0%} of lines sent twice; {count / took:.0f} lines a second"


def _connected() -> list[Any]:
    from django.core.management import call_command

    from server.base import clock
    from server.devices.services import connect
    from server.household.services import create_household
    from server.setup.services import add_machine

    call_command("migrate", interactive=False, verbosity=0)
    with clock.at(NOW - timedelta(days=500)):
        told = {"user_name": "fifty", "password": "fifty-fifty", "person": "Ash"}
        member = create_household(name="Fifty", time_zone="UTC", **told)
        made = []
        for n in range(DEVICES):
            machine = add_machine(
                member=member, machine_id=uuid4(), name=f"Robot {n:02}", archetype="robot-belt", schedule=None
            )
            made.append(connect(member=member, kind="machine", name=f"Robot {n:02}", machine_id=machine.pk)[0])
    return made


def _lines(number: int) -> list[dict[str, Any]]:
    chance, at = random.Random(number), NOW - timedelta(days=480)
    lines: list[dict[str, Any]] = []
    for n in range(LINES):
        at += timedelta(hours=chance.uniform(6, 15))
        minutes = round(chance.uniform(5, 90), 1)
        lines.append({"id": f"{number}-{n}", "kind": "run", "at": at.isoformat(), "minutes": minutes, "area_m2": 30.0})
    return [line for line in lines if line["at"] < (NOW - timedelta(hours=3)).isoformat()]


def _send_all(device: Any, lines: list[dict[str, Any]], chance: random.Random) -> int:
    """Send until each is confirmed; gives how many posts that took."""
    from server.devices.ingest import Status, take_in

    waiting, posts = {line["id"]: line for line in lines}, 0
    while waiting:
        some = chance.sample(list(waiting.values()), min(POST, len(waiting)))
        some += chance.sample(lines, min(len(lines), int(POST * REPEATED)))
        posts += 1
        if chance.random() < LOST / 2:
            continue  # the post is lost
        answers = take_in(device, some)
        if chance.random() < LOST / 2:
            continue  # its answer is lost
        for answer in answers:
            if answer.status in (Status.TAKEN, Status.KNOWN):
                waiting.pop(answer.id, None)
    return posts


# --- To the screen ------------------------------------------------------------------------------------------------


WHEN_IT_CHANGES = """row => new Promise((told) => {
  const board = row.parentElement;  // rows may be made anew
  const before = board.innerText;
  const looks = new MutationObserver(() => {
    if (board.innerText === before) return;
    looks.disconnect();
    told(Date.now());
  });
  looks.observe(board, { subtree: true, childList: true, characterData: true });
})"""
"""The page itself says when [ms]: asking it all the time would take one of two cores from the server."""


def _post(port: int, token: str, line: dict[str, Any], began: list[float]) -> None:
    from benchmarks.torture import Person

    device = Person(port)
    began.append(time.time())
    device.ask("POST", "/api/ingest", [line], Authorization=f"Bearer {token}")


def to_the_screen() -> Iterator[str]:
    """From the moment a device begins to post until Round shows it, in Chromium on the demo household."""
    from playwright.sync_api import sync_playwright

    from benchmarks.torture import Person, served
    from tools.prepare import BROWSER

    with served() as server, sync_playwright() as playwright:
        person = Person(server.port).sign_in()
        known = json.loads(person.ask("GET", "/api/devices")[1])
        robot = next(one["id"] for one in known["machines"] if one["name"] == "Ground robot")
        told = {"kind": "machine", "name": "Robot", "machine_id": robot}
        token = json.loads(person.ask("POST", "/api/devices", told)[1])["token"]
        page = playwright.chromium.launch(executable_path=BROWSER, args=["--headless", "--no-sandbox"]).new_page()
        page.context.add_cookies(
            [{"name": k, "value": v, "url": f"http://127.0.0.1:{server.port}"} for k, v in person.cookies.items()]
        )
        page.goto(f"http://127.0.0.1:{server.port}/")
        row = page.locator(".machine", has=page.get_by_role("link", name="Ground robot", exact=True))
        row.wait_for()
        page.wait_for_timeout(1500)
        waits = []
        for n in range(TIMES):
            at = datetime.now(UTC) - timedelta(minutes=10 * (TIMES - n) + 600)
            line = {"id": str(n), "kind": "run", "at": at.isoformat(), "minutes": 7}
            began: list[float] = []
            post = threading.Timer(0.2, _post, [server.port, token, line, began])
            post.start()
            shown_ms = row.evaluate(WHEN_IT_CHANGES)
            post.join()
            waits.append(shown_ms - 1000 * began[0])
            page.wait_for_timeout(600)
    yield f"from post to screen: median {median(waits):.0f} ms, the slowest of {TIMES} {max(waits):.0f} ms"


# --- A long watch -------------------------------------------------------------------------------------------------


def watch(minutes: float, port: int = 8830) -> Iterator[str]:
    """The demo with made-up devices for so long, as one screen follows it: what failed, and how old Round ever was."""
    from standins.house import do_likewise, start

    until, errors, ages = time.monotonic() + minutes * 60, list[str](), list[float]()
    with tempfile.TemporaryDirectory() as folder:
        house, running, pages = start(port, SPEED, Path(folder))
        try:
            seen = {line["entry_id"] for line in house.ask("GET", "/api/log?group=work")["lines"]}
            while time.monotonic() < until:
                try:
                    ages += _follow(house, min(until, time.monotonic() + 60))
                    do_likewise(house, pages, seen)
                except OSError as error:
                    errors.append(repr(error))
        finally:
            for one in reversed(running):
                one.terminate()
            for one in running:
                one.wait()
    cuts = quantiles(ages, n=100)
    yield f"{minutes:.0f} min at {SPEED} times the speed, {len(ages)} times told: {len(errors)} errors {errors[:2]}"
    yield f"  so old was Round when it was new again: median {cuts[49]:.1f} s, p99 {cuts[98]:.1f}, most {max(ages):.1f}"


def _follow(house: Any, until: float) -> Iterator[float]:
    """Listen as a screen does; how old Round was each time just before it was there anew [s]."""
    with house.stream("/api/live") as told:
        house.ask("GET", "/api/round")
        last = time.monotonic()
        for line in told:
            if line.startswith(b"event: changed"):
                house.ask("GET", "/api/round")
                yield time.monotonic() - last
                last = time.monotonic()
            if time.monotonic() > until:
                return


def main() -> int:
    """The commands."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("command", nargs="?", choices=["flood", "watch"])
    parser.add_argument("--minutes", type=float, default=60)
    told = parser.parse_args()
    lines = {"flood": flood, "watch": lambda: watch(told.minutes), None: measure}[told.command]()
    for line in lines:
        print(line, flush=True)
    return 0


if __name__ == "__main__":
    sys.exit(main())
