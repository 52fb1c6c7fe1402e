"""The slice as a person walks it: choose, make safe, step by step, end, and the dates have moved."""

import re
from datetime import timedelta

from server.logbook.models import Entry
from server.round.board import round_of
from tests.web.browser import NOW, PHONE, BrowserTestCase, expect


class BenchCase(BrowserTestCase):
    def open_sheet(self, page=None, only="Ground robot"):
        """Open the sheet from Round, with all tasks of the ground robot or with those of one part of it."""
        page = page or self.page
        expect(page.locator("li[data-task]").first).to_be_visible()
        for row in page.locator("li[data-task]").all():
            if only not in row.inner_text() + "Ground robot" or row.get_attribute("data-machine") != "Ground robot":
                self.opened(row).get_by_role("checkbox").uncheck()
        page.get_by_role("button", name="Plan the sitting").click()
        page.get_by_role("button", name="Start").click()
        expect(page.locator("[data-step]")).to_have_attribute("data-step", "gate.robot-off")

    def step(self, page=None):
        return (page or self.page).locator("[data-step]")

    def sent(self, page=None):
        """Wait until the server has every answer."""
        expect(self.step(page)).to_have_attribute("data-unsent", "0")

    def press(self, name, page=None):
        (page or self.page).get_by_role("button", name=name).click()

    def sheet_records(self):
        return Entry.objects.of(self.member.household_id).filter(source="sheet", happened_at__gte=NOW).count()


class TheWholeSlice(BenchCase):
    def test_by_mouse_a_run_then_the_filter_and_the_date_moves(self):
        filter_ = self.opened("Filter")
        self.ran().click()
        expect(filter_).to_contain_text("6.6 h of running")
        self.open_sheet(only="Filter")
        self.press("It is so")
        expect(self.page.get_by_role("heading")).to_have_text("Is this dust safe to handle?")
        self.press("Ordinary house dust: go on")
        self.press("It is open")
        self.press("It is out")
        expect(self.page.get_by_role("heading", level=1)).to_have_text("Filter A: what do you see?")
        self.press("Dirty: it was time")
        expect(self.page.locator(".caution").first).to_contain_text("fitting mask (FFP2 or better)")
        self.press("It is washed")
        expect(self.step()).to_contain_text("It rests at least 24 hours, however dry it feels.")
        self.press("It hangs in: Airing cupboard")
        expect(self.page.get_by_role("heading", level=1)).to_have_text("Put in: Filter B")
        self.press("It is in")
        self.press("Yes")
        self.press("It is closed")
        expect(self.step()).to_contain_text("The counters of their life stay as they are")
        self.press("Ticked off, or it asks for none")
        expect(self.page.get_by_role("heading")).to_have_text("Ground robot: power on, and listen")
        self.press("All as it should be")
        expect(self.page.get_by_role("heading")).to_have_text("All steps are answered.")
        self.assertEqual(self.sheet_records(), 0, "nothing is recorded before the sitting ends")

        self.press("End the sitting")
        expect(self.page.get_by_role("heading")).to_have_text("Recorded. The clocks have moved.")
        wash = self.page.locator("li", has_text="Filter, wash: Filter B is in now")
        expect(wash).to_contain_text("was overdue, 6.6 of 5.3 h of running")
        expect(wash).to_contain_text("now fresh, 0 of 5.9 h of running; next in about 13 days (8–17)")
        self.press_back_to_round()
        strip = self.page.get_by_role("group", name="Ground robot, air path")
        expect(strip.get_by_role("button", name=re.compile("^filter .*fresh"))).to_be_visible()
        expect(self.page.get_by_role("region", name="Besides")).to_contain_text("filter a of Ground robot, 1 day")
        self.assertNotIn("filter", self.due_slots())

    def press_back_to_round(self):
        self.page.get_by_role("link", name="Back to Round").click()
        expect(self.page.get_by_role("region", name="House board")).to_be_visible()

    def test_by_keys_alone_all_that_is_due_on_one_sheet(self):
        """All machines in one sitting; what a wet part is waited for is out of use, all else is done."""
        head = self.page.get_by_role("heading", level=1)
        self.page.keyboard.press("b")
        expect(head).to_contain_text("machines.")
        self.page.keyboard.press("Enter")
        expect(self.step()).to_be_visible()
        self.answer_steps(self.page, "end", found="2")
        self.page.keyboard.press("Enter")
        expect(head).to_have_text("Recorded. The clocks have moved.")
        self.page.keyboard.press("h")
        expect(self.page.get_by_role("region", name="House board")).to_be_visible()
        self.assertEqual(self.due_slots(), [])

    def test_at_phone_width(self):
        page = self.sign_in(self.open_page(PHONE))
        self.open_sheet(page, only="Charging contacts")
        self.assert_nothing_cut(page, "the gate")
        self.press("It is so", page)
        self.assert_nothing_cut(page, "a look")
        self.press("A little", page)
        self.press("Done", page)
        self.press("All as it should be", page)
        self.press("End the sitting", page)
        expect(page.get_by_role("heading")).to_have_text("Recorded. The clocks have moved.")
        self.assert_nothing_cut(page, "the end")
        self.assertNotIn("contacts", self.due_slots())


    def test_a_replaced_part_is_asked_why_it_went_and_wear_tells_it(self):
        self.open_machine(machine="Ground robot")
        self.page.get_by_role("link", name="Wear", exact=True).click()
        self.page.goto(self.page.url.replace("/wear/", "/machines/") + "/side-brush")
        self.press("Now: replace")
        self.press("Start")
        self.answer_steps(self.page, "side-brush.replace.do", found="2")
        expect(self.step()).to_contain_text("Why does the old one go?")
        for name in ("Worn out", "On its date, still good", "Broken by accident"):
            expect(self.page.get_by_role("button", name=re.compile(name))).to_be_visible()
        self.page.keyboard.press("4")
        self.answer_steps(self.page, "end", found="2")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("heading", level=1)).to_have_text("Recorded. The clocks have moved.")
        self.open_machine(machine="Ground robot")
        self.page.get_by_role("link", name="Wear", exact=True).click()
        self.page.get_by_text("parts that went").click()
        expect(self.page.get_by_text("thrown away: broken by accident")).to_be_visible()


