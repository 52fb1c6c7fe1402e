"""What a household changes on a machine, laid over the book."""

from dataclasses import replace

from django.test import SimpleTestCase

from care import overrides
from care.due import assess
from care.errors import InvalidValue
from care.model import Load
from care.overrides import Aspect, PlacedAt, key_of
from care.own_part import OwnPart
from care.reasons import brief
from care.rules import Trigger
from care.vocabulary import Action, Calendar, LoadKind, Meter, School
from tests.care.world import (
    BOOK,
    DAY,
    START,
    Past,
    context,
    fact,
    fitted,
    new_item,
    rule,
    runs,
    slot,
    usual_days_trigger,
)

ROBOT, TWIN = BOOK.archetypes["robot-two-roller"], BOOK.archetypes["robot-belt"]
TEN_DAYS = {"why": "the manual says ten", "trigger": {"meter": "days", "low": 10, "high": 10, "calendar": "ages"}}


def tailored(kind, **settings):
    """A kind with settings; `__` stands for `/` and `_` for `-` in their keys."""
    return overrides.tailored(
        kind, {k.replace("__", "/").replace("_", "-"): v for k, v in settings.items()}, BOOK.parts
    )


class TheBook(SimpleTestCase):
    def test_is_followed_where_nothing_is_set(self):
        self.assertIs(overrides.tailored(ROBOT, {}, BOOK.parts), ROBOT)
        changed = tailored(ROBOT, name__filter="Big filter")
        self.assertEqual(changed.slot("filter").name, "Big filter")
        self.assertEqual(changed.slot("filter").rules, ROBOT.slot("filter").rules)
        self.assertEqual(changed.slot("caster"), ROBOT.slot("caster"))

    def test_a_part_sits_where_somebody_put_it(self):
        changed = tailored(ROBOT, place__caster={"station": "bay", "air_order": 3, "refit_order": 4})
        self.assertEqual((changed.slot("caster").station, changed.slot("caster").refit_order), ("bay", 4))

    def test_a_part_that_is_not_there_leaves_its_kit_and_its_twin_without_a_swap(self):
        self.assertNotIn("filter", tailored(ROBOT, gone__filter=True).kits[0].slots)
        changed = tailored(TWIN, gone__side_left=True)
        right = changed.slot("side-right")
        self.assertIsNone(right.swaps_with)
        self.assertNotIn(Action.SWAP, [r.action for r in right.rules])

    def test_a_school_of_a_machine_gives_way_to_that_of_a_part(self):
        changed = tailored(ROBOT, school__="thrifty", school__filter="workshop")
        self.assertEqual(changed.slot("filter").over.school, School.WORKSHOP)
        self.assertEqual(changed.slot("caster").over.school, School.THRIFTY)


class APartOfOnesOwn(SimpleTestCase):
    def test_comes_from_the_book_with_its_rules_and_never_stops_the_machine(self):
        changed = tailored(ROBOT, part__own_1={"name": "Extra foam", "station": "filter", "use": "foam-pad"})
        part = changed.slot("own-1")
        self.assertEqual([r.action for r in part.rules], [r.action for r in BOOK.parts["foam-pad"].rules])
        self.assertTrue(part.over.added and not part.needed_to_run)

    def test_or_has_the_one_task_that_was_told_and_is_replaced_by_its_looks(self):
        days = {"meter": "days", "low": 20, "high": 20, "calendar": "ages"}
        told = {"name": "Felt ring", "station": "filter", "action": "wash", "trigger": days, "material": "felt"}
        dry = tailored(ROBOT, part__own_2=told).slot("own-2")
        self.assertEqual((dry.washing.key, dry.rules[0].action), ("fibre", Action.CLEAN), "felt stays dry unmarked")
        part = tailored(ROBOT, part__own_2=told, marks__own_2={"marked": "yes"}).slot("own-2")
        self.assertEqual([r.action for r in part.rules], [Action.WASH, Action.REPLACE])
        self.assertEqual((part.drying_of(Action.WASH).floor_h, part.over.material), (24.0, "felt"))
        odd = tailored(ROBOT, part__own_2={**told, "material": "moss"}).slot("own-2")
        self.assertIsNone(odd.washing, "the book says nothing of it, and so nobody guesses")
        item, _ = new_item()
        states = assess(part, item, past=Past(fitted(item)), context=context(now=START + 15 * DAY))
        self.assertEqual((states[0].share, states[0].level), (0.75, "wearing"))

    def test_needs_a_name_and_either_the_book_or_a_task(self):
        for field, values in {"name": {"name": " "}, "action": {"use": "foam-pad", "action": Action.WASH}}.items():
            with self.subTest(field), self.assertRaises(InvalidValue) as refused:
                OwnPart(**{"name": "Foam", "station": "filter", "use": None, **values})
            self.assertIn(refused.exception.field, (field, "figure", "action"))


