"""Seasons: visits on the days a household likes, what is weighed, what cannot be met, what was asked of them."""

from dataclasses import replace
from datetime import date, time, timedelta
from itertools import product
from unittest.mock import patch
from uuid import UUID

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from care.due import Facts, assess_machine
from care.season import (
    Barred,
    Chore,
    ChoreKey,
    Circumstances,
    DueNow,
    Hands,
    InStock,
    NotOn,
    Pin,
    Weights,
    Wishes,
    chores_of,
    plan,
    spared_min,
    waits,
)
from care.season.chore import Waits
from care.season.compare import on_own_dates
from care.season.days import days_of
from care.season.minutes import Took, pace_of
from care.season.model import SEASON_DAYS, Day, Helps
from care.season.score import hands_on_min, score
from care.season.search import OVER_FULL, Joint
from care.season.solve import WORTH_MOVING, _best, solve
from care.season.ways import Asked, nodes_of
from care.season.weights import STRICT
from care.vocabulary import Action, Consequence, Skill
from tests.care.world import BOOK, DAILY_BUT_SUNDAY, DAY, START, WASHABLE, all_new, context, runs
from tests.effort import examples

TODAY = date(2026, 11, 26)
"""A Thursday."""
US = Wishes((Hands("us", ("TH", "SA"), 60),))


def chore(every=14.0, *, slot="part", machine=1, action=Action.CLEAN, stake=Consequence.PICK_UP, gone=0.0, **more):
    """A task that comes again every so many days."""
    growth = np.arange(SEASON_DAYS + 1)[None, :] / every
    key = ChoreKey(UUID(int=machine), slot, action)
    return Chore(key, stake, more.pop("effort", 3.0), gone, growth, **more)


def dates_of(season, one):
    """The days on which a plan has a chore."""
    return [v.day.date for v in season.visits if any(job.chore.key == one.key for job in v.jobs)]


some_chores = st.lists(
    st.builds(
        lambda n, every, stake, gone, effort, opened: (n, every, stake, gone, effort, opened),
        st.integers(1, 3),
        st.floats(6, 90),
        st.sampled_from(list(Consequence)),
        st.floats(0, 1.4),
        st.floats(0.5, 12),
        st.sampled_from([None, "lid", "cowl"]),
    ),
    min_size=1,
    max_size=7,
)


def made(told):
    """Chores of a drawn list, each with a place of its own."""
    return [
        chore(every, slot=f"s{i}", machine=n, stake=stake, gone=gone, effort=effort, opening=way,
              opening_min=2.0 if way else 0.0)
        for i, (n, every, stake, gone, effort, way) in enumerate(told)
    ]  # fmt: skip


class WhatItTakes(SimpleTestCase):
    def test_an_opening_counts_once_a_visit_and_a_visit_once(self):
        two = [chore(slot=slot, opening="lid", opening_min=4.0) for slot in ("a", "b")]
        self.assertEqual(10.0, hands_on_min(two))
        takes = score(two, {one.key: [7, 20] for one in two}, Weights(visit_min=6, machine_min=1))
        self.assertEqual((2, 20.0, 14.0), (takes.visits, takes.minutes, takes.ready_min))
        self.assertAlmostEqual(2 * (7 / 14 + 1 / 14) * 3.0, takes.early_min)

    def test_what_is_past_its_date_counts_in_days_and_in_intervals(self):
        one = chore(10, gone=0.5)
        takes = score([one], {one.key: [9]}, Weights())
        late = takes.late_days[Consequence.PICK_UP]
        first = sum(0.5 + n / 10 > 1 + 1e-9 for n in range(9))
        self.assertEqual(first + SEASON_DAYS - 9 - 10 - 1, late)

    def test_what_covers_another_sets_it_back_without_its_work(self):
        look = chore(10, action=Action.INSPECT)
        wash = chore(40, action=Action.WASH, covers=frozenset({look.key}))
        season = plan([look, wash], US, TODAY, effort=0)
        shared = set(dates_of(season, look)) & set(dates_of(season, wash))
        self.assertEqual(set(), shared)

    @given(some_chores, st.integers(0, 2**32 - 1))
    @examples(25)
    def test_the_search_weighs_as_the_count_does(self, told, seed):
        chores, days = made(told), days_of(US, TODAY)
        joint = Joint(chores, days, Weights(), Asked())
        on = joint.settle(np.random.default_rng(seed).random((len(chores), len(days))) < 0.3, (False,))
        doing = {one.key: [days[n - 1].index for n in nodes_of(on[t])] for t, one in enumerate(chores)}
        takes = score(chores, doing, Weights())
        full = np.maximum(0, joint.load(on) - 60).sum() * OVER_FULL
        extra = joint.weigh(on) - takes.cost(Weights()) - full
        rest = extra % 10  # what is too soon or too long weighs whole tens besides
        self.assertAlmostEqual(0, min(rest, 10 - rest), places=3)


