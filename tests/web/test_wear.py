"""Wear of parts, and bags and bins, on the real screen."""

import re
from datetime import timedelta

from care.vocabulary import (Action)
from server.base import clock
from server.machines.models import Machine
from server.work.services import already_done
from tests.web.browser import LAPTOP, NOW, PHONE, BrowserTestCase, expect


class WearOnScreen(BrowserTestCase):
    opens = None
    expected_errors = ("422", "Failed to load resource")

    def open_wear(self, machine="Ground robot", page=None):
        page = page or self.page
        self.open_machine(page=page, machine=machine)
        page.get_by_role("link", name="Wear", exact=True).click()
        expect(page.get_by_role("heading", level=1)).to_contain_text("of its life")
        return page

    def part(self, name, page=None):
        return (page or self.page).locator(f'[data-wear="{name}"]').first

    def test_a_ruler_a_figure_that_cannot_be_and_one_that_counts_until_undone(self):
        self.open_wear()
        brush = self.part("Side brush")
        expect(brush).to_contain_text("4 mm of 10 mm: there in about")
        brush.get_by_role("button", name=re.compile("^Measure: Bristles bent")).click()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_label("Figure in mm").fill("900")
        dialog.get_by_role("button", name="Note it").click()
        expect(dialog.get_by_role("alert")).to_contain_text("0 to 400 mm")
        dialog.get_by_label("Figure in mm").fill("11")
        dialog.get_by_role("button", name="Note it").click()
        expect(brush).to_contain_text("the end, 10 mm, is reached. Replace it.")
        self.page.keyboard.press("u")
        expect(brush).to_contain_text("4 mm of 10 mm")

    def test_a_crack_is_yes_or_no_and_sets_stand_side_by_side(self):
        self.open_wear()
        filters = self.page.get_by_role("table", name="Parts in use")
        expect(filters.locator('[data-wear^="Filter"]')).to_have_count(2)
        self.page.get_by_text("5 parts that went").click()
        expect(self.page.get_by_role("table", name="Parts that went").locator('[data-wear="Filter A"]')).to_be_visible()
        expect(filters).to_contain_text("ready, takes turns")
        filters.get_by_role("button", name="Measure: Frame or seal cracked, Filter B").click()
        dialog = self.page.get_by_role("dialog")
        self.assertTrue(dialog.get_by_role("button", name="Note it").is_disabled())
        dialog.get_by_role("button", name="Yes", exact=True).click()
        dialog.get_by_role("button", name="Note it").click()
        expect(self.part("Filter B")).to_contain_text("yes: replace it.")

    def test_in_inches_for_who_chose_them_and_back_in_millimetres(self):
        self.page.goto("/#/household/you")
        self.page.get_by_role("button", name=re.compile("^US: sq ft")).click()
        expect(self.page.get_by_role("button", name=re.compile("^US: sq ft"))).to_have_attribute("aria-pressed", "true")
        self.open_wear()
        brush = self.part("Side brush")
        expect(brush).to_contain_text("0.16 in of 0.39 in")
        brush.get_by_role("button", name=re.compile("^Measure: Bristles bent")).click()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_label("Figure in inches").fill("0.2")
        dialog.get_by_role("button", name="mm", exact=True).click()
        dialog.get_by_label("Figure in mm").fill("6")
        dialog.get_by_role("button", name="Note it").click()
        expect(brush).to_contain_text("0.24 in of 0.39 in")

    def test_nothing_that_axe_finds_nothing_cut(self):
        for viewport, scheme in ((LAPTOP, "light"), (PHONE, "dark")):
            with self.subTest(viewport["width"], scheme=scheme):
                page = self.open_wear(page=self.sign_in(self.open_page(viewport, color_scheme=scheme)))
                self.assert_accessible(page, "Wear")
                self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), viewport["width"])


