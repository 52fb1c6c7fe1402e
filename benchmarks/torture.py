"""What a household may go through: any request there is, a pulled plug, everybody at once.

    make torture                             all of it
    python -m benchmarks.torture requests    only one of: requests, kills, crowd, files

It runs the real server on a database of its own with the demo household, on this machine's own loop.
"""

import argparse
import json
import os
import random
import re
import signal
import sqlite3
import subprocess
import sys
import tempfile
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from http.client import HTTPConnection
from pathlib import Path
from statistics import quantiles
from uuid import uuid4

ROOT = Path(__file__).resolve().parents[1]
CASES = 3000
KILLS = 100
FILES = 10_000
CROWD_S = 60.0
WRITERS, READERS = 4, 8
LEFT_OUT = (
    "/api/session", "/api/session/household", "/api/shelf/prices/ask", "/api/password", "/api/sign-ins",
    "/api/households", "/api/people/{member_id}", "/api/copies", "/api/copies/{name}/restore", "/api/live",
)  # fmt: skip
"""These end the sign-in that the rest is asked with, or go elsewhere; a shop is not there; copies fill the disk; news
have no end.
"""


TELLING = re.compile(r"^_+ |[Ee]rror|Received:|Documented:|generated|Server error")
"""The lines of a long report that tell what was asked and what was not as it should be."""


class Server:
    """The app as people run it, in a process of its own."""

    def __init__(self, folder: Path, port: int) -> None:
        self.port, self.database = port, folder / "torture.sqlite3"
        self._env = {**os.environ, "YPERON_DEMO": "1", "YPERON_VAR": str(folder), "YPERON_DATABASE": str(self.database)}
        self._running: subprocess.Popen[bytes] | None = None

    def start(self) -> None:
        """Start it and wait until it answers."""
        command = [sys.executable, "manage.py", "serve", "--port", str(self.port)]
        self._running = subprocess.Popen(
            command, cwd=ROOT, env=self._env, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL
        )
        until = time.monotonic() + 180
        while time.monotonic() < until:
            try:
                Person(self.port).ask("GET", "/api/session")
                return
            except OSError:
                time.sleep(0.1)
        raise TimeoutError("the server does not answer")

    def stop(self, sign: int = signal.SIGTERM) -> None:
        """End it, by default as Ctrl-C does."""
        if self._running:
            self._running.send_signal(sign)
            self._running.wait()
            self._running = None


class Person:
    """Somebody signed in: cookies and the token, over one connection."""

    def __init__(self, port: int) -> None:
        self.port, self._line = port, HTTPConnection("127.0.0.1", port, timeout=60)
        self.cookies: dict[str, str] = {}

    def ask(self, method: str, path: str, body: object = None, **headers: str) -> tuple[int, bytes]:
        """Status and body of an answer."""
        sent = {
            "Content-Type": "application/json",
            "Cookie": "; ".join(f"{name}={value}" for name, value in self.cookies.items()),
            "X-CSRFToken": self.cookies.get("csrftoken", ""),
            **headers,
        }
        self._line.request(method, path, json.dumps(body) if body is not None else None, sent)
        answer = self._line.getresponse()
        for name, value in answer.getheaders():
            if name.lower() == "set-cookie":
                key, _, rest = value.partition("=")
                self.cookies[key] = rest.split(";")[0]
        return answer.status, answer.read()

    def sign_in(self) -> "Person":
        """As the demo's owner."""
        self.ask("GET", "/api/session")
        status, _ = self.ask("POST", "/api/session", {"user_name": "keeper", "password": "quillgate"})
        assert status == 200, status
        return self

    def machines(self) -> list[str]:
        """The ids of the machines that can run."""
        told = json.loads(self.ask("GET", "/api/round")[1])["machines"]
        return [machine["id"] for machine in told if machine["serves"] is None]

    def run(self, machine: str) -> tuple[str, int]:
        """Log a minute; gives the id of the run and the status of the answer."""
        run = str(uuid4())
        return run, self.ask("POST", f"/api/machines/{machine}/runs", {"id": run, "minutes": 1})[0]


def requests(server: Server) -> Iterator[str]:
    """Every operation with whatever its contract allows and does not, as everybody: what the contract names, no 500."""
    owner = Person(server.port).sign_in()
    people = {"owner": owner, "nobody": Person(server.port)}
    people["nobody"].ask("GET", "/api/session")
    people |= {role: _helped(owner, role) for role in ("helper", "viewer")}
    for role, person in people.items():
        done = subprocess.run(
            _schemathesis(server, person), cwd=server.database.parent, capture_output=True, text=True, check=False
        )
        yield f"as {role}: status {done.returncode} (0: all answers as the contract names them, no 500)"
        told = (done.stdout + done.stderr).strip().splitlines()
        yield from (f"  {line}" for line in (told[-5:] if done.returncode > 1 else filter(TELLING.search, told)))
    yield f"Round afterwards: {Person(server.port).sign_in().ask('GET', '/api/round')[0]}"


