"""Whole visits at random: any machines, any tasks, any answers, over days, through the item state machine."""

from dataclasses import replace
from datetime import timedelta
from uuid import UUID, uuid4

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from care.bench import Answer, Chosen, Job, StepKind, build, build_refit, follow
from care.bench.bundles import tasks as bundle_tasks
from care.bench.links import applies
from care.bench.progress import ahead
from care.bench.steps import SKIP, danger_in
from care.items import Item, State
from care.vocabulary import Action, School
from tests.care.world import BOOK, DAY, START, WASHABLE
from tests.effort import examples

KINDS = sorted(BOOK.archetypes)
WATER = (StepKind.WASH, StepKind.RACK)
IN_HAND = (StepKind.CLEAN, StepKind.WASH, StepKind.RETIRE)


class House:
    """Machines with a part in every place, worked on by whoever answers."""

    def __init__(self, kinds):
        self.kinds = {UUID(int=n + 1): WASHABLE[kind] for n, kind in enumerate(kinds)}
        self.items, self.now = {}, START + DAY
        for machine_id, kind in self.kinds.items():
            for slot in kind.slots:
                self.add(Item(uuid4(), slot.part, slot.name, State.FITTED, START, machine_id, slot.key))

    def add(self, item):
        self.items[item.id] = item
        return item

    def fitted(self, machine_id):
        return {i.slot: i for i in self.items.values() if i.machine_id == machine_id and i.state is State.FITTED}

    def job(self, machine_id, picks, spares):
        kind, fitted = self.kinds[machine_id], self.fitted(machine_id)
        chosen = []
        for slot_key, action in picks:
            slot = kind.slot(slot_key)
            if slot_key not in fitted or (action is Action.SWAP and slot.swaps_with not in fitted):
                continue
            spare = self.add(Item(uuid4(), slot.part, "Spare", State.READY, START)) if spares else None
            new = self.add(Item(uuid4(), slot.part, "New", State.READY)).id if action is Action.REPLACE else None
            partner = fitted[slot.swaps_with] if action is Action.SWAP else None
            chosen.append(Chosen(slot_key, action, fitted[slot_key], spare, new, partner))
        return Job(machine_id, kind, tuple(chosen), frozenset(s.key for s in kind.slots if s.key not in fitted))

    def work(self, sheet, say):
        """Answer every step, a minute each; gives the answers with the state after each."""
        given, after = [], []
        progress = follow(sheet, self.items, [])
        while (step := progress.current) is not None:
            self.now += timedelta(minutes=1)
            value = say(step)
            given.append(Answer(step.key, value, self.now, "a reason" if value == SKIP else ""))
            progress = follow(sheet, self.items, given)
            after.append((step, value, progress))
        self.items = progress.items
        return after

    def wet(self, machine_id, slots):
        """What rests now and belongs to one of these places."""
        by_part = {slot.part: slot.key for slot in self.kinds[machine_id].slots if slot.key in slots}
        return [
            (by_part[item.part], item)
            for item in self.items.values()
            if item.state is State.DRYING and item.part in by_part
        ]


def tasks_of(kind):
    return [(slot.key, rule.action) for slot in WASHABLE[kind].slots for rule in slot.rules]


@st.composite
def visits(draw):
    """Up to three machines with some of their tasks each, and whether dry spares lie ready."""
    kinds = draw(st.lists(st.sampled_from(KINDS), min_size=1, max_size=3))
    picks = [draw(st.lists(st.sampled_from(tasks_of(kind)), min_size=1, max_size=8, unique=True)) for kind in kinds]
    return kinds, picks, draw(st.booleans())


