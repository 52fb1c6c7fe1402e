"""The page of a made-up device: what it does, how it may misbehave, what can be done to it; and its command line."""

import argparse
import html
from collections.abc import Callable, Mapping
from datetime import datetime
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from threading import Thread
from typing import Protocol
from urllib.parse import parse_qs, urlsplit

from standins.posting import MOODS, Clock, Outbox, lines_shown

STYLE = """body { font: 16px/1.5 sans-serif; max-width: 46rem; margin: 2rem auto; padding: 0 1rem }
form { display: inline } button { font: inherit; padding: .4rem .8rem; margin: .2rem }"""


class Device(Protocol):
    """A made-up device."""

    name: str
    outbox: Outbox
    does: Mapping[str, Callable[[dict[str, str]], None]]
    """What can be done to it, by word."""

    def shown(self) -> list[str]:
        """Its state, in lines."""

    def live(self) -> None:
        """One step of its life; it sleeps as long as that takes."""


def open_page(device: Device, clock: Clock, port: int) -> ThreadingHTTPServer:
    """Serve the page of a device beside its life."""

    class Page(BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            self._answer(200, _page(device, clock).encode())

        def do_POST(self) -> None:
            asked = urlsplit(self.path)
            told = {key: values[-1] for key, values in parse_qs(asked.query).items()}
            word = asked.path.strip("/")
            if word in MOODS:
                device.outbox.moods ^= {word}
            elif word in device.does:
                device.does[word](told)
            else:
                self._answer(404, b"There is no such thing to do.")
                return
            self.send_response(303)
            self.send_header("Location", "/")
            self.end_headers()

        def _answer(self, status: int, body: bytes) -> None:
            self.send_response(status)
            self.send_header("Content-Type", "text/html; charset=utf-8")
            self.end_headers()
            self.wfile.write(body)

        def log_message(self, *args: object) -> None:
            """Say nothing in the terminal."""

    server = ThreadingHTTPServer(("127.0.0.1", port), Page)
    Thread(target=server.serve_forever, daemon=True).start()
    return server


def _page(device: Device, clock: Clock) -> str:
    button = '<form method="post" action="/{0}"><button>{1}</button></form>'
    moods = "".join(
        button.format(mood, f"{'stop being' if mood in device.outbox.moods else 'be'} {mood}") for mood in MOODS
    )
    does = "".join(button.format(word, word) for word in device.does)
    state, told = (
        "".join(f"<li>{html.escape(line)}</li>" for line in lines)
        for lines in (device.shown(), lines_shown(device.outbox))
    )
    name, now = html.escape(device.name), f"{clock.now():%a %-d %b %Y, %H:%M}"
    return f"""<!doctype html><html lang="en"><meta http-equiv="refresh" content="2"><title>{name}</title>
<style>{STYLE}</style><h1>{name}</h1><p>{now} in its world, {clock.speed:g} times as fast</p><ul>{state}</ul>
<p>{does}</p><p>{moods}</p><h2>Posted</h2><ul>{told}</ul></html>"""


def run(make: Callable[[argparse.Namespace, Clock, Outbox], Device], parser: argparse.ArgumentParser) -> None:
    """The command line of a device: it lives, posts and shows its page until it is stopped."""
    parser.add_argument("--address", required=True, help="where it posts, as Household names it")
    parser.add_argument("--token", required=True)
    parser.add_argument("--port", type=int, required=True, help="where its page is")
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--speed", type=float, default=1, help="how many times as fast its world runs")
    parser.add_argument("--now", type=datetime.fromisoformat, help="the instant in its world when --real was")
    parser.add_argument("--real", type=float, help="seconds of the real clock")
    told = parser.parse_args()
    clock = Clock(told.speed, told.now, told.real) if told.now and told.real else Clock(told.speed)
    outbox = Outbox(told.address, told.token, told.seed)
    device = make(told, clock, outbox)
    open_page(device, clock, told.port)
    while True:
        device.live()
        outbox.post()
