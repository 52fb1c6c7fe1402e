"""Data on the screen: a household moves to an empty installation by file, runs come in, copies are restored."""

from tempfile import TemporaryDirectory

from django.core.management import call_command
from django.test import override_settings

from server.machines.models import Run
from tests.web.browser import BrowserTestCase, expect


class Data(BrowserTestCase):
    opens = "/#/household/data"
    expected_errors = ("422",)

    def choose(self, panel, name, text):
        file = {"name": name, "mimeType": "text/csv", "buffer": text.encode()}
        self.page.get_by_role("region", name=panel).locator("input[type=file]").set_input_files(file)

    def todo(self, page):
        page.goto("/#/")
        expect(page.get_by_role("heading", name="To do")).to_be_visible()
        return page.locator("li[data-task]").all_inner_texts(), page.locator("h1").inner_text()

    def test_a_household_moves_to_an_empty_installation_and_looks_the_same(self):
        before = self.todo(self.page)
        self.page.goto("/#/household/data")
        with self.page.expect_download() as fetched, TemporaryDirectory() as folder:
            self.page.get_by_role("link", name="Everything with photos").click()
            file = f"{folder}/house.zip"
            fetched.value.save_as(file)
            call_command("flush", interactive=False, verbosity=0)
            self.page.context.clear_cookies()
            self.page.goto("about:blank")
            self.page.goto("/")
            for label, value in {"What your": "X", "Your name": "A", "User name": "a", "Password": "a-good-one-7"}.items():
                self.page.get_by_label(label).fill(value)
            self.page.keyboard.press("Enter")
            expect(self.page.get_by_role("heading", name="No machine yet.")).to_be_visible()
            self.page.goto("/#/household/data")
            region = self.page.get_by_role("region", name="Bring a household in")
            region.locator("input[type=file]").set_input_files(file)
            expect(region.get_by_text("Quillgate 9 is not here yet.")).to_be_visible()
            region.get_by_label("Who are you").select_option("Wren")
            region.get_by_role("button", name="Bring it in").click()
            expect(self.page.get_by_role("region", name="House board")).to_be_visible()
        self.assertEqual(self.todo(self.page), before)

    def test_a_table_of_runs_tells_its_faults_comes_in_and_is_taken_back(self):
        self.assert_accessible(self.page, "data")
        runs = Run.objects.of(self.member.household_id).filter(entry__voided_by=None)
        count = runs.count()
        self.choose("Bring runs in", "runs.csv", "machine,day,minutes\nBroom,2026-11-01,40\nHall upright,soon,40\n")
        expect(self.page.get_by_text("Line 3: day: got 'soon'")).to_be_visible()
        self.choose("Bring runs in", "runs.csv", "machine;day;minutes\nHall upright;01.11.2026;24,5\n")
        self.page.get_by_role("button", name="Log these runs").click()
        expect(self.page.get_by_text("Logged: Hall upright 1 run.")).to_be_visible()
        self.assertEqual(runs.count(), count + 1)
        self.page.get_by_role("button", name="Take them back").click()
        self.wait_until(lambda: runs.count() == count)

    def test_a_copy_is_made_looked_into_and_restored_and_that_undone(self):
        with TemporaryDirectory() as folder, override_settings(BACKUPS=folder):
            self.page.get_by_role("button", name="Make one now").click()
            copy = self.page.get_by_role("region", name="Copies of everything").locator("button[aria-expanded]")
            copy.click()
            expect(self.page.get_by_text("Quillgate 9 (7 machines)")).to_be_visible()
            self.page.get_by_role("button", name="Restore it…").click()
            self.page.get_by_role("button", name="Restore it", exact=True).click()
            expect(self.page.get_by_text("restoring that undoes it")).to_be_visible()
