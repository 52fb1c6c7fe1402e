"""The air of a machine: worked figures of the book's machines, and what must hold of any of them."""

from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from care.book import load_book
from care.errors import InvalidValue
from care.faults.airflow import Air, AirPath, AirPlace, At, air_path, orifice, solve
from care.faults.drag import Fan
from care.faults.effects import AirEffect, Sign
from care.faults.lab import can_block
from care.faults.signs import pitch, sign
from care.vocabulary import Column
from tests.effort import examples

KINDS = [a for a in load_book().archetypes.values() if a.fan]


def clean(kind: str) -> AirPath:
    path = air_path(load_book().archetypes[kind])
    assert path is not None
    return path


def drag(kind: str, factor: float, key: str = "filter") -> AirPath:
    """The path with one filter's drag times `factor`."""
    path = clean(kind)
    return replace(path, before=tuple(replace(p, r=p.r * factor) if p.key == key else p for p in path.before))


class WorkedFigures(SimpleTestCase):
    def check(self, path: AirPath, of: AirPath, share: float, kpa: float) -> None:
        flow = solve(path)
        self.assertAlmostEqual(flow.nozzle / solve(of).nozzle, share, delta=0.005)
        self.assertAlmostEqual(flow.suction / 1000, kpa, delta=0.006)

    def test_clean_machines(self):
        for kind, flow, kpa in (
            ("cordless-two-filter", 13.73, 6.48),
            ("upright-belt", 30.05, 6.56),
            ("canister-bagged", 31.84, 5.91),
            ("robot-mop", 8.43, 0.85),
        ):
            with self.subTest(kind):
                self.assertAlmostEqual(solve(clean(kind)).nozzle, flow, places=2)
                self.assertAlmostEqual(solve(clean(kind)).suction / 1000, kpa, places=2)

    def test_a_loaded_filter(self):
        self.check(drag("cordless-two-filter", 12), clean("cordless-two-filter"), 0.74, 10.47)
        self.check(drag("upright-belt", 4, "foam"), clean("upright-belt"), 0.90, 8.18)
        self.check(drag("robot-mop", 12), clean("robot-mop"), 0.63, 1.84)

    def test_a_full_filter_lets_through_a_twelfth(self):
        path = clean("cordless-two-filter")
        self.check(path.changed("filter", AirEffect(fill=1.0)), path, 0.74, 10.47)

    def test_a_leak_at_the_bin_seal_takes_suction_and_gives_the_fan_more_air(self):
        path = clean("cordless-two-filter")
        leaky = path.changed("bin", AirEffect(leak_mm2=80))
        self.check(leaky, path, 0.82, 4.75)
        self.assertAlmostEqual(solve(leaky).fan / solve(path).fan, 1.11, delta=0.005)

    def test_blockages(self):
        for kind, key, left, share, kpa in (
            ("cordless-two-filter", "wand", 0.10, 0.52, 14.01),
            ("upright-belt", "neck", 0.10, 0.28, 17.69),
            ("canister-bagged", "wand", 0.30, 0.63, 13.32),
        ):
            with self.subTest(kind):
                self.check(clean(kind).changed(key, AirEffect(open=left)), clean(kind), share, kpa)

    def test_with_the_front_off_a_cordless_machine_draws_a_fifth_more(self):
        path = clean("cordless-two-filter")
        self.assertAlmostEqual(solve(path.front_off()).nozzle / solve(path).nozzle, 1.21, delta=0.005)

    def test_eco_power(self):
        eco = replace(clean("cordless-two-filter"), fan=Fan(8000, 12))
        self.assertAlmostEqual(solve(eco).nozzle, 8.02, places=2)

    def test_an_orifice_by_hand(self):
        self.assertAlmostEqual(orifice(10.0, 200.0), 0.6 * (0.01 / (0.62 * 200e-6)) ** 2, places=6)

    def test_a_full_filter_reads_like_a_clean_one_on_a_gauge_that_seals(self):
        ways = [Air(clean("upright-belt")), Air(drag("upright-belt", 12, "foam"))]
        self.assertAlmostEqual(sign(Sign.SEALED, ways[1], ways[0]), 1.0)
        self.assertLess(sign(Sign.GAUGE_ORIFICE, ways[1], ways[0]), 0.9)

    def test_a_gauge_at_the_body_tells_the_half_of_a_clog(self):
        path = clean("cordless-two-filter")
        for key, higher in (("wand", True), ("filter", False)):
            with self.subTest(key):
                clogged = path.changed(key, AirEffect(open=0.12) if higher else AirEffect(fill=1.1))
                told = sign(Sign.GAUGE_OPEN, Air(clogged), Air(path))
                self.assertTrue(told > 1.15 if higher else told < 0.85, told)

    def test_the_pitch_rises_behind_a_blockage_and_not_behind_a_leak(self):
        path = clean("cordless-two-filter")
        blocked, leaky = path.changed("wand", AirEffect(open=0.1)), path.changed("bin", AirEffect(leak_mm2=80))
        self.assertGreater(sign(Sign.PITCH, Air(blocked), Air(path)), 1.05)
        self.assertLess(sign(Sign.PITCH, Air(leaky), Air(path)), 1.0)
        self.assertAlmostEqual(pitch(0.0), 1.15)

    def test_a_leak_behind_the_fan_blows_out_of_the_vents_way(self):
        path = clean("upright-belt")
        leaky = replace(path, behind=(AirPlace("gap", Column.EXHAUST, leak_mm2=100), *path.behind))
        self.assertGreater(solve(leaky).nozzle, solve(path).nozzle)
        self.assertLess(Air(leaky).vented, Air(leaky).running.fan)

    def test_what_is_no_machine_is_refused(self):
        path = clean("upright-belt")
        for bad in (
            lambda: path.changed("attic", AirEffect(open=0.5)),
            lambda: solve(path, At.ORIFICE),
            lambda: solve(path, At.OPEN, 20.0),
            lambda: AirPlace("x", Column.HOSE, open=0.0),
        ):
            with self.subTest(bad), self.assertRaises(InvalidValue):
                bad()