class BagAndBinOnScreen(BrowserTestCase):
    opens = None
    expected_errors = ("422", "Failed to load resource")

    def setUp(self):
        super().setUp()
        self.open_machine(machine="Ground dock")
        self.bag = self.page.get_by_role("region", name="Bag and bin")

    def test_its_size_in_quarts_borrowed_from_a_cup(self):
        expect(self.bag).to_contain_text(re.compile(r"about \d+ % full"))
        self.bag.get_by_role("button", name="Holds 2.4 L…").click()
        self.bag.get_by_label("It holds").fill("0")
        self.bag.get_by_role("button", name="Keep").click()
        expect(self.bag.get_by_role("alert")).to_contain_text("volume: got 0 L")
        self.bag.get_by_label("It holds").fill("2.5")
        self.bag.get_by_label("Unit").first.select_option("qt")
        self.bag.get_by_role("button", name="Keep").click()
        expect(self.bag).to_contain_text("qt a week")
        expect(self.bag).to_contain_text("fillings of its own")

    def test_each_filling_against_what_was_expected_and_what_a_week_costs(self):
        costs = self.bag.get_by_role("list", name="What a bag costs").get_by_role("listitem")
        expect(costs).to_have_count(2)
        expect(costs.first).to_contain_text(re.compile(r"0\.\d\d.EUR a week with XB-24 .*another maker’s, fits", re.S))
        expect(costs.last).to_contain_text(re.compile(r"0\.\d\d.EUR a week with DB-24 .*the maker’s, fits", re.S))
        self.bag.get_by_text(re.compile("^How long they took")).click()
        expect(self.bag.get_by_text(re.compile(r"weeks, expected \d.*found full", re.S)).first).to_be_visible()

    def test_a_look_inside_moves_the_day(self):
        before = self.bag.inner_text()
        self.bag.get_by_role("button", name="nearly empty").click()
        expect(self.page.get_by_text("Dust bag: looked inside.")).to_be_visible()
        expect(self.bag).not_to_have_text(before)


class ABinOnScreen(BrowserTestCase):
    opens = None

    def test_emptied_twice_on_one_day_both_stand_in_the_log(self):
        machine = Machine.objects.of(self.member.household_id).get(name="Hall upright")
        for minutes in (20, 10):
            with clock.at(NOW - timedelta(minutes=minutes)):
                already_done(member=self.member, machine_id=machine.pk, slot_key="bin", action=Action.EMPTY)
        self.open_machine(machine="Hall upright")
        bin_ = self.page.get_by_role("region", name="Bag and bin")
        bin_.get_by_text(re.compile("^How long they took")).click()
        expect(bin_.get_by_role("listitem")).to_have_count(10)


class WhatItCostsOnScreen(BrowserTestCase):
    opens = None
    expected_errors = ("422", "Failed to load resource")

    def test_a_year_a_wash_and_a_repair_weighed_with_bad_input_first(self):
        self.open_machine()
        self.page.get_by_role("link", name="Wear", exact=True).click()
        costs = self.page.get_by_role("region", name="What it costs")
        expect(costs).to_contain_text("a year to keep going, your minutes counted")
        expect(costs).to_contain_text("Under guarantee until")
        expect(costs).to_contain_text("Filter: wash it.")
        often = costs.get_by_role("list", name="How often to run it").get_by_role("listitem")
        expect(often).to_have_count(5)
        expect(often.nth(3)).to_contain_text(re.compile("^Every third day"))
        costs.get_by_label(re.compile("^The repair costs")).fill("60")
        costs.get_by_label(re.compile("^It then serves")).fill("0")
        costs.get_by_role("button", name="Weigh it").click()
        expect(costs.get_by_role("alert")).to_contain_text("0.25 to 20 years")
        costs.get_by_label(re.compile("^It then serves")).fill("3")
        costs.get_by_role("button", name="Weigh it").click()
        expect(costs.get_by_role("status")).to_contain_text("Repair it.")
        costs.get_by_role("button", name="Price, hour, guarantee…").click()
        costs.get_by_label(re.compile("^An hour of yours")).fill("0")
        costs.get_by_role("button", name="Keep").click()
        expect(costs).not_to_contain_text("your minutes counted")
