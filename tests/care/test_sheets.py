"""Sheets: the order of a service, whatever is chosen and however it is answered."""

from dataclasses import replace
from datetime import timedelta
from uuid import uuid4

from django.test import SimpleTestCase

from care.bench import Answer, Chosen, Job, StepKind, build, build_refit, follow, with_extra
from care.bench.links import applies, linked
from care.bench.progress import ahead
from care.bench.sheets import EVERYTHING
from care.bench.steps import AGAIN, ANSWERS, DAMP, EFFECTS, SKIP, UNSURE, make
from care.errors import InvalidValue
from care.household import AtTheBench
from care.items import Item, MoveKind, State
from care.overrides import tailored
from care.vocabulary import Action, Found, Gone, Skill
from tests.care.world import BOOK, MACHINE, ROBOT, START, WASHABLE


def part(slot_key, name=None, state=State.FITTED):
    """An item for a slot of the robot."""
    slot = ROBOT.slot(slot_key)
    where = (MACHINE, slot_key) if state is State.FITTED else (None, None)
    return Item(uuid4(), slot.part, name or slot.name, state, START, *where)


def chosen(slot_key, action, spare=False):
    """A task picked for the sheet."""
    return Chosen(
        slot_key,
        action,
        part(slot_key),
        part(slot_key, "Spare", State.READY) if spare else None,
        uuid4() if action is Action.REPLACE else None,
    )


def sheet_of(tasks, kind=ROBOT, home=EVERYTHING, off=frozenset()):
    """The first sitting for tasks of one machine."""
    return build([Job(MACHINE, kind, tuple(tasks), off)], BOOK, home)


def items_of(tasks):
    """All items a sheet for these tasks speaks of, as they are before."""
    items = {t.item.id: t.item for t in tasks}
    items |= {t.spare.id: t.spare for t in tasks if t.spare}
    items |= {t.new_item_id: Item(t.new_item_id, t.item.part, "New", State.READY) for t in tasks if t.new_item_id}
    return items


def work(sheet, items, say):
    """Answer every step with `say(step)`; returns the answers and the progress at the end."""
    answers, at = [], START + timedelta(hours=1)
    progress = follow(sheet, items, [])
    while progress.current is not None:
        at += timedelta(minutes=1)
        value = say(progress.current)
        answers.append(Answer(progress.current.key, value, at, "a reason" if value == SKIP else ""))
        progress = follow(sheet, items, answers)
    return answers, progress


def yes(step):
    """The answer of somebody who does everything."""
    return Found.DUE if step.kind is StepKind.LOOK else step.answers[0]


class EveryStep(SimpleTestCase):
    def test_every_kind_of_step_has_an_effect(self):
        self.assertEqual(set(EFFECTS), set(StepKind))


class AFilterWash(SimpleTestCase):
    def setUp(self):
        self.task = chosen("filter", Action.WASH)

    def sheet(self, spare):
        self.task = chosen("filter", Action.WASH, spare)
        return sheet_of([self.task]), items_of([self.task])

    def test_with_a_dry_spare_puts_the_spare_in_and_the_wet_one_on_the_rack(self):
        sheet, items = self.sheet(spare=True)
        answers, progress = work(sheet, items, yes)
        self.assertEqual(progress.items[self.task.item.id].state, State.DRYING)
        self.assertEqual(progress.items[self.task.spare.id].state, State.FITTED)
        washed = next(a.at for a in answers if a.step == "filter.wash.do")
        self.assertEqual(progress.items[self.task.item.id].damp_until, washed + timedelta(hours=24))

    def test_without_a_spare_leaves_the_slot_empty(self):
        sheet, items = self.sheet(spare=False)
        answers, progress = work(sheet, items, yes)
        self.assertNotIn("filter.wash.fit", [a.step for a in answers])
        self.assertEqual([i.state for i in progress.items.values()], [State.DRYING])

    def test_skipped_at_the_sink_puts_the_same_filter_back(self):
        sheet, items = self.sheet(spare=True)
        answers, progress = work(sheet, items, lambda s: SKIP if s.kind is StepKind.WASH else yes(s))
        self.assertIn("filter.wash.fit", [a.step for a in answers])
        self.assertEqual(progress.items[self.task.item.id].state, State.FITTED)
        self.assertEqual(progress.items[self.task.spare.id].state, State.READY)
        self.assertEqual(progress.done, [])

    def test_asks_about_hazardous_dust_before_anything_is_opened(self):
        sheet, _ = self.sheet(spare=True)
        self.assertEqual([s.key for s in sheet.steps[:2]], ["gate.robot-off", "gate.hazardous-dust"])

    def test_shows_ahead_only_the_way_it_will_go(self):
        sheet, items = self.sheet(spare=True)
        keys = [s.key for s in ahead(sheet, follow(sheet, items, []))]
        self.assertIn("filter.wash.fit-other", keys)
        self.assertNotIn("filter.wash.fit", keys)
        self.assertNotIn("filter.wash.test", keys)


