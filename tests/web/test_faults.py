"""Finding faults on the real screen: stories walked to their cure, by mouse, by keys, on a phone; and what goes wrong."""

import re
from server.bench import sheets
from dataclasses import replace
from datetime import timedelta
from uuid import uuid4

from care.vocabulary import (Skill)
from server.bench import services as bench
from server.bench.models import Sheet
from server.household.services import answer_profile, answers_at
from server.setup.services import add_machine
from server.faults.models import Case
from tests.stories import HARD, STORIES
from tests.web.browser import LAPTOP, NOW, PHONE, BrowserTestCase, expect

WALKED = (
    "It pulses only with the long tube on",
    "The robot leaves dirt in its bin after docking, and the bag is not full",
    "The upright's brush stands still and it smells of rubber",
    "The cylinder is weak, but without its hose it draws like a horse",
    "The light is on, it ticks, nothing turns",
    "It stops in front of the dark rug and says there is a drop",
    "Water stands under the dock since I emptied it",
)


class TraceCase(BrowserTestCase):
    opens = None

    def begin(self, machine, *symptoms, page=None):
        """From Round to the first check of a new case."""
        page = page or self.page
        page.goto("/#/faults")
        page.reload()  # the machine was added behind its back
        page.get_by_role("button", name=re.compile(f"^{machine}")).click()
        asked = page.get_by_role("heading", level=1, name=re.compile("^What is wrong with"))
        expect(asked).to_be_visible(timeout=60_000)  # the first case of a kind solves its air, beside other tests
        for name in symptoms:
            page.get_by_role("checkbox", name=name).check()
        page.get_by_role("button", name="Find it").click()
        expect(page.locator("[data-check], [data-stand]")).to_be_visible()

    def go_on(self, page=None):
        """Take up the pulsing case that the demo has open."""
        page = page or self.page
        page.goto("/#/faults")
        page.get_by_text("Go on").click()
        expect(self.check(page)).to_be_visible()

    def check(self, page=None):
        return (page or self.page).locator("[data-check]")

    def stand(self, page=None):
        found = (page or self.page).locator("[data-stand]")
        return found.get_attribute("data-stand") if found.count() else "ask"

    def mind(self, page):
        """Acknowledge the caution, if there is one."""
        box = page.get_by_role("checkbox", name=re.compile("^(Done|I keep to that)$"))
        if box.count():
            box.check()

    def by_mouse(self, page, sees):
        key = self.check(page).get_attribute("data-check")
        self.mind(page)
        page.get_by_role("group", name="Answers").get_by_text(sees(key), exact=True).click()
        self.moved_on(page, key)

    def by_keys(self, page, sees):
        key = self.check(page).get_attribute("data-check")
        page.keyboard.press("Enter")
        answers = [t.strip() for t in page.locator(".answer span").all_inner_texts()]
        page.keyboard.press(str(answers.index(sees(key)) + 1))
        self.moved_on(page, key)

    def moved_on(self, page, key):
        expect(page.locator(f'[data-check="{key}"]')).to_have_count(0)

    def walk(self, page, sees, answer):
        """Answer until something is proven, put it right, and tell that it is gone."""
        for _ in range(30):
            match self.stand(page):
                case "ask":
                    answer(page, sees)
                case "cure":
                    page.keyboard.press("d")
                    if page.get_by_role("dialog").count():
                        page.get_by_role("button", name="Record it").click()
                    expect(page.locator("[data-stand=retest]")).to_be_visible()
                case "retest":
                    page.get_by_role("button", name="Gone").click()
                    expect(page.locator("[data-stand=cured]")).to_be_visible()
                case end:
                    return end
        return "too many steps"