class PartByPart(BenchCase):
    """One card a part: what was found, then all that it takes with one tap; and every tap is taken back whole."""

    def test_the_demo_s_sitting_takes_thirty_taps_and_writes_the_same_records(self):
        taps, sent = 2, []
        self.page.on("request", lambda request: sent.append(request.url) if request.url.endswith("/answers") else None)
        self.press("Plan the sitting")
        self.press("Start")
        self.page.get_by_role("button", name="Part by part", exact=True).click()
        step = self.step()
        expect(step).to_be_visible()
        while (key := step.get_attribute("data-step")) != "end":
            self.tap(key)
            taps += 1
            expect(self.page.locator(f'[data-step="{key}"]')).to_have_count(0)
        self.press("End the sitting")
        expect(self.page.get_by_role("heading", name="Recorded.")).to_be_visible()
        self.assertLessEqual(taps + 1, 30)
        self.assertLessEqual(len(sent), taps - 2, "what one tap says is one write")
        self.assertEqual(round_of(self.member).due, [])

    def tap(self, key):
        """The one tap that a card takes; of screws their number is typed."""
        if (screws := self.page.get_by_label("Screws that")).count():
            screws.fill("1")
            return screws.press("Enter")
        if (done := self.page.locator(".answers .btn-primary")).count():
            return done.first.click()
        if (found := self.page.get_by_role("button", name="Dirty: it was time")).count():
            return found.click()
        return self.page.keyboard.press("Enter")

    def test_a_tap_is_taken_back_whole_and_a_no_says_only_what_stands_before_it(self):
        self.open_sheet(only="Rubber roller")
        self.page.get_by_role("button", name="Part by part", exact=True).click()
        self.press("It is so")
        title = self.page.get_by_role("heading", level=1)
        expect(title).to_have_text("Rubber roller: open the brush cover, take out, look")
        expect(self.step()).to_contain_text("Take out: Rubber roller")
        self.assert_accessible(self.page, "a part as one card")
        self.press("Far gone")
        expect(title).to_have_text("Rubber roller: take the hair out, put in, test, close the brush cover")
        self.press("← Back")
        expect(title).to_have_text("Rubber roller: open the brush cover, take out, look")
        self.press("Far gone")
        self.press("No, not yet")
        expect(self.step()).to_have_attribute("data-step", "brush-cover.close")
        self.page.reload()
        expect(title).to_have_text("Ground robot: close the brush cover, its own list")
        self.page.keyboard.press("ArrowLeft")
        expect(self.step()).to_have_attribute("data-step", "rubber-roller.de_hair.do")
        self.page.keyboard.press("Enter")
        expect(self.step()).to_have_attribute("data-step", "list")

    def test_is_offered_when_all_of_it_was_done_twice_and_without_a_sheet_the_bench_offers_work(self):
        self.page.goto("/#/bench")
        due = self.page.get_by_role("region", name="Due now")
        expect(due.get_by_role("listitem")).to_have_count(3)
        expect(self.page.get_by_role("region", name="Last sheets").get_by_role("listitem").first).to_contain_text("Ground robot")
        self.page.get_by_role("combobox", name="Machine").select_option(label="Hall upright")
        expect(self.page.get_by_role("button", name="Plan: Full service")).to_be_visible()
        self.assert_accessible(self.page, "the bench without a sheet")
        due.get_by_role("button", name=re.compile("^Plan Ground robot, ")).click()
        self.press("Start")
        expect(self.step()).to_be_visible()
        expect(self.page.get_by_text("All of this was done at this bench")).to_have_count(0)
        self.press("Give up…")
        self.press("Give it up")
        self.page.get_by_text("The sheet was given up").wait_for()
        self.open_sheet(only="Filter")
        self.page.get_by_role("button", name=re.compile("^Go part by part")).click()
        expect(self.page.get_by_role("button", name="Part by part", exact=True)).to_have_attribute("aria-pressed", "true")


