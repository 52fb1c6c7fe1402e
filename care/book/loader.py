"""Reads the TOML files of the care book into the core's values, or says which file and key is wrong and why.

A key that no engine reads is refused: the classes it builds name every key there is. A slot of a kind of machine
may `use` a part of `parts/*.toml`: what the slot says itself goes before, its rules replace those of the same action,
and `without` leaves actions out.
"""

import tomllib
from collections.abc import Mapping
from dataclasses import replace
from functools import cache
from pathlib import Path
from typing import TypeVar

from pydantic import ValidationError

from care.book import parsed
from care.book.checked import check_faults
from care.book.linked import (
    Table,
    check_bundles,
    check_dangers,
    check_doors,
    check_dried,
    check_features,
    check_named,
    check_rests,
    check_strip_downs,
    check_the_named,
    check_titles,
    check_traits,
    check_used,
    check_washed,
)
from care.book.looks import check_looks
from care.content import BeforeRun, Book, Bundle, Caution, Danger, Pickup, Question, Tool
from care.dust import dust_first
from care.errors import BookError
from care.faults.book import Check, Fault, FaultBook, Route, Symptom, Tick
from care.kinds import Archetype
from care.measures import Measure
from care.parts import Slot, widened
from care.plain import plain
from care.rules import Drying
from care.washability import Washing

HERE = Path(__file__).parent
T = TypeVar("T")


@cache
def load_book(folder: Path = HERE) -> Book:
    """The whole book: kinds, parts, cautions, tools, questions, checks before a run. Raises `BookError`.

    Once read it lies beside the compiled modules, and is read anew when a file of it or of the core differs.
    """
    return parsed.kept(folder, read_book) if folder == HERE else read_book(folder)


def read_book(folder: Path) -> Book:
    """As `load_book`, from the files themselves."""
    cautions = {c.key: c for c in _list(folder / "cautions.toml", "cautions", Caution)}
    tools = {t.key: t for t in _list(folder / "tools.toml", "tools", Tool)}
    dangers = {d.key: d for d in _list(folder / "dangers.toml", "dangers", Danger)}
    drying = load_drying(folder)
    washing = load_washing(folder)
    parts = load_parts(folder, drying, washing)
    check_dried(drying, parts)
    check_rests(parts)
    check_washed(washing, parts, {"cautions": cautions, "tools": tools})
    archetypes: dict[str, Archetype] = {}
    used: set[str] = set()
    for path in sorted((folder / "archetypes").glob("*.toml")):
        archetype = load_archetype(path, parts, used)
        if archetype.key != path.stem:
            raise BookError(f"{path.name}: key: {archetype.key!r} is not the file's name", field="key")
        check_named(archetype, {"cautions": cautions, "tools": tools}, path)
        check_titles(archetype, cautions, path)
        check_doors(archetype, path)
        check_strip_downs(archetype, path)
        check_looks(archetype, dangers, path.name)
        archetypes[archetype.key] = archetype
    check_features(archetypes)
    check_the_named(cautions, tools, archetypes)
    check_used(set(parts) - used)
    questions = _list(folder / "questions.toml", "questions", Question)
    check_traits(archetypes, questions)
    bundles = _list(folder / "bundles.toml", "bundles", Bundle)
    check_bundles(bundles, parts)
    faults = load_faults(folder)
    check_dangers(cautions.values(), faults, dangers)
    check_faults(faults, parts, archetypes, cautions, tools, dangers)
    return Book(
        archetypes,
        cautions,
        tools,
        drying,
        bundles=tuple(bundles),
        parts={key: _alone(key, table) for key, table in parts.items()},
        questions=tuple(questions),
        before_run=tuple(_list(folder / "before_run.toml", "checks", BeforeRun)),
        pickups=tuple(_list(folder / "pickups.toml", "pickups", Pickup)),
        faults=faults,
        measures=load_measures(folder, parts),
        dangers=dangers,
        digest=parsed.digest(folder.rglob("*.toml"))[:10],
    )


def load_measures(folder: Path, parts: Mapping[str, Table]) -> tuple[Measure, ...]:
    """What can be measured on parts. Raises `BookError` for a part that there is not."""
    measures = _list(folder / "wear.toml", "measures", Measure)
    for one in measures:
        if unknown := set(one.parts) - set(parts):
            raise BookError(f"wear.toml: {one.key}.parts: there is no {sorted(unknown)[0]!r}", field="parts")
    return tuple(measures)


def load_faults(folder: Path) -> FaultBook:
    """Symptoms, faults, checks and fixed orders. Raises `BookError`."""
    faults = folder / "faults"
    return FaultBook(
        tuple(_list(faults / "symptoms.toml", "symptoms", Symptom)),
        tuple(_list(faults / "faults.toml", "faults", Fault)),
        tuple(_list(faults / "checks.toml", "checks", Check)),
        tuple(_list(faults / "routes.toml", "routes", Route)),
        tuple(_list(faults / "ticks.toml", "ticks", Tick)),
    )


