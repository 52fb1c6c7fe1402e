"""Before and around the sitting: the plan with its depths, wash cards, what is found on the way, labels and paper."""

from io import BytesIO
from pathlib import Path
from tempfile import TemporaryDirectory

from PIL import Image

from server.machines.models import Inspection, Note
from tests.web.browser import PHONE, expect
from tests.web.test_bench import BenchCase


class ThePlan(BenchCase):
    def plan(self, page=None):
        (page or self.page).get_by_role("button", name="Plan the sitting").click()
        expect((page or self.page).get_by_role("button", name="Start")).to_be_visible()

    def test_tells_minutes_what_waits_and_goes_deeper_where_one_wants(self):
        self.plan()
        head = self.page.get_by_role("heading", level=1)
        expect(head).to_have_text("About 23 min at 3 machines.")
        roller = self.page.locator('[data-machine="Ground robot"] [data-part="rubber-roller"]')
        expect(roller).not_to_contain_text("dries until")
        roller.get_by_role("button", name="Wash it").click()
        expect(roller).to_contain_text("no dry spare, so the machine waits")
        expect(head).to_have_text("About 28 min at 3 machines.")
        roller.get_by_role("button", name="Clean it dry").click()
        expect(head).to_have_text("About 23 min at 3 machines.")
        tub = self.page.locator('[data-machine="Workshop tub"]')
        tub.get_by_role("button", name="Another day").click()
        expect(head).to_contain_text("at 2 machines.")
        self.page.get_by_role("button", name="Put back what was left out").click()
        expect(head).to_have_text("About 23 min at 3 machines.")
        self.page.reload()
        expect(self.page.get_by_role("button", name="Start")).to_be_visible()

    def test_fits_a_phone_in_the_dark_and_is_accessible(self):
        page = self.sign_in(self.open_page(PHONE, color_scheme="dark"))
        self.plan(page)
        self.assert_nothing_cut(page, "the plan")
        self.assert_accessible(page, "the plan")


class AgainstAComplaint(BenchCase):
    opens = None

    def test_a_machine_that_smells_is_planned_in_one_go_and_ticked_off(self):
        self.open_machine(machine="Ground robot")
        self.page.get_by_label("Plan a sitting").select_option("It smells")
        expect(self.page.get_by_role("heading", level=1)).to_contain_text("at Ground robot.")
        expect(self.page.locator('[data-part="bin"]')).to_contain_text("wipe")  # nobody has ruled out wires in it
        self.page.goto("/#/machines")
        self.open_machine(machine="Ground robot")
        self.page.get_by_label("Plan a sitting").select_option("Full service")
        self.page.get_by_role("button", name="Start").click()
        self.answer_steps(self.page, "sensors.wipe.do")
        ticks = self.step().get_by_role("checkbox")
        expect(ticks).to_have_count(5)
        ticks.first.check()
        self.page.keyboard.press("Enter")
        expect(self.step()).not_to_have_attribute("data-step", "sensors.wipe.do")


