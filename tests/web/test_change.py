"""The rest of what can be changed on a machine, a house of many machines, and what a viewer or a lost server leaves."""

import re
from uuid import uuid4

from server.household.models import Member
from server.machines.models import Item, Machine, ScheduleVersion
from server.setup.services import Earlier, New, set_up
from server.due.state import machine_states
from tests.web.browser import BrowserTestCase, clock, expect
from tests.web.browser import NOW as TODAY


class ChangeTestCase(BrowserTestCase):
    opens = None
    expected_errors = ("422", "409")
    machine = "Ground robot"

    def open_settings(self):
        self.open_machine(machine=self.machine)
        self.page.get_by_role("link", name="Change it").click()
        expect(self.page.get_by_role("heading", name=f"{self.machine}: change it")).to_be_visible()

    def open_part(self, name):
        self.page.locator("button.head").filter(has=self.page.get_by_text(name, exact=True)).click()

    def said(self, text):
        expect(self.page.get_by_text(text, exact=False).first).to_be_visible()

    def dialog(self):
        return self.page.get_by_role("dialog")

    def row(self):
        return Machine.objects.of(self.member.household_id).get(given_name=self.machine)

    def item(self, name):
        return Item.objects.of(self.member.household_id).get(name=name, home_machine__given_name=self.machine)


class Parts(ChangeTestCase):
    def setUp(self):
        super().setUp()
        self.open_settings()

    def test_get_another_name_and_the_book_s_again(self):
        self.open_part("Filter")
        body = self.page.locator(".body")
        body.get_by_label("Name", exact=True).fill("Front caster")
        body.get_by_role("button", name="Rename").click()
        expect(self.page.get_by_role("alert")).to_contain_text("a name that no other part of this machine has")
        body.get_by_label("Name", exact=True).fill("Blue filter")
        body.get_by_role("button", name="Rename").click()
        self.said("The part is called Blue filter now.")
        expect(self.page.locator("button.head", has_text="Blue filter")).to_contain_text("in the book: Filter")
        self.page.get_by_role("button", name="As the book: Filter").click()
        self.said("The part has its usual name again.")
        self.assertEqual(self.row().own, {"marks/filter": {"marked": "yes"}})

    def test_move_to_another_place_and_layer_and_the_strip_follows(self):
        self.open_part("Front caster")
        self.page.locator(".body select").first.select_option("bay")
        self.said("Front caster has its place.")
        self.page.get_by_label("The air meets it as number").fill("3")
        self.page.get_by_label("The air meets it as number").press("Tab")
        expect(self.page.locator("button.head", has_text="Front caster")).to_contain_text("moved")
        place = {"station": "bay", "air_order": 3, "refit_order": 2}
        self.wait_until(lambda: self.row().own["place/caster"] == place)
        expect(self.page.locator(".body input[type=number]").first).to_be_enabled()
        self.page.get_by_role("link", name="To its page").click()
        strip = self.page.get_by_role("group", name="Ground robot, air path")
        expect(strip.get_by_role("button", name=re.compile("^caster"))).to_have_count(0)

    def test_have_a_school_of_their_own_that_says_what_differs(self):
        self.open_part("Side brush")
        self.page.get_by_label("School of this part").select_option("thrifty")
        self.said("Side brush is kept by: Keep it going.")
        self.page.goto(f"/#/machines/{self.row().pk}/side-brush")
        part = self.page.locator('[data-part="side-brush"]')
        expect(part).to_contain_text("Kept by its own school: Keep it going.")
        expect(part).to_contain_text("when you find it needs it")

    def test_may_be_left_out_with_a_reason_but_not_what_guards_somebody(self):
        self.open_part("Charging contacts")
        self.page.get_by_role("button", name="Set your own figure: wipe Charging contacts").click()
        self.dialog().get_by_role("button", name="we do without").click()
        self.dialog().get_by_label("Why").fill("wiped at every service")
        self.dialog().get_by_role("button", name="Keep it").click()
        expect(self.page.get_by_role("row", name="wipe")).to_contain_text("left out")
        self.assertNotIn("contacts", self.due_slots())
        self.open_part("Cliff, wall and dock sensors")
        self.page.get_by_role("button", name="Set your own figure: wipe Cliff, wall and dock sensors").click()
        expect(self.dialog().get_by_role("button", name="we do without")).to_have_count(0)
        expect(self.dialog()).to_contain_text("It guards you or the motor")

    def test_come_from_the_book_to_a_machine_that_has_one_more(self):
        self.page.get_by_role("button", name="Add a part…").click()
        self.dialog().get_by_label("What is it?").select_option("foam-pad")
        self.dialog().get_by_label("Where does it sit?").select_option("outlet")
        self.dialog().get_by_label("Made of, if you know").fill("grey foam")
        self.dialog().get_by_role("button", name="do not know").click()
        self.dialog().get_by_role("button", name="Add it").click()
        self.said("is one of its parts now.")
        state = self.robot()
        added = next(slot for slot in state.machine.archetype.slots if slot.over.added)
        self.assertEqual((added.station, added.over.material, added.needed_to_run), ("outlet", "grey foam", False))
        self.assertTrue(any(due.unsure for due in state.due if due.slot == added.key))

    def test_that_are_taken_off_can_be_had_after_all(self):
        self.open_part("Drive wheels")
        self.page.get_by_role("button", name="This machine does not have it…").click()
        self.dialog().get_by_role("button", name="Take it off").click()
        self.said("Drive wheels is off its list")
        self.page.get_by_role("button", name="Drive wheels: it has one after all").click()
        self.said("Drive wheels is on its list again.")
        self.assertIn("wheels", [slot.key for slot in self.robot().machine.archetype.slots])