class Screws(BenchCase):
    def test_are_counted_out_and_in_and_a_missing_one_is_looked_for(self):
        self.open_sheet(only="Side brush")
        self.answer_steps(self.page, "side-screw.open")
        self.page.get_by_label("Screws that came out").fill("2")
        self.press("Out, and all in the tray")
        expect(self.step()).not_to_have_attribute("data-step", "side-screw.open")
        self.answer_steps(self.page, "side-brush.de_hair.fit")
        back = self.page.get_by_label("Screws that went in")
        back.fill("1")
        expect(self.page.get_by_role("alert")).to_contain_text("2 came out, 1 went in.")
        expect(self.page.get_by_role("button", name="In, and the tray is empty")).to_be_disabled()
        back.fill("2")
        back.press("Enter")
        expect(self.step()).not_to_have_attribute("data-step", "side-brush.de_hair.fit")


class Waiting(BenchCase):
    def test_a_reload_and_another_browser_find_the_sheet_where_it_was(self):
        self.open_sheet()
        self.answer_steps(self.page, "filter.wash.look")
        self.sent()
        self.page.reload()
        expect(self.step()).to_have_attribute("data-step", "filter.wash.look")
        phone = self.sign_in(self.open_page(PHONE))
        self.press("Go on at the bench", phone)
        expect(self.step(phone)).to_have_attribute("data-step", "filter.wash.look")
        self.press("Far gone", phone)
        expect(self.step(phone)).to_have_attribute("data-step", "filter.wash.do")

    def test_a_second_person_s_late_answer_is_told_and_shown_the_new_place(self):
        self.expected_errors = ("422",)
        self.open_sheet(only="Charging contacts")
        self.press("It is so")
        expect(self.step()).to_have_attribute("data-step", "contacts.wipe.look")
        other = self.sign_in(self.open_page())
        self.press("Go on at the bench", other)
        self.press("Clean", other)
        expect(self.step(other)).to_have_attribute("data-step", "contacts.wipe.do")
        self.page.get_by_role("button", name="Far gone").click()
        expect(self.page.get_by_role("alert")).to_contain_text("somebody may have gone on with it")
        expect(self.step()).to_have_attribute("data-step", "contacts.wipe.do")

    def test_rests_on_the_bench_list_and_goes_on_from_there(self):
        self.open_sheet()
        self.page.keyboard.press("b")
        expect(self.page.get_by_role("link", name="Go on")).to_contain_text(re.compile(r"0 of \d\d"))
        self.page.get_by_role("link", name="Go on").click()
        expect(self.step()).to_be_visible()


