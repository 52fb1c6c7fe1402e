"""The bench without a connection: cut at every request, reloaded offline, signed out, and worked on by two."""

import re
from collections import Counter

from django.test import override_settings

from qsessions.models import Session

from server.bench.models import Sheet, SheetEvent
from tests.web.browser import FLAGS, browser, expect
from tests.web.test_bench import BenchCase
from tools.prepare import BROWSER

NOW_ONLINE = "dispatchEvent(new Event('online'))"
"""What a browser says when its connection is back: what waits is sent at once, not after some seconds."""

KEPT_BY_ANOTHER = """() => new Promise((done) => {
    indexedDB.open('yperon').onsuccess = ({ target: { result: db } }) => {
        const pages = db.transaction('pages', 'readwrite').objectStore('pages');
        pages.getAll().onsuccess = ({ target: { result: all } }) => {
            for (const page of all) pages.put({ ...page, build: 'another' });
            pages.transaction.oncomplete = () => { db.close(); done(all.length > 0); };
        };
    };
})"""
"""Makes every page that this browser keeps one of another build; true once there is one."""


class CutCase(BenchCase):
    cuts_itself = True
    expected_errors = ("net::ERR", "401", "422", "Failed to load resource", "error occurred when fetching the script")

    def given(self):
        """The answers the server has on the sheet, in their order; late ones are notes."""
        return list(self.events().filter(late=False).order_by("number").values_list("step", "value"))

    def events(self):
        return SheetEvent.everything.filter(sheet=self.sheet_id)

    def status(self):
        return Sheet.everything.get(pk=self.sheet_id).status

    def open_sheet(self, page=None, only="Ground robot"):
        super().open_sheet(page, only)
        self.sheet_id = (page or self.page).url.rsplit("/", 1)[-1]

    def work_to_the_end(self, page):
        self.answer_steps(page, "end", found="2")
        page.keyboard.press("Enter")


class EveryRequest(CutCase):
    def cut_each_twice(self):
        """Every request of the sheet is cut before it is sent, then when it was taken and its answer is on the way.

        How often each answer was sent, by its id; what waits is sent together with the next, which is cut in its turn.
        """
        tries = Counter()

        def on_the_way(route):
            if route.request.method != "POST":
                route.continue_()
                return
            body = route.request.post_data_json
            said = [one["id"] for one in body.get("answers", [body])]
            tries.update(said)
            if tries[said[-1]] == 2:
                route.fetch()
            if tries[said[-1]] <= 2:
                route.abort("connectionreset")
            else:
                route.continue_()

        self.page.route("**/api/sheets/*/*", on_the_way)
        return tries

    def test_cut_twice_and_the_page_reloaded_at_each_nothing_is_lost_or_doubled(self):
        self.page.add_init_script(f"setInterval(() => {NOW_ONLINE}, 50)")
        self.page.reload()
        self.open_sheet(only="Filter")
        tries = self.cut_each_twice()
        while (key := self.step().get_attribute("data-step")) != "end":
            self.page.keyboard.press("2" if ".look" in key else "Enter")
            expect(self.step()).not_to_have_attribute("data-step", key)
            self.page.reload()  # with the answer on its way, or not yet sent
            expect(self.step()).to_be_visible()
            expect(self.step()).not_to_have_attribute("data-step", key)
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("heading", level=1)).to_have_text("Recorded. The clocks have moved.")
        steps = [step for step, _ in self.given()]
        self.assertEqual(len(steps), len(set(steps)), "no answer twice")
        self.assertEqual(len(steps), 12)
        self.assertEqual(len(tries), len(steps) + 1, "every answer, and the end of the sitting")
        self.assertTrue(all(count >= 3 for count in tries.values()), "each was cut twice")
        self.assertEqual(self.status(), "finished")


