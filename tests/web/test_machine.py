"""A machine's page: its strip, both clocks of a part, why, and its records."""

import re

from server.due.state import machine_states
from tests.web.browser import BrowserTestCase, expect


class ThePage(BrowserTestCase):
    opens = None

    def setUp(self):
        super().setUp()
        self.open_machine()
        self.part = self.page.locator("[data-part]")

    def choose(self, name, slot=None):
        """Press a chamber and wait for its part."""
        strip = self.page.get_by_role("group", name="Ground robot, air path")
        strip.get_by_role("button", name=re.compile(f"^{name} ")).click()
        expect(self.part).to_have_attribute("data-part", slot or name)

    def test_opens_at_the_part_that_is_worst(self):
        expect(self.part).to_have_attribute("data-part", "rubber-roller")

    def test_the_filter_log_has_all_of_them_and_what_is_next(self):
        self.page.get_by_role("link", name=re.compile("^Filter log")).click()
        expect(self.page.get_by_role("heading", level=1)).to_have_text("Filter log, Ground robot")
        done = self.page.get_by_role("list", name="What was done").get_by_role("listitem")
        self.assertGreater(done.count(), 14, "more than the machine's page shows")
        expect(done.first).to_contain_text("2026")
        expect(self.page.get_by_role("list", name="What comes next")).to_contain_text("wash")
        with self.page.expect_download() as file:
            self.page.get_by_role("link", name="As CSV").click()
        self.assertEqual(file.value.suggested_filename, "filter-log.csv")
        self.assert_accessible(self.page, "filter log")

    def test_shows_both_clocks_the_washes_and_the_spare(self):
        self.choose("filter")
        expect(self.part).to_contain_text("In the machine: Filter A, cleaned 2 times (2 washes).")
        expect(self.part).to_contain_text("Filter B lies ready, 2 washes.")
        expect(self.part).to_contain_text("Service, since last done: wash")
        expect(self.part).to_contain_text("due: 5.8 of 5.3 h of running")
        expect(self.part).to_contain_text("Life, since new: replace")
        expect(self.part.get_by_role("meter")).to_have_count(2)

    def test_says_why_with_runs_range_school_and_the_other_triggers(self):
        self.choose("sensors")
        self.part.get_by_text("Why: 26 days since the last wipe").click()
        expect(self.part).to_contain_text("every 30 days")
        expect(self.part).to_contain_text("Or, if sooner")
        expect(self.part).to_contain_text("every 30 h of running (now 13 h)")
        expect(self.part).to_contain_text("By the label")
        expect(self.part).to_contain_text("does not see the stairs")

    def test_what_was_found_moves_the_limit_and_is_named(self):
        """Far gone at 82 % of the interval: the roller loads faster than the book says."""
        self.choose("rollers", "bristle-roller")
        expect(self.part).to_contain_text("fresh: 4.1 of 6.3 h of running")
        self.part.get_by_role("button", name="Already done…").first.click()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_role("button", name="Far gone").click()
        dialog.get_by_role("button", name="Record it").click()
        expect(self.part).to_contain_text("fresh: 0 of 4.2 h of running")
        self.part.get_by_text("Why: 0 h of running since the last de-hairing").click()
        expect(self.part).to_contain_text("from 5 looks; the last: far gone (Tue 24 Nov)")
        expect(self.part).to_contain_text("Workshop: every")

    def test_the_arrow_keys_walk_along_the_air(self):
        self.choose("bin")
        for expected in ("filter", "exhaust-foams", "side-brush"):
            self.page.keyboard.press("ArrowRight")
            self.page.keyboard.press("Enter")
            expect(self.part).to_have_attribute("data-part", expected)
        self.page.keyboard.press("ArrowUp")
        self.page.keyboard.press(" ")
        expect(self.part).to_have_attribute("data-part", "exhaust-foams")

    def test_parts_of_one_chamber_stand_side_by_side(self):
        self.choose("rollers", "bristle-roller")
        self.page.get_by_role("button", name="Rubber roller", exact=True).click()
        expect(self.part).to_have_attribute("data-part", "rubber-roller")
        self.page.keyboard.press("j")
        expect(self.part).to_have_attribute("data-part", "side-brush")

    def test_records_of_the_part_can_be_undone_and_the_date_moves(self):
        self.choose("sensors")
        records = self.page.get_by_role("region", name="Records")
        line = "Cliff, wall and dock sensors: found a little dirty, wiped"
        expect(records).to_contain_text(line)
        self.page.get_by_role("button", name=f"Undo: {line}").first.click()
        expect(self.page.get_by_text("Undone.")).to_be_visible()
        expect(self.part).to_contain_text("70 days since the last wipe (Tue 15 Sept)")

    def test_the_machine_s_runs_stand_in_its_records(self):
        self.page.get_by_role("group", name="Which records").get_by_role("button", name="Machine").click()
        expect(self.page.get_by_role("region", name="Records")).to_contain_text("Ran 50 min (measured)")

    def test_question_mark_lists_the_keys_of_this_page(self):
        self.choose("filter")
        self.page.keyboard.press("?")
        dialog = self.page.get_by_role("dialog", name="Keys")
        for does in ("Next part", "Do it now, on a bench sheet", "Undo what was just recorded"):
            expect(dialog).to_contain_text(does)

    def test_already_done_by_key(self):
        self.choose("contacts")
        self.page.keyboard.press("d")
        self.page.get_by_role("dialog").get_by_role("button", name="Record it").click()
        expect(self.page.get_by_text("Charging contacts: wiped on Tue 24 Nov.")).to_be_visible()
        expect(self.part).to_contain_text("fresh: 0 of 30 days")


