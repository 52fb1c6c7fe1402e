"""Rules into due states: which trigger governs, which clock counts, and what never happens."""

from dataclasses import replace
from datetime import date, timedelta
from uuid import uuid4

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from care.due import Facts, Past
from care.due.intervals import OVERDUE_FROM, WEARING_FROM, assess, assess_machine
from care.due.schedule import Schedule
from care.due.triggers import cap, placed
from care.due.usage import UsageLog
from care.errors import InvalidValue
from care.items import Fitting, Item, Move, MoveKind, State
from care.model import Inspection, Level, Load, Machine, ServiceRecord
from care.moves import replay
from care.rules import Trigger
from care.vocabulary import Action, Calendar, Found, LoadKind, Meter, School
from tests.care.world import (
    DAILY_BUT_SUNDAY,
    DAY,
    MACHINE,
    ROBOT,
    START,
    WASHABLE,
    ageing_trigger,
    context,
    fact,
    fitted,
    hours_trigger,
    new_item,
    one_state,
    rule,
    runs,
    service,
    slot,
    usual_days_trigger,
)


class BehindAGuardThatWasMissed(SimpleTestCase):
    """What lies behind the motor is looked at sooner where the filter before it was left for twice its time."""

    def looks(self, washed_after):
        kind = WASHABLE["upright-belt"]
        items = {s.key: Item(uuid4(), s.part, s.name, State.FITTED, START) for s in kind.slots}
        fittings = [Fitting(item.id, MACHINE, key, START) for key, item in items.items()]
        done = [ServiceRecord(items["foam"].id, "foam", Action.WASH, START + washed_after * DAY)]
        machine = Machine(MACHINE, "Upright", kind, {key: item.id for key, item in items.items()})
        facts = Facts({i.id: i for i in items.values()}, fittings=fittings, services=done)
        told = context(runs(60, minutes=20), now=START + 60 * DAY, school=School.LABEL)
        return {(s.slot, s.action): s for s in assess_machine(machine, facts, told)}

    def test_in_half_its_time_and_says_why(self):
        missed, kept = self.looks(1), self.looks(59)
        self.assertGreaterEqual(missed["foam", Action.WASH].share, 2)
        sooner, usual = missed["exhaust", Action.INSPECT], kept["exhaust", Action.INSPECT]
        self.assertAlmostEqual(sooner.share, 2 * usual.share, places=6)
        self.assertEqual(fact(sooner, "guard_missed").part, "Foam filter")
        self.assertIsNone(fact(usual, "guard_missed"))
        self.assertEqual(missed["exhaust", Action.REPLACE].share, kept["exhaust", Action.REPLACE].share)


