"""What is done in one go or besides, what helps where a part will not go in, and what asks again on a later day."""

from datetime import timedelta

from server.shelf.records import kinds_of
from tests.web.browser import NOW, PHONE, expect
from tests.web.test_bench import BenchCase
from tests.web.test_change import ChangeTestCase


class Rounds(ChangeTestCase):
    def round_(self, key):
        return self.page.locator(f'[data-round="{key}"]')

    def test_make_many_dates_one_until_each_is_by_itself_again(self):
        self.open_machine()
        expect(self.round_("robot-quarter")).to_contain_text("usually every 3 to 6 months; here each by itself")
        self.round_("robot-week").get_by_role("button", name="Together from now on").click()
        days = self.dialog().get_by_label("Every so many days of usual use")
        expect(days).to_have_value("7")
        days.fill("10")
        days.press("Enter")
        expect(self.round_("robot-week")).to_contain_text("every 10 days of usual use")
        self.said("Weekly round: together every 10 days.")
        self.page.goto(f"/#/machines/{self.row().pk}/side-brush")
        expect(self.page.locator('[data-part="side-brush"]')).to_contain_text("Weekly round")
        self.round_("robot-week").get_by_role("button", name="Each by itself again").click()
        expect(self.round_("robot-week")).to_contain_text("here each by itself")
        self.assertEqual([key for key in self.row().own if key.startswith(("round/", "rule/"))], [])

    def test_are_planned_with_all_of_their_tasks(self):
        self.open_machine()
        self.round_("eyes").get_by_role("button", name="Plan it now").click()
        expect(self.page.get_by_role("heading", level=1)).to_contain_text("at 2 machines")
        for task in ("Cliff, wall and dock sensors", "Charging contacts", "Ground dock"):
            self.said(task)


class WhatIsThere(ChangeTestCase):
    def test_a_feature_told_later_brings_its_parts_and_takes_them_away(self):
        self.open_settings()
        asked = self.page.get_by_role("group", name="Do a mesh and a foam sit over the pleated filter?")
        asked.get_by_role("button", name="yes").click()
        expect(self.page.locator("button.head", has_text="Filter's mesh")).to_be_visible()
        asked.get_by_role("button", name="no").click()
        expect(self.page.locator("button.head", has_text="Filter's mesh")).to_have_count(0)

    def test_how_far_it_is_cleaned_is_said_where_it_is_chosen(self):
        self.open_settings()
        self.page.get_by_role("button", name="good enough").click()
        self.said("let go half as long again; filters, seals, brushes and what keeps you safe come as ever")
        expect(self.page.get_by_role("button", name="good enough")).to_have_attribute("aria-pressed", "true")
        self.assertEqual(self.row().own["level/"], "good_enough")


class AtTheBench(BenchCase):
    opens = None

    def until(self, key):
        """Answer every step yes until this one."""
        for _ in range(30):
            self.sent()
            now = self.step().get_attribute("data-step")
            if now == key:
                return
            if self.page.get_by_label("Screws that").count():
                self.page.get_by_label("Screws that").fill("1")
            self.page.keyboard.press("2" if now.endswith(".look") else "Enter")
            expect(self.step()).not_to_have_attribute("data-step", now)
        self.fail(f"{key} never comes")

    def begin(self, slot, action):
        self.open_machine()
        self.page.goto(f"/#/machines/{self.machine_id('Ground robot')}/{slot}")
        self.press(f"Now: {action}")
        self.press("Start")

    def test_what_will_not_go_in_is_told_what_to_try_and_nothing_is_recorded_of_it(self):
        self.begin("bristle-roller", "take the hair out")
        self.until("bristle-roller.de_hair.fit")
        expect(self.page.get_by_role("img", name="The square end goes in first")).to_be_visible()
        self.press("It will not go in…")
        expect(self.step()).to_contain_text("turn the roller until its square finds the square hole")
        self.press("It is in")
        expect(self.page.get_by_text("Look for this, then try again")).to_have_count(0)

    def test_more_is_added_while_it_lies_open_and_kept_as_a_habit(self):
        self.begin("bristle-roller", "take the hair out")
        self.until("brush-cover.close")
        besides = self.page.get_by_label("Besides, if you like")
        expect(besides).to_contain_text("Guard and roller bay: clean, 1 min")
        besides.get_by_role("button", name="Always").click()
        expect(self.step()).to_have_attribute("data-step", "guard.clean.extra")
        self.page.keyboard.press("Enter")
        expect(self.step()).to_have_attribute("data-step", "brush-cover.close")
        expect(besides).to_have_count(0)
        self.page.goto(f"/#/machines/{self.machine_id('Ground robot')}/set-up")
        expect(self.page.get_by_label("Guard and roller bay: clean")).to_be_checked()


    def test_a_new_part_s_number_is_kept_with_how_it_fits(self):
        self.begin("side-brush", "replace")
        self.until("power")
        self.press("All as it should be")
        self.press("End the sitting")
        fits = self.page.get_by_label("Did it fit: Side brush")
        expect(fits.get_by_label("Its number")).to_have_value("SB-3")
        expect(fits.get_by_role("button", name="It does not fit")).to_be_disabled()
        fits.get_by_label("What is otherwise, if anything").fill("its hub is wider")
        fits.get_by_role("button", name="It does not fit").click()
        expect(self.page.get_by_text("SB-3: kept on the Shelf.")).to_be_visible()
        kept = [one for part in kinds_of(self.member).values() for one in part.numbers if one.number == "SB-3"]
        self.assertEqual([(one.check, one.note) for one in kept], [("no", "its hub is wider")])


class AskedAgain(BenchCase):
    opens = None

    def test_a_spot_left_out_stands_on_round_until_it_is_done(self):
        self.page.goto("/#/floor")
        self.press("Left out: by hand later, remind me")
        expect(self.page.get_by_role("checkbox", name="Anything sticky or wet")).to_be_checked()
        self.at(NOW + timedelta(days=1))
        page = self.sign_in(self.open_page(PHONE))
        page.goto("/")
        asks = page.get_by_text("By hand, with warm water: the sticky spot that Attic robot leaves out")
        expect(asks).to_be_visible()
        page.get_by_role("button", name="Done", exact=True).click()
        expect(asks).to_have_count(0)
        page.get_by_role("button", name="Undo").click()
        expect(asks).to_be_visible()