class Stories(TraceCase):
    def walked(self, story, page, answer):
        name, dock = f"Story {uuid4().hex[:5]}", None
        machine = add_machine(
            member=self.member, machine_id=uuid4(), name=name, archetype=story.kind, schedule=None
        )
        if story.dock:
            dock = add_machine(
                member=self.member,
                machine_id=uuid4(),
                name=f"{name}'s dock",
                archetype=story.dock,
                schedule=None,
                serves=machine.pk,
            )
        of = story.subject()
        self.begin(f"{name}(?!'s)", *(of.symptom(key).name for key in story.symptoms), page=page)

        def sees(key):
            probe = of.probe(key)
            told = {**story.sees, **dict(story.first)}.get(key, probe.check.outcomes[0].key)
            return next(o.words for o in probe.check.outcomes if o.key == told)

        self.assertEqual(self.walk(page, sees, answer), "cured")
        expect(page.get_by_role("heading", level=1)).to_contain_text(of.suspect(story.was).name[1:])
        page.get_by_role("button", name="Close the case").last.click()
        expect(page.get_by_text("This case is closed.")).to_be_visible()
        self.assertEqual(Case.objects.of(self.member.household_id).get(machine=machine).status, "closed")
        return dock

    def test_by_mouse_by_keys_and_on_a_phone(self):
        told = {story.title: story for story in (*STORIES, *HARD)}
        self.opens_the_body()  # one of them lies there
        phone = self.sign_in(self.open_page(PHONE))
        ways = [(self.page, self.by_mouse), (self.page, self.by_keys), (phone, self.by_mouse)]
        for number, title in enumerate(WALKED):
            with self.subTest(title):
                self.walked(told[title], *ways[number % 3])

    def opens_the_body(self):
        told = answers_at(self.member.household_id, NOW)
        far = replace(told.profile, skill=Skill.STRIP_DOWN)
        answer_profile(member=self.member, profile=far, school=told.school)

    def demos_case(self, page, answer):
        """The pulsing case that the demo has open, to its end."""
        self.go_on(page)

        def sees(key):
            words = {"light:neck": "dark, or something is seen"}
            probe = next(s for s in STORIES if s.kind == "cordless-two-filter").subject().probe(key)
            return words.get(key, probe.check.outcomes[0].words)

        self.assertEqual(self.walk(page, sees, answer), "cured")
        page.get_by_role("button", name="Close the case").last.click()

    def test_the_demos_pulsing_case_by_mouse_on_a_phone(self):
        phone = self.sign_in(self.open_page(PHONE))
        self.demos_case(phone, self.by_mouse)
        expect(phone.get_by_role("heading", level=1)).to_have_text("Solved: something stuck in the neck.")

    def test_the_demos_pulsing_case_by_keys_alone(self):
        self.demos_case(self.page, self.by_keys)
        expect(self.page.get_by_text("This case is closed.")).to_be_visible()
        self.open_machine(machine="Stairs cordless")
        machine = self.page.get_by_role("region", name="Records").get_by_role("button", name="Machine")
        machine.press("Enter")  # a click may miss it: the readings above come when they come, and move it
        expect(machine).to_have_attribute("aria-pressed", "true")
        expect(self.page.get_by_text("It was: something stuck in the neck")).to_be_visible()


class ACureAtTheBench(TraceCase):
    """What dries is led through by a sheet, which brings one back to the case."""

    def to_the_cure(self):
        """The workshop's tub is weak, and its cloth is caked."""
        self.begin("Workshop tub", re.compile("^Weak suction"))
        self.by_mouse(self.page, lambda key: self.answers()[0])
        for _ in range(14):
            if self.stand() != "ask":
                break
            self.by_mouse(self.page, lambda key: "caked" if "caked" in self.answers() else self.answers()[0])
        expect(self.page.get_by_role("heading", name="The cloth filter is felted")).to_be_visible()

    def answers(self):
        return [text.split("\n")[0] for text in self.page.locator(".answer").all_inner_texts()]

    def test_from_the_case_to_its_sheet_and_back(self):
        self.to_the_cure()
        self.page.get_by_role("button", name="Open it at the bench").click()
        expect(self.page.get_by_role("heading", name="Workshop tub: make it safe first")).to_be_visible()
        sheet = Sheet.objects.of(self.member.household_id).get(status="open")
        while (step := sheets.sheet_state(self.member, sheet.pk).progress.current) is not None:
            says = next(v for v in ("done", "pass", "due", "screws:1") if v in step.answers)
            bench.answer(member=self.member, sheet_id=sheet.pk, given=bench.Given(uuid4(), step.key, says))
        self.page.reload()
        self.page.get_by_role("button", name="End the sitting").click()
        self.page.get_by_role("link", name="Back to what was wrong").click()
        expect(self.page.get_by_role("heading", name="Cloth filter dries first.")).to_be_visible()
        self.page.goto("/#/faults")
        expect(self.page.get_by_text("put right: try it")).to_be_visible()

    def test_without_a_sheet_on_its_day(self):
        self.to_the_cure()
        self.page.keyboard.press("d")
        dialog = self.page.get_by_role("dialog", name="Already washed")
        dialog.get_by_role("button", name="A week ago").click()
        dialog.get_by_role("button", name="Record it").click()
        expect(self.page.get_by_role("heading", name="All dry and closed: run it. Is it gone?")).to_be_visible()
        self.page.keyboard.press("z")
        expect(self.page.get_by_role("button", name="Open it at the bench")).to_be_visible()