def load_parts(folder: Path, kinds: Mapping[str, Drying], washing: Mapping[str, Washing]) -> dict[str, Table]:
    """The tables of all parts by their key, each with how it is washed and dries.

    Raises `BookError` when a key stands twice.
    """
    parts: dict[str, Table] = {}
    for path in sorted((folder / "parts").glob("*.toml")):
        for key, table in _read(path).items():
            if key in parts or not isinstance(table, dict):
                raise BookError(f"{path.name}: {key}: this part stands twice or is no table", field=key)
            parts[key] = _with_washing(key, _with_drying(key, table, kinds, path), washing, path)
    return parts


def load_drying(folder: Path) -> dict[str, Drying]:
    """How each kind of part dries. Raises `BookError`."""
    return {kind.key: kind for kind in _list(folder / "drying.toml", "kinds", Drying)}


def load_washing(folder: Path) -> dict[str, Washing]:
    """How each kind of part is washed. Raises `BookError`."""
    return {kind.key: kind for kind in _list(folder / "washing.toml", "kinds", Washing)}


def _with_washing(key: str, table: Table, kinds: Mapping[str, Washing], path: Path) -> Table:
    """The table of a part with how it is washed in the place of the name."""
    made = dict(table)
    named = made.pop("washes", None)
    if named not in kinds:
        detail = f"{path.name}: {key}.washes: there is no {named!r}"
        raise BookError(detail, field="washes", fix="Name a kind of washing.toml, or add one.")
    return {**made, "washing": kinds[named]}


def _with_drying(key: str, table: Table, kinds: Mapping[str, Drying], path: Path) -> Table:
    """The table of a part with the kinds of drying that it and its rules name in the place of the names."""
    made = _named_drying(key, table, kinds, path)
    if isinstance(rules := made.get("rules"), list):
        made["rules"] = [
            _named_drying(f"{key}.{rule.get('action')}", rule, kinds, path) if isinstance(rule, dict) else rule
            for rule in rules
        ]
    return made


def _named_drying(where: str, table: Table, kinds: Mapping[str, Drying], path: Path) -> Table:
    made = dict(table)
    named = made.pop("dries", None)
    if named is None:
        return made
    if named not in kinds:
        detail = f"{path.name}: {where}.dries: there is no {named!r}"
        raise BookError(detail, field="dries", fix="Add it to drying.toml.")
    return {**made, "drying": kinds[named]}


def load_archetype(path: Path, parts: Mapping[str, Table], used: set[str] | None = None) -> Archetype:
    """One kind of machine from `path`; adds the parts it uses to `used`. Raises `BookError` with file, key, reason."""
    data = _read(path)
    slots = data.get("slots")
    if isinstance(slots, list):
        data["slots"] = [_slot(slot, parts, path, used) if isinstance(slot, dict) else slot for slot in slots]
    made = _build(Archetype, data, path)
    columns = {station.key: station.column for station in made.stations}
    slots = (widened(slot, made.wide) for slot in made.slots)
    return replace(made, slots=tuple(dust_first(slot, columns[slot.station]).seen({}) for slot in slots))


def _slot(slot: Table, parts: Mapping[str, Table], path: Path, used: set[str] | None) -> Table:
    """The table of a slot with that of the part it uses under it."""
    own = dict(slot)
    use, without = own.pop("use", None), own.pop("without", [])
    if use is None:
        return own
    where = f"slots.{own.get('key')}"
    if use not in parts:
        raise BookError(f"{path.name}: {where}.use: there is no part {use!r}", field=f"{where}.use", fix="Write it.")
    if used is not None:
        used.add(use)
    part = parts[use]
    mine = own.get("rules", [])
    actions = {rule.get("action") for rule in mine}
    theirs = [rule for rule in part.get("rules", []) if rule.get("action") not in actions | set(without)]
    known = {rule.get("action") for rule in part.get("rules", [])}
    if set(without) - known:
        raise BookError(f"{path.name}: {where}.without: {use!r} has no such rule", field=f"{where}.without")
    words = {**part.get("as_found", {}), **own.get("as_found", {})}
    return {**part, **own, "rules": [*mine, *theirs], "as_found": words, "use": use}


def _read(path: Path) -> Table:
    try:
        return tomllib.loads(path.read_text(encoding="utf-8"))
    except tomllib.TOMLDecodeError as error:
        raise BookError(f"{path.name}: not TOML: {error}", field=path.name, fix="Mend the line it names.") from error


def _list(path: Path, key: str, kind: type[T]) -> list[T]:
    return _build(list[kind], _read(path).get(key), path)  # type: ignore[valid-type]


def _build(kind: type[T], data: object, path: Path) -> T:
    try:
        return plain(kind).validate_python(data)
    except ValidationError as error:
        first = error.errors()[0]
        key = ".".join(str(part) for part in first["loc"]) or "file"
        reason = "no engine reads this key" if first["type"] == "unexpected_keyword_argument" else first["msg"]
        raise BookError(f"{path.name}: {key}: {reason}", field=key, fix="Mend the file.") from error
    except BookError as error:
        raise BookError(f"{path.name}: {error.detail}", field=error.field, fix=error.fix) from error


def _alone(key: str, table: Table) -> Slot:
    """A part by itself, without a place on a machine."""
    slot: Slot = _build(Slot, {**table, "key": key, "station": "", "use": key}, Path(f"parts: {key}"))
    return slot.seen({})
