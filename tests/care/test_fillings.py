"""Bags and bins: litres and weeks from a known container, and how they fill by the due engine's own belief."""

from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from care.due import Facts, assess, assess_machine
from care.due.containers import Container, OtherContainer, told_filling, weeks_full
from care.due.fillings import Band, Filled, filling, holders, usual_miss
from care.due.usage import Pace
from care.errors import InvalidValue
from care.model import Inspection, Load, ServiceRecord, ToldFilling
from care.units import VOLUME
from care.vocabulary import Action, Found, School
from tests.care.world import BOOK, DAY, START, all_new, context, fact, runs
from tests.effort import examples

BAG = Container(2.4)
DAILY = Pace(50 / 60 * 7, 7)
MIDDLE = Load().volume


class Litres(SimpleTestCase):
    def test_units_are_us_liquid_ones(self):
        for value, unit, expected in ((1, "L", 1), (1, "qt", 0.946), (1, "gal", 3.785), (4, "cup", 0.946)):
            self.assertAlmostEqual(VOLUME.accepted(value, unit), expected, places=3)

    def test_there_and_back(self):
        for unit in ("L", "qt", "gal", "cup"):
            self.assertAlmostEqual(VOLUME.in_unit(VOLUME.accepted(2.6, unit), unit), 2.6)

    def test_a_unit_nobody_knows_or_a_volume_nobody_has_is_refused_by_name(self):
        for value, unit, field in ((1, "pint", "unit"), (1, "", "unit"), (0, "L", "volume"), (90, "gal", "volume")):
            with self.subTest(value, unit=unit), self.assertRaises(InvalidValue) as told:
                VOLUME.accepted(value, unit)
            self.assertEqual(told.exception.field, field)

    def test_a_cup_of_2_6_quarts_filled_in_two_weeks_and_a_bag_of_2_4_litres(self):
        cup = OtherContainer(VOLUME.accepted(2.6, "qt"), weeks=2)
        self.assertAlmostEqual(cup.litres_per_week, 1.23, places=2)
        self.assertAlmostEqual(weeks_full(BAG, cup.litres_per_week), 1.76, places=2)
        pressed = OtherContainer(VOLUME.accepted(2.6, "qt"), weeks=2, pressed=1.5)
        self.assertAlmostEqual(told_filling(BAG, pressed, DAILY, 0.5).weeks, 2.63, places=2)

    def test_a_size_alone_or_a_machine_that_did_not_run_tells_no_time(self):
        self.assertIsNone(told_filling(BAG, None, DAILY, 0.5))
        self.assertIsNone(told_filling(BAG, OtherContainer(1.0, 1.0), Pace(0, 0), 0.5))


class FillingCase(SimpleTestCase):
    def stands(self, kind, days, *, told=None, looks=(), emptied=(), school=School.WORKSHOP, load=None):
        """How a kind's container fills after `days` of daily runs: what tells of it, and the state of its task."""
        machine, items, fittings = all_new(BOOK.archetypes[kind])
        [(slot, rule)] = holders(machine.archetype, machine.features)
        item = items[machine.fitted[slot.key]]
        facts = Facts(
            items,
            fittings=fittings,
            services=[ServiceRecord(item.id, slot.key, rule.action, START + n * DAY) for n in emptied],
            inspections=[Inspection(item.id, slot.key, rule.action, f, START + n * DAY) for n, f in looks],
        )
        given_told = {slot.key: told} if told else {}
        now = START + days * DAY
        circumstances = context(runs(days), now=now, school=school, load=load, told=given_told)
        past = facts.of(slot.key, item.id)
        states = assess(slot, item, past=past, context=circumstances)
        [task] = [state for state in states if state.action is rule.action]
        return filling(rule, slot, item, past, circumstances), task

    def told(self, weeks):
        return ToldFilling(weeks, DAILY.hours_per_week, DAILY.runs_per_week, MIDDLE)


class WhatIsTold(FillingCase):
    def test_becomes_the_figure_of_the_task(self):
        for kind, weeks in (("canister-bagged", 1.5), ("dock-bag", 8.0), ("dock-bin", 3.0)):
            found, task = self.stands(kind, 30, told=self.told(weeks))
            with self.subTest(kind):
                self.assertAlmostEqual(found.weeks, weeks, places=3)
                self.assertEqual(fact(task, "told_filling").weeks, weeks)
                self.assertAlmostEqual(found.weeks_since, 30 / 7, places=3)

    def test_stands_at_the_pace_and_the_load_of_its_time(self):
        bag = self.told(2.0)
        at_half = replace(bag, hours_per_week=bag.hours_per_week / 2, runs_per_week=bag.runs_per_week / 2)
        self.assertAlmostEqual(self.stands("canister-bagged", 30, told=at_half)[0].weeks, 1.0, places=3)
        quiet = replace(bag, index=0.0)
        self.assertAlmostEqual(self.stands("canister-bagged", 30, told=quiet)[0].weeks, 1.0, places=1)  # 12 h to 6 h

    @given(st.sampled_from(["canister-bagged", "dock-bag", "dock-wash", "upright-belt"]), st.floats(0.2, 40), st.data())
    @examples(25)
    def test_the_school_s_bound_stays_the_book_s(self, kind, weeks, data):
        school = data.draw(st.sampled_from(School))
        _, told = self.stands(kind, 10, told=self.told(weeks), school=school)
        _, book = self.stands(kind, 10, school=school)
        self.assertLessEqual(fact(told, "trigger").figure, fact(book, "trigger").cap + 1e-6)

    def test_a_school_s_habit_moves_the_date_not_the_dust(self):
        shop, shop_task = self.stands("upright-belt", 2, told=self.told(2.0))
        label, _ = self.stands("upright-belt", 2, told=self.told(2.0), school=School.LABEL)
        self.assertEqual((shop.weeks, shop.share), (label.weeks, label.share))
        self.assertLess(shop.share, shop_task.share)  # emptied after every use or two, whatever the level


