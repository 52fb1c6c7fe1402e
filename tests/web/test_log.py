"""The Log on the screen: found, opened, taken back with a reason, printed."""

from server.logbook.models import Entry
from tests.web.browser import PHONE, BrowserTestCase, expect


class TheLog(BrowserTestCase):
    opens = "/#/log"

    def lines(self, page=None):
        return (page or self.page).get_by_role("region", name="What happened").locator("button[aria-expanded]")

    def test_is_found_by_words_and_choices_opens_and_is_taken_back_with_a_reason(self):
        page = self.page
        expect(self.lines().first).to_be_visible()
        self.assert_accessible(page, "the log")
        page.get_by_label("Find").fill("ran")
        page.get_by_label("Machine").select_option("Hall upright")
        page.get_by_label("Kind").select_option("Runs")
        expect(self.lines().first).to_contain_text("Hall upright: Ran")
        count = self.lines().count()
        self.lines().first.click()
        page.get_by_label("Why it is wrong").fill("it was the neighbour's")
        page.get_by_role("button", name="Take it back").click()
        expect(page.get_by_text("Undone.")).to_be_visible()
        void = Entry.objects.of(self.member.household_id).filter(kind="void").latest("sequence")
        self.assertEqual(void.reason, "it was the neighbour's")
        page.get_by_label("also what was taken back").check()
        expect(page.locator("span.line-through")).to_have_count(1)
        page.get_by_role("button", name="Everything again").click()
        expect(page.get_by_role("button", name="Older ones")).to_be_enabled()
        self.assertGreater(count, 1)
        sitting = self.lines().filter(has_text="Fine filter washed").first
        sitting.click()
        expect(page.get_by_role("listitem").filter(has_text="Fine filter taken out")).to_be_visible()
        before = self.lines().count()
        page.get_by_role("button", name="Older ones").click()
        self.wait_until(lambda: self.lines().count() > before)
        page.get_by_label("Find").fill("nothing like that")
        expect(page.get_by_text("Nothing like that happened.")).to_be_visible()

    def test_on_a_phone_the_rest_of_what_may_be_asked_is_folded(self):
        phone = self.sign_in(self.open_page(PHONE))
        expect(self.lines(phone).first).to_be_visible()
        expect(phone.get_by_label("Kind")).to_be_hidden()
        phone.get_by_role("button", name="By machine").click()
        phone.get_by_label("Kind").select_option("Notes")
        expect(self.lines(phone).first).to_contain_text("Note")
        self.assert_nothing_cut(phone, "the log on a phone")
