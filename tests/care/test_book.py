"""The care book: it loads, it is complete, and a bad file says where and why."""

import re
import shutil
import tempfile
from dataclasses import replace
from datetime import timedelta
from functools import cache
from pathlib import Path
from uuid import uuid4

from django.test import SimpleTestCase

from care.bench import Answer, Chosen, Job, build, follow
from care.bench.pieces import PHASE
from care.book.loader import HERE, load_book
from care.due import Facts, Past, UsageLog, agenda, assess, assess_machine
from care.due.agenda import Task, minutes
from care.due.chambers import chambers
from care.errors import BookError
from care.items import Fitting, Item, State
from care.model import Inspection, Level, Load, Machine
from care.vocabulary import Action, Figure, Found, Meter, School
from tests.care.world import BOOK, DAY, MACHINE, ROBOT, START, WASHABLE, context, fact, runs


def robot(now, done=(), without=()):
    """The robot with all parts new at START, and its due states."""
    parts = [s for s in ROBOT.parts(frozenset()) if s.key not in without]
    items = {s.key: Item(uuid4(), s.part, s.name, State.FITTED, START) for s in parts}
    fittings = [Fitting(item.id, MACHINE, key, START) for key, item in items.items()]
    machine = Machine(MACHINE, "Robot", ROBOT, {key: item.id for key, item in items.items()})
    by_id = {item.id: item for item in items.values()}
    due = assess_machine(machine, Facts(by_id, fittings=fittings, services=[]), context(done, now=now))
    return machine, due


HOW_TO = Path(__file__).resolve().parents[2] / "web/src/lib/words/howto.ts"
ALL_DOCKS = frozenset(feature for archetype in BOOK.archetypes.values() for feature in archetype.provides)


def walk():
    """Every rule of the book at every school that has it: (archetype, slot, rule, school)."""
    for archetype in BOOK.archetypes.values():
        for part in archetype.slots:
            for a_rule in part.rules:
                for school in School:
                    if a_rule.at_school(school):
                        yield archetype, part, a_rule, school


@cache
def circumstances(days, school, load):
    """A daily hour for so many days, each with a mop run and a fill; shared, so that its futures are drawn once."""
    done = [replace(run, mopped=True) for run in runs(days, minutes=60)]
    usage = UsageLog(done, emptied=[run.counts_at for run in done], minutes_per_charge=20)
    return context(now=START + timedelta(days=days, hours=2), usage=usage, school=school, load=load)


def state_of(part, a_rule, school, *, days=0, found=None, load=None, washes=0):
    """How one rule of a part stands after so many days, with `found` told in the last hour."""
    item = Item(uuid4(), part.part, part.name, State.FITTED, START, wash_count=washes)
    about = a_rule.about or a_rule.action
    at = START + timedelta(days=days, hours=1.5)
    looks = [Inspection(item.id, part.key, about, found, at)] if found else []
    past = Past([Fitting(item.id, MACHINE, part.key, START)], [], looks)
    features = frozenset({a_rule.only_with} - {None})
    made = assess(part, item, past=past, context=circumstances(days, school, load), features=features)
    return next(state for state in made if state.action is a_rule.action)


class EveryRule(SimpleTestCase):
    """Walks the whole book; what changes no output has no place in it."""

    def every(self, check):
        for archetype, part, a_rule, school in walk():
            with self.subTest(f"{archetype.key} {part.key} {a_rule.action} {school}"):
                check(part, a_rule, school)

    def test_makes_some_household_due(self):
        def check(part, a_rule, school):
            old = state_of(part, a_rule, school, days=3700, washes=60, found=Found.OVERDUE)
            self.assertTrue(old.is_due)

        self.every(check)

    def test_is_not_due_when_new_and_gives_its_reason(self):
        def check(part, a_rule, school):
            new = state_of(part, a_rule, school)
            self.assertFalse(new.is_due)
            self.assertTrue(fact(new, "book").reason)
            self.assertGreater(fact(new, "trigger").limit, 0)

        self.every(check)

    def test_moves_by_what_is_found(self):
        """Whatever its figures and the school: what somebody finds makes it due, and what looks fine is not due."""

        def check(part, a_rule, school):
            if a_rule.action in (Action.INSPECT, Action.SWAP):
                return
            for days in (1, 400):
                fine, found = (
                    state_of(part, a_rule, school, days=days, found=answer) for answer in (Found.LIGHT, Found.DUE)
                )
                self.assertTrue(found.is_due)
                counts = fact(fine, "trigger").meter in (Meter.WASHES, Meter.MISHAPS)
                self.assertTrue(counts or not fine.is_due)

        self.every(check)

    def test_moves_with_the_load_it_names(self):
        def check(part, a_rule, school):
            if a_rule.moved_by is None or all(t.low == t.high for t in a_rule.at_school(school).triggers):
                return
            loads = [Load(x, x, x) for x in (0.0, 1.0)]
            little, much = (
                max(c.share for c in state_of(part, a_rule, school, days=5, load=load).clocks) for load in loads
            )
            capped = school is School.LABEL and a_rule.figure is Figure.PRINTED
            (self.assertLessEqual if capped else self.assertLess)(little, much)

        self.every(check)

    def test_says_why_a_school_differs_and_moves_a_date_by_it(self):
        def check(part, a_rule, school):
            if school not in a_rule.schools:
                return
            self.assertTrue(fact(state_of(part, a_rule, school), "school").why)
            plain = replace(a_rule, schools={})
            without = replace(part, rules=tuple(plain if r is a_rule else r for r in part.rules))
            ours, theirs = (state_of(p, r, school, days=45) for p, r in ((part, a_rule), (without, plain)))
            self.assertNotEqual((ours.due, ours.clocks), (theirs.due, theirs.clocks))

        self.every(check)

    def test_has_a_place_in_the_order_of_a_service_and_a_card(self):
        def check(part, a_rule, school):
            self.assertIn(a_rule.action, PHASE)
            self.assertTrue(a_rule.card.how)

        self.every(check)