class AnyVisit(SimpleTestCase):
    @examples(200)
    @given(visits(), st.data())
    def test_is_safe_and_whole_over_both_sittings_however_it_is_answered(self, visit, data):
        kinds, picks, spares = visit
        house = House(kinds)
        jobs = [house.job(m, mine, spares) for m, mine in zip(house.kinds, picks, strict=True)]

        def say(step):
            return data.draw(st.sampled_from(step.answers), label=step.key)

        sheet = build([job for job in jobs if job.chosen], BOOK)
        self.check(house, sheet, house.work(sheet, say))
        for machine_id, kind in house.kinds.items():
            self.refit(house, machine_id, kind, say)

    def refit(self, house, machine_id, kind, say):
        """Days later, all of one machine that hangs on the rack and whose place is still empty."""
        house.now += 30 * DAY
        empty = {slot.key for slot in kind.slots} - set(house.fitted(machine_id))
        back = dict(house.wet(machine_id, empty))
        if back:
            chosen = tuple(Chosen(slot, Action.WASH, item) for slot, item in back.items())
            sheet = build_refit([Job(machine_id, kind, chosen, frozenset(empty))], BOOK)
            self.check(house, sheet, house.work(sheet, say))

    def check(self, house, sheet, after):
        safe, out, ended = set(), set(), set()
        for step, value, progress in after:
            where = f"{step.key}={value}"
            if step.kind is StepKind.GATE:
                first = step.machine_id not in safe
                safe.add(step.machine_id)
                if danger_in(value) or (first and value == SKIP):
                    ended.add(step.machine_id)
                continue
            self.assertIn(step.machine_id, safe, where)
            self.assertNotIn(step.machine_id, ended, f"{where} after a danger, or where it was not made safe")
            if value == SKIP:
                continue
            if step.kind is StepKind.TAKE_OUT or (step.kind is StepKind.OPEN and step.item_id):
                out.add(step.item_id)
            if step.kind in IN_HAND:
                self.assertIn(step.item_id, out, where)
            if step.kind is StepKind.POWER:
                self.assert_whole(house, step.machine_id, progress)
        self.assert_nothing_left(house, progress)

    def assert_nothing_left(self, house, progress):
        """Nothing lies about wet, went back damp, or stands open but for the part that closes it."""
        for item in house.items.values():
            self.assertNotEqual(item.state, State.WASHED, "all that is wet hangs")
            self.assertFalse(item.state is State.FITTED and item.damp_until, "nothing damp went back in")
        for machine_id, opening in progress.open:
            door = house.kinds[machine_id].opening(opening).part
            self.assertNotIn(door, house.fitted(machine_id), "what stands open waits for the part that closes it")

    def assert_whole(self, house, machine_id, progress):
        """Closed, and a dry part in every place that the machine needs."""
        self.assertEqual([way for way in progress.open if way[0] == machine_id], [])
        fitted = {i.slot for i in progress.items.values() if i.machine_id == machine_id and not i.damp_until}
        needed = {slot.key for slot in house.kinds[machine_id].slots if slot.needed_to_run}
        self.assertEqual(needed - fitted, set())

    @examples(60)
    @given(visits())
    def test_goes_to_the_sink_once_longest_drying_first_and_each_opening_is_opened_once(self, visit):
        kinds, picks, spares = visit
        house = House(kinds)
        jobs = [house.job(m, mine, spares) for m, mine in zip(house.kinds, picks, strict=True)]
        steps = build(jobs, BOOK).steps
        keys = [step.key for step in steps]
        self.assertEqual(len(keys), len(set(keys)))
        wet = [n for n, step in enumerate(steps) if step.kind in WATER or step.key.endswith(".until")]
        self.assertEqual(wet, list(range(wet[0], wet[-1] + 1)) if wet else [])
        hours = [BOOK.drying[step.drying].reference_h for step in steps if step.kind is StepKind.WASH]
        self.assertEqual(hours, sorted(hours, reverse=True))
        opened = [(step.machine_id, step.opening) for step in steps if step.kind is StepKind.OPEN]
        self.assertEqual(len(opened), len(set(opened)))
        told = follow(build(jobs, BOOK), house.items, [])
        self.assertTrue(all(step.answers for step in ahead(build(jobs, BOOK), told)))


class WhenAStepApplies(SimpleTestCase):
    """The rule that the web app has as well, for a sheet worked on without a connection."""

    def step(self, **when):
        job = House(["robot-two-roller"]).job(UUID(int=1), [("wheels", Action.WIPE)], False)
        return replace(build([job], BOOK).steps[-1], **{"needs": (), **when})

    def test_needs_are_done_not_skipped_and_not_damp(self):
        step = self.step(needs=("out",))
        said = [{}, {"out": "skip"}, {"out": "damp"}, {"out": "done"}]
        self.assertEqual([applies(step, one) for one in said], [False, False, False, True])

    def test_an_alternative_waits_for_its_answer(self):
        step = self.step(only_if=("do", "skip"))
        self.assertEqual([applies(step, s) for s in ({}, {"do": "done"}, {"do": "skip"})], [False, False, True])

    def test_power_waits_until_every_place_is_filled_again(self):
        step = self.step(whole=(("out", "fit", "fit-other"),))
        said = [
            {},
            {"out": "skip"},
            {"out": "done"},
            {"out": "done", "fit": "skip"},
            {"out": "done", "fit-other": "done"},
        ]
        self.assertEqual([applies(step, one) for one in said], [True, True, False, False, True])


