"""The household's answers, the floor card, and a machine changed, by driving the screens."""

import re
from io import BytesIO

from PIL import Image

from server.household.services import answers_at
from server.machines.models import Machine
from tests.web.browser import NOW, BrowserTestCase, expect


class TheHousehold(BrowserTestCase):
    opens = None
    expected_errors = ("422",)

    def setUp(self):
        super().setUp()
        self.page.goto("/#/household")
        expect(self.page.get_by_role("heading", name="Quillgate 9")).to_be_visible()

    def told(self):
        return answers_at(self.member.household_id, NOW).profile

    def line(self, text):
        return self.page.locator(".line", has_text=text)

    def test_each_answer_says_what_it_changes_before_it_is_kept(self):
        expect(self.line("Animals that shed")).to_contain_text("becomes")
        expect(self.line("Children")).not_to_contain_text("becomes")
        self.page.get_by_role("button", name="More: Children").click()
        expect(self.line("Children")).to_contain_text("becomes")
        expect(self.page.get_by_text("intervals change:")).to_be_visible()
        self.assertEqual(self.told().children, 0)
        self.page.get_by_role("button", name="Keep these answers").click()
        expect(self.page.get_by_text("Kept.", exact=False)).to_be_visible()
        self.assertEqual(self.told().children, 1)
        expect(self.page.get_by_role("region", name="Versions")).to_contain_text("Before, since")

    def test_a_school_moves_dates_and_undo_moves_them_back(self):
        self.page.get_by_role("button", name="Workshop A repairer").click()
        self.page.get_by_role("button", name="Keep these answers").click()
        expect(self.page.get_by_text("Kept.", exact=False)).to_be_visible()
        self.assertEqual(answers_at(self.member.household_id, NOW).school, "workshop")
        self.page.get_by_role("button", name="Undo", exact=True).click()
        expect(self.page.get_by_text("Undone.")).to_be_visible()
        self.assertEqual(answers_at(self.member.household_id, NOW).school, "label")

    def test_a_floor_in_the_other_unit_is_asked_about(self):
        area = self.page.get_by_label("Floor that is vacuumed")
        area.fill("650")
        area.press("Tab")
        question = self.page.get_by_role("alert")
        expect(question).to_contain_text("Did you mean 650 sq ft?")
        expect(self.page.get_by_role("button", name="Keep these answers")).to_be_disabled()
        question.get_by_role("button", name="Yes: 650 sq ft, which is 60 m²").click()
        expect(area).to_have_value("60")
        self.page.get_by_role("button", name="Keep these answers").click()
        expect(self.page.get_by_text("Kept.", exact=False)).to_be_visible()
        self.assertEqual(self.told().area_m2, 60)

    def test_us_units_hold_for_area_and_air_on_every_visit(self):
        self.page.get_by_role("link", name="You", exact=True).click()
        self.page.get_by_role("button", name=re.compile("^US: sq ft")).click()
        self.page.get_by_role("link", name="The home", exact=True).click()
        expect(self.page.get_by_label("Floor that is vacuumed")).to_have_value("2368")
        expect(self.page.get_by_label("Temperature of Utility room")).to_have_value("59")
        self.page.reload()
        expect(self.page.get_by_label("Floor that is vacuumed")).to_have_value("2368")
        temperature = self.page.get_by_label("Temperature of Utility room")
        temperature.fill("68")
        temperature.press("Tab")
        self.page.get_by_role("button", name="Keep these answers").click()
        expect(self.page.get_by_text("Kept.", exact=False)).to_be_visible()
        self.assertEqual((self.told().places[0].temp_c, round(self.told().area_m2)), (20.0, 220))

    def test_a_damp_place_is_warned_of_and_bad_air_named(self):
        humid = self.page.get_by_label("Humidity of Utility room")
        humid.fill("92")
        humid.press("Tab")
        expect(self.page.get_by_text("mildew is quicker there", exact=False)).to_be_visible()
        humid.fill("140")
        humid.press("Tab")
        expect(self.page.get_by_role("alert")).to_contain_text("rh_pct")