class TheOrder(SimpleTestCase):
    def test_is_dry_dirt_then_hair_then_wipes(self):
        tasks = [chosen("contacts", Action.WIPE), chosen("caster", Action.DE_HAIR), chosen("bin", Action.EMPTY)]
        done = [s.slot for s in sheet_of(tasks).steps if s.key.endswith(".do")]
        self.assertEqual(done, ["bin", "caster", "contacts"])

    def test_parts_of_one_opening_go_back_in_their_order_of_putting_in(self):
        tasks = [chosen("bristle-roller", Action.DE_HAIR), chosen("rubber-roller", Action.DE_HAIR)]
        back = [s.slot for s in sheet_of(tasks).steps if s.kind is StepKind.FIT]
        self.assertEqual(back, ["rubber-roller", "bristle-roller"])

    def test_minutes_count_an_opening_once(self):
        tasks = [chosen("bristle-roller", Action.DE_HAIR), chosen("rubber-roller", Action.DE_HAIR)]
        self.assertEqual(sheet_of(tasks).minutes, 4 + 3 + 1)

    def test_a_part_to_be_replaced_is_not_cleaned_first(self):
        tasks = [chosen("filter", Action.WASH), chosen("filter", Action.REPLACE)]
        self.assertEqual({s.action for s in sheet_of(tasks).steps if s.action}, {Action.REPLACE})


class AReplacement(SimpleTestCase):
    def test_retires_the_old_part_and_fits_the_new_one(self):
        task = chosen("side-brush", Action.REPLACE)
        _, progress = work(sheet_of([task]), items_of([task]), yes)
        self.assertEqual(progress.items[task.item.id].state, State.RETIRED)
        self.assertEqual(progress.items[task.new_item_id].state, State.FITTED)

    def told(self, why, seen):
        """Replace a brush that was `seen` so, because of `why`: the reason it was retired for and what is learned."""
        task = chosen("side-brush", Action.REPLACE)
        says = {StepKind.LOOK: seen, StepKind.RETIRE: why}
        _, progress = work(sheet_of([task]), items_of([task]), lambda step: says.get(step.kind) or yes(step))
        [reason] = [move.reason for _, move in progress.moves if move.kind is MoveKind.RETIRE]
        return reason, [(saw.about, saw.found) for saw in progress.saw]

    def test_why_the_old_one_goes_stands_for_a_look_at_its_life_where_there_was_none(self):
        replace = Action.REPLACE
        self.assertEqual(self.told(Gone.WORN, UNSURE), ("worn", [(replace, Found.DUE)]))
        self.assertEqual(self.told(Gone.SCHEDULE, UNSURE), ("schedule", [(replace, Found.LIGHT)]))
        self.assertEqual(self.told(Gone.WORN, Found.OVERDUE), ("worn", [(replace, Found.OVERDUE)]))
        self.assertEqual(self.told("done", UNSURE), ("replaced", []))

    def test_one_that_broke_by_accident_teaches_nothing_of_how_long_they_last(self):
        self.assertEqual(self.told(Gone.ACCIDENT, Found.OVERDUE), ("accident", []))

    def test_skipped_it_stays_and_why_it_went_is_not_asked(self):
        self.assertNotIn(Gone.LOST, ANSWERS[StepKind.RETIRE])
        task = chosen("side-brush", Action.REPLACE)
        _, progress = work(sheet_of([task]), items_of([task]), lambda s: SKIP if s.kind is StepKind.RETIRE else yes(s))
        self.assertEqual(progress.items[task.item.id].state, State.FITTED)


class Links(SimpleTestCase):
    def test_of_a_sheet_lead_to_steps_that_are_there(self):
        step = make("a.fit", StepKind.FIT, MACHINE, ("Put it in.",))
        for more in ({"needs": ("a.out",)}, {"only_if": ("a.out", SKIP)}, {"whole": (("a.out", "a.fit"),)},
                     {"counts": "a.open"}, {"halted_by": ("a.look",)}):  # fmt: skip
            with self.subTest(more), self.assertRaises(AssertionError):
                linked([replace(step, **more)])
        [kept] = linked([replace(step, whole=(("", "a.fit", "a.fit-dry"),))])
        self.assertEqual(kept.whole, (("", "a.fit"),), "of what could fill a place, what this sheet has")