class EveryKind(SimpleTestCase):
    def test_of_the_job_is_there(self):
        self.assertEqual(len(BOOK.archetypes), 19)

    def test_an_unknown_one_is_offered_beside_the_known_of_its_shape_with_wider_dates(self):
        for key, known in (("any-cylinder", "canister-bagged"), ("any-robot", "robot-belt")):
            unknown = BOOK.archetypes[key]
            self.assertEqual(unknown.traits["moves"], BOOK.archetypes[known].traits["moves"])
            pairs = 0
            for slot in unknown.slots:
                twin = next((one for one in BOOK.archetypes[known].slots if one.use == slot.use), None)
                rules = {one.action: one for one in twin.over.wet_rules} if twin else {}
                for mine, its in ((one, rules.get(one.action, one)) for one in slot.over.wet_rules):
                    for wide, told in zip(mine.triggers, its.triggers, strict=False):
                        self.assertTrue(wide.low <= told.low and wide.high >= told.high, (slot.key, mine.action))
                        pairs += wide.low < told.low
                        self.assertTrue(wide.high == told.high or not mine.never_stretch, (slot.key, mine.action))
            self.assertGreater(pairs, 2)

    def test_can_be_worked_on_part_by_part_to_the_end(self):
        """Every task, alone on a sheet: it ends, all that is opened is closed, the task counts as done."""
        for archetype, part, a_rule, _ in walk():
            with self.subTest(f"{archetype.key} {part.key} {a_rule.action}"):
                item = Item(uuid4(), part.part, part.name, State.FITTED, START, machine_id=MACHINE, slot=part.key)
                other = replace(item, id=uuid4(), slot=part.swaps_with) if part.swaps_with else None
                chosen = Chosen(part.key, a_rule.action, item, new_item_id=uuid4(), partner=other)
                sheet = build([Job(MACHINE, archetype, (chosen,))], BOOK)
                items = {i.id: i for i in (item, other) if i}
                items[chosen.new_item_id] = Item(chosen.new_item_id, part.part, "new", State.READY)
                progress = follow(sheet, items, answers(sheet, items))
                self.assertIsNone(progress.current)
                wet = part.drying_of(chosen.action) is not None
                doors = {way.key for way in archetype.openings if way.part == part.key and wet}
                self.assertEqual({key for _, key in progress.open}, doors, "open but for a part that dries")
                self.assertIn(a_rule.action, [done.action for done in progress.done])

    def test_names_each_tool_that_its_sheet_takes(self):
        rolls = BOOK.archetypes["upright-belt"]
        roll = rolls.slot("roll")
        task = Chosen("roll", Action.DE_HAIR, Item(uuid4(), roll.part, roll.name, State.FITTED))
        sheet = build([Job(MACHINE, rolls, (task,))], BOOK)
        self.assertEqual(sheet.tools, ("cross", "tray", "hair-blade", "comb", "tweezers", "cloth"))
        self.assertIn("Count the screws out", sheet.step("base-plate.open").text[1])
        self.assertIn("As many screws in", sheet.step("base-plate.close").text[1])


