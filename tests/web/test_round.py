"""Round: the board, the sentence, one-tap runs, and tasks that are done already."""

import re
from datetime import timedelta

from django.contrib.auth import get_user_model

from server.household.models import Member
from server.logbook.models import Entry
from server.machines.models import Run
from tests.web.browser import NOW, PHONE, BrowserTestCase, expect


class TheBoard(BrowserTestCase):
    looks_only = True

    def test_says_what_to_do_first_with_minutes_and_reason(self):
        lead = self.page.get_by_role("region", name="Today")
        expect(lead.get_by_role("heading")).to_have_text("About 23 minutes of work today, then nothing until Saturday.")
        expect(lead).to_contain_text("Attic robot is out of use: its fine filter is out.")
        expect(lead).to_contain_text("Start with the filter of Ground robot: it stands at 110 % of its interval.")
        first = self.opened(self.rows())
        expect(first).to_contain_text("Filter wash")
        expect(first).to_contain_text(
            "5.8 h of running since it went in clean (Thu 12 Nov); what you found makes it every 7 days of usual use"
        )

    def test_shows_every_machine_and_each_dock_under_its_robot(self):
        names = self.page.locator(".machine h3").all_inner_texts()
        self.assertEqual(
            names,
            ["Attic robot", "Attic dock", "Ground robot", "Ground dock", "Hall upright", "Stairs cordless", "Workshop tub"],
        )

    def test_tells_each_chamber_s_state_in_words_too(self):
        board = self.page.get_by_role("group", name="Ground robot, air path")
        expect(board.get_by_role("button", name="filter wash, due")).to_be_visible()
        expect(board.get_by_role("button", name="rollers de-hair, overdue")).to_be_visible()
        expect(board.get_by_role("button", name="caster 89 % used, wearing")).to_be_visible()
        board.get_by_role("button", name="3 more, fresh").click()
        expect(self.page.get_by_role("button", name=re.compile("^bumper .*fresh"))).to_be_visible()
        self.page.goto("/#/")
        attic = self.page.get_by_role("group", name="Attic robot, air path")
        expect(attic.get_by_role("button", name="filter dry in 5 days, drying")).to_be_visible()

    def test_a_chamber_opens_its_part(self):
        self.page.get_by_role("button", name="filter wash, due").click()
        expect(self.page.locator('[data-part="filter"]')).to_be_visible()

    def test_coming_tasks_have_a_distance_with_a_band_not_a_date(self):
        coming = self.page.locator(".coming")
        expect(coming).to_contain_text("Next: foam filter of Hall upright, now or within 11 days")
        coming.locator("summary").click()
        expect(coming).to_contain_text("Foam filter: wash")
        expect(coming).to_contain_text("Hall upright, now or within 11 days")


class ItRan(BrowserTestCase):
    def test_one_tap_moves_board_list_and_sentence_and_undo_moves_them_back(self):
        before = self.rows().count()
        lead = self.page.get_by_role("region", name="Today")
        sentence = lead.inner_text()
        first = self.opened("Filter")
        self.ran().click()
        expect(self.page.get_by_text("Ground robot: a run of 50 min is logged.")).to_be_visible()
        expect(self.row_of()).to_contain_text("50 min today")
        expect(first).to_contain_text("6.6 h of running")
        dock = self.page.get_by_role("group", name="Ground dock, air path")
        expect(dock.get_by_role("button", name="bag 83 % used, wearing")).to_be_visible()
        self.assertNotEqual(lead.inner_text(), sentence)
        self.page.get_by_role("button", name="Undo").click()
        expect(self.page.get_by_text("Undone.")).to_be_visible()
        expect(first).to_contain_text("5.8 h of running")
        expect(self.rows()).to_have_count(before)
        self.assertEqual(lead.inner_text(), sentence)

    def test_with_other_minutes_on_another_day(self):
        dialog = self.more()
        dialog.get_by_label("Minutes", exact=True).fill("35")
        dialog.get_by_label("Day", exact=True).fill("2026-11-22")
        dialog.get_by_role("button", name="It ran").click()
        expect(self.page.get_by_text("a run of 35 min is logged")).to_be_visible()
        run = Run.objects.of(self.member.household_id).get(run_s=35 * 60, day="2026-11-22")
        self.assertEqual((run.start, run.mopped), (None, False))

    def more(self, machine="Ground robot"):
        """What is not usual: another day, did not run, paused."""
        self.page.get_by_role("button", name=f"more… about {machine}").click()
        return self.page.get_by_role("dialog")

    def test_not_this_week_takes_assumed_runs_back_and_undo_brings_them(self):
        form = self.row_of(machine="Stairs cordless")
        expect(form).to_contain_text("ran yesterday, as usual")
        self.more("Stairs cordless").get_by_role("button", name="Not this week").click()
        expect(form).to_contain_text("ran 6 days ago")
        self.page.get_by_role("button", name="Undo").click()
        expect(form).to_contain_text("ran yesterday, as usual")

    def test_a_pause_is_ended_later_by_one_tap(self):
        self.more("Hall upright").get_by_role("button", name="Pause it").click()
        form = self.row_of(machine="Hall upright")
        expect(form).to_contain_text("paused since")
        self.page.reload()
        expect(form).to_contain_text("paused since Tue 24 Nov")
        form.get_by_role("button", name="Back in use").click()
        expect(form).not_to_contain_text("paused")

    def test_everybody_away_is_told_on_the_board(self):
        self.page.get_by_role("button", name="Away, or a busy time…").click()
        self.page.get_by_label("Until, if known").fill("2026-12-06")
        self.page.get_by_role("button", name="We are away").click()
        expect(self.page.locator(".machine", has_text="Hall upright")).to_contain_text("everybody away until Sun 6 Dec")

    def test_by_key_and_undone_by_key(self):
        self.page.keyboard.press("r")
        expect(self.page.get_by_text("a run of 50 min is logged")).to_be_visible()
        self.page.keyboard.press("u")
        expect(self.page.get_by_text("Undone.")).to_be_visible()


