"""Spare parts: what is needed by when, by when to order, what to buy at the least cost, and reading price lists."""

from datetime import date, timedelta
from itertools import product
from pathlib import Path
from uuid import UUID

from django.test import SimpleTestCase
from hypothesis import assume, given
from hypothesis import strategies as st

from care.due_state import DueDate
from care.errors import InvalidValue
from care.shelf import (
    Demand,
    FitCheck,
    Holding,
    Need,
    PartNumber,
    PartPlace,
    Renewal,
    SparePart,
    Supply,
    best,
    cover,
    early_share,
    read_csv,
    read_json,
    weigh,
)
from care.shelf.buying import PricedOffer, not_sold
from care.shelf.supply import to_buy
from care.tables import BadLines
from tests.effort import examples

TODAY = date(2026, 3, 4)
MACHINE = UUID(int=7)


def on(days):
    return TODAY + timedelta(days=days)


def plain(days):
    """A calendar date, without a band."""
    return DueDate(on(days), on(days), on(days), certain=True)


def demand(*renewals, horizon=365, early=0.08):
    made = [Renewal(MACHINE, f"slot {n}", due, every) for n, (due, every) in enumerate(renewals)]
    return Demand(made, today=TODAY, horizon_days=horizon, early=early)


class WhenNeeded(SimpleTestCase):
    def test_calendar_dates_give_plain_counts(self):
        needs = demand((plain(30), 90), (plain(10), 400))
        self.assertEqual([needs.nth(n, 0.5) for n in (1, 2, 3)], [on(10), on(30), on(120)])
        self.assertEqual((needs.count(29, 0.5), needs.count(30, 0.5), needs.mean(365)), (1, 2, 5.0))
        self.assertIsNone(needs.nth(6, 0.5))

    def test_a_band_is_met_at_its_ends(self):
        needs = demand((DueDate(on(20), on(40), on(80)), None), early=0)
        for share, days in ((0.1, 20 / 2**0.4), (0.5, 40), (0.9, 80 * 2**0.4)):  # 1.4 times as wide as said
            found = needs.nth(1, share)
            self.assertAlmostEqual((found - TODAY).days, days, delta=1.5)

    def test_parts_that_go_before_their_time_bring_the_early_needs_forward_and_leave_the_middle(self):
        band = DueDate(on(250), on(300), on(360))
        days = {
            early: [(demand((band, None), early=early).nth(1, share) - TODAY).days for share in (0.02, 0.5)]
            for early in (0.0, 0.03, 0.1)
        }
        self.assertGreater(days[0.0][0], days[0.03][0])
        self.assertAlmostEqual(days[0.1][0], 300 * 0.02 / 0.1, delta=45)  # spread evenly over its life
        self.assertAlmostEqual(days[0.1][1], days[0.0][1], delta=15)

    def test_a_plain_date_is_moved_by_no_chance(self):
        self.assertEqual(demand((plain(30), 90), early=0.5).nth(1, 0.02), on(30))
        with self.assertRaises(InvalidValue):
            demand((plain(30), 90), early=1.0)

    def test_what_a_household_told_of_its_parts_moves_the_share_that_goes_by_chance(self):
        self.assertEqual(early_share(0, 0), 0.08)
        self.assertEqual(early_share(0, 50), 0.05 + 0.015)
        self.assertAlmostEqual(early_share(20, 100), 0.05 + 21.5 / 150)

    def test_what_nobody_can_foresee_is_never_needed(self):
        self.assertEqual(demand((None, None)).count(365, 0.98), 0)
        self.assertIsNone(demand().nth(1, 0.5))

    def test_one_places_needs_do_not_move_when_another_is_added(self):
        band = DueDate(on(20), on(40), on(80))
        alone, far = demand((band, 60)), (plain(3000), None)
        self.assertEqual(alone.spread(200), demand((band, 60), far).spread(200))

    @given(st.integers(0, 300), st.integers(5, 200), st.integers(1, 365), st.integers(1, 365))
    @examples(25)
    def test_more_days_need_no_fewer_parts_and_worse_futures_no_fewer(self, due, every, a, b):
        needs = demand((DueDate(on(due), on(due + 5), on(due + 30)), every))
        low, high = sorted((a, b))
        self.assertLessEqual(needs.count(low, 0.5), needs.count(high, 0.5))
        spread = needs.spread(high)
        self.assertTrue(spread.p10 <= spread.p50 <= spread.p90)


