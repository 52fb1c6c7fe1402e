"""What the pages for a newcomer say of the code is so."""

import ast
import re
from pathlib import Path

from django.test import SimpleTestCase

from tools import formats

ROOT = Path(__file__).resolve().parents[2]


class Glossary(SimpleTestCase):
    def test_each_word_stands_once_and_is_at_home_where_it_says(self):
        rows = re.findall(
            r"^\| ([^|]+) \| [^|]+ \| `([\w/]+\.py):(\w+)` \|$", (ROOT / "docs/glossary.md").read_text(), re.M
        )
        self.assertGreater(len(rows), 40)
        words = [word.strip() for said, _, _ in rows for word in said.split(",")]
        self.assertEqual(len(words), len(set(words)))
        for _, file, name in rows:
            with self.subTest(name):
                self.assertRegex((ROOT / file).read_text(), rf"(?m)^(?:class|def) {name}\b|^{name}\b")

    def test_told_is_what_somebody_said_and_no_name_for_whatever_is_at_hand(self):
        """It was, in two hundred functions. Fields of the contract and of the book stay."""
        stores = set()
        for path in (path for room in ("care", "server") for path in (ROOT / room).rglob("*.py")):
            text = path.read_text()
            if "told" not in text or re.search(r"(?m)^    told: ", text):
                continue
            for node in ast.walk(ast.parse(text)):
                bound = isinstance(node, ast.Name) and node.id == "told" and isinstance(node.ctx, ast.Store)
                if bound or (isinstance(node, ast.arg) and node.arg == "told"):
                    stores.add(path.relative_to(ROOT).as_posix())
        self.assertEqual(stores, {"care/due/usage.py"}, "there it stands beside what is assumed")


class Architecture(SimpleTestCase):
    def test_each_room_has_its_row(self):
        page = (ROOT / "docs/architecture.md").read_text()
        rooms = [path.parent.name for path in (ROOT / "server").glob("*/__init__.py")]
        self.assertEqual([room for room in rooms if f"`server/{room}/`" not in page], [])
        core = [path for path in (ROOT / "care").iterdir() if path.suffix == ".py" or (path / "__init__.py").exists()]
        names = [path.name if path.suffix else f"{path.name}/" for path in core if not path.name.startswith("__")]
        self.assertEqual([name for name in names if f"`care/{name}`" not in page], [])

    def test_each_module_is_named_there(self):
        page = (ROOT / "docs/architecture.md").read_text()
        usual = {"__init__", "api", "schemas", "models", "records", "apps", "signals", "services", "settings", "urls"}
        paths = [path for room in ("care", "server") for path in (ROOT / room).glob("*/*.py")]
        names = {path.stem for path in paths if not path.stem.endswith("_schemas")} - usual
        self.assertEqual([name for name in sorted(names) if f"`{name}`" not in page], [])


class Contract(SimpleTestCase):
    def test_no_two_shapes_share_a_name(self):
        """Of two of one name the contract keeps one, and the screens of the other read what is not there."""
        named = {}
        for path in (ROOT / "server").rglob("*.py"):
            for name in re.findall(r"(?m)^class (\w+)\((?:Schema|\w+(?:In|Out))\):", path.read_text()):
                named.setdefault(name, []).append(path.name)
        self.assertEqual({}, {name: paths for name, paths in named.items() if len(paths) > 1})


class Formats(SimpleTestCase):
    def test_the_schema_of_documents_is_the_one_of_their_models(self):
        for file, text in formats.schemas().items():
            self.assertEqual(file.read_text(), text, "run: make contract")