class TheSecondSitting(SimpleTestCase):
    def setUp(self):
        self.wet = Item(uuid4(), "filter", "Filter A", State.DRYING, START, damp_until=START)
        self.sheet = build_refit([Job(MACHINE, ROBOT, (Chosen("filter", Action.WASH, self.wet),))], BOOK)
        self.items = {self.wet.id: self.wet}

    def test_fits_the_part_once_it_is_found_dry(self):
        _, progress = work(self.sheet, self.items, yes)
        self.assertEqual(progress.items[self.wet.id].state, State.FITTED)

    def test_found_damp_goes_back_to_the_rack_and_the_machine_is_closed(self):
        answers, progress = work(self.sheet, self.items, lambda s: DAMP if s.kind is StepKind.DRY_CHECK else yes(s))
        self.assertEqual(progress.items[self.wet.id].state, State.DRYING)
        self.assertEqual(answers[-1].step, "bin-bay.close-without", "which says what is still away")


class ASecondLook(SimpleTestCase):
    def test_a_dry_part_that_is_not_clean_is_washed_again_and_hangs_again(self):
        wet = Item(uuid4(), "pleated washable filter", "Filter A", State.DRYING, START, damp_until=START)
        sheet = build_refit([Job(MACHINE, ROBOT, (Chosen("filter", Action.WASH, wet),))], BOOK)
        say = lambda step: AGAIN if step.kind is StepKind.DRY_CHECK else yes(step)  # noqa: E731
        answers, end = work(sheet, {wet.id: wet}, say)
        after, at = end.items[wet.id], next(a.at for a in answers if a.value == AGAIN)
        self.assertEqual((after.state, after.damp_until), (State.DRYING, at + timedelta(hours=24)))
        self.assertEqual([(done.slot, done.action) for done in end.done], [("filter", Action.WASH)])
        self.assertEqual(len(end.hung), 1, "and it is asked where it hangs")
        self.assertNotIn("filter.wash.fit", [a.step for a in answers], "nothing dirty goes back in")


class WrongAnswers(SimpleTestCase):
    def setUp(self):
        task = chosen("contacts", Action.WIPE)
        self.sheet, self.items = sheet_of([task]), items_of([task])

    def refused(self, *answers):
        with self.assertRaises(InvalidValue) as refused:
            follow(self.sheet, self.items, [Answer(*a) for a in answers])
        return refused.exception

    def test_out_of_turn_says_where_the_sheet_stands(self):
        error = self.refused(("contacts.wipe.do", "done", START))
        self.assertEqual(error.field, "step")
        self.assertIn("gate.robot-off", error.detail)

    def test_a_no_at_the_first_gate_or_a_danger_ends_it_before_anything_is_touched(self):
        for said in (SKIP, "danger:pack", "danger:burnt"):
            with self.subTest(said):
                answers, progress = work(self.sheet, self.items, lambda step, said=said: said)
                self.assertEqual([(a.step, a.value) for a in answers], [("gate.robot-off", said)])
                self.assertEqual((progress.moves, progress.done), ([], []))
        self.assertEqual(self.refused(("gate.robot-off", "danger:cord", START)).field, "answer", "it has none")

    def test_a_skip_needs_a_reason(self):
        at = START + timedelta(hours=1)
        steps = [("gate.robot-off", "done", at), ("contacts.wipe.look", "unsure", at), ("contacts.wipe.do", SKIP, at)]
        self.assertEqual(self.refused(*steps).field, "reason")

    def test_an_unknown_step_is_refused(self):
        self.assertEqual(self.refused(("nowhere", "done", START)).field, "step")

    def test_an_empty_sheet_or_a_task_twice_is_refused(self):
        task = chosen("contacts", Action.WIPE)
        for tasks in ([], [task, task]):
            with self.subTest(len(tasks)), self.assertRaises(InvalidValue) as refused:
                sheet_of(tasks)
            self.assertEqual(refused.exception.field, "tasks")


