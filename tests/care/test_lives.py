"""How long the parts of a place last: from the clocks of its due state at the usual pace, washes counted in."""

from datetime import date, timedelta
from uuid import uuid4

from django.test import SimpleTestCase

from care.due.usage import Pace
from care.due_state import Clock, DueDate, DueState
from care.model import Level, Load
from care.reasons import Because
from care.shelf.renewals import anywhere, renewal, washes_a_year
from care.vocabulary import Action, Consequence, Meter, School
from tests.care.world import BOOK, ROBOT

TODAY = date(2026, 3, 4)
FIVE_HOURS = Pace(hours_per_week=5.0, runs_per_week=6.0)


def on(days):
    return TODAY + timedelta(days=days)


def due(*clocks, expected=None):
    return DueState(
        slot="filter",
        action=Action.REPLACE,
        item_id=uuid4(),
        level=Level.WEARING,
        share=clocks[0].share if clocks else 0.0,
        clocks=clocks,
        due=expected,
        stake=Consequence.PICK_UP,
        because=Because("due"),
    )


def of(state, washes=0.0):
    return renewal(uuid4(), state, ROBOT, FIVE_HOURS, washes)


class Lives(SimpleTestCase):
    def test_150_hours_at_five_a_week_are_thirty_weeks(self):
        found = of(due(Clock(Meter.RUN_HOURS, 75, 150)))
        self.assertAlmostEqual(found.every_days, 30 * 7, delta=0.5)

    def test_of_several_clocks_the_first_to_run_out_sets_the_life(self):
        found = of(due(Clock(Meter.RUN_HOURS, 75, 150), Clock(Meter.DAYS, 10, 91)))
        self.assertAlmostEqual(found.every_days, 91, delta=0.1)

    def test_what_nobody_counts_has_no_life(self):
        self.assertIsNone(of(due(Clock(Meter.CONDITION, 0.0, 1.0))).every_days)
        self.assertIsNone(of(due(Clock(Meter.DAYS, 0, 20_000))).every_days)

    def test_washes_bound_the_lives_that_follow(self):
        state = due(Clock(Meter.RUN_HOURS, 10, 150), Clock(Meter.WASHES, 10, 12), expected=DueDate(on(9), on(9), on(9)))
        found = of(state, washes=26)
        self.assertAlmostEqual(found.every_days, 12 * 365.25 / 26, delta=0.5)
        self.assertEqual(found.due, state.due)
        self.assertAlmostEqual(of(state, washes=2).every_days, 30 * 7, delta=0.5)

    def test_a_place_that_stands_empty_may_be_anywhere_in_a_life(self):
        found = anywhere(uuid4(), "filter", 100.0, today=TODAY)
        self.assertEqual((found.due.p10, found.due.p50, found.due.p90), (on(10), on(50), on(90)))
        self.assertIsNone(anywhere(uuid4(), "filter", None, today=TODAY).due)

    def test_washes_a_year_follow_the_book_at_this_use_and_none_where_nothing_wets_it(self):
        filter_, roller = ROBOT.slot("filter"), ROBOT.slot("bristle-roller")
        often = washes_a_year(filter_, ROBOT, FIVE_HOURS, Load(), School.LABEL)
        self.assertGreater(often, 10)
        self.assertGreater(washes_a_year(filter_, ROBOT, Pace(10.0, 12.0), Load(), School.LABEL), often)
        self.assertEqual(washes_a_year(roller, ROBOT, FIVE_HOURS, Load(), School.LABEL), 0.0)


class KindsOfLife(SimpleTestCase):
    """What the book's parts are: washed and in turn, used up, or kept until somebody finds them worn."""

    def parts(self, question):
        return {key for key, slot in BOOK.parts.items() if getattr(slot, question)}

    def test_bags_brushes_and_belts_are_used_up_and_bins_only_found_worn(self):
        used_up = self.parts("is_used_up")
        self.assertLessEqual({"dust-bag", "side-brush", "flat-belt", "robot-filter", "bag"}, used_up)
        self.assertFalse({"cup", "hose", "battery", "neck"} & used_up)
        self.assertLess(used_up, self.parts("is_renewed"))

    def test_what_is_washed_takes_turns_and_what_is_used_up_dry_waits_on_the_shelf(self):
        turns = self.parts("takes_turns")
        self.assertFalse({"dust-bag", "side-brush", "flat-belt"} & turns)
        self.assertIn("mop-pad", turns)
        self.assertFalse(
            {"robot-filter", "fine-filter"} & turns, "what nobody saw a mark on stays dry and dries nowhere"
        )
        self.assertTrue(ROBOT.slot("filter").takes_turns)

    def test_the_slowest_drying_is_that_of_what_wets_it_most(self):
        for key, slot in BOOK.parts.items():
            each = [dries.reference_h for action in slot.wetting if (dries := slot.drying_of(action))]
            with self.subTest(key):
                slowest = slot.slowest_drying
                self.assertEqual(slowest.reference_h if slowest else None, max(each, default=None))