class BadRuns(BrowserTestCase):
    expected_errors = ("422", "409")

    def test_are_refused_with_field_and_way_out_and_nothing_is_written(self):
        written = Entry.objects.of(self.member.household_id).count()
        alert = self.page.get_by_role("alert")
        self.page.get_by_role("button", name="more… about Ground robot").click()
        dialog = self.page.get_by_role("dialog")
        minutes = dialog.get_by_label("Minutes", exact=True)
        for value in ("0", "-20", "1500"):
            minutes.fill(value)
            dialog.get_by_role("button", name="It ran").click()
            self.assertFalse(minutes.evaluate("field => field.checkValidity()"), "the browser itself says the limit")
        self.assertEqual((minutes.get_attribute("min"), minutes.get_attribute("max")), ("0.1", "1440"))
        minutes.fill("50")
        dialog.get_by_label("Day", exact=True).fill("2026-11-27")
        dialog.get_by_role("button", name="It ran").click()
        expect(alert).to_contain_text("day: this run is in the future")
        dialog.get_by_label("Day", exact=True).fill("2026-11-23")
        dialog.get_by_label("Started, if known").fill("10:40")
        dialog.get_by_role("button", name="It ran").click()
        expect(alert).to_contain_text("already ran")
        expect(minutes).to_have_value("50")
        self.assertEqual(Entry.objects.of(self.member.household_id).count(), written)


class AlreadyDone(BrowserTestCase):
    def test_last_tuesday_without_a_sheet(self):
        row = self.page.locator("li[data-task]", has_text="Rubber roller")
        self.opened(row).get_by_role("button", name="Already done…").click()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_role("button", name="A week ago").click()
        dialog.get_by_role("button", name="Far gone").click()
        dialog.get_by_role("button", name="Record it").click()
        expect(self.page.get_by_text("Rubber roller: de-haired on Tue 17 Nov.")).to_be_visible()
        expect(dialog).to_be_hidden()
        expect(row).to_have_count(0)
        self.assertNotIn("rubber-roller", self.due_slots())
        self.page.get_by_role("button", name="Undo").click()
        expect(row).to_have_count(1)

    def test_by_keys_alone(self):
        for _ in range(4):
            self.page.keyboard.press("j")
        row = self.page.locator("li[aria-current]")
        expect(row).to_contain_text("Rubber roller")
        self.page.keyboard.press("Enter")
        expect(row.get_by_role("button", name="Not now")).to_be_visible()
        self.page.keyboard.press("d")
        expect(self.page.get_by_role("dialog")).to_be_visible()
        self.page.keyboard.press("Escape")
        expect(self.page.get_by_role("dialog")).to_be_hidden()
        self.page.keyboard.press("w")
        expect(self.page.locator('[data-part="rubber-roller"]')).to_be_visible()


