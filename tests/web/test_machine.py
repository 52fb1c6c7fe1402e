"""A machine's page: its strip, both clocks of a part, why, and its records."""

import re

from tests.web.browser import BrowserTestCase, expect


class ThePage(BrowserTestCase):
    def setUp(self):
        super().setUp()
        self.page.get_by_role("link", name="Machines").click()
        self.part = self.page.locator("[data-part]")
        expect(self.part).to_be_visible()

    def choose(self, name, slot=None):
        """Press a chamber and wait for its part."""
        strip = self.page.get_by_role("group", name="Ground robot, air path")
        strip.get_by_role("button", name=re.compile(f"^{name} ")).click()
        expect(self.part).to_have_attribute("data-part", slot or name)

    def test_opens_at_the_part_that_is_worst(self):
        expect(self.part).to_have_attribute("data-part", "rubber-roller")

    def test_shows_both_clocks_the_washes_and_the_spare(self):
        self.choose("filter")
        expect(self.part).to_contain_text("In the machine: Filter A, cleaned 2 times (2 washes).")
        expect(self.part).to_contain_text("Filter B lies ready, 2 washes.")
        expect(self.part).to_contain_text("Service, since last done: wash")
        expect(self.part).to_contain_text("due: 5.6 of 5 h of running")
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
        """Far gone at 71 % of the interval: the wheels load faster than the book says."""
        self.choose("wheels")
        expect(self.part).to_contain_text("wearing: 15 of 21 h of running")
        self.part.get_by_role("button", name="Already done…").click()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_role("button", name="Far gone").click()
        dialog.get_by_role("button", name="Record it").click()
        expect(self.part).to_contain_text("fresh: 0 of 18 h of running")
        self.part.get_by_text("Why: 0 h of running since").click()
        expect(self.part).to_contain_text("what you found makes it every 25 days of usual use, which is 18 h")
        expect(self.part).to_contain_text("What you found")
        expect(self.part).to_contain_text("from 2 looks; the last: far gone (Tue 24 Nov)")

    def test_the_arrow_keys_walk_along_the_air(self):
        self.choose("bin")
        for expected in ("filter", "side-brush", "caster"):
            self.page.keyboard.press("ArrowRight")
            self.page.keyboard.press("Enter")
            expect(self.part).to_have_attribute("data-part", expected)
        self.page.keyboard.press("ArrowUp")
        self.page.keyboard.press(" ")
        expect(self.part).to_have_attribute("data-part", "side-brush")

    def test_parts_of_one_chamber_stand_side_by_side(self):
        self.choose("rollers", "bristle-roller")
        self.page.get_by_role("button", name="Rubber roller", exact=True).click()
        expect(self.part).to_have_attribute("data-part", "rubber-roller")
        self.page.keyboard.press("j")
        expect(self.part).to_have_attribute("data-part", "side-brush")

    def test_records_of_the_part_can_be_undone_and_the_date_moves(self):
        self.choose("sensors")
        records = self.page.get_by_role("region", name="Records")
        expect(records).to_contain_text("Cliff, wall and dock sensors wiped")
        self.page.get_by_role("button", name="Undo: Cliff, wall and dock sensors wiped").click()
        expect(self.page.get_by_text("Undone.")).to_be_visible()
        expect(self.part).to_contain_text("63 days since it was new")
        expect(records).to_contain_text("Nothing yet.")

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


class WhatIsNotThere(BrowserTestCase):
    expected_errors = ("404", "409", "422")

    def test_an_unknown_machine_says_so_and_leads_back(self):
        self.page.goto("/#/machines/3f2c3f0a-0000-4000-8000-000000000000")
        expect(self.page.get_by_role("alert")).to_contain_text("there is none with this id")
        self.page.get_by_role("link", name="Back to Round").click()
        expect(self.page.get_by_role("region", name="House board")).to_be_visible()

    def test_an_unknown_sheet_says_so(self):
        self.page.goto("/#/bench/3f2c3f0a-0000-4000-8000-000000000000")
        expect(self.page.get_by_role("alert")).to_contain_text("sheet: there is none with this id")

    def test_what_a_later_record_builds_on_is_not_undone(self):
        self.page.goto("/#/machines")
        self.page.get_by_role("group", name="Ground robot, air path").get_by_role("button", name=re.compile("^filter ")).click()
        self.page.get_by_role("button", name="Undo: Filter A washed").last.click()
        expect(self.page.get_by_role("alert")).to_contain_text("A later record builds on this one")
