"""The shelf of a household: kinds and counts, price lists and shops, orders that come, parts that go into machines."""

import json
from datetime import timedelta
from unittest import mock
from uuid import uuid4

from django.db import connection
from django.test import override_settings
from django.test.utils import CaptureQueriesContext

from care.due.schedule import weekly
from care.errors import InvalidValue
from care.model import Why
from care.shelf import FitCheck, PartNumber, PartPlace, SparePart, Supply
from care.shelf.costs import CostBasis, Repair
from care.shelf.wear import Course
from care.tables import BadLines
from care.vocabulary import Action, Found, Gone, LoadKind, Silence
from server.base import clock
from server.base.problems import Conflict, NotFound
from server.bench import ending, opening
from server.bench import services as bench
from server.bench.opening import Pick
from server.bench.services import Given
from server.costs import services as worth
from server.due.state import machine_states
from server.due.stored import renewing
from server.dust import services as dust
from server.household.models import Member
from server.household.services import more_load
from server.logbook.services import undo
from server.machines.containers import Size, tell_size
from server.machines.models import Inspection, Standing
from server.notes.readings import feel_pull
from server.round.board import round_of
from server.setup.overrides import rename_machine
from server.setup.services import Spare, add_machine
from server.shelf import buying, orders, prices, records, services
from server.shelf.cost_basis import tell_worth
from server.shelf.models import Measured, Movement, PricesVersion, SpareVersion
from server.shelf.orders import OrderLine
from server.use.services import log_run, rest, set_schedule
from server.wear import services as wear
from server.work import services as work
from server.work.services import already_done, renew_kit
from standins import shop
from tests.server.house import DAY, NOON, WEEKDAYS, HouseTestCase, household

LIST = b"code,name,contents,price,lead_days\nRF-8,Filter,RF-8,6.90,4\nRF-8x3,Three filters,RF-8 x 3,14.90,6\n"


class ShelfTestCase(HouseTestCase):
    def setUp(self):
        super().setUp()
        self.filter = uuid4()
        self.place = PartPlace(self.machine.pk, "filter")

    def keep(self, *numbers, spare_id=None, places=None, name="Robot filter", least=0):
        part = SparePart(name, places or (self.place,), tuple(PartNumber(n) for n in numbers or ("RF-8",)), least)
        return services.keep_kind(member=self.member, spare_id=spare_id or self.filter, part=part)

    def unfit(self, number):
        numbers = (PartNumber("RF-8"), PartNumber(number, maker=False, check=FitCheck.NO, note="rim too wide"))
        part = SparePart("Robot filter", (self.place,), numbers)
        services.keep_kind(member=self.member, spare_id=self.filter, part=part)

    def count(self, there, spare_id=None):
        return services.count(member=self.member, spare_id=spare_id or self.filter, there=there)

    def there(self, spare_id=None):
        return services.on_hand(self.member).get(spare_id or self.filter, 0)

    def prices(self, data=LIST, supplier="Corner", currency="EUR", delivery="0"):
        return prices.take_file(member=self.member, data=data, supplier=supplier, currency=currency, delivery=delivery)

    def kind(self, spare_id=None, horizon=365):
        on = buying.shelf(self.member, horizon)
        return next(one for one in on.kinds if one.id == (spare_id or self.filter))

    def undo(self, entry):
        return undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=entry.pk)


class KindsAndCounts(ShelfTestCase):
    def test_what_wears_by_use_or_date_is_proposed_alike_places_together(self):
        services.propose(member=self.member)
        kinds = {part.name: part for part in records.kinds_of(self.member).values()}
        self.assertIn("Filter, Robot", kinds)
        self.assertNotIn("Sensors", " ".join(kinds))
        every = [place for part in kinds.values() for place in part.places]
        self.assertEqual(len(every), len(set(every)))
        with self.assertRaises(Conflict):
            services.propose(member=self.member)

    def test_spares_from_the_box_of_a_machine_wait_on_the_shelf_and_filters_take_turns(self):
        boxed = [Spare("side-left", "B"), Spare("side-right", "B"), Spare("brush", "B"), Spare("filter", "Filter B")]
        machine = add_machine(
            member=self.member,
            machine_id=uuid4(),
            name="Small robot",
            archetype="robot-belt",
            features=["washable-filter"],
            schedule=None,
            spares=boxed,
        )
        there = services.on_hand(self.member)
        kinds = {part.name: (len(part.places), there[key]) for key, part in records.kinds_of(self.member).items()}
        self.assertEqual(kinds.pop("Side brush, Small robot"), (2, 2))
        self.assertEqual(kinds.pop("Brush, Small robot"), (1, 1))
        ready = [w.item.name for w in wear.wear_of(self.member, machine.pk) if w.item.state == "ready"]
        self.assertEqual((kinds, ready), ({}, ["Filter B"]))

    def test_counts_go_up_and_down_and_never_below_nothing(self):
        self.keep()
        self.count(3)
        services.move(member=self.member, spare_id=self.filter, count=2, why="gone", note="lent")
        self.assertEqual(self.there(), 1)
        with self.assertRaises(InvalidValue) as told:
            services.move(member=self.member, spare_id=self.filter, count=2, why="gone")
        self.assertEqual(told.exception.field, "count")
        with self.assertRaises(InvalidValue):
            self.count(-1)
        self.assertEqual(self.there(), 1)

    def test_a_place_goes_with_one_kind_and_must_be_there(self):
        self.keep()
        with self.assertRaises(Conflict) as told:
            self.keep(spare_id=uuid4(), name="Another filter")
        self.assertEqual(told.exception.field, "places")
        with self.assertRaises(InvalidValue):
            self.keep(spare_id=uuid4(), places=(PartPlace(self.machine.pk, "attic"),))
        with self.assertRaises(InvalidValue):
            SparePart("Filter", ())

    def test_what_was_found_not_to_fit_never_counts_as_there(self):
        self.keep("RF-8", "XF-8")
        services.move(member=self.member, spare_id=self.filter, count=2, why="bought", number="XF-8")
        self.assertEqual(self.there(), 2)
        self.unfit("XF-8")
        self.assertEqual(self.there(), 0)

    def test_one_that_was_fitted_before_it_was_found_not_to_fit_leaves_no_debt(self):
        self.keep("RF-8", "XF-8")
        services.move(member=self.member, spare_id=self.filter, count=2, why="bought", number="XF-8")
        already_done(member=self.member, machine_id=self.machine.pk, slot_key="filter", action=Action.REPLACE)
        self.unfit("XF-8")
        self.assertEqual(self.there(), 0)
        self.count(3)
        self.assertEqual(self.there(), 3)

    def test_what_does_not_fit_can_be_sent_back_no_more_than_came(self):
        self.keep("RF-8", "XF-8")
        services.move(member=self.member, spare_id=self.filter, count=2, why="bought", number="XF-8")
        self.unfit("XF-8")
        back = {"member": self.member, "spare_id": self.filter, "why": "gone", "number": "xf-8"}
        services.move(**back, count=2, note="sent back")
        with self.assertRaises(InvalidValue):
            services.move(**back, count=1)

    def test_dropped_and_kept_otherwise_meanwhile_it_does_not_come_back(self):
        self.keep()
        dropped = services.drop_kind(member=self.member, spare_id=self.filter)
        self.keep(spare_id=uuid4(), name="Filter of another sort")
        with self.assertRaises(Conflict):
            self.undo(dropped)
        self.assertEqual([part.name for part in records.kinds_of(self.member).values()], ["Filter of another sort"])

    def test_others_neither_see_nor_take_it(self):
        self.keep()
        other = household("Elsewhere 3", "third")
        self.assertEqual(records.kinds_of(other), {})
        with self.assertRaises(NotFound):
            services.count(member=other, spare_id=self.filter, there=1)

    def test_the_shelf_moves_no_machines_dates(self):
        self.keep()

        def queries():
            with CaptureQueriesContext(connection) as seen:
                round_of(self.member)
            return len(seen)

        queries()
        quiet = queries()
        self.count(7)
        self.assertEqual(queries(), quiet)


