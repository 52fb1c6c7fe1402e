"""Setting machines up as somebody new: by picture, in few actions, with an honest "do not know"."""

import time

from datetime import date
from django.contrib.auth import get_user_model

from server.household.services import create_household
from server.machines.models import Machine
from server.due.state import machine_states
from tests.care.world import fact
from tests.web.browser import PHONE, BrowserTestCase, expect


class NewHouseholdTestCase(BrowserTestCase):
    """An owner whose household has nothing yet."""

    opens = None

    def setUp(self):
        super().setUp()
        get_user_model().objects.filter(username="keeper").update(username="somebody")
        self.member = create_household(
            name="New house", time_zone="UTC", user_name="keeper", password="quillgate", person="Ash"
        )
        self.page.context.clear_cookies()
        self.page.goto("/")
        self.page.get_by_label("User name").fill("keeper")
        self.page.get_by_label("Password").fill("quillgate")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("heading", name="No machine yet.")).to_be_visible()
        self.actions = 0

    def press(self, name, role="button", exact=False):
        """One action of a person: pressing what has that name."""
        self.actions += 1
        self.page.get_by_role(role, name=name, exact=exact).first.click()

    def fill(self, label, text):
        """One action of a person: typing into a field."""
        self.actions += 1
        self.page.get_by_label(label).fill(text)

    def machines(self):
        return Machine.objects.of(self.member.household_id)


class InFewActions(NewHouseholdTestCase):
    def test_a_robot_with_its_dock_and_an_upright(self):
        began = time.monotonic()
        self.press("Add a machine", "link")
        self.press("by itself")
        self.press("Robot with two rollers")
        self.fill("What do you call it?", "Ground robot")
        self.press("Washing dock with a bag")
        self.press("Add it")
        expect(self.page.get_by_role("heading", name="Ground robot")).to_be_visible()
        self.page.goto("/#/")
        self.press("Add a machine", "link")
        self.press("pushed, with a cord")
        self.press("Upright with a belt")
        self.fill("What do you call it?", "Hall upright")
        self.press("Add it")
        expect(self.page.get_by_role("heading", name="Hall upright")).to_be_visible()
        took = time.monotonic() - began
        print(f"\nset-up of robot, dock and upright: {self.actions} actions, {took:.1f} s of the browser's own time")
        self.assertLessEqual(self.actions, 15)
        self.assertEqual(
            sorted(self.machines().values_list("name", flat=True)), ["Ground robot", "Ground robot: dock", "Hall upright"]
        )

    def test_shows_what_it_takes_and_its_filters_before_it_is_added(self):
        self.press("Add a machine", "link")
        self.press("Robot that mops")
        takes = self.page.get_by_role("region", name="What it takes")
        expect(takes).to_contain_text("of care a week")
        expect(takes).to_contain_text("Its 2 filters")
        expect(takes).to_contain_text("Hidden exhaust foams")
        before = takes.inner_text()
        self.press("Self-emptying dock with a bag")
        expect(takes).to_contain_text("Dust bag")
        self.assertNotEqual(takes.inner_text(), before)
        self.press("Another kind")
        self.press("in one hand, no cord")
        self.press("Cordless with one filter")
        expect(takes).to_contain_text("Most machines have two, some three")

    def test_questions_lead_to_one_picture_and_can_be_taken_back(self):
        self.press("Add a machine", "link")
        kinds = self.page.locator(".kind")
        expect(kinds).to_have_count(19)
        self.press("pulled behind or worn")
        expect(kinds).to_have_count(4)
        self.press("in a bag")
        expect(kinds).to_contain_text(["Cylinder with a bag", "Cylinder of an unknown model"])
        self.press("in a bag × (take back: Where does the dirt end up?)")
        expect(kinds).to_have_count(4)


