"""What the screens cost in a real browser: the first useful paint of Round, and frames of a board of 200 machines.

    python -m benchmarks.screens serve --database FILE    serves a household of benchmarks.big_house, prints its port
    python -m benchmarks.screens faults                   only the fault finder's answers, on the demo
    python -m benchmarks.screens round [--against FOLDER] only Round on the demo: acts, what the first page weighs, and
                                                          visits in turn with another checkout, built, in FOLDER

The first useful paint is the frame after Round's sentence and board are in the page, counted from the start of the
navigation, in a fresh profile of a browser at rest with the processor slowed down four times. Frames are the times
between two animation frames while the board is scrolled from end to end, searched letter by letter and filtered.
"""

import argparse
import gzip
import os
import re
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from statistics import median
from typing import TYPE_CHECKING, Any

from benchmarks import big_house
from tools.prepare import BROWSER

if TYPE_CHECKING:
    from playwright.sync_api import Browser, Page

ROOT = Path(__file__).resolve().parents[1]
SLOWED = 4
VISITS = 7
IN_TURN = 13
PATIENCE_MS = 2500
AT_REST_MS = 1000
"""The browser opens its own first page for a new profile, which must not run beside what is measured [ms]."""
LAPTOP: Any = {"width": 1280, "height": 800}
WATCH = """
new MutationObserver((_, watching) => {
  if (!document.querySelector('.lead h1') || !document.querySelector('.board .chamber, .board .wants')) return;
  watching.disconnect();
  requestAnimationFrame(() => requestAnimationFrame((at) => (window.usefulAt = at)));
}).observe(document, { childList: true, subtree: true });
"""
ANSWERS = 15
ANSWER = """async () => {
  const shown = () => document.querySelector('[data-check]')?.dataset.told;
  window.told = shown();
  const began = performance.now();
  document.body.dispatchEvent(new KeyboardEvent('keydown', { key: '1', bubbles: true }));
  while (shown() === window.told) await new Promise((next) => setTimeout(next, 1));
  return performance.now() - began;
}"""
AIR = """async ([id, left]) => {
  const csrf = document.cookie.match(/csrftoken=([^;]+)/)?.[1] ?? '';
  const began = performance.now();
  const answer = await fetch(`/api/machines/${id}/air`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json', 'X-CSRFToken': csrf },
    body: JSON.stringify({ opens: { wand: left }, fills: { filter: 0.5 } }),
  });
  await answer.json();
  if (!answer.ok) throw new Error(String(answer.status));
  return performance.now() - began;
}"""
OPENED = """async () => {
  const line = document.querySelector('[data-task] button[aria-expanded=false]');
  const began = performance.now();
  line.click();
  while (!line.parentElement.querySelector('.more')?.offsetHeight) await new Promise(requestAnimationFrame);
  await new Promise(requestAnimationFrame);
  const took = performance.now() - began;
  line.click();
  return took;
}"""
"""A task of Round opened in place, until it is painted [ms]."""
RUN = """async (moved) => {
  const row = document.querySelector('[data-ran="Hall upright"]').closest('.machine');
  const said = () => row.querySelector('.who').innerText;
  const tap = row.querySelector('[data-ran] .btn');
  while (tap.disabled) await new Promise(requestAnimationFrame);
  const before = said(), began = performance.now();
  tap.click();
  while (said() === before || (moved && said().includes('noting'))) await new Promise(requestAnimationFrame);
  await new Promise(requestAnimationFrame);
  return performance.now() - began;
}"""
"""A run said by one tap, until it is seen to be noted, or until the board has moved [ms]."""
FRAMES = """() => {
  window.frames_ms = [];
  let last = performance.now();
  const next = (at) => { window.frames_ms.push(at - last); last = at; requestAnimationFrame(next); };
  requestAnimationFrame(next);
}"""


def measure() -> list[str]:
    """The demo household's first paint, then the big house's frames."""
    from playwright.sync_api import sync_playwright

    from tests.web.browser import FLAGS

    with tempfile.TemporaryDirectory() as folder, sync_playwright() as runner:
        demo, big = Path(folder) / "demo.sqlite3", Path(folder) / "big.sqlite3"
        made = [sys.executable, "-m", "benchmarks.big_house", "make", "--years", "1", "--database", str(big)]
        subprocess.run(made, check=True)
        browser = runner.chromium.launch(executable_path=BROWSER, args=FLAGS)
        with _served(demo, demo=True) as address:
            lines = _first_paint(browser, address, "keeper", "quillgate", "demo household, seven machines")
            lines += [*_acts(browser, address), *_trace(browser, address)]
        with _served(big) as address:
            lines += _first_paint(browser, address, big_house.USER, big_house.PASSWORD, "200 machines")
            lines += _frames(browser, address)
        browser.close()
    return lines


