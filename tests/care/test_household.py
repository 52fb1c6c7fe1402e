"""The household's answers: loads, what each answer changes, what keeping a machine takes, how a place dries."""

from dataclasses import replace
from math import log
from uuid import UUID

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from care.due.effects import effects
from care.due.upkeep import WEEKS, if_it_ran, upkeep
from care.due.usage import Pace
from care.errors import InvalidValue
from care.household import DryingPlace, DustSource, Profile, check_area, held_against, load_of
from care.kinds import Archetype, Station
from care.model import Load, Machine
from care.rules import Trigger
from care.vocabulary import Action, LoadKind, Meter, School
from tests.care.world import BOOK, ROBOT, rule, slot, usual_days_trigger

QUILLGATE = Profile(long_haired=2, animals=1, area_m2=220, carpet=0.5, dust=(DustSource.WORKSHOP,))
homes = st.builds(
    Profile,
    long_haired=st.integers(0, 8),
    animals=st.integers(0, 8),
    children=st.integers(0, 8),
    area_m2=st.floats(20, 600),
    carpet=st.floats(0, 1),
    dust=st.sets(st.sampled_from(DustSource)).map(tuple),
)


class Loads(SimpleTestCase):
    @given(homes)
    def test_stay_in_bounds_and_only_grow_with_what_brings_dirt(self, home):
        load = load_of(home)
        for more in (
            replace(home, long_haired=home.long_haired + 1),
            replace(home, animals=home.animals + 1),
            replace(home, children=home.children + 1),
            replace(home, area_m2=home.area_m2 * 1.5),
            replace(home, carpet=min(1, home.carpet + 0.2)),
            replace(home, dust=tuple(DustSource)),
        ):
            for kind in LoadKind:
                self.assertGreaterEqual(load_of(more).of(kind), load.of(kind))

    def test_of_nobody_with_hair_no_carpet_and_no_dust_are_none(self):
        bare = Profile(long_haired=0, carpet=0.0)
        self.assertEqual((load_of(bare).hair, load_of(bare).dust), (0, 0))

    def test_answers_out_of_bounds_name_their_field(self):
        for field, value in {"long_haired": -1, "animals": 99, "area_m2": 2, "carpet": 1.2}.items():
            with self.subTest(field), self.assertRaises(InvalidValue) as refused:
                Profile(**{field: value})
            self.assertEqual(refused.exception.field, field)
        with self.assertRaises(InvalidValue) as refused:
            Profile(places=(DryingPlace("Loft", 20, 50), DryingPlace("loft ", 10, 50)))
        self.assertEqual(refused.exception.field, "places.name")

    def test_square_feet_typed_as_square_metres_are_asked_about(self):
        for typed, unit in ((650, "m2"), (60, "sq_ft")):
            with self.subTest(typed=typed), self.assertRaises(InvalidValue) as refused:
                check_area(typed, unit)
            self.assertEqual((refused.exception.field, refused.exception.values["unit_check"]), ("area", True))
        self.assertEqual(check_area(90, "m2"), 90)
        self.assertAlmostEqual(check_area(1000, "sq_ft"), 92.9, 1)


class WhatAnAnswerChanges(SimpleTestCase):
    def machine(self, a_rule):
        stations = (Station("here", "bin", "here"),)
        kind = Archetype("kind", "Kind", 1, "plug-out", "", 30, stations, (slot(a_rule),))
        return Machine(UUID(int=1), "Robot", kind, {})

    def test_is_the_interval_before_and_after(self):
        """Load places 7 to 14 days: 14 with none, 14 * 0.5**0.8 = 8.04 with two long-haired people and an animal."""
        roller = self.machine(rule(Action.DE_HAIR, usual_days_trigger(7, 14), moved_by=LoadKind.HAIR))
        without = dict(held_against(QUILLGATE))["long_haired"]
        self.assertEqual(load_of(without).hair, 0.5)
        [found] = effects(Load(hair=0.0), load_of(QUILLGATE), [roller], School.WORKSHOP)
        self.assertEqual((found.before, round(found.after, 2), found.meter), (14, 8.04, Meter.DAYS))

    def test_is_in_every_school_and_nothing_where_another_load_moves_it(self):
        roller = self.machine(rule(Action.DE_HAIR, usual_days_trigger(7, 14), moved_by=LoadKind.HAIR))
        for school in School:
            [found] = effects(Load(hair=0.0), Load(hair=1.0), [roller], school)
            self.assertEqual((found.before, found.after), (14, 7))
        self.assertEqual(effects(Load(dust=0.0), Load(dust=1.0), [roller], School.WORKSHOP), [])

    def test_stands_by_its_size_whatever_way_it_goes(self):
        sizes = {Action.WASH: (6, 7), Action.REPLACE: (5, 20), Action.CLEAN: (7, 14)}
        made = [rule(action, usual_days_trigger(*days), moved_by=LoadKind.HAIR) for action, days in sizes.items()]
        kind = replace(self.machine(made[0]).archetype, slots=(slot(*made),))
        for before, after in ((0.0, 1.0), (1.0, 0.0)):
            told = effects(Load(hair=before), Load(hair=after), [Machine(UUID(int=1), "Robot", kind, {})], School.LABEL)
            self.assertEqual([one.action for one in told], [Action.REPLACE, Action.CLEAN, Action.WASH])
            self.assertAlmostEqual(told[0].size, log(4))

    def test_only_answers_that_say_something_are_held_against_none(self):
        self.assertEqual([name for name, _ in held_against(Profile(long_haired=0, carpet=0.0, area_m2=50))], [])


