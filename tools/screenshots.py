"""Makes docs/screenshots anew: the demo household at its anchor, in a database of its own, in Chromium."""

from __future__ import annotations

import os
import sys
import tempfile
import threading
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from playwright.sync_api import FilePayload, Page, ViewportSize

ROOT = Path(__file__).resolve().parents[1]
OUT = ROOT / "docs" / "screenshots"
LAPTOP: ViewportSize = {"width": 1280, "height": 800}
RUNS = "machine,day,minutes,started\nWorkshop tub,2026-11-20,41,10:15\nHall upright,2026-11-21,24,\n"
"""A table of runs as somebody kept it."""
PHONE: ViewportSize = {"width": 390, "height": 844}


def main() -> int:
    """Serve the demo on a free port, walk the main views, write one PNG each."""
    sys.path.insert(0, str(ROOT))
    with tempfile.TemporaryDirectory() as folder:
        os.environ.update(
            DJANGO_SETTINGS_MODULE="server.config.settings",
            DJANGO_ALLOW_ASYNC_UNSAFE="true",
            YPERON_DATABASE=str(Path(folder) / "pictures.sqlite3"),
            YPERON_DEMO="1",
            YPERON_BACKUPS="backups",
            YPERON_NOW="2026-11-24T09:00:00+00:00",
        )
        import django

        django.setup()
        from django.core.management import call_command
        from waitress.server import create_server

        from server.config.wsgi import application

        call_command("migrate", interactive=False, verbosity=0)
        call_command("load_demo")
        server = create_server(application, host="127.0.0.1", port=0, threads=20, send_bytes=1)
        threading.Thread(target=server.run, daemon=True).start()
        _walk(f"http://127.0.0.1:{server.effective_port}")
        server.close()
    return 0


def _walk(address: str) -> None:
    from playwright.sync_api import sync_playwright

    from tests.web.browser import FLAGS
    from tools.prepare import BROWSER

    OUT.mkdir(parents=True, exist_ok=True)
    with sync_playwright() as runner:
        browser = runner.chromium.launch(executable_path=BROWSER, args=FLAGS)

        def page(viewport: ViewportSize, dark: bool = False) -> Page:
            context = browser.new_context(
                viewport=viewport,
                color_scheme="dark" if dark else "light",
                locale="en-GB",
                base_url=address,
                reduced_motion="reduce",
            )
            shown = context.new_page()
            shown.goto("/")
            shown.get_by_role("button", name="Fill it in").click()
            shown.get_by_role("button", name="Sign in", exact=True).click()
            shown.wait_for_selector(".board")
            return shown

        def take(shown: Page, name: str) -> None:
            shown.wait_for_timeout(400)
            shown.screenshot(path=OUT / f"{name}.png")
            print(f"  docs/screenshots/{name}.png")

        laptop, phone, night = page(LAPTOP), page(PHONE), page(LAPTOP, dark=True)
        take(laptop, "round")
        take(phone, "round-phone")
        laptop.goto("/#/season")
        laptop.get_by_role("group", name="Visits of the coming half year").wait_for()
        take(laptop, "season")
        _what_if(laptop)
        take(laptop, "what-if")
        laptop.goto("/#/")
        laptop.goto("/#/household")
        laptop.get_by_role("button", name="More: Children").click()
        laptop.wait_for_selector("text=intervals change")
        take(laptop, "household")
        laptop.goto("/#/household/people")
        laptop.get_by_label("What they are called").fill("Juniper")
        laptop.get_by_role("button", name="Make a link").click()
        laptop.get_by_role("region", name="The link").wait_for()
        take(laptop, "people")
        laptop.goto("/#/log")
        laptop.get_by_label("Find").fill("filter stairs")
        laptop.get_by_text("Stairs cordless: Centre filter").first.click()
        take(laptop, "log")
        night.goto("/#/household/data")
        runs: FilePayload = {"name": "runs.csv", "mimeType": "text/csv", "buffer": RUNS.encode()}
        night.get_by_role("region", name="Bring runs in").get_by_label("File").set_input_files(runs)
        night.get_by_role("button", name="Leave it").wait_for()
        night.get_by_role("button", name="Leave it").scroll_into_view_if_needed()
        take(night, "import-dark")
        _report()
        laptop.goto("/#/household/devices")
        laptop.get_by_role("region", name="Ground robot: Did it really run so long?").wait_for()
        take(laptop, "devices")
        _new_machine(laptop, "Cordless with one filter", ["in one hand, no cord"], shot=lambda: take(laptop, "set-up"))
        laptop.goto("/#/rack")
        laptop.get_by_role("button", name="Why so long?").click()
        take(laptop, "rack")
        laptop.goto("/#/shelf")
        laptop.get_by_role("button", name="What to buy").click()
        laptop.get_by_role("heading", name="Cheapest").wait_for()
        take(laptop, "shelf")
        _open_part(laptop, "Ground robot", "filter")
        laptop.get_by_role("link", name="Wear", exact=True).click()
        laptop.wait_for_selector("[data-wear]")
        take(laptop, "wear")
        laptop.goto("/#/faults")
        laptop.get_by_text("Go on").click()
        laptop.wait_for_selector("[data-check]")
        take(laptop, "faults")
        _open_part(laptop, "Ground robot", "filter")
        take(laptop, "machine")
        laptop.get_by_role("button", name="May I wash this?").click()
        laptop.get_by_role("dialog").get_by_role("status").wait_for()
        take(laptop, "may-i-wash")
        laptop.keyboard.press("Escape")
        laptop.goto("/#/")
        laptop.get_by_role("button", name="Plan the sitting").click()
        laptop.get_by_role("button", name="Start").wait_for()
        take(laptop, "plan")
        _open_part(laptop, "Ground robot", "filter")
        laptop.get_by_role("button", name="Now: wash").click()
        laptop.get_by_role("button", name="Start").click()
        for until in ("filter.wash.look", "filter.wash.do"):
            _answer_until(laptop, until)
            if until.endswith("look"):
                phone.goto("/#/")
                phone.reload()
                phone.get_by_role("button", name="Go on at the bench").click()
                phone.wait_for_selector(f'[data-step="{until}"]')
                take(phone, "bench-phone")
        take(laptop, "bench")
        browser.close()


