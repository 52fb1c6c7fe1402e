"""Season on the screen: looked at, moved by mouse and by keys, on a phone, in a calendar, and lived otherwise."""

import re
from datetime import date, timedelta

from icalendar import Calendar
from icalendar import Event as CalendarEvent

from server.season.planning import season_of
from server.season.records import habits_of
from tests.web.browser import LAPTOP, PHONE, BrowserTestCase, expect

TODAY = date(2026, 11, 24)


class Seasons(BrowserTestCase):
    """The plan of the demo's half year: a few seconds of work are allowed to it."""

    opens = "/#/season"
    plans_thoroughly = True

    def setUp(self):
        super().setUp()
        expect(self.lead()).to_be_visible()

    def lead(self):
        return self.page.get_by_role("heading", level=1).filter(has_text="visits until")

    def line(self):
        return self.page.get_by_role("group", name="Visits of the coming half year")

    def visits(self):
        return [visit.day.date for visit in season_of(self.member).season.visits]

    def planned(self):
        """Wait until it was planned anew."""
        expect(self.page.get_by_text("Planning around that…")).to_have_count(0)

    def visit(self):
        return self.page.get_by_role("region", name="The visit")


class Looked(Seasons):
    looks_only = True

    def test_says_how_many_visits_and_leads_to_todays_plan(self):
        expect(self.lead()).to_have_text(re.compile(r"^\d+ visits until May, about \d+ h\.$"))
        expect(self.line().get_by_role("button")).to_have_count(len(self.visits()))
        expect(self.visit().get_by_role("heading")).to_contain_text("Today, Tuesday 24 November")
        self.page.get_by_role("button", name="Plan today’s visit").click()
        expect(self.page.get_by_role("button", name="Start")).to_be_visible()

    def test_keys_go_from_visit_to_visit(self):
        second = self.visits()[1]
        self.page.keyboard.press("j")
        expect(self.visit().get_by_role("heading")).to_contain_text(f"{second.day} {second:%B}")
        self.page.keyboard.press("k")
        expect(self.visit().get_by_role("heading")).to_contain_text("Today")
        chosen = self.line().locator('[aria-pressed="true"]')
        chosen.focus()
        self.page.keyboard.press("ArrowRight")
        expect(self.line().locator(":focus")).to_have_attribute("data-date", str(second))

    def test_beside_each_on_its_date_it_has_fewer_days_and_less_time(self):
        table = self.page.get_by_role("table")
        ours, own = table.get_by_role("row").filter(has_text="days with a visit").get_by_role("cell").all_inner_texts()
        self.assertLess(int(ours), int(own) / 3)
        expect(self.page.get_by_role("heading", name="Between visits")).to_be_visible()


    def test_nothing_that_axe_finds_nothing_cut_in_both_themes_and_widths(self):
        for viewport, scheme in ((LAPTOP, "light"), (LAPTOP, "dark"), (PHONE, "dark")):
            for address, name in (("/season", "Between visits"), ("/season/what-if", "As it is now")):
                with self.subTest(viewport["width"], scheme=scheme, address=address):
                    page = self.sign_in(self.open_page(viewport, color_scheme=scheme))
                    page.goto(f"/#{address}")
                    expect(page.get_by_role("heading", name=name)).to_be_visible()
                    self.assert_accessible(page, address)
                    self.assert_nothing_cut(page, address)


class Moved(Seasons):
    def test_a_visit_is_dragged_to_another_day_and_undone(self):
        target = self.visits()[3]
        step = self.line().locator(f'[data-date="{target}"]')
        box = step.bounding_box()
        x, y = box["x"] + box["width"] / 2, box["y"] + 60
        width = self.line().bounding_box()["width"]
        day = (width - 148 - 36) / 182
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        self.page.mouse.move(x + day, y, steps=3)
        expect(self.line().locator(".ghost text")).to_have_count(1)
        self.page.mouse.up()
        there = target + timedelta(days=1)
        expect(self.line().locator(f'[data-date="{there}"]')).to_have_count(1)
        self.planned()
        self.assertIn(there, self.visits())
        expect(self.visit()).to_contain_text("put here by you")
        self.page.get_by_role("button", name="Take back").click()
        expect(self.line().locator(f'[data-date="{there}"]')).to_have_count(0)

    def test_by_keys_a_visit_goes_a_day_later_when_enter_says_so(self):
        target = self.visits()[2]
        step = self.line().locator(f'[data-date="{target}"]')
        step.focus()
        self.page.keyboard.press("j")
        self.page.keyboard.press("j")
        step.focus()
        self.page.keyboard.press("Shift+ArrowRight")
        self.page.keyboard.press("Escape")
        self.assertIn(target, self.visits())
        self.page.keyboard.press("Shift+ArrowRight")
        expect(self.page.get_by_text("Enter puts it there.")).to_have_count(1)
        self.page.keyboard.press("Enter")
        there = target + timedelta(days=1)
        expect(self.line().locator(f'[data-date="{there}"]')).to_have_count(1)

    def test_a_visit_is_moved_from_a_list_split_and_skipped(self):
        first = self.visits()[1]
        self.page.keyboard.press("j")
        self.page.keyboard.press("v")
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_label("Another day").fill(str(first + timedelta(days=2)))
        dialog.get_by_role("button", name=re.compile("^Put it on")).click()
        expect(self.line().locator(f'[data-date="{first + timedelta(days=2)}"]')).to_have_count(1)
        self.planned()
        self.visit().get_by_role("button", name="Split").click()
        self.visit().get_by_role("checkbox").first.check()
        self.visit().get_by_role("button", name="Put it there").click()
        self.planned()
        expect(self.visit().get_by_role("button", name="Skip")).to_be_enabled()
        self.visit().get_by_role("button", name="Skip").click()
        self.planned()
        expect(self.page.get_by_text(re.compile("^No visit on"))).not_to_have_count(0)

    def test_a_day_that_is_not_in_the_half_year_is_refused_and_nothing_is_lost(self):
        before = self.visits()
        self.page.keyboard.press("v")
        dialog = self.page.get_by_role("dialog")
        box = dialog.get_by_label("Another day")
        box.evaluate("(e) => e.removeAttribute('max')")
        box.fill("2029-01-01")
        self.expected_errors = ("422",)
        dialog.get_by_role("button", name=re.compile("^Put it on")).click()
        expect(self.page.get_by_text("a day within 26 weeks").first).to_be_visible()
        self.assertEqual(before, self.visits())

    def test_other_days_are_told_and_the_plan_follows(self):
        self.page.keyboard.press("d")
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_text("Tue", exact=True).click()
        dialog.get_by_label("Minutes a day").fill("70")
        dialog.get_by_role("button", name="Plan with these").click()
        expect(dialog).to_have_count(0)
        expect(self.page.get_by_text("Saturdays, up to 70 min.")).to_be_visible()
        self.assertEqual(("SA",), habits_of(self.member).hands[0].weekdays)
        self.assertEqual({5}, {day.weekday() for day in self.visits()})
        self.page.goto("/#/")
        expect(self.page.get_by_role("heading", level=1)).to_contain_text("nothing until Saturday")


