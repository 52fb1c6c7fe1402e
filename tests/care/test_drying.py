"""How long washed parts dry: worked figures, and what must hold in any air."""

from datetime import UTC, datetime, time, timedelta
from itertools import pairwise
from uuid import uuid4

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from care.bench import drying, rotation, weighing
from care.bench.drying import Basis, Stay, climate_factor, estimate, factors, share_dried
from care.bench.weighing import Weighing
from care.book import load_book
from care.book.loader import HERE, load_drying
from care.due.schedule import weekly
from care.errors import IllegalMove, InvalidValue
from care.household import DryingPlace
from care.items import Item, Move, MoveKind, State
from care.model import Rest, Why
from care.moves import move

NOON = datetime(2026, 3, 2, 12, tzinfo=UTC)
KINDS = load_drying(HERE)
FOAM, PLEATED = KINDS["foam"], KINDS["pleated"]
DAMP, CUPBOARD = DryingPlace("utility room", 12, 85), DryingPlace("airing cupboard", 24, 45)


def hours(number: float) -> timedelta:
    return timedelta(hours=number)


def until(kind: drying.Drying, *stays: Stay, **more: object) -> drying.Estimate:
    return estimate(kind, stays, floor_at=stays[0].since + hours(kind.floor_h), **more)  # type: ignore[arg-type]


class TheAir(SimpleTestCase):
    def test_worked_figures(self):
        for (temp_c, rh_pct), factor in {
            (20, 50): 1.0,
            (20, 60): 1.28,
            (12, 85): 4.56,
            (28, 40): 0.66,
            (15, 80): 3.09,
            (24, 45): 0.80,
        }.items():
            with self.subTest(temp_c=temp_c, rh_pct=rh_pct):
                self.assertAlmostEqual(climate_factor(DryingPlace("x", temp_c, rh_pct)), factor, delta=0.006)

    def test_mildew_is_quicker_where_it_is_cold_and_damp(self):
        self.assertEqual([drying.mildews(place) for place in (DAMP, CUPBOARD)], [True, False])

    def test_pressed_foam_in_moving_air_never_below_half(self):
        made = factors(FOAM, Stay(NOON, CUPBOARD, pressed=True, moving=True))
        self.assertAlmostEqual(made.hours, 11.0, msg="22 h x 0.5, as 0.80 x 0.65 x 0.8 is less")

    def test_pressing_does_nothing_for_pleats(self):
        self.assertEqual(
            factors(PLEATED, Stay(NOON, DAMP, pressed=True)).hours, factors(PLEATED, Stay(NOON, DAMP)).hours
        )

    def test_each_part_that_is_wetted_rests_as_its_kind_must(self):
        rests = {"bin-wiped": 12, "rubber-roller": 12, "bristle-roller": 12, "hose": 168}
        felt = dict.fromkeys(("tank", "mop-pad", "plastic", "attachment"), 0)
        for kind in load_book().archetypes.values():
            for slot in kind.slots:
                for dries in map(slot.drying_of, slot.wetting):
                    with self.subTest(kind=kind.key, slot=slot.key):
                        self.assertEqual(
                            dries.floor_h, (rests | felt).get(dries.key, 24), "a day, where nothing else holds"
                        )

    @given(st.floats(0, 39), st.floats(5, 97), st.floats(0, 1), st.floats(0, 1))
    def test_colder_or_damper_air_never_dries_sooner(self, temp_c, rh_pct, colder, damper):
        here = DryingPlace("here", temp_c, rh_pct)
        there = DryingPlace("there", max(0.0, temp_c - colder), min(98.0, rh_pct + damper))
        self.assertGreaterEqual(climate_factor(there) + 1e-9, climate_factor(here))