class OldAddresses(BrowserTestCase):
    opens = None

    def test_lead_to_where_the_page_is_now(self):
        upright = self.machine_id("Hall upright")
        for was, now in (("#/trace", "#/faults"), (f"#/trace/{upright}", f"#/faults/{upright}")):
            self.page.goto(f"/{was}")
            self.page.wait_for_url(f"**/{now}")
            expect(self.page.get_by_role("heading", level=1)).to_be_visible()


class OnTheWay(TraceCase):
    expected_errors = ("409", "422", "Failed to load resource")

    def test_an_answer_waits_for_its_caution(self):
        self.go_on()
        self.page.get_by_text("Look at something else").click()
        self.page.get_by_role("button", name="Does light get through the wand?").click()
        expect(self.check()).to_have_attribute("data-check", "light:wand")
        self.assertTrue(self.page.locator(".answer").first.is_disabled())
        self.mind(self.page)
        self.assertFalse(self.page.locator(".answer").first.is_disabled())

    def test_why_another_check_cant_tell_and_back(self):
        self.go_on()
        first = self.check().get_attribute("data-check")
        self.page.get_by_role("button", name="Why this next?").click()
        expect(self.page.get_by_role("status").filter(has_text=re.compile("moves the odds|divides what is left"))).to_be_visible()
        self.page.get_by_text("Look at something else").click()
        self.page.get_by_role("button", name="Does light get through the wand?").click()
        expect(self.check()).to_have_attribute("data-check", "light:wand")
        self.mind(self.page)
        self.page.get_by_role("button", name="Can’t tell").click()
        expect(self.check()).not_to_have_attribute("data-check", "light:wand")
        expect(self.page.get_by_role("region", name="So far")).to_contain_text("can’t tell")
        self.page.keyboard.press("z")
        expect(self.page.get_by_role("region", name="So far")).not_to_contain_text("can’t tell")
        expect(self.check()).to_have_attribute("data-check", first)

    def test_a_station_of_the_strip_chooses_its_check(self):
        self.go_on()
        self.page.get_by_role("button", name=re.compile("^screen")).click()
        expect(self.check()).to_have_attribute("data-check", "screen-torch:shroud")

    def test_a_fixed_order_for_those_who_prefer_a_list(self):
        self.go_on()
        self.page.get_by_text("Rather go down a list").click()
        self.page.get_by_role("radio", name=re.compile("^As most leaflets")).check()
        expect(self.check()).to_have_attribute("data-check", "pack-look:battery")

    def test_what_is_told_unasked_counts_and_a_danger_ends_it_at_once(self):
        page = self.page
        page.goto(f"/#/faults/{self.machine_id('Hall upright')}")
        expect(page.get_by_text("Anything of this?")).to_have_count(0)
        page.get_by_role("checkbox", name="Weak suction").check()
        page.get_by_role("button", name="Since it took up something big").click()
        page.get_by_role("button", name="Find it").click()
        expect(page.get_by_role("region", name="So far")).to_contain_text("something big")
        page.get_by_role("button", name="Close the case").click()
        page.get_by_label("Why does it end here?").fill("only looked")
        page.get_by_role("button", name="Close it").click()
        expect(page.get_by_text("This case is closed.")).to_be_visible()
        page.goto(f"/#/faults/{self.machine_id('Hall upright')}")
        page.get_by_role("checkbox", name="Weak suction").check()
        page.get_by_role("button", name="It took up hot ash").click()
        expect(page.get_by_text("Switch it off and leave it closed.")).to_be_visible()
        page.get_by_role("button", name="Find it").click()
        expect(page.get_by_role("heading", level=1)).to_have_text("Stop: hot ash or embers in it.")
        page.goto("/")
        expect(page.get_by_text("Hall upright is out of use").first).to_be_visible()

    def test_machines_wait_for_the_open_cases_that_stand_above_them(self):
        asked = []
        self.page.route("**/api/cases", lambda route: asked.append(route))
        self.page.goto("/#/faults")
        self.wait_until(lambda: asked)
        expect(self.page.get_by_text("Looking for machines")).to_be_visible()
        machine = self.page.get_by_role("button", name=re.compile("^Ground robot"))
        expect(machine).to_have_count(0)
        asked[0].continue_()
        expect(machine).to_be_visible()

    def test_a_dock_that_roars_is_meant_so(self):
        self.begin("Ground robot", "A loud roar for some seconds")
        self.page.get_by_role("group", name="Answers").get_by_text("for half a minute at most").click()
        expect(self.page.get_by_role("heading", level=1)).to_have_text("Nothing is broken.")

    def test_of_two_people_the_second_sees_where_it_stands(self):
        self.go_on()
        other = self.sign_in(self.open_page())
        self.go_on(other)
        self.mind(self.page)
        self.page.locator(".answer").first.click()
        expect(self.page.get_by_role("region", name="So far").get_by_role("listitem")).to_have_count(4)
        self.mind(other)
        other.locator(".answer").last.click()
        expect(other.get_by_role("alert")).to_contain_text("Somebody else went on with this case meanwhile.")
        expect(other.get_by_role("region", name="So far").get_by_role("listitem")).to_have_count(4)

    def test_closed_without_a_try_it_wants_a_reason(self):
        self.go_on()
        self.page.get_by_role("button", name="Close the case").click()
        dialog = self.page.get_by_role("dialog")
        self.assertTrue(dialog.get_by_role("button", name="Close it").is_disabled())
        dialog.get_by_label("Why does it end here?").fill("the stairs can wait")
        dialog.get_by_role("button", name="Close it").click()
        expect(self.page.get_by_text("This case is closed.")).to_be_visible()

    def test_on_paper_for_a_repairer(self):
        self.go_on()
        self.page.get_by_role("link", name="On paper").click()
        expect(self.page.get_by_role("heading", name="Looked at")).to_be_visible()
        expect(self.page.get_by_role("article")).to_contain_text("How does the motor sound? higher")

    def test_it_rests_while_other_looks_go_on_and_the_paper_has_what_was_kept(self):
        self.begin("Hall upright", re.compile("^It stops when hot"))
        self.mind(self.page)
        self.page.get_by_role("button", name="whole").click()
        self.page.get_by_role("button", name=re.compile("^Let it rest now")).click()
        expect(self.page.get_by_text("It rests until 10:00, 60 min more.")).to_be_visible()
        expect(self.check()).not_to_have_attribute("data-check", "rest:motor")
        self.page.get_by_role("button", name="Photo or note").click()
        self.page.get_by_label("In your words").fill("Smelt warm, not burnt")
        self.page.get_by_role("button", name="Keep it").click()
        expect(self.page.get_by_role("dialog")).to_have_count(0)  # kept, before the page is loaded anew
        self.at(NOW + timedelta(minutes=61))
        self.page.reload()
        expect(self.page.get_by_text("It has rested since 09:00: long enough.")).to_be_visible()
        expect(self.check()).to_have_attribute("data-check", "rest:motor")
        self.page.get_by_role("link", name="On paper").click()
        expect(self.page.get_by_text("Smelt warm, not burnt")).to_be_visible()
        expect(self.page.get_by_text("Foam filter: UF-9")).to_be_visible()

    def test_a_danger_is_said_before_anything_else(self):
        self.page.goto("/#/faults")
        self.page.get_by_role("button", name=re.compile("^Hall upright")).click()
        self.page.get_by_role("checkbox", name="Hot or burnt smell").check()
        expect(self.page.get_by_role("status")).to_contain_text("Stop now")

    def test_nothing_that_axe_finds_nothing_cut_in_both_themes_and_widths(self):
        for viewport, schemes in ((LAPTOP, ("light", "dark")), (PHONE, ("dark",))):
            for scheme in schemes:
                with self.subTest(viewport["width"], scheme=scheme):
                    page = self.sign_in(self.open_page(viewport, color_scheme=scheme))
                    page.goto("/#/faults")
                    expect(page.get_by_text("Still being looked for")).to_be_visible()
                    self.assert_accessible(page, "Faults")
                    page.get_by_text("Go on").click()
                    expect(self.check(page)).to_be_visible()
                    self.assert_accessible(page, "Faults")
                    self.assertLessEqual(
                        page.evaluate("document.documentElement.scrollWidth"), viewport["width"]
                    )


