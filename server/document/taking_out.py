"""A household's rows as a document, piece by piece, so that ten years of records need no memory to speak of."""

import json
import zipfile
from collections.abc import Iterable, Iterator
from datetime import datetime
from itertools import islice
from typing import IO, Any
from uuid import UUID

from pydantic import BaseModel, TypeAdapter

from server.base import clock
from server.base.storage import snapshot
from server.bench.models import Sheet, SheetEvent
from server.document import format as doc
from server.document.kinds import AnyRecord, Record
from server.document.tables import Kind, all_kinds
from server.faults.models import Case, CaseEvent
from server.household.models import Household, Member
from server.logbook.models import Entry
from server.logbook.scoping import by_ids
from server.machines.models import Item, Machine, Note
from server.season.models import LastPlan

AT_ONCE = 2_000
"""So many records are in hand at a time."""
HEADER = (
    "pk",
    "action_id",
    "subject_id",
    "kind",
    "happened_at",
    "entered_at",
    "by_id",
    "source",
    "voids_id",
    "reason",
    "sequence",
)
_anything: TypeAdapter[Any] = TypeAdapter(Any)
_records: TypeAdapter[list[Any]] = TypeAdapter(list[AnyRecord])


def document(household_id: UUID, made_at: datetime | None = None) -> Iterator[bytes]:
    """The document as text, one thing a line; sheets and searches for faults come after the records they are of."""
    house = Household.objects.get(pk=household_id)
    head = {
        "format": doc.FORMAT,
        "version": doc.VERSION,
        "made_at": made_at or clock.now(),
        "household": doc.HouseholdPart(
            id=house.pk, name=house.name, time_zone=house.time_zone, created_at=house.created_at
        ),
    }
    yield b"{\n"
    for name, value in head.items():
        yield _line(name, value)
    lists: dict[str, Iterable[BaseModel]] = {
        "people": people(household_id),
        "machines": machines(household_id),
        "parts": parts(household_id),
        "records": records(household_id),
        "sheets": sheets(household_id),
        "cases": cases(household_id),
    }
    for name, values in lists.items():
        yield f'"{name}": ['.encode()
        yield from _lines(values)
        yield b"\n],\n"
    plan = LastPlan.objects.of(household_id).values(*doc.PlanPart.model_fields).first()
    yield b'"plan": ' + (doc.PlanPart(**plan).model_dump_json().encode() if plan else b"null") + b"\n}\n"


def _line(name: str, value: Any) -> bytes:
    text = value.model_dump_json() if isinstance(value, BaseModel) else _anything.dump_json(value).decode()
    return f"{json.dumps(name)}: {text},\n".encode()


def _lines(values: Iterable[BaseModel]) -> Iterator[bytes]:
    """A value on each line; what stands as it would if it were not told is left out."""
    for n, value in enumerate(values):
        yield (b",\n" if n else b"\n") + value.model_dump_json(exclude_defaults=True, by_alias=True).encode()


def people(household_id: UUID) -> Iterator[doc.PersonPart]:
    """Everybody who is or was here."""
    rows = Member.objects.of(household_id).order_by("joined_at", "pk").values(*doc.PersonPart.model_fields)
    return (doc.PersonPart(**row) for row in rows)


def machines(household_id: UUID) -> Iterator[doc.MachinePart]:
    """Machines in the order in which they were set up."""
    rows = Machine.objects.of(household_id).order_by("set_up__sequence").values(*doc.MachinePart.model_fields)
    return (doc.MachinePart(**row) for row in rows)


def parts(household_id: UUID) -> Iterator[doc.ItemPart]:
    """All parts that there are or were."""
    rows = Item.objects.of(household_id).order_by("pk")
    for row in rows:
        yield doc.ItemPart(
            id=row.pk,
            part=row.part,
            name=row.name,
            first_machine_id=row.first_machine_id or row.home_machine_id,
            first_slot=row.first_slot or row.home_slot,
        )


def records(household_id: UUID) -> Iterator[Record]:
    """All records in the order in which they were entered, those that were voided and what voids them too."""
    entries = Entry.objects.of(household_id).order_by("sequence").values(*HEADER).iterator(AT_ONCE)
    while some := list(islice(entries, AT_ONCE)):
        yield from records_of(household_id, some)