class WhenToOrder(SimpleTestCase):
    def test_the_days_it_takes_to_come_are_taken_off(self):
        found = cover(Holding(on_hand=1, lead_days=7), demand((plain(30), 60)))
        self.assertEqual((found.supply, found.order_by, found.short.p50), (Supply.ENOUGH, on(83), on(90)))
        self.assertEqual(cover(Holding(0, lead_days=7), demand((plain(30), 60))).order_by, on(23))

    def test_it_goes_by_the_early_needs_not_by_the_middle(self):
        found = cover(Holding(0, lead_days=5), demand((DueDate(on(40), on(60), on(90)), None)))
        self.assertLess(found.order_by, on(40 - 5))
        self.assertEqual(found.supply, Supply.SOON)

    def test_what_is_wanted_now_and_is_not_there_waits(self):
        self.assertEqual(cover(Holding(0), demand((plain(0), 90))).supply, Supply.WAITS)
        self.assertEqual(cover(Holding(0, on_order=1), demand((plain(0), 90))).supply, Supply.WAITS)
        self.assertNotEqual(cover(Holding(1), demand((plain(0), 90))).supply, Supply.WAITS)

    def test_a_set_that_a_drying_gap_needs_counts_as_lacking(self):
        found = cover(Holding(0, turns_missing=1), demand((plain(300), None)))
        self.assertEqual((found.supply, found.short_of, found.order_by), (Supply.TURNS, 1, TODAY))
        self.assertEqual(cover(Holding(0, turns_missing=1), demand((plain(3), None))).supply, Supply.NOW)

    def test_the_least_to_keep_is_held_back(self):
        needs = demand((plain(100), 100))
        self.assertEqual(cover(Holding(2, least=2), needs).order_by, on(95))
        self.assertEqual(cover(Holding(1, least=2), needs).supply, Supply.NOW)

    def test_what_is_bought_when_somebody_finds_it_worn(self):
        self.assertEqual(cover(Holding(0), demand((None, None))).supply, Supply.UNFORESEEN)

    def test_how_many_to_buy(self):
        needs = demand((plain(30), 90))
        self.assertEqual(to_buy(Holding(0), needs, 365), 4)
        self.assertEqual(to_buy(Holding(3, on_order=1), needs, 365), 0)
        self.assertEqual(to_buy(Holding(1, turns_missing=2), needs, 365), 5)

    @given(st.integers(0, 6), st.integers(0, 40), st.integers(1, 30))
    @examples(25)
    def test_one_more_on_the_shelf_never_hurries(self, have, due, lead):
        needs = demand((DueDate(on(due), on(due + 10), on(due + 40)), 50))
        fewer, more = (cover(Holding(n, lead_days=lead), needs) for n in (have, have + 1))
        self.assertLessEqual(fewer.order_by or date.max, more.order_by or date.max)


ROLLER, BRUSH, FILTER, PAD = "roller", "brush", "filter", "pad"
KIT = PricedOffer("kit", "shop", 2490, {ROLLER: 1, BRUSH: 3, FILTER: 2, PAD: 4})
SINGLES = (
    PricedOffer("roller", "shop", 1290, {ROLLER: 1}),
    PricedOffer("brush", "shop", 350, {BRUSH: 1}),
    PricedOffer("brushes", "shop", 900, {BRUSH: 4}),
    PricedOffer("filter", "shop", 690, {FILTER: 1}),
    PricedOffer("filters", "other", 1190, {FILTER: 3}),
)