class NewPartsInMachines(ShelfTestCase):
    def setUp(self):
        super().setUp()
        self.keep()
        self.count(2)

    def replaced(self):
        return already_done(member=self.member, machine_id=self.machine.pk, slot_key="filter", action=Action.REPLACE)

    def test_a_new_part_in_its_place_comes_from_the_shelf_and_goes_back_when_undone(self):
        entry = self.replaced()
        self.assertEqual(self.there(), 1)
        moved = Movement.objects.of(self.member.household_id).get(why="fitted")
        self.assertIsNotNone(moved.item_id)
        self.undo(entry)
        self.assertEqual(self.there(), 2)

    def test_is_told_to_fit_or_not_and_then_counts_or_does_not(self):
        place = PartPlace(self.machine.pk, "filter")
        before = records.kinds_of(self.member)[self.filter].numbers
        told = services.tell_fit(
            member=self.member, place=place, number="X-77", check=FitCheck.DIFFERS, note="wider tab"
        )
        self.assertEqual(records.kinds_of(self.member)[self.filter].number("x-77").check, FitCheck.DIFFERS)
        self.undo(told)
        self.assertEqual(records.kinds_of(self.member)[self.filter].numbers, before)
        with self.assertRaises(NotFound):
            other = PartPlace(self.machine.pk, "caster")
            services.tell_fit(member=self.member, place=other, number="C-1", check=FitCheck.FITS)
        with self.assertRaises(InvalidValue):
            services.tell_fit(member=self.member, place=place, number="X-77", check=FitCheck.NO)

    def test_with_none_on_the_shelf_it_came_from_elsewhere(self):
        self.count(0)
        self.replaced()
        self.assertEqual(self.there(), 0)

    def test_over_a_bench_sheet_and_with_a_kit_just_as_well(self):
        pick = Pick(self.machine.pk, "filter", Action.REPLACE)
        sheet = opening.open_sheet(member=self.member, sheet_id=uuid4(), picks=[pick])
        while (step := sheet.progress.current) is not None:
            says = next(v for v in ("done", "pass", "dry", "due", "screws:1") if v in step.answers)
            sheet = bench.answer(member=self.member, sheet_id=sheet.row.pk, given=Given(uuid4(), step.key, says))
        ending.finish(member=self.member, sheet_id=sheet.row.pk)
        self.assertEqual(self.there(), 1)
        roller = uuid4()
        self.keep("RB-1", spare_id=roller, places=(PartPlace(self.machine.pk, "bristle-roller"),), name="Roller")
        self.count(1, roller)
        renew_kit(member=self.member, machine_id=self.machine.pk, kit="brushes")
        self.assertEqual(self.there(roller), 0)

    def test_one_takes_turns_in_a_set(self):
        services.take_turn(member=self.member, spare_id=self.filter, place=self.place, name="Filter B")
        self.assertEqual(self.there(), 1)
        self.count(0)
        with self.assertRaises(InvalidValue):
            services.take_turn(member=self.member, spare_id=self.filter, place=self.place, name="Filter C")


class WhenToOrder(ShelfTestCase):
    def test_with_time_a_spare_becomes_wanted_and_an_order_covers_it(self):
        self.keep()
        self.prices()
        self.assertEqual(self.kind().holding.lead_days, 6)  # three at once are cheapest for one
        self.count(3)
        first = self.kind()
        self.assertEqual(first.cover.supply, Supply.ENOUGH)
        self.count(0)
        self.at(NOON + 60 * DAY)
        wanted = self.kind()
        self.assertNotEqual(wanted.cover.supply, Supply.ENOUGH)
        orders.order(member=self.member, lines=[OrderLine("Corner", "RF-8x3", 1)])
        self.assertEqual((self.kind().holding.on_order, self.kind().to_buy), (3, max(0, wanted.to_buy - 3)))

    def test_a_drying_gap_wants_a_second_set(self):
        self.keep()
        missing = self.kind().holding.turns_missing
        self.assertEqual(missing, 1)
        self.count(1)
        services.take_turn(member=self.member, spare_id=self.filter, place=self.place, name="Filter B")
        self.assertEqual(self.kind().holding.turns_missing, 0)

    def test_stored_renewals_equal_those_made_anew(self):
        before = buying.shelf(self.member).loose
        Standing.objects.of(self.member.household_id).delete()
        self.assertEqual(buying.shelf(self.member).loose, before)
        self.assertTrue(before)