class WhatIsKnown(NewHouseholdTestCase):
    expected_errors = ("422", "409")

    def begin(self, kind="Upright with a belt"):
        self.page.goto("/#/add")
        self.press(kind)

    def state(self):
        return next(iter(machine_states(self.member)))

    def test_nothing_gives_wide_dates_that_one_look_round_makes_firm(self):
        self.begin()
        self.press("Add it")
        expect(self.page.get_by_text("Nobody knows how far", exact=False).first).to_be_visible()
        self.press("Look round", "link")
        expect(self.page.get_by_role("heading", level=1)).to_contain_text("Look round")
        heading = self.page.get_by_role("heading", level=2)
        expect(heading).to_contain_text("Brush roll")
        self.page.get_by_role("button", name="A few hairs").first.click()
        expect(self.page.get_by_text("Brush roll: a few hairs", exact=False)).to_be_visible()
        self.assertFalse(next(d for d in self.state().due if (d.slot, d.action) == ("roll", "de_hair")).unsure)
        before = heading.inner_text()
        self.press("Skip: I cannot see it now")
        expect(heading).not_to_have_text(before)
        for _ in range(40):
            if self.page.get_by_role("button", name="Skip").count() == 0:
                break
            self.page.locator(".btn-lg").nth(1).click()
            expect(self.page.locator(".btn-lg:disabled")).to_have_count(0)
        expect(self.page.get_by_text("The rest waits", exact=False)).to_be_visible()

    def test_a_day_for_all_another_for_one_part_and_a_spare(self):
        self.begin()
        self.press("On a day I know")
        self.press("A month ago")
        self.page.get_by_text("Open it if one was cleaned on another day").click()
        self.press("Another day: Foam filter")
        self.page.get_by_label("Foam filter: last done on").fill("2026-11-20")
        self.page.get_by_label("Foam filter: last done on").press("Tab")
        self.press("More: Spares of Foam filter")
        self.press("Add it")
        expect(self.page.get_by_role("heading", name="Upright with a belt")).to_be_visible()
        state = self.state()
        origin = {(d.slot, d.action): fact(d, "since_service") for d in state.due}
        self.assertEqual(origin["foam", "wash"].day, date(2026, 11, 20))
        self.assertEqual(origin["cyclone", "clean"].day, date(2026, 10, 25))
        self.assertIn("Foam filter B", [item.name for item in state.items.values()])

    def test_what_is_wrong_is_told_and_nothing_is_lost(self):
        self.begin("Robot with a belt-driven brush")
        expect(self.page.get_by_text("Taken as not washable until", exact=False)).to_be_visible()
        self.press("Yes", exact=True)
        self.fill("Minutes a run", "0")
        self.press("Add it")
        minutes = self.page.get_by_label("Minutes a run")
        self.assertFalse(minutes.evaluate("field => field.checkValidity()"), "the browser says the limit")
        self.assertEqual(self.machines().count(), 0)
        self.fill("Minutes a run", "45")
        self.press("Add it")
        expect(self.page.get_by_role("heading", name="Robot with a belt-driven brush")).to_be_visible()
        self.assertEqual(self.machines().get().features, ["washable-filter"])
        self.begin("Robot with a belt-driven brush")
        expect(self.page.get_by_label("What do you call it?")).to_have_value("Robot with a belt-driven brush 2")
        self.fill("What do you call it?", "robot WITH a belt-driven brush")
        self.press("Add it")
        expect(self.page.get_by_role("alert")).to_contain_text("already")

    def test_a_dock_is_given_to_its_robot_later_too(self):
        self.begin("Robot with a belt-driven brush")
        self.press("Add it")
        expect(self.page.get_by_role("heading", name="Robot with a belt-driven brush")).to_be_visible()
        self.page.goto("/#/add")
        self.press("it stays put: a dock")
        self.press("Self-emptying dock with a bin")
        self.page.get_by_label("Whose dock is it?").select_option("Robot with a belt-driven brush")
        self.press("Add it")
        expect(self.page.get_by_role("heading", name="Self-emptying dock with a bin")).to_be_visible()
        self.assertEqual(self.machines().get(archetype="dock-bin").serves.archetype, "robot-belt")


class OnEveryScreen(BrowserTestCase):
    """Every new screen, in both themes and both widths: nothing that axe-core finds, nothing cut."""

    opens = None

    SCREENS = ["/add", "/household", "/floor", "/machines/{id}", "/machines/{id}/set-up", "/look/{id}", "/add/{id}"]

    def test_nothing_is_inaccessible_or_cut(self):
        machine = self.robot().machine.id
        for look, more in {
            "light": {},
            "dark": {"color_scheme": "dark"},
            "phone": {"viewport": PHONE},
            "dark phone": {"viewport": PHONE, "color_scheme": "dark"},
        }.items():
            page = self.sign_in(self.open_page(**more))
            for screen in self.SCREENS:
                with self.subTest(screen=screen, look=look):
                    page.goto(f"/#{screen.format(id=machine)}")
                    expect(page.get_by_role("heading").first).to_be_visible()
                    page.wait_for_timeout(150)
                    if screen.startswith("/add"):
                        page.locator(".kind").first.click()
                        expect(page.get_by_role("region", name="What it takes")).to_be_visible()
                        page.locator("details summary").first.click()
                    if screen.endswith("set-up"):
                        page.get_by_role("button", name="Filter", exact=False).first.click()
                    self.assert_accessible(page, f"{screen} {look}", colours_only="dark" in look)
                    self.assert_nothing_cut(page, f"{screen} {look}")
            page.context.close()