class WhatIsFound(FillingCase):
    def test_half_full_after_twelve_days_says_full_after_about_twenty_four(self):
        looks = [(n, Found.LIGHT) for n in range(12, 240, 24)]
        emptied = [n + 12 for n, _ in looks]
        found, _ = self.stands("dock-bin", 241, told=self.told(2.0), looks=looks, emptied=emptied)
        self.assertAlmostEqual(found.weeks * 7, 24, delta=4)

    def test_each_full_bag_brings_the_rate_nearer_and_the_band_in(self):
        errors, bands = [], []
        for bags in range(4):
            days = [21 * n for n in range(1, bags + 1)]
            looks = [(n, Found.DUE) for n in days]
            found, _ = self.stands("dock-bin", 64, told=self.told(1.76), looks=looks, emptied=[n + 0.01 for n in days])
            errors.append(abs(found.weeks - 3))
            bands.append(found.a_week.p90 / found.a_week.p10)
        self.assertEqual(errors[:3], sorted(errors[:3], reverse=True))
        self.assertLess(errors[1] / 3, 0.25)
        self.assertEqual(bands, sorted(bands, reverse=True))

    def test_seen_half_full_it_is_no_fuller_than_that_says(self):
        found, _ = self.stands("dock-bin", 60, told=self.told(4.0), looks=[(59, Found.LIGHT)])
        self.assertLess(found.share, 0.8)
        unseen, _ = self.stands("dock-bin", 60, told=self.told(4.0))
        self.assertAlmostEqual(unseen.share, 60 / 28, places=2)

    def test_the_log_holds_each_filling_against_what_was_foreseen_when_it_began(self):
        looks, emptied = [(21, Found.DUE)], [21.01, 35]
        first, second = self.stands("dock-bin", 40, told=self.told(1.76), looks=looks, emptied=emptied)[0].log
        self.assertAlmostEqual(first.expected.p50, 1.76, places=2)
        self.assertAlmostEqual(first.off_by, 3 / 1.76, places=1)
        self.assertGreater(second.expected.p50, first.expected.p50)
        self.assertIsNone(second.off_by)
        self.assertLess(second.expected.p90 / second.expected.p10, first.expected.p90 / first.expected.p10)

    def test_missed_by_twice_and_by_half_is_missed_alike(self):
        expected = Band(3.0, 4.0, 5.0)
        twice, half, untold = (
            Filled(START, START, weeks, found, expected) for weeks, found in ((8, Found.DUE), (2, Found.DUE), (3, None))
        )
        self.assertAlmostEqual(usual_miss([twice]), 1.0)
        self.assertAlmostEqual(usual_miss([half, twice, untold]), 1.0)
        self.assertIsNone(usual_miss([untold]))


class LooksComeFirst(SimpleTestCase):
    @given(st.sampled_from(sorted(BOOK.archetypes)), st.sampled_from(School), st.integers(1, 400), st.floats(0, 1))
    @examples(30)
    def test_no_look_is_proposed_after_the_work_it_could_spare(self, kind, school, days, load):
        machine, items, fittings = all_new(BOOK.archetypes[kind])
        circumstances = context(
            runs(days, minutes=40), now=START + days * DAY, school=school, load=Load(load, load, load)
        )
        due = assess_machine(machine, Facts(items, fittings=fittings, services=()), circumstances)
        by_task = {(state.slot, state.action): state for state in due}
        for slot in machine.archetype.slots:
            for rule in slot.rules:
                look, work = (by_task.get((slot.key, action)) for action in (rule.action, rule.about))
                if rule.about and look and work and look.due and work.due:
                    self.assertLessEqual(look.due.p50, work.due.p50, (slot.key, rule.about))


class WhoEmpties(SimpleTestCase):
    def test_bags_and_bins_that_a_person_empties(self):
        for kind, features, expected in (
            ("dock-bag", frozenset(), [("bag", Action.REPLACE)]),
            ("robot-two-roller", frozenset(), [("bin", Action.EMPTY)]),
            ("robot-two-roller", frozenset({"self-emptying"}), []),
            ("dock-charge", frozenset(), []),
        ):
            with self.subTest(kind, features=features):
                found = [(slot.key, rule.action) for slot, rule in holders(BOOK.archetypes[kind], features)]
                self.assertEqual(found, expected)
