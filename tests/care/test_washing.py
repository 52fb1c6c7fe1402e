"""The wash card: what may get wet, by kind, by what was seen, by school, and by who lives there."""

from dataclasses import replace
from uuid import uuid4

from django.test import SimpleTestCase
from hypothesis import assume, given
from hypothesis import strategies as st

from care.bench import Chosen, Job, StepKind, build
from care.bench.depth import DEPTH_OF, Depth, choices
from care.bench.washing import card
from care.due import Facts, Past, assess, assess_machine
from care.errors import InvalidValue
from care.items import Item, State
from care.model import Inspection
from care.overrides import Aspect, key_of, tailored
from care.rules import WETTING, Variant
from care.vocabulary import Action, Found, School
from care.washability import Mark, Ruling, Trait, WashReason
from tests.care.world import BOOK, DAY, MACHINE, START, all_new, context, fact, fitted, new_item, runs, service
from tests.effort import examples

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
            self.assertTrue(not wet or marks.get(Trait.OWN_RISK) is YES, "but by a choice of one's own")
        if BOOK.parts[part].washing.rules_out_wires and marks.get(Trait.WIRES) is not NO:
            self.assertFalse(wet)
        self.assertTrue(told.how, "there is always something to do instead")
        self.assertFalse(set(told.asks) & {t for t, m in marks.items() if m is not UNKNOWN}, "nothing is asked twice")


class WhatDecides(SimpleTestCase):
    def ruling(self, part, **marks):
        told = card_of(part, **marks)
        return told.ruling, told.because

    def test_the_kind_where_nothing_else_does(self):
        self.assertEqual(self.ruling("foam-pad"), (Ruling.WASH, WashReason.KIND))
        for part in ("paper-faced", "robot-sensors", "powered-head", "drive-wheels", "bag"):
            expected = Ruling.WASH if part == "drive-wheels" else Ruling.DRY
            self.assertEqual(self.ruling(part)[0], expected, part)

    def test_a_mark_where_one_is_needed(self):
        self.assertEqual(self.ruling("fibre-pad"), (Ruling.DRY, WashReason.UNMARKED_UNKNOWN))
        self.assertEqual(self.ruling("fibre-pad", marked=NO), (Ruling.DRY, WashReason.NOT_MARKED))
        self.assertEqual(self.ruling("fibre-pad", marked=YES), (Ruling.WASH, WashReason.MARKED))
        self.assertEqual(self.ruling("washable-cartridge", marked=NO), (Ruling.DRY, WashReason.NOT_MARKED))

    def test_wires_and_metal_and_harmful_dust_go_before_it(self):
        self.assertEqual(self.ruling("hose", wires=YES), (Ruling.DRY, WashReason.WIRES))
        self.assertEqual(self.ruling("hose", metal=YES, wires=NO), (Ruling.WIPE, WashReason.METAL))
        for part in ("hose", "neck", "wand", "shroud", "cup", "robot-bin", "washing-tray"):
            ruling, because = self.ruling(part, marked=YES)
            self.assertEqual((ruling, because), (Ruling.DRY, WashReason.WIRES_UNKNOWN), part)
        self.assertEqual(self.ruling("hose", metal=YES, wires=YES)[1], WashReason.WIRES)
        left = card_of("foam-pad", hazard=YES)
        self.assertEqual((left.ruling, left.sides), (Ruling.LEAVE, ()))
        self.assertIn("Do not tap", left.how[0])

    def test_a_closed_end_goes_up(self):
        told = [card_of("washable-cartridge", marked=YES, closed_end=m).direction for m in (YES, NO, UNKNOWN)]
        self.assertTrue(told[0].startswith("The closed end up") and told[1].startswith("Straight through"))
        self.assertIn("into the open end", told[2], "both readings, where nobody looked")

    def test_both_sides_are_shown_with_their_risk_and_ones_own_is_marked(self):
        sides = card_of("robot-filter-fine", School.THRIFTY, marked=YES).sides
        self.assertEqual([(s.view.school, s.mine) for s in sides], [("workshop", False), ("thrifty", True)])
        self.assertTrue(all(s.view.risk for s in sides))

    def test_a_cyclone_whose_label_allows_it_is_washed_by_the_label_too(self):
        compact = BOOK.archetypes["upright-compact"].slot("cyclone")
        rule = compact.seen({Trait.MARKED: YES, Trait.WIRES: NO}).rule(Action.WASH)
        self.assertIsNotNone(rule.at_school(School.LABEL))
        with self.assertRaisesRegex(InvalidValue, "the mark decides"):
            replace(compact, rules=(replace(rule, schools={School.LABEL: Variant("", off=True)}),))

    def test_with_an_allergy_nobody_is_told_to_risk_fine_dust(self):
        self.assertEqual(card_of("robot-filter-fine", School.THRIFTY, allergy=True, marked=YES).sides, ())
        self.assertTrue(card_of("foam-pad", allergy=True).sides, "soap in foam risks no dust")

    def test_a_part_of_ones_own_has_no_card(self):
        with self.assertRaises(InvalidValue):
            card(replace(BOOK.parts["hose"], washing=None), {}, School.LABEL)


