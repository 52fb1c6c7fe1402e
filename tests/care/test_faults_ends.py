"""A case ends, whatever is answered: safe looks first, nothing asked or put right in circles, nothing bought early."""

from functools import cache
from itertools import islice

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from care.errors import BookError, InvalidValue
from care.faults.answering import answered
from care.faults.book import Check, Counts, Fault, FaultBook, Outcome, Tells
from care.faults.case import CANT_TELL, Answered, Case, Cured, Noticed, Rests, Retested
from care.faults.cure import cure_of
from care.faults.likelihood import States, proves
from care.faults.subject import subject
from care.faults.verdict import Stand, assess
from care.vocabulary import Action
from tests.care.world import BOOK
from tests.effort import examples

MOST_STEPS = 120
"""What no case takes more of, answers, cures and tries together, whatever is said."""
OPEN = (Stand.ASK, Stand.CURE, Stand.TRY, Stand.RETEST)
DOCKS = {"robot-mop": "dock-wash", "robot-two-roller": "dock-bag", "robot-belt": "dock-charge"}


@cache
def states_of(kind):
    dock = DOCKS.get(kind)
    return States(subject(BOOK, BOOK.archetypes[kind], BOOK.archetypes[dock] if dock else None))


def walk(kind, symptoms, says, gone):
    """A case led to its end: `says` picks the answer to a step, `gone` whether a try helped. Yields (case, now)."""
    states = states_of(kind)
    case = Case(states.subject, tuple(Noticed(key) for key in symptoms))
    for _ in range(MOST_STEPS + 1):
        now = assess(case, states=states)
        yield case, now
        match now.verdict.stand:
            case Stand.ASK:
                step = now.next[0]
                case = answered(case, step.probe.key, says(step))
            case Stand.CURE | Stand.TRY:
                case = case.with_event(Cured(now.verdict.suspects[0]))
            case Stand.RETEST:
                case = case.with_event(Retested(gone()))
            case _:
                return


class Ends(SimpleTestCase):
    @given(st.sampled_from(sorted(BOOK.archetypes)), st.data())
    @examples(15)
    def test_whatever_is_answered_and_however_little_it_helps(self, kind, data):
        symptoms = states_of(kind).subject.symptoms
        if not symptoms:
            return
        noticed = data.draw(st.lists(st.sampled_from([s.key for s in symptoms]), min_size=1, max_size=2, unique=True))
        told = data.draw(st.randoms(use_true_random=False))

        def says(step):
            return told.choice([CANT_TELL, *(o.key for o in step.probe.check.outcomes)])

        for case, now in walk(kind, noticed, says, lambda: told.random() < 0.1):
            self.nothing_in_circles(case, now)
        self.assertNotIn(now.verdict.stand, OPEN)

    def nothing_in_circles(self, case, now):
        """No cure a third time, nor a second without it being seen again; no check a third time with nothing done."""
        last = case.events[-1]
        before = Case(case.subject, case.events[:-1])
        if isinstance(last, Cured) and before.times_cured(last.suspect):
            self.assertEqual(before.times_cured(last.suspect), 1)
            since = max(i for i, e in enumerate(before.events) if e == last)
            seen = [e for e in before.events[since + 1 :] if isinstance(e, Answered)]
            suspect = case.subject.suspect(last.suspect)
            self.assertTrue(any(proves(suspect, case.subject.probe(e.probe)) == e.says for e in seen))
        if isinstance(last, Answered):
            self.assertLessEqual(len(case.answers(last.probe)), 2)
        self.assertTrue(now.next or now.verdict.stand is not Stand.ASK)

    def test_who_can_tell_nothing_is_asked_nothing_three_times(self):
        for kind in ("cordless-one-filter", "upright-belt", "robot-mop"):
            for symptom in states_of(kind).subject.symptoms[:4]:
                *_, (case, now) = walk(kind, [symptom.key], lambda step: CANT_TELL, lambda: False)
                with self.subTest(kind, symptom=symptom.key):
                    self.assertNotIn(now.verdict.stand, OPEN)
                    self.assertTrue(all(len(case.answers(p.key)) <= 2 for p in case.subject.probes))