class OnAPhone(Seasons):
    def test_visits_are_a_list_that_opens_in_place(self):
        page = self.page
        page.set_viewport_size(PHONE)
        rows = page.get_by_role("region", name="Visits").locator(".row")
        expect(rows).to_have_count(len(self.visits()))
        expect(rows.first).to_contain_text("Today")
        rows.nth(2).get_by_role("button").first.click()
        expect(rows.nth(2).get_by_role("button", name="Move it")).to_be_visible()
        expect(rows.first.get_by_role("button", name="Move it")).to_have_count(0)
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), PHONE["width"])


class WithCalendars(Seasons):
    def test_a_private_address_is_shown_once_and_closed_again(self):
        self.page.keyboard.press("c")
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_role("button", name="Make a private address").click()
        address = dialog.get_by_label("Address for the calendar").input_value()
        read = Calendar.from_ical(self.page.request.get(address).text())
        self.assertEqual(len(self.visits()), len(read.walk("VEVENT")))
        dialog.get_by_role("button", name="Close").first.click()
        self.page.keyboard.press("c")
        expect(dialog).to_contain_text("last used")
        self.assertNotIn(address, dialog.inner_text())
        dialog.get_by_role("button", name="Close the address").click()
        dialog.get_by_role("button", name="Yes, close the address").click()
        expect(dialog.get_by_role("button", name="Make a private address")).to_be_visible()
        self.assertEqual(404, self.page.request.get(address).status)

    def test_holidays_come_in_from_a_file_after_a_look(self):
        made = Calendar()
        away = CalendarEvent()
        away.add("uid", "a")
        away.add("summary", "At the sea")
        away.add("dtstart", date(2027, 1, 4))
        away.add("dtend", date(2027, 1, 18))
        made.add_component(away)
        self.page.keyboard.press("c")
        dialog = self.page.get_by_role("dialog")
        upload = dialog.get_by_label("Holidays or a robot’s schedule, as an .ics file")
        self.expected_errors = ("422",)
        upload.set_input_files({"name": "x.ics", "mimeType": "text/calendar", "buffer": b"no calendar"})
        expect(dialog).to_contain_text("this is no calendar that can be read")
        upload.set_input_files({"name": "y.ics", "mimeType": "text/calendar", "buffer": made.to_ical()})
        expect(dialog).to_contain_text("At the sea")
        dialog.get_by_role("button", name="Take these").click()
        expect(dialog).to_have_count(0)
        self.planned()
        self.assertFalse([day for day in self.visits() if date(2027, 1, 4) <= day <= date(2027, 1, 17)])


class LivedOtherwise(Seasons):
    opens = "/#/season/what-if"

    def lead(self):
        return self.page.get_by_role("heading", level=1).filter(has_text="of your time a year")

    def test_a_year_is_lived_otherwise_and_then_for_good(self):
        self.page.get_by_role("button", name="Ask what if").click()
        dialog = self.page.get_by_role("dialog")
        expect(dialog.get_by_role("button", name="Live through a year")).to_be_disabled()
        dialog.get_by_role("combobox", name="Ground robot").select_option("2")
        dialog.get_by_role("button", name="Live through a year").click()
        way = self.page.get_by_role("region", name="Way 1")
        expect(way).to_contain_text("Ground robot on 2 days a week")
        expect(way).to_contain_text("less (")
        way.get_by_role("button", name="Live so from now on").click()
        way.get_by_role("button", name="Yes, from now on").click()
        expect(self.page.get_by_role("heading", name=re.compile("visits until"))).to_be_visible()
        self.page.get_by_role("button", name="Undo").click()
        expect(self.page.get_by_text("Undone.")).to_be_visible()