class WhatToBuy(SimpleTestCase):
    def test_a_kit_wins_where_its_parts_are_needed_and_loses_where_they_are_not(self):
        much = {ROLLER: Need(1), BRUSH: Need(3), FILTER: Need(2)}
        first, *_ = best(much, [*SINGLES, KIT])
        self.assertEqual((first.picks, first.cost, first.left), ({"kit": 1}, 2490, {PAD: 4}))
        self.assertEqual((told := weigh(much, [*SINGLES, KIT], "kit")).without_it, 1290 + 900 + 1190)
        self.assertTrue(told.wins)
        little = {BRUSH: Need(2), FILTER: Need(1)}
        self.assertEqual(best(little, [*SINGLES, KIT])[0].picks, {"brush": 2, "filter": 1})
        self.assertFalse(weigh(little, [*SINGLES, KIT], "kit").wins)

    def test_waste_is_limited_and_what_is_used_later_is_none(self):
        much = {ROLLER: Need(1), BRUSH: Need(3), FILTER: Need(2)}
        self.assertNotIn("kit", best(much, [*SINGLES, KIT], waste=0.3)[0].picks)
        later = {**much, PAD: Need(0, later=4)}
        found = best(later, [*SINGLES, KIT], waste=0.3)[0]
        self.assertEqual((found.picks, found.left, found.wasted), ({"kit": 1}, {PAD: 4}, {}))

    def test_delivery_is_paid_once_for_each_shop(self):
        needs = {BRUSH: Need(2), FILTER: Need(3)}
        with_fee = best(needs, SINGLES, delivery={"shop": 0, "other": 1500})[0]
        self.assertEqual((with_fee.picks, with_fee.delivery), ({"brush": 2, "filter": 3}, 0))
        cheap = best(needs, SINGLES, delivery={"shop": 0, "other": 100})[0]
        self.assertEqual((cheap.cost, cheap.delivery), (700 + 1190 + 100, 100))

    def test_the_three_best_take_other_offers_and_none_adds_to_a_better_one(self):
        found = best({BRUSH: Need(4), FILTER: Need(1)}, [*SINGLES, KIT])
        self.assertEqual(len(found), 3)
        self.assertEqual(sorted(way.cost for way in found), [way.cost for way in found])
        for n, way in enumerate(found):
            self.assertTrue(all(not set(before.picks) <= set(way.picks) for before in found[:n]))

    def test_what_nobody_sells_is_said(self):
        needs = {"belt": Need(1), BRUSH: Need(1)}
        self.assertEqual(not_sold(needs, SINGLES), ["belt"])
        self.assertEqual(best(needs, SINGLES), [])

    @given(
        st.lists(st.tuples(st.integers(1, 30), st.integers(0, 2), st.integers(0, 2)), min_size=1, max_size=4),
        st.integers(0, 4),
        st.integers(0, 4),
    )
    @examples(30)
    def test_nothing_cheaper_is_found_by_trying_everything(self, told, a, b):
        sold = [
            PricedOffer(f"o{n}", "shop", price * 100, {k: v for k, v in (("a", x), ("b", y)) if v})
            for n, (price, x, y) in enumerate(told)
            if x or y
        ]
        needs = {"a": Need(a), "b": Need(b)}
        assume(sold and a + b)
        tries = product(range(5), repeat=len(sold))
        costs = [
            sum(o.price * n for o, n in zip(sold, picks, strict=True))
            for picks in tries
            if all(
                sum(o.contents.get(k, 0) * n for o, n in zip(sold, picks, strict=True)) >= need.count
                for k, need in needs.items()
            )
        ]
        found = best(needs, sold, ways=1)
        self.assertEqual([way.cost for way in found], [min(costs)] if costs else [])
        self.assertEqual(found, best(needs, sold, ways=1))


GOOD = (
    b"code,name,contents,price,lead_days,in_stock\nSB-7,Side brush,SB-7,3.50,2,yes\nK-1,Kit,SB-7 x 3 + F-2,19.9,,no\n"
)


def csv(data):
    return read_csv(data, supplier="Corner shop", currency="EUR")