class SafeFirst(SimpleTestCase):
    def test_what_may_mean_danger_is_looked_at_before_anything_runs_or_charges(self):
        for kind in BOOK.archetypes:
            of = states_of(kind).subject
            for symptom in (s for s in of.symptoms if s.first):
                safe = [p.key for p in of.probes if p.check.key in symptom.first]
                seen = []
                steps = walk(kind, [symptom.key], lambda step: step.probe.check.outcomes[0].key, lambda: False)
                for _, now in islice(steps, 6):
                    if now.verdict.stand is not Stand.ASK:
                        break
                    check = now.next[0].probe.check
                    if not set(safe) <= set(seen):
                        self.assertIn(now.next[0].probe.key, safe, (kind, symptom.key))
                        self.assertFalse([n.probe.key for n in now.next if n.probe.check.live or n.probe.check.powers])
                    if symptom.out_of_use:
                        self.assertFalse(check.live or check.powers)
                    seen.append(now.next[0].probe.key)

    def test_a_battery_or_motor_is_no_verdict_over_what_nobody_looked_at(self):
        for kind in BOOK.archetypes:
            for symptom in (s for s in states_of(kind).subject.symptoms if s.first):

                def worst(step):
                    return CANT_TELL if step.probe.check.key in LOOKS else step.probe.check.outcomes[-1].key

                for case, now in islice(walk(kind, [symptom.key], worst, lambda: False), 14):
                    about = [case.subject.suspect(key).fault for key in now.verdict.suspects]
                    if now.verdict.stand in (Stand.CURE, Stand.TRY):
                        self.assertFalse([f.key for f in about if set(f.after) & self.there(case)], (kind, symptom.key))

    def there(self, case):
        return {p.check.key for p in case.subject.probes}

    def test_a_hurt_cord_or_pack_ends_it_at_once(self):
        for kind in BOOK.archetypes:
            of = states_of(kind).subject
            for probe in (p for p in of.probes if any(t.stops for t in p.check.tells)):
                says = next(t.says for t in probe.check.tells if t.stops)
                case = answered(Case(of, (Noticed(of.symptoms[0].key),)), probe.key, says)
                self.assertEqual(assess(case, states=states_of(kind)).verdict.stand, Stand.HAND_OVER)


LOOKS = {"pack-look", "pack-look-robot", "cord-look"}


class NothingEarly(SimpleTestCase):
    def test_no_new_part_before_the_free_causes_of_the_same_sign(self):
        of = states_of("cordless-two-filter").subject
        sound = Answered("pack-look:battery", "sound")
        short = Case(of, (Noticed("short-run"), sound, Answered("charge-minutes:battery", "short")))
        now = assess(short, states=states_of("cordless-two-filter"))
        self.assertEqual(now.verdict.stand, Stand.ASK)
        self.assertEqual(set(now.verdict.looks), {"pack-contacts-look:battery", "spin:head"})
        self.assertIn(now.next[0].probe.key, now.verdict.looks)
        fine = (Answered("pack-contacts-look:battery", "bright"), Answered("spin:head", "free"))
        last = assess(Case(of, (*short.events, *fine)), states=states_of("cordless-two-filter")).verdict
        self.assertEqual((last.stand, last.suspects), (Stand.CURE, ("aged:battery",)))
        self.assertEqual(cure_of(of.suspect("aged:battery")).action, Action.REPLACE)

    def test_no_motor_is_given_up_before_what_costs_nothing_was_looked_at(self):
        for kind in ("canister-bagged", "upright-belt", "cordless-one-filter"):
            looked = []

            def howls(step):
                return "yes" if step.probe.check.key == "motor-signs" else step.probe.check.outcomes[0].key

            for _, now in walk(kind, ["weak"], howls, lambda: False):
                if now.verdict.stand is Stand.ASK:
                    looked.append(now.next[0].probe.check.key)
            with self.subTest(kind):
                self.assertTrue({"level", "bag-look"} & set(looked) and "filter-look" in looked, looked)