class ReadyAt(SimpleTestCase):
    def test_a_quick_part_still_rests_its_day(self):
        made = until(KINDS["mesh"], Stay(NOON, CUPBOARD))
        self.assertEqual((made.ready_at, made.basis), (NOON + hours(24), Basis.AIR))
        self.assertLess(made.dry_at, NOON + hours(7))

    def test_a_slow_one_rests_longer_with_a_band(self):
        made = until(PLEATED, Stay(NOON, DryingPlace("cellar", 15, 80)))
        self.assertAlmostEqual((made.ready_at - NOON) / hours(1), 28 * 3.09, delta=0.3)
        self.assertAlmostEqual((made.late - NOON) / (made.dry_at - NOON), 1.3)

    def test_a_better_place_goes_on_from_how_far_it_is(self):
        half = hours(factors(FOAM, Stay(NOON, DAMP)).hours / 2)
        made = until(FOAM, Stay(NOON, DAMP), Stay(NOON + half, CUPBOARD))
        self.assertEqual(made.dry_at, NOON + half + hours(factors(FOAM, Stay(NOON, CUPBOARD)).hours / 2))

    @given(st.lists(st.tuples(st.floats(0.1, 90), st.floats(0, 40), st.floats(5, 98)), min_size=1, max_size=5))
    def test_never_under_the_floor_and_no_change_of_air_takes_drying_back(self, moves):
        stays, at = [], NOON
        for gap, temp_c, rh_pct in moves:
            stays.append(Stay(at, DryingPlace("p", temp_c, rh_pct)))
            at += hours(gap)
        for before, after in pairwise(range(1, len(stays) + 1)):
            change = stays[after - 1].since
            self.assertAlmostEqual(share_dried(FOAM, stays[:before], change), share_dried(FOAM, stays[:after], change))
        made = until(FOAM, *stays)
        self.assertGreaterEqual(made.ready_at, NOON + hours(24))
        self.assertAlmostEqual(share_dried(FOAM, stays, made.dry_at), 1.0, places=6)

    def test_what_was_found_damp_makes_its_place_slower(self):
        slow = drying.slow_of([(1.0, True), (1.1, True)])
        self.assertGreater(slow, 1.2)
        self.assertLess(drying.slow_of([(1.0, True), (1.1, True), (1.2, False), (1.0, False)]), slow)
        self.assertEqual(drying.slow_of([(1.0, False)] * 5), 1.0)
        self.assertAlmostEqual(factors(FOAM, Stay(NOON, None, slow=slow)).hours, 22 * slow)

    def test_the_quickest_place_has_the_driest_air(self):
        self.assertEqual(drying.quickest([DAMP, CUPBOARD]), CUPBOARD)
        self.assertIsNone(drying.quickest([]))

    def test_the_better_place_is_named_only_when_it_is_clearly_better(self):
        places = [(DAMP, 1.0), (CUPBOARD, 1.0)]
        self.assertEqual(drying.best_place(FOAM, Stay(NOON, DAMP), places), CUPBOARD)
        self.assertIsNone(drying.best_place(FOAM, Stay(NOON, CUPBOARD), places))
        self.assertIsNone(drying.best_place(FOAM, Stay(NOON, DryingPlace("loft", 24, 47)), places))


class Weighed(SimpleTestCase):
    def wet(self, *readings: tuple[float, float]) -> list[Weighing]:
        return [Weighing(NOON + hours(h), grams) for h, grams in readings]

    def test_two_readings_at_its_dry_weight_two_hours_apart_end_it_but_not_before_the_floor(self):
        soon = until(FOAM, Stay(NOON, DAMP), weighings=self.wet((8, 21.0), (9, 20.5), (10, 20.0)), dry_g=20.0)
        self.assertEqual((soon.basis, soon.dry_at, soon.ready_at), (Basis.SETTLED, NOON + hours(10), NOON + hours(24)))
        later = until(FOAM, Stay(NOON, DAMP), weighings=self.wet((28, 20.4), (30, 20.0)), dry_g=20.0)
        self.assertEqual(later.ready_at, NOON + hours(30))

    def test_one_reading_or_a_heavy_one_between_does_not(self):
        for readings in ([(30, 20.0)], [(28, 20.0), (29, 23.0), (30, 20.0)], [(28, 20.0), (29.5, 20.0)]):
            with self.subTest(readings=readings):
                self.assertIsNone(weighing.settled_at(self.wet(*readings), 20.0))

    def test_falling_readings_tell_when_the_curve_is_at_the_dry_weight(self):
        readings = self.wet((0, 60.0), (10, 40.0), (20, 30.0))  # 40, 20, 10 g of water: half of it every ten hours
        made = until(FOAM, Stay(NOON, CUPBOARD), weighings=readings, dry_g=20.0)
        self.assertEqual(made.basis, Basis.CURVE)
        self.assertAlmostEqual((made.dry_at - NOON) / hours(1), 53.2, delta=0.1)  # 40 g to 1 g: 5.32 halvings
        self.assertGreater(made.ready_at, until(FOAM, Stay(NOON, CUPBOARD)).ready_at, "a weighing may lengthen it")

    def test_without_a_dry_weight_or_a_fall_the_air_tells(self):
        air = until(FOAM, Stay(NOON, DAMP))
        self.assertEqual(until(FOAM, Stay(NOON, DAMP), weighings=self.wet((1, 50), (9, 40))), air)
        self.assertEqual(until(FOAM, Stay(NOON, DAMP), weighings=self.wet((1, 50), (9, 51)), dry_g=20.0), air)

    def test_a_weight_below_the_dry_one_is_refused_with_the_way_out(self):
        with self.assertRaises(InvalidValue) as refused:
            weighing.refuse_lighter(17.0, 20.0)
        self.assertEqual(refused.exception.field, "grams")
        weighing.refuse_lighter(19.2, 20.0)