class OrdersAndArrivals(ShelfTestCase):
    def setUp(self):
        super().setUp()
        self.keep()
        self.prices(delivery="3.90")

    def order(self, *lines):
        return orders.order(member=self.member, lines=lines or [OrderLine("Corner", "RF-8x3", 2)])[0]

    def test_it_comes_and_is_on_the_shelf_once(self):
        entry = self.order()
        [row] = records.open_orders(self.member)
        self.assertEqual((row.row.delivery, row.row.expected), (390, (NOON + 6 * DAY).date()))
        orders.arrived(member=self.member, order_id=entry.pk)
        self.assertEqual((self.there(), records.open_orders(self.member)), (6, []))
        with self.assertRaises(Conflict):
            orders.arrived(member=self.member, order_id=entry.pk)

    def test_called_off_and_taken_back(self):
        entry = self.order()
        self.undo(entry)
        self.assertEqual(records.open_orders(self.member), [])
        with self.assertRaises(Conflict):
            orders.arrived(member=self.member, order_id=entry.pk)

    def test_of_two_shops_one_order_may_be_called_off_and_the_other_comes(self):
        self.prices(supplier="Far away")
        near, far = orders.order(
            member=self.member, lines=[OrderLine("Corner", "RF-8", 1), OrderLine("Far away", "RF-8x3", 1)]
        )
        self.undo(near)
        [left] = records.open_orders(self.member)
        self.assertEqual((left.row.pk, left.row.delivery), (far.pk, 0))
        orders.arrived(member=self.member, order_id=far.pk)
        self.assertEqual(self.there(), 3)

    def test_what_came_cannot_be_taken_back_once_it_went_out(self):
        entry = self.order()
        came = orders.arrived(member=self.member, order_id=entry.pk)
        services.move(member=self.member, spare_id=self.filter, count=6, why="gone")
        with self.assertRaises(Conflict):
            self.undo(came)
        self.assertEqual(self.there(), 0)

    def test_bad_lines_order_nothing(self):
        for line in (OrderLine("Corner", "ZZ-1", 1), OrderLine("Nobody", "RF-8", 1), OrderLine("Corner", "RF-8", 0)):
            with self.subTest(line), self.assertRaises(InvalidValue):
                self.order(OrderLine("Corner", "RF-8", 1), line)
        self.assertEqual(records.open_orders(self.member), [])

    def some(self, entry, count, rest_comes=True):
        came = {(self.filter, "RF-8"): count}
        return orders.arrived(member=self.member, order_id=entry.pk, came=came, rest_comes=rest_comes)

    def test_part_of_it_comes_and_the_rest_is_still_on_the_way_until_it_does(self):
        entry = self.order()
        self.some(entry, 2)
        [row] = records.open_orders(self.member)
        self.assertEqual((self.there(), row.missing_by_kind[self.filter]), (2, 4))
        self.assertEqual(self.kind().holding.on_order, 4)
        orders.arrived(member=self.member, order_id=entry.pk)
        self.assertEqual((self.there(), records.open_orders(self.member)), (6, []))

    def test_a_rest_that_does_not_come_no_longer_counts_as_on_the_way_until_that_is_undone(self):
        entry = self.order()
        self.some(entry, 5)
        given_up = self.some(entry, 0, rest_comes=False)
        self.assertEqual((self.there(), self.kind().holding.on_order), (5, 0))
        with self.assertRaises(Conflict):
            self.some(entry, 1)
        self.undo(given_up)
        self.assertEqual((self.there(), self.kind().holding.on_order), (5, 1))

    def test_part_of_it_came_and_the_rest_given_up_are_undone_as_one(self):
        entry = self.order()
        came = self.some(entry, 5, rest_comes=False)
        self.assertEqual((self.there(), records.open_orders(self.member)), (5, []))
        self.undo(came)
        [row] = records.open_orders(self.member)
        self.assertEqual((self.there(), row.missing_by_kind[self.filter]), (0, 6))

    def test_more_than_is_missing_or_nothing_at_all_is_refused_and_writes_nothing(self):
        entry = self.order()
        self.some(entry, 4)
        for count in (3, -1, 0):
            with self.subTest(count), self.assertRaises(InvalidValue) as told:
                self.some(entry, count)
            self.assertEqual(told.exception.field, "came")
        with self.assertRaises(InvalidValue):
            orders.arrived(member=self.member, order_id=entry.pk, came={(uuid4(), "RF-8"): 1})
        self.assertEqual(self.there(), 4)

    def test_of_two_numbers_of_one_kind_each_counts_as_what_it_is(self):
        self.keep("RF-8", "XF-8")
        self.prices(b"code,name,contents,price\nR,Ours,RF-8,6.90\nX,Theirs,XF-8 x 4,9.00\n", supplier="Both")
        entry = self.order(OrderLine("Both", "R", 2), OrderLine("Both", "X", 1))
        came = {(self.filter, "RF-8"): 1, (self.filter, "XF-8"): 4}
        orders.arrived(member=self.member, order_id=entry.pk, came=came)
        self.unfit("XF-8")
        self.assertEqual((self.there(), self.kind().holding.on_order), (1, 1))
        orders.arrived(member=self.member, order_id=entry.pk)
        self.assertEqual((self.there(), records.open_orders(self.member)), (2, []))

    def test_an_order_of_which_some_came_is_not_called_off(self):
        entry = self.order()
        came = self.some(entry, 1)
        with self.assertRaises(Conflict):
            self.undo(entry)
        self.undo(came)
        self.undo(entry)
        self.assertEqual((self.there(), records.open_orders(self.member)), (0, []))

    def test_a_day_it_cannot_have_come_on_is_refused(self):
        entry = self.order()
        for day in (NOON - DAY, NOON + DAY):
            with self.assertRaises(InvalidValue):
                orders.arrived(member=self.member, order_id=entry.pk, day=day.date())


class PriceLists(ShelfTestCase):
    def test_a_bad_file_leaves_the_list_of_before(self):
        self.prices()
        with self.assertRaises(BadLines):
            self.prices(LIST + b"P-1,Bad price,P-1,12 euro,2\n")
        [kept] = records.lists_of(self.member)
        self.assertEqual(len(kept.offers), 2)
        self.assertEqual(PricesVersion.objects.of(self.member.household_id).count(), 1)

    def test_of_many_lists_of_a_shop_the_last_counts_and_it_can_be_dropped(self):
        self.prices()
        self.prices(LIST.split(b"RF-8x3")[0])
        [kept] = records.lists_of(self.member)
        self.assertEqual([offer.code for offer in kept.offers], ["RF-8"])
        dropped = prices.drop_list(member=self.member, supplier="Corner")
        self.assertEqual(records.lists_of(self.member), [])
        self.undo(dropped)
        self.assertEqual(records.lists_of(self.member), [kept])
        with self.assertRaises(NotFound):
            prices.drop_list(member=self.member, supplier="Nobody")

    def test_one_currency_for_all(self):
        self.prices()
        with self.assertRaises(InvalidValue) as told:
            self.prices(supplier="Far away", currency="USD")
        self.assertEqual(told.exception.field, "currency")
        self.prices(currency="USD")  # the only list may change its own

    def ask_shop(self):
        prices.take_list(member=self.member, prices=prices.ask_shop(member=self.member))

    def test_the_shop_is_read_and_survived(self):
        server = shop.opened()
        self.addCleanup(server.server_close)
        self.addCleanup(server.shutdown)
        base = f"http://127.0.0.1:{server.server_port}/offers.json"
        with override_settings(SHOP=base):
            self.ask_shop()
        [kept] = records.lists_of(self.member)
        self.assertEqual((len(kept.offers), kept.delivery), (len(shop.LINES), 390))
        for mood in ("closed", "garbage", "slow"):
            with (
                self.subTest(mood),
                override_settings(SHOP=f"{base}?mood={mood}"),
                mock.patch.object(prices, "PATIENCE_S", 0.2),
                self.assertRaises((Conflict, InvalidValue)),
            ):
                self.ask_shop()
        with override_settings(SHOP=""), self.assertRaises(Conflict):
            self.ask_shop()
        self.assertEqual(records.lists_of(self.member), [kept])
        self.assertEqual(len(prices.read_csv(shop.as_csv(), supplier="x", currency="EUR").offers), len(kept.offers))


