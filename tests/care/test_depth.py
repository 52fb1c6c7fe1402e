"""How far a part is cleaned: what each depth takes in, by school and by what the machine has."""

from itertools import pairwise

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from care.bench.depth import DEPTH_OF, Depth, choices, depth_of
from care.vocabulary import Action, School
from care.washability import Mark, Trait
from tests.care.world import BOOK

SLOTS = [(kind, slot) for kind in BOOK.archetypes.values() for slot in kind.slots]
FEATURES = sorted({f for kind in BOOK.archetypes.values() for f in (*kind.provides, *(o.key for o in kind.options))})


class Depths(SimpleTestCase):
    @given(st.sampled_from(SLOTS), st.sets(st.sampled_from(FEATURES)), st.sampled_from(School))
    def test_go_from_shallow_to_deep_and_a_deeper_one_leaves_out_no_dry_work(self, where, features, school):
        _, slot = where
        offered = choices(slot, frozenset(features), school)
        self.assertEqual([c.depth for c in offered], sorted({c.depth for c in offered}))
        for shallow, deep in pairwise(offered):
            self.assertLessEqual(set(shallow.actions) - {Action.WIPE}, set(deep.actions))
        for choice in offered:
            self.assertEqual(depth_of(choice.actions), choice.depth)
            self.assertTrue(all(slot.rule(a).holds_with(frozenset(features)) for a in choice.actions))

    def test_of_a_bin_are_three_where_the_label_does_not_forbid_the_third(self):
        cup = BOOK.parts["cup"].seen({Trait.WIRES: Mark.NO})
        told = {school: [c.depth for c in choices(cup, frozenset(), school)] for school in School}
        self.assertEqual(told[School.LABEL], [Depth.EMPTY, Depth.CLEAN])
        self.assertEqual(told[School.WORKSHOP], [Depth.EMPTY, Depth.CLEAN, Depth.WASH])

    def test_looks_swaps_and_new_parts_are_none(self):
        self.assertIsNone(depth_of([Action.INSPECT, Action.SWAP, Action.REPLACE]))
        self.assertEqual(set(Action) - set(DEPTH_OF), {Action.INSPECT, Action.SWAP, Action.REPLACE, Action.AIR})