class OtherKinds(SimpleTestCase):
    """The order of a service where layers, screws and gates differ."""

    def sheet(self, kind, *picks):
        archetype = WASHABLE[kind]
        tasks = []
        for slot_key, action in picks:
            slot = archetype.slot(slot_key)
            item = Item(uuid4(), slot.part, slot.name, State.FITTED, START, MACHINE, slot_key)
            tasks.append(Chosen(slot_key, action, item, new_item_id=uuid4() if action is Action.REPLACE else None))
        return sheet_of(tasks, archetype)

    def kinds(self, sheet, kind):
        return [step.slot or step.key for step in sheet.steps if step.kind is kind]

    def test_layers_go_back_from_behind_the_air(self):
        """The air meets liner, cloth, dome; they go in dome, cloth, liner."""
        picks = [("liner", Action.REPLACE), ("cloth", Action.REPLACE), ("dome", Action.REPLACE)]
        sheet = self.sheet("canister-layered", *picks)
        fits = [step.slot for step in sheet.steps if step.key.endswith("fit-other")]
        self.assertEqual(fits, ["dome", "cloth", "liner"])

    def test_fibre_goes_in_before_the_foam(self):
        sheet = self.sheet("upright-twin-roller", ("foam", Action.REPLACE), ("fibre", Action.REPLACE))
        fits = [step.slot for step in sheet.steps if step.key.endswith("fit-other")]
        self.assertEqual(fits, ["fibre", "foam"])

    def test_opening_the_body_has_a_gate_of_its_own_at_the_very_start(self):
        sheet = self.sheet("cordless-two-filter", ("rear-ring", Action.WASH))
        gates = ["gate.battery-out", "gate.hazardous-dust", "gate.strip-down"]
        self.assertEqual(self.kinds(sheet, StepKind.GATE), gates)
        self.assertEqual(sheet.step("rear-cowl.open").cautions, ("strip-down", "prise"))

    def test_a_look_alone_opens_nothing_that_it_does_not_need(self):
        sheet = self.sheet("upright-compact", ("cord", Action.INSPECT))
        self.assertEqual([step.kind for step in sheet.steps], [StepKind.GATE, StepKind.LOOK])
        self.assertIn("unplugged", sheet.steps[1].text[0])

    def test_what_is_worked_on_needs_no_look_of_its_own(self):
        sheet = self.sheet("upright-belt", ("roll", Action.INSPECT), ("roll", Action.DE_HAIR))
        self.assertNotIn("roll.inspect.look", [step.key for step in sheet.steps])

    def test_a_part_that_stays_for_cleaning_leaves_when_it_is_replaced(self):
        clean = self.sheet("canister-bagless", ("hose", Action.CLEAN))
        new = self.sheet("canister-bagless", ("hose", Action.REPLACE))
        self.assertEqual(self.kinds(clean, StepKind.TAKE_OUT), [])
        self.assertEqual((self.kinds(new, StepKind.TAKE_OUT), self.kinds(new, StepKind.FIT)), (["hose"], ["hose"] * 2))

    def test_the_machine_s_own_counter_is_set_back_after_a_replacement_and_after_a_cleaning_only_its_list_is_told(self):
        replaced = self.sheet("robot-mop", ("filter", Action.REPLACE))
        washed = self.sheet("robot-mop", ("filter", Action.WASH))
        uncounted = self.sheet("robot-mop", ("caster", Action.REPLACE))
        told = [self.kinds(sheet, StepKind.COUNTER) for sheet in (replaced, washed, uncounted)]
        self.assertEqual(told, [["filter"], ["list"], []])
        self.assertEqual(washed.step("list").each, ("Filter",))
        self.assertIn("stay as they are", washed.step("list").text[0], "nobody sets the life back after a wash")

    def test_an_agent_is_rinsed_out_before_the_rack_and_no_acid_meets_bleach(self):
        sheet = self.sheet("dock-wash", ("dirty-tank", Action.WASH))
        tank = next(step.item_id for step in sheet.steps if step.item_id)
        items = {tank: Item(tank, "dirty tank", "Dirty tank", State.FITTED, START, MACHINE, "dirty-tank")}
        answers, _ = work(sheet, items, yes)
        asked = [a.step for a in answers]
        self.assertIn("gate.before-acid", asked)
        self.assertEqual(asked.index("dirty-tank.wash.until") + 1, asked.index("dirty-tank.wash.rack"))
        self.assertEqual(sheet.step("dirty-tank.wash.until").answers, ("pass",), "nobody goes on without it")
        said = lambda step: SKIP if step.key == "gate.before-acid" else yes(step)  # noqa: E731
        _, left = work(sheet, items, said)
        self.assertEqual((left.moves, left.done), ([], []))

    def test_no_card_mixes_what_its_own_caution_forbids(self):
        for kind in BOOK.archetypes.values():
            for slot in kind.slots:
                for rule in (*slot.over.wet_rules, *slot.rules):
                    for line in rule.card.how if "one-agent" in rule.card.cautions else ():
                        both = "vinegar" in line and "soap" in line and "not both" not in line
                        self.assertFalse(both, f"{kind.key}.{slot.key}.{rule.action}: {line}")

    def test_what_has_no_drying_floor_may_be_wiped_dry_and_go_back_at_once(self):
        sheet = self.sheet("dock-wash", ("dirty-tank", Action.WASH))
        tank = next(step.item_id for step in sheet.steps if step.item_id)
        items = {tank: Item(tank, "dirty tank", "Dirty tank", State.FITTED, START, MACHINE, "dirty-tank")}
        for at_the_rack, ends in (("dry", State.FITTED), ("done", State.DRYING)):
            say = lambda step, said=at_the_rack: said if step.kind is StepKind.RACK else yes(step)  # noqa: E731
            _, progress = work(sheet, items, say)
            self.assertEqual(progress.items[tank].state, ends)


