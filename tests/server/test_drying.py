"""Parts on the rack: where they hang, what they weigh, and until when they are locked."""

from dataclasses import replace
from datetime import timedelta
from uuid import uuid4

from care.bench.drying import Basis, Hanging
from care.errors import IllegalMove, InvalidValue
from care.household import DryingPlace, Profile
from care.items import State
from care.vocabulary import Action, School
from server.base.problems import NotAllowed
from server.bench import services as bench
from server.drying.rack import places_for, rack_page
from server.drying.services import answer_household, check_dry, hang, weigh
from server.logbook.models import Entry
from server.logbook.services import undo
from server.machines.models import Item
from server.setup.services import Spare
from server.work.services import already_done, fit_item
from tests.server.house import DAY, NOON, HouseTestCase, household
from tests.server.test_api import ApiTestCase
from tests.server.test_bench import BenchTestCase

CELLAR, LOFT = DryingPlace("Cellar", 15, 80), DryingPlace("Loft", 24, 45)
HOME = Profile(places=(CELLAR, LOFT))


def hours(number):
    return timedelta(hours=number)


class OnTheRack(HouseTestCase):
    """A pleated filter washed at noon on a Wednesday; its robot runs on weekdays at a quarter past ten."""

    def setUp(self):
        super().setUp()
        answer_household(member=self.member, profile=HOME, school=School.WORKSHOP)
        already_done(member=self.member, machine_id=self.machine.pk, slot_key="filter", action=Action.WASH)
        self.wet = self.state().on_rack[0][1].id

    def now(self):
        [on] = rack_page(self.member)
        return on

    def ready_after_h(self):
        """Until when it is locked [h after noon], stored and told alike."""
        told = self.now().job.estimate.ready_at
        self.assertEqual(Item.objects.of(self.member.household_id).get(pk=self.wet).damp_until, told)
        return round((told - NOON) / hours(1), 1)

    def hang(self, place, **more):
        return hang(member=self.member, item_id=self.wet, hanging=Hanging(place, **more))

    def weigh(self, after_h, grams, **more):
        self.at(NOON + hours(after_h))
        return weigh(member=self.member, item_id=self.wet, value=grams, **more)

    def test_hangs_in_the_quickest_place_until_somebody_says_otherwise(self):
        self.assertEqual((self.now().job.stay.air, self.ready_after_h()), (LOFT, 24.0))
        self.hang("cellar")
        self.assertEqual((self.now().job.stay.air, self.ready_after_h()), (CELLAR, 86.4))
        self.assertEqual(self.now().better.air, LOFT)

    def test_a_change_of_place_goes_on_from_how_far_it_is_and_can_be_undone(self):
        self.hang("Cellar")
        self.at(NOON + hours(43.3))
        moved = self.hang("Loft")
        self.assertEqual(self.ready_after_h(), 54.5, "half the way there, then 0.79 of 28 h for the other half")
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=moved.pk)
        self.assertEqual(self.ready_after_h(), 86.4)

    def test_a_place_nobody_told_of_is_refused_and_leaves_nothing_behind(self):
        before = Entry.objects.of(self.member.household_id).count()
        with self.assertRaises(InvalidValue) as refused:
            self.hang("Bathroom")
        self.assertEqual(refused.exception.field, "place")
        self.assertIn("Cellar", refused.exception.detail)
        self.assertEqual(Entry.objects.of(self.member.household_id).count(), before)

    def test_when_the_air_of_its_place_changes_the_lock_follows_in_the_same_action(self):
        self.hang("Cellar")
        heated = replace(HOME, places=(replace(CELLAR, temp_c=24, rh_pct=45), LOFT))
        entry = answer_household(member=self.member, profile=heated, school=School.WORKSHOP)
        self.assertEqual(self.ready_after_h(), 24.0)
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=entry.pk)
        self.assertEqual(self.ready_after_h(), 86.4)

    def test_found_damp_rests_on_and_makes_the_place_slower_for_the_next_part(self):
        before = self.ready_after_h()
        self.at(NOON + DAY)
        check_dry(member=self.member, item_id=self.wet, dry=False)
        self.assertEqual(self.ready_after_h(), 36.0)
        self.at(NOON + 1.5 * DAY)
        check_dry(member=self.member, item_id=self.wet, dry=True)
        fit_item(member=self.member, item_id=self.wet)
        already_done(member=self.member, machine_id=self.machine.pk, slot_key="filter", action=Action.WASH)
        slower = self.now().job
        self.assertGreater(slower.stay.slow, 1)
        self.assertGreater(slower.estimate.ready_at - self.now().job.washed_at, hours(before))

    def test_the_scale_ends_the_wait_after_the_floor_and_its_last_reading_is_the_new_dry_weight(self):
        self.hang("Cellar")
        self.weigh(1, 20.0, dry=True)
        self.weigh(2, 44.0)
        self.weigh(12, 30.0)
        self.assertEqual(self.now().job.estimate.basis, Basis.CURVE)
        self.weigh(20, 20.6)
        self.weigh(22, 20.4)
        self.assertEqual((self.now().job.estimate.basis, self.ready_after_h()), (Basis.SETTLED, 24.0))
        with self.assertRaises(IllegalMove):
            check_dry(member=self.member, item_id=self.wet, dry=True)
        self.at(NOON + DAY)
        check_dry(member=self.member, item_id=self.wet, dry=True)
        fit_item(member=self.member, item_id=self.wet)
        already_done(member=self.member, machine_id=self.machine.pk, slot_key="filter", action=Action.WASH)
        self.assertEqual(self.now().job.dry_g, 20.4)

    def test_a_weight_below_the_dry_one_is_refused_unless_it_is_the_new_dry_one(self):
        self.weigh(1, 20.0, dry=True)
        with self.assertRaises(InvalidValue) as refused:
            self.weigh(2, 0.6, unit="oz")
        self.assertEqual(refused.exception.field, "grams")
        self.weigh(2, 0.6, unit="oz", dry=True)
        self.assertAlmostEqual(self.now().job.dry_g, 17.01, places=2)

    def test_a_new_dry_weight_after_heavier_readings_of_the_same_hour(self):
        self.weigh(1, 46)
        self.weigh(1.1, 30, dry=True)
        self.weigh(1.1, 12, dry=True)
        self.assertEqual(self.now().job.dry_g, 12)

    def test_what_is_not_drying_is_neither_hung_nor_weighed_and_a_viewer_does_neither(self):
        sitting = self.item("bin").id
        for refused in (
            lambda: hang(member=self.member, item_id=sitting, hanging=Hanging()),
            lambda: weigh(member=self.member, item_id=sitting, value=20),
        ):
            with self.assertRaises((IllegalMove, InvalidValue)):
                refused()
        self.member.role = "viewer"
        with self.assertRaises(NotAllowed):
            self.hang("Loft")

    def test_the_runs_it_misses_are_named_and_how_many_sets_would_end_that(self):
        self.hang("Cellar")
        on = self.now()
        self.assertEqual([(at - NOON) / hours(1) for at in on.missed], [22.25, 46.25])
        self.assertEqual((on.sets.have, on.sets.needed), (1, 2), "three days and a half fit between two washes")

    def test_another_place_is_told_from_how_far_it_is_already(self):
        self.hang("Cellar")
        self.at(NOON + hours(43.2))
        told = {one.air: one.ready_at for one in places_for(self.member, self.wet, pressed=False, moving=False)}
        self.assertEqual(told[LOFT], self.now().better.ready_at)
        self.hang("Loft")
        self.assertEqual(told[LOFT], self.now().job.estimate.ready_at)

    def test_what_the_scale_settled_is_not_sent_to_another_place(self):
        self.hang("Cellar")
        self.weigh(1, 20.0, dry=True)
        self.weigh(2, 40.0)
        self.assertIsNotNone(self.now().better)
        self.weigh(9, 30.0)
        self.assertIsNone(self.now().better)