class ThePlan(SimpleTestCase):
    @given(some_chores)
    @examples(15)
    def test_where_much_is_at_stake_nothing_waits_too_long_untold(self, told):
        chores = made(told)
        season = plan(chores, US, TODAY, effort=0)
        named = {one.chore.key for one in season.unmet}
        limits = Weights().latest
        for visit in season.visits:
            for job in visit.jobs:
                if job.chore.stake in STRICT and job.chore.key not in named:
                    self.assertLessEqual(job.share, max(limits[job.chore.stake], job.chore.gone) + 1e-6)

    @given(some_chores)
    @examples(10)
    def test_it_costs_no_more_than_each_on_its_own_date_and_its_bound_holds(self, told):
        chores, weights = made(told), Weights()
        days = days_of(Wishes((Hands("us", ("MO", "TU", "WE", "TH", "FR", "SA", "SU"), 480),)), TODAY)
        solved = solve(chores, days, weights, Asked(), 0.0)
        self.assertLessEqual(solved.bound, solved.cost + 1e-6)
        soft = [one for one in chores if one.stake not in STRICT]
        own = score(soft, on_own_dates(soft), weights).cost(weights) if soft else np.inf
        if len(soft) == len(chores):
            self.assertLessEqual(solved.cost, own * 1.02 + 1e-6)

    @given(
        st.lists(
            st.tuples(st.floats(5, 25), st.sampled_from(list(Consequence)), st.floats(0, 1)), min_size=2, max_size=2
        )
    )
    @examples(12)
    def test_no_way_at_all_is_better_than_the_bound_and_ours_is_near_the_best(self, told):
        chores = [
            chore(every, slot=f"s{n}", stake=stake, gone=gone, opening="lid", opening_min=3.0)
            for n, (every, stake, gone) in enumerate(told)
        ]
        days = [Day(n, TODAY + timedelta(days=n), {Skill.STRIP_DOWN: 60.0}) for n in range(0, 35, 7)]
        joint = Joint(chores, days, Weights(), Asked())
        every = [np.array(bits, dtype=bool).reshape(2, 5) for bits in product((0, 1), repeat=10)]
        least = min(joint.weigh(on) for on in every)
        solved = solve(chores, days, Weights(), Asked(), 1.0)
        self.assertLessEqual(solved.bound, least + 1e-6)
        self.assertAlmostEqual(least, solved.cost, delta=0.3)  # the solver counts in tenths

    def test_the_same_question_gives_the_same_answer(self):
        chores = [chore(8 + 3 * n, slot=f"s{n}", machine=1 + n % 3) for n in range(12)]
        one, other = (plan(chores, US, TODAY) for _ in range(2))
        self.assertEqual(
            [(v.day.date, [j.chore.key for j in v.jobs]) for v in one.visits],
            [(v.day.date, [j.chore.key for j in v.jobs]) for v in other.visits],
        )

    def test_visits_fall_on_the_days_that_were_told_and_not_on_barred_ones(self):
        barred = Barred(date(2026, 12, 7), date(2026, 12, 20), "visitors")
        season = plan([chore(9), chore(20, slot="b")], Wishes(US.hands, (barred,)), TODAY, effort=0)
        for visit in season.visits:
            self.assertIn(visit.day.date.weekday(), (3, 5))
            self.assertFalse(barred.holds(visit.day.date))

    def test_what_comes_too_often_for_the_days_stands_between_them(self):
        daily, little = chore(1.5, slot="a"), chore(9, slot="b", effort=1.0)
        season = plan([daily, little, chore(30, slot="c")], US, TODAY, effort=0)
        self.assertEqual({"a", "b"}, {one.chore.key.slot for one in season.between})
        self.assertAlmostEqual(SEASON_DAYS / 1.5, season.between[0].times)

    def test_a_year_without_a_day_and_days_without_minutes_are_told_and_break_nothing(self):
        motor = chore(20, stake=Consequence.MOTOR)
        blocked = Wishes(US.hands, (Barred(TODAY, TODAY + timedelta(days=400), "away"),))
        season = plan([motor], blocked, TODAY)
        self.assertEqual((), season.visits)
        [unmet] = season.unmet
        self.assertEqual((Helps.ANOTHER_DAY, None, None), (unmet.way, unmet.done_on, unmet.on))
        short = plan([chore(20, stake=Consequence.MOTOR, effort=30)], Wishes((Hands("us", ("TH",), 10),)), TODAY)
        self.assertTrue(short.visits)
        self.assertGreater(short.visits[0].minutes, 10)

    def test_drying_is_begun_where_no_run_is_missed(self):
        missed = tuple(2 if (TODAY + timedelta(days=n)).weekday() == 3 else 0 for n in range(SEASON_DAYS + 1))
        wash = chore(20, action=Action.WASH, missed=missed)
        season = plan([wash], US, TODAY, effort=0)
        self.assertEqual({5}, {day.weekday() for day in dates_of(season, wash)})
        self.assertEqual(0, season.score.missed_runs)

    def test_what_waits_for_an_order_is_not_planned_before_it_comes(self):
        late = chore(60, gone=1.1, stake=Consequence.MOTOR, not_before=8, waits=Waits.ORDER)
        season = plan([late], US, TODAY, effort=0)
        self.assertEqual(date(2026, 12, 5), dates_of(season, late)[0])
        self.assertEqual((Helps.WAIT, date(2026, 12, 4)), (season.unmet[0].way, season.unmet[0].on))

    def test_who_goes_not_far_enough_is_not_given_it(self):
        deep = chore(30, skill=Skill.STRIP_DOWN, slot="deep")
        hands = (Hands("us", ("TH",), 60, Skill.MODULES), Hands("Ada", ("SA",), 30, Skill.STRIP_DOWN))
        season = plan([deep, chore(20)], Wishes(hands), TODAY, effort=0)
        self.assertEqual({5}, {day.weekday() for day in dates_of(season, deep)})
        alone = plan([deep], Wishes(hands[:1]), TODAY, effort=0)
        self.assertEqual((deep,), alone.handed_over)