class WhicheverComesFirst(SimpleTestCase):
    def test_hours_govern_a_busy_machine_and_days_a_resting_one(self):
        both = rule(Action.WIPE, hours_trigger(30), ageing_trigger(30))
        busy = one_state(both, context(runs(20, minutes=90), now=START + 20 * DAY))
        self.assertEqual(busy.clocks[0].meter, Meter.RUN_HOURS)
        resting = one_state(both, context(runs(2), now=START + 20 * DAY))
        self.assertEqual((resting.clocks[0].meter, resting.clocks[0].used), (Meter.DAYS, 20))

    def test_the_other_triggers_stay_in_the_explanation(self):
        both = rule(Action.WIPE, hours_trigger(30), ageing_trigger(30))
        state = one_state(both, context(runs(2), now=START + 20 * DAY))
        others = fact(state, "other_triggers")
        self.assertEqual([one.meter for one in others.triggers], [Meter.RUN_HOURS, Meter.CONDITION])

    def governs(self, trigger, usage, days=100):
        """The meter that comes first beside so many days, on a machine that runs an hour on weekdays."""
        week = Schedule("RRULE:FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR", 60, mops=True)
        told = context(now=START, schedule=week, usage=usage)
        return one_state(rule(Action.WIPE, trigger, ageing_trigger(days)), told).clocks[0].meter

    def test_the_usual_pace_tells_which_comes_first_whatever_is_counted(self):
        usage = UsageLog(
            runs(20, minutes=60, first=START - 20 * DAY),
            emptied=[START - n * DAY for n in range(1, 11)],  # ten fills in 20 h
            minutes_per_charge=30,
        )
        by_week = {
            Meter.RUN_HOURS: 5,
            Meter.RUNS: 5,
            Meter.EVACUATIONS: 5,
            Meter.MOP_RUNS: 5,
            Meter.CHARGES: 10,
            Meter.FILLS: 2.5,
        }
        for meter, a_week in by_week.items():
            with self.subTest(meter):
                sooner, later = a_week * 14, a_week * 15  # 98 and 105 days
                self.assertEqual(self.governs(Trigger(meter, sooner, sooner), usage), meter)
                self.assertEqual(self.governs(Trigger(meter, later, later), usage), Meter.DAYS)

    def test_a_machine_without_a_battery_takes_no_charges(self):
        self.assertEqual(self.governs(Trigger(Meter.CHARGES, 1, 1), UsageLog(runs(20))), Meter.DAYS)

    def washed(self, times, every):
        """A part washed so often, every so many days, with its fittings."""
        item, moves = new_item()
        for n in range(times):
            at = START + (n + 1) * every * DAY
            moves += [
                Move(MoveKind.TAKE_OUT, at),
                Move(MoveKind.WASH, at, floor_h=24),
                Move(MoveKind.RACK, at),
                Move(MoveKind.RELEASE, at + DAY),
                Move(MoveKind.FIT, at + DAY, MACHINE, "part"),
            ]
        return replay(Item(item.id, "part", "Part"), moves)

    def worn(self, times, every, days):
        item, fittings = self.washed(times, every)
        worn = rule(Action.REPLACE, hours_trigger(150), Trigger(Meter.WASHES, 12, 12))
        [state] = assess(slot(worn), item, past=Past(fittings, []), context=context(now=START + days * DAY))
        return state

    def test_washes_wear_a_part_out_before_its_hours_do(self):
        state = self.worn(12, 3, days=60)
        self.assertEqual((state.level, state.clocks[0].meter), (Level.DUE, Meter.WASHES))

    def test_the_last_wash_it_stands_is_foreseen_by_the_pace_of_those_before(self):
        state = self.worn(6, 10, days=61)
        self.assertEqual(state.clocks[0].meter, Meter.WASHES)
        self.assertAlmostEqual((state.due_on - (START + 61 * DAY).date()).days, 60, delta=4)
        self.assertLess(state.due.p10, state.due.p90)
        self.assertIsNone(self.worn(2, 10, days=21).due)  # two washes tell no pace


class TwoClocks(SimpleTestCase):
    def setUp(self):
        self.clean = rule(Action.WASH, hours_trigger(10))
        self.replace = rule(Action.REPLACE, hours_trigger(150))
        self.item, _ = new_item()
        self.circumstances = context(runs(24), now=START + 30 * DAY)

    def states(self, services):
        both = slot(self.clean, self.replace)
        return assess(both, self.item, past=Past(fitted(self.item), services), context=self.circumstances)

    def test_cleaning_sets_the_service_clock_back_and_leaves_the_life_clock(self):
        dirty, old = self.states([])
        clean, same = self.states([service(self.item, Action.WASH, START + 30 * DAY)])
        self.assertEqual((dirty.clocks[0].used, clean.clocks[0].used), (20, 0))
        self.assertEqual((old.clocks[0].used, same.clocks[0].used), (20, 20))

    def test_a_spare_comes_with_its_own_clock(self):
        """Half the runs with this filter, half with another: it has half the hours."""
        first_half = [
            f.__class__(f.item_id, f.machine_id, f.slot, f.start, START + 12 * DAY) for f in fitted(self.item)
        ]
        state, _ = assess(
            slot(self.clean, self.replace), self.item, past=Past(first_half, []), context=self.circumstances
        )
        self.assertEqual(state.clocks[0].used, 10)

    def test_the_explanation_says_when_a_clean_spare_went_in(self):
        washed = service(self.item, Action.WASH, START - 5 * DAY)
        state, _ = self.states([washed])
        node = fact(state, "since_fitted")
        self.assertEqual((node.day, node.cleaned), (date(2026, 1, 5), date(2025, 12, 31)))

    @given(st.lists(st.integers(1, 59), max_size=8, unique=True))
    def test_no_cleaning_ever_lowers_the_life_used(self, days):
        circumstances = context(runs(40), now=START + 60 * DAY)
        used = []
        for count in range(len(days) + 1):
            services = [service(self.item, Action.WASH, START + d * DAY) for d in sorted(days)[:count]]
            past = Past(fitted(self.item), services)
            _, life = assess(slot(self.clean, self.replace), self.item, past=past, context=circumstances)
            used.append(life.clocks[0].used)
        self.assertEqual(len(set(used)), 1)


