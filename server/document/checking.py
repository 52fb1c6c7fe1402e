"""Whether a document holds together before anything of it is kept: ids that are there, once, and of the right kind."""

from collections.abc import Iterable, Iterator
from functools import cache
from typing import Any
from uuid import UUID

from pydantic import BaseModel, ValidationError

from care.book import load_book
from server.bench.models import Sheet
from server.bench.records import thaw
from server.document.format import MOST_FAULTS, Document, fault, refused
from server.document.parcel import Parcel
from server.document.tables import refs_of
from server.household.models import Member
from server.logbook.models import Entry
from server.logbook.scoping import by_ids
from server.machines.models import Item, Machine

AGAIN = "Take the file out again; if it was changed by hand, look at this line."
refs = cache(refs_of)


def check(parcel: Parcel, household_id: UUID) -> None:
    """Raise `InvalidValue` with the faults of a document, by line, as it would stand in this household."""
    faults = [fault(parcel.line(its_id), words, AGAIN) for its_id, words in _faults(parcel.document, household_id)][
        :MOST_FAULTS
    ]
    if faults:
        raise refused(faults)


def _faults(document: Document, household_id: UUID) -> Iterator[tuple[UUID, str]]:
    yield from _twice(document)
    yield from _unknown(document, household_id)
    yield from _voids(document)
    kinds = load_book().archetypes
    for machine in document.machines:
        if machine.archetype not in kinds:
            yield machine.id, f"This Yperon knows no kind of machine called {machine.archetype!r}."
    for sheet in document.sheets:
        try:
            thaw(Sheet(frozen=sheet.frozen))
        except (ValidationError, ValueError, TypeError, KeyError):
            yield sheet.id, "This sitting cannot be read."


def _things(document: Document) -> Iterator[tuple[UUID, BaseModel]]:
    """Everything that has an id, also inside of others, with the id by which its line is found."""
    things: tuple[Any, ...] = (*document.people, *document.machines, *document.parts, *document.records)
    yield from ((one.id, one) for one in things)
    works: tuple[Any, ...] = (*document.sheets, *document.cases)
    for one in works:
        yield one.id, one
        yield from ((one.id, event) for event in one.events)


def _twice(document: Document) -> Iterator[tuple[UUID, str]]:
    seen: set[tuple[str, UUID]] = set()
    for at, one in _things(document):
        its: UUID = one.id  # type: ignore[attr-defined]
        table = "records" if hasattr(one, "what") else type(one).__name__
        if (table, its) in seen:
            yield at, f"The id {its} is there twice."
        seen.add((table, its))


def _unknown(document: Document, household_id: UUID) -> Iterator[tuple[UUID, str]]:
    """Ids of things that neither the document nor the household holds."""
    held = {
        "people": {one.id for one in document.people},
        "machines": {one.id for one in document.machines},
        "parts": {one.id for one in document.parts},
        "records": {one.id for one in document.records},
    }
    missing: dict[str, set[UUID]] = {table: set() for table in held}
    pointing = [(at, field, table, one_id) for at, field, table, one_id in _pointing(document)]
    for _, _, table, one_id in pointing:
        if one_id not in held[table]:
            missing[table].add(one_id)
    for table, ids in missing.items():
        ids -= _here(household_id, table, ids)
    for at, field, table, one_id in pointing:
        if one_id in missing[table]:
            yield at, f"{field}: there are no {table} with the id {one_id}."


def _pointing(document: Document) -> Iterator[tuple[UUID, str, str, UUID]]:
    for at, one in _things(document):
        for field, table in refs(type(one)).items():
            value: Any = getattr(one, field)
            for one_id in value if isinstance(value, list) else [value]:
                if one_id is not None:
                    yield at, field, table, one_id


def _here(household_id: UUID, table: str, ids: Iterable[UUID]) -> set[UUID]:
    rows: dict[str, Any] = {"people": Member, "machines": Machine, "parts": Item, "records": Entry}
    every_one = rows[table].objects.of(household_id)
    return {pk for some in by_ids(every_one, ids) for pk in some.values_list("pk", flat=True)}


def _voids(document: Document) -> Iterator[tuple[UUID, str]]:
    """Corrections of corrections, and of what was corrected already."""
    corrections = {one.id for one in document.records if one.what == "void"}
    seen: set[UUID] = set()
    for one in document.records:
        if one.what != "void":
            continue
        if one.voids in corrections or one.voids in seen:
            yield one.id, "What it voids was voided already, or is a correction itself."
        seen.add(one.voids)