def records_of(household_id: UUID, entries: list[dict[str, Any]]) -> list[Record]:
    """What a document says of entries (the columns of `HEADER`) with their details, in their order."""
    found = {entry["pk"]: _header(household_id, entry) for entry in entries}
    for kind in all_kinds().values():
        wanted = [entry["pk"] for entry in entries if entry["kind"] == kind.entry_kind]
        if kind.table is None:
            for pk in wanted:
                found[pk]["what"] = kind.what
        else:
            for pk, detail in _details(household_id, kind, wanted):
                found[pk] |= detail
    for entry in entries:
        if entry["kind"] == Entry.Kind.VOID:
            found[entry["pk"]] |= {"voids": entry["voids_id"], "reason": entry["reason"]}
    return _records.validate_python(list(found.values()))


def _details(household_id: UUID, kind: Kind, wanted: list[UUID]) -> Iterator[tuple[UUID, dict[str, Any]]]:
    assert kind.table is not None
    fields, columns = kind.columns.keys(), kind.columns.values()
    for rows in by_ids(kind.table.objects.of(household_id), wanted):
        for pk, *values in rows.values_list("pk", *columns):
            yield pk, {"what": kind.what, **dict(zip(fields, values, strict=True))}


def _header(household_id: UUID, entry: dict[str, Any]) -> dict[str, Any]:
    subject = entry["subject_id"]
    return {
        "id": entry["pk"],
        "action_id": entry["action_id"],
        "subject_id": None if subject == household_id else subject,
        "happened_at": entry["happened_at"],
        "entered_at": entry["entered_at"],
        "by": entry["by_id"],
        "source": entry["source"],
    }


def sheets(household_id: UUID) -> Iterator[doc.SheetPart]:
    """Sittings, the first one first, with their answers."""
    events: dict[UUID, list[doc.SheetEventPart]] = {}
    for row in SheetEvent.objects.of(household_id).order_by("number"):
        fields = {name: getattr(row, name) for name in doc.SheetEventPart.model_fields if name != "by"}
        events.setdefault(row.sheet_id, []).append(doc.SheetEventPart(**fields, by=row.by_id))
    for row in Sheet.objects.of(household_id).order_by("made_at", "pk").prefetch_related("machines").iterator(100):
        names = set(doc.SheetPart.model_fields) - {"machines", "made_by", "events"}
        yield doc.SheetPart(
            **{name: getattr(row, name) for name in names},
            machines=sorted(machine.pk for machine in row.machines.all()),
            made_by=row.made_by_id,
            events=events.get(row.pk, []),
        )


def cases(household_id: UUID) -> Iterator[doc.CasePart]:
    """Searches for faults, the first one first."""
    events: dict[UUID, list[doc.CaseEventPart]] = {}
    for row in CaseEvent.objects.of(household_id).order_by("number"):
        fields = {name: getattr(row, name) for name in doc.CaseEventPart.model_fields if name != "by"}
        events.setdefault(row.case_id, []).append(doc.CaseEventPart(**fields, by=row.by_id))
    for row in Case.objects.of(household_id).order_by("opened_at", "pk"):
        names = set(doc.CasePart.model_fields) - {"opened_by", "events"}
        yield doc.CasePart(
            **{name: getattr(row, name) for name in names},
            opened_by=row.opened_by_id,
            events=events.get(row.pk, []),
        )


DOCUMENT, PHOTOS = "household.json", "photos"
"""What is in a ZIP: the document, and a folder with the pictures of notes."""


def plain(household_id: UUID, into: IO[bytes]) -> None:
    """The document without pictures, of one instant."""
    with snapshot():
        into.writelines(document(household_id))


def packed(household_id: UUID, into: IO[bytes]) -> None:
    """The document of one instant with all pictures as a ZIP."""
    with snapshot(), zipfile.ZipFile(into, "w", zipfile.ZIP_DEFLATED) as made:
        with made.open(DOCUMENT, "w", force_zip64=True) as file:
            for piece in document(household_id):
                file.write(piece)
        for pk, picture in pictures(household_id):
            made.writestr(zipfile.ZipInfo(f"{PHOTOS}/{pk}.jpg"), picture)  # a JPEG packs no smaller


def pictures(household_id: UUID) -> Iterator[tuple[UUID, bytes]]:
    """The pictures of notes, each with the id of its record; one in hand at a time."""
    rows = Note.objects.of(household_id).exclude(picture=None).order_by("pk")
    return ((pk, bytes(picture)) for pk, picture in rows.values_list("pk", "picture").iterator(1))
