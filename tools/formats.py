"""Writes the JSON Schema of documents from their models, and says whether the one that is kept is still true."""

import json
import os
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))
SCHEMA = ROOT / "docs" / "formats" / "household.schema.json"


def schema() -> str:
    """The JSON Schema of a household's document."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.config.settings")
    import django

    django.setup()
    from server.document.format import Document

    return json.dumps(Document.model_json_schema(), indent=1) + "\n"


if __name__ == "__main__":
    SCHEMA.write_text(schema())
