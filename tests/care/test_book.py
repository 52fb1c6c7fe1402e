"""The care book: it loads, it is complete, and a bad file says where and why."""

import shutil
import tempfile
from pathlib import Path
from uuid import uuid4

from django.test import SimpleTestCase

from care.bench.sheets import PHASE
from care.book.loader import HERE, load_archetype, load_book
from care.due import agenda
from care.due.agenda import Task, minutes
from care.due.chambers import chambers
from care.due.intervals import assess_machine
from care.errors import BookError
from care.items import Fitting, Item, State
from care.model import Action, Level, Machine
from tests.care.world import BOOK, DAY, MACHINE, ROBOT, START, context, runs


def robot(now, done=(), without=()):
    """The robot with all parts new at START, and its due states."""
    items = {s.key: Item(uuid4(), s.part, s.name, State.FITTED, START) for s in ROBOT.slots if s.key not in without}
    fittings = [Fitting(item.id, MACHINE, key, START) for key, item in items.items()]
    machine = Machine(MACHINE, "Robot", ROBOT, {key: item.id for key, item in items.items()})
    by_id = {item.id: item for item in items.values()}
    return assess_machine(machine, items=by_id, fittings=fittings, services=[], context=context(done, now=now))


class EveryRule(SimpleTestCase):
    def test_makes_a_part_due_in_the_end(self):
        states = robot(START + 800 * DAY, runs(800))
        self.assertEqual({s.level for s in states}, {Level.OVERDUE})
        self.assertEqual(len(states), sum(len(s.rules) for s in ROBOT.slots))

    def test_gives_a_reason_and_names_what_governs(self):
        for state in robot(START + 40 * DAY, runs(40)):
            with self.subTest(slot=state.slot, action=state.action):
                trigger = state.because.find("trigger")
                self.assertAlmostEqual(trigger.values["used"] / trigger.values["limit"], state.share, places=2)
                self.assertTrue(state.because.find("book").values["reason"])

    def test_has_a_place_in_the_order_of_a_service(self):
        for archetype in BOOK.archetypes.values():
            for slot in archetype.slots:
                for rule in slot.rules:
                    self.assertIn(rule.action, PHASE)


class TheAgenda(SimpleTestCase):
    def setUp(self):
        self.tasks = [Task(MACHINE, ROBOT, state) for state in robot(START + 35 * DAY, runs(35))]
        self.agenda = agenda(self.tasks)

    def test_puts_safety_before_the_motor_before_stops_before_pick_up(self):
        stakes = [task.state.stake for task in self.agenda.due]
        self.assertEqual(stakes, sorted(stakes))
        self.assertEqual(self.agenda.due[0].state.slot, "sensors")

    def test_counts_an_opening_once(self):
        rollers = [t for t in self.agenda.due if t.opening == "brush-cover"]
        self.assertEqual(minutes(rollers), 4 + 3 + 1)

    def test_does_not_clean_what_is_to_be_replaced(self):
        old = agenda(Task(MACHINE, ROBOT, state) for state in robot(START + 800 * DAY, runs(800)))
        filters = [t.state.action for t in old.due if t.state.slot == "filter"]
        self.assertEqual(filters, [Action.REPLACE])

    def test_what_is_coming_stands_by_date(self):
        dates = [task.state.due_on for task in self.agenda.coming]
        self.assertEqual(dates, sorted(dates))


class TheStrip(SimpleTestCase):
    def test_shows_the_worst_of_each_station_and_each_part_beside_it(self):
        made = chambers(ROBOT, robot(START + 20 * DAY, runs(20)), {})
        self.assertEqual([c.key for c in made[:5]], ["bay", "bin", "filter", "fan", "outlet"])
        self.assertEqual(made[3].level, None)
        self.assertEqual([c.key for c in made[5:]], ["side-brush", "caster", "wheels", "sensors", "contacts"])
        self.assertEqual((made[1].level, made[1].fill), (Level.OVERDUE, 1.0))

    def test_shows_a_part_on_the_rack_as_drying_until_it_is_back(self):
        wet = Item(uuid4(), "filter", "Filter", State.DRYING, START, damp_until=START + DAY)
        made = {c.key: c for c in chambers(ROBOT, robot(START, without=("filter",)), {"filter": wet})}
        self.assertEqual((made["filter"].level, made["filter"].ready_at), (Level.DRYING, START + DAY))
        gone = {c.key: c for c in chambers(ROBOT, robot(START, without=("filter",)), {})}
        self.assertEqual(gone["filter"].level, Level.MISSING)


class ABadFile(SimpleTestCase):
    """Each change breaks the shipped file in one way; the message names the file, the key and the reason."""

    CHANGES = {
        "a key nobody reads": ('name = "Robot', 'colour = "red"\nname = "Robot', "colour", "no engine reads this key"),
        "a nested key nobody reads": ("effort_min = 4.0", "effort_min = 4.0\nmood = 1", "card.mood", "no engine reads"),
        "a missing key": ('make_safe = "robot-off"\n', "", "make_safe", "required"),
        "a wrong word": ('column = "bin"', 'column = "attic"', "stations.1.column", "floor"),
        "a wrong number": ("setup_min = 1.0", 'setup_min = "long"', "openings.0.setup_min", "number"),
        "a range upside down": ("low = 7.0, high = 14.0", "low = 14.0, high = 7.0", "triggers.0", "at least low"),
        "no trigger": ('triggers = [{ meter = "runs", low = 1.0, high = 2.0 }]', "triggers = []", "rules.0", "trigger"),
        "an unknown station": ('station = "filter"', 'station = "cellar"', "file", "a station of this file"),
        "a slot twice": ('key = "caster"', 'key = "wheels"', "slots", "stands twice"),
        "an unknown caution": ('cautions = ["blade"]', 'cautions = ["sword"]', "card.cautions", "sword"),
        "no words for an answer": ('light = "a few hairs at the hub"\n', "", "slots", "all four answers"),
    }

    def broken(self, old, new):
        folder = Path(tempfile.mkdtemp())
        self.addCleanup(shutil.rmtree, folder)
        shutil.copytree(HERE, folder, dirs_exist_ok=True, ignore=shutil.ignore_patterns("*.py", "__pycache__"))
        path = folder / "archetypes" / "robot-two-roller.toml"
        text = path.read_text()
        self.assertIn(old, text)
        path.write_text(text.replace(old, new, 1))
        return folder

    def test_says_file_key_and_reason(self):
        for name, (old, new, key, reason) in self.CHANGES.items():
            with self.subTest(name), self.assertRaises(BookError) as refused:
                load_book(self.broken(old, new))
            text = refused.exception.detail
            self.assertTrue(text.startswith("robot-two-roller.toml: "), text)
            if key != "file":
                self.assertIn(key, text)
            self.assertIn(reason, text)

    def test_that_is_no_toml_says_so(self):
        folder = self.broken('key = "robot-two-roller"', "key = ")
        with self.assertRaises(BookError) as refused:
            load_archetype(folder / "archetypes" / "robot-two-roller.toml")
        self.assertIn("not TOML", refused.exception.detail)

    def test_whose_name_is_not_its_key_is_refused(self):
        with self.assertRaises(BookError) as refused:
            load_book(self.broken('key = "robot-two-roller"', 'key = "robot"'))
        self.assertIn("is not the file's name", refused.exception.detail)