kinds = st.sampled_from([a.key for a in KINDS])


class AnyMachine(SimpleTestCase):
    def test_something_blocks_any_place_before_the_fan_but_a_filter_which_fills(self):
        for kind in KINDS:
            ducts = {one.key for one in kind.stations if one.air and one.column not in (Column.FILTER, Column.MOTOR)}
            self.assertLessEqual(set(can_block(clean(kind.key))), ducts, kind.key)
            self.assertTrue(can_block(clean(kind.key)), kind.key)

    @given(kinds, st.data())
    @examples(60)
    def test_more_blockage_never_gives_more_air(self, kind: str, data: st.DataObject):
        path = clean(kind)
        key = data.draw(st.sampled_from([p.key for p in (*path.before, *path.behind)]))
        a, b = sorted(data.draw(st.tuples(*[st.floats(0.02, 0.999)] * 2)))
        less, more = (solve(path.changed(key, AirEffect(open=left))).nozzle for left in (a, b))
        self.assertLessEqual(less, more + 1e-6)
        self.assertLessEqual(more, solve(path).nozzle + 1e-6)

    @given(kinds, st.floats(5, 400), st.data())
    @examples(60)
    def test_a_leak_ahead_of_the_fan_raises_its_flow_and_lowers_the_suction(self, kind, leak, data):
        path = clean(kind)
        key = data.draw(st.sampled_from([p.key for p in path.before]))
        before, after = solve(path), solve(path.changed(key, AirEffect(leak_mm2=leak)))
        self.assertGreaterEqual(after.fan, before.fan - 1e-6)
        self.assertLessEqual(after.suction, before.suction + 1e-3)
        self.assertLessEqual(after.nozzle, before.nozzle + 1e-6)

    @given(kinds, st.just(0.0) | st.floats(1, 200))
    @examples(40)
    def test_sealed_nothing_enters_at_the_nozzle_and_only_leaks_move_air(self, kind: str, leak: float):
        path = clean(kind)
        sealed = solve(path.changed(path.before[-1].key, AirEffect(leak_mm2=leak)), At.SEALED)
        self.assertEqual(sealed.nozzle, 0.0)
        self.assertEqual(sealed.fan > 1e-6, leak > 0)

    @given(kinds, st.floats(0.1, 0.9))
    @examples(40)
    def test_a_station_cut_in_two_is_the_same_station(self, kind: str, cut: float):
        path = clean(kind)
        whole = path.before[0]
        halves = (
            replace(whole, key="a", k=whole.k * cut, r=whole.r * cut),
            replace(whole, key="b", k=whole.k * (1 - cut), r=whole.r * (1 - cut)),
        )
        self.assertAlmostEqual(
            solve(replace(path, before=(*halves, *path.before[1:]))).nozzle, solve(path).nozzle, places=6
        )