class WaysToBuy(ShelfTestCase):
    def test_the_best_way_covers_what_is_needed_and_says_what_is_left(self):
        self.keep()
        self.prices(delivery="3.90")
        found = buying.ways_to_buy(self.member)
        need = self.kind().to_buy
        self.assertGreater(need, 1)
        best = found.ways[0]
        bought = sum(found.sales[key].contents[self.filter] * n for key, n in best.picks.items())
        self.assertEqual(bought - need, best.left.get(str(self.filter), 0))
        self.assertEqual(best.delivery, 390)
        self.assertTrue(all(way.proven for way in found.ways))

    def test_what_nobody_sells_is_listed_apart(self):
        self.keep("QQ-1")
        self.prices()
        found = buying.ways_to_buy(self.member)
        self.assertEqual((found.ways, [kind.id for kind in found.unsold]), ((), [self.filter]))


class OverHttp(ShelfTestCase):
    def setUp(self):
        super().setUp()
        self.client.force_login(self.member.user)

    def send(self, method, path, body=None):
        return getattr(self.client, method)(f"/api/shelf{path}", json.dumps(body or {}), "application/json")

    def test_from_the_proposal_to_the_list_the_order_and_the_shelf(self):
        made = self.send("post", "/propose").json()
        kind = next(k for k in made["shelf"]["kinds"] if k["name"] == "Filter, Robot")
        body = {
            "name": kind["name"],
            "places": [{"machine_id": p["machine_id"], "slot": p["slot"]} for p in kind["places"]],
            "numbers": [{"number": "RF-8"}],
            "least": 1,
        }
        self.assertEqual(self.send("put", f"/kinds/{kind['id']}", body).status_code, 200)
        took = self.client.post("/api/shelf/prices?supplier=Corner&currency=eur&delivery=3.90", LIST, "text/csv")
        self.assertEqual(took.json()["shelf"]["lists"], [{"supplier": "Corner", "offers": 2, "delivery": 390}])
        wanted = {one["name"]: one for one in self.client.get("/api/shelf/to_order").json()}
        self.assertEqual(wanted["Filter, Robot"]["supply"], "now")
        ways = self.client.get("/api/shelf/ways").json()
        picks = [{k: pick[k] for k in ("supplier", "code", "count")} for pick in ways["ways"][0]["picks"]]
        ordered = self.send("post", "/orders", {"lines": picks}).json()
        order = ordered["shelf"]["orders"][0]["id"]
        after = self.send("post", f"/orders/{order}/arrived").json()["shelf"]
        filter_ = next(k for k in after["kinds"] if k["id"] == kind["id"])
        self.assertGreater(filter_["on_hand"], 0)
        moves = self.client.get(f"/api/shelf/kinds/{kind['id']}/moves").json()
        self.assertEqual([m["why"] for m in moves], ["came"])
        text = self.client.get("/api/shelf/list.csv").content.decode()
        self.assertTrue(text.startswith("supplier,code,name,count,price each,currency"))

    def test_part_of_an_order_is_told_over_http(self):
        self.keep()
        self.prices()
        lines = [{"supplier": "Corner", "code": "RF-8x3", "count": 1}]
        [order] = self.send("post", "/orders", {"lines": lines}).json()["shelf"]["orders"]
        path, key = f"/orders/{order['id']}/arrived", str(self.filter)
        self.assertEqual(
            self.send("post", path, {"came": [{"spare_id": key, "number": "RF-8", "count": 9}]}).status_code, 422
        )
        came = [{"spare_id": key, "number": "RF-8", "count": 1}]
        [after] = self.send("post", path, {"came": came}).json()["shelf"]["orders"]
        wanted = {"spare_id": key, "number": "RF-8", "name": "Robot filter", "missing": 2, "ordered": 3}
        self.assertEqual((order["begun"], after["begun"], after["coming"]), (False, True, [wanted]))

    def test_the_filter_log_says_when_what_by_whom_and_what_is_next_and_goes_out_as_a_file(self):
        self.at(NOON)
        for days, found in ((20, Found.DUE), (6, None)):
            day = (NOON - days * DAY).date()
            args = {"member": self.member, "machine_id": self.machine.pk, "slot_key": "filter", "day": day}
            already_done(**args, action=Action.WASH, found=found)
        already_done(member=self.member, machine_id=self.machine.pk, slot_key="bristle-roller", action=Action.DE_HAIR)
        tell_worth(
            member=self.member, machine_id=self.machine.pk, basis=CostBasis(), guarantee_until=(NOON + DAY).date()
        )
        log = self.client.get(self.machine_path("filters")).json()
        told = [(line["day"], line["slot_name"], line["action"], line["found"], line["by"]) for line in log["lines"]]
        days = [str((NOON - n * DAY).date()) for n in (6, 20)]
        self.assertEqual(told, [(days[0], "Filter", "wash", None, "Ash"), (days[1], "Filter", "wash", "due", "Ash")])
        self.assertEqual(log["guarantee_until"], str((NOON + DAY).date()))
        self.assertIn(("Filter", "wash"), [(one["slot_name"], one["action"]) for one in log["coming"]])
        lines = self.client.get(self.machine_path("filters.csv")).content.decode().splitlines()
        self.assertEqual(lines[0], "date,machine,place,part,action,found before,person")
        self.assertEqual(lines[2], f"{days[1]},Robot,Filter,Filter,wash,due,Ash")
        self.assertEqual(self.client.get(f"/api/machines/{uuid4()}/filters").status_code, 404)

    def test_a_name_that_a_spreadsheet_would_run_is_only_a_name_in_a_file(self):
        rename_machine(member=self.member, machine_id=self.machine.pk, name="=SUM(A1)")
        day = (NOON - DAY).date()
        already_done(member=self.member, machine_id=self.machine.pk, slot_key="filter", action=Action.WASH, day=day)
        lines = self.client.get(self.machine_path("filters.csv")).content.decode().splitlines()
        self.assertIn(",'=SUM(A1),", lines[1])

    def machine_path(self, rest):
        return f"/api/machines/{self.machine.pk}/{rest}"

    def ask(self, method, rest, body=None):
        return getattr(self.client, method)(self.machine_path(rest), json.dumps(body or {}), "application/json")

    def test_wear_is_measured_and_told_with_its_line(self):
        brush = next(p for p in self.client.get(self.machine_path("wear")).json()["parts"] if p["slot"] == "side-brush")
        told = self.ask("post", f"wear/{brush['item_id']}", {"measure": "bend", "value": 4}).json()
        after = next(p for p in told["wear"]["parts"] if p["slot"] == "side-brush")
        [gauge] = after["gauges"]
        self.assertEqual((gauge["points"][0]["value"], gauge["limit"]), (4, 10))
        self.assertEqual(gauge["because"]["readings"], len(gauge["points"]))
        bad = self.ask("post", f"wear/{brush['item_id']}", {"measure": "bend", "value": -4})
        self.assertEqual((bad.status_code, bad.json()["field"]), (422, "value"))
        self.assertEqual(self.ask("post", f"wear/{uuid4()}", {"measure": "bend", "value": 4}).status_code, 404)

    def test_what_a_machine_costs_is_told_and_a_repair_weighed(self):
        self.keep()
        self.prices()
        told = {"price_new": 400_00, "life_years": 8, "hour_value": 12_00, "guarantee_until": None}
        worth = self.ask("put", "worth", told).json()
        self.assertEqual(worth["cost"], worth["parts_cost"] + worth["minutes_worth"])
        self.assertEqual(sum(part["cost"] for part in worth["parts"]), worth["parts_cost"])
        weighed = self.ask("post", "worth/repair", {"cost": 60_00, "minutes": 30, "adds_years": 3}).json()
        self.assertTrue(weighed["repair"])
        bad = self.ask("put", "worth", {**told, "life_years": 0})
        self.assertEqual((bad.status_code, bad.json()["field"]), (422, "life_years"))

    def test_a_bag_is_told_of_and_forgotten(self):
        dock = add_machine(
            member=self.member,
            machine_id=uuid4(),
            name="Dock",
            archetype="dock-bag",
            serves=self.machine.pk,
            schedule=None,
        )
        set_schedule(
            member=self.member,
            machine_id=self.machine.pk,
            schedule=weekly(WEEKDAYS, 50, None, silence=Silence.RAN),
        )
        path = f"/api/machines/{dock.pk}/dust"
        size = {"volume": 0.63, "unit": "gal"}
        [bag] = self.client.put(f"{path}/bag", json.dumps(size), "application/json").json()["holders"]
        self.assertEqual((bag["size"]["unit"], bag["action"]), ("gal", "replace"))
        self.assertTrue(bag["per_week_low"] < bag["per_week"] < bag["per_week_high"])
        bad = self.client.put(f"{path}/bag", json.dumps({"volume": 2, "unit": "bucket"}), "application/json")
        self.assertEqual((bad.status_code, bad.json()["field"]), (422, "unit"))
        [bag] = self.client.delete(f"{path}/bag").json()["holders"]
        self.assertIsNone(bag["size"])

    def test_a_viewer_may_look_and_not_change(self):
        self.keep()
        Member.objects.of(self.member.household_id).filter(pk=self.member.pk).update(role="viewer")
        self.assertEqual(self.client.get("/api/shelf").status_code, 200)
        for method, path, body in (
            ("post", f"/kinds/{self.filter}/count", {"on_hand": 3}),
            ("post", "/propose", {}),
            ("post", "/orders", {"lines": []}),
            ("delete", f"/kinds/{self.filter}", {}),
        ):
            with self.subTest(path):
                self.assertEqual(self.send(method, path, body).status_code, 403)
        self.assertEqual(self.there(), 0)

    def test_bad_lines_come_back_line_by_line(self):
        data = LIST + b"P-1,Bad,P-1,cheap,2\n=X,Bad,,1.00,2\n"
        told = self.client.post("/api/shelf/prices?supplier=Corner&currency=EUR", data, "text/csv")
        self.assertEqual(told.status_code, 422)
        self.assertEqual([line["line"] for line in told.json()["lines"]], [4, 5])
        self.assertFalse(PricesVersion.objects.of(self.member.household_id).exists())

    def test_a_file_longer_than_any_list_is_refused_before_it_is_read(self):
        told = self.client.post("/api/shelf/prices?supplier=Corner&currency=EUR", b"x" * 3_000_000, "text/csv")
        self.assertEqual((told.status_code, told.json()["field"]), (422, "file"))

    def test_a_refusal_names_its_field(self):
        bad = self.send("put", f"/kinds/{uuid4()}", {"name": "Filter", "places": []})
        self.assertEqual((bad.status_code, bad.json()["field"]), (422, "places"))
        self.assertFalse(SpareVersion.objects.of(self.member.household_id).exists())
        self.assertEqual(self.client.get("/api/shelf?horizon=5").status_code, 422)