def answers(sheet, items):
    """A yes to every step as it comes, an hour apart."""
    given = []
    for n in range(60):
        step = follow(sheet, items, given).current
        if step is None:
            return given
        value = next(v for v in ("done", "light", "dry", "pass", "screws:1") if v in step.answers)
        given.append(Answer(step.key, value, START + timedelta(hours=n + 1)))
    raise AssertionError("the sheet never ends")


class AMadeUpKind(SimpleTestCase):
    """A new kind of machine is one file: no line of code. The file is the example of docs/care-book.md."""

    def test_is_assessed_drawn_and_worked_on(self):
        folder = shipped_copy(self)
        page = (HERE.parents[1] / "docs" / "care-book.md").read_text()
        (folder / "archetypes" / "puffer.toml").write_text(page.split("```toml")[1].split("```")[0])
        puffer = load_book(folder).archetypes["puffer"]
        items = {s.key: Item(uuid4(), s.part, s.name, State.FITTED, START) for s in puffer.slots}
        machine = Machine(MACHINE, "Puffer", puffer, {key: item.id for key, item in items.items()})
        fittings = [Fitting(item.id, MACHINE, key, START) for key, item in items.items()]
        by_id = {item.id: item for item in items.values()}
        circumstances = context(runs(4, minutes=60), now=START + 5 * DAY)
        due = assess_machine(machine, Facts(by_id, fittings=fittings, services=[]), circumstances)
        self.assertEqual([(s.slot, s.action) for s in due if s.is_due], [("sock", Action.EMPTY)])
        self.assertEqual([c.level for c in chambers(machine, due, {})], [Level.OVERDUE])
        sheet = build([Job(MACHINE, puffer, (Chosen("sock", Action.EMPTY, items["sock"]),))], BOOK)
        self.assertEqual([step.kind for step in sheet.steps][:3], ["gate", "gate", "take_out"])


class TheAgenda(SimpleTestCase):
    def setUp(self):
        self.tasks = [Task(MACHINE, ROBOT, state) for state in robot(START + 35 * DAY, runs(35))[1]]
        self.agenda = agenda(self.tasks)

    def test_puts_safety_before_the_motor_before_stops_before_pick_up(self):
        stakes = [task.state.stake for task in self.agenda.due]
        self.assertEqual(stakes, sorted(stakes))
        self.assertEqual(self.agenda.due[0].state.slot, "sensors")

    def test_counts_an_opening_once(self):
        rollers = [t for t in self.agenda.due if t.opening == "brush-cover"]
        self.assertEqual(minutes(rollers), 4 + 3 + 1 + 1, "both rollers, their guard, the cover once")

    def test_does_not_clean_what_is_to_be_replaced(self):
        old = agenda(Task(MACHINE, ROBOT, state) for state in robot(START + 800 * DAY, runs(800))[1])
        filters = [t.state.action for t in old.due if t.state.slot == "filter"]
        self.assertEqual(filters, [Action.REPLACE])

    def test_what_is_coming_stands_by_date(self):
        dates = [task.state.due_on for task in self.agenda.coming]
        self.assertEqual(dates, sorted(dates))


class Drawings(SimpleTestCase):
    def test_every_drawing_that_the_book_names_is_there_and_every_one_there_is_named(self):
        drawn = set(re.findall(r"^  '?([a-z-]+)'?: \{$", HOW_TO.read_text(), re.MULTILINE))
        named = {way.drawing for kind in BOOK.archetypes.values() for way in kind.openings}
        for kind in BOOK.archetypes.values():
            named |= {slot.drawing for slot in kind.slots}
            named |= {rule.card.drawing for slot in WASHABLE[kind.key].slots for rule in slot.rules}
        self.assertEqual(named - {""}, drawn)


class TheStrip(SimpleTestCase):
    def test_shows_the_worst_of_each_station_and_each_part_beside_it(self):
        made = chambers(*robot(START + 20 * DAY, runs(20)), {})
        self.assertEqual([c.key for c in made[:5]], ["bay", "bin", "filter", "fan", "outlet"])
        self.assertEqual(made[3].level, None)
        self.assertEqual(
            [c.key for c in made[5:]], ["side-brush", "caster", "wheels", "sensors", "contacts", "holder", "bumper"]
        )
        self.assertEqual((made[1].level, made[1].fill), (Level.OVERDUE, 1.0))

    def test_shows_a_part_on_the_rack_as_drying_until_it_is_back(self):
        wet = Item(uuid4(), "filter", "Filter", State.DRYING, START, damp_until=START + DAY)
        made = {c.key: c for c in chambers(*robot(START, without=("filter",)), {"filter": wet})}
        self.assertEqual((made["filter"].level, made["filter"].ready_at), (Level.DRYING, START + DAY))
        gone = {c.key: c for c in chambers(*robot(START, without=("filter",)), {})}
        self.assertEqual(gone["filter"].level, Level.MISSING)


