"""Answers that get lost on the way: what was tapped is recorded once, and the screen says what it knows."""

import re

from care.due.schedule import weekly
from server.base import clock
from server.logbook.models import Entry
from server.machines.models import Run, ScheduleVersion
from server.use.services import set_schedule
from tests.server.test_duties import photo
from tests.web.browser import LOST, NOW, BrowserTestCase, expect

TRIES = 5
"""How often a device tries before it leaves it."""


class LostCase(BrowserTestCase):
    """A few writes in `make test`; in `make test-deep` every test of the screens goes through its first answers lost."""

    expected_errors = LOST

    def lose(self, answers, page=None):
        """Let the next so many writes reach the server, and lose their answers."""
        left = [answers]

        def on_the_way(route):
            if route.request.method == "GET" or not left[0]:
                return route.continue_()
            left[0] -= 1
            route.fetch()
            return route.abort()

        (page or self.page).route("**/api/**", on_the_way)
        self.addCleanup((page or self.page).unroute_all, behavior="ignoreErrors")

    def entries(self, kind):
        return Entry.objects.of(self.member.household_id).filter(kind=kind).count()

    def once_more(self, kind, act, said):
        """What `act` records is there once, though its first answer is lost."""
        before = self.entries(kind)
        self.lose(1)
        act()
        notice = self.page.locator(".notice")
        expect(notice).to_contain_text(said)
        expect(notice).not_to_contain_text("looking")
        self.assertEqual(self.entries(kind), before + 1, kind)
        self.page.unroute_all(behavior="ignoreErrors")


class OneAnswerLost(LostCase):
    opens = None

    def test_from_round(self):
        self.page.goto("/")
        self.once_more(Entry.Kind.RUN, lambda: self.ran().click(), "a run of 50 min is logged")

        def away():
            self.page.get_by_role("button", name="Away, or a busy time…").click()
            self.page.get_by_role("button", name="We are away").click()

        self.once_more(Entry.Kind.REST, away, "away")
        self.once_more(Entry.Kind.VOID, lambda: self.page.get_by_role("button", name="Undo").click(), "Undone.")

    def test_from_a_machine_s_page(self):
        self.open_machine(machine="Hall upright")
        part = self.page.locator("[data-part]").first

        def done():
            part.get_by_role("button", name="Already done…").first.click()
            self.page.get_by_role("dialog").get_by_role("button", name="Record it").click()

        self.once_more(Entry.Kind.SERVICE, done, "Tue 24 Nov")

        def note():
            self.page.get_by_role("button", name="Add…").click()
            self.page.get_by_label("In your words").fill("how it sat")
            picture = {"name": "a.jpg", "mimeType": "image/jpeg", "buffer": photo()}
            self.page.locator("input[type=file]").set_input_files(picture)
            self.page.get_by_role("button", name=re.compile("^Keep")).click()

        self.once_more(Entry.Kind.NOTE, note, "photo is kept")

    def test_from_the_shelf(self):
        self.page.goto("/#/shelf")
        add = self.page.get_by_role("button", name=re.compile("^More: ")).first
        self.once_more(Entry.Kind.STOCK, lambda: add.click(), "on the shelf")


class EveryAnswerLost(LostCase):
    def runs(self):
        return Run.objects.of(self.member.household_id).filter(machine=self.machine_id("Ground robot")).count()

    def test_it_says_so_looks_again_and_a_second_tap_records_nothing_more(self):
        before = self.runs()
        self.lose(TRIES)
        self.ran().click()
        notice = self.page.locator(".notice")
        expect(notice).to_contain_text("It may have been recorded; looking…")
        expect(notice).to_contain_text("It may have been recorded. This device looks again by itself.")
        self.ran().click()
        expect(notice).to_contain_text("a run of 50 min is logged")
        self.assertEqual(self.runs(), before + 1)

    def test_what_was_recorded_after_all_is_told_with_a_way_back(self):
        before = self.runs()
        self.lose(TRIES)
        self.ran().click()
        notice = self.page.locator(".notice")
        expect(notice).to_contain_text("What you sent before was recorded.")
        self.assertEqual(self.runs(), before + 1)
        notice.get_by_role("button", name="Undo").click()
        expect(notice).to_contain_text("Undone.")

    def test_what_never_came_is_told_to_be_sent_again(self):
        before = self.entries(Entry.Kind.RUN)
        self.page.route("**/api/machines/*/runs", lambda route: route.abort())
        self.ran().click()
        notice = self.page.locator(".notice")
        expect(notice).to_contain_text("was not recorded. Send it again")
        self.page.unroute_all(behavior="ignoreErrors")
        self.ran().click()
        expect(notice).to_contain_text("a run of 50 min is logged")
        self.assertEqual(self.entries(Entry.Kind.RUN), before + 1)


