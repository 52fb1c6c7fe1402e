"""The shelf on the real screen: from Round's line to what to buy, a booked delivery and the part in its machine."""

import re

from care.washability import Mark, Trait
from server.logbook.models import Entry
from server.setup.overrides import mark_part
from server.shelf import records, services
from tests.web.browser import LAPTOP, PHONE, BrowserTestCase, expect

LINER = "Paper liner, Workshop tub"
GOOD = "code,name,contents,price,lead_days\nPL-30x20,Twenty liners,PL-30 x 20,29.90,4\n"
BAD = GOOD + "P-1,No price,PL-30,cheap,2\nK-1,In itself,K-1 x 1 + PL-30 x 2,9.00,2\n"


class ShelfCase(BrowserTestCase):
    opens = None
    expected_errors = ("409", "422", "Failed to load resource")

    def open_shelf(self, page=None):
        page = page or self.page
        page.goto("/#/shelf")
        expect(page.get_by_role("heading", level=1)).to_contain_text("Order now")
        page.get_by_role("button", name=re.compile("^Enough")).click()
        return page

    def row(self, name=LINER, page=None):
        return (page or self.page).locator(f'li[data-kind="{name}"]')

    def there(self, name=LINER):
        kinds = records.kinds_of(self.member)
        spare_id = next(key for key, part in kinds.items() if part.name == name)
        return services.on_hand(self.member).get(spare_id, 0)


class FromRoundToTheMachine(ShelfCase):
    def follow(self, page):
        """Round says what to buy; it is ordered, comes, and one goes into the machine."""
        page.goto("/#/")
        wanted = page.get_by_role("region", name="Besides").get_by_role("link", name=re.compile(LINER))
        expect(wanted).to_contain_text("today")
        wanted.click()
        page.get_by_role("button", name="What to buy").click()
        best = page.get_by_role("region", name="What to buy").get_by_role("listitem").filter(has_text="Cheapest")
        expect(best).to_contain_text("Paper liners for tubs")
        best.get_by_role("button", name="I ordered this").click()
        order = page.get_by_role("region", name="On the way")
        order.get_by_role("button", name="It came").click()
        expect(order).to_contain_text("Nothing is ordered.")
        came = self.there()
        self.assertGreaterEqual(came, 5)
        page.get_by_role("button", name=re.compile("^Enough")).click()
        expect(self.row(page=page).get_by_role("status")).to_have_text(str(came))
        self.open_machine(page=page, machine="Workshop tub")
        page.get_by_role("button", name=re.compile("^liner")).first.click()
        return came

    def test_by_mouse_and_the_fitted_part_leaves_the_shelf_until_undone(self):
        came = self.follow(self.page)
        part = self.page.locator("[data-part]")
        expect(part).to_contain_text("Paper liner")
        part.get_by_role("button", name=re.compile("^Already (replaced|renewed)")).click()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_role("button", name="Broken by accident").click()
        expect(dialog.get_by_text("How was it before?")).to_have_count(0)
        dialog.get_by_role("button", name="Record it").click()
        expect(self.page.get_by_text(re.compile("^Paper liner: replaced on"))).to_be_visible()
        self.assertEqual(self.there(), came - 1)
        self.page.keyboard.press("u")
        expect(self.page.get_by_text("Undone.")).to_be_visible()
        self.assertEqual(self.there(), came)

    def test_on_a_phone(self):
        self.follow(self.sign_in(self.open_page(PHONE)))


