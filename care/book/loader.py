"""Reads the TOML files of the care book into the core's values, or says which file and key is wrong and why.

A key that no engine reads is refused: the classes it builds name every key there is. A slot of a kind of machine
may `use` a part of `parts/*.toml`: what the slot says itself goes before, its rules replace those of the same action,
and `without` leaves actions out.
"""

import tomllib
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import replace
from functools import cache
from pathlib import Path
from typing import Any, TypeVar

from pydantic import TypeAdapter, ValidationError

from care.book import parsed
from care.book.checked import check_faults
from care.book.looks import check_looks
from care.content import BeforeRun, Book, Bundle, Caution, Danger, Pickup, Question, Tool
from care.errors import BookError
from care.faults.book import Check, Fault, FaultBook, Route, Symptom, Tick
from care.kinds import Archetype
from care.measures import Measure
from care.named import NamedCaution, NamedFeature, NamedTool
from care.parts import Slot, dust_first, widened
from care.rules import WETTING, Drying
from care.vocabulary import Action, School
from care.washability import Washing

HERE = Path(__file__).parent
T = TypeVar("T")
Table = dict[str, Any]


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
    _check_dried(drying, parts)
    _check_rests(parts)
    _check_washed(washing, parts, {"cautions": cautions, "tools": tools})
    archetypes: dict[str, Archetype] = {}
    used: set[str] = set()
    for path in sorted((folder / "archetypes").glob("*.toml")):
        archetype = load_archetype(path, parts, used)
        if archetype.key != path.stem:
            raise BookError(f"{path.name}: key: {archetype.key!r} is not the file's name", field="key")
        _check_named(archetype, {"cautions": cautions, "tools": tools}, path)
        _check_titles(archetype, cautions, path)
        _check_doors(archetype, path)
        _check_strip_downs(archetype, path)
        check_looks(archetype, dangers, path.name)
        archetypes[archetype.key] = archetype
    _check_features(archetypes)
    _check_the_named(cautions, tools, archetypes)
    _check_used(set(parts) - used)
    questions = _list(folder / "questions.toml", "questions", Question)
    _check_traits(archetypes, questions)
    bundles = _list(folder / "bundles.toml", "bundles", Bundle)
    _check_bundles(bundles, parts)
    faults = load_faults(folder)
    _check_dangers(cautions.values(), faults, dangers)
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


def _check_the_named(
    cautions: Mapping[str, Caution], tools: Mapping[str, Tool], archetypes: Mapping[str, Archetype]
) -> None:
    """The keys that rules of the code name are there."""
    offered = {o.key for kind in archetypes.values() for o in kind.options}
    offered |= {feature for kind in archetypes.values() for feature in kind.provides}
    for named, known, where in (
        (NamedCaution, set(cautions), "cautions.toml"),
        (NamedTool, set(tools), "tools.toml"),
        (NamedFeature, offered, "archetypes"),
    ):
        if missing := sorted(set(named) - known):
            raise BookError(f"{where}: there is no {missing[0]!r}, which the rules need", field="key")


def _check_bundles(bundles: Iterable[Bundle], parts: Mapping[str, Table]) -> None:
    """A single task of a bundle is one that its part has."""
    known = {f"{key}.{rule.get('action')}" for key, table in parts.items() for rule in table.get("rules", ())}
    for bundle in bundles:
        if wrong := sorted(set(bundle.tasks) - known):
            raise BookError(f"bundles.toml: {bundle.key}.tasks: there is no {wrong[0]!r}", field="tasks")