class WhatLiesBehind(SimpleTestCase):
    def test_a_cut_out_that_is_cool_again_is_no_end_while_nobody_looked_what_made_it_hot(self):
        of = states_of("canister-bagless").subject
        rested = (Noticed("cuts-out"), Answered("cord-look:cord", "whole"), Answered("rest:motor", "starts"))
        case = Case(of, (*rested, Cured("cut-out:motor"), Retested(True)))
        now = assess(case, states=states_of("canister-bagless"))
        self.assertEqual((now.verdict.stand, now.verdict.behind, now.verdict.settled), (Stand.ASK, True, False))
        loaded = answered(case, "filter-look:lid-filter", "dirt")
        found = assess(loaded, states=states_of("canister-bagless")).verdict
        self.assertEqual((found.stand, found.suspects, found.behind), (Stand.CURE, ("loaded:lid-filter",), True))
        done = loaded.with_event(Cured("loaded:lid-filter")).with_event(Retested(True))
        self.assertEqual(assess(done, states=states_of("canister-bagless")).verdict.stand, Stand.CURED)

    def test_while_it_cools_other_looks_go_on_and_then_it_comes_first(self):
        of = subject(BOOK, BOOK.archetypes["canister-bagged"])
        begun = Case(of, (Noticed("cuts-out"), Answered("cord-look:cord", "whole"), Rests("rest:motor")))
        self.assertEqual(begun.resting, {"rest:motor": False})
        cooling = assess(begun)
        self.assertNotIn("rest:motor", [n.probe.key for n in cooling.next[:-1] if n.worth_it][:3])
        one = begun
        while (now := assess(one)).next[0].probe.key != "rest:motor":
            self.assertEqual(now.verdict.stand, Stand.ASK)
            one = answered(one, now.next[0].probe.key, now.next[0].probe.check.outcomes[0].key)
            self.assertFalse([n for n in now.next if n.probe.check.live], "what cools is not run")
        self.assertGreater(len(one.events), 6, "all else was looked at before")
        comb = subject(BOOK, BOOK.archetypes["cordless-two-filter"], None, frozenset({"self-clean"}))
        with self.assertRaisesRegex(InvalidValue, "the machine off"):  # it runs: nobody looks at other things meanwhile
            Case(comb, (Noticed("winds-again"), Rests("run-on:head")))
        over = assess(begun.with_event(Rests("rest:motor", over=True)))
        self.assertEqual((over.next[0].probe.key, over.next[0].wait_min), ("rest:motor", 0))
        with self.assertRaisesRegex(InvalidValue, "has to wait"):
            Case(of, (Noticed("cuts-out"), Rests("cord-look:cord")))

    def test_what_else_was_seen_keeps_no_case_open_that_is_gone(self):
        of = states_of("cordless-two-filter").subject
        seen = (Answered("light:neck", "dark"), Answered("seal-look:bin-seal", "dirty"))
        case = Case(of, (Noticed("pulsing"), *seen, Cured("wad:neck"), Retested(True)))
        self.assertEqual(assess(case, states=states_of("cordless-two-filter")).verdict.stand, Stand.CURED)

    def test_with_nothing_found_behind_it_the_case_ends(self):
        of = states_of("canister-bagless").subject
        case = Case(of, (Noticed("cuts-out"), Answered("cord-look:cord", "whole"), Answered("rest:motor", "starts")))
        case = case.with_event(Cured("cut-out:motor")).with_event(Retested(True))
        for _ in range(20):
            now = assess(case, states=states_of("canister-bagless"))
            if now.verdict.stand is not Stand.ASK:
                break
            case = answered(case, now.next[0].probe.key, now.next[0].probe.check.outcomes[0].key)
        self.assertEqual(now.verdict.stand, Stand.CURED)

    def test_a_try_counts_when_the_slowest_of_what_is_noticed_shows(self):
        of = states_of("canister-bagless").subject
        for symptoms, counts in (
            (("weak",), Counts.AT_ONCE),
            (("weak", "cuts-out"), Counts.HOUR),
            (("smell", "weak"), Counts.DAYS),
        ):
            case = Case(of, (*map(Noticed, symptoms), Cured("loaded:lid-filter")))
            self.assertEqual(assess(case, states=states_of("canister-bagless")).verdict.counts, counts)

    def test_nothing_is_tried_while_what_forbids_power_stands_and_a_new_bag_ends_that(self):
        for kind, events, counts in (
            ("upright-belt", (Noticed("burnt"), Cured("belt:belt")), Counts.CLEARED),
            ("canister-bagged", (Noticed("weak"), Answered("took-wet", "yes"), Cured("damp:filter")), Counts.CLEARED),
            (
                "canister-bagged",
                (Noticed("weak"), Answered("bag-look:bag", "none"), Cured("no-bag:bag")),
                Counts.AT_ONCE,
            ),
        ):
            states = states_of(kind)
            now = assess(Case(states.subject, events), states=states).verdict
            self.assertEqual((now.stand, now.counts), (Stand.RETEST, counts), (kind, events))


