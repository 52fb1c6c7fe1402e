"""The life of a part: legal moves, the wet lock, and what follows from a history."""

from datetime import UTC, datetime, timedelta
from uuid import UUID, uuid4
from zoneinfo import ZoneInfo

from django.test import SimpleTestCase
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, invariant, rule

from care.errors import CareError, IllegalMove, InvalidValue
from care.items import Fitting, Item, Move, MoveKind, Override, State, check_slots
from care.moves import LEGAL, move, replay
from tests.care.world import DAY, MACHINE, START, new_item
from tests.effort import examples

HOUR = timedelta(hours=1)


def go(item: Item, kind: MoveKind, at: datetime, **more: object) -> Item:
    """One move, with the machine and slot where it needs them."""
    if kind is MoveKind.FIT:
        more = {"machine_id": MACHINE, "slot": "part", **more}
    return move(item, Move(kind, at, **more))  # type: ignore[arg-type]


class AWashedFilter(SimpleTestCase):
    def setUp(self):
        self.item, _ = new_item()
        self.item = go(self.item, MoveKind.TAKE_OUT, START + DAY)
        self.item = go(self.item, MoveKind.WASH, START + DAY, floor_h=24)

    def test_rests_for_its_floor_from_the_wash(self):
        self.assertEqual(self.item.damp_until, START + 2 * DAY)

    def test_is_not_released_a_minute_early_however_dry_it_feels(self):
        racked = go(self.item, MoveKind.RACK, START + DAY + HOUR)
        with self.assertRaises(IllegalMove) as refused:
            go(racked, MoveKind.RELEASE, START + 2 * DAY - timedelta(minutes=1))
        self.assertIn("0.0 h of drying to go", refused.exception.detail)
        self.assertEqual(go(racked, MoveKind.RELEASE, START + 2 * DAY).state, State.READY)

    def test_rests_hours_that_pass_also_in_the_night_when_clocks_change(self):
        evening = datetime(2026, 3, 28, 21, tzinfo=ZoneInfo("Europe/Dublin"))  # an hour is missing in the night after
        item, _ = new_item(at=evening - DAY)
        for kind in (MoveKind.TAKE_OUT, MoveKind.WASH):
            item = go(item, kind, evening, floor_h=12 if kind is MoveKind.WASH else 0)
        self.assertEqual(item.damp_until, datetime(2026, 3, 29, 9, tzinfo=UTC))

    def test_goes_back_only_by_a_recorded_override(self):
        with self.assertRaises(IllegalMove) as refused:
            go(self.item, MoveKind.FIT, START + DAY + HOUR)
        self.assertEqual(refused.exception.field, "override")
        early = go(self.item, MoveKind.FIT, START + DAY + HOUR, override=Override("Wren", "guests at noon"))
        self.assertEqual(early.refitted_early, Override("Wren", "guests at noon"))

    def test_found_still_damp_rests_twelve_hours_more(self):
        racked = go(self.item, MoveKind.RACK, START + DAY)
        later = START + 2 * DAY + HOUR
        self.assertEqual(go(racked, MoveKind.STILL_DAMP, later).damp_until, later + timedelta(hours=12))

    def test_taken_out_again_before_its_time_goes_on_drying(self):
        early = go(self.item, MoveKind.FIT, START + DAY + HOUR, override=Override("Wren", "guests"))
        out = go(early, MoveKind.TAKE_OUT, START + DAY + 2 * HOUR)
        self.assertEqual((out.state, out.damp_until), (State.DRYING, START + 2 * DAY))

    def test_a_reason_of_blanks_is_no_override(self):
        with self.assertRaises(InvalidValue):
            Override("Wren", "  ")


class Counting(SimpleTestCase):
    def test_tapping_then_washing_is_one_cleaning_and_one_wash(self):
        item, _ = new_item()
        for kind in (MoveKind.TAKE_OUT, MoveKind.DRY_CLEAN, MoveKind.WASH):
            item = go(item, kind, START + DAY)
        self.assertEqual((item.cleanings, item.wash_count), (1, 1))

    def test_a_dry_cleaning_is_no_wash(self):
        item, _ = new_item()
        item = go(go(item, MoveKind.TAKE_OUT, START), MoveKind.DRY_CLEAN, START)
        self.assertEqual((item.cleanings, item.wash_count), (1, 0))

    def test_a_wipe_in_place_leaves_the_part_where_it_is(self):
        item, _ = new_item()
        wiped = go(item, MoveKind.CLEAN_IN_PLACE, START + DAY)
        self.assertEqual((wiped.state, wiped.slot, wiped.cleanings), (State.FITTED, "part", 1))