class WhatIsAsked(SimpleTestCase):
    def setUp(self):
        self.chores = [chore(10 + 4 * n, slot=f"s{n}", machine=1 + n % 2, gone=0.3) for n in range(6)]
        self.before = plan(self.chores, US, TODAY, effort=0)

    def days_before(self):
        return {one.key: dates_of(self.before, one) for one in self.chores}

    def test_nothing_moves_when_nothing_changed(self):
        again = plan(self.chores, US, TODAY, before=self.days_before(), effort=0)
        self.assertEqual((), again.moved)
        self.assertEqual(self.days_before(), {one.key: dates_of(again, one) for one in self.chores})

    def test_a_new_plan_is_not_looked_for_where_none_could_take_the_last_ones_place(self):
        before, later = self.days_before(), TODAY + timedelta(days=1)
        with patch("care.season.solve._best", wraps=_best) as looked_for:
            kept = plan(self.chores, US, later, before=before)
            looked_for.assert_not_called()
            self.assertGreaterEqual(kept.bound, WORTH_MOVING * kept.cost)
            with patch("care.season.solve.WORTH_MOVING", 1.1):
                found = plan(self.chores, US, later, before=before)
            looked_for.assert_called_once()
            self.assertGreaterEqual(found.cost, WORTH_MOVING * kept.cost)

    def test_a_visit_goes_where_it_is_put_and_little_else_moves(self):
        visit = self.before.visits[1]
        there = visit.day.date + timedelta(days=1)
        pin = Pin(there, frozenset(job.chore.key for job in visit.jobs))
        season = plan(self.chores, Wishes(US.hands, pins=(pin,)), TODAY, before=self.days_before(), effort=0)
        moved = next(v for v in season.visits if v.day.date == there)
        self.assertLessEqual(pin.chores, {job.chore.key for job in moved.jobs})
        self.assertLessEqual(len(season.moved), 3)

    def test_pins_that_contradict_something_are_told_and_the_later_word_counts(self):
        [key] = {self.chores[0].key}
        barred = Barred(date(2026, 12, 1), date(2026, 12, 8), "away")
        pins = (Pin(date(2026, 12, 3), frozenset({key})), Pin(date(2026, 12, 10), frozenset({key})),
                Pin(date(2026, 12, 12), frozenset({key})))  # fmt: skip
        season = plan(self.chores, Wishes(US.hands, (barred,), pins), TODAY, effort=0)
        self.assertIn(date(2026, 12, 12), dates_of(season, self.chores[0]))
        self.assertEqual(["away", "later"], [why for _, why in season.dropped])

    def test_what_was_left_out_on_days_is_not_there(self):
        first = dates_of(self.before, self.chores[0])[0]
        no = NotOn(self.chores[0].key, first, first + timedelta(days=3))
        season = plan(self.chores, Wishes(US.hands, left_out=(no,)), TODAY, effort=0)
        self.assertFalse([day for day in dates_of(season, self.chores[0]) if no.first <= day <= no.last])