class Items(ChangeTestCase):
    def setUp(self):
        super().setUp()
        with clock.at(TODAY):
            set_up(member=self.member, machines=[New(uuid4(), "Second robot", "robot-two-roller")])
        self.page.reload()
        self.open_settings()
        self.open_part("Filter")

    def line(self, name):
        return self.page.locator(".body li", has_text=name)

    def test_a_further_spare_lies_ready(self):
        self.page.get_by_role("button", name="Add a spare…").click()
        name = self.page.get_by_label("Name of the spare")
        expect(name).to_have_value("Filter C")
        self.page.get_by_role("button", name="It lies ready").click()
        self.said("Filter C lies ready.")
        self.assertEqual(self.item("Filter C").state, "ready")

    def test_a_spare_is_meant_for_another_machine(self):
        self.line("Filter B").get_by_role("button", name="To another machine…").click()
        self.dialog().get_by_label("Which machine?").select_option("Second robot")
        expect(self.dialog().get_by_label("Which place?")).to_have_value("filter")
        self.dialog().get_by_role("button", name="Move it").click()
        self.said("Filter B is meant for Second robot now.")
        moved = Item.objects.of(self.member.household_id).get(name="Filter B")
        self.assertEqual((moved.home_machine.name, moved.state), ("Second robot", "ready"))
        self.page.get_by_role("button", name="Undo", exact=True).click()
        self.said("Undone.")
        self.assertEqual(self.item("Filter B").state, "ready")

    def test_one_that_fits_nowhere_there_is_refused(self):
        self.line("Filter B").get_by_role("button", name="To another machine…").click()
        self.dialog().get_by_label("Which machine?").select_option("Hall upright")
        self.dialog().get_by_role("button", name="Move it").click()
        expect(self.dialog().get_by_role("alert")).to_contain_text("a place for a pleated washable filter")

    def test_a_spare_is_thrown_away_for_a_reason(self):
        self.line("Filter B").get_by_role("button", name="Throw away…").click()
        self.dialog().get_by_label("Why").fill("pleats torn")
        self.dialog().get_by_role("button", name="Throw it away").click()
        self.said("Filter B is thrown away.")
        self.assertEqual(self.item("Filter B").state, "retired")

    def test_what_is_sold_asks_which_spares_stay(self):
        self.page.get_by_role("button", name="Put away, lend, sell…").click()
        self.dialog().get_by_role("button", name="sold or given away").click()
        self.dialog().get_by_label("Filter B").check()
        self.dialog().get_by_role("button", name="It is sold or given away").click()
        self.said("Ground robot is sold or given away.")
        dock = Machine.objects.of(self.member.household_id).get(name="Ground dock")
        self.assertEqual((self.item("Filter B").state, self.row().status, dock.status), ("ready", "sold", "sold"))


