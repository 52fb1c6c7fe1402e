"""Tasks in one go: rounds and kits at an interval of the household's own, habits, how far a machine is cleaned."""

from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from care.bench.bundles import LONGEST_H, full_service, renewal, rhythm, tasks
from care.bench.depth import extras
from care.due import Past, assess
from care.overrides import GOOD_ENOUGH, habits, rounds, tailored
from care.vocabulary import Action, Calendar, Consequence, Meter, School
from tests.care.world import BOOK, DAY, ROBOT, START, WASHABLE, context, fitted, new_item, runs

ROUNDS = [bundle for bundle in BOOK.bundles if bundle.is_round]
KIND = st.sampled_from(sorted(BOOK.archetypes))


class ARound(SimpleTestCase):
    @given(KIND, st.sampled_from(ROUNDS), st.sampled_from(School), st.floats(1, 730))
    def test_falls_due_as_one_but_for_what_nobody_stretches(self, kind, bundle, school, days):
        machine = WASHABLE[kind]
        for kept in rhythm("Round", tasks(bundle, machine, frozenset(), school), machine, days):
            rule = machine.slot(kept.slot).rule(kept.action)
            guarded = rule.never_stretch or rule.stake is Consequence.SAFETY
            trigger = kept.figure.trigger
            self.assertEqual(trigger.meter, Meter.DAYS)
            if guarded:
                book = next(t.high for t in rule.triggers if t.meter is Meter.DAYS)
                self.assertEqual(kept.days, min(days, book))
            else:
                self.assertEqual((kept.days, trigger.calendar), (days, Calendar.STANDS_FOR_USE))
                self.assertIn(trigger.reference_h_per_week, (1.0, 5.0), "one pace, so that they come together")
            self.assertEqual(kept.keeps_its_own, kept.days < days)

    def test_of_a_week_frees_all_that_hair_winds_round_and_wipes_what_sees(self):
        week = next(one for one in BOOK.bundles if one.key == "robot-week")
        chosen = {(s.key, a) for s, a in tasks(week, WASHABLE["robot-two-roller"], frozenset(), School.LABEL)}
        for slot in ("bristle-roller", "rubber-roller", "side-brush", "caster"):
            self.assertIn((slot, Action.DE_HAIR), chosen)
        self.assertLessEqual({("sensors", Action.WIPE), ("contacts", Action.WIPE), ("guard", Action.WIPE)}, chosen)
        self.assertEqual(tasks(week, WASHABLE["upright-belt"], frozenset(), School.LABEL), [])

    def test_of_a_kit_renews_its_parts_together(self):
        kind = BOOK.archetypes["robot-mop"]
        kept = renewal(kind, kind.kits[0].slots, "Kit", 200)
        self.assertEqual({one.slot for one in kept}, set(kind.kits[0].slots))
        self.assertEqual({(one.action, one.days) for one in kept}, {(Action.REPLACE, 200)})
        self.assertEqual(rounds({"round/kit-yearly": 200, "level/": "thorough"}), {"kit-yearly": 200.0})


class AFullService(SimpleTestCase):
    def test_is_all_that_has_a_date_of_parts_that_are_in_without_new_parts_and_swaps(self):
        item, _ = new_item()
        ran = context(runs(8), now=START + 9 * DAY, school=School.LABEL)
        states = assess(ROBOT.slot("filter"), item, past=Past(fitted(item)), context=ran)
        self.assertIn(Action.REPLACE, {state.action for state in states})
        self.assertEqual(full_service(ROBOT, states), [("filter", Action.WASH)])
        away = [replace(state, item_id=None) for state in states]
        unused = [replace(state, due=None) for state in states]
        self.assertEqual(full_service(ROBOT, [*away, *unused]), [])


class AgainstASmell(SimpleTestCase):
    def test_the_hose_is_aired_and_never_washed_as_one_of_many(self):
        smell = next(one for one in BOOK.bundles if one.key == "smell")
        for kind in ("upright-belt", "upright-twin-roller", "canister-bagless"):
            chosen = {(s.key, a) for s, a in tasks(smell, WASHABLE[kind], frozenset(), School.WORKSHOP)}
            with self.subTest(kind):
                self.assertIn(("hose", Action.AIR), chosen)
                self.assertNotIn(("hose", Action.WASH), chosen)
        self.assertGreater(WASHABLE["upright-belt"].slot("hose").drying.floor_h, LONGEST_H)
        soft = {(s.key, a) for s, a in tasks(smell, WASHABLE["upright-twin-roller"], frozenset(), School.LABEL)}
        self.assertIn(("soft-roller", Action.WASH), soft)


class WhatIsDoneByWhoLikes(SimpleTestCase):
    def test_is_never_due_and_offered_while_it_lies_open_alone(self):
        robot = BOOK.archetypes["robot-two-roller"]
        found = [(slot.key, rule.action) for slot, rule in extras(robot, frozenset(), School.LABEL, ["brush-cover"])]
        self.assertEqual(found, [("guard", Action.CLEAN)])
        self.assertEqual(extras(robot, frozenset(), School.LABEL, ["bin-bay"]), [])
        for kind in BOOK.archetypes.values():
            for slot in kind.slots:
                for rule in slot.rules:
                    if rule.extra:
                        self.assertEqual({t.meter for t in rule.triggers}, {Meter.CONDITION}, slot.key)

    def test_a_habit_is_read_from_the_settings(self):
        self.assertEqual(habits({"habit/guard/clean": True, "rule/x/wash": {}}), {("guard", Action.CLEAN)})


class HowFarItIsCleaned(SimpleTestCase):
    @given(KIND)
    def test_good_enough_lets_go_what_only_smells_or_looks_and_nothing_else(self, kind):
        book = BOOK.archetypes[kind]
        eased = tailored(book, {"level/": "good_enough"}, BOOK.parts)
        for slot in book.slots:
            for rule in slot.rules:
                mine = eased.slot(slot.key).rule(rule.action)
                lets_go = rule.stake in (Consequence.SMELL, Consequence.LOOKS) and not rule.never_stretch
                for before, after in zip(rule.triggers, mine.triggers, strict=True):
                    counted = before.meter not in (Meter.CONDITION, Meter.MISHAPS, Meter.MOP_RUNS)
                    times = GOOD_ENOUGH if lets_go and counted else 1.0
                    self.assertAlmostEqual(after.high, before.high * times, msg=f"{slot.key} {rule.action}")
                self.assertEqual(mine.eased, GOOD_ENOUGH if lets_go else 1.0)