class TheFrame(BrowserTestCase):
    def test_question_mark_lists_the_keys_and_they_can_be_turned_off(self):
        self.page.keyboard.press("?")
        dialog = self.page.get_by_role("dialog", name="Keys")
        expect(dialog).to_contain_text("Undo what was just recorded")
        expect(dialog).to_contain_text("Plan the sitting")
        dialog.get_by_label("Single keys work").uncheck()
        dialog.get_by_role("button", name="Close").first.click()
        self.page.keyboard.press("m")
        expect(self.page.get_by_role("region", name="House board")).to_be_visible()

    def test_theme_is_kept(self):
        self.page.keyboard.press("t")
        self.page.keyboard.press("t")
        self.assertEqual(self.page.evaluate("document.documentElement.dataset.theme"), "cellar")
        self.page.reload()
        expect(self.page.get_by_role("region", name="House board")).to_be_visible()
        self.assertEqual(self.page.evaluate("document.documentElement.dataset.theme"), "cellar")

    def test_a_phone_has_everything_within_its_width(self):
        page = self.sign_in(self.open_page(PHONE))
        self.assert_nothing_cut(page, "Round")
        page.get_by_role("link", name="Machines").click()
        self.assert_nothing_cut(page, "Machines")
        page.get_by_role("link", name="Hall upright", exact=True).click()
        expect(page.locator("[data-part]")).to_be_visible()
        self.assert_nothing_cut(page, "Machine")
        page.get_by_role("link", name="More").click()
        page.get_by_role("link", name="Household").click()
        expect(page.get_by_role("heading", name="Quillgate 9")).to_be_visible()

    def test_an_unknown_address_says_so(self):
        self.page.goto("/#/attic")
        expect(self.page.get_by_role("heading")).to_have_text("There is no such page.")


class Accessible(BrowserTestCase):
    def test_in_light_and_dark(self):
        for scheme in ("light", "dark"):
            page = self.sign_in(self.open_page(color_scheme=scheme))
            self.assert_accessible(page, f"Round, {scheme}", colours_only=scheme == "dark")
            self.opened(page.locator("li[data-task]"), page)
            self.assert_accessible(page, f"A row opened, {scheme}", colours_only=scheme == "dark")
            page.get_by_role("button", name="Already done…").click()
            self.assert_accessible(page, f"Already done, {scheme}", colours_only=scheme == "dark")
            page.keyboard.press("Escape")
            page.keyboard.press("m")
            page.get_by_role("link", name="Ground robot", exact=True).click()
            expect(page.locator("[data-part]")).to_be_visible()
            self.assert_accessible(page, f"Machine, {scheme}", colours_only=scheme == "dark")

    def test_on_a_phone_with_machines_folded_and_open(self):
        page = self.sign_in(self.open_page(PHONE))
        ground = self.row_of(page)
        expect(ground.locator(".wants")).to_contain_text("filter: wash")
        self.assert_accessible(page, "folded")
        ground.locator(".wants").click()
        expect(ground.get_by_role("button", name="filter wash, due")).to_be_visible()
        self.assert_accessible(page, "open")
        self.assert_nothing_cut(page, "open")

    def test_signing_in(self):
        page = self.open_page()
        page.goto("/")
        expect(page.get_by_role("button", name="Sign in")).to_be_visible()
        self.assert_accessible(page, "sign-in")


class SigningIn(BrowserTestCase):
    expected_errors = ("401",)

    def test_a_wrong_password_says_so_and_the_right_one_opens_round(self):
        page = self.open_page()
        page.goto("/")
        page.get_by_label("User name").fill("keeper")
        page.get_by_label("Password").fill("wrong")
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("alert")).to_contain_text("User name and password do not go together.")
        page.get_by_label("Password").fill("quillgate")
        page.keyboard.press("Enter")
        expect(page.get_by_role("region", name="House board")).to_be_visible()
        page.get_by_role("button", name="Sign out").click()
        expect(page.get_by_label("User name")).to_be_visible()

    def test_a_session_that_ended_meanwhile_leads_back_to_the_sign_in(self):
        self.page.context.clear_cookies(name="sessionid")
        self.ran().click()
        expect(self.page.get_by_label("User name")).to_be_visible()


class LookingOnly(BrowserTestCase):
    def test_a_viewer_sees_everything_and_can_press_nothing(self):
        Member.everything.filter(pk=self.member.pk).update(role=Member.Role.VIEWER)
        self.page.reload()
        expect(self.ran()).to_be_disabled()
        expect(self.page.get_by_role("button", name="Plan the sitting")).to_be_disabled()
        expect(self.opened("Filter").get_by_role("button", name="Already done…")).to_be_disabled()


class Quiet(BrowserTestCase):
    def test_a_server_that_does_not_answer_is_told_and_nothing_is_lost(self):
        self.expected_errors = ("ERR_", "Failed to load")
        self.page.route("**/api/**", lambda route: route.abort())
        self.ran().click()
        expect(self.page.get_by_role("alert")).to_contain_text("Yperon does not answer.")
        self.page.unroute("**/api/**")
        self.ran().click()
        expect(self.page.get_by_text("a run of 50 min is logged")).to_be_visible()
        self.assertEqual(Run.objects.of(self.member.household_id).filter(entry__entered_at=NOW).count(), 1)

    def test_time_moves_the_page_when_it_is_loaded_again(self):
        self.at(NOW + timedelta(days=3))
        self.page.reload()
        expect(self.opened("Charging contacts")).to_contain_text("39 days since")