class AtOnesOwnRisk(SimpleTestCase):
    def test_it_is_offered_by_ones_own_school_only_where_but_the_mark_is_lacking(self):
        def offered(part, school, **more):
            return [s.view.says for s in card_of(part, school, **more).sides if s.at_own_risk]

        self.assertTrue(offered("fibre-pad", School.WORKSHOP))
        self.assertTrue(offered("fibre-pad", School.WORKSHOP, marked=NO))
        self.assertFalse(offered("fibre-pad", School.LABEL))
        self.assertFalse(offered("fibre-pad", School.WORKSHOP, marked=YES), "nothing is risked")
        self.assertFalse(offered("shroud", School.THRIFTY, marked=NO), "wires come first")
        self.assertTrue(offered("shroud", School.THRIFTY, marked=NO, wires=NO))
        self.assertFalse(offered("robot-filter", School.THRIFTY, allergy=True), "not where dust may be let through")

    def test_chosen_it_is_washed_and_says_so(self):
        told = card_of("fibre-pad", School.WORKSHOP, marked=NO, own_risk=YES)
        self.assertEqual((told.ruling, told.because), (Ruling.WASH, WashReason.OWN_RISK))
        self.assertEqual(card_of("fine-filter", own_risk=YES).ruling, Ruling.DRY, "no side has it washed unmarked")
        self.assertEqual(card_of("robot-sensors", own_risk=YES).ruling, Ruling.DRY)


def on_the_sheet(kind, slot, action):
    """The steps of work of one task."""
    item = Item(uuid4(), slot.part, slot.name, State.FITTED, START, MACHINE, slot.key)
    sheet = build([Job(MACHINE, kind, (Chosen(slot.key, action, item),))], BOOK)
    work = (StepKind.WASH, StepKind.CLEAN, StepKind.CLEAN_IN_PLACE, StepKind.RACK)
    return [step for step in sheet.steps if step.kind in work]


