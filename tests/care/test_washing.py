"""The wash card: what may get wet, by kind, by what was seen, by school, and by who lives there."""

from dataclasses import replace
from uuid import UUID, uuid4

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from care.bench import Chosen, Job, StepKind, build
from care.bench.washing import card
from care.errors import InvalidValue
from care.items import Item, State
from care.kinds import Action, School
from care.water import Because, Mark, Ruling, Trait
from tests.care.world import BOOK, START

YES, NO, UNKNOWN = Mark
PARTS = sorted(BOOK.parts)
MARKS = st.dictionaries(st.sampled_from(Trait), st.sampled_from(Mark))


def card_of(part, school=School.WORKSHOP, *, allergy=False, **marks):
    """The card of a part of the book."""
    return card(BOOK.parts[part], {Trait(k): v for k, v in marks.items()}, school, allergy=allergy)


class AnyPart(SimpleTestCase):
    @given(st.sampled_from(PARTS), MARKS, st.sampled_from(School), st.booleans())
    def test_never_gets_wet_against_what_was_seen(self, part, marks, school, allergy):
        told = card(BOOK.parts[part], marks, school, allergy=allergy)
        wet = told.ruling is Ruling.WASH
        if marks.get(Trait.WIRES) is YES or marks.get(Trait.HAZARD) is YES or marks.get(Trait.METAL) is YES:
            self.assertFalse(wet)
        if BOOK.parts[part].washing.needs_mark and marks.get(Trait.MARKED) is not YES:
            self.assertFalse(wet)
        self.assertTrue(told.how, "there is always something to do instead")
        self.assertFalse(set(told.asks) & {t for t, m in marks.items() if m is not UNKNOWN}, "nothing is asked twice")


class WhatDecides(SimpleTestCase):
    def ruling(self, part, **marks):
        told = card_of(part, **marks)
        return told.ruling, told.because

    def test_the_kind_where_nothing_else_does(self):
        self.assertEqual(self.ruling("foam-pad"), (Ruling.WASH, Because.KIND))
        for part in ("paper-faced", "robot-sensors", "powered-head", "drive-wheels", "bag"):
            expected = Ruling.WASH if part == "drive-wheels" else Ruling.DRY
            self.assertEqual(self.ruling(part)[0], expected, part)

    def test_a_mark_where_one_is_needed(self):
        self.assertEqual(self.ruling("fibre-pad"), (Ruling.DRY, Because.UNMARKED_UNKNOWN))
        self.assertEqual(self.ruling("fibre-pad", marked=NO), (Ruling.DRY, Because.NOT_MARKED))
        self.assertEqual(self.ruling("fibre-pad", marked=YES), (Ruling.WASH, Because.MARKED))
        self.assertEqual(self.ruling("washable-cartridge", marked=NO), (Ruling.DRY, Because.NOT_MARKED))

    def test_wires_and_metal_and_harmful_dust_go_before_it(self):
        self.assertEqual(self.ruling("hose", wires=YES), (Ruling.DRY, Because.WIRES))
        self.assertEqual(self.ruling("hose", metal=YES), (Ruling.WIPE, Because.METAL))
        self.assertEqual(self.ruling("hose", metal=YES, wires=YES)[1], Because.WIRES)
        left = card_of("foam-pad", hazard=YES)
        self.assertEqual((left.ruling, left.sides), (Ruling.LEAVE, ()))
        self.assertIn("Do not tap", left.how[0])

    def test_a_closed_end_goes_up(self):
        told = [card_of("washable-cartridge", closed_end=m).direction for m in (YES, NO, UNKNOWN)]
        self.assertTrue(told[0].startswith("The closed end up") and told[1].startswith("Straight through"))
        self.assertIn("into the open end", told[2], "both readings, where nobody looked")

    def test_both_sides_are_shown_with_their_risk_and_ones_own_is_marked(self):
        sides = card_of("robot-filter-fine", School.THRIFTY, marked=YES).sides
        self.assertEqual([(s.view.school, s.mine) for s in sides], [("workshop", False), ("thrifty", True)])
        self.assertTrue(all(s.view.risk for s in sides))

    def test_with_an_allergy_nobody_is_told_to_risk_fine_dust(self):
        self.assertEqual(card_of("robot-filter-fine", School.THRIFTY, allergy=True, marked=YES).sides, ())
        self.assertTrue(card_of("foam-pad", allergy=True).sides, "soap in foam risks no dust")

    def test_a_part_of_ones_own_has_no_card(self):
        with self.assertRaises(InvalidValue):
            card(replace(BOOK.parts["hose"], washing=None), {}, School.LABEL)


class OnTheSheet(SimpleTestCase):
    def kinds(self, marks):
        twin = BOOK.archetypes["upright-twin-roller"]
        slots = tuple(replace(s, marks=marks) if s.key == "fibre" else s for s in twin.slots)
        twin = replace(twin, slots=slots)
        item = Item(uuid4(), "fibre pad", "Fibre", State.FITTED, START, UUID(int=1), "fibre")
        sheet = build([Job(UUID(int=1), twin, (Chosen("fibre", Action.WASH, item),))], BOOK)
        return [step for step in sheet.steps if step.kind in (StepKind.WASH, StepKind.CLEAN, StepKind.RACK)]

    def test_what_is_not_marked_is_tapped_and_goes_back_at_once(self):
        [tap] = self.kinds({})
        self.assertEqual((tap.kind, tap.text), (StepKind.CLEAN, ("Tap it flat over a lined bin; no water.",)))

    def test_metal_is_wiped_not_soaked_on_the_sheet_too(self):
        roller = replace(BOOK.parts["rubber-roller"], marks={Trait.METAL: YES})
        self.assertIsNone(roller.drying_of(Action.WASH))
        self.assertIn("There is metal in it", roller.how(Action.WASH)[0])

    def test_what_is_marked_is_washed_and_dries(self):
        self.assertEqual([s.kind for s in self.kinds({Trait.MARKED: YES})], [StepKind.WASH, StepKind.RACK])