class TheFloor(BrowserTestCase):
    opens = None

    def test_is_ready_in_a_few_taps_and_a_mishap_brings_work_forward(self):
        self.open_machine(machine="Ground robot")
        self.page.get_by_role("link", name="Before a run").click()
        boxes = self.page.get_by_role("checkbox")
        expect(boxes).to_have_count(4)
        for box in boxes.all():
            box.check()
        expect(self.page.get_by_text("The floor is ready.")).to_be_visible()
        sticky = self.page.get_by_role("button", name="Something sticky")
        expect(sticky).to_contain_text("drive wheels wiped")
        sticky.click()
        expect(self.page.get_by_text("Ground robot, after something sticky: due now", exact=False)).to_be_visible()
        self.assertIn("wheels", self.due_slots())
        self.page.goto("/#/")
        wheels = self.rows().filter(has_text="Drive wheels")
        expect(self.opened(wheels)).to_contain_text("After something sticky")
        self.page.get_by_role("button", name="Undo").click()
        expect(wheels).to_have_count(0)

    def test_answers_what_may_be_picked_up(self):
        self.page.goto("/#/floor")
        search = self.page.get_by_label("What is it?")
        search.fill("fireplace")
        told = self.page.get_by_role("region", name="May I pick this up?")
        expect(told).to_contain_text("Ash and embers: No.")
        expect(told).to_contain_text("Embers glow for days")
        search.fill("unicorn")
        expect(self.page.get_by_text("Not on this list.", exact=False)).to_be_visible()


class Round(BrowserTestCase):
    def row(self):
        return self.opened(self.rows().filter(has_text="Charging contacts"))

    def test_a_task_waits_with_its_reason_and_comes_back(self):
        self.row().get_by_role("button", name="Not now").click()
        dialog = self.page.get_by_role("dialog")
        expect(dialog.get_by_role("button", name="Let it wait")).to_be_disabled()
        dialog.get_by_role("button", name="waiting for the part").click()
        dialog.get_by_role("button", name="In two weeks").click()
        dialog.get_by_role("button", name="Let it wait").click()
        rows = self.rows().filter(has_text="Charging contacts")
        expect(rows).to_have_count(0)
        self.page.get_by_text("1 task put off").click()
        todo = self.page.get_by_role("region", name="To do")
        expect(todo).to_contain_text("until Tue 8 Dec: waiting for the part (Wren)")
        todo.get_by_role("button", name="Back on the list").click()
        expect(rows).to_have_count(1)

    def test_somebody_takes_a_task_on_and_leaves_it(self):
        row = self.row()
        row.get_by_role("button", name="I do it").click()
        expect(row).to_contain_text("you do it")
        row.get_by_role("button", name="Leave it to others").click()
        expect(row).not_to_contain_text("you do it")

    def test_a_look_is_told_in_two_taps(self):
        row = self.opened("Powered head de-hair")
        row.get_by_role("button", name="I looked…").click()
        self.page.get_by_role("dialog").get_by_role("button", name="A few hairs").click()
        expect(self.page.get_by_text("Powered head: a few hairs. Take the hair out:", exact=False)).to_be_visible()

    def test_what_comes_soon_behind_the_same_opening_is_named(self):
        expect(self.opened("Cloth filter")).to_contain_text("While the cap is off: paper liner (look) comes today")