class BagsAndBins(ShelfTestCase):
    def setUp(self):
        super().setUp()
        self.dock = add_machine(
            member=self.member,
            machine_id=uuid4(),
            name="Dock",
            archetype="dock-bag",
            serves=self.machine.pk,
            schedule=None,
        )
        set_schedule(
            member=self.member, machine_id=self.machine.pk, schedule=weekly(WEEKDAYS, 50, None, silence=Silence.RAN)
        )

    def bag(self):
        [one] = dust.estimates(self.member, self.dock.pk)
        return one

    def tell(self, **size):
        tell_size(member=self.member, machine_id=self.dock.pk, slot="bag", size=Size(**size))

    def look(self, found):
        work.look(member=self.member, machine_id=self.dock.pk, slot_key="bag", about=Action.REPLACE, found=found)

    def test_a_dock_bag_without_any_sensor_begins_with_a_cup_somebody_knows(self):
        self.tell(volume=2.4, known_volume=2.6, known_unit="qt", known_weeks=2)
        self.assertAlmostEqual(self.litres_a_week(self.bag()), 1.23, places=2)
        self.assertAlmostEqual(self.bag().filling.weeks, 1.76, places=1)

    def test_each_look_inside_and_each_change_corrects_it(self):
        self.tell(volume=2.4, known_volume=2.6, known_unit="qt", known_weeks=2)
        self.at(NOON + 28 * DAY)
        self.look(Found.LIGHT)
        before = self.bag()
        self.assertLess(self.litres_a_week(before), 0.8)
        self.at(NOON + 56 * DAY)
        already_done(
            member=self.member, machine_id=self.dock.pk, slot_key="bag", action=Action.REPLACE, found=Found.DUE
        )
        changed = self.bag()
        self.assertEqual((changed.filling.fillings, changed.filling.share), (1, 0.0))
        spread = [one.filling.a_week.p90 / one.filling.a_week.p10 for one in (before, changed)]
        self.assertLess(spread[1], spread[0])
        self.assertGreater((changed.due.p50 - (NOON + 56 * DAY).date()).days, 18)  # it began at 12

    def litres_a_week(self, one):
        return one.filling.a_week.p50 * one.size.container.capacity_l

    def test_its_date_is_the_one_of_round_and_of_the_shelf_whatever_is_told_and_found(self):
        part = SparePart("Bag", (PartPlace(self.dock.pk, "bag"),), (PartNumber("DB-1"),))
        services.keep_kind(member=self.member, spare_id=uuid4(), part=part)
        for day, told, found in ((0, None, None), (9, 2.0, None), (10, 2.0, Found.LIGHT), (12, 6.0, Found.DUE)):
            self.at(NOON + day * DAY)
            if told:
                self.tell(volume=2.4, known_volume=2.4, known_weeks=told)
            if found:
                self.look(found)
            [kept] = [one.renewal for one in renewing(self.member) if one.renewal.slot == "bag"]
            [state] = machine_states(self.member, self.dock.pk)
            [task] = [one for one in state.due if (one.slot, one.action) == ("bag", Action.REPLACE)]
            with self.subTest(day, told=told, found=found):
                self.assertEqual(self.bag().due, task.due)
                self.assertEqual(kept.due, self.bag().due)

    def change(self, day, found=None):
        self.at(NOON + day * DAY)
        already_done(member=self.member, machine_id=self.dock.pk, slot_key="bag", action=Action.REPLACE, found=found)

    def test_each_bag_stands_in_the_log_against_what_was_expected_when_it_went_in(self):
        self.tell(volume=2.4, known_volume=2.6, known_unit="qt", known_weeks=2)
        self.change(28, Found.DUE)
        self.change(42)
        self.change(70, Found.LIGHT)
        first, second, third = self.bag().filling.log
        self.assertEqual([one.found for one in (first, second, third)], [Found.DUE, None, Found.LIGHT])
        self.assertAlmostEqual(first.weeks, 4, delta=0.3)
        self.assertAlmostEqual(first.expected.p50, 1.76, delta=0.01)
        self.assertAlmostEqual(first.off_by, 4 / 1.76, delta=0.2)
        self.assertGreater(second.expected.p50, first.expected.p50)  # the first one taught it
        self.assertAlmostEqual(third.expected.p50, second.expected.p50)  # nobody said how full the second was
        self.assertIsNone(second.off_by)
        self.assertAlmostEqual(third.weeks, 4, delta=0.3)

    def test_what_a_bag_of_each_number_comes_to_in_a_week(self):
        self.tell(volume=2.4, known_volume=2.6, known_unit="qt", known_weeks=2)
        self.assertEqual(self.bag().prices, [])
        numbers = (PartNumber("DB-1"), PartNumber("XB-1", False, FitCheck.DIFFERS, "its collar is of card"))
        part = SparePart(
            "Bag", (PartPlace(self.dock.pk, "bag"),), (*numbers, PartNumber("NO-1", False, FitCheck.NO, "loose"))
        )
        services.keep_kind(member=self.member, spare_id=uuid4(), part=part)
        sold = b"DB,One,DB-1,3.60\nDB5,Five,DB-1 x 5,12.00\nXB8,Eight,XB-1 x 8,8.00\nNO,None,NO-1,0.10\n"
        self.prices(b"code,name,contents,price\n" + sold)
        other, own = self.bag().prices
        self.assertEqual((other.number.number, other.each, own.number.number, own.each), ("XB-1", 100, "DB-1", 240))
        self.assertAlmostEqual(own.a_week, 240 / 1.76, delta=1)
        self.assertAlmostEqual(own.a_week / other.a_week, 2.4)

    def test_a_bin_that_its_dock_empties_is_nobodys_to_watch(self):
        self.assertEqual(dust.estimates(self.member, self.machine.pk), [])

    def test_while_it_rests_it_does_not_fill(self):
        self.at(NOON + 14 * DAY)
        before = self.bag().due
        rest(
            member=self.member,
            machine_id=None,
            why=Why.AWAY,
            first=(NOON + 15 * DAY).date(),
            last=(NOON + 28 * DAY).date(),
        )
        self.assertEqual(self.bag().due.p50 - before.p50, 14 * DAY)

    def test_a_unit_or_a_place_that_cannot_be_is_refused(self):
        for size, field in (({"volume": 2.4, "unit": "bags"}, "unit"), ({"volume": 0}, "volume")):
            with self.subTest(size), self.assertRaises(InvalidValue) as told:
                self.tell(**size)
            self.assertEqual(told.exception.field, field)
        with self.assertRaises(InvalidValue):
            tell_size(member=self.member, machine_id=self.dock.pk, slot="seal", size=Size(1.0))
        self.assertIsNone(self.bag().size)