class SeveralMachines(SimpleTestCase):
    def sheet(self, *wanted):
        house = House([kind for kind, _ in wanted])
        return build([house.job(m, picks, False) for m, (_, picks) in zip(house.kinds, wanted, strict=True)], BOOK)

    def test_one_that_stays_dry_is_finished_before_the_others_are_opened_for_the_sink(self):
        sheet = self.sheet(
            ("cordless-one-filter", [("filter", Action.WASH)]),
            ("robot-two-roller", [("caster", Action.DE_HAIR)]),
            ("canister-bagless", [("lid-filter", Action.WASH)]),
        )
        first = [int(step.key[0]) for step in sheet.steps]
        self.assertEqual(list(dict.fromkeys(first)), [2, 1, 3])
        self.assertEqual(max(n for n, one in enumerate(first) if one == 2), first.count(2) - 1)

    def test_each_has_its_own_gate_and_minutes_add_up_with_each_opening_once(self):
        sheet = self.sheet(
            ("robot-two-roller", [("bristle-roller", Action.DE_HAIR), ("rubber-roller", Action.DE_HAIR)]),
            ("robot-belt", [("sensors", Action.WIPE)]),
        )
        gates = [step.key for step in sheet.steps if step.kind is StepKind.GATE]
        self.assertEqual(gates, ["1.gate.robot-off", "2.gate.robot-off"])
        self.assertEqual(sheet.minutes, 4 + 3 + 1 + 2)

    def test_what_is_ticked_one_by_one_stands_on_its_step(self):
        sheet = self.sheet(("cordless-two-filter", [("rear-ring", Action.WASH)]))
        self.assertIn("wires", " ".join(sheet.step("rear-cowl.open").each))
        sensors = self.sheet(("robot-two-roller", [("sensors", Action.WIPE)])).step("sensors.wipe.do")
        self.assertEqual(len(sensors.each), 5)

    def test_dry_wipes_come_after_the_sink(self):
        sheet = self.sheet(("robot-two-roller", [("sensors", Action.WIPE), ("filter", Action.WASH)]))
        keys = [step.key for step in sheet.steps]
        self.assertGreater(keys.index("sensors.wipe.do"), keys.index("filter.wash.rack"))


class AgainstAComplaint(SimpleTestCase):
    def tasks(self, key, kind):
        bundle = next(b for b in BOOK.bundles if b.key == key)
        chosen = bundle_tasks(bundle, WASHABLE[kind], frozenset(), School.WORKSHOP)
        return [(slot.key, action) for slot, action in chosen]

    def test_a_smell_washes_filters_and_bin_and_leaves_the_hose_dry(self):
        chosen = self.tasks("smell", "upright-belt")
        self.assertIn(("foam", Action.WASH), chosen)
        self.assertIn(("bin", Action.WASH), chosen)
        self.assertNotIn(("bin", Action.WIPE), chosen, "a wash makes it needless")
        self.assertNotIn(("hose", Action.WASH), chosen)
        self.assertIn(("roll", Action.WIPE), chosen)

    def test_poor_pick_up_follows_the_air_and_replaces_nothing(self):
        chosen = self.tasks("weak", "canister-bagless")
        self.assertLessEqual({"bin", "cyclone", "lid-filter", "hose"}, {slot for slot, _ in chosen})
        self.assertFalse({Action.REPLACE, Action.SWAP} & {action for _, action in chosen})

    def test_every_kind_of_machine_that_sucks_can_be_planned_so(self):
        for kind in KINDS:
            house = House([kind])
            picks = self.tasks("weak", kind)
            if not BOOK.archetypes[kind].serves:
                self.assertTrue(build([house.job(UUID(int=1), picks, False)], BOOK).steps, kind)


class OnePartSeveralTasks(SimpleTestCase):
    def keys(self, *picks):
        job = House(["robot-two-roller"]).job(UUID(int=1), picks, False)
        return [step.key for step in build([job], BOOK).steps if step.slot]

    def test_comes_out_once_is_freed_of_hair_then_washed(self):
        keys = self.keys(("rubber-roller", Action.WASH), ("rubber-roller", Action.DE_HAIR))
        self.assertEqual([k for k in keys if k.endswith(".out")], ["rubber-roller.wash.out"])
        self.assertLess(keys.index("rubber-roller.wash.do-de_hair"), keys.index("rubber-roller.wash.do"))

    def test_a_bin_that_is_washed_comes_off_as_its_opening_and_waits_on_the_rack(self):
        house = House(["cordless-one-filter"])
        job = house.job(UUID(int=1), [("bin", Action.WIPE), ("bin-seal", Action.WIPE)], False)
        sheet = build([job], BOOK)
        after = house.work(sheet, lambda step: step.answers[0])
        self.assertNotIn(StepKind.POWER, [step.kind for step, _, _ in after])
        self.assertNotIn("bin", house.fitted(UUID(int=1)))
        kind, [(slot, item)] = house.kinds[UUID(int=1)], house.wet(UUID(int=1), {"bin"})
        house.now += 2 * DAY
        back = build_refit([Job(UUID(int=1), kind, (Chosen(slot, Action.WIPE, item),), frozenset({"bin"}))], BOOK)
        self.assertNotIn(StepKind.OPEN, [step.kind for step in back.steps])
        house.work(back, lambda step: step.answers[0])
        self.assertIn("bin", house.fitted(UUID(int=1)))