class TheLock(SimpleTestCase):
    def test_a_part_rests_until_told_but_never_less_than_its_floor(self):
        item = Item(uuid4(), "foam pad", "Foam", State.OFF)
        item = move(item, Move(MoveKind.WASH, NOON, floor_h=24))
        item = move(item, Move(MoveKind.RACK, NOON))
        longer = move(item, Move(MoveKind.REST, NOON, until=NOON + hours(80)))
        self.assertEqual(longer.damp_until, NOON + hours(80))
        shorter = move(longer, Move(MoveKind.REST, NOON + hours(9), until=NOON + hours(10)))
        self.assertEqual(shorter.damp_until, NOON + hours(24))
        with self.assertRaises(IllegalMove):
            move(shorter, Move(MoveKind.RELEASE, NOON + hours(23)))
        self.assertIsNone(move(shorter, Move(MoveKind.RELEASE, NOON + hours(24))).damp_until)
        damp = move(shorter, Move(MoveKind.STILL_DAMP, NOON + hours(24)))
        again = move(damp, Move(MoveKind.REST, NOON + hours(25), until=NOON + hours(26)))
        self.assertEqual(again.damp_until, NOON + hours(36), "found damp: twelve hours more, whatever the air tells")


class BeingWithout(SimpleTestCase):
    WEEK = weekly(["MO", "WE", "FR"], 50, time(10, 15))

    def missed(self, *rests: Rest, until_h: float, now: datetime = NOON) -> list[float]:
        """The runs that are missed [h after noon on Monday]."""
        until = NOON + hours(until_h)
        runs = rotation.missed_runs(self.WEEK, rests, now=now, until=until, zone=UTC)
        return [(at - NOON) / hours(1) for at in runs]

    def test_runs_before_a_part_is_ready_are_missed(self):
        self.assertEqual(self.missed(until_h=40), [])
        self.assertEqual(self.missed(until_h=100), [46.25, 94.25], "Wednesday and Friday at a quarter past ten")
        self.assertEqual(self.missed(until_h=40, now=NOON - hours(3)), [-1.75], "today's, only before its hour")

    def test_days_off_miss_nothing_and_a_machine_without_a_week_neither(self):
        wednesday = (NOON + hours(48)).date()
        self.assertEqual(self.missed(Rest(Why.PAUSED, wednesday, wednesday), until_h=100), [94.25])
        self.assertEqual(self.missed(Rest(Why.AWAY, NOON.date(), None), until_h=100), [])
        self.assertEqual(rotation.missed_runs(None, [], now=NOON, until=NOON + hours(99), zone=UTC), [])

    def test_enough_to_take_turns(self):
        self.assertAlmostEqual(rotation.gap_h(self.WEEK, today=NOON.date(), zone=UTC), 48 - 50 / 60)
        self.assertEqual(rotation.sets_needed(24, 240, 48), 1, "dry between two runs")
        self.assertEqual(rotation.sets_needed(100, 48, 20), 4)
