"""The demo household with devices that report by themselves: `make demo-devices`.

It starts the app with a fresh demo household whose clock runs faster, connects a robot, a suction gauge, a kitchen
scale and climate sensors, and starts these. What somebody records at the robot in the app it does to the made-up one:
its brush is cleaned, its filter lies wet on the scale. Ctrl-C ends all of it.
"""

import argparse
import json
import os
import signal
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from http.cookiejar import CookieJar
from pathlib import Path
from typing import Any
from urllib.error import URLError
from urllib.request import HTTPCookieProcessor, Request, build_opener, urlopen

ROOT = Path(__file__).resolve().parents[1]
ROBOT = "Ground robot"
USER, PASSWORD = "keeper", "quillgate"
FIRST_PORT = 8211
DRY_G, WATER_G = 42, 55
LOOK_EVERY_S = 1.0


class House:
    """The app, asked as its owner."""

    def __init__(self, port: int) -> None:
        self.address, self._cookies = f"http://127.0.0.1:{port}", CookieJar()
        self._open = build_opener(HTTPCookieProcessor(self._cookies)).open

    def ask(self, method: str, path: str, body: object = None) -> Any:
        """The answer to a request. Raises `URLError`."""
        token = next((one.value for one in self._cookies if one.name == "csrftoken"), "") or ""
        headers = {"Content-Type": "application/json", "X-CSRFToken": token}
        data = json.dumps(body).encode() if body is not None else None
        with self._open(Request(self.address + path, data, headers, method=method), timeout=60) as answer:
            return json.load(answer)

    def stream(self, path: str) -> Any:
        """News as they come, line by line. Raises `URLError`."""
        return self._open(Request(self.address + path), timeout=60)

    def enter(self, seconds: float = 240) -> None:
        """Sign in as soon as it answers."""
        until = time.monotonic() + seconds
        while True:
            try:
                self.ask("GET", "/api/session")
                self.ask("POST", "/api/session", {"user_name": USER, "password": PASSWORD})
                return
            except URLError:
                if time.monotonic() > until:
                    raise
                time.sleep(0.3)

    def connect(self, **device: object) -> tuple[str, str]:
        """Where a new device posts, and its token."""
        made = self.ask("POST", "/api/devices", device)
        return made["address"], made["token"]


def devices(house: House) -> Iterator[tuple[str, tuple[str, str], list[str]]]:
    """The made-up devices: the program, where it posts with its token, what it is told besides."""
    known = house.ask("GET", "/api/devices")
    robot = next(one["id"] for one in known["machines"] if one["name"] == ROBOT)
    yield "robot", house.connect(kind="machine", name=ROBOT, machine_id=robot), []
    yield "gauge", house.connect(kind="gauge", name="Gauge in the cupboard", machine_id=robot), []
    yield "scale", house.connect(kind="scale", name="Kitchen scale"), []
    air = {"Utility room": ["15", "75"], "Airing cupboard": ["24", "45"]}
    for place in known["places"]:
        temp, humidity = air.get(place, ["18", "60"])
        told = ["--name", place, "--temp", temp, "--humidity", humidity]
        yield "climate", house.connect(kind="climate", name=f"{place} sensor", place=place), told


def start(port: int, speed: float, folder: Path) -> tuple[House, list[subprocess.Popen[bytes]], dict[str, int]]:
    """The app and the devices, each a process of its own; with the ports of their pages."""
    env = {
        **os.environ,
        "YPERON_DEMO": "1",
        "YPERON_SPEED": f"{speed:g}",
        "YPERON_VAR": str(folder),
        "YPERON_DATABASE": str(folder / "devices.sqlite3"),
    }
    serve = [sys.executable, "manage.py", "serve", "--port", str(port)]
    running = [subprocess.Popen(serve, cwd=ROOT, env=env)]
    house = House(port)
    house.enter()
    now, real = house.ask("GET", "/api/round")["now"], time.time()
    pages: dict[str, int] = {}
    for n, (program, (address, token), more) in enumerate(devices(house)):
        told = ["--address", address, "--token", token, "--port", str(FIRST_PORT + n), "--seed", str(n + 3)]
        told += ["--speed", f"{speed:g}", "--now", now, "--real", f"{real}", *more]
        running.append(subprocess.Popen([sys.executable, "-m", f"standins.{program}", *told], cwd=ROOT))
        pages.setdefault(program, FIRST_PORT + n)
    return house, running, pages


def do_likewise(house: House, pages: dict[str, int], seen: set[str]) -> None:
    """Do to the made-up robot what was recorded since one looked last."""
    for line in house.ask("GET", "/api/log?group=work")["lines"]:
        if line["entry_id"] in seen:
            continue
        seen.add(line["entry_id"])
        words = line["words"]
        if not words.startswith(ROBOT) or line["undone_by"]:
            continue
        if "roller" in words or "brush" in words.lower():
            _press(pages["robot"], "brush-cleaned")
        if "Filter washed" in words or "filter washed" in words:
            _press(pages["robot"], "filter-cleaned")
            _press(pages["gauge"], "filter-cleaned")
            _press(pages["scale"], f"put?dry={DRY_G}&water={WATER_G}")


def _press(port: int, what: str) -> None:
    with urlopen(Request(f"http://127.0.0.1:{port}/{what}", b"", method="POST"), timeout=10):
        return


def main() -> int:
    """Start everything and watch. Returns the exit code."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--port", type=int, default=8000)
    parser.add_argument("--speed", type=float, default=60, help="how many times as fast time runs")
    told = parser.parse_args()
    signal.signal(signal.SIGTERM, signal.default_int_handler)  # ended as by Ctrl-C, so that nothing is left running
    with tempfile.TemporaryDirectory() as folder:
        house, running, pages = start(told.port, told.speed, Path(folder))
        try:
            seen = {line["entry_id"] for line in house.ask("GET", "/api/log?group=work")["lines"]}
            for program, port in pages.items():
                print(f"The {program} shows what it does at http://127.0.0.1:{port}", flush=True)
            print(f"Time runs {told.speed:g} times as fast. Devices: {house.address}/#/household/devices", flush=True)
            while running[0].poll() is None:
                time.sleep(LOOK_EVERY_S)
                do_likewise(house, pages, seen)
        except KeyboardInterrupt:
            pass
        finally:
            for one in reversed(running):
                one.terminate()
            for one in running:
                one.wait()
    return 0


if __name__ == "__main__":
    sys.exit(main())