class SigningOut(LostCase):
    def kept(self, page):
        """What this device keeps to look at."""
        return page.evaluate(
            """async () => {
                const db = await new Promise((done) => {
                    const asked = indexedDB.open('yperon');
                    asked.onsuccess = () => done(asked.result);
                });
                const count = (name) => new Promise((done) => {
                    const asked = db.transaction(name).objectStore(name).count();
                    asked.onsuccess = () => done(asked.result);
                });
                const all = (await count('pages')) + (await count('sheets'));
                db.close();
                return [all, localStorage.getItem('yperon.session')];
            }"""
            )

    def test_clears_this_device_in_every_tab(self):
        self.page.goto("/#/shelf")
        expect(self.page.get_by_role("heading", level=1)).to_be_visible()
        other = self.page.context.new_page()
        other.goto("/")
        expect(other.get_by_role("region", name="House board")).to_be_visible()
        self.assertGreater(self.kept(self.page)[0], 0)
        self.page.get_by_role("button", name="Sign out").click()
        for page in (self.page, other):
            expect(page.get_by_label("User name")).to_be_visible()
            self.assertEqual(self.kept(page), [0, None])
        self.assertEqual(self.page.request.get(f"{self.live_server_url}/api/round").status, 401)

    def test_an_answer_from_before_it_signs_nobody_in_again(self):
        """The browser asks ahead while it reads the page: in another tab that may be before the server knows."""
        other = self.page.context.new_page()
        other.add_init_script(
            """const set = Storage.prototype.setItem;
            Storage.prototype.setItem = function (key, value) {
                if (key === 'yperon.session') window.keptAgain = true;
                set.call(this, key, value);
            }"""
        )
        other.goto("/")
        expect(other.get_by_role("region", name="House board")).to_be_visible()
        before = [other.evaluate("fetch('/api/session').then((answer) => answer.json())")]
        asked_ahead = lambda route: (  # noqa: E731
            route.fulfill(json=before.pop()) if before and route.request.method == "GET" else route.fallback()
        )
        other.route("**/api/session", asked_ahead)
        self.page.get_by_role("button", name="Sign out").click()
        expect(other.get_by_label("User name")).to_be_visible()
        self.assertEqual(before, [], "the answer from before was there")
        self.assertIsNone(other.evaluate("window.keptAgain ?? null"))

    def test_without_a_connection_too_and_the_server_is_told_when_it_is_back(self):
        self.page.context.set_offline(True)
        self.page.get_by_role("button", name="Sign out").click()
        expect(self.page.get_by_role("region", name="House board")).to_be_hidden()
        self.assertEqual(self.kept(self.page), [0, None])
        self.page.context.set_offline(False)
        self.page.evaluate("dispatchEvent(new Event('online'))")
        expect(self.page.get_by_label("User name")).to_be_visible()
        self.assertEqual(self.page.evaluate("fetch('/api/round').then((answer) => answer.status)"), 401)


class OneBadRecord(LostCase):
    def test_is_named_on_round_and_undone_there(self):
        with clock.at(NOW):
            set_schedule(
                member=self.member, machine_id=self.machine_id("Hall upright"), schedule=weekly(["MO"], 40, None)
            )
        rows = ScheduleVersion.objects.of(self.member.household_id).filter(machine=self.machine_id("Hall upright"))
        rows.filter(pk=rows.order_by("entry__sequence").last().pk).update(run_min=1e-308)
        self.page.reload()
        told = self.page.get_by_role("alert")
        expect(told).to_contain_text("Hall upright cannot be worked out; the other machines are shown.")
        expect(told).to_contain_text("usual week")
        told.get_by_role("button", name="Undo that record").click()
        expect(told).to_be_hidden()
        expect(self.page.get_by_role("link", name="Hall upright", exact=True).first).to_be_visible()