class OnTheShelf(ShelfCase):
    def test_counting_up_down_and_undone(self):
        self.open_shelf()
        row = self.row()
        row.get_by_role("button", name=re.compile("^More")).click()
        expect(row.get_by_role("status")).to_have_text("1")
        self.page.keyboard.press("u")
        expect(row.get_by_role("status")).to_have_text("0")
        self.assertTrue(row.get_by_role("button", name=re.compile("^Fewer")).is_disabled())
        self.assertEqual(self.there(), 0)

    def test_an_order_is_called_off_and_a_list_dropped(self):
        self.open_shelf()
        self.page.keyboard.press("c")
        ways = self.page.get_by_role("region", name="What to buy")
        ways.get_by_role("button", name="a month").click()
        expect(ways.get_by_role("heading", name="What to buy for a month")).to_be_visible()
        ways.get_by_role("button", name="I ordered this").first.click()
        order = self.page.get_by_role("region", name="On the way")
        order.get_by_role("button", name="Call it off").click()
        expect(order).to_contain_text("Nothing is ordered.")
        self.page.get_by_role("button", name="Drop the list of Corner parts").click()
        expect(self.page.get_by_role("region", name="Price lists")).to_contain_text("None yet")
        expect(ways).to_contain_text("No price list has")
        self.assertEqual(records.open_orders(self.member), [])

    def test_the_page_holds_still_while_ways_to_buy_are_compared_anew(self):
        self.open_shelf()
        self.page.keyboard.press("c")
        ways = self.page.get_by_role("region", name="What to buy")
        ordered = ways.get_by_role("button", name="I ordered this").first
        expect(ordered).to_be_visible()
        high, asked = ways.bounding_box()["height"], []
        self.page.route("**/api/shelf/ways*", lambda route: asked.append(route))
        self.row().get_by_role("button", name=re.compile("^More")).click()
        self.wait_until(lambda: asked)
        expect(ways.get_by_text("Comparing singles, packs and kits")).to_be_visible()
        self.assertEqual(ways.bounding_box()["height"], high, "what lies below stays under the finger")
        expect(ways.locator("[inert] h3").first).to_have_text("Cheapest")
        asked[0].continue_()
        expect(ways.locator("[inert]")).to_have_count(0)
        ways.get_by_role("button", name="a year").click()
        self.wait_until(lambda: len(asked) > 1)
        self.assertEqual(ways.bounding_box()["height"], high)
        expect(ways.locator("[inert] h3").first).to_be_hidden()  # it was compared for three months
        asked[1].continue_()
        expect(ordered).to_be_enabled()

    def test_a_list_on_paper_says_when_the_shelf_does_not_answer(self):
        self.page.route("**/api/shelf", lambda route: route.fulfill(status=503))
        self.page.goto("/#/shelf/list/365")
        expect(self.page.get_by_role("alert")).to_contain_text("Something went wrong")
        self.page.unroute("**/api/shelf")
        self.page.get_by_role("button", name="Try again").click()
        expect(self.page.get_by_role("heading", name="Shopping list")).to_be_visible()

    def test_half_of_an_order_comes_the_rest_is_given_up_and_that_is_undone(self):
        self.open_shelf()
        self.page.keyboard.press("c")
        ways = self.page.get_by_role("region", name="What to buy")
        ways.get_by_role("button", name="a year").click()
        ways.get_by_role("button", name="I ordered this").first.click()
        order = self.page.get_by_role("region", name="On the way")
        order.get_by_role("button", name=re.compile("^Not all")).first.click()
        dialog = self.page.get_by_role("dialog", name="What came?")
        filters = dialog.get_by_role("group", name=re.compile("^Filter, Ground robot, XF"))
        expect(filters.get_by_role("status")).to_have_text("4")
        for _ in range(3):
            filters.get_by_role("button", name=re.compile("^Fewer")).click()
        expect(dialog.get_by_role("button", name="Still coming")).to_be_visible()
        dialog.get_by_role("button", name="Record it").click()
        expect(order).to_contain_text("3 of 4: Filter, Ground robot")
        expect(self.row("Filter, Ground robot").get_by_role("status")).to_have_text("2")
        order.get_by_role("button", name="The rest does not come").click()
        expect(order).not_to_contain_text("Some of it came")
        self.page.keyboard.press("u")
        expect(order).to_contain_text("Some of it came. Still to come:")

    def test_why_where_and_which_numbers(self):
        self.open_shelf()
        row = self.row("Filter, Ground robot")
        row.get_by_role("button", name="Filter, Ground robot", exact=True).click()
        told = ("a year are needed", "in 100 break", "While an order comes", "Ground robot, filter", "a tight fit")
        for words in (*told, "guarantee", "A new one puts right: filter cracked at the rim"):
            expect(row).to_contain_text(words)

    def test_what_came_and_went_and_some_from_elsewhere(self):
        self.open_shelf()
        row = self.row("Filter, Ground robot")
        row.get_by_role("button", name="Filter, Ground robot", exact=True).click()
        row.get_by_label("Of which number").select_option("XF-8")
        row.get_by_label("Where from, or where to").fill("a neighbour")
        row.get_by_role("button", name="Came from elsewhere").click()
        expect(row).to_contain_text("+1 came from elsewhere, a neighbour")
        expect(row.get_by_role("status").first).to_have_text("1")
        row.get_by_role("button", name="Gone").click()
        expect(row).to_contain_text("−1 gone")
        row.get_by_role("button", name="Gone").click()
        expect(self.page.get_by_role("alert")).to_contain_text("at most the 0 that are there")

    def test_how_much_waste_is_wanted_changes_what_is_best(self):
        self.open_shelf()
        self.page.get_by_role("button", name="What to buy").click()
        ways = self.page.get_by_role("region", name="What to buy")
        expect(ways.get_by_role("heading", name="Cheapest")).to_be_visible()
        ways.get_by_label("So that").select_option("1")
        expect(ways.get_by_role("heading", name="Cheapest")).to_be_visible()
        ways.get_by_label("So that").select_option("0")
        expect(ways.get_by_role("heading", name="Cheapest")).to_be_visible()
        expect(ways).not_to_contain_text("Nothing will use")

    def test_a_part_of_ones_own_with_bad_input_first(self):
        self.open_shelf()
        self.page.keyboard.press("n")
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_label("Name").fill("Seals")
        dialog.get_by_role("button", name="Keep it").click()
        expect(dialog.get_by_role("alert")).to_contain_text("at least one place")
        dialog.get_by_role("checkbox", name="Ground dock, bag cover seal").check()
        dialog.get_by_role("button", name="Another number").click()
        dialog.get_by_label("Number 1").fill("BS-1")
        dialog.get_by_role("button", name="Keep it").click()
        expect(self.row("Seals")).to_have_attribute("data-supply", "unforeseen")
        self.row("Seals").get_by_role("button", name="Seals", exact=True).click()
        self.row("Seals").get_by_role("button", name="Keep no longer").click()
        expect(self.row("Seals")).to_have_count(0)

    def test_one_takes_turns_in_a_set(self):
        """Only what dries takes turns: an exhaust filter without a mark stays dry."""
        self.open_shelf()
        expect(self.row("Exhaust filter, Hall upright")).not_to_have_attribute("data-supply", "turns")
        upright = self.machine_id("Hall upright")
        mark_part(member=self.member, machine_id=upright, slot="exhaust", marks={Trait.MARKED: Mark.YES})
        self.page.reload()
        row = self.row("Exhaust filter, Hall upright")
        row.get_by_role("button", name="Let one take turns").click()
        self.page.get_by_role("dialog").get_by_role("button", name="Let it take turns").click()
        expect(row).not_to_have_attribute("data-supply", "turns")
        self.assertEqual(self.there("Exhaust filter, Hall upright"), 0)

    def test_a_list_as_a_file_is_told_line_by_line_and_taken_whole(self):
        self.open_shelf()
        lists = self.page.get_by_role("region", name="Price lists")
        lists.get_by_role("button", name="Take a list as a file").click()
        lists.get_by_label("Shop").fill("Own shop")
        file = lists.get_by_label("File (CSV, UTF-8)")
        file.set_input_files({"name": "bad.csv", "mimeType": "text/csv", "buffer": BAD.encode()})
        lists.get_by_role("button", name="Use this list").click()
        bad = lists.get_by_role("list", name="Lines to mend").get_by_role("listitem")
        expect(bad).to_have_count(2)
        expect(bad.first).to_contain_text("Line 3: price: got 'cheap'")
        file.set_input_files({"name": "good.csv", "mimeType": "text/csv", "buffer": GOOD.encode()})
        lists.get_by_role("button", name="Use this list").click()
        expect(lists).to_contain_text("Own shop, 1 offer")
        self.assertEqual(Entry.objects.of(self.member.household_id).filter(kind="prices").count(), 2)

    def test_a_shop_that_does_not_answer(self):
        with self.settings(SHOP="http://127.0.0.1:9/offers.json"):
            self.open_shelf()
            lists = self.page.get_by_role("region", name="Price lists")
            lists.get_by_role("button", name="Ask the shop").click()
            expect(lists.get_by_role("alert")).to_contain_text("The shop does not answer")
            expect(lists).to_contain_text("Corner parts")

    def test_on_paper(self):
        self.page.goto("/#/shelf/list/365")
        expect(self.page.get_by_role("heading", name="What for")).to_be_visible()
        expect(self.page.get_by_role("article")).to_contain_text(f"× {LINER} (PL-30).")

    def test_nothing_that_axe_finds_nothing_cut_in_both_themes_and_widths(self):
        for viewport, scheme in ((LAPTOP, "light"), (LAPTOP, "dark"), (PHONE, "dark")):
            with self.subTest(viewport["width"], scheme=scheme):
                page = self.open_shelf(self.sign_in(self.open_page(viewport, color_scheme=scheme)))
                page.get_by_role("button", name="What to buy").click()
                expect(page.get_by_role("heading", name="Cheapest")).to_be_visible()
                self.row(page=page).get_by_role("button", name=LINER, exact=True).click()
                self.assert_accessible(page, "Shelf")
                self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), viewport["width"])
