"""The shape of the code: lines, long files, wide dataclasses, lines that stand twice, style blocks.

python -m benchmarks.shape [folder]
"""

import ast
import sys
from collections import defaultdict
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
LONG = 300
"""A file of more lines is long."""
TWICE = 10
"""So many equal lines in a row stand twice."""
PLACES = {"core": "care", "server": "server", "screens": "web/src", "tests": "tests", "tools": "tools"}
GENERATED = ("migrations", "gen", "node_modules", "__pycache__")


def sources(folder: Path) -> Iterator[Path]:
    """The files somebody wrote."""
    for path in sorted(folder.rglob("*")):
        if path.suffix in (".py", ".ts", ".svelte", ".css") and not set(GENERATED) & set(path.parts):
            yield path


def lines(path: Path) -> list[str]:
    """The lines of a file."""
    return path.read_text().splitlines()


def widest(root: Path) -> tuple[int, str]:
    """The dataclass with most fields of the core and the server, and how many."""
    found = [(0, "")]
    for path in (*sources(root / "care"), *sources(root / "server")):
        for node in ast.walk(ast.parse(path.read_text())):
            named = isinstance(node, ast.ClassDef) and any("dataclass" in ast.unparse(d) for d in node.decorator_list)
            if isinstance(node, ast.ClassDef) and named:
                found.append((sum(isinstance(one, ast.AnnAssign) for one in node.body), node.name))
    return max(found)


def twice(root: Path) -> int:
    """Lines that stand in more than one place, ten or more in a row, imports and empty ones apart."""
    seen: dict[tuple[str, ...], list[tuple[Path, int]]] = defaultdict(list)
    for place in ("care", "server", "web/src"):
        for path in sources(root / place):
            told = [(n, line.strip()) for n, line in enumerate(lines(path)) if line.strip()]
            told = [(n, line) for n, line in told if not line.startswith(("import ", "from ", "@"))]
            for n in range(len(told) - TWICE + 1):
                seen[tuple(line for _, line in told[n : n + TWICE])].append((path, told[n][0]))
    return len({where for many in seen.values() if len(many) > 1 for where in many[1:]})


def styles(root: Path) -> tuple[int, int]:
    """Lines in style blocks of components, and in how many of them."""
    count = files = 0
    for path in sources(root / "web/src"):
        text = path.read_text()
        if path.suffix == ".svelte" and "<style>" in text:
            files += 1
            count += text[text.index("<style>") :].count("\n") - 1
    return count, files


def measure(root: Path = ROOT) -> list[str]:
    """The figures as lines of text."""
    told = []
    for name, place in PLACES.items():
        told.append(f"{name:8} {sum(len(lines(path)) for path in sources(root / place)):6} lines")
    code = [path for place in ("care", "server", "web/src", "tools") for path in sources(root / place)]
    long = [path for path in code if len(lines(path)) > LONG]
    told.append(f"files over {LONG} lines: {len(long)}, the longest {max(len(lines(path)) for path in code)}")
    count, name = widest(root)
    told.append(f"widest dataclass: {name}, {count} fields")
    told.append(f"places where {TWICE} lines stand again: {twice(root)}")
    told.append("lines of style blocks: {} in {} components".format(*styles(root)))
    return told


def main() -> int:
    """Print the figures of a folder."""
    print("\n".join(measure(Path(sys.argv[1]) if len(sys.argv) > 1 else ROOT)))
    return 0


if __name__ == "__main__":
    sys.exit(main())