class OnTheWay(BenchCase):
    def photo(self):
        out = Path(self.enterContext(TemporaryDirectory())) / "seat.jpg"
        data = BytesIO()
        Image.new("RGB", (60, 40), "teal").save(data, "JPEG")
        out.write_bytes(data.getvalue())
        return out

    def test_a_photo_is_shown_again_when_the_part_goes_back_and_wear_is_noted(self):
        self.open_sheet(only="Side brush")
        self.answer_steps(self.page, "side-brush.de_hair.look")
        self.page.keyboard.press("n")
        self.page.get_by_label("A photo of how it sits").set_input_files(self.photo())
        self.page.get_by_role("radio").nth(2).check()
        self.press("Keep it")
        expect(self.page.get_by_role("dialog")).to_have_count(0)
        self.answer_steps(self.page, "side-brush.de_hair.fit")
        expect(self.page.get_by_role("img", name="How it sat")).to_be_visible()
        self.assertEqual(Note.everything.filter(slot="side-brush").exclude(width=0).count(), 1)
        found = Inspection.everything.filter(slot="side-brush", about="replace").last()
        self.assertEqual(found.found, "due")

    def test_a_file_that_is_no_picture_is_refused_and_the_sheet_stands(self):
        self.expected_errors = ("422",)
        self.open_sheet(only="Side brush")
        self.page.keyboard.press("n")
        wrong = {"name": "seat.jpg", "mimeType": "image/jpeg", "buffer": b"no picture"}
        self.page.get_by_label("A photo of how it sits").set_input_files(wrong)
        self.press("Keep it")
        expect(self.page.get_by_role("dialog")).to_contain_text("not a picture that can be read")
        self.page.keyboard.press("Escape")
        expect(self.step()).to_have_attribute("data-step", "gate.robot-off")

    def test_swiping_goes_on_and_back(self):
        page = self.sign_in(self.open_page(PHONE, has_touch=True))
        self.open_sheet(page, only="Charging contacts")
        swipe = """(by) => {
            const panel = document.querySelector('[data-step]');
            const at = (x) => new Touch({ identifier: 1, target: panel, clientX: x, clientY: 300 });
            panel.dispatchEvent(new TouchEvent('touchstart', { touches: [at(200)], changedTouches: [at(200)] }));
            panel.dispatchEvent(new TouchEvent('touchend', { touches: [], changedTouches: [at(200 + by)] }));
        }"""
        page.evaluate(swipe, -150)
        expect(self.step(page)).to_have_attribute("data-step", "gate.robot-off")  # no stray finger passes a gate
        self.press("It is so", page)
        self.press("A little", page)
        expect(self.step(page)).to_have_attribute("data-step", "contacts.wipe.do")
        page.evaluate(swipe, 150)
        expect(self.step(page)).to_have_attribute("data-step", "contacts.wipe.look")
        self.press("A little", page)
        page.evaluate(swipe, -30)
        expect(self.step(page)).to_have_attribute("data-step", "contacts.wipe.do")
        page.evaluate(swipe, -150)
        expect(self.step(page)).to_have_attribute("data-step", "power")  # it was switched off at the gate

    def test_on_paper_every_step_has_a_box(self):
        self.open_sheet(only="Side brush")
        self.page.get_by_role("link", name="Print").click()
        expect(self.page.get_by_role("heading", level=1)).to_have_text("Ground robot")
        expect(self.page.locator("li.step")).to_have_count(8)


class MayIWashThis(BenchCase):
    opens = None

    def test_says_no_until_a_mark_is_seen_and_keeps_what_was_seen(self):
        self.open_machine(machine="Hall upright")
        self.page.get_by_role("button", name="fine").first.click()
        expect(self.page.get_by_role("button", name="May I wash this?")).to_be_visible()
        self.page.keyboard.press("c")
        card = self.page.get_by_role("dialog")
        expect(card.get_by_role("status")).to_contain_text("No, it stays dry.")
        card.get_by_role("group", name="Is it marked washable?").get_by_role("button", name="Yes").click()
        expect(card.get_by_role("status")).to_contain_text("Yes, it may be washed.")
        harmful = card.get_by_role("group", name="May its dust be harmful")
        harmful.get_by_role("button", name="Yes").click()
        expect(card.get_by_role("status")).to_contain_text("do not even shake it")
        harmful.get_by_role("button", name="No", exact=True).click()
        self.assert_accessible(self.page, "the wash card")
        card.get_by_role("button", name="Keep what I saw").click()
        expect(card).to_have_count(0)
        self.page.keyboard.press("c")
        expect(card.get_by_role("status")).to_contain_text("It is marked washable.")


class Labels(BenchCase):
    opens = None

    def test_lead_to_the_machine_and_warn_where_a_phone_would_not_get_there(self):
        self.page.goto("/#/labels")
        expect(self.page.get_by_text("an address that only this machine knows")).to_be_visible()
        expect(self.page.locator("li", has_text="Filter B")).to_contain_text("Ground robot")
        address = self.page.locator("li", has_text="Hall upright").get_by_role("img").first.get_attribute("aria-label")
        self.page.goto(address)
        expect(self.page.get_by_role("heading", level=1)).to_have_text("Hall upright")
