"""Writes the JSON Schemas of open formats from their models, and says whether those that are kept are still true."""

import json
import os
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))
FORMATS = ROOT / "docs" / "formats"
SCHEMA, LINES = FORMATS / "household.schema.json", FORMATS / "lines.schema.json"


def schemas() -> dict[Path, str]:
    """The JSON Schemas of a household's document and of what devices post, by the file that keeps each."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.config.settings")
    import django

    django.setup()
    from server.devices.lines import LINES as ADAPTER
    from server.document.format import Document

    told = {SCHEMA: Document.model_json_schema(), LINES: ADAPTER.json_schema()}
    return {file: json.dumps(schema, indent=1) + "\n" for file, schema in told.items()}


if __name__ == "__main__":
    for file, text in schemas().items():
        file.write_text(text)
