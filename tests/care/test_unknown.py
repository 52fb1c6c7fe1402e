"""Clocks that start nobody knows where, and what a mishap makes due."""

from datetime import date, timedelta

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from care.due import Facts, Past, assess, assess_machine
from care.model import Inspection, Level, NotKnown
from care.overrides import Aspect, key_of, tailored
from care.rules import Trigger
from care.vocabulary import Action, Found, Meter, Mishap, School
from tests.care.world import (
    BOOK,
    DAILY_BUT_SUNDAY,
    DAY,
    START,
    ageing_trigger,
    all_new,
    context,
    fact,
    fitted,
    hours_trigger,
    new_item,
    rule,
    runs,
    service,
    slot,
)
from tests.effort import examples

WASH, REPLACE = rule(Action.WASH, hours_trigger(30)), rule(Action.REPLACE, hours_trigger(300))


class NobodyKnows(SimpleTestCase):
    def setUp(self):
        self.item, _ = new_item()

    def states(self, days, *, life=False, looks=(), services=(), rules=(WASH, REPLACE), school=School.WORKSHOP):
        told = [NotKnown(self.item.id, "part", START), *([NotKnown(self.item.id, "part", START, True)] if life else [])]
        past = Past(fitted(self.item), services, looks, unknowns=told)
        now = START + timedelta(days=days)
        ran = context(runs(days), now=now, schedule=DAILY_BUT_SUNDAY, school=school)
        return assess(slot(*rules), self.item, past=past, context=ran)

    def look(self, found, days=1, about=Action.WASH):
        return Inspection(self.item.id, "part", about, found, START + timedelta(days=days))

    def test_where_a_clock_starts_so_it_stands_in_the_middle_with_a_band_as_wide_as_its_interval(self):
        """30 h at 5 h a week are 42 days: from now to six weeks, most likely three."""
        wash, replace = self.states(0)
        self.assertEqual((wash.level, wash.share, wash.unsure), (Level.UNKNOWN, 0.5, True))
        self.assertEqual(fact(wash, "since_unknown").day, date(2026, 1, 5))
        days = [(day - START.date()).days for day in (wash.due.p10, wash.due.p50, wash.due.p90)]
        self.assertLess(days[0], 8)
        self.assertTrue(16 <= days[1] <= 26 and 34 <= days[2] <= 46, days)
        self.assertEqual((replace.level, replace.unsure), (Level.FRESH, False), "its age is known")

    def test_until_the_first_look_settles_it(self):
        for found, low, high in [
            (Found.CLEAN, 0, 0.33),
            (Found.LIGHT, 0.3, 0.72),
            (Found.DUE, 1, 1.3),
            (Found.OVERDUE, 1.2, 2.1),
        ]:
            with self.subTest(found):
                wash, _ = self.states(1, looks=[self.look(found)])
                self.assertFalse(wash.unsure)
                self.assertTrue(low <= wash.share <= high, wash.share)
                self.assertIsNone(fact(wash, "learned"), "how fast it loads nobody can tell from that")

    def test_or_until_it_is_done(self):
        done = [service(self.item, Action.WASH, START + DAY)]
        wash, _ = self.states(1, services=done)
        self.assertEqual((wash.share, wash.level), (0, Level.FRESH))

    def test_of_an_age_that_a_look_at_wear_settles(self):
        _, replace = self.states(1, life=True)
        self.assertTrue(replace.unsure)
        _, seen = self.states(1, life=True, looks=[self.look(Found.LIGHT, about=Action.REPLACE)])
        self.assertTrue(not seen.unsure and seen.share < 0.75)

    def test_also_of_days_that_age(self):
        [state] = self.states(3, rules=[rule(Action.WIPE, ageing_trigger(30))])
        self.assertAlmostEqual(state.share, 0.6)
        self.assertFalse(state.due.certain)

    def test_but_never_of_washes_or_of_what_is_found(self):
        [state] = self.states(3, rules=[rule(Action.REPLACE, Trigger(Meter.CONDITION))], life=True)
        self.assertEqual((state.unsure, state.share), (False, 0))

    @given(st.integers(0, 40), st.integers(0, 20))
    def test_more_use_is_never_less_due(self, days, more):
        before, after = self.states(days)[0], self.states(days + more)[0]
        self.assertLessEqual(before.share, after.share)


class AMishap(SimpleTestCase):
    """Sticky, wet, fine dust or sharp: what it harms is due at once, at every school, until it is done."""

    def state(self, slot_key, action, *, mishaps, services=(), school=School.LABEL, archetype="robot-two-roller"):
        part = BOOK.archetypes[archetype].slot(slot_key)
        item, _ = new_item()
        made = [service(item, act, at) for act, at in services]
        now = START + 3 * DAY
        ran = context(runs(2), now=now, school=school, mishaps=[(START + DAY, kind) for kind in mishaps])
        past = Past(fitted(item), made)
        return next(s for s in assess(part, item, past=past, context=ran) if s.action is action)

    def test_brings_the_wheels_forward(self):
        for school in School:
            with self.subTest(school):
                self.assertFalse(self.state("wheels", Action.WIPE, mishaps=[], school=school).is_due)
                due = self.state("wheels", Action.WIPE, mishaps=[Mishap.STICKY], school=school)
                self.assertEqual((due.level, fact(due, "mishap").kind), (Level.DUE, Mishap.STICKY))

    def test_of_another_kind_does_not(self):
        self.assertFalse(self.state("wheels", Action.WIPE, mishaps=[Mishap.SHARP]).is_due)

    def test_is_over_when_it_is_done(self):
        done = [(Action.WIPE, START + 2 * DAY)]
        self.assertFalse(self.state("wheels", Action.WIPE, mishaps=[Mishap.STICKY], services=done).is_due)

    def due_on(self, machine, items, fittings, school, mishaps):
        """The tasks that are due a day after everything was new."""
        ran = context(now=START + DAY, school=school, mishaps=mishaps)
        states = assess_machine(machine, Facts(items, fittings=fittings, services=[]), ran)
        return {(state.slot, state.action) for state in states if state.is_due}

    @given(st.sampled_from(sorted(BOOK.archetypes)), st.sampled_from(Mishap), st.sampled_from(School), st.data())
    @examples(30)
    def test_what_is_told_to_be_brought_forward_is_what_falls_due(self, key, mishap, school, data):
        kind = BOOK.archetypes[key]
        features = frozenset(data.draw(st.sets(st.sampled_from([o.key for o in kind.options]))) if kind.options else ())
        harmed = kind.brought_forward(mishap, features, school)
        if harmed and data.draw(st.booleans()):  # the household does without one of them
            slot, action = data.draw(st.sampled_from(harmed))
            off = {key_of(Aspect.RULE, slot.key, action): {"why": "ours", "off": True}}
            kind = tailored(kind, off, BOOK.parts)
        machine, items, fittings = all_new(kind, features)
        happened = [(START + timedelta(hours=3), mishap)]
        before, after = (self.due_on(machine, items, fittings, school, told) for told in ([], happened))
        brought = {(slot.key, action) for slot, action in kind.brought_forward(mishap, features, school)}
        self.assertEqual(after - before, brought)

    def test_every_mishap_harms_something_on_some_machine(self):
        harmed = {m for kind in BOOK.archetypes.values() for s in kind.slots for r in s.rules for m in r.after}
        self.assertEqual(harmed, set(Mishap))
        told = {pickup.mishap for pickup in BOOK.pickups} - {None}
        self.assertEqual(told, set(Mishap))
