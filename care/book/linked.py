"""Whether what the files of the book name is there: cautions, tools, openings, features, answers."""

from collections.abc import Iterable, Iterator, Mapping
from pathlib import Path
from typing import Any

from care.content import Bundle, Caution, Danger, Question, Tool
from care.errors import BookError
from care.faults.book import FaultBook
from care.kinds import Archetype
from care.named import NamedCaution, NamedFeature, NamedTool
from care.rules import WETTING, Drying
from care.vocabulary import Action, School
from care.washability import Washing

Table = dict[str, Any]
"""A table of a TOML file, as it was read."""


def check_the_named(
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


def check_bundles(bundles: Iterable[Bundle], parts: Mapping[str, Table]) -> None:
    """A single task of a bundle is one that its part has."""
    known = {f"{key}.{rule.get('action')}" for key, table in parts.items() for rule in table.get("rules", ())}
    for bundle in bundles:
        if wrong := sorted(set(bundle.tasks) - known):
            raise BookError(f"bundles.toml: {bundle.key}.tasks: there is no {wrong[0]!r}", field="tasks")


def check_dangers(cautions: Iterable[Caution], faults: FaultBook, dangers: Mapping[str, Danger]) -> None:
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


def check_washed(
    kinds: Mapping[str, Washing], parts: Mapping[str, Table], known: Mapping[str, Mapping[str, object]]
) -> None:
    """What a kind of washing names is there, and each part names a kind that is used. Raises `BookError`."""
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


def check_rests(parts: Mapping[str, Table]) -> None:
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


def check_dried(kinds: Mapping[str, Drying], parts: Mapping[str, Table]) -> None:
    """Each kind of drying is some part's. Raises `BookError`."""
    dried = [one for table in parts.values() for one in (table, *table.get("rules", ())) if "drying" in one]
    if left := set(kinds) - {one["drying"].key for one in dried}:
        raise BookError(
            f"drying.toml: no part dries as {', '.join(sorted(left))}", field="kinds", fix="Use or drop it."
        )


def check_named(archetype: Archetype, known: Mapping[str, Mapping[str, object]], path: Path) -> None:
    """The cautions and tools that a kind of machine names are there. Raises `BookError`."""
    for kind, where, key in _named(archetype):
        if key not in known[kind]:
            what = kind.removesuffix("s")
            raise BookError(
                f"{path.name}: {where}: there is no {what} {key!r}", field=where, fix=f"Add it to {kind}.toml."
            )


def check_titles(archetype: Archetype, cautions: Mapping[str, Caution], path: Path) -> None:
    """A gate that a task or an opening names says what it asks."""
    for kind, where, key in _named(archetype):
        if kind == "cautions" and cautions[key].gate and not (cautions[key].title or cautions[key].power):
            detail = f"{path.name}: {where}: the gate {key!r} has no title"
            raise BookError(detail, field=where, fix="Say in cautions.toml what it asks.")


def check_doors(archetype: Archetype, path: Path) -> None:
    """A part that comes off with an opening lies behind it."""
    for way in archetype.openings:
        if way.part is not None and way.part not in {s.key for s in archetype.slots if s.opening == way.key}:
            detail = f"{path.name}: openings.{way.key}.part: {way.part!r} does not lie behind it"
            raise BookError(detail, field=f"openings.{way.key}.part", fix="Give that part this opening.")


def check_strip_downs(archetype: Archetype, path: Path) -> None:
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


def check_features(archetypes: Mapping[str, Archetype]) -> None:
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


def check_traits(archetypes: Mapping[str, Archetype], questions: list[Question]) -> None:
    """Every kind answers questions that stand there, with answers that stand there, and no two kinds answer alike."""
    answers = {question.key: question.answers for question in questions}
    for archetype in archetypes.values():
        for key, answer in archetype.traits.items():
            if answer not in answers.get(key, {}):
                raise BookError(
                    f"{archetype.key}.toml: traits.{key}: no question has {answer!r}", field=f"traits.{key}"
                )
    signatures = [tuple(sorted(a.traits.items())) for a in archetypes.values()]
    alike = [a.key for a, traits in zip(archetypes.values(), signatures, strict=True) if signatures.count(traits) > 1]
    if alike:
        first, second, *_ = alike
        detail = f"{first}.toml: traits: answers every question alike with {second}"
        raise BookError(detail, field="traits", fix="Ask one more thing.")


def check_used(left: set[str]) -> None:
    """Each part is some machine's; `left` are those that are none's. Raises `BookError`."""
    if left:
        raise BookError(
            f"parts: no kind of machine uses {', '.join(sorted(left))}", field="parts", fix="Use or drop it."
        )