class WhatLiesBehind(SimpleTestCase):
    """What is not touched is confirmed before it closes, and what brings power back closes last."""

    sheet = OtherKinds.sheet

    def test_layers_that_are_not_touched_are_ticked_before_the_cap_closes(self):
        alone = self.sheet("canister-layered", ("dome", Action.WASH)).step("cap.close")
        self.assertEqual([one.split(":")[0] for one in alone.each], ["Cloth filter", "Paper liner"])
        looked = self.sheet("canister-layered", ("cloth", Action.WASH), ("liner", Action.INSPECT)).step("cap.close")
        self.assertIn("Paper liner: ", looked.each[-1], "a look takes nothing out, and so puts nothing back")
        worked = self.sheet("canister-layered", ("liner", Action.REPLACE)).step("cap.close")
        self.assertEqual([one.split(":")[0] for one in worked.each], ["Dome filter", "Cloth filter"])

    def test_a_part_that_closes_its_opening_confirms_the_rest_too(self):
        closes = self.sheet("upright-belt", ("bin", Action.EMPTY)).step("bin-off.close")
        self.assertEqual([one.split(":")[0] for one in closes.each], ["Cyclone", "Foam filter"])
        self.assertTrue(closes.seat, "and says what to look for where it does not click")

    def test_a_part_of_an_option_is_ticked_on_machines_that_have_it_only(self):
        for features, there in ((frozenset(), False), (frozenset({"fine-disc"}), True)):
            kind = tailored(BOOK.archetypes["canister-layered"], {}, BOOK.parts, features)
            dome = Item(uuid4(), "dome filter", "Dome", State.FITTED)
            sheet = build([Job(MACHINE, kind, (Chosen("dome", Action.INSPECT, dome),), frozenset(), features)], BOOK)
            cap = next(step for step in sheet.steps if step.kind is StepKind.CLOSE)
            self.assertEqual(any("disc" in one for one in cap.each), there)

    def test_the_pack_goes_back_when_all_else_is_shut_and_its_screws_when_it_was_tried(self):
        picks = [("battery", Action.WIPE), ("rear-ring", Action.WASH), ("bin", Action.EMPTY)]
        keys = [step.key for step in self.sheet("cordless-two-filter", *picks).steps]
        shut = [keys.index(key) for key in ("rear-cowl.close", "bin-off.close")]
        self.assertLess(max(shut), keys.index("battery.wipe.fit"), "no hand is in there once the pack is in")
        self.assertLess(keys.index("battery.wipe.fit"), keys.index("power"))
        self.assertLess(keys.index("power"), keys.index("rear-cowl.last"))
        last = self.sheet("cordless-two-filter", *picks).step("rear-cowl.last")
        self.assertEqual((last.counts, last.kind), ("rear-cowl.open", StepKind.CLOSE))

    def shut_after(self, sheet, **said):
        """The steps that close something or try it, as they are met with these answers and else a yes."""
        answers, met = {}, []
        for step in sheet.steps:
            if applies(step, answers):
                answers[step.key] = said.get(step.key.replace(".", "_").replace("-", "_"), step.answers[0])
                met += [step] if step.kind in (StepKind.CLOSE, StepKind.POWER) else []
        return [step.key for step in met], " ".join(met[0].text)

    def test_nothing_says_that_a_part_is_in_while_it_dries(self):
        ring = self.sheet("cordless-two-filter", ("rear-ring", Action.WASH))
        keys, words = self.shut_after(ring)
        self.assertEqual(keys, ["rear-cowl.close-without"], "no last screws, no try")
        self.assertIn("Still away: Ring foam.", words)
        keys, words = self.shut_after(ring, rear_ring_wash_do=SKIP)
        self.assertEqual(keys, ["rear-cowl.close", "power", "rear-cowl.last"])
        self.assertIn("Foams seen through every vent", words)

    def test_back_from_the_rack_it_is_closed_as_the_book_says_tried_and_screwed_shut(self):
        kind = WASHABLE["cordless-two-filter"]
        ring = Item(uuid4(), "ring foam", "Ring", State.DRYING, START, damp_until=START)
        task = Chosen("rear-ring", Action.WASH, ring)
        sheet = build_refit([Job(MACHINE, kind, (task,), frozenset({"rear-ring"}))], BOOK)
        keys, words = self.shut_after(sheet)
        self.assertEqual(keys, ["rear-cowl.close", "power", "rear-cowl.last"])
        self.assertIn("Foams seen through every vent", words)
        dry = next(step.key for step in sheet.steps if step.kind is StepKind.DRY_CHECK)
        keys, words = self.shut_after(sheet, **{dry.replace(".", "_").replace("-", "_"): DAMP})
        self.assertEqual(keys, ["rear-cowl.close-without"], "felt damp, it stays away")

    def test_what_was_away_before_is_away_still(self):
        dome = Chosen("dome", Action.INSPECT, Item(uuid4(), "dome filter", "Dome", State.FITTED))
        off = frozenset({"cloth"})
        keys, words = self.shut_after(sheet_of([dome], WASHABLE["canister-layered"], off=off))
        self.assertEqual(keys, ["cap.close-without"])
        self.assertIn("Still away: Cloth filter.", words)

    def test_a_dock_is_plugged_in_again_and_told_what_waits_while_its_tanks_dry(self):
        keys, words = self.shut_after(self.sheet("dock-wash", ("dirty-tank", Action.WASH)))
        self.assertEqual(keys, ["power-without"])
        self.assertIn("Closed, but still away: Dirty tank. What needs that waits.", words)
        keys, words = self.shut_after(self.sheet("dock-wash", ("dirty-tank", Action.WASH)), dirty_tank_wash_do=SKIP)
        self.assertEqual(keys, ["power"])
        self.assertIn("All dry and closed: plug the dock in", words)
        self.assertEqual(self.kinds(self.sheet("dock-bin", ("bin", Action.EMPTY)), StepKind.POWER), ["power"])

    def test_a_robot_that_was_switched_off_is_switched_on_again_also_after_a_wipe(self):
        self.assertEqual(self.kinds(self.sheet("robot-belt", ("contacts", Action.WIPE)), StepKind.POWER), ["power"])
        self.assertEqual(self.kinds(self.sheet("upright-belt", ("whole", Action.CLEAN)), StepKind.POWER), [])

    kinds = OtherKinds.kinds

    def test_what_is_thrown_away_says_where_it_goes(self):
        pack = self.sheet("cordless-one-filter", ("battery", Action.REPLACE)).step("battery.replace.do")
        self.assertIn("never loose in household waste", " ".join(pack.text))

    def test_what_is_only_handed_over_asks_for_no_tools(self):
        kind = BOOK.archetypes["cordless-two-filter"]
        ring = Item(uuid4(), "ring foam", "Ring", State.FITTED)
        job = Job(MACHINE, kind, (Chosen("rear-ring", Action.WASH, ring),))
        self.assertEqual((build([job], BOOK, AtTheBench(Skill.SCREWS)).tools), ())


