"""Reads the TOML files of the care book into the core's values, or says which file and key is wrong and why.

A key that no engine reads is refused: the classes of `care.model` name every key there is.
"""

import tomllib
from collections.abc import Iterator
from functools import cache
from pathlib import Path
from typing import Any, TypeVar

from pydantic import TypeAdapter, ValidationError

from care.errors import BookError
from care.model import Archetype, Book, Caution

HERE = Path(__file__).parent
T = TypeVar("T")


@cache
def load_book(folder: Path = HERE) -> Book:
    """The whole book: every `archetypes/*.toml` and `cautions.toml` of `folder`. Raises `BookError`."""
    cautions_file = folder / "cautions.toml"
    cautions = {
        c.key: c for c in _build(TypeAdapter(list[Caution]), _read(cautions_file).get("cautions"), cautions_file)
    }
    archetypes: dict[str, Archetype] = {}
    for path in sorted((folder / "archetypes").glob("*.toml")):
        archetype = load_archetype(path)
        if archetype.key != path.stem:
            raise BookError(f"{path.name}: key: {archetype.key!r} is not the file's name", field="key")
        _check_cautions(archetype, cautions, path)
        archetypes[archetype.key] = archetype
    return Book(archetypes, cautions)


def load_archetype(path: Path) -> Archetype:
    """One kind of machine from `path`. Raises `BookError` with file, key and reason."""
    return _build(TypeAdapter(Archetype), _read(path), path)


def _read(path: Path) -> dict[str, Any]:
    try:
        return tomllib.loads(path.read_text(encoding="utf-8"))
    except tomllib.TOMLDecodeError as error:
        raise BookError(f"{path.name}: not TOML: {error}", field=path.name, fix="Mend the line it names.") from error


def _build(adapter: TypeAdapter[T], data: object, path: Path) -> T:
    try:
        return adapter.validate_python(data)
    except ValidationError as error:
        first = error.errors()[0]
        key = ".".join(str(part) for part in first["loc"]) or "file"
        reason = "no engine reads this key" if first["type"] == "unexpected_keyword_argument" else first["msg"]
        raise BookError(f"{path.name}: {key}: {reason}", field=key, fix="Mend the file.") from error
    except BookError as error:
        raise BookError(f"{path.name}: {error.detail}", field=error.field, fix=error.fix) from error


def _check_cautions(archetype: Archetype, cautions: dict[str, Caution], path: Path) -> None:
    for where, key in _named_cautions(archetype):
        if key not in cautions:
            raise BookError(
                f"{path.name}: {where}: there is no caution {key!r}",
                field=where,
                fix="Add it to cautions.toml.",
            )


def _named_cautions(archetype: Archetype) -> Iterator[tuple[str, str]]:
    yield "make_safe", archetype.make_safe
    for slot in archetype.slots:
        for rule in slot.rules:
            for key in rule.card.cautions:
                yield f"slots.{slot.key}.{rule.action}.card.cautions", key