class Upkeep(SimpleTestCase):
    def test_counts_each_task_by_its_first_trigger_and_an_opening_once(self):
        """5 h a week: 150 h come after 30 weeks, the 182 days that it ages after 26, so 2.01 filters a year."""
        told = upkeep(ROBOT, frozenset(), Pace(5.0, 5.0), Load(), School.LABEL)
        self.assertAlmostEqual(told.uses_up["Filter"], WEEKS / 26, 2)
        self.assertAlmostEqual(told.minutes_a_run * told.runs_a_year, told.minutes_a_year)
        more = upkeep(ROBOT, frozenset(), Pace(10.0, 10.0), Load(), School.LABEL)
        self.assertGreater(more.minutes_a_week, told.minutes_a_week)

    def test_run_less_often_it_takes_less_but_not_in_proportion(self):
        """A quarter of the runs: dust and what ages stay, so more than a quarter of the minutes stays."""
        daily, second, third, fourth = if_it_ran(ROBOT, frozenset(), Pace(5.0, 7.0), Load(), School.LABEL)
        now = upkeep(ROBOT, frozenset(), Pace(5.0, 7.0), Load(), School.LABEL)
        self.assertEqual((daily.days, daily.takes), (1, now))
        minutes = [one.takes.minutes_a_year for one in (daily, second, third, fourth)]
        self.assertEqual(minutes, sorted(minutes, reverse=True))
        self.assertTrue(1 / 4 < minutes[3] / minutes[0] < 0.9, minutes)
        self.assertEqual(if_it_ran(ROBOT, frozenset(), Pace(0.0, 0.0), Load(), School.LABEL), [])

    def test_of_dirt_as_much_comes_in_however_often_it_runs_but_hair_winds_up_by_the_hour(self):
        by_dust = rule(Action.WASH, Trigger(Meter.RUNS, 10, 10), moved_by=LoadKind.DUST)
        by_hair = rule(Action.DE_HAIR, Trigger(Meter.RUNS, 10, 10), moved_by=LoadKind.HAIR)
        for one, share in ((by_dust, 1.0), (by_hair, 0.25)):
            kind = Archetype("k", "K", 1, "plug-out", "", 30, (Station("here", "bin", "here"),), (slot(one),))
            daily, *_, fourth = if_it_ran(kind, frozenset(), Pace(5.0, 7.0), Load(), School.LABEL)
            self.assertAlmostEqual(fourth.takes.minutes_a_year / daily.takes.minutes_a_year, share)

    def test_of_every_kind_is_told_and_of_one_that_never_runs_only_what_ages(self):
        for kind in BOOK.archetypes.values():
            with self.subTest(kind.key):
                busy = upkeep(kind, frozenset(), Pace(4.0, 6.0), Load(), School.LABEL)
                idle = upkeep(kind, frozenset(), Pace(0.0, 0.0), Load(), School.LABEL)
                more = busy.minutes_a_year - idle.minutes_a_year
                self.assertTrue(more > 0 or (kind.serves and more == 0), "a dock may have only what ages")
                self.assertEqual(idle.minutes_a_run, 0)

    def test_a_task_after_a_mishap_is_not_foreseen(self):
        sticky = replace(rule(Action.WIPE, Trigger(Meter.CONDITION)), after=("sticky",))
        kind = Archetype("k", "K", 1, "plug-out", "", 30, (Station("here", "bin", "here"),), (slot(sticky),))
        self.assertEqual(upkeep(kind, frozenset(), Pace(5, 5), Load(), School.LABEL).minutes_a_year, 0)