class AirAndReadings(TraceCase):
    expected_errors = ("422", "Failed to load resource")

    def setUp(self):
        super().setUp()
        self.open_machine(machine="Stairs cordless")
        self.page.wait_for_load_state("networkidle")  # notes, bags and readings stand above the lab

    def test_the_air_lab_moves_at_once_and_says_what_one_would_hear(self):
        self.page.get_by_text("Air lab: what a full filter").click()
        lab = self.page.get_by_role("region", name="Air lab")
        lab.get_by_role("button", name="All clean").click()
        expect(lab).to_contain_text("It runs as new.")
        expect(lab).to_contain_text("14 L/s")
        lab.get_by_label("Where something sits").select_option("wand")
        lab.get_by_label("Of its bore is left").fill("0.1")
        expect(lab).to_contain_text("It pulses.")
        expect(lab).to_contain_text("52 % of clean")
        lab.get_by_role("button", name="As it stands now").click()
        expect(lab).not_to_contain_text("52 % of clean")

    def test_a_reading_stands_in_its_row_and_one_that_cannot_be_is_refused(self):
        readings = self.page.get_by_role("region", name="Readings")
        expect(readings).to_contain_text("Suction by gauge, through a fixed hole")
        readings.get_by_text("Take a reading").click()
        readings.get_by_label("Of what").select_option("charge")
        readings.get_by_label("Figure").fill("900")
        readings.get_by_role("button", name="Note it").click()
        expect(self.page.get_by_text("needs 1 to 360 min")).to_be_visible()
        readings.get_by_label("Figure").fill("22")
        readings.get_by_role("button", name="Note it").click()
        expect(readings).to_contain_text("22 min")

    def test_nothing_that_axe_finds_nothing_cut_in_lab_and_readings(self):
        for viewport, scheme in ((LAPTOP, "dark"), (PHONE, "light")):
            with self.subTest(viewport["width"], scheme=scheme):
                page = self.sign_in(self.open_page(viewport, color_scheme=scheme))
                self.open_machine(page=page, machine="Stairs cordless")
                expect(page.get_by_role("region", name="Bag and bin")).to_be_visible()  # the last to move the page
                page.get_by_text("Air lab: what a full filter").click()
                expect(page.get_by_role("region", name="Air lab")).to_contain_text("At the nozzle")
                page.get_by_role("region", name="Readings").get_by_text("Take a reading").click()
                self.assert_accessible(page, "Air lab and readings")
                self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), viewport["width"])

    def test_something_is_wrong_is_one_tap_away(self):
        self.page.get_by_role("link", name="Something is wrong").click()
        expect(self.page.get_by_text("A case of Stairs cordless is open.")).to_be_visible()


class AtAGate(TraceCase):
    def test_what_is_not_so_can_be_told_and_a_danger_ends_the_search(self):
        self.begin("Ground robot", "A charge no longer lasts")
        question = self.page.locator(".question")
        while question.get_by_text("It is not so, or I cannot tell").count() == 0:
            told = question.get_attribute("data-told")
            question.get_by_role("button", name="Can’t tell").click()
            expect(question).not_to_have_attribute("data-told", told)
        question.get_by_text("It is not so, or I cannot tell").click()
        expect(question).to_contain_text("Then this is not looked at")
        question.get_by_role("button", name=re.compile("The battery is swollen")).click()
        expect(self.page.get_by_role("alert", name="Ground robot is out of use")).to_be_visible()
