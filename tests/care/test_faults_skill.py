"""What a household does not open is asked of one function, whoever asks: sheets, the fault finder, its cures."""

from django.test import SimpleTestCase

from care.faults.case import Answered, Case, Noticed
from care.faults.hands import Hands
from care.faults.subject import subject
from care.faults.verdict import Stand, assess
from care.household import AtTheBench
from care.vocabulary import Skill
from tests.care.world import BOOK

BY_SKILL = {skill: Hands(home=AtTheBench(skill=skill)) for skill in Skill}


class WhatIsAtHand(SimpleTestCase):
    def test_the_tool_itself_then_the_first_substitute_that_is_owned_then_nothing(self):
        blade = BOOK.tools["hair-blade"]
        owned = {"letter-opener", "seam-ripper"}
        self.assertIs(blade.at_hand(None), blade)
        self.assertIs(blade.at_hand(frozenset({"hair-blade", *owned})), blade)
        self.assertEqual(blade.at_hand(frozenset(owned)).key, "seam-ripper")
        self.assertIsNone(blade.at_hand(frozenset({"torch"})))

    def test_nothing_stands_in_for_what_a_check_works_by(self):
        """A can blows where a second vacuum draws."""
        every = {"gauge", "meter"}
        for tools, lacking in ((None, every), (("canned-air", *every), {"air"}), (("air", *every), set())):
            home = AtTheBench(tools=None if tools is None else frozenset(tools))
            self.assertEqual(Hands.of(home, BOOK.tools.values()).lacks, lacking)

    def test_every_substitute_says_what_it_risks_or_is_as_good(self):
        as_good = {"microfibre"}
        for tool in BOOK.tools.values():
            keys = [one.key for one in tool.instead]
            self.assertEqual(len(keys), len({*keys, tool.key}) - 1, tool.key)
            self.assertEqual([one.key for one in tool.instead if not one.mind and one.key not in as_good], [])


class WhatIsOpened(SimpleTestCase):
    def test_no_check_and_no_cure_goes_further_in_than_somebody_does(self):
        for kind in BOOK.archetypes.values():
            of = subject(BOOK, kind)
            for skill, hands in BY_SKILL.items():
                for probe in filter(hands.can, of.probes):
                    self.assertTrue(probe.opening is None or skill.reaches(probe.opening.skill))
                for suspect in filter(hands.cures, of.suspects):
                    self.assertTrue(suspect.opening is None or skill.reaches(suspect.opening.skill))

    def test_what_lies_deeper_keeps_nobody_from_what_they_can_try(self):
        """The likeliest is inside the body; what is next and can be put right by hand is tried first."""
        for kind in BOOK.archetypes.values():
            of = subject(BOOK, kind)
            hands = BY_SKILL[Skill.MODULES]
            for symptom in of.symptoms:
                case = Case(of, (Noticed(symptom.key),))
                told = assess(case, who=hands).verdict
                if told.stand in (Stand.TRY, Stand.CURE):
                    self.assertTrue(all(hands.cures(of.suspect(key)) for key in told.suspects))

    def test_a_proven_fault_that_lies_deeper_is_handed_over(self):
        of = subject(BOOK, BOOK.archetypes["cordless-two-filter"])
        probe = next(one for one in of.probes if one.check.key == "nudge")
        sound = Answered("pack-look:battery", "sound")
        case = Case(of, (Noticed("clicks"), sound, Answered(probe.key, "stuck")))
        self.assertEqual(assess(case, who=BY_SKILL[Skill.STRIP_DOWN]).verdict.stand, Stand.CURE)
        for skill in (Skill.MODULES, Skill.SCREWS):
            hands = BY_SKILL[skill]
            verdict = assess(case, who=hands).verdict
            self.assertEqual(verdict.stand, Stand.HAND_OVER)
            self.assertFalse(any(hands.cures(of.suspect(key)) for key in verdict.suspects))
            self.assertFalse(hands.can(probe))