class Besides(SimpleTestCase):
    """Something extra becomes a step of an open sheet, while what it lies behind is open."""

    def setUp(self):
        self.task = chosen("bristle-roller", Action.DE_HAIR)
        self.sheet, self.items = sheet_of([self.task]), items_of([self.task])
        self.extra = chosen("guard", Action.CLEAN)
        self.job = Job(MACHINE, ROBOT, (self.extra,))

    def answered(self, upto):
        keys = [step.key for step in self.sheet.steps]
        return keys[: keys.index(upto) + 1]

    def test_before_it_closes_and_after_what_was_answered(self):
        made = with_extra(self.sheet, self.job, self.answered("bristle-roller.de_hair.fit"))
        keys = [step.key for step in made.steps]
        self.assertEqual(keys.index("guard.clean.extra") + 1, keys.index("brush-cover.close"))
        self.assertEqual(made.minutes, self.sheet.minutes + 1)
        _, end = work(made, {**self.items, self.extra.item.id: self.extra.item}, yes)
        self.assertIn(Action.CLEAN, [done.action for done in end.done])

    def test_not_twice_and_not_once_it_is_shut(self):
        made = with_extra(self.sheet, self.job, ())
        for sheet, answered in ((made, ()), (self.sheet, self.answered("brush-cover.close"))):
            with self.assertRaises(InvalidValue):
                with_extra(sheet, self.job, answered)

    def test_not_where_a_gate_was_not_passed(self):
        made = with_extra(self.sheet, self.job, ())
        step, gates = made.step("guard.clean.extra"), [s.key for s in made.steps if s.kind is StepKind.GATE]
        opened = dict.fromkeys([*gates, "brush-cover.open"], "done")
        self.assertTrue(applies(step, opened))
        for gate in gates:
            self.assertFalse(applies(step, {**opened, gate: SKIP}), "a step back to the gate takes it away")

    def test_not_once_it_is_shut_without_what_dries(self):
        wet = sheet_of([chosen("rubber-roller", Action.WASH)])
        self.assertTrue(with_extra(wet, self.job, ()))
        with self.assertRaises(InvalidValue):
            with_extra(wet, self.job, ["brush-cover.close-without"])