class IllegalMoves(SimpleTestCase):
    def test_every_move_not_in_the_table_is_refused_and_says_the_way_out(self):
        for kind in MoveKind:
            for state in State:
                if state in LEGAL[kind]:
                    continue
                with self.subTest(kind=kind, state=state), self.assertRaises(IllegalMove) as refused:
                    go(Item(uuid4(), "part", "Part", state=state), kind, START)
                self.assertTrue(refused.exception.fix)
                self.assertIn(str(state), refused.exception.detail)

    def test_time_does_not_go_back(self):
        item, _ = new_item(START)
        with self.assertRaises(IllegalMove) as refused:
            go(item, MoveKind.TAKE_OUT, START - HOUR)
        self.assertEqual(refused.exception.field, "at")

    def test_a_part_goes_into_a_named_slot_of_a_machine(self):
        ready = Item(uuid4(), "part", "Part", state=State.READY)
        with self.assertRaises(InvalidValue):
            move(ready, Move(MoveKind.FIT, START, machine_id=MACHINE))

    def test_two_parts_never_sit_in_one_slot_at_once(self):
        first, second = uuid4(), uuid4()
        names = {first: "Filter A", second: "Filter B"}
        a = Fitting(first, MACHINE, "part", START, START + DAY)
        check_slots([a, Fitting(second, MACHINE, "part", START + DAY)], names)
        with self.assertRaises(IllegalMove) as refused:
            check_slots([a, Fitting(second, MACHINE, "part", START + HOUR)], names)
        self.assertIn("Filter B cannot go into part: Filter A sits there", refused.exception.detail)


class Replay(SimpleTestCase):
    def test_gives_every_fitting_with_its_end_and_its_override(self):
        item, moves = new_item()
        moves += [
            Move(MoveKind.TAKE_OUT, START + DAY),
            Move(MoveKind.WASH, START + DAY, floor_h=24),
            Move(MoveKind.FIT, START + DAY + HOUR, MACHINE, "part", override=Override("Wren", "guests")),
        ]
        now, fittings = replay(Item(item.id, "part", "Part"), moves)
        self.assertEqual(now.state, State.FITTED)
        self.assertEqual([(f.start, f.end) for f in fittings], [(START, START + DAY), (START + DAY + HOUR, None)])
        self.assertIsNone(fittings[0].early)
        self.assertEqual(fittings[1].early, Override("Wren", "guests"))

    def test_order_of_time_counts_not_order_of_entering(self):
        item, moves = new_item()
        out, back = Move(MoveKind.TAKE_OUT, START + DAY), Move(MoveKind.FIT, START + 2 * DAY, MACHINE, "part")
        shuffled, _ = replay(Item(item.id, "part", "Part"), [back, *moves, out])
        self.assertEqual(shuffled.state, State.FITTED)


class RandomLife(RuleBasedStateMachine):
    """Random legal and illegal moves over days; wetness is kept here a second time, by its own rule."""

    def __init__(self) -> None:
        super().__init__()
        self.at = START
        self.item = Item(UUID(int=7), "filter", "Filter", state=State.READY, at=START)
        self.wet_until: datetime | None = None
        self.override: Override | None = None
        self.washes = 0

    @rule(hours=st.floats(0, 60))
    def time_passes(self, hours: float) -> None:
        self.at += timedelta(hours=hours)

    @rule(kind=st.sampled_from(MoveKind), floor_h=st.sampled_from([0.0, 24.0, 168.0]), forced=st.booleans())
    def somebody_moves_it(self, kind: MoveKind, floor_h: float, forced: bool) -> None:
        override = Override("Wren", "in a hurry") if forced else None
        before = self.item
        try:
            self.item = go(before, kind, self.at, floor_h=floor_h, override=override)
        except CareError:
            assert self.item is before
            return
        self._watch(kind, floor_h, override)

    def _watch(self, kind: MoveKind, floor_h: float, override: Override | None) -> None:
        if kind is MoveKind.WASH:
            self.washes += 1
            end = self.at + timedelta(hours=floor_h)
            self.wet_until = max(end, self.wet_until or end)
        elif kind is MoveKind.STILL_DAMP:
            self.wet_until = self.at + timedelta(hours=12)
        elif kind is MoveKind.FIT:
            self.override = override
        elif kind is MoveKind.TAKE_OUT:
            self.override = None

    @invariant()
    def never_wet_in_a_machine_without_the_recorded_override(self) -> None:
        wet = self.wet_until is not None and self.at < self.wet_until
        if self.item.state is State.FITTED and wet:
            assert self.override is not None
            assert self.item.refitted_early == self.override

    @invariant()
    def never_released_while_wet(self) -> None:
        if self.item.state is State.READY and self.wet_until is not None:
            assert self.at >= self.wet_until

    @invariant()
    def washes_only_ever_add_up(self) -> None:
        assert self.item.wash_count == self.washes <= self.item.cleanings


class RandomLifeTest(RandomLife.TestCase, SimpleTestCase):  # type: ignore[name-defined,misc]
    settings = examples(120, stateful_step_count=40)