def _helped(owner: Person, role: str) -> Person:
    """Somebody with this role, who came by a link."""
    status, answer = owner.ask("POST", "/api/invitations", {"name": f"The {role}", "role": role})
    assert status == 201, answer
    person = Person(owner.port)
    person.ask("GET", "/api/session")
    told = {"secret": json.loads(answer)["address"].rsplit("/", 1)[1], "user_name": role, "password": "quillgate-too"}
    status, answer = person.ask("POST", "/api/invited/accept", {**told, "person": role.title()})
    assert status == 200, answer
    return person


def _schemathesis(server: Server, person: Person) -> list[str]:
    """The command that asks all there is as this person."""
    command = [str(Path(sys.executable).parent / "schemathesis"), "run"]
    command += [str(ROOT / "docs" / "openapi.json"), "--url", f"http://127.0.0.1:{server.port}"]
    command += ["--checks", "not_a_server_error,status_code_conformance"]
    cookies = "; ".join(f"{name}={value}" for name, value in person.cookies.items())
    command += ["-H", f"Cookie: {cookies}", "-H", f"X-CSRFToken: {person.cookies['csrftoken']}"]
    command += ["--max-examples", str(CASES // 60), "--seed", "1", "--continue-on-failure", "--no-color"]
    return command + [part for path in LEFT_OUT for part in ("--exclude-path", path)]


def kills(server: Server) -> Iterator[str]:
    """kill -9 at any moment while four people write: what was acknowledged is there, and the database is whole."""
    chance, acknowledged = random.Random(1), set[str]()
    for _ in range(KILLS):
        people = [Person(server.port).sign_in() for _ in range(WRITERS)]
        machines = people[0].machines()

        def write(person: Person, machines: list[str] = machines) -> None:
            while True:
                try:
                    run, status = person.run(random.choice(machines))
                except Exception:
                    return
                if status == 201:
                    acknowledged.add(run.replace("-", ""))

        writers = [threading.Thread(target=write, args=[person]) for person in people]
        ends = threading.Timer(chance.uniform(0.2, 1.5), server.stop, [signal.SIGKILL])
        for thread in [*writers, ends]:
            thread.start()
        for thread in [*writers, ends]:
            thread.join()
        server.start()
    with sqlite3.connect(server.database) as kept:
        rows = [row[0] for row in kept.execute("select entry_id from machines_run")]
        whole = kept.execute("pragma integrity_check").fetchone()[0]
    lost, twice = len(acknowledged - set(rows)), len(rows) - len(set(rows))
    yield f"{KILLS} kills, {len(acknowledged)} runs acknowledged, {lost} lost, {twice} twice; database {whole}"


def files(server: Server) -> Iterator[str]:
    """Documents that are not as they were taken out: refused, or brought in whole."""
    asked = [sys.executable, "-m", "benchmarks.bad_files", "--count", str(FILES)]
    done = subprocess.run(asked, cwd=ROOT, capture_output=True, text=True, check=False)
    yield f"{FILES} files: {done.stdout.strip()}; status of the run: {done.returncode}"


def crowd(server: Server) -> Iterator[str]:
    """Writers and readers at once for a minute: how long they wait."""
    waits: dict[str, list[float]] = {"write": [], "read": []}
    troubles: list[int] = []
    until = time.monotonic() + CROWD_S

    def work(kind: str) -> None:
        person = Person(server.port).sign_in()
        machines = person.machines()
        chance = random.Random(kind)
        while time.monotonic() < until:
            began = time.monotonic()
            status = person.run(chance.choice(machines))[1] if kind == "write" else person.ask("GET", "/api/round")[0]
            waits[kind].append(time.monotonic() - began)
            if status >= 400:
                troubles.append(status)

    people = [threading.Thread(target=work, args=[kind]) for kind in ["write"] * WRITERS + ["read"] * READERS]
    for one in people:
        one.start()
    for one in people:
        one.join()
    for kind, each in waits.items():
        cuts = quantiles(each, n=100)
        yield f"{kind}: {len(each)} in {CROWD_S:.0f} s, median {cuts[49] * 1000:.0f} ms, p95 {cuts[94] * 1000:.0f} ms"
    yield f"refused or failed: {len(troubles)}"


@contextmanager
def served() -> Iterator[Server]:
    """A server with the demo household on a fresh database."""
    with tempfile.TemporaryDirectory() as folder:
        server = Server(Path(folder), port=8765)
        server.start()
        try:
            yield server
        finally:
            server.stop()


PARTS = {"requests": requests, "kills": kills, "crowd": crowd, "files": files}


def chosen(parser: argparse.ArgumentParser, told: list[str]) -> list[str]:
    """The parts that were asked for, all where none was."""
    parts: list[str] = parser.parse_args(told).parts or list(PARTS)
    if unknown := set(parts) - set(PARTS):
        parser.error(f"there is no {sorted(unknown)[0]!r}, only {', '.join(PARTS)}")
    return parts


def main() -> int:
    """Run what is asked for. Returns the exit code."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("parts", nargs="*", metavar="part", help=", ".join(PARTS))
    for name in chosen(parser, sys.argv[1:]):
        print(name)
        with served() as server:
            for line in PARTS[name](server):
                print(f"  {line}", flush=True)
    return 0


if __name__ == "__main__":
    sys.exit(main())