class WithASpare(HouseTestCase):
    spares = [Spare("filter", "Filter B")]

    def test_the_spare_is_offered_and_once_it_is_in_there_is_no_clash(self):
        already_done(member=self.member, machine_id=self.machine.pk, slot_key="filter", action=Action.WASH)
        [on] = rack_page(self.member)
        self.assertEqual((on.spare.name, len(on.missed)), ("Filter B", 1))
        fit_item(member=self.member, item_id=on.spare.id)
        [on] = rack_page(self.member)
        self.assertEqual((on.spare, on.missed), (None, []))


class AtTheBench(BenchTestCase):
    spares = []

    def wash(self):
        """A sheet for the filter, worked to its end, the filter hung in the cellar."""
        answer_household(member=self.member, profile=HOME, school=School.WORKSHOP)
        sheet = self.open(("filter", Action.WASH))
        while sheet.progress.current is not None:
            if sheet.progress.current.kind == "rack":
                hanging = Hanging("Cellar", moving=True)
                given = bench.Given(uuid4(), sheet.progress.current.key, "done", hanging=hanging)
                sheet = bench.answer(member=self.member, sheet_id=sheet.row.pk, given=given)
            else:
                sheet = self.say(sheet)
        return sheet

    def test_a_sheet_keeps_where_the_washed_part_hangs(self):
        self.finish(self.wash())
        [on] = rack_page(self.member)
        self.assertEqual((on.job.stay.air, on.job.stay.moving), (CELLAR, True))
        self.assertEqual(on.job.item.state, State.DRYING)

    def test_a_place_dropped_before_the_sitting_ends_does_not_hold_it_up(self):
        sheet = self.wash()
        answer_household(member=self.member, profile=Profile(places=(LOFT,)), school=School.WORKSHOP)
        self.finish(sheet)
        [on] = rack_page(self.member)
        self.assertEqual((on.job.stay.air, on.job.stay.moving), (LOFT, True))