class AFigureOfOnesOwn(SimpleTestCase):
    def state(self, school, load, **more):
        wash = rule(Action.WASH, usual_days_trigger(7, 14), moved_by=LoadKind.DUST)
        part = overrides._changed(slot(wash), {"rule/part/wash": TEN_DAYS}, set(), frozenset())
        item, _ = new_item()
        circumstances = context(runs(20), now=START + 20 * DAY, school=school, load=load, **more)
        [state] = assess(part, item, past=Past(fitted(item)), context=circumstances)
        return state

    def test_counts_whatever_school_and_load_say_and_names_what_they_would(self):
        for school in School:
            for dust in (0.0, 1.0):
                with self.subTest(school=school, dust=dust):
                    state = self.state(school, Load(dust=dust))
                    self.assertEqual((state.clocks[0].limit, state.share), (10, 2.0))
        self.assertEqual(fact(state, "own_figure").why, "the manual says ten")
        self.assertEqual(sum(one.code == "other_school" for one in state.because), 3)
        self.assertIn("own_figure", [one.code for one in brief(state.because)], "one sentence, too, says whose it is")

    def test_means_days_as_the_book_means_them_for_that_task(self):
        ranged = rule(Action.WASH, usual_days_trigger(7, 14))
        self.assertEqual(overrides.own_trigger(ranged, Meter.DAYS, 9).calendar, Calendar.STANDS_FOR_USE)
        self.assertEqual(overrides.own_trigger(ranged, Meter.RUNS, 9), Trigger(Meter.RUNS, 9, 9))
        by_hours = rule(Action.REPLACE, Trigger(Meter.RUN_HOURS, 150, 150))
        self.assertEqual(overrides.own_trigger(by_hours, Meter.DAYS, 9).calendar, Calendar.AGES)

    def test_may_be_shorter_but_not_longer_where_the_motor_or_somebody_is_guarded(self):
        def check(days):
            trigger = {"meter": "days", "low": days, "high": days, "calendar": "stands_for_use"}
            value = {"why": "so", "trigger": {**trigger, "reference_h_per_week": 5.0}}
            overrides.check(ROBOT, Aspect.RULE, "filter", Action.CLEAN, value)

        check(5)
        with self.assertRaises(InvalidValue) as refused:
            check(30)
        self.assertEqual(refused.exception.field, "figure")
        with self.assertRaises(InvalidValue) as refused:
            overrides.check(ROBOT, Aspect.RULE, "sensors", Action.WIPE, {"why": "so", "off": True})
        self.assertEqual(refused.exception.field, "off")
        by_runs = {"why": "so", "trigger": {"meter": "runs", "low": 999, "high": 999}}
        with self.assertRaises(InvalidValue) as refused:
            overrides.check(ROBOT, Aspect.RULE, "filter", Action.CLEAN, by_runs)
        self.assertEqual(refused.exception.field, "meter", "no way round it by another unit")


class AMarkSeenLater(SimpleTestCase):
    def test_a_figure_of_ones_own_goes_over_to_what_stands_in_for_its_task(self):
        figure = {"why": "ours", "trigger": {"meter": "runs", "low": 3, "high": 3}}
        for told, marks in (("clean", {"marked": "yes"}), ("wash", {})):
            kind = overrides.tailored(ROBOT, {f"rule/filter/{told}": figure, "marks/filter": marks}, BOOK.parts)
            rule = next(rule for rule in kind.slot("filter").rules if rule.instead_of)
            self.assertEqual((rule.instead_of, rule.own.why), (told, "ours"))


class Refused(SimpleTestCase):
    def test_before_it_harms(self):
        last = replace(ROBOT, slots=ROBOT.slots[:1], kits=())
        for aspect, slot_key, value, field in [
            (Aspect.NAME, "filter", "caster wheel" * 9, "name"),
            (Aspect.NAME, "filter", ROBOT.slot("caster").name.upper(), "name"),
            (Aspect.PLACE, "filter", {"station": "attic"}, "station"),
            (Aspect.PLACE, "filter", {"floor": 1}, "station"),
            (Aspect.GONE, "wing", True, "slot"),
        ]:
            with self.subTest(field=field, value=value), self.assertRaises(InvalidValue) as refused:
                overrides.check(ROBOT, aspect, slot_key, None, value)
            self.assertEqual(refused.exception.field, field)
        with self.assertRaises(InvalidValue):
            overrides.check(last, Aspect.GONE, last.slots[0].key, None, True)
        self.assertEqual(key_of(Aspect.SCHOOL), "school/")
        self.assertEqual(PlacedAt("bay").air_order, 1)