class TheWeek(ChangeTestCase):
    def test_changes_from_today_on_and_undo_brings_the_old_one(self):
        self.open_settings()
        week = self.page.get_by_text("Usual week:").locator("..")
        expect(week).to_contain_text("weekdays 10:15, 50 min")
        week.get_by_role("button", name="Change…").click()
        self.dialog().get_by_text("Sat", exact=True).click()
        self.dialog().get_by_label("Minutes a run").fill("35")
        self.dialog().get_by_label("it ran as usual").check()
        self.dialog().get_by_role("button", name="From today on").click()
        expect(week).to_contain_text("Fri, Sat 10:15, 35 min; if nobody says, it ran as usual")
        self.page.get_by_role("button", name="Undo", exact=True).click()
        expect(week).to_contain_text("weekdays 10:15, 50 min")

    def test_of_a_run_every_third_day_says_so_here_and_on_round(self):
        self.open_settings()
        week = self.page.get_by_text("Usual week:").locator("..")
        week.get_by_role("button", name="Change…").click()
        self.dialog().get_by_label("once in so many days").check()
        self.dialog().get_by_label("every").fill("3")
        self.dialog().get_by_role("button", name="From today on").click()
        expect(week).to_contain_text("every 3 days at 10:15, 50 min")
        week.get_by_role("button", name="Change…").click()
        expect(self.dialog().get_by_label("every")).to_have_value("3")

    def test_keeps_how_often_the_robot_comes_home_unless_it_is_changed(self):
        self.open_settings()
        week = self.page.get_by_text("Usual week:").locator("..")
        for minutes, home in ((40, "20"), (45, None)):
            week.get_by_role("button", name="Change…").click()
            comes_home = self.dialog().get_by_label("Comes home to be emptied")
            self.dialog().get_by_label("Minutes a run").fill(str(minutes))
            if home:
                expect(comes_home).to_have_value("")
                comes_home.fill(home)
            else:
                expect(comes_home).to_have_value("20")
            self.dialog().get_by_role("button", name="From today on").click()
            expect(week).to_contain_text(f"{minutes} min")
        weeks = ScheduleVersion.objects.of(self.member.household_id).filter(machine=self.row())
        self.assertEqual(weeks.order_by("entry__sequence").last().return_min, 20)


class TheTimeLine(ChangeTestCase):
    def test_says_what_comes_when_and_opens_its_part(self):
        self.open_machine(machine="Hall upright")
        line = self.page.get_by_role("region", name="What comes when")
        first = line.get_by_role("button").first
        expect(first).to_contain_text("Foam filter: wash")
        expect(first).to_contain_text("now or within 11 days")
        line.get_by_role("button", name="later").click()
        line.get_by_role("button", name=re.compile("^Belt: replace")).click()
        expect(self.page.locator('[data-part="belt"]')).to_be_visible()