class ForThisHousehold(SimpleTestCase):
    """What goes further than they go is handed over; dust and small parts are minded where it matters."""

    upright = WASHABLE["upright-belt"]

    def sheet(self, home, action=Action.DE_HAIR, new=None):
        roll = self.upright.slot("roll")
        item = Item(uuid4(), roll.part, roll.name, State.FITTED, machine_id=uuid4(), slot="roll")
        return sheet_of([Chosen("roll", action, item, new_item_id=new)], self.upright, home), item

    def test_screws_are_handed_over_where_nobody_undoes_them_and_the_answer_records_it(self):
        sheet, item = self.sheet(AtTheBench(Skill.MODULES))
        kinds = [step.kind for step in sheet.steps]
        self.assertEqual(kinds, [StepKind.GATE, StepKind.HAND_OVER])
        answers = [Answer(step.key, "done", START) for step in sheet.steps]
        progress = follow(sheet, {item.id: item}, answers)
        self.assertEqual([(d.slot, d.action) for d in progress.done], [("roll", Action.DE_HAIR)])
        self.assertEqual((progress.items[item.id].state, progress.items[item.id].cleanings), (State.FITTED, 1))
        self.assertIn(StepKind.OPEN, [step.kind for step in self.sheet(AtTheBench(Skill.SCREWS))[0].steps])

    def test_a_part_that_somebody_else_replaced_is_the_new_one(self):
        new = Item(uuid4(), "brush roll", "Brush roll", State.READY)
        sheet, item = self.sheet(AtTheBench(Skill.MODULES), Action.REPLACE, new.id)
        answers = [Answer(step.key, "done", START) for step in sheet.steps]
        progress = follow(sheet, {item.id: item, new.id: new}, answers)
        self.assertEqual([progress.items[i].state for i in (item.id, new.id)], [State.RETIRED, State.FITTED])

    def test_children_mean_that_screws_are_kept_shut_away(self):
        opened = next(s for s in self.sheet(AtTheBench(little_ones=True))[0].steps if s.kind is StepKind.OPEN)
        self.assertIn("small-parts", opened.cautions)
        opened = next(s for s in self.sheet(AtTheBench())[0].steps if s.kind is StepKind.OPEN)
        self.assertNotIn("small-parts", opened.cautions)

    def test_an_allergy_changes_the_caution_of_dusty_steps(self):
        filter_ = ROBOT.slot("filter")
        item = Item(uuid4(), filter_.part, filter_.name, State.FITTED)
        for home, caution in ((AtTheBench(allergy=True), "dust-allergy"), (AtTheBench(), "dust")):
            steps = sheet_of([Chosen("filter", Action.WASH, item)], home=home).steps
            self.assertIn(caution, [key for step in steps for key in step.cautions])

    def test_what_throws_dust_is_known_with_an_allergy_as_without(self):
        """Where a part is cleaned dry and dusty, what a new one costs is shown: not less where somebody is allergic."""
        dusty = {}
        for allergy in (False, True):
            for kind in BOOK.archetypes.values():
                slots = [slot for slot in kind.slots if any(rule.action is Action.CLEAN for rule in slot.rules)]
                tasks = [Chosen(s.key, Action.CLEAN, Item(uuid4(), s.part, s.name, State.FITTED)) for s in slots]
                steps = sheet_of(tasks, kind=kind, home=AtTheBench(allergy=allergy)).steps if tasks else ()
                dusty.setdefault(allergy, set()).update((kind.key, step.slot) for step in steps if step.is_dusty)
        self.assertEqual(dusty[True], dusty[False])
        self.assertGreater(len(dusty[True]), 5)

    def test_tools_they_said_they_lack_are_marked(self):
        sheet, _ = self.sheet(AtTheBench(tools=frozenset({"cross"})))
        self.assertIn("hair-blade", sheet.lacking)
        self.assertNotIn("cross", sheet.lacking)
        self.assertEqual(self.sheet(AtTheBench())[0].lacking, ())