class WearOfParts(ShelfTestCase):
    def brush(self):
        return next(one for one in wear.wear_of(self.member, self.machine.pk) if one.slot.key == "side-brush")

    def measure(self, value, key="bend", day=None):
        return self.told(self.brush().item.id, value, key, day=day)

    def told(self, item_id, value, key="bend", **more):
        of = {"member": self.member, "machine_id": self.machine.pk, "item_id": item_id}
        return wear.measure(**of, key=key, value=value, **more)

    def bend(self):
        return next(one for one in self.brush().gauges if one.measure.key == "bend")

    def run_for(self, days):
        for n in range(days):
            self.at(NOON + n * DAY)
            log_run(
                member=self.member,
                run_id=uuid4(),
                machine_id=self.machine.pk,
                start=NOON + n * DAY - DAY / 12,
                minutes=60,
            )

    def test_a_line_through_what_was_measured_over_its_own_hours(self):
        self.run_for(20)
        self.measure(2)
        gauge = self.bend()
        self.assertEqual(gauge.trend.course, Course.WEARS)
        self.assertAlmostEqual(gauge.points[0][1].used_h, self.brush().used_h)
        self.assertAlmostEqual(gauge.trend.per_hour, 2 / self.brush().used_h)
        self.assertIsNotNone(gauge.trend.reaches)

    def test_inches_become_millimetres_and_what_was_typed_is_kept(self):
        item = self.brush().item
        self.told(item.id, 0.25, unit="in")
        self.assertAlmostEqual(self.bend().points[0][1].value, 6.35)
        row = Measured.objects.of(self.member.household_id).get()
        self.assertEqual((row.typed, row.unit), (0.25, "in"))
        for key, value, unit, field in (("bend", 16, "in", "value"), ("bend", 3, "ft", "unit"), ("nicks", 1, "in", "")):
            with self.subTest(key, unit=unit), self.assertRaises(InvalidValue) as told:
                self.told(item.id, value, key, unit=unit)
            self.assertEqual(told.exception.field, field or "measure")
        self.assertIn("0 to 15.7 in", self.refusal(item.id, 16))

    def refusal(self, item_id, inches):
        with self.assertRaises(InvalidValue) as told:
            self.told(item_id, inches, unit="in")
        return str(told.exception)

    def test_past_its_limit_it_is_due_and_undone_with_the_measurement(self):
        self.measure(9)
        self.assertFalse(self.due("side-brush", Action.REPLACE).is_due)
        self.at(NOON + DAY)
        entry = self.measure(10)
        self.assertTrue(self.due("side-brush", Action.REPLACE).is_due)
        self.undo(entry)
        self.assertFalse(self.due("side-brush", Action.REPLACE).is_due)

    def test_undone_it_is_gone(self):
        entry = self.measure(3)
        self.undo(entry)
        self.assertEqual(self.bend().points, ())

    def test_a_new_part_begins_anew_and_the_old_one_is_kept_beside_it(self):
        self.run_for(10)
        self.measure(4)
        already_done(member=self.member, machine_id=self.machine.pk, slot_key="side-brush", action=Action.REPLACE)
        new, old = (w for w in wear.wear_of(self.member, self.machine.pk) if w.slot.key == "side-brush")
        self.assertEqual((new.used_h, new.gauges[0].points), (0, ()))
        self.assertEqual((old.item.state, old.gauges[0].points[0][1].value), ("retired", 4))

    def replaced(self, **more):
        return already_done(
            member=self.member, machine_id=self.machine.pk, slot_key="side-brush", action=Action.REPLACE, **more
        )

    def life_found(self):
        rows = Inspection.objects.of(self.member.household_id).filter(slot="side-brush", about=Action.REPLACE)
        return list(rows.order_by("entry__sequence").values_list("found", flat=True))

    def test_why_a_part_went_is_kept_and_teaches_its_life_but_not_by_chance(self):
        for gone, found in ((Gone.WORN, ["due"]), (Gone.SCHEDULE, ["due", "light"]), (Gone.LOST, ["due", "light"])):
            self.at(clock.now() + 40 * DAY)
            self.replaced(gone=gone)
            *_, old = (w for w in wear.wear_of(self.member, self.machine.pk) if w.slot.key == "side-brush")
            with self.subTest(gone):
                self.assertEqual((old.why_gone, self.life_found()), (gone, found))

    def test_a_house_where_parts_break_orders_sooner(self):
        self.keep(places=(PartPlace(self.machine.pk, "side-brush"),), name="Side brush")
        self.at(clock.now() + 40 * DAY)
        self.replaced(gone=Gone.WORN)
        before = self.kind()
        for _ in range(8):
            self.undo(self.replaced(gone=Gone.ACCIDENT))
        self.assertEqual(self.kind().cover, before.cover, "what is undone says nothing")
        for _ in range(8):
            self.at(clock.now() + timedelta(minutes=1))
            self.replaced(gone=Gone.ACCIDENT)
        after = self.kind().cover
        self.assertLess(after.order_by, before.cover.order_by)
        self.assertAlmostEqual(after.because.early, 0.05 + (1.5 + 8) / (50 + 9), places=3)

    def test_a_reason_that_cannot_be_is_refused_and_nothing_replaced(self):
        with self.assertRaises(InvalidValue) as told:
            self.replaced(gone=Gone.LOST, found=Found.DUE)
        self.assertEqual(told.exception.field, "found")
        with self.assertRaises(InvalidValue) as told:
            already_done(
                member=self.member,
                machine_id=self.machine.pk,
                slot_key="side-brush",
                action=Action.DE_HAIR,
                gone=Gone.WORN,
            )
        self.assertEqual(told.exception.field, "gone")
        self.assertEqual(self.life_found(), [])

    def test_what_it_does_not_have_or_cannot_be_is_refused(self):
        for value, key, field in ((3, "width", "measure"), (-1, "bend", "value"), (500, "bend", "value")):
            with self.subTest(key, value=value), self.assertRaises(InvalidValue) as told:
                self.measure(value, key)
            self.assertEqual(told.exception.field, field)
        with self.assertRaises(InvalidValue):
            self.measure(3, day=(NOON + DAY).date())

    def test_washing_that_brings_back_less_each_time(self):
        for n, felt in enumerate((5, 4, 4, 3)):
            self.at(NOON + 14 * n * DAY)
            already_done(member=self.member, machine_id=self.machine.pk, slot_key="filter", action=Action.WASH)
            self.at(NOON + 14 * n * DAY + 3 * DAY)
            work.fit_item(member=self.member, item_id=self.filter_item().id, early_reason="it is dry")
            feel_pull(member=self.member, machine_id=self.machine.pk, felt=felt, moment="after")
        found = next(one for one in wear.wear_of(self.member, self.machine.pk) if one.slot.key == "filter")
        self.assertTrue(found.recovery.falling)
        self.assertEqual(found.item.wash_count, 4)

    def filter_item(self):
        return next(w.item for w in wear.wear_of(self.member, self.machine.pk) if w.slot.key == "filter")