class OneAnswer(SimpleTestCase):
    """Wash card, due tasks, sheet, depths, drying and the record agree, whatever was seen: kinds x marks x schools."""

    @given(st.sampled_from(sorted(BOOK.archetypes)), st.data(), MARKS, st.sampled_from(School))
    @examples(80)
    def test_of_card_due_task_sheet_depth_and_rack(self, key, data, marks, school):
        kind = BOOK.archetypes[key]
        wet = [slot.key for slot in kind.slots if any(rule.action in WETTING for rule in slot.over.wet_rules)]
        assume(wet)
        where = data.draw(st.sampled_from(wet))
        told = {str(trait): str(mark) for trait, mark in marks.items()}
        features = frozenset(data.draw(st.sets(st.sampled_from([o.key for o in kind.options])))) if kind.options else ()
        kind = tailored(kind, {key_of(Aspect.MARKS, where): told}, BOOK.parts, features)
        slot = kind.slot(where)
        ruling = card(slot, slot.over.marks, school).ruling
        machine, items, fittings = all_new(kind, frozenset(features))
        facts = Facts(items, fittings=fittings, services=())
        states = assess_machine(machine, facts, context(now=START + DAY, school=school))
        due = {state.action for state in states if state.slot == where}
        depths = {choice.depth for choice in choices(slot, frozenset(features), school)}
        if ruling is not Ruling.WASH:
            self.assertFalse(due & WETTING or Depth.WASH in depths or any(r.action in WETTING for r in slot.rules))
        elif marks.get(Trait.MARKED) is YES and slot.washing.needs_mark and school is not School.THRIFTY:
            self.assertTrue(due & WETTING, "what is marked is washed, whatever was said when it was set up")
        for rule in slot.rules:
            if rule.action in DEPTH_OF:
                steps = on_the_sheet(kind, slot, rule.action)
                washed = any(step.kind is StepKind.WASH for step in steps)
                self.assertEqual(washed, slot.drying_of(rule.action) is not None)
                self.assertTrue(not (washed and rule.action in WETTING) or ruling is Ruling.WASH)
                self.assertIn(rule.action, [step.action for step in steps], "the record says what was done")


class OnTheSheet(SimpleTestCase):
    def steps(self, action, **marks):
        told = {key_of(Aspect.MARKS, "fibre"): {trait: str(mark) for trait, mark in marks.items()}}
        twin = tailored(BOOK.archetypes["upright-twin-roller"], told, BOOK.parts)
        return on_the_sheet(twin, twin.slot("fibre"), action)

    def test_what_nobody_looked_at_is_tapped_and_goes_back_at_once_and_says_where_to_look(self):
        [tap] = self.steps(Action.CLEAN)
        self.assertEqual((tap.kind, tap.text[1:]), (StepKind.CLEAN, ("Tap it flat over a lined bin; no water.",)))
        self.assertIn("look on its frame", tap.text[0])
        self.assertEqual(tap.cautions, ("hazardous-dust", "dust"))
        [tap] = self.steps(Action.CLEAN, marked=NO)
        self.assertEqual(tap.text, ("Tap it flat over a lined bin; no water.",))

    def test_metal_is_wiped_not_soaked_on_the_sheet_too(self):
        roller = BOOK.parts["rubber-roller"].seen({Trait.METAL: YES})
        self.assertEqual([r.action for r in roller.rules if r.instead_of], [Action.WIPE])
        self.assertIn("There is metal in it", roller.rule(Action.WIPE).card.how[0])

    def test_what_is_marked_is_washed_and_dries(self):
        self.assertEqual([s.kind for s in self.steps(Action.WASH, marked=YES)], [StepKind.WASH, StepKind.RACK])

    def test_a_mark_that_is_seen_later_goes_on_where_the_dry_task_stopped(self):
        dry = BOOK.parts["fibre-pad"].seen({})
        wet = dry.seen({Trait.MARKED: YES})
        self.assertEqual([r.action for r in dry.rules if r.action is not Action.REPLACE], [Action.CLEAN])
        self.assertEqual([r.action for r in wet.rules if r.action is not Action.REPLACE], [Action.WASH])
        item, _ = new_item()
        past = Past(
            fitted(item),
            [service(item, Action.CLEAN, START + 5 * DAY)],
            [Inspection(item.id, "fibre-pad", Action.CLEAN, Found.OVERDUE, START + 9 * DAY)],
        )
        told = context(runs(9, minutes=20), now=START + 10 * DAY)
        [before] = [s for s in assess(dry, item, past=past, context=told) if s.action is Action.CLEAN]
        [after] = [s for s in assess(wet, item, past=past, context=told) if s.action is Action.WASH]
        self.assertEqual((before.level, fact(before, "learned")), (after.level, fact(after, "learned")))
