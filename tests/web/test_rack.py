"""The rack as a person sees it: the clash, the better place, the reasons, the scale, and wet fingers at the bench."""

from datetime import timedelta

from server.machines.models import Item, Weight
from server.drying.rack import rack_page
from tests.web.browser import NOW, PHONE, BrowserTestCase, expect
from tests.web.test_bench import BenchCase


class TheRack(BrowserTestCase):
    """The attic robot's fine filter hangs in the cold utility room, and the robot runs before it is dry there."""

    opens = None
    expected_errors = ("422",)

    def setUp(self):
        super().setUp()
        self.page.goto("/#/rack")
        self.filter = self.page.get_by_role("listitem", name="Fine filter")
        expect(self.filter).to_be_visible()

    def press(self, name):
        self.page.get_by_role("button", name=name).click()

    def stands(self):
        [on] = rack_page(self.member)
        return on

    def test_a_clash_is_told_first_and_a_better_place_is_one_tap_away_and_back(self):
        expect(self.page.get_by_role("heading", level=1)).to_have_text(
            "Attic robot runs before its fine filter is dry."
        )
        self.press("Move it to: Airing cupboard")
        expect(self.filter).to_contain_text("Hangs in: Airing cupboard")
        self.assertIsNone(self.stands().better)
        self.page.keyboard.press("u")
        expect(self.filter).to_contain_text("Hangs in: Utility room")

    def test_a_place_where_it_is_dry_in_time_goes_before_a_pause(self):
        self.at(NOW + timedelta(days=1))
        self.page.reload()
        expect(self.filter).to_contain_text("In Airing cupboard it would be ready in time.")
        self.press("Move it to: Airing cupboard")
        expect(self.page.get_by_role("heading", level=1)).to_contain_text("to go.")
        self.assertEqual(self.stands().missed, [])

    def test_or_the_robot_is_paused_and_its_week_goes_on_after(self):
        self.page.get_by_role("button", name="Pause Attic robot until").click()
        expect(self.page.get_by_text("then its usual week goes on")).to_be_visible()
        self.assertEqual(self.stands().missed, [])

    def test_says_why_so_long(self):
        self.press("Why so long?")
        expect(self.filter).to_contain_text("Fine pleated filter: 40 h in free air of 20 °C and 50 % damp.")
        expect(self.filter).to_contain_text("Utility room, 15 °C and 80 % damp: 3.1 times as long.")
        expect(self.filter).to_contain_text("With 2 taking turns Attic robot would never wait.")

    def test_another_place_shows_when_it_would_be_ready_there(self):
        self.press("Where it hangs")
        self.filter.get_by_label("In moving air").check()
        expect(self.filter.get_by_role("button", name="Hang it in: Airing cupboard")).to_contain_text("ready about")
        self.filter.get_by_role("button", name="Hang it in: Utility room").click()
        expect(self.filter).to_contain_text("Hangs in: Utility room, in moving air")
        self.assertTrue(self.stands().job.stay.moving)

    def test_readings_are_drawn_and_one_below_the_dry_weight_offers_a_new_one(self):
        row = Item.objects.of(self.member.household_id).get(pk=self.stands().job.item.id)
        self.press("Weigh it")
        expect(self.filter).to_contain_text("Its dry weight is not known yet")
        self.weigh(46)
        expect(self.filter.get_by_role("img", name="Weighed 1 times")).to_be_visible()
        self.assertEqual(Weight.objects.of(self.member.household_id).filter(item=row).count(), 1)
        self.know_dry(row, 30)
        self.weigh(12)
        expect(self.page.get_by_text("12 g is below its dry weight of 30 g").first).to_be_visible()
        self.press("It is bone dry: this is its dry weight")
        expect(self.filter).to_contain_text("Dry it weighs 12 g")

    def weigh(self, grams):
        self.filter.get_by_label("It weighs now (g)").fill(str(grams))
        self.press("Keep the reading")

    def know_dry(self, row, grams):
        from server.drying.services import weigh

        self.at(NOW + timedelta(minutes=5))
        weigh(member=self.member, item_id=row.pk, value=grams, dry=True)

    def test_wide_narrow_light_and_dark_nothing_is_cut_or_inaccessible(self):
        for look, more in {"dark": {"color_scheme": "dark"}, "phone": {"viewport": PHONE}}.items():
            page = self.sign_in(self.open_page(**more))
            page.goto("/#/rack")
            for part in ("Why so long?", "Where it hangs", "Weigh it"):
                with self.subTest(look=look, part=part):
                    page.get_by_role("button", name=part).click()
                    page.wait_for_timeout(250)
                    self.assert_accessible(page, f"{part} {look}")
                    self.assert_nothing_cut(page, f"{part} {look}")
            page.context.close()


class AtTheSink(BenchCase):
    def test_enter_hangs_what_was_washed_where_it_dries_soonest(self):
        self.open_sheet(only="Filter")
        self.answer_steps(self.page, until="filter.wash.rack")
        expect(self.page.get_by_role("button", name="It hangs in: Utility room")).to_be_visible()
        self.answer_steps(self.page, until="end")
        self.press("End the sitting")
        expect(self.page.get_by_role("heading")).to_have_text("Recorded. The clocks have moved.")
        hung = {on.on.machine_name: on.job.stay.air.name for on in rack_page(self.member)}
        self.assertEqual(hung["Ground robot"], "Airing cupboard")