class WhatItCosts(ShelfTestCase):
    def setUp(self):
        super().setUp()
        set_schedule(
            member=self.member,
            machine_id=self.machine.pk,
            schedule=weekly(WEEKDAYS, 50, None, silence=Silence.RAN),
        )
        self.keep()
        self.prices()

    def worth(self):
        return worth.worth_of_machine(self.member, self.machine.pk)

    def tell(self, guarantee_until=None, **told):
        tell_worth(
            member=self.member, machine_id=self.machine.pk, basis=CostBasis(**told), guarantee_until=guarantee_until
        )

    def test_parts_by_price_and_count_and_minutes_only_where_they_are_valued(self):
        found = self.worth()
        [filter_] = [part for part in found.going.parts if part.name == "Filter"]
        self.assertEqual(filter_.price, 497)  # three for 14.90
        self.assertAlmostEqual(filter_.a_year, 365.25 / self.kind().places[0].renewal.every_days)
        self.assertEqual(found.going.minutes_worth, 0)
        self.assertGreater(found.going.minutes, 60)
        self.tell(hour_value=12_00)
        self.assertEqual(self.worth().going.minutes_worth, round(found.going.minutes / 60 * 1200))
        self.assertIn("Rubber roller", found.going.unpriced)
        self.assertEqual(worth.prices_of(self.member, self.machine.pk), (self.worth().currency, {"filter": 497}))
        fits = [one.number for one in self.kind().part.numbers if one.check is not FitCheck.NO]
        self.assertEqual(worth.numbers_of(self.member, self.machine.pk)["filter"], fits)
        self.assertTrue(fits)

    def test_washing_against_a_new_one_each_time_and_what_it_kept_out_of_the_bin(self):
        [filter_] = self.worth().washing
        self.assertGreater(filter_.ways.washes, filter_.ways.renewals)
        self.assertTrue(filter_.ways.washing_pays)
        already_done(member=self.member, machine_id=self.machine.pk, slot_key="filter", action=Action.WASH)
        self.assertEqual(self.worth().saved, 1)

    def test_a_repair_is_weighed_and_nothing_recorded(self):
        with self.assertRaises(InvalidValue) as told:
            worth.weigh_repair(self.member, self.machine.pk, Repair(60_00, 30, 3))
        self.assertEqual(told.exception.field, "price_new")
        self.tell(price_new=400_00, life_years=8)
        self.assertTrue(worth.weigh_repair(self.member, self.machine.pk, Repair(60_00, 30, 3)).repair)
        self.assertFalse(worth.weigh_repair(self.member, self.machine.pk, Repair(190_00, 30, 1)).repair)

    def test_a_guarantee_flags_its_machines_parts_until_it_ends(self):
        self.tell(guarantee_until=(NOON + 30 * DAY).date())
        machine_id = self.machine.pk
        self.assertEqual(buying.shelf(self.member).guarantees, {machine_id: (NOON + 30 * DAY).date()})
        self.at(NOON + 31 * DAY)
        self.assertEqual(buying.shelf(self.member).guarantees, {})
        self.assertFalse(self.worth().under_guarantee)


