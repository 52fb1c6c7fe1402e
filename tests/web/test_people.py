"""People on the screen: the first one, somebody invited who helps from a phone, how each likes things shown."""

import re

from django.core.management import call_command

from server.household.models import Member
from server.machines.models import Run
from tests.web.browser import PHONE, BrowserTestCase, expect


class People(BrowserTestCase):
    opens = "/#/household/people"
    expected_errors = ("422", "401", "404")

    def link_for(self, name, role="helper"):
        self.page.get_by_label("What they are called").fill(name)
        self.page.get_by_role("button", name=re.compile(f"^{role}")).first.click()
        self.page.get_by_role("button", name="Make a link").click()
        return self.page.get_by_role("region", name="The link").locator("code").inner_text()

    def come_in(self, address, name, page):
        page.goto(address)
        page.get_by_label("User name").fill(name)
        page.get_by_label("Password").fill("a-good-one-7")
        page.get_by_role("button", name="Come in").click()
        expect(page.get_by_role("region", name="House board")).to_be_visible()

    def test_somebody_invited_helps_from_a_phone_under_their_own_name(self):
        address = self.link_for("Juniper")
        self.assert_accessible(self.page, "people, with a link")
        phone = self.open_page(PHONE)
        self.come_in(address, "juniper", phone)
        self.ran(phone).click()
        expect(phone.get_by_text("Ground robot: a run of")).to_be_visible()
        helper = Member.objects.of(self.member.household_id).get(name="Juniper")
        runs = Run.objects.of(self.member.household_id).filter(entry__by=helper)
        self.wait_until(lambda: runs.count() == 1, phone)
        phone.goto("/#/household/people")
        expect(phone.get_by_text("An owner lets people in")).to_be_visible()
        self.assert_nothing_cut(phone, "people on a phone")
        phone.goto(address)
        expect(phone.get_by_text("This link is not good any more.")).to_be_visible()

    def test_who_looks_only_has_nothing_to_press_and_leaves_again(self):
        viewer = self.open_page()
        self.come_in(self.link_for("Tansy", "viewer"), "tansy", viewer)
        expect(self.ran(viewer)).to_be_disabled()
        self.page.reload()
        self.page.get_by_role("button", name=re.compile("Tansy.*viewer")).click()
        self.page.get_by_role("button", name="Tansy leaves…").click()
        self.page.get_by_role("button", name="Tansy leaves", exact=True).click()
        expect(self.page.get_by_text("What they recorded stays.")).to_be_visible()
        viewer.reload()
        expect(viewer.get_by_role("button", name="Sign in")).to_be_visible()

    def test_what_somebody_likes_holds_on_every_device_and_a_second_household_is_one_choice_away(self):
        self.page.goto("/#/household/you")
        self.page.get_by_role("button", name="larger").click()
        expect(self.page.locator("html")).to_have_class("large")
        self.page.get_by_role("button", name="dark", exact=True).click()
        self.assert_accessible(self.page, "you, in the dark")
        other = self.sign_in(self.open_page(PHONE))
        expect(other.locator("html")).to_have_class("large")
        expect(other.locator("html")).to_have_attribute("data-theme", "cellar")
        other.goto("/#/household/you")
        self.assert_nothing_cut(other, "you, with large letters on a phone")
        self.page.get_by_label("Another one: its name").fill("Garden hut")
        self.page.get_by_role("button", name="Make it").click()
        expect(self.page.get_by_role("heading", name="No machine yet.")).to_be_visible()
        self.page.get_by_label("Household", exact=True).select_option("Quillgate 9")
        expect(self.page.get_by_role("region", name="House board")).to_be_visible()

    def test_a_new_password_is_told_and_another_browser_signed_out(self):
        self.sign_in(self.open_page())
        self.page.goto("/#/household/you")
        self.page.get_by_label("The one until now").fill("guess")
        self.page.get_by_label("The new one").fill("a-good-one-7")
        self.page.get_by_role("button", name="Change it").click()
        expect(self.page.get_by_text("This is not your password.")).to_be_visible()
        self.page.get_by_label("The one until now").fill("quillgate")
        self.page.get_by_role("button", name="Change it").click()
        expect(self.page.get_by_text("The new password holds.")).to_be_visible()
        expect(self.page.get_by_role("button", name="Sign out everywhere else")).to_have_count(0)


class TheFirst(BrowserTestCase):
    opens = None

    def test_is_made_where_nobody_has_an_account(self):
        call_command("flush", interactive=False, verbosity=0)
        page = self.page
        page.context.clear_cookies()
        page.goto("/")
        expect(page.get_by_role("heading", name="Welcome")).to_be_visible()
        self.assert_accessible(page, "the first start")
        told = {"What your": "Mill Lane 4", "Your name": "Ash", "User name": "ash", "Password": "a-good-one-7"}
        for label, value in told.items():
            page.get_by_label(label).fill(value)
        page.keyboard.press("Enter")
        expect(page.get_by_role("heading", name="No machine yet.")).to_be_visible()
