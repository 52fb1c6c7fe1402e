"""Load over time: each stretch of use counts by the figure of its own time."""

from dataclasses import replace
from datetime import date, timedelta

from django.test import SimpleTestCase
from hypothesis import assume, given
from hypothesis import strategies as st

from care.due import LoadLine
from care.model import Load, LoadEvent
from care.vocabulary import Action, LoadKind, School
from tests.care.world import DAY, START, WASHABLE, context, fact, one_state, rule, runs, usual_days_trigger
from tests.effort import examples

HAIRY = rule(Action.DE_HAIR, usual_days_trigger(7, 28), moved_by=LoadKind.HAIR)
"""Placed at 28, 14 and 7 days of 5 h a week by hair loads 0, 0.5 and 1: 20, 10 and 5 h."""


def share(line, days=10):
    """The share used after an hour a day for so many days, by a free school."""
    circumstances = context(runs(days, minutes=60), now=START + days * DAY, loads=line, school=School.WORKSHOP)
    return one_state(HAIRY, circumstances)


class Dated(SimpleTestCase):
    def test_answers_count_from_their_day_on(self):
        line = LoadLine([(START, Load(hair=0)), (START + 5 * DAY, Load(hair=1))])
        self.assertAlmostEqual(share(line).share, 5 / 20 + 5 / 5)

    def test_the_same_answer_twice_changes_nothing(self):
        twice = LoadLine([(START, Load(hair=0.5)), (START + 3 * DAY, Load(hair=0.5))])
        self.assertEqual(share(twice).share, share(LoadLine([(START, Load(hair=0.5))])).share)


class Events(SimpleTestCase):
    def moulting(self, first, last, level=1.0):
        day = START.date()
        event = LoadEvent(LoadKind.HAIR, day + timedelta(first), day + timedelta(last), level, "moulting")
        return LoadLine([(START, Load(hair=0))], [event])

    def test_raise_the_rate_for_their_days_only(self):
        state = share(self.moulting(2, 4))
        self.assertAlmostEqual(state.share, 7 / 20 + 3 / 5)
        node = fact(state, "load_event")
        self.assertEqual((node.note, node.kind), ("moulting", "hair"))

    def test_do_not_lower_a_load_that_is_higher_anyway(self):
        line = LoadLine([(START, Load(hair=1))], self.moulting(2, 4, level=0.2).events)
        self.assertAlmostEqual(share(line).share, 10 / 5)

    def test_before_and_after_them_nothing_is_said(self):
        self.assertIsNone(fact(share(self.moulting(20, 24)), "load_event"))


ALONE = {"about": None, "only_with": None, "unless_with": None, "done_by": (), "instead_of": None}


def by_itself(a_rule):
    """A rule of the book with what hangs on the rules beside it taken away; a look and a swap as a cleaning."""
    return replace(
        a_rule, **ALONE, action=Action.CLEAN if a_rule.action in (Action.INSPECT, Action.SWAP) else a_rule.action
    )


EVERY = [by_itself(rule) for kind in WASHABLE.values() for slot in kind.slots for rule in slot.rules]
RULES = {repr((rule.action, rule.triggers, rule.schools)): rule for rule in EVERY}
"""Every rule of every kind, alike ones once."""


class NeverBackwards(SimpleTestCase):
    """Whatever the rule, the school and the load: more of it is never later, less of it never at once overdue."""

    @examples(300)
    @given(
        st.sampled_from(sorted(RULES)),
        st.sampled_from(School),
        st.tuples(st.floats(0, 1), st.floats(0, 1)).map(sorted),
        st.integers(0, 40),
        st.integers(0, 40),
    )
    def test_load_only_brings_work_forward(self, name, school, levels, before, after):
        a_rule, (low, high) = RULES[name], (Load(level, level, level) for level in levels)
        assume(a_rule.in_force(school) is not None)
        done, now, changed = runs(before + after, minutes=90), START + (before + after) * DAY, START + before * DAY

        def stands(*line):
            return one_state(a_rule, context(done, now=now, loads=LoadLine(line), school=school))

        little, much = stands((START, low)), stands((START, high))
        more, less = stands((START, low), (changed, high)), stands((START, high), (changed, low))
        for one, other in ((little, more), (more, much), (little, less), (less, much)):
            self.assertLessEqual(one.share, other.share + 1e-6)
            self.assertGreaterEqual(one.due_on or date.max, other.due_on or date.max)