class ManyMachines(ChangeTestCase):
    """A dozen more than a screen holds: the calm ones fold, and a search finds one."""

    opens = "/"

    def setUp(self):
        super().setUp()
        with clock.at(TODAY):
            more = [New(uuid4(), f"Closet {n:02}", "upright-compact") for n in range(20)]
            more.append(New(uuid4(), "Guest stick", "cordless-one-filter", earlier=Earlier()))
            set_up(member=self.member, machines=more)
        self.page.reload()
        expect(self.page.get_by_role("heading", name="To do")).to_be_visible()
        self.board = self.page.get_by_role("region", name="House board")
        self.rows_ = self.board.locator(".machine")

    def test_are_a_line_each_until_opened_and_more_come_as_one_scrolls(self):
        closet = self.rows_.filter(has=self.page.get_by_role("link", name="Closet 00", exact=True))
        expect(closet).to_contain_text("nothing wants hands")
        expect(closet.get_by_role("group")).to_have_count(0)
        closet.locator(".wants").click()
        expect(closet.get_by_role("group", name="Closet 00, air path")).to_be_visible()
        self.page.mouse.move(400, 500)
        for _ in range(12):
            self.page.mouse.wheel(0, 900)
        expect(self.rows_).to_have_count(28)

    def test_are_found_by_name_kind_and_what_they_want(self):
        self.page.keyboard.press("/")
        search = self.page.get_by_label("Search machines")
        expect(search).to_be_focused()
        search.fill("guest")
        expect(self.rows_).to_have_count(1)
        search.fill("plug-in stick")
        expect(self.rows_.first).to_contain_text("Closet")
        search.fill("")
        self.page.get_by_role("button", name="Not known", exact=True).click()
        expect(self.rows_).to_have_count(1)
        expect(self.rows_).to_contain_text("not known")
        self.page.get_by_role("button", name="Want hands", exact=True).click()
        expect(self.rows_.filter(has_text="nothing wants hands")).to_have_count(0)
        search.fill("no such thing")
        expect(self.board).to_contain_text("No machine fits that.")

    def test_each_is_said_to_have_run_in_its_own_row(self):
        self.page.get_by_label("Search machines").fill("closet 07")
        self.ran(machine="Closet 07").click()
        self.said("Closet 07: a run of 15 min is logged.")

    def test_one_look_round_goes_by_keys(self):
        before = self.unsure()
        link = self.page.get_by_role("link", name=re.compile("Look round.*Guest stick"))
        self.page.goto(f"/{link.get_attribute('href')}")
        expect(self.page.get_by_role("heading", level=1, name="Look round Guest stick")).to_be_visible()
        heading = self.page.get_by_role("heading", level=2)
        expect(heading).to_contain_text("Powered head")
        self.page.keyboard.press("s")
        expect(heading).not_to_contain_text("take the hair out")
        self.page.keyboard.press("2")
        self.said("Neck: a little fluff.")
        self.assertLess(self.unsure(), before)

    def unsure(self):
        """How many clocks of the guests' stick start nobody knows where."""
        state = next(one for one in machine_states(self.member) if one.machine.name == "Guest stick")
        return sum(due.unsure for due in state.due)


class LookingOnly(ChangeTestCase):
    def test_a_viewer_sees_every_screen_and_can_press_nothing_that_records(self):
        Member.everything.filter(pk=self.member.pk).update(role=Member.Role.VIEWER)
        self.page.reload()
        robot = self.row().pk
        expect(self.page.get_by_role("link", name="Add a machine")).to_have_count(0)
        for address, buttons in {
            f"/machines/{robot}/set-up": ["Put away, lend, sell…", "Add a part…", "Change…"],
            "/household": ["Keep these answers", "More: Children", "Add a place"],
            f"/floor/{robot}": ["Something sticky"],
            f"/machines/{robot}/filter": ["Add…", "I looked…"],
        }.items():
            self.page.goto(f"/#{address}")
            for name in buttons:
                with self.subTest(address=address, button=name):
                    expect(self.page.get_by_role("button", name=name).first).to_be_disabled()


class NoAnswer(ChangeTestCase):
    expected_errors = ("ERR_", "Failed to load", "404")

    def test_every_new_screen_says_so_and_tries_again(self):
        robot = self.row().pk
        for address, what in {
            "/household": "**/api/household",
            "/add": "**/api/kinds",
            "/floor": "**/api/floor*",
            f"/machines/{robot}/set-up": f"**/api/machines/{robot}/setup",
        }.items():
            with self.subTest(address):
                self.page.goto("/#/")
                self.page.route(what, lambda route: route.abort())
                self.page.goto(f"/#{address}")
                expect(self.page.get_by_role("alert").first).to_contain_text("Yperon does not answer.")
                self.page.unroute(what)
                self.page.get_by_role("button", name="Try again").click()
                expect(self.page.get_by_role("alert")).to_have_count(0)

    def test_a_machine_that_is_not_there_leads_back(self):
        self.page.goto(f"/#/machines/{uuid4()}/set-up")
        expect(self.page.get_by_role("alert")).to_contain_text("there is none with this id")