@contextmanager
def _served(database: Path, *, demo: bool = False, tree: Path = ROOT) -> Iterator[str]:
    command = [sys.executable, "-m", "benchmarks.screens", "serve", "--database", str(database)]
    demos = ["--demo"] if demo else []
    server = subprocess.Popen([*command, *demos], stdout=subprocess.PIPE, text=True, cwd=tree)
    assert server.stdout is not None
    try:
        yield next(line.split()[-1] for line in server.stdout if line.startswith("serving"))
    finally:
        server.terminate()
        server.wait()


def serve(database: Path, *, demo: bool) -> None:
    """Serve a household until terminated."""
    os.environ.update(
        DJANGO_SETTINGS_MODULE="server.config.settings",
        YPERON_DATABASE=str(database),
        YPERON_NOW=big_house.NOW.isoformat(),
    )
    import django

    django.setup()
    from django.core.management import call_command
    from waitress.server import create_server

    from server.config.wsgi import application

    if demo:
        call_command("migrate", interactive=False, verbosity=0)
        call_command("load_demo", stdout=sys.stderr)
    server = create_server(application, host="127.0.0.1", port=0, threads=20, send_bytes=1)
    print(f"serving http://127.0.0.1:{server.effective_port}", flush=True)
    server.run()


def _signed_in(browser: "Browser", address: str, user: str, password: str) -> tuple["Page", Any]:
    """A page at Round, and its cookies."""
    context = browser.new_context(viewport=LAPTOP, base_url=address)
    page = context.new_page()
    page.goto("/")
    page.get_by_label("User name").fill(user)
    page.get_by_label("Password").fill(password)
    page.keyboard.press("Enter")
    page.wait_for_selector(".board", timeout=120_000)
    return page, context.cookies()


def _first_paint(browser: "Browser", address: str, user: str, password: str, what: str) -> list[str]:
    """The first visit of a fresh profile, and a later one of the same profile, several times each."""
    page, cookies = _signed_in(browser, address, user, password)
    page.context.close()
    slowed, later, free = [], [], []
    for _ in range(VISITS):
        context = browser.new_context(viewport=LAPTOP, base_url=address)
        context.add_cookies(cookies)
        context.add_init_script(WATCH)
        visits = [_visit(context, SLOWED) for _ in range(3)]
        slowed.append(visits[0])
        later.append(visits[-1])
        free.append(_visit(context, 1))
        context.close()
    lines = [f"first useful paint of Round, {what}; {VISITS} profiles"]
    names = {
        f"processor slowed {SLOWED} times, first visit ever": slowed,
        f"processor slowed {SLOWED} times, third visit": later,
        "processor as it is, fourth visit": free,
    }
    for name, times in names.items():
        lines.append(f"  {name}: {median(times):.0f} ms median, {min(times):.0f} to {max(times):.0f}")
    return lines


def _visit(context: Any, slowed: int) -> float:
    """When the first useful paint came [ms after the start of the navigation]."""
    page = context.new_page()
    page.wait_for_timeout(AT_REST_MS)
    context.new_cdp_session(page).send("Emulation.setCPUThrottlingRate", {"rate": slowed})
    page.goto("/", wait_until="commit")
    page.wait_for_timeout(PATIENCE_MS)  # asking meanwhile would lay the page out, and count against it
    while (at := page.evaluate("() => window.usefulAt")) is None:
        page.wait_for_timeout(PATIENCE_MS)
    page.close()
    return float(at)


def _frames(browser: "Browser", address: str) -> list[str]:
    page, _ = _signed_in(browser, address, big_house.USER, big_house.PASSWORD)
    page.wait_for_timeout(500)
    lines = []
    for what, act in {"scrolled": _scroll, "searched and filtered": _search}.items():
        page.evaluate(FRAMES)
        act(page)
        frames = page.evaluate("() => window.frames_ms.slice(2)")
        over = sum(frame > 50 for frame in frames)
        told = f"longest {max(frames):.0f} ms, {over} of {len(frames)} over 50 ms"
        lines.append(f"board of {big_house.MACHINES} machines {what}: frames {told}")
    page.context.close()
    return lines


def measure_round(against: Path | None) -> list[str]:
    """Round on the demo: what its first page weighs, how long acts take, and visits in turn with another checkout's."""
    from playwright.sync_api import sync_playwright

    from tests.web.browser import FLAGS

    with tempfile.TemporaryDirectory() as folder, sync_playwright() as runner:
        browser = runner.chromium.launch(executable_path=BROWSER, args=FLAGS)
        with _served(Path(folder) / "here.sqlite3", demo=True) as here:
            lines = [
                f"scripts and styles of the first page: {_weight():.1f} kB by gzip (aim 90)",
                *_acts(browser, here),
            ]
            if against is not None:
                with _served(Path(folder) / "there.sqlite3", demo=True, tree=against) as there:
                    lines += _in_turn(browser, here, there)
        browser.close()
    return lines


