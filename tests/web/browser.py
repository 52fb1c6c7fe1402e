"""The real interface in Chromium against a live server, with the demo household at a set time."""

import atexit
import re
import threading
from contextlib import suppress
from datetime import timedelta
from functools import cache
from pathlib import Path
from unittest.mock import patch

from django.conf import settings
from django.contrib.auth import get_user_model
from django.test import LiveServerTestCase, override_settings
from playwright.sync_api import Browser, BrowserContext, Error, Page, Playwright, expect, sync_playwright

from qsessions.backends.db import SessionStore

from server.base import clock
from server.household.models import Household
from server.household.services import owner_of
from server.machines.models import Machine
from server.due.state import machine_states
from server.round.board import round_of
from tests.demo_house import NOW, restore
from tests.effort import LOSES_ANSWERS
from tools.prepare import BROWSER

AXE = Path(settings.BASE_DIR) / "web/node_modules/axe-core/axe.min.js"
RULES = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"]
FLAGS = (
    "--headless --no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking "
    "--disable-component-update --disable-sync --disable-gpu-compositing "
    "--disable-site-isolation-trials --disable-features=IsolateOrigins,site-per-process,PaintHolding"
).split()
LOST = ("Failed to load resource", "net::ERR")
"""What the browser says of an answer that got lost."""
LAPTOP, PHONE = {"width": 1280, "height": 800}, {"width": 390, "height": 844}
PATIENCE = 40_000
"""How long something may take to show [ms]: what is slow here is the machine, and only a fault takes all of it."""
expect.set_options(timeout=PATIENCE)


@cache
def _runner() -> Playwright:
    atexit.register(_let_requests_end)  # after the browsers, whose connections keep them alive
    started = sync_playwright().start()
    atexit.register(started.stop)
    return started


@cache
def browser(*more: str) -> Browser:
    """One browser for the whole run, or one with `more` flags; every page has a profile of its own."""
    return _runner().chromium.launch(executable_path=BROWSER, args=[*FLAGS, *more])


def _let_requests_end():
    """Requests still served when the interpreter ends may be in compiled code, which then aborts the whole run."""
    for thread in threading.enumerate():
        if "process_request_thread" in thread.name:
            thread.join(timeout=20)


@cache
def _axe() -> str:
    return AXE.read_text()