class WhatWaitsForItsVisit(SimpleTestCase):
    def test_small_ones_of_a_later_day_wait_and_spare_their_opening_only_together(self):
        a, b, c, d = (ChoreKey(UUID(int=1 + n // 3), f"s{n}", Action.CLEAN) for n in range(4))
        comes_on = {a: TODAY + DAY, b: TODAY + 3 * DAY, c: TODAY + DAY, d: TODAY}
        due = [DueNow(a, True, False, 3.0), DueNow(b, True, False, 4.0), DueNow(d, True, False, 2.0)]
        whole = {UUID(int=1): 9.0, UUID(int=2): 5.0}
        waiting = waits(due, comes_on, TODAY)
        self.assertEqual({a: TODAY + DAY, b: TODAY + 3 * DAY}, waiting)
        self.assertEqual(9.0, spared_min(due, waiting, whole))
        taken = [replace(due[0], taken_on=True), *due[1:], DueNow(c, False, False, 8.0)]
        waiting = waits(taken, comes_on, TODAY)
        self.assertEqual({b}, set(waiting))
        self.assertEqual(4.0, spared_min(taken, waiting, whole))


class FromDueStates(SimpleTestCase):
    @given(st.sampled_from(sorted(BOOK.archetypes)), st.integers(0, 60))
    @examples(12)
    def test_a_chore_comes_to_its_date_on_the_day_that_is_forecast(self, kind, days):
        machine, items, fittings = all_new(WASHABLE[kind])
        now = START + days * DAY
        there = context(runs(days), now=now, schedule=DAILY_BUT_SUNDAY)
        states = assess_machine(machine, Facts(items, fittings=fittings, services=()), there)
        expected = {(s.slot, s.action): s for s in states}
        for one in chores_of(machine, states, there, Circumstances()):
            state = expected[one.key.slot, one.key.action]
            ahead = (state.due.p50 - there.today).days
            if 0 < ahead < SEASON_DAYS and not state.is_due and one.gone > 0:
                self.assertAlmostEqual(1.0, one.first(ahead), places=6)
            self.assertFalse(machine.archetype.slot(one.key.slot).for_repairer(one.key.action))

    def test_a_wash_without_a_spare_counts_the_runs_it_misses_and_with_one_none(self):
        machine, items, fittings = all_new(WASHABLE["robot-two-roller"])
        there = context(runs(5), now=START + 5 * DAY, schedule=DAILY_BUT_SUNDAY)
        states = assess_machine(machine, Facts(items, fittings=fittings, services=()), there)

        def wash(told):
            return next(c for c in chores_of(machine, states, there, told) if c.key[1:] == ("filter", Action.WASH))

        self.assertEqual({0, 1}, set(wash(Circumstances()).missed))  # not when the next day is a Sunday
        self.assertNotEqual(
            wash(Circumstances()).missed,
            wash(Circumstances(at=time(9))).missed,
            "who starts at nine misses that day's run",
        )
        self.assertEqual((), wash(Circumstances(spares=frozenset({"filter"}))).missed)
        self.assertTrue(wash(Circumstances(spares=frozenset({"filter"}))).turns)
        self.assertEqual(1.5 * wash(Circumstances()).effort_min, wash(Circumstances(pace=1.5)).effort_min)

    def test_a_new_part_that_is_not_there_waits_for_its_order_and_has_a_price(self):
        machine, items, fittings = all_new(WASHABLE["robot-two-roller"])
        there = context(runs(5), now=START + 5 * DAY, schedule=DAILY_BUT_SUNDAY)
        states = assess_machine(machine, Facts(items, fittings=fittings, services=()), there)
        told = Circumstances(stock={"side-brush": InStock(0, 6, 450)})
        brush = next(c for c in chores_of(machine, states, there, told) if c.key[1:] == ("side-brush", Action.REPLACE))
        self.assertEqual((6, Waits.ORDER, 450), (brush.not_before, brush.waits, brush.price))


class HowLongItTakes(SimpleTestCase):
    def test_sittings_move_the_books_minutes_and_a_sheet_left_open_does_not(self):
        self.assertGreater(pace_of([Took(20, 30)] * 5).factor, 1.25)
        self.assertEqual((1.0, 0), (lambda pace: (pace.factor, pace.sittings))(pace_of([Took(20, 600), Took(1, 2)])))