def _weight() -> float:
    """What the first page loads, compressed [kB]."""
    dist = ROOT / "web" / "dist"
    named = set(re.findall(r"assets/[^\"']+\.(?:js|css)", (dist / "index.html").read_text()))
    return sum(len(gzip.compress((dist / name).read_bytes())) for name in named) / 1000


def _acts(browser: "Browser", address: str) -> list[str]:
    page, _ = _signed_in(browser, address, "keeper", "quillgate")
    page.wait_for_selector("[data-task]")
    times = {
        "a task opened in place (aim 100)": [page.evaluate(OPENED) for _ in range(ANSWERS)],
        "a run said by one tap, until it is seen to be noted (aim 100)": [page.evaluate(RUN, False) for _ in range(9)],
        "a run said by one tap, until the board has moved": [page.evaluate(RUN, True) for _ in range(9)],
    }
    page.context.close()
    return [f"{what}: {median(t):.0f} ms median, {min(t):.0f} to {max(t):.0f}" for what, t in times.items()]


def _in_turn(browser: "Browser", here: str, there: str) -> list[str]:
    """First visits of fresh profiles, slowed, one here and one there in turn."""
    cookies, times = {}, {here: [], there: []}  # type: ignore[var-annotated]
    for address in times:
        page, cookies[address] = _signed_in(browser, address, "keeper", "quillgate")
        page.context.close()
    for _ in range(IN_TURN):
        for address, taken in times.items():
            context = browser.new_context(viewport=LAPTOP, base_url=address)
            context.add_cookies(cookies[address])
            context.add_init_script(WATCH)
            taken.append(_visit(context, SLOWED))
            context.close()
    names = {here: "here", there: "there"}
    lines = [f"first useful paint of Round, slowed {SLOWED} times, {IN_TURN} first visits in turn (aim 1000)"]
    for address, taken in times.items():
        lines.append(f"  {names[address]}: {median(taken):.0f} ms median, {min(taken):.0f} to {max(taken):.0f}")
    ratios = [a / b for a, b in zip(times[here], times[there], strict=True)]
    return [*lines, f"  here as a share of there: {median(ratios):.2f} median, {min(ratios):.2f} to {max(ratios):.2f}"]


def measure_trace() -> list[str]:
    """Only what the fault finder's screen takes, on the demo household."""
    from playwright.sync_api import sync_playwright

    from tests.web.browser import FLAGS

    with tempfile.TemporaryDirectory() as folder, sync_playwright() as runner:
        browser = runner.chromium.launch(executable_path=BROWSER, args=FLAGS)
        with _served(Path(folder) / "demo.sqlite3", demo=True) as address:
            return _trace(browser, address)


def _trace(browser: "Browser", address: str) -> list[str]:
    """From a key's answer to the next question in the page, and from a slide of the air lab to its figures."""
    page, _ = _signed_in(browser, address, "keeper", "quillgate")
    page.goto("/#/faults")
    page.get_by_text("Go on").click()
    page.wait_for_selector("[data-check]")
    times = []
    for _ in range(ANSWERS):
        page.keyboard.press("Enter")
        times.append(page.evaluate(ANSWER))
        page.keyboard.press("z")
        page.wait_for_function(
            "() => Number(document.querySelector('[data-check]')?.dataset.told) === Number(window.told) + 2"
        )
    machine_id = page.evaluate("async () => (await (await fetch('/api/cases')).json())[0].machine_id")
    air = [page.evaluate(AIR, [machine_id, 0.1 + i / 50]) for i in range(ANSWERS)]
    page.context.close()
    return [
        f"fault finder, from an answer to the next question: {median(times):.0f} ms median, "
        f"{min(times):.0f} to {max(times):.0f} (aim 150)",
        f"air lab, from a slide to its figures over HTTP: {median(air):.0f} ms median, "
        f"{min(air):.0f} to {max(air):.0f} (aim 50)",
    ]


def _scroll(page: "Page") -> None:
    for by in [500] * 40 + [-500] * 40:
        page.mouse.wheel(0, by)
        page.wait_for_timeout(30)


def _search(page: "Page") -> None:
    page.get_by_label("Search machines").click()
    for key in ["1", "7", "Backspace", "Backspace", "m", "a", "c"]:
        page.keyboard.press(key)
        page.wait_for_timeout(150)
    for name in ("Want hands", "Not known", "All"):
        page.get_by_role("button", name=name, exact=True).click()
        page.wait_for_timeout(300)


if __name__ == "__main__":
    parser = argparse.ArgumentParser()
    parser.add_argument("command", choices=["serve", "faults", "round"])
    parser.add_argument("--against", type=Path)
    parser.add_argument("--database", type=Path)
    parser.add_argument("--demo", action="store_true")
    given = parser.parse_args()
    if given.command != "serve":
        os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.config.settings")
        import django

        django.setup()
        print("\n".join(measure_trace() if given.command == "faults" else measure_round(given.against)))
    else:
        serve(given.database, demo=given.demo)