def _check_dangers(cautions: Iterable[Caution], faults: FaultBook, dangers: Mapping[str, Danger]) -> None:
    """What a gate or a check may be answered with stands in dangers.toml, and all of it may be told somewhere."""
    named = {key for caution in cautions for key in caution.dangers}
    named |= {outcome.danger for check in faults.checks for outcome in check.outcomes if outcome.danger}
    if named != set(dangers):
        wrong = ", ".join(sorted(named ^ set(dangers)))
        raise BookError(
            f"cautions.toml, checks.toml, dangers.toml: {wrong} stands in one only",
            field="dangers",
            fix="Name it in both.",
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


def _check_washed(
    kinds: Mapping[str, Washing], parts: Mapping[str, Table], known: Mapping[str, Mapping[str, object]]
) -> None:
    for kind in kinds.values():
        for named, keys in (("cautions", kind.dry_cautions), ("tools", kind.dry_tools)):
            if wrong := [key for key in keys if key not in known[named]]:
                detail = f"washing.toml: {kind.key}.dry_{named}: there is no {wrong[0]!r}"
                raise BookError(detail, field=f"dry_{named}", fix=f"Add it to {named}.toml.")
        if kind.dry_as not in set(Action) - WETTING:
            raise BookError(f"washing.toml: {kind.key}.dry_as: there is no {kind.dry_as!r}", field="dry_as")
    if left := set(kinds) - {table["washing"].key for table in parts.values()}:
        detail = f"washing.toml: no part is washed as {', '.join(sorted(left))}"
        raise BookError(detail, field="kinds", fix="Use or drop it.")
    schools = {str(school) for school in School}
    wrong = sorted({view.school for kind in kinds.values() for view in kind.views} - schools)
    if wrong:
        detail = f"washing.toml: views: there is no school {wrong[0]!r}"
        raise BookError(detail, field="views", fix="Name one of " + ", ".join(sorted(schools)) + ".")


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


def _check_rests(parts: Mapping[str, Table]) -> None:
    """What is washed rests at least as long as its kind asks for."""
    for key, table in parts.items():
        wash: Washing = table["washing"]
        for rule in table.get("rules", ()):
            dries: Drying | None = rule.get("drying", table.get("drying"))
            if rule.get("action") == Action.WASH and dries and dries.floor_h < wash.rest_h:
                raise BookError(
                    f"parts: {key}.dries: {dries.key} rests {dries.floor_h:g} h, {wash.key} asks for {wash.rest_h:g}",
                    field="dries",
                    fix="Name a kind of drying.toml that rests as long.",
                )


def _check_dried(kinds: Mapping[str, Drying], parts: Mapping[str, Table]) -> None:
    told = [one for table in parts.values() for one in (table, *table.get("rules", ())) if "drying" in one]
    if left := set(kinds) - {one["drying"].key for one in told}:
        raise BookError(
            f"drying.toml: no part dries as {', '.join(sorted(left))}", field="kinds", fix="Use or drop it."
        )


def load_archetype(path: Path, parts: Mapping[str, Table], used: set[str] | None = None) -> Archetype:
    """One kind of machine from `path`; adds the parts it uses to `used`. Raises `BookError` with file, key, reason."""
    data = _read(path)
    slots = data.get("slots")
    if isinstance(slots, list):
        data["slots"] = [_slot(slot, parts, path, used) if isinstance(slot, dict) else slot for slot in slots]
    made = _build(TypeAdapter(Archetype), data, path)
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
    return _build(TypeAdapter(list[kind]), _read(path).get(key), path)  # type: ignore[valid-type]


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


def _check_named(archetype: Archetype, known: Mapping[str, Mapping[str, object]], path: Path) -> None:
    for kind, where, key in _named(archetype):
        if key not in known[kind]:
            what = kind.removesuffix("s")
            raise BookError(
                f"{path.name}: {where}: there is no {what} {key!r}", field=where, fix=f"Add it to {kind}.toml."
            )


def _check_titles(archetype: Archetype, cautions: Mapping[str, Caution], path: Path) -> None:
    """A gate that a task or an opening names says what it asks."""
    for kind, where, key in _named(archetype):
        if kind == "cautions" and cautions[key].gate and not (cautions[key].title or cautions[key].power):
            detail = f"{path.name}: {where}: the gate {key!r} has no title"
            raise BookError(detail, field=where, fix="Say in cautions.toml what it asks.")


def _check_doors(archetype: Archetype, path: Path) -> None:
    """A part that comes off with an opening lies behind it."""
    for way in archetype.openings:
        if way.part is not None and way.part not in {s.key for s in archetype.slots if s.opening == way.key}:
            detail = f"{path.name}: openings.{way.key}.part: {way.part!r} does not lie behind it"
            raise BookError(detail, field=f"openings.{way.key}.part", fix="Give that part this opening.")


def _check_strip_downs(archetype: Archetype, path: Path) -> None:
    """What opens the body lies behind an opening that says so: by that it has its gate, its screws, its skill."""
    for slot in archetype.slots:
        named = any(NamedCaution.STRIP_DOWN in rule.card.cautions for rule in (*slot.rules, *slot.over.wet_rules))
        if named and not (slot.opening and archetype.opening(slot.opening).strip_down):
            detail = f"{path.name}: slots.{slot.key}.opening: its card opens the body, and no opening of it does"
            raise BookError(detail, field=f"slots.{slot.key}.opening", fix="Give it an opening with strip_down.")


def _named(archetype: Archetype) -> Iterator[tuple[str, str, str]]:
    """Every caution and tool that a kind names: (list, where, key)."""
    yield "cautions", "make_safe", archetype.make_safe
    for opening in archetype.openings:
        yield from (("cautions", f"openings.{opening.key}.cautions", key) for key in opening.cautions)
        yield from (("tools", f"openings.{opening.key}.tools", key) for key in opening.tools)
    for slot in archetype.slots:
        for rule in (*slot.over.wet_rules, *slot.rules):
            where = f"slots.{slot.key}.{rule.action}.card"
            yield from (("cautions", f"{where}.cautions", key) for key in rule.card.cautions)
            yield from (("tools", f"{where}.tools", key) for key in rule.card.tools)


def _check_features(archetypes: Mapping[str, Archetype]) -> None:
    """A rule may hang only on a feature that the kind can have: an option of its own, or one of some dock."""
    docks = {feature for archetype in archetypes.values() for feature in archetype.provides}
    for archetype in archetypes.values():
        known = {option.key for option in archetype.options} | docks
        for where, feature in _features(archetype):
            if feature not in known:
                raise BookError(f"{archetype.key}.toml: {where}: no machine has {feature!r}", field=where)


def _features(archetype: Archetype) -> Iterator[tuple[str, str]]:
    """Every feature that a kind's parts and rules hang on, with where it stands."""
    for slot in archetype.slots:
        yield from ((f"slots.{slot.key}", key) for key in (slot.only_with, slot.unless_with) if key)
        for rule in slot.rules:
            where = f"slots.{slot.key}.{rule.action}"
            yield from ((where, key) for key in (rule.only_with, rule.unless_with) if key)


def _alone(key: str, table: Table) -> Slot:
    """A part by itself, without a place on a machine."""
    slot: Slot = _build(TypeAdapter(Slot), {**table, "key": key, "station": "", "use": key}, Path(f"parts: {key}"))
    return slot.seen({})


def _check_traits(archetypes: Mapping[str, Archetype], questions: list[Question]) -> None:
    """Every kind answers questions that stand there, with answers that stand there, and no two kinds answer alike."""
    answers = {question.key: question.answers for question in questions}
    for archetype in archetypes.values():
        for key, answer in archetype.traits.items():
            if answer not in answers.get(key, {}):
                raise BookError(
                    f"{archetype.key}.toml: traits.{key}: no question has {answer!r}", field=f"traits.{key}"
                )
    told = [tuple(sorted(a.traits.items())) for a in archetypes.values()]
    alike = [a.key for a, traits in zip(archetypes.values(), told, strict=True) if told.count(traits) > 1]
    if alike:
        first, second, *_ = alike
        detail = f"{first}.toml: traits: answers every question alike with {second}"
        raise BookError(detail, field="traits", fix="Ask one more thing.")


def _check_used(left: set[str]) -> None:
    if left:
        raise BookError(
            f"parts: no kind of machine uses {', '.join(sorted(left))}", field="parts", fix="Use or drop it."
        )