class MoreUse(SimpleTestCase):
    @given(
        st.integers(0, 40),
        st.integers(0, 20),
        st.sampled_from(
            [
                hours_trigger(30),
                usual_days_trigger(7, 14),
                ageing_trigger(30),
                Trigger(Meter.RUNS, 1, 2),
            ]
        ),
        st.sampled_from(School),
    )
    def test_is_never_less_due(self, count, extra, trigger, school):
        a_rule = rule(Action.CLEAN, trigger)
        now = START + 70 * DAY
        less = one_state(a_rule, context(runs(count), now=now, school=school))
        more = one_state(a_rule, context(runs(count + extra), now=now, school=school))
        self.assertGreaterEqual(more.share, less.share)


class Rest(SimpleTestCase):
    def test_days_that_stand_for_use_stand_still_and_days_that_age_go_on(self):
        now = START + 90 * DAY
        stands = one_state(rule(Action.CLEAN, usual_days_trigger(7, 14)), context(now=now))
        ages = one_state(rule(Action.WIPE, ageing_trigger(30)), context(now=now))
        self.assertEqual((stands.share, stands.due_on), (0, None))
        self.assertEqual((ages.share, ages.level), (3, Level.OVERDUE))

    def test_fourteen_days_of_usual_use_are_ten_hours(self):
        state = one_state(rule(Action.CLEAN, usual_days_trigger(14, 14)), context(runs(12), now=START + 13 * DAY))
        self.assertAlmostEqual(state.clocks[0].limit, 10)
        self.assertEqual(state.level, Level.DUE)


class TheRange(SimpleTestCase):
    def test_load_places_the_figure_once_between_high_and_low(self):
        trigger = usual_days_trigger(7, 14)
        figures = [placed(trigger, rule(Action.CLEAN, trigger), x) for x in (0, 0.5, 1)]
        self.assertEqual([round(p, 3) for p in figures], [14, 9.899, 7])

    def test_schools_cap_it_and_what_guards_a_life_or_a_motor_is_never_stretched(self):
        trigger = usual_days_trigger(7, 14)
        free, guarded = rule(Action.CLEAN, trigger), replace(rule(Action.CLEAN, trigger), never_stretch=True)
        self.assertEqual([cap(trigger, free, school) for school in School], [14, 21, 35])
        self.assertEqual([cap(trigger, guarded, school) for school in School], [14, 14, 14])

    def test_by_the_label_the_load_places_it_and_the_longer_print_ends_it(self):
        clean = rule(Action.CLEAN, usual_days_trigger(7, 14), moved_by=LoadKind.DUST)
        for dust, hours in ((0, 10), (0.5, 50**0.5), (1, 5)):
            state = one_state(clean, context(runs(6), now=START + 9 * DAY, load=Load(dust=dust), school=School.LABEL))
            self.assertAlmostEqual(state.clocks[0].limit, hours)

    def test_a_single_figure_is_an_ordinary_home_s_and_the_rule_s_share_of_it_is_left_at_full_load(self):
        single = usual_days_trigger(14, 14)
        half = rule(Action.CLEAN, single, moved_by=LoadKind.HAIR)
        tenth = replace(half, full_load=0.1)
        self.assertEqual([placed(single, half, x) for x in (0, 0.5, 0.75, 1)], [14, 14, 14 * 0.5**0.5, 7])
        self.assertAlmostEqual(placed(single, tenth, 1), 1.4)
        self.assertEqual(placed(ageing_trigger(14), half, 1), 14, "what ages, ages in any home")

    def test_hours_are_the_measure_and_months_beside_them_one_limit_of_age(self):
        rule(Action.REPLACE, hours_trigger(200), ageing_trigger(182))
        for beside in (usual_days_trigger(182, 182), replace(ageing_trigger(182), low=91)):
            with self.assertRaises(InvalidValue):
                rule(Action.REPLACE, hours_trigger(200), beside)

    def test_only_the_index_that_moves_a_rule_moves_it(self):
        hairy = rule(Action.DE_HAIR, usual_days_trigger(7, 14), moved_by=LoadKind.HAIR)
        much = one_state(hairy, context(runs(6), now=START + 9 * DAY, load=Load(hair=1)))
        little = one_state(hairy, context(runs(6), now=START + 9 * DAY, load=Load(hair=0)))
        dusty = one_state(hairy, context(runs(6), now=START + 9 * DAY, load=Load(hair=0, dust=1)))
        self.assertEqual(much.share, 2 * little.share)
        self.assertEqual(dusty.share, little.share)