class WhatIsFound(BrowserTestCase):
    opens = None
    expected_errors = ("422", "409")

    def open_part(self, machine, slot):
        self.page.goto(f"/#/machines/{self.machine_id(machine)}/{slot}")
        part = self.page.locator(f'[data-part="{slot}"]')
        expect(part).to_be_visible()
        return part

    def test_in_two_taps_moves_the_date_and_says_why(self):
        part = self.open_part("Hall upright", "foam")
        expect(part).to_contain_text("now or within 11 days")
        part.get_by_role("button", name="I looked…").click()
        dialog = self.page.get_by_role("dialog")
        expect(dialog).to_contain_text("Then: wash, first of all")
        dialog.get_by_role("button", name="Foam no longer visible").click()
        expect(self.page.get_by_text("Wash: was now or within 11 days, is now.")).to_be_visible()
        expect(part.locator(".clock").first).to_contain_text("overdue")
        self.page.get_by_role("button", name="Undo", exact=True).first.click()
        expect(part).to_contain_text("now or within 11 days")

    def test_raises_a_part_that_has_no_date(self):
        part = self.open_part("Hall upright", "bin-seal")
        part.get_by_role("button", name="I looked…").click()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_role("button", name="Something else is wrong with it").click()
        dialog.get_by_role("button", name="Split").click()
        expect(part).to_contain_text("It was found in need of it")

    def test_twice_on_one_day_and_far_apart_is_asked_about(self):
        part = self.open_part("Hall upright", "hose")
        for found in ("^Clear, no split", "^Blocked"):
            part.get_by_role("button", name="I looked…").click()
            self.page.get_by_role("dialog").get_by_role("button", name=re.compile(found)).click()
        expect(self.page.get_by_role("alert")).to_contain_text("on that day it was already told")

    def test_the_machine_s_own_counter_beside_ours(self):
        part = self.open_part("Ground robot", "side-brush")
        part.get_by_role("button", name="Its own counter…").click()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_label("It says").fill("120")
        dialog.get_by_role("button", name="Record it").click()
        expect(self.page.get_by_role("alert")).to_contain_text("0 to 100 %")
        dialog.get_by_label("It says").fill("30")
        dialog.get_by_role("button", name="Record it").click()
        dialog.get_by_role("button", name="The machine's: 140 h").click()
        part.get_by_text("Why: 140 h of running since it was new").click()
        expect(part).to_contain_text("it said 140 h used, we counted 43 h; from there on the machine's own figure counts, as you said")

    def test_use_by_week_tells_what_was_assumed_and_a_kit_is_renewed_in_one(self):
        self.open_machine(machine="Stairs cordless")
        expect(self.page.get_by_role("region", name="Use by week")).to_contain_text("of it assumed (hatched)")
        self.open_machine()
        self.page.get_by_role("button", name="The kit was renewed today").click()
        expect(self.page.get_by_text("Rollers, side brush and filter: all renewed.")).to_be_visible()
        self.assertNotIn("rubber-roller", self.due_slots())