def _open_part(page: Page, machine: str, part: str) -> None:
    page.goto("/#/")
    page.get_by_role("region", name="House board").get_by_role("link", name=machine, exact=True).click()
    strip = page.get_by_role("group", name=f"{machine}, air path")
    strip.get_by_role("button", name=part).first.click()
    page.wait_for_selector("[data-part]")


def _what_if(page: Page) -> None:
    """Two other ways of living beside the one there is."""
    page.goto("/#/season/what-if")
    page.get_by_role("button", name="Ask what if").click()
    page.get_by_role("combobox", name="Ground robot").select_option("3")
    page.get_by_role("button", name="Live through a year").click()
    page.get_by_role("button", name="Ask what if").click()
    page.get_by_label("Animals").fill("3")
    page.get_by_role("button", name="Live through a year").click()
    page.get_by_text("more (").first.wait_for(timeout=60_000)


def _report() -> None:
    """Devices of the demo household have told of six weeks, a day that cannot be, and air that no home has."""
    from datetime import timedelta

    from server.base import clock
    from server.devices.ingest import take_in
    from server.devices.services import connect
    from server.household.models import Household
    from server.household.services import owner_of
    from server.machines.services import in_use

    member = owner_of(Household.objects.get())
    robot = next(one for one in in_use(member) if one.name == "Ground robot")
    mine, _ = connect(member=member, kind="machine", name=robot.name, machine_id=robot.pk)
    air, _ = connect(member=member, kind="climate", name="Utility sensor", place="Utility room")
    connect(member=member, kind="scale", name="Kitchen scale")

    def at(days: float) -> str:
        return (clock.now() - timedelta(days=days)).isoformat()

    areas = [*(38 + n % 4 for n in range(32)), *(29 + n % 3 for n in range(8))]
    runs = [
        {"id": f"{n}", "kind": "run", "at": at(41.1 - n), "minutes": 44, "area_m2": area, "battery_used_percent": 55}
        for n, area in enumerate(areas)
    ]
    take_in(mine, [*runs, *({"id": f"odd {n}", "kind": "run", "at": at(n), "minutes": 1400} for n in (2.2, 4.2))])
    take_in(air, [{"id": "1", "kind": "air", "at": at(0.1), "temp": 80, "humidity_percent": 31}])


def _new_machine(page: Page, kind: str, answers: Sequence[str] = (), shot: Callable[[], None] | None = None) -> None:
    """Set-up, up to what is told of a kind."""
    page.goto("/#/add")
    for answer in answers:
        page.get_by_role("button", name=answer).click()
    page.wait_for_selector(".kind")
    if shot:
        shot()
    page.get_by_role("button", name=kind).click()
    page.wait_for_selector("text=of care a week")


def _answer_until(page: Page, until: str) -> None:
    page.wait_for_selector("[data-step]")
    step = page.locator("[data-step]")
    while (key := step.get_attribute("data-step") or "") != until:
        page.keyboard.press("3" if ".look" in key else "Enter")
        page.wait_for_function("key => document.querySelector('[data-step]')?.dataset.step !== key", arg=key)


if __name__ == "__main__":
    sys.exit(main())