class Dates(SimpleTestCase):
    def test_follow_the_usual_week_run_by_run(self):
        """By the label 30 h from new, at six runs of 50 min a week, are at the latest the 36th run: a Saturday."""
        wiped = rule(Action.WIPE, hours_trigger(30))
        state = one_state(wiped, context(now=START, schedule=DAILY_BUT_SUNDAY, school=School.LABEL))
        self.assertEqual(state.due.p90, START.date() + timedelta(days=5 * 7 + 5))
        self.assertLess(state.due.p10, state.due.p50)

    def test_have_a_band_of_the_spread_of_homes_before_anything_was_found(self):
        """The prior's 0.5 and the 0.12 from one interval to the next: 30 h times and over exp(1.28 * 0.51)."""
        wiped = rule(Action.WIPE, hours_trigger(30))
        daily = Schedule("RRULE:FREQ=DAILY", 60)
        state = one_state(wiped, context(now=START, schedule=daily, school=School.THRIFTY))
        days = [(d - START.date()).days + 1 for d in (state.due.p10, state.due.p50, state.due.p90)]
        self.assertEqual([round(d / 30, 1) for d in days], [0.5, 1.0, 1.9])

    def test_today_counts_until_it_has_run_today(self):
        emptied = rule(Action.EMPTY, Trigger(Meter.RUNS, 1, 1))
        label = {"schedule": DAILY_BUT_SUNDAY, "school": School.LABEL}
        before = one_state(emptied, context(now=START, **label))
        self.assertEqual(before.due.p90, START.date())
        twice = rule(Action.EMPTY, Trigger(Meter.RUNS, 2, 2))
        after = one_state(twice, context(runs(1), now=START + timedelta(hours=3), **label))
        self.assertEqual(after.due.p90, START.date() + DAY)

    def test_are_clipped_at_today_when_past(self):
        state = one_state(rule(Action.WIPE, ageing_trigger(30)), context(now=START + 45 * DAY))
        self.assertEqual(state.due.p50, (START + 45 * DAY).date())
        self.assertEqual(state.due.p90, state.due.p10)

    def test_of_a_pure_calendar_have_no_band(self):
        state = one_state(rule(Action.WIPE, ageing_trigger(30)), context(now=START + 10 * DAY))
        due = START.date() + 30 * DAY
        self.assertEqual((state.due.p10, state.due.p90, state.due.certain), (due, due, True))

    def test_lean_on_what_ran_more_than_on_the_plan(self):
        """Half of the planned runs never happened for eight weeks: the date is about twice as far."""
        wiped = rule(Action.WIPE, hours_trigger(1000))
        daily = Schedule("RRULE:FREQ=DAILY", 60)
        now = START + 57 * DAY
        kept = one_state(wiped, context(runs(57, minutes=60), now=now, schedule=daily, school=School.LABEL))
        half = one_state(
            wiped, context(runs(28, minutes=60, every=2 * DAY), now=now, schedule=daily, school=School.LABEL)
        )
        far, near = [(s.due.p90 - now.date()).days for s in (half, kept)]
        self.assertGreater(far / near, 1.5)