class EveryKindOfContainer(ShelfTestCase):
    """A dock's bin with a window, a plain bin told in fills, a canister's bag: all by the same few answers."""

    def add(self, archetype, **more):
        schedule = None if more else weekly(WEEKDAYS, 30, None, silence=Silence.RAN)
        return add_machine(
            member=self.member, machine_id=uuid4(), name=archetype, archetype=archetype, schedule=schedule, **more
        ).pk

    def only(self, machine_id):
        [one] = dust.estimates(self.member, machine_id)
        return one

    def look(self, machine_id, found):
        about = self.only(machine_id).action
        slot = self.only(machine_id).slot.key
        work.look(member=self.member, machine_id=machine_id, slot_key=slot, about=about, found=found)

    def test_a_docks_bin_seen_half_full_through_its_window_after_two_weeks_is_full_after_about_four(self):
        set_schedule(
            member=self.member, machine_id=self.machine.pk, schedule=weekly(WEEKDAYS, 50, None, silence=Silence.RAN)
        )
        dock = self.add("dock-bin", serves=self.machine.pk)
        for weeks in (2, 6, 10):  # emptied after each look
            self.at(NOON + weeks * 7 * DAY)
            self.look(dock, Found.LIGHT)
            if weeks != 10:
                self.at(NOON + (weeks + 2) * 7 * DAY)
                slot = self.only(dock).slot.key
                already_done(member=self.member, machine_id=dock, slot_key=slot, action=Action.EMPTY, found=Found.DUE)
        found = self.only(dock)
        self.assertAlmostEqual(found.filling.weeks, 4, delta=0.6)
        self.assertAlmostEqual(found.filling.share, 0.5, delta=0.1)
        self.assertEqual(found.filling.fillings, 2)

    def test_a_plain_bin_of_so_many_fills_a_week_and_a_canisters_bag_at_the_same_dirt(self):
        """0.5 L twice a week is 1 L a week: a bin of 0.5 L lasts 0.45 weeks, a bag of 3.5 L pressed twice 6.3 weeks."""
        for archetype, volume, pressed, weeks in (("upright-belt", 0.5, 1.0, 0.45), ("canister-bagged", 3.5, 2.0, 6.3)):
            machine = self.add(archetype)
            size = Size(volume, known_volume=0.5, known_weeks=0.5, pressed=pressed)
            slot = self.only(machine).slot.key
            tell_size(member=self.member, machine_id=machine, slot=slot, size=size)
            found = self.only(machine)
            with self.subTest(archetype):
                self.assertAlmostEqual(found.filling.weeks, weeks, places=1)
                days = (found.due.p50 - NOON.date()).days
                self.assertAlmostEqual(days / 7, weeks, delta=0.2)
                self.assertTrue(found.due.p10 <= found.due.p50 <= found.due.p90)

    def test_a_size_told_in_quarts_gallons_or_cups_is_the_same_container(self):
        machine = self.add("canister-bagged")
        slot = self.only(machine).slot.key
        told = []
        for volume, unit in ((3.785411784, "L"), (4, "qt"), (1, "gal"), (16, "cup")):
            tell_size(member=self.member, machine_id=machine, slot=slot, size=Size(volume, unit))
            told.append(round(self.only(machine).size.container.capacity_l, 3))
        self.assertEqual(told, [3.407] * 4)

    def test_building_work_fills_it_sooner_while_it_lasts(self):
        machine = self.add("canister-bagged")
        before = self.only(machine).due.p50
        today = NOON.date()
        more_load(
            member=self.member,
            kind=LoadKind.VOLUME,
            level=1.0,
            first=today,
            last=today + 60 * DAY,
            note="building work",
        )
        self.assertLess(self.only(machine).due.p50, before)