class OverHttp(ApiTestCase):
    def test_the_rack_says_why_and_takes_places_and_weights(self):
        places = [{"name": "Cellar", "temp_c": 15, "rh_pct": 80}, {"name": "Loft", "temp_c": 24, "rh_pct": 45}]
        home = {"long_haired": 1, "animals": 0, "children": 0, "area": 90, "carpet": 0.5, "dust": []}
        self.post("/household", **home, school="workshop", places=places)
        self.post(f"/machines/{self.machine.pk}/services", slot="filter", action="wash")
        [job] = self.client.get("/api/rack").json()["jobs"]
        item = job["item"]["id"]
        self.assertEqual((job["place"], job["why"]["reference_h"], job["pause_until"]), ("Loft", 28, "2026-03-05"))
        told = self.client.get(f"/api/items/{item}/places?moving=true").json()
        self.assertEqual([one["name"] for one in told["places"]], ["Cellar", "Loft"])
        self.assertEqual(self.post(f"/items/{item}/hang", place="Cellar").status_code, 201)
        self.assert_problem(self.post(f"/items/{item}/hang", place="Shed"), 422, "place")
        self.assertEqual(self.post(f"/items/{item}/weights", value=60).status_code, 201)
        self.assert_problem(self.post(f"/items/{item}/weights", value=-1), 422, "value")
        self.assert_problem(self.post(f"/items/{item}/weights", value=1, unit="lb"), 422, "unit")
        [job] = self.client.get("/api/rack").json()["jobs"]
        self.assertEqual((job["place"], job["better"]["name"], len(job["weighings"])), ("Cellar", "Loft", 1))
        self.assertEqual(self.client.get(f"/api/items/{uuid4()}/places").status_code, 404)
        for tools, has in ((None, True), (["torch"], False), (["torch", "scale"], True)):
            self.post("/household", **home, school="workshop", places=places, tools=tools)
            self.assertIs(self.client.get("/api/rack").json()["has_scale"], has)

    def test_another_household_s_part_is_not_there(self):
        self.post(f"/machines/{self.machine.pk}/services", slot="filter", action="wash")
        [job] = self.client.get("/api/rack").json()["jobs"]
        other = household(name="Next door", user_name="next")
        self.client.force_login(other.user)
        self.assertEqual(self.client.get("/api/rack").json()["jobs"], [])
        self.assertEqual(self.post(f"/items/{job['item']['id']}/hang").status_code, 404)