class Learning(SimpleTestCase):
    """What was found moves the limit, by the rate of loading, and nothing else."""

    def found(self, *looks, school=School.WORKSHOP):
        """A filter looked at (hours after the last cleaning, found) in turn, cleaned each time; then six hours on."""
        item, _ = new_item()
        services, inspections, done, at = [], [], [], START
        for hours, seen in looks:
            at += DAY
            done += runs(1, minutes=hours * 60, first=at)
            at += DAY
            inspections.append(Inspection(item.id, "part", Action.WASH, seen, at))
            services.append(service(item, Action.WASH, at))
        wash = rule(Action.WASH, Trigger(Meter.RUN_HOURS, 10, 10), ageing_trigger(300))
        states = assess(
            slot(wash),
            item,
            past=Past(fitted(item), services, inspections),
            context=context([*done, *runs(1, minutes=360, first=at + DAY)], now=at + 2 * DAY, school=school),
        )
        return states[0]

    def test_dirty_too_soon_shortens_and_clean_too_late_lengthens(self):
        plain = self.found()
        soon, late = self.found((4, Found.OVERDUE)), self.found((16, Found.LIGHT))
        self.assertEqual(plain.clocks[0].limit, 10)
        self.assertLess(soon.clocks[0].limit, 8.5)
        self.assertGreater(late.clocks[0].limit, 11.5)

    def test_as_expected_leaves_it_and_narrows_the_band(self):
        once, thrice = self.found((10, Found.DUE)), self.found(*[(10, Found.DUE)] * 3)
        self.assertAlmostEqual(thrice.clocks[0].limit, 10, delta=0.8)
        for state in (once, thrice):
            node = fact(state, "learned")
            self.assertLess(node.p10, node.factor)
        wide, narrow = (fact(s, "learned") for s in (once, thrice))
        self.assertLess(narrow.p90 / narrow.p10, wide.p90 / wide.p10)

    def test_by_the_label_can_only_shorten(self):
        late = self.found((20, Found.CLEAN), school=School.LABEL)
        self.assertEqual(late.clocks[0].limit, 10)
        self.assertLess(self.found((4, Found.OVERDUE), school=School.LABEL).clocks[0].limit, 9)

    def test_leaves_days_that_age_alone(self):
        state = self.found((4, Found.OVERDUE))
        self.assertEqual([c.limit for c in state.clocks if c.meter is Meter.DAYS], [300])

    def test_a_look_right_after_cleaning_tells_nothing(self):
        self.assertEqual(fact(self.found((0.01, Found.CLEAN)), "learned").looks, 1)
        self.assertAlmostEqual(self.found((0.01, Found.CLEAN)).clocks[0].limit, 10, delta=0.05)


class Levels(SimpleTestCase):
    def test_borders_are_those_of_what_people_see(self):
        for share, level in [
            (WEARING_FROM - 0.01, Level.FRESH),
            (WEARING_FROM + 0.01, Level.WEARING),
            (1.0, Level.DUE),
            (OVERDUE_FROM + 0.01, Level.OVERDUE),
        ]:
            with self.subTest(level=level):
                a_rule = rule(Action.CLEAN, hours_trigger(10))
                state = one_state(a_rule, context(runs(1, minutes=600 * share), now=START + DAY))
                self.assertEqual(state.level, level)

    def test_an_empty_slot_is_missing_and_puts_the_machine_out_of_use(self):
        robot = Machine(MACHINE, "Robot", ROBOT, fitted={})
        states = assess_machine(robot, Facts({}, fittings=[], services=[]), context(now=START))
        self.assertEqual({s.level for s in states}, {Level.MISSING})
        self.assertIn("filter", robot.empty_slots)
        self.assertNotIn("side-brush", robot.empty_slots)


class BadFigures(SimpleTestCase):
    def test_are_refused_by_the_name_of_their_field(self):
        wrong = {
            "low": lambda: Trigger(Meter.RUNS, 0, 1),
            "high": lambda: Trigger(Meter.RUNS, 3, 2),
            "calendar": lambda: Trigger(Meter.DAYS, 1, 2),
            "reference_h_per_week": lambda: Trigger(Meter.DAYS, 1, 2, Calendar.STANDS_FOR_USE),
            "hair": lambda: Load(hair=1.2),
            "triggers": lambda: rule(Action.WASH),
        }
        for field, build in wrong.items():
            with self.subTest(field=field), self.assertRaises(InvalidValue) as refused:
                build()
            self.assertEqual(refused.exception.field, field)