class NoConnection(CutCase):
    kept_on_device = True

    def keep_the_page(self):
        """Wait until this browser holds the page for use without a connection."""
        self.page.evaluate("navigator.serviceWorker.ready.then((ready) => !!ready.active)")
        self.wait_until(lambda: self.page.evaluate("!!navigator.serviceWorker.controller"))

    def test_a_whole_sheet_with_a_reload_then_sent_when_it_is_back(self):
        self.keep_the_page()
        self.open_sheet(only="Side brush")
        self.page.context.set_offline(True)
        self.answer_steps(self.page, "side-brush.de_hair.do", found="2")
        expect(self.page.get_by_role("status").first).to_contain_text("wait on this device")
        self.page.reload()
        expect(self.step()).to_have_attribute("data-step", "side-brush.de_hair.do")
        self.work_to_the_end(self.page)
        expect(self.page.get_by_role("button", name="It ends as soon as Yperon answers")).to_be_disabled()
        self.assertEqual(self.status(), "open")
        sent = [step for step, _ in self.given()]
        self.assertNotIn("side-brush.de_hair.do", sent, "at most what was on its way when the page was loaded")
        self.page.context.set_offline(False)
        self.page.evaluate(NOW_ONLINE)
        expect(self.page.get_by_role("heading", level=1)).to_have_text("Recorded. The clocks have moved.")
        self.assertEqual(self.status(), "finished")
        self.assertNotIn("side-brush", self.due_slots())

    def test_the_shopping_list_is_there_in_the_shop_and_says_of_when_it_is(self):
        self.keep_the_page()
        for path, words in (("shelf", "Nothing needs ordering|Order"), ("shelf/list/90", "Shopping list")):
            self.page.goto(f"/#/{path}")
            expect(self.page.get_by_role("heading", level=1)).to_contain_text(re.compile(words))
        needed = self.page.get_by_role("article").inner_text()
        self.page.context.set_offline(True)
        self.page.reload()
        expect(self.page.get_by_role("status")).to_contain_text("No connection. This is as of")
        for line in needed.splitlines()[3:]:
            expect(self.page.get_by_role("article")).to_contain_text(line)
        self.page.goto("/#/shelf")
        expect(self.page.get_by_role("status").first).to_contain_text("No connection.")
        row = self.page.locator('li[data-kind="Paper liner, Workshop tub"]')
        row.get_by_role("button", name=re.compile("^More")).click()
        expect(self.page.get_by_role("alert").first).to_be_visible()
        expect(row.get_by_role("status")).to_have_text("0")
        self.page.goto("/#/shelf/list/365")
        expect(self.page.get_by_role("alert").first).to_be_visible()
        self.page.context.set_offline(False)
        self.page.reload()
        expect(self.page.get_by_role("heading", level=1)).to_have_text("Shopping list")
        expect(self.page.get_by_text("No connection.")).to_have_count(0)

    def test_what_an_older_yperon_kept_is_not_shown(self):
        self.keep_the_page()
        self.page.goto("/#/shelf")
        expect(self.page.get_by_role("heading", level=1)).to_be_visible()
        self.wait_until(lambda: self.page.evaluate(KEPT_BY_ANOTHER))
        self.page.context.set_offline(True)
        self.page.reload()
        expect(self.page.get_by_role("alert").first).to_be_visible()
        expect(self.page.get_by_text("This is as of")).to_have_count(0)

    def test_an_ended_session_loses_nothing_and_sends_as_the_same_person(self):
        self.open_sheet(only="Charging contacts")
        Session.objects.all().delete()
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("button", name="Sign in")).to_be_visible()
        self.assertEqual(self.given(), [])
        self.page.get_by_label("User name").fill("keeper")
        self.page.get_by_label("Password").fill("quillgate")
        self.page.keyboard.press("Enter")
        expect(self.step()).to_have_attribute("data-step", "contacts.wipe.look")
        self.sent()
        self.assertEqual(self.given(), [("gate.robot-off", "done")])

    def test_of_two_at_once_the_second_is_kept_as_notes(self):
        self.open_sheet(only="Charging contacts")
        other = self.sign_in(self.open_page())
        self.press("Go on at the bench", other)
        expect(self.step(other)).to_be_visible()
        other.context.set_offline(True)
        self.answer_steps(other, "end", found="4")
        self.work_to_the_end(self.page)
        expect(self.page.get_by_role("heading", level=1)).to_have_text("Recorded. The clocks have moved.")
        tried = Counter()

        def cut_the_notes(route):
            late = '"late":true' in (route.request.post_data or "")
            tried[late] += 1
            (route.abort("connectionreset") if late and tried[late] == 1 else route.continue_())

        other.route("**/api/sheets/*/answers", cut_the_notes)
        other.context.set_offline(False)
        other.evaluate(f"setInterval(() => {NOW_ONLINE}, 50)")
        expect(other.get_by_role("heading", level=1)).to_have_text("This sheet has ended.")
        expect(other.get_by_text("came after somebody else had gone on")).to_be_visible()
        expect(other.locator("[data-unsent]")).to_have_attribute("data-unsent", "0")
        self.assertGreater(tried[True], 1, "a note whose sending was cut is sent again")
        self.assertIn("overdue", self.events().filter(late=True).values_list("value", flat=True))
        self.assertNotIn("overdue", [value for _, value in self.given()])


class ByAnAddressWithoutALock(CutCase):
    """As a phone reaches a laptop by its address: no lock, so no kept page, no screen held on; the outbox works."""

    def test_says_what_does_not_work_and_goes_on(self):
        self.enterContext(override_settings(ALLOWED_HOSTS=["*"]))
        port = self.live_server_url.rsplit(":", 1)[1]
        mapped = self.open_sheet_by("yperon.test", port)
        expect(mapped.get_by_text("Open without a lock in the address")).to_be_visible()
        mapped.context.set_offline(True)
        mapped.keyboard.press("Enter")
        expect(self.step(mapped)).to_have_attribute("data-step", "contacts.wipe.look")
        mapped.context.set_offline(False)
        mapped.evaluate(NOW_ONLINE)
        self.sent(mapped)
        self.assertEqual(self.given(), [("gate.robot-off", "done")])

    def open_sheet_by(self, host, port):
        """The sheet in a browser that takes this machine for `host`."""
        self.open_sheet(only="Charging contacts")
        mapping = f"--host-resolver-rules=MAP {host} 127.0.0.1"
        started = browser().browser_type.launch(executable_path=BROWSER, args=[*FLAGS, mapping])
        self.addCleanup(started.close)
        address = f"http://{host}:{port}"
        page = started.new_context(base_url=address, locale="en-GB").new_page()
        cookies = [cookie for cookie in self.page.context.cookies() if cookie["name"] == "sessionid"]
        page.context.add_cookies([{"name": "sessionid", "value": cookies[0]["value"], "url": address}])
        page.goto(f"/#/bench/{self.sheet_id}")
        expect(self.step(page)).to_be_visible()
        return page