class BrowserTestCase(LiveServerTestCase):
    """Signed in at Quillgate 9. Fails on any console error and on any request that leaves this machine."""

    expected_errors: tuple[str, ...] = ()
    opens: str | None = "/"
    """What the page shows when a test begins: Round; None where the test itself opens what it is about."""
    kept_on_device = False
    """Whether the browser may keep the page to go on without a connection: fetching all of it takes its time."""
    cuts_itself = False
    """Whether its tests cut connections themselves: an answer that is lost besides would reach the server all the same
    where a page has no connection."""
    plans_thoroughly = False
    """Whether a plan of another day is looked for as long as ever; else the last one is mended, which is quick."""
    looks_only = False
    """Nothing is recorded by any test of the class: they share one household and one page."""
    shared: Page | None = None
    profile: BrowserContext | None = None
    """The one profile of the class for the first page of each test, emptied in between: what it loaded stays loaded."""

    def setUp(self):
        self.at(NOW)
        self.troubles: list[str] = []
        self.lost: set[str] = set()
        self.at_the_bench = 0
        shared = self.shared if self.looks_only else None
        self.member = restore() if shared is None else owner_of(Household.objects.get())
        if not self.plans_thoroughly:  # from here on: the house itself may just have been made, with a plan as ever
            self.enterContext(patch("server.season.planning.THOROUGH", 0.0))
        if shared is not None:
            self.page = shared
            self.listen(self.page)
            self.page.goto("about:blank")
            self.show(self.page)
            return
        self.page = self.sign_in(self.open_page() if self.kept_on_device or self.looks_only else self.first_page())
        if self.looks_only:
            type(self).shared = self.page

    def _fixture_teardown(self):
        """Nothing: the next test puts a household of its own in the place of this one."""

    def at(self, moment):
        """Set the clock of the server and of the test."""
        held = override_settings(FIXED_NOW=moment)
        held.enable()
        self.addCleanup(held.disable)

    def first_page(self) -> Page:
        """A page of the class's own profile, as empty as a fresh one, not signed in."""
        kind = type(self)
        if kind.profile is None or kind.profile.browser is None:
            kind.profile = self.new_profile(LAPTOP)
            kind.addClassCleanup(kind.profile.close)
        context = kind.profile
        page = context.new_page()
        self.addCleanup(self.empty, context)
        if LOSES_ANSWERS and not self.cuts_itself:
            context.route("**/api/**", self.lose_the_first_answer)
        self.listen(page)
        return page

    def empty(self, context):
        """Leave nothing of a test in the profile: pages, routes, cookies, storage."""
        context.set_offline(False)
        context.unroute_all(behavior="ignoreErrors")
        context.clear_cookies()
        last = context.pages[-1]
        everything = {"origin": self.live_server_url, "storageTypes": "all"}
        context.new_cdp_session(last).send("Storage.clearDataForOrigin", everything)
        for page in context.pages:
            page.close()

    def new_profile(self, viewport, flags=(), **more) -> BrowserContext:
        """A fresh browser profile; of a browser started with `flags`, where some are given."""
        workers = "allow" if self.kept_on_device else "block"
        where = {"locale": "en-GB", "base_url": self.live_server_url, "service_workers": workers}
        still = {"reduced_motion": "reduce"}  # what moves is drawn by the processor here, a fifth of all time
        context = browser(*flags).new_context(viewport=viewport, **where, **still, **more)
        context.set_default_timeout(PATIENCE)
        return context

    def open_page(self, viewport=LAPTOP, **more) -> Page:
        """A page of a fresh browser profile, not signed in."""
        context = self.new_profile(viewport, **more)
        if LOSES_ANSWERS and not self.cuts_itself:
            context.route("**/api/**", self.lose_the_first_answer)
        (self.addClassCleanup if self.looks_only else self.addCleanup)(context.close)
        page = context.new_page()
        self.listen(page)
        return page

    def lose_the_first_answer(self, route):
        """Let a write reach the server and lose its first answer; what has no id records nothing or signs in.

        Of the answers at the bench one in eight is lost, since each is sent again only after some seconds.
        """
        request = route.request
        tried = request.headers.get("idempotency-key")
        if tried is None and request.url.endswith(("/answers", "/finish")):
            self.at_the_bench += 1
            tried = f"{request.url} {request.post_data}" if self.at_the_bench % 8 == 1 else None
        if request.method == "GET" or tried is None or tried in self.lost:
            return route.fallback()
        self.lost.add(tried)
        with suppress(Error):  # the test may be over by now
            route.fetch()
            route.abort()
        return None

    def listen(self, page: Page) -> None:
        """Hear of its errors and requests until the test is over."""
        heard = {
            "console": lambda message: self._heard(message.type, message.text),
            "pageerror": lambda error: self.troubles.append(str(error)),
            "request": lambda request: self._asked(request.url),
        }
        for event, told in heard.items():
            page.on(event, told)
            if self.looks_only:
                self.addCleanup(page.remove_listener, event, told)

    def _heard(self, kind, text):
        expected = (*self.expected_errors, *(LOST if LOSES_ANSWERS else ()))
        if kind == "error" and not any(word in text for word in expected):
            self.troubles.append(text)

    def _asked(self, url):
        if not url.startswith((self.live_server_url, "blob:")):
            self.troubles.append(f"a request left this machine: {url}")

    def sign_in(self, page: Page) -> Page:
        """Give the page a session, as after signing in, and open what the class opens."""
        user = get_user_model().objects.get(username="keeper")
        session = SessionStore()
        session["_auth_user_id"] = str(user.pk)
        session["_auth_user_backend"] = "django.contrib.auth.backends.ModelBackend"
        session["_auth_user_hash"] = user.get_session_auth_hash()
        session.save()
        page.context.add_cookies([{"name": "sessionid", "value": session.session_key, "url": self.live_server_url}])
        return self.show(page)

    def show(self, page: Page) -> Page:
        """Open what the class opens."""
        if self.opens is not None:
            page.goto(self.opens)
        if self.opens == "/":
            expect(page.get_by_role("region", name="House board")).to_be_visible()
            expect(page.get_by_role("heading", name="To do")).to_be_visible()
        return page

    def tearDown(self):
        self.assertEqual(self.troubles, [])

    # --- What the tests look at ---

    def robot(self):
        """How the ground robot stands on the server."""
        return next(state for state in machine_states(self.member) if state.machine.name == "Ground robot")

    def due_slots(self):
        """The slots of the ground robot that want hands, as the server sees it."""
        return [task["slot"] for task in round_of(self.member).due if task["machine_name"] == "Ground robot"]

    def ran(self, page=None, machine="Ground robot"):
        """The button that says that a machine ran its usual minutes."""
        return self.row_of(page, machine).get_by_role("button", name="Ran")

    def row_of(self, page=None, machine="Ground robot"):
        """A machine's row of the board."""
        page = page or self.page
        return page.locator(".machine", has=page.get_by_role("link", name=machine, exact=True))

    def machine_id(self, name):
        """The id of a machine by its name."""
        return Machine.objects.of(self.member.household_id).get(name=name).pk

    def open_machine(self, page=None, machine="Ground robot"):
        """Open a machine's page."""
        page = page or self.page
        page.goto(f"/#/machines/{self.machine_id(machine)}")
        expect(page.get_by_role("heading", level=1, name=machine, exact=True)).to_be_visible()
        expect(page.locator("[data-part]")).to_be_visible()

    def rows(self, page=None, machine="Ground robot"):
        """The due tasks of one machine."""
        return (page or self.page).locator(f'li[data-task][data-machine="{machine}"]')

    def opened(self, what, page=None):
        """The row of a due task, opened; found by words in it, or as a locator."""
        row = (page or self.page).locator("li[data-task]", has_text=what) if isinstance(what, str) else what
        line = row.first.locator("button[aria-expanded]")
        if line.get_attribute("aria-expanded") == "false":
            line.click()
        return row.first

    def only_ground_robot_on_the_sheet(self, page=None):
        """Take everything off the sheet but what the ground robot needs."""
        page = page or self.page
        expect(page.locator("li[data-task]").first).to_be_visible()
        for row in page.locator("li[data-task]").all():
            if row.get_attribute("data-machine") != "Ground robot":
                self.opened(row).get_by_role("checkbox").uncheck()

    def answer_steps(self, page, until, found="3"):
        """Answer steps of the sheet by keys until the step `until` shows."""
        step = page.locator("[data-step]")
        for _ in range(80):
            key = step.get_attribute("data-step")
            if key == until:
                return
            if (counted := page.get_by_label("Screws that")).count():
                counted.fill("1")
                counted.press("Enter")
            else:
                page.keyboard.press(found if ".look" in key else "Enter")
            expect(page.locator(f'[data-step="{key}"]')).to_have_count(0)
        self.fail(f"the sheet never came to {until}")

    def wait_until(self, true, page=None):
        """Wait for something that no element shows: what the server has on record, what the browser keeps.

        A page may not turn words into code, so a waiting script of the browser driver is refused by it.
        """
        for _ in range(PATIENCE // 100):
            if true():
                return
            (page or self.page).wait_for_timeout(100)
        self.fail("it never came to be")

    def wait_for_page(self, page):
        """Wait until the page has its name: looked at sooner, there is nothing on it to find fault with, or no heading yet."""
        expect(page.locator("h1").first).to_have_text(re.compile(r"\S"))

    def assert_accessible(self, page, where, *, colours_only=False):
        """No violation that axe-core can see; `colours_only` where all else was seen at this width in the other theme."""
        self.wait_for_page(page)
        page.evaluate(_axe())
        rules = ["color-contrast"] if colours_only else RULES
        asked = {"runOnly": rules, "resultTypes": ["violations"], "preload": False}
        found = page.evaluate("asked => axe.run(asked)", asked)
        problems = [f"{v['id']}: {v['help']} ({v['nodes'][0]['html'][:120]})" for v in found["violations"]]
        self.assertEqual(problems, [], where)

    def assert_nothing_cut(self, page, where):
        """The page does not scroll sideways, and no button or text sticks out of the window."""
        self.wait_for_page(page)
        out = page.evaluate(
            """() => [...document.querySelectorAll('main *')].filter((e) => {
                const box = e.getBoundingClientRect();
                return box.width > 0 && (box.right > innerWidth + 1 || box.left < -1);
            }).map((e) => e.outerHTML.slice(0, 90))"""
        )
        self.assertEqual(out, [], where)
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), page.viewport_size["width"], where)


__all__ = ["LAPTOP", "NOW", "PHONE", "BrowserTestCase", "clock", "expect", "timedelta"]