class AMachineIsChanged(BrowserTestCase):
    opens = None
    expected_errors = ("422", "409")

    def setUp(self):
        super().setUp()
        self.open_machine(machine="Hall upright")
        self.page.get_by_role("link", name="Change it").click()
        expect(self.page.get_by_role("heading", name="Hall upright: change it")).to_be_visible()

    def row(self):
        return Machine.objects.of(self.member.household_id).filter(given_name="Hall upright").order_by("set_up__sequence")[0]

    def open_part(self, name):
        self.page.locator("button.head", has_text=name).click()

    def said(self, text):
        expect(self.page.get_by_text(text, exact=False).first).to_be_visible()

    def test_its_name_and_undo_brings_it_back(self):
        self.page.get_by_label("Name", exact=True).fill("Stairs cordless")
        self.page.get_by_role("button", name="Rename it").click()
        expect(self.page.get_by_role("alert")).to_contain_text("there is a Stairs cordless already")
        self.page.get_by_label("Name", exact=True).fill("Old faithful")
        self.page.get_by_role("button", name="Rename it").click()
        expect(self.page.get_by_role("heading", name="Old faithful: change it")).to_be_visible()
        self.page.get_by_role("button", name="Undo").click()
        expect(self.page.get_by_role("heading", name="Hall upright: change it")).to_be_visible()

    def test_an_own_figure_stands_beside_the_book_s_and_moves_the_date(self):
        self.open_part("Foam filter")
        self.page.get_by_role("button", name="Set your own figure: wash Foam filter").click()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_label("every").fill("900")
        dialog.get_by_label("Why").fill("soot in winter")
        dialog.get_by_role("button", name="Keep it").click()
        expect(self.page.get_by_role("alert")).to_contain_text("longer than the book's")
        dialog.get_by_label("every").fill("12")
        dialog.get_by_role("button", name="Keep it").click()
        line = self.page.get_by_role("row", name="wash every")
        expect(line).to_contain_text("every 12 days")
        expect(line).to_contain_text("soot in winter")
        expect(line.locator("td").first).to_contain_text("of usual use")
        self.page.get_by_role("link", name="To its page").click()
        strip = self.page.get_by_role("group", name="Hall upright, air path")
        strip.get_by_role("button", name="foam").click()
        expect(self.page.locator("[data-part=foam]")).to_contain_text("you set every 12 days")

    def test_a_part_of_ones_own_comes_and_goes(self):
        self.page.get_by_role("button", name="Add a part…").click()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_label("What do you call it?").fill("Felt disc")
        dialog.get_by_label("Where does it sit?").select_option("foam")
        dialog.get_by_role("button", name="Add it").click()
        self.said("Felt disc is one of its parts now.")
        self.open_part("Felt disc")
        self.page.get_by_role("button", name="This machine does not have it…").click()
        self.page.get_by_role("dialog").get_by_role("button", name="Take it off").click()
        self.said("Felt disc is off its list")
        expect(self.page.locator("button.head", has_text="Felt disc")).to_have_count(0)

    def test_it_is_lent_leaves_the_board_and_comes_back(self):
        self.page.get_by_role("button", name="Put away, lend, sell…").click()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_role("button", name="lent", exact=True).click()
        dialog.get_by_role("button", name="It is lent").click()
        self.said("Hall upright is lent.")
        expect(self.page.get_by_role("heading", name="6 machines")).to_be_visible()
        self.page.goto("/#/")
        board = self.page.get_by_role("region", name="House board")
        expect(board.get_by_role("link", name="Hall upright")).to_have_count(0)
        self.page.goto("/#/machines")
        self.page.get_by_text("Not in use: 1").click()
        self.page.get_by_role("button", name="Back in use").click()
        self.said("Hall upright is in use again.")
        self.assertEqual(self.row().status, "in_use")

    def test_another_stands_in_for_it(self):
        self.page.get_by_role("link", name="Another one stands in for it…").click()
        self.page.locator(".kind", has_text="Upright with two rollers").click()
        self.page.get_by_role("button", name="Put it in its place").click()
        expect(self.page.get_by_role("heading", name="Hall upright", exact=True)).to_be_visible()
        self.assertEqual((self.row().status, self.row().name), ("replaced", "Hall upright, until Nov 2026"))

    def test_a_photo_is_kept_and_removed_only_when_sure(self):
        self.open_machine(machine="Hall upright")
        out = BytesIO()
        Image.new("RGB", (640, 480), "teal").save(out, "PNG")
        self.page.get_by_role("button", name="Add…").click()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_label("A photo, if you like").set_input_files(
            {"name": "foam.png", "mimeType": "image/png", "buffer": out.getvalue()}
        )
        dialog.get_by_label("In your words").fill("tab to the left")
        dialog.get_by_role("button", name="Keep it").click()
        notes = self.page.get_by_role("region", name="Notes and photos")
        expect(notes.get_by_role("img", name="tab to the left")).to_be_visible()
        notes.get_by_text("tab to the left").locator("xpath=..").get_by_role("button", name="Remove…").click()
        self.page.get_by_role("dialog").get_by_role("button", name="Remove it").click()
        expect(notes.get_by_role("img")).to_have_count(0)

    def test_a_file_that_is_no_picture_is_refused_with_the_words_kept(self):
        self.open_machine(machine="Hall upright")
        self.page.get_by_role("button", name="Add…").click()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_label("In your words").fill("tab to the left")
        dialog.get_by_label("A photo, if you like").set_input_files(
            {"name": "foam.jpg", "mimeType": "image/jpeg", "buffer": b"no picture"}
        )
        dialog.get_by_role("button", name="Keep it").click()
        expect(self.page.get_by_role("alert")).to_contain_text("not a picture")
        expect(dialog.get_by_label("In your words")).to_have_value("tab to the left")
