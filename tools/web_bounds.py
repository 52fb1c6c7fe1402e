"""Writes what the screens share with the core as a TypeScript table: limits of fields, units, words of deeds."""

import json
import sys
from dataclasses import asdict
from pathlib import Path
from typing import Any

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from care.units import READINGS
from care.vocabulary import Gone
from care.words import DEEDS, SAW

ROOT = Path(__file__).resolve().parents[1]
CONTRACT = ROOT / "docs" / "openapi.json"
TABLE = ROOT / "web/src/lib/api/gen/bounds.ts"
WORDS = {
    "minimum": "min",
    "maximum": "max",
    "maxLength": "maxlength",
    "maxItems": "most",
    "x-first": "first",
    "x-years-ahead": "yearsAhead",
}
"""What the contract calls a limit, and what an input calls it."""


def table(document: dict[str, Any]) -> str:
    """The limits by schema and field."""
    found = {
        name: fields
        for name, schema in sorted(document["components"]["schemas"].items())
        if name.endswith(("In", "InOut", "SignIn")) and (fields := _fields(schema))
    }
    body = json.dumps(found, indent=2)
    units = json.dumps({quantity: one.units for quantity, one in READINGS.items()}, indent=2)
    deeds, saw = (json.dumps(told, indent=2) for told in ({k: asdict(deed) for k, deed in DEEDS.items()}, SAW))
    by_chance = json.dumps([gone for gone in Gone if gone.tells is None])
    return (
        f"/* Made from docs/openapi.json by `make contract`. */\nexport const BOUNDS = {body} as const;\n"
        f"/** Why a part went that says nothing of how long such a part lasts. */\n"
        f"export const BY_CHANCE: readonly string[] = {by_chance};\n"
        f"/** The units that each kind of reading may be told in. */\n"
        f"export const READING_UNITS = {units} as const;\n"
        f"/** What is done to a part: as it is asked, as it was done, as a thing, and where there is little room. */\n"
        f"export const DEEDS = {deeds} as const;\n"
        f"/** What a look saw, within a sentence. */\n"
        f"export const SAW = {saw} as const;\n"
    )


def _fields(schema: dict[str, Any]) -> dict[str, dict[str, Any]]:
    limits = {name: _limits(field) for name, field in schema.get("properties", {}).items()}
    return {name: found for name, found in limits.items() if found}


def _limits(field: dict[str, Any]) -> dict[str, Any]:
    """The limits of a field, also of one that may be left out."""
    found = {WORDS[key]: value for key, value in field.items() if key in WORDS}
    if field.get("type") == "integer":
        found["step"] = 1
    for choice in field.get("anyOf", []):
        found |= _limits(choice)
    return found


def made() -> str:
    """The table as the committed contract has it."""
    return table(json.loads(CONTRACT.read_text()))


def main() -> int:
    """Write the table."""
    TABLE.write_text(made())
    return 0


if __name__ == "__main__":
    sys.exit(main())