class ChangingOnesMind(BenchCase):
    def test_a_step_back_takes_an_answer_back(self):
        self.open_sheet(only="Charging contacts")
        self.press("It is so")
        self.press("Far gone")
        self.page.keyboard.press("ArrowLeft")
        expect(self.step()).to_have_attribute("data-step", "contacts.wipe.look")

    def test_a_skip_needs_a_reason_and_the_same_filter_goes_back(self):
        self.open_sheet(only="Filter")
        self.answer_steps(self.page, "filter.wash.do")
        self.page.keyboard.press("s")
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_role("button", name="Skip it").click()
        expect(dialog).to_be_visible()
        dialog.get_by_label("Why?").fill("no water")
        dialog.get_by_role("button", name="Skip it").click()
        expect(self.page.get_by_role("heading", level=1)).to_have_text("Put in: Filter A")
        self.answer_steps(self.page, "end")
        self.press("End the sitting")
        expect(self.page.get_by_role("heading", name="Recorded.")).to_be_visible()
        self.assertIn("filter", self.due_slots(), "nothing was washed")

    def test_giving_up_is_asked_and_possible_before_a_part_is_out(self):
        self.open_sheet(only="Filter")
        self.press("Give up…")
        self.page.get_by_role("dialog").get_by_role("button", name="Give it up").click()
        expect(self.page.get_by_text("The sheet was given up; nothing was recorded.")).to_be_visible()
        self.open_sheet(only="Filter")
        self.answer_steps(self.page, "filter.wash.look")
        expect(self.page.get_by_role("button", name="Give up…")).to_have_count(0)

    def test_a_test_that_is_not_right_yet_is_said_again_at_the_end(self):
        self.open_sheet(only="Rubber roller")
        self.answer_steps(self.page, "rubber-roller.de_hair.test")
        self.press("No, not yet")
        self.answer_steps(self.page, "end")
        expect(self.step()).to_contain_text("Not right yet: Rubber roller: test.")


class TheFilterComesBack(BenchCase):
    def wash_both(self):
        """Wash the one that is in, then the spare: the machine stands without a filter."""
        for moment in (NOW, NOW + timedelta(minutes=30)):
            self.at(moment)
            self.open_machine()
            self.page.get_by_role("button", name=re.compile("^filter ")).click()
            self.press("Now: wash")
            self.press("Start")
            expect(self.step()).to_be_visible()
            self.answer_steps(self.page, "end")
            self.press("End the sitting")
            expect(self.page.get_by_role("heading", name="Recorded.")).to_be_visible()

    def test_out_of_use_until_it_is_dry_then_put_back_on_a_second_sheet(self):
        self.wash_both()
        expect(self.page.get_by_text("so Ground robot is out of use.")).to_be_visible()
        self.page.get_by_role("link", name="Back to Round").click()
        expect(self.row_of()).to_contain_text("out of use: filter is out")
        expect(self.ran()).to_have_count(0)
        lead = self.page.get_by_role("region", name="Today")
        expect(lead).to_contain_text("Ground robot is out of use: its filter is out.")
        strip = self.page.get_by_role("group", name="Ground robot, air path")
        expect(strip.get_by_role("button", name=re.compile("^filter .*drying"))).to_be_visible()
        self.assertEqual(self.robot().machine.empty_slots, ("filter",))

        self.at(NOW + timedelta(days=2))
        self.page.reload()
        self.page.get_by_role("region", name="To do").get_by_role("button", name="feel if dry, put back").first.click()
        self.press("Put it back")
        self.answer_steps(self.page, "filter.wash.dry")
        self.page.keyboard.press("Enter")
        expect(self.step()).to_have_attribute("data-step", "filter.wash.dry")
        self.press("Bone dry")
        self.answer_steps(self.page, "end")
        self.press("End the sitting")
        expect(self.page.get_by_role("heading", name="Recorded.")).to_be_visible()
        self.assertEqual(self.robot().machine.empty_slots, ())

    def test_early_only_with_a_reason_that_is_shown_ever_after(self):
        self.wash_both()
        self.page.get_by_role("link", name="Back to Round").click()
        self.page.get_by_role("region", name="Besides").get_by_role("link", name="of Ground robot").first.click()
        self.page.locator("li", has_text="Filter").get_by_role("button", name="Fit it early…").first.click()
        dialog = self.page.get_by_role("dialog")
        expect(dialog).to_contain_text("A damp filter takes water into the motor")
        dialog.get_by_label("Reason").fill("guests at noon")
        dialog.get_by_role("button", name="Fit it damp").click()
        expect(self.page.get_by_text("That is on record.")).to_be_visible()
        self.page.goto("/#/")
        strip = self.page.get_by_role("group", name="Ground robot, air path")
        strip.get_by_role("button", name=re.compile("^filter ")).click()
        expect(self.page.locator("[data-part]")).to_contain_text("Refitted before it was dry: guests at noon")

    def test_a_spare_on_the_rack_is_felt_and_becomes_ready(self):
        self.open_sheet(only="Filter")
        self.answer_steps(self.page, "end")
        self.press("End the sitting")
        expect(self.page.get_by_role("heading", name="Recorded.")).to_be_visible()
        self.at(NOW + timedelta(days=1, hours=1))
        self.page.goto("/")
        rested = self.page.get_by_role("button", name="Filter A feel if dry")
        rested.click()
        self.press("Still damp")
        expect(rested).to_have_count(0)
        drying = self.page.get_by_role("region", name="Besides").get_by_role("link", name="filter a of Ground robot, 12 h")
        expect(drying).to_be_visible()
        self.at(NOW + timedelta(days=2))
        self.page.reload()
        rested.click()
        self.press("Bone dry")
        expect(self.page.get_by_text("Filter A is dry and ready.")).to_be_visible()
        expect(rested).to_have_count(0)
        expect(drying).to_have_count(0)