class ToldUnasked(SimpleTestCase):
    def odds(self, *events, kind="cordless-two-filter"):
        states = states_of(kind)
        return dict(assess(Case(states.subject, (Noticed("weak"), *events)), states=states).odds)

    def test_counts_like_an_answer_and_is_never_asked(self):
        of = states_of("cordless-two-filter").subject
        plain = self.odds()
        for key, more in (
            ("big", "wad:neck"),
            ("fine", "loaded:filter"),
            ("fall", "head-cracked:head"),
            ("service", "damp:filter"),
        ):
            tick = of.tick(key)
            told = self.odds(Answered(tick.probe, tick.says))
            with self.subTest(key):
                self.assertGreater(told[more], 1.5 * plain[more])
        asked = {
            n.probe.key for n in assess(Case(of, (Noticed("weak"),)), states=states_of("cordless-two-filter")).next
        }
        self.assertFalse([p.key for p in of.probes if p.check.told and p.key in asked])

    def test_after_something_wet_nothing_is_run_and_embers_end_it_at_once(self):
        states = states_of("canister-bagged")
        wet, embers = (Answered(states.subject.tick(key).probe, "yes") for key in ("wet", "embers"))
        now = assess(Case(states.subject, (Noticed("weak"), wet)), states=states)
        self.assertFalse([n.probe.key for n in now.next if n.probe.check.live or n.probe.check.powers])
        ended = assess(Case(states.subject, (Noticed("weak"), embers)), states=states).verdict
        self.assertEqual((ended.stand, ended.danger), (Stand.HAND_OVER, "embers"))

    def test_the_segment_that_its_screen_shows_is_the_likeliest(self):
        of = states_of("cordless-two-filter").subject
        tick = of.tick("shown:wand")
        case = Case(of, (Noticed("msg-airway"), Answered(tick.probe, tick.says)))
        self.assertEqual(assess(case, states=states_of("cordless-two-filter")).odds[0][0], "wad:wand")


class TheBook(SimpleTestCase):
    def test_an_answer_that_leads_nowhere_is_refused_by_name(self):
        from care.book.checked import check_faults

        outcomes = (Outcome("fine", "fine"), Outcome("odd", "odd"))
        tells = (Tells("x", "odd", 0.5, "It is so."),)
        fault = Fault("x", "X", columns={"wand": 0.1}, cure="Mend it.")
        lost = Check("look", "Look", "Look.", 1.0, outcomes, tells, columns=("wand", "hose"))
        with self.assertRaises(BookError) as told:
            check_faults(FaultBook((), (fault,), (lost,), ()), {}, {}, {}, {}, {})
        self.assertIn("'odd' at 'hose'", str(told.exception))