class PriceLists(SimpleTestCase):
    def test_a_list_as_csv_and_as_json(self):
        told = csv(GOOD)
        self.assertEqual(
            [(o.code, o.price, dict(o.contents)) for o in told.offers],
            [
                ("SB-7", 350, {"SB-7": 1}),
                ("K-1", 1990, {"SB-7": 3, "F-2": 1}),
            ],
        )
        self.assertEqual((told.offers[1].lead_days, told.offers[1].in_stock), (3, False))
        semicolons = b"\xef\xbb\xbf" + GOOD.replace(b",", b";")
        self.assertEqual(csv(semicolons), told)
        as_json = (
            b'{"supplier": "Corner shop", "currency": "EUR", "delivery": "4.90", "offers": '
            b'[{"code": "SB-7", "name": "Side brush", "contents": "SB-7", "price": 3.5, "lead_days": 2}]}'
        )
        found = read_json(as_json)
        self.assertEqual((found.delivery, found.offers), (490, told.offers[:1]))

    def test_the_examples_of_the_page_are_lists(self):
        page = (Path(__file__).parents[2] / "docs" / "price-lists.md").read_text()
        as_csv, as_json = (page.split(f"```{kind}\n")[1].split("```")[0].encode() for kind in ("csv", "json"))
        self.assertEqual(dict(csv(as_csv).offers[1].contents), {"SB-7": 3, "F-2": 1})
        found = read_json(as_json)
        self.assertEqual((found.supplier, found.delivery, found.offers[0].price), ("Corner parts", 390, 350))

    def test_every_bad_line_is_told_with_its_number_and_its_fix(self):
        bad = GOOD + (
            b"P-1,Price text,P-1,12 euro,2,yes\n"
            b"K-2,Kit in itself,K-2 x 1 + SB-7 x 2,9.00,2,yes\n"
            b"SB-7,Twice,SB-7,3.00,2,yes\n"
            b"L-1,Lead,L-1,3.00,soon,yes\n"
            b"N-1,Nothing in it,,3.00,2,maybe\n"
        )
        with self.assertRaises(BadLines) as told:
            csv(bad)
        lines = told.exception.values["lines"]
        self.assertEqual([line["line"] for line in lines], [4, 5, 6, 7, 8])
        for line, field in zip(lines, ("price", "contents", "code", "lead_days", "contents"), strict=True):
            self.assertTrue(line["problem"].startswith(field), line)
            self.assertTrue(line["fix"])

    def test_a_file_that_is_no_list_is_refused_whole(self):
        for data, says in (
            (b"name,cost\nx,1\n", "missing: code, contents, price"),
            (GOOD.replace(b"in_stock", b"colour"), "colour"),
            ("code,name,contents,price\nB-1,Bürste,B-1,1.00\n".encode("latin-1"), "UTF-8"),
            (GOOD.split(b"\n")[0], "no offers"),
            (b"", "missing"),
            (b"x" * 1_000_001, "at most"),
        ):
            with self.subTest(says), self.assertRaises(InvalidValue) as told:
                csv(data)
            self.assertIn(says, str(told.exception) + told.exception.fix)
        for data in (b"garbage", b"[]", b'{"offers": [1, 2]}', b'{"offers": []}'):
            with self.subTest(data), self.assertRaises(InvalidValue):
                read_json(data)

    @given(st.binary(max_size=300))
    @examples(60)
    def test_garbage_is_refused_never_half_read(self, data):
        for read in (csv, read_json):
            try:
                self.assertTrue(read(data).offers)
            except InvalidValue as error:
                self.assertTrue(error.detail)

    def test_a_part_that_fits_nothing_or_differs_without_a_word_is_refused(self):
        with self.assertRaises(InvalidValue) as told:
            SparePart("Filter", ())
        self.assertEqual(told.exception.field, "places")
        with self.assertRaises(InvalidValue):
            PartNumber("F-2", maker=False, check=FitCheck.DIFFERS)
        part = SparePart("Filter", (PartPlace(MACHINE, "filter"),), (PartNumber("F-2"),))
        self.assertEqual(part.number("f-2").number, "F-2")
