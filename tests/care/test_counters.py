"""The machine's own counter beside ours."""

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from care.due import Past, assess
from care.due.counters import reconcile, used_hours
from care.errors import InvalidValue
from care.model import CounterReading
from care.vocabulary import Action
from tests.care.world import DAY, START, context, fact, fitted, hours_trigger, new_item, rule, runs, service, slot


class Typed(SimpleTestCase):
    def test_figures_become_hours_used(self):
        self.assertEqual(used_hours(64, unit="percent", sense="left", limit_h=200), 72)
        self.assertEqual(used_hours(64, unit="percent", sense="used", limit_h=200), 128)
        self.assertEqual(used_hours(45, unit="hours", sense="left", limit_h=150), 105)

    def test_that_cannot_be_are_refused_by_name(self):
        for value, unit, sense in ((101, "percent", "left"), (-1, "percent", "used"), (-2, "hours", "used"),
                                   (160, "hours", "left")):  # fmt: skip
            with self.subTest(value=value, unit=unit), self.assertRaises(InvalidValue) as refused:
                used_hours(value, unit=unit, sense=sense, limit_h=150)
            self.assertEqual(refused.exception.field, "value")

    @given(st.floats(0, 100), st.floats(1, 500))
    def test_left_and_used_are_two_sides_of_one_figure(self, percent, limit):
        left = used_hours(percent, unit="percent", sense="left", limit_h=limit)
        used = used_hours(100 - percent, unit="percent", sense="used", limit_h=limit)
        self.assertAlmostEqual(left, used, places=6)


class Reconciled(SimpleTestCase):
    def life(self, said, at_day=40, cleaned_day=None):
        """The life of a part after sixty daily hours, the counter having said so many hours used on a day."""
        item, _ = new_item()
        counter = CounterReading(item.id, "part", said, START + at_day * DAY)
        services = [service(item, Action.WASH, START + cleaned_day * DAY)] if cleaned_day else []
        worn = slot(rule(Action.REPLACE, hours_trigger(150)))
        past = Past(fitted(item), services, [], [counter])
        [state] = assess(worn, item, past=past, context=context(runs(60, minutes=60), now=START + 60 * DAY))
        return state

    def test_the_counter_s_figure_goes_on_with_our_hours(self):
        state = self.life(60)
        self.assertEqual(state.clocks[0].used, 60 + 20)
        self.assertEqual(fact(state, "counter").ours_h, 40)

    def test_a_counter_set_back_after_a_cleaning_is_not_the_life(self):
        state = self.life(5, cleaned_day=35)
        self.assertEqual(state.clocks[0].used, 60)
        self.assertTrue(fact(state, "counter").looks_reset)

    def test_a_low_counter_without_such_a_cleaning_is_believed(self):
        self.assertEqual(self.life(5).clocks[0].used, 5 + 20)

    @given(st.floats(0, 300), st.floats(0, 300), st.floats(0, 300))
    def test_only_what_is_far_below_ours_is_taken_for_a_reset(self, counter, ours, cleaned):
        both = reconcile(counter_h=counter, ours_h=ours, since_cleaning_h=cleaned)
        if both.looks_reset:
            self.assertLess(counter, ours)


class OneAfterAnother(SimpleTestCase):
    def life(self, *readings):
        """The life of a part after sixty daily hours, with readings (day, hours used, which one was chosen)."""
        item, _ = new_item()
        told = [CounterReading(item.id, "part", used, START + day * DAY, chosen) for day, used, chosen in readings]
        past = Past(fitted(item), [], [], told)
        worn = slot(rule(Action.REPLACE, hours_trigger(300)))
        [state] = assess(worn, item, past=past, context=context(runs(60, minutes=60), now=START + 60 * DAY))
        return state

    def test_each_is_held_against_the_count_that_the_ones_before_it_left(self):
        state = self.life((20, 50, True), (40, 10, False))
        self.assertEqual(fact(state, "counter").ours_h, 70)
        self.assertEqual(state.clocks[0].used, 50 + 40, "ours counts on, with what the first reading added")