class Screws(SimpleTestCase):
    """Counted out and in: an opening is closed only with as many as came out of it."""

    def sheet(self, skill=Skill.SCREWS):
        item = Item(uuid4(), "side brush", "Side brush", State.FITTED, START, MACHINE, "side-brush")
        task = Chosen("side-brush", Action.DE_HAIR, item)
        job = Job(MACHINE, BOOK.archetypes["robot-mop"], (task,))
        return build([job], BOOK, AtTheBench(skill=skill)), {item.id: item}

    def closed_with(self, number):
        sheet, items = self.sheet()

        def say(step):
            counted = number if step.kind is StepKind.CLOSE else 2
            return f"screws:{counted}" if step.counts else yes(step)

        return work(sheet, items, say)[1]

    def test_as_many_go_in_as_came_out(self):
        self.assertIsNone(self.closed_with(2).current)
        for number in (1, 3):
            with self.assertRaises(InvalidValue) as refused:
                self.closed_with(number)
            self.assertEqual(refused.exception.field, "answer")

    def test_without_the_skill_for_screws_the_part_is_handed_over_and_nothing_is_opened(self):
        kinds = {step.kind for step in self.sheet(Skill.MODULES)[0].steps}
        self.assertIn(StepKind.HAND_OVER, kinds)
        self.assertNotIn(StepKind.OPEN, kinds)


class FoundOnTheWay(SimpleTestCase):
    def look(self, kind, slot, action, value):
        known = BOOK.archetypes[kind].slot(slot)
        item = Item(uuid4(), known.part, known.name, State.FITTED, START, MACHINE, known.key)
        sheet = build([Job(MACHINE, BOOK.archetypes[kind], (Chosen(slot, action, item),))], BOOK)

        def say(step):
            return value if step.kind is StepKind.LOOK else yes(step)

        return work(sheet, {item.id: item}, say)[1]

    def test_something_else_at_a_look_makes_another_task_due(self):
        [saw] = self.look("canister-bagless", "hose", Action.INSPECT, "replace:due").saw
        self.assertEqual((saw.about, saw.found), (Action.REPLACE, Found.DUE))

    def test_a_danger_at_a_look_ends_what_comes_after_it(self):
        progress = self.look("upright-belt", "cord", Action.INSPECT, "danger:cord")
        self.assertIsNone(progress.current)
        self.assertEqual((progress.done, progress.saw), ([], []))
        after = [step for step, said in progress.said.items() if not step.startswith("gate.")]
        self.assertEqual(len(after), 1, "the look itself, and nothing after it")

    def test_a_failed_test_leaves_the_work_due_or_a_new_part(self):
        for value, about in (("fail", Action.DE_HAIR), ("replace:due", Action.REPLACE)):
            known = BOOK.archetypes["robot-mop"].slot("side-brush")
            item = Item(uuid4(), known.part, known.name, State.FITTED, START, MACHINE, known.key)
            job = Job(MACHINE, BOOK.archetypes["robot-mop"], (Chosen("side-brush", Action.DE_HAIR, item),))

            def say(step, value=value):
                return value if step.kind is StepKind.TEST else yes(step)

            saw = work(build([job], BOOK), {item.id: item}, say)[1].saw[-1]
            self.assertEqual((saw.about, saw.found), (about, Found.DUE))

    def test_a_new_part_that_fails_its_test_is_due_again(self):
        known, new = BOOK.archetypes["robot-mop"].slot("side-brush"), uuid4()
        old = Item(uuid4(), known.part, known.name, State.FITTED, START, MACHINE, known.key)
        task = Chosen("side-brush", Action.REPLACE, old, new_item_id=new)
        sheet = build([Job(MACHINE, BOOK.archetypes["robot-mop"], (task,))], BOOK)
        items = {old.id: old, new: Item(new, known.part, known.name, State.READY)}

        def say(step):
            return "fail" if step.kind is StepKind.TEST else yes(step)

        saw = work(sheet, items, say)[1].saw[-1]
        self.assertEqual((saw.item_id, saw.about, saw.found), (new, Action.REPLACE, Found.DUE))
