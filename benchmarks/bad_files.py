"""Documents that are not as they were taken out: each is refused or would be brought in whole, and nothing breaks.

    python -m benchmarks.bad_files --count 10000     prints one line

A small household's document of the tests has one thing made otherwise: a value, a key, a record twice or gone, a byte.
"""

import argparse
import io
import json
import os
import random
import sys
import tempfile
from collections import Counter
from collections.abc import Callable
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
KEPT = ROOT / "tests" / "server" / "documents" / "v1.json"
VALUES: tuple[Any, ...] = (
    None,
    -1,
    0,
    1e300,
    "",
    "x" * 5000,
    "\x00",
    "2031-01-01T00:00:00Z",
    "9999-12-31",
    [],
    {},
    True,
    [[]] * 50,
)


def main() -> int:
    """Try so many. Returns the exit code: 1 where anything but a refusal came."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--count", type=int, default=2000)
    parser.add_argument("--seed", type=int, default=1)
    asked = parser.parse_args()
    with tempfile.TemporaryDirectory() as folder:
        os.environ.update(DJANGO_SETTINGS_MODULE="server.config.settings", YPERON_DATABASE=f"{folder}/bad.sqlite3")
        import django

        django.setup()
        outcomes = tried(asked.count, random.Random(asked.seed))
    print(", ".join(f"{count} {name}" for name, count in outcomes.most_common()))
    return 1 if any(name.startswith("BROKE") for name in outcomes) else 0


def tried(count: int, chance: random.Random) -> Counter[str]:
    """How so many files ended, by what came of them."""
    from django.contrib.auth.models import User
    from django.core.management import call_command

    from care.errors import CareError
    from server.document.bringing_in import look
    from server.document.parcel import opened
    from server.logbook.models import Entry

    call_command("migrate", interactive=False, verbosity=0)
    user = User.objects.create_user("mover")
    outcomes: Counter[str] = Counter()
    text = KEPT.read_text()
    for _ in range(count):
        data = spoilt(text, chance)
        try:
            look(user=user, parcel=opened(io.BytesIO(data)))
            outcomes["whole"] += 1
        except CareError as error:
            outcomes[f"refused ({type(error).__name__})"] += 1
        except Exception as error:  # what must not be
            outcomes[f"BROKE {type(error).__name__}: {str(error)[:120]}"] += 1
        if Entry.everything.exists():
            outcomes["BROKE: something stayed"] += 1
    return outcomes


def spoilt(text: str, chance: random.Random) -> bytes:
    """The document with one thing made otherwise."""
    if chance.random() < 0.2:
        data = bytearray(text.encode())
        for _ in range(chance.randint(1, 4)):
            data[chance.randrange(len(data))] = chance.randrange(256)
        return bytes(data)
    told = json.loads(text)
    ways: list[Callable[[dict[str, Any], random.Random], None]] = [_value, _value, _value, _key, _record]
    chance.choice(ways)(told, chance)
    return json.dumps(told).encode()


def _some(told: dict[str, Any], chance: random.Random) -> dict[str, Any]:
    """Some object in it, however deep."""
    at: Any = told
    while True:
        inner = [one for one in (at.values() if isinstance(at, dict) else at) if isinstance(one, (dict, list)) and one]
        if isinstance(at, dict) and (not inner or chance.random() < 0.4) and at is not told:
            return at
        at = chance.choice(inner) if inner else told


def _value(told: dict[str, Any], chance: random.Random) -> None:
    one = _some(told, chance)
    if one:
        one[chance.choice(sorted(one))] = chance.choice(VALUES)


def _key(told: dict[str, Any], chance: random.Random) -> None:
    one = _some(told, chance)
    if one:
        del one[chance.choice(sorted(one))]


def _record(told: dict[str, Any], chance: random.Random) -> None:
    records = told["records"]
    at = chance.randrange(len(records))
    if chance.random() < 0.5:
        records.append(records[at])
    else:
        del records[at]


if __name__ == "__main__":
    sys.exit(main())
