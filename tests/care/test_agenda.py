"""What waits, and where looking first pays."""

from dataclasses import replace
from datetime import timedelta
from uuid import UUID

from django.test import SimpleTestCase

from care.due import Past, agenda, assess
from care.due.agenda import Task
from care.errors import InvalidValue
from care.model import Inspection, Load, NotKnown, PutOff, check_wait
from care.vocabulary import Action, Consequence, Found, Meter, School
from tests.care.world import DAY, ROBOT, START, context, fitted, new_item, runs

TODAY = START.date()


class Waiting(SimpleTestCase):
    def task(self, **more):
        item, _ = new_item()
        ran = context(runs(8), now=START + 9 * DAY, school=School.LABEL)
        states = assess(ROBOT.slot("filter"), item, past=Past(fitted(item)), context=ran)
        return Task(UUID(int=1), ROBOT, next(s for s in states if s.action is Action.WASH), **more)

    def test_takes_a_task_and_its_minutes_off_the_list_but_keeps_it_in_sight(self):
        due, wait = self.task(), self.task(put_off=PutOff("filter", Action.WASH, TODAY, "no time"))
        self.assertEqual((len(agenda([due]).due), agenda([due]).minutes), (1, 3.5))
        work = agenda([wait])
        self.assertEqual((work.due, work.minutes, len(work.put_off)), ((), 0, 1))

    def test_says_what_is_spared_while_small_ones_wait(self):
        wash = self.task()
        small = replace(
            wash, state=replace(wash.state, slot="side-brush", action=Action.DE_HAIR, stake=Consequence.PICK_UP)
        )
        work = agenda([small, wash])
        self.assertEqual([task.small for task in work.due], [False, True])
        self.assertAlmostEqual(work.minutes - work.small_min, agenda([wash]).minutes)
        self.assertGreater(work.small_min, 0)
        seen = replace(
            small, state=replace(small.state, clocks=(replace(small.state.clocks[0], meter=Meter.CONDITION),))
        )
        self.assertFalse(seen.small, "what somebody just found is not small")

    def test_needs_a_reason_an_end_and_a_task_that_may_wait(self):
        def check(reason="no time", days=7, stake=Consequence.MOTOR):
            check_wait(PutOff("filter", Action.WASH, TODAY + timedelta(days=days), reason), stake, today=TODAY)

        check()
        for field, values in {
            "reason": {"reason": " "},
            "until": {"days": 61},
            "action": {"stake": Consequence.SAFETY},
        }.items():
            with self.subTest(field), self.assertRaises(InvalidValue) as refused:
                check(**values)
            self.assertEqual(refused.exception.field, field)
        with self.assertRaises(InvalidValue):
            check(days=0)


class LookFirst(SimpleTestCase):
    """A wash that puts the filter on the rack for a day is worth a look where the look may spare it."""

    def first(self, days, school, looks=0, unknown=False, load=None):
        item, _ = new_item()
        seen = [
            Inspection(item.id, "filter", Action.WASH, Found.DUE, START + timedelta(days=n, hours=5))
            for n in range(1, looks + 1)
        ]
        told = [NotKnown(item.id, "filter", START)] if unknown else []
        past = Past([replace(f, slot="filter") for f in fitted(item)], (), seen, unknowns=told)
        ran = context(runs(days), now=START + timedelta(days=days), school=school, load=load)
        states = assess(ROBOT.slot("filter"), item, past=past, context=ran)
        return Task(UUID(int=1), ROBOT, next(s for s in states if s.action is Action.WASH)).look_first

    def test_pays_while_the_part_s_own_pace_is_hardly_known(self):
        self.assertTrue(self.first(7, School.WORKSHOP))
        self.assertFalse(self.first(7, School.WORKSHOP, looks=4))
        self.assertFalse(self.first(2, School.WORKSHOP), "it is not due yet")
        self.assertFalse(self.first(40, School.WORKSHOP), "so far gone that a look spares nothing")

    def test_pays_by_the_label_as_long_as_the_home_s_load_keeps_it_under_the_longer_print(self):
        self.assertTrue(self.first(7, School.LABEL))
        self.assertFalse(self.first(17, School.LABEL, load=Load(dust=0)), "14 days as printed: a look spares nothing")
        self.assertTrue(self.first(1, School.LABEL, unknown=True, load=Load(dust=0)))