def shipped_copy(test):
    """The shipped book in a folder of its own."""
    folder = Path(tempfile.mkdtemp())
    test.addCleanup(shutil.rmtree, folder)
    shutil.copytree(HERE, folder, dirs_exist_ok=True, ignore=shutil.ignore_patterns("*.py", "__pycache__"))
    return folder


WOOL = '[[kinds]]\nkey = "wool"\nname = "wool"\ndry = ["Air it."]\ndisposal = "Rags."\n\n'


class ABadFile(SimpleTestCase):
    """Each change breaks a shipped file in one way; the message names the file of the kind, the key and the reason."""

    KIND, PART = "archetypes/robot-two-roller.toml", "parts/robot.toml"
    # fmt: off
    CHANGES = {
        "a key nobody reads": (
            KIND,
            'name = "Robot',
            'colour = "red"\nname = "Robot',
            "colour",
            "no engine reads this",
        ),
        "a nested key": (PART, "effort_min = 4.0", "effort_min = 4.0\nmood = 1", "card.mood", "no engine reads"),
        "a missing key": (KIND, 'make_safe = "robot-off"\n', "", "make_safe", "required"),
        "an answer nobody offers": (KIND, 'moves = "itself"', 'moves = "by air"', "traits.moves", "no question"),
        "two kinds alike": (KIND, 'brush = "two"', 'brush = "belt"', "traits", "answers every question alike"),
        "an unknown mishap": (PART, 'after = ["sticky", "wet"]', 'after = ["loud"]', "after", "sticky"),
        "a wrong word": (KIND, 'column = "bin"', 'column = "attic"', "stations.1.column", "floor"),
        "a wrong number": (KIND, "setup_min = 1.0", 'setup_min = "long"', "openings.0.setup_min", "number"),
        "a range upside down": (PART, "low = 7.0, high = 14.0", "low = 14.0, high = 7.0", "triggers", "at least"),
        "a negative figure": (PART, "low = 7.0, high = 14.0", "low = -7.0, high = 14.0", "triggers.0", "more than"),
        "no trigger": (PART, '[{ meter = "runs", low = 1.0, high = 2.0 }]', "[]", "", "one trigger"),
        "a bare condition": (
            PART,
            '{ meter = "condition" }',
            '{ meter = "condition", low = 1.0 }',
            "",
            "no figures",
        ),
        "an unknown station": (KIND, 'station = "filter"', 'station = "cellar"', "", "a station of this file"),
        "a slot twice": (KIND, 'key = "caster"', 'key = "wheels"', "slots", "stands twice"),
        "an unknown part": (KIND, 'use = "caster"', 'use = "castor"', "slots.caster.use", "there is no part"),
        "an unknown caution": (PART, '= ["blade", "sharp-finds"]', '= ["sword"]', "card.cautions", "sword"),
        "an unknown tool": (PART, '"hair-blade", "comb"', '"katana", "comb"', "card.tools", "katana"),
        "an unknown way to dry": (PART, 'dries = "pleated"', 'dries = "quickly"', "dries", "there is no 'quickly'"),
        "a strange feature": (
            PART,
            'unless_with = "self-emptying"',
            'unless_with = "x"',
            "bin.empty",
            "no machine has",
        ),
        "no words for an answer": (PART, 'light = "a few hairs at the hub"\n', "", "slots", "all four answers"),
        "a strange kit": (
            KIND,
            '"side-brush", "filter"]',
            '"wing", "filter"]',
            "kits.brushes",
            "parts of this file",
        ),
    }
    # fmt: on

    def broken(self, file, old, new):
        folder = shipped_copy(self)
        path = folder / file
        text = path.read_text()
        self.assertIn(old, text)
        path.write_text(text.replace(old, new, 1))
        return folder

    def test_says_file_key_and_reason(self):
        for name, (file, old, new, key, reason) in self.CHANGES.items():
            with self.subTest(name), self.assertRaises(BookError) as refused:
                load_book(self.broken(file, old, new))
            text = refused.exception.detail
            self.assertRegex(text, r"^[a-z]*-?robot[a-z-]*\.toml: ")
            self.assertIn(key, text)
            self.assertIn(reason, text)

    def test_a_part_that_no_kind_uses_is_refused(self):
        with self.assertRaises(BookError) as refused:
            load_book(self.broken(self.PART, "[caster]", '[rudder]\npart = 1\nwashes = "body"\n[caster]'))
        self.assertIn("no kind of machine uses rudder", refused.exception.detail)

    def test_a_way_to_wash_that_is_not_there_or_that_nothing_uses_is_refused(self):
        cases = {
            "there is no 'tide'": (self.PART, 'washes = "wheel"', 'washes = "tide"'),
            "no part is washed as wool": ("washing.toml", '[[kinds]]\nkey = "foam"', WOOL + '[[kinds]]\nkey = "foam"'),
            "there is no school 'guild'": ("washing.toml", 'school = "thrifty"', 'school = "guild"'),
            "a way for each end": ("washing.toml", '"closed_end", ', ""),
            "wires, where they": ("washing.toml", 'asks = ["wires", "metal"]', 'asks = ["metal"]'),
            "pleated.dry_cautions: there is no": (
                "washing.toml",
                'dry_cautions = ["no-touch-pleats"',
                'dry_cautions = ["x"',
            ),
            "bin.dry_as: there is no 'soak'": ("washing.toml", 'dry_as = "wipe"', 'dry_as = "soak"'),
            "goblins stands in one only": (
                "cautions.toml",
                'dangers = ["pack", "burnt"]',
                'dangers = ["goblins"]',
            ),
            "its card opens the body": ("archetypes/robot-two-roller.toml", 'opening = "fan-module"\n', ""),
        }
        for detail, (file, old, new) in cases.items():
            with self.subTest(detail), self.assertRaises(BookError) as refused:
                load_book(self.broken(file, old, new))
            self.assertIn(detail, refused.exception.detail)

    def test_a_way_to_dry_that_no_part_has_is_refused_and_so_is_one_that_takes_no_time(self):
        mesh = 'key = "mesh"\nname = "fine mesh"\nreference_h = 8.0'
        with self.assertRaises(BookError) as refused:
            load_book(self.broken("drying.toml", mesh, mesh.replace('"mesh"', '"gauze"')))
        self.assertIn("there is no 'mesh'", refused.exception.detail)
        unused = '[[kinds]]\nkey = "wool"\nname = "wool"\nreference_h = 9.0\nfloor_h = 1.0\n\n[[kinds]]\n' + mesh
        with self.assertRaises(BookError) as refused:
            load_book(self.broken("drying.toml", "[[kinds]]\n" + mesh, unused))
        self.assertIn("no part dries as wool", refused.exception.detail)
        with self.assertRaises(BookError) as refused:
            load_book(self.broken("drying.toml", "reference_h = 8.0", "reference_h = 0.0"))
        self.assertIn("reference_h", refused.exception.detail)

    def test_words_that_no_look_can_show_or_that_stand_for_two_ends_are_refused(self):
        """And a look about what is not done there, a danger or a skill that there is not, months as fewer hours."""
        own = 'as_found = { clean = "a", light = "b", due = "c", overdue = "d" }\n'
        bag = '[[dust-bag.rules]]\naction = "replace"\n'
        caster = re.search(r'as_found = \{ clean = "rolls.*\n', (HERE / self.PART).read_text())[0]
        aged = 'low = 182.0, high = 182.0, calendar = "ages"'
        cases = {
            "no look shows the words of as_found": ("parts/dock.toml", bag, bag + own),
            "as_found stands for its cleaning and for a new one": (self.PART, caster, ""),
            "its look is about clean, which is not done": (self.PART, 'about = "wash"\nonly', 'about = "clean"\nonly'),
            "asks for 24": ("parts/filter.toml", 'dries = "foam"', 'dries = "attachment"'),
            "there is no danger 'cart'": ("parts/path.toml", 'danger = "cord"', 'danger = "cart"'),
            "there is no skill": ("faults/faults.toml", 'skill = "strip_down"', 'skill = "wings"'),
            "days that age, one figure, beside hours": (self.PART, aged, aged.replace("low = 182", "low = 91")),
        }
        for detail, (file, old, new) in cases.items():
            with self.subTest(detail), self.assertRaises(BookError) as refused:
                load_book(self.broken(file, old, new))
            self.assertIn(detail, refused.exception.detail)

    def test_that_is_no_toml_says_so(self):
        folder = self.broken(self.KIND, 'key = "robot-two-roller"', "key = ")
        with self.assertRaises(BookError) as refused:
            load_book(folder)
        self.assertIn("not TOML", refused.exception.detail)

    def test_whose_name_is_not_its_key_is_refused(self):
        with self.assertRaises(BookError) as refused:
            load_book(self.broken(self.KIND, 'key = "robot-two-roller"', 'key = "robot"'))
        self.assertIn("is not the file's name", refused.exception.detail)