class TwoOneAfterTheOther(BrowserTestCase):
    opens = None

    def test_a_slow_answer_about_the_first_does_not_hide_the_second(self):
        first, second = self.machine_id("Ground robot"), self.machine_id("Hall upright")
        waits = []
        self.page.route(f"**/api/machines/{first}", lambda route: waits.append(route))
        self.page.goto(f"/#/machines/{first}")
        self.page.wait_for_timeout(100)
        self.page.goto(f"/#/machines/{second}")
        expect(self.page.locator("[data-part]")).to_be_visible()
        for route in waits:
            route.continue_()
        self.page.wait_for_timeout(500)
        expect(self.page.get_by_role("heading", level=1, name="Hall upright")).to_be_visible()
        expect(self.page.locator("[data-part]")).to_be_visible()


class WhatIsNotThere(BrowserTestCase):
    opens = None
    expected_errors = ("404", "409", "422", "503")

    def test_an_unknown_machine_says_so_and_leads_back(self):
        self.page.goto("/#/machines/3f2c3f0a-0000-4000-8000-000000000000")
        expect(self.page.get_by_role("alert")).to_contain_text("there is none with this id")
        self.page.get_by_role("link", name="All machines").click()
        expect(self.page.get_by_role("region", name="House board")).to_be_visible()

    def test_what_comes_late_says_nothing_untrue_and_moves_nothing_below_it(self):
        asked = []
        self.page.route("**/readings", lambda route: asked.append(route))
        for late in ("**/notes", "**/dust"):
            self.page.route(late, lambda route: route.fulfill(status=503))
        self.open_machine()
        self.wait_until(lambda: asked)
        expect(self.page.get_by_text("Looking for readings")).to_be_visible()
        expect(self.page.get_by_text("None yet")).to_have_count(0)
        records = self.page.get_by_role("region", name="Records")
        expect(records).to_have_count(0)
        asked[0].continue_()
        expect(records).to_be_visible()
        expect(self.page.get_by_text("Looking for readings")).to_have_count(0)
        expect(self.page.get_by_role("region", name="Bag and bin").get_by_role("alert")).to_be_visible()
        notes = self.page.get_by_role("region", name="Notes and photos")
        expect(notes.get_by_role("alert")).to_contain_text("Something went wrong")
        expect(notes).not_to_contain_text("None yet")
        self.page.unroute("**/notes")
        notes.get_by_role("button", name="Try again").click()
        expect(notes).to_contain_text("None yet")

    def test_sheets_that_cannot_be_had_are_not_called_none(self):
        self.page.route("**/api/sheets/ended", lambda route: route.fulfill(status=503))
        self.page.goto("/#/bench")
        last = self.page.get_by_role("region", name="Last sheets")
        expect(last.get_by_role("alert")).to_contain_text("Something went wrong")
        expect(last).not_to_contain_text("None yet")
        self.page.unroute("**/api/sheets/ended")
        last.get_by_role("button", name="Try again").click()
        expect(last.get_by_role("listitem").first).to_be_visible()

    def test_an_unknown_sheet_says_so(self):
        self.page.goto("/#/bench/3f2c3f0a-0000-4000-8000-000000000000")
        expect(self.page.get_by_role("alert")).to_contain_text("sheet: there is none with this id")

    def test_what_a_later_record_builds_on_is_not_undone(self):
        self.open_machine()
        self.page.get_by_role("group", name="Ground robot, air path").get_by_role("button", name=re.compile("^filter ")).click()
        self.page.get_by_role("button", name="Undo: Filter A: found dirty, washed, hung in the airing cupboard, Mon 5 Oct").click()
        dialog = self.page.get_by_role("dialog", name="Take the whole sitting back?")
        expect(dialog).to_contain_text("also of other parts and other machines")
        dialog.get_by_role("button", name="Take it back").click()
        expect(self.page.get_by_role("alert")).to_contain_text("needs it. Take that back first.")