class ADanger(BenchCase):
    def test_told_at_a_gate_it_is_out_of_use_on_every_screen_until_it_is_put_right(self):
        self.open_sheet(only="Charging contacts")
        self.press("The battery is swollen, dented, wet, hot or leaking")
        told = self.page.get_by_role("alert")
        expect(told).to_contain_text("Ground robot is out of use: battery damaged.")
        expect(self.step()).to_have_attribute("data-step", "end")
        self.press("End the sitting")
        expect(self.page.get_by_role("heading", name="Recorded.")).to_be_visible()
        self.page.goto("/")
        told = self.page.get_by_role("alert", name="Ground robot is out of use")
        expect(told).to_contain_text("Do not charge, press or pierce it.")
        expect(self.ran()).to_have_count(0)
        expect(self.rows()).to_have_count(0)
        self.assert_accessible(self.page, "Round with a machine out of use")
        self.open_machine()
        self.press("It is put right…")
        expect(self.page.get_by_role("dialog")).to_contain_text("The old pack is at the collection, a sound one is in.")
        self.press("It is so")
        expect(self.page.locator(".notice")).to_contain_text("Ground robot is in use again")
        expect(told).to_have_count(0)
        self.page.goto("/")
        expect(self.ran()).to_be_visible()

    def test_not_now_leaves_the_machine_and_told_by_mistake_is_taken_back(self):
        self.open_sheet(only="Charging contacts")
        self.press("Not now")
        expect(self.step()).to_have_attribute("data-step", "end")
        self.page.keyboard.press("ArrowLeft")
        self.press("It smells burnt, smokes or sparks")
        expect(self.page.get_by_role("alert")).to_contain_text("out of use: burnt smell")
        self.page.goto("/")  # at once: the answer may still be on its way
        self.press("Told by mistake")
        expect(self.page.locator(".notice")).to_contain_text("Undone.")
        expect(self.page.get_by_role("alert", name="Ground robot is out of use")).to_have_count(0)


class AccessibleBench(BenchCase):
    def test_gate_look_wash_and_end(self):
        for scheme in ("light", "dark"):
            page = self.sign_in(self.open_page(color_scheme=scheme))
            self.open_machine(page)
            page.get_by_role("button", name=re.compile("^contacts ")).click()
            self.press("Now: wipe", page)
            expect(page.get_by_role("button", name="Start")).to_be_visible()
            self.assert_accessible(page, f"the plan, {scheme}", colours_only=scheme == "dark")
            self.press("Start", page)
            expect(self.step(page)).to_be_visible()
            for until in ("contacts.wipe.look", "contacts.wipe.do", "end"):
                self.assert_accessible(page, f"bench before {until}, {scheme}", colours_only=scheme == "dark")
                self.answer_steps(page, until)
            self.press("End the sitting", page)
            expect(page.get_by_role("heading", name="Recorded.")).to_be_visible()
            self.assert_accessible(page, f"the end, {scheme}", colours_only=scheme == "dark")
