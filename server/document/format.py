"""A household as one document: its models, which are the only source of the JSON Schema, and how one is read.

An older document is upgraded step by step; a newer one is refused with words.
"""

import json
from collections.abc import Callable, Mapping
from typing import Annotated, Any, Literal
from uuid import UUID
from zoneinfo import ZoneInfo

from pydantic import AfterValidator, Field, ValidationError

from care.errors import InvalidValue
from server.base import bounds
from server.bench.models import Sheet
from server.document.kinds import AnyRecord, MachineId, Part, PersonId, RecordId
from server.faults.models import Case, CaseEvent

FORMAT, VERSION = "yperon-household", 2


def _devices_may_speak(document: dict[str, Any]) -> dict[str, Any]:
    """Version 2 only says more: records of devices, and what machines tell of their runs."""
    return {**document, "version": 2}


UPGRADES: Mapping[int, Callable[[dict[str, Any]], dict[str, Any]]] = {1: _devices_may_speak}
"""By version: what makes a document of the next version of one of this."""
MOST_RECORDS = 1_000_000
MOST_FAULTS = 50
"""So many faults of a file are told at once."""


def _zone(name: str) -> str:
    try:
        ZoneInfo(name)
    except (OSError, ValueError, LookupError) as error:
        raise ValueError(f"{name!r} is no time zone; needs an IANA name such as Europe/Dublin") from error
    return name


class HouseholdPart(Part):
    """The household."""

    id: UUID
    name: Annotated[bounds.Remark, Field(min_length=1)]
    time_zone: Annotated[bounds.Key, AfterValidator(_zone)]
    created_at: bounds.Instant


class PersonPart(Part):
    """Somebody whose name stands in records. Accounts and passwords are not part of a household."""

    id: UUID
    name: bounds.Remark
    role: Literal["owner", "helper", "viewer"]
    joined_at: bounds.Instant
    left_at: bounds.Instant | None = None


class MachinePart(Part):
    """A machine as it was set up: its kind is a key of the care book. What was changed since stands in records."""

    id: UUID
    given_name: Annotated[bounds.Name, Field(min_length=1)]
    archetype: bounds.Key
    given_features: list[bounds.Key]
    serves_id: MachineId | None = None
    replaces_id: MachineId | None = None
    set_up_id: RecordId


class ItemPart(Part):
    """One physical part, and the place that it was bought for. Where it is now follows from its moves."""

    id: UUID
    part: bounds.Key
    name: bounds.Name
    first_machine_id: MachineId
    first_slot: bounds.Key


class SheetEventPart(Part):
    """An answer at the bench, or one step back."""

    id: UUID
    step: bounds.Key
    value: bounds.Key
    reason: bounds.Line = ""
    hanging: dict[str, Any] | None = None
    late: bool = False
    at: bounds.Instant
    by: PersonId | None = None


class SheetPart(Part):
    """A sitting at the bench: its steps as they were when it was made, and what was answered."""

    id: UUID
    machines: list[MachineId]
    frozen: dict[str, Any]
    status: Sheet.Status
    made_at: bounds.Instant
    made_by: PersonId | None = None
    ended_at: bounds.Instant | None = None
    follows_id: UUID | None = None
    action_id: UUID | None = None
    finish_id: UUID | None = None
    ending: dict[str, Any] | None = None
    case_id: UUID | None = None
    events: list[SheetEventPart] = []


class CaseEventPart(Part):
    """Something told or done in a search for a fault, or one step back."""

    id: UUID
    kind: CaseEvent.Kind
    key: bounds.Key = ""
    says: bounds.Key = ""
    wrote: list[UUID] = []
    at: bounds.Instant
    by: PersonId | None = None


class CasePart(Part):
    """A search for a fault."""

    id: UUID
    machine_id: MachineId
    dock_id: MachineId | None = None
    influences: list[Any]
    status: Case.Status
    opened_at: bounds.Instant
    opened_by: PersonId | None = None
    closed_at: bounds.Instant | None = None
    record_id: RecordId | None = None
    events: list[CaseEventPart] = []


class PlanPart(Part):
    """On which days the last season's plan had each chore: made anew, it moves nothing unasked."""

    made_on: bounds.Day
    doing: list[Any]
    visits: list[Any]
    calendar: list[Any] = []


class Document(Part):
    """A household with all that it has. Records stand in the order in which they were entered, one on a line."""

    format: Literal["yperon-household"]
    version: Literal[2]
    made_at: bounds.Instant
    household: HouseholdPart
    people: Annotated[list[PersonPart], Field(max_length=1000)]
    machines: Annotated[list[MachinePart], Field(max_length=10_000)]
    parts: Annotated[list[ItemPart], Field(max_length=100_000)]
    records: Annotated[list[AnyRecord], Field(max_length=MOST_RECORDS)]
    sheets: Annotated[list[SheetPart], Field(max_length=100_000)] = []
    cases: Annotated[list[CasePart], Field(max_length=100_000)] = []
    plan: PlanPart | None = None


def read(data: bytes) -> Document:
    """A document as it was taken out, of this version or an older one. Raises `InvalidValue` with `lines`."""
    try:
        document = json.loads(data)
    except (ValueError, RecursionError) as error:
        line = getattr(error, "lineno", 1)
        raise refused([fault(line, "This is no JSON.", "Choose the file as it was taken out.")]) from error
    if not isinstance(document, dict) or document.get("format") != FORMAT:
        words = f"This is no household of ours: its format is not {FORMAT!r}."
        raise refused([fault(1, words, "Choose a file that Yperon made.")])
    upgraded = _upgraded(document)
    try:
        return Document.model_validate(upgraded) if upgraded is not document else Document.model_validate_json(data)
    except ValidationError as error:
        found = error.errors(include_url=False, include_context=False)[:MOST_FAULTS]
        raise refused([_fault_of(data, document, one) for one in found]) from error


def _upgraded(document: dict[str, Any]) -> dict[str, Any]:
    version = document.get("version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise refused([fault(1, "It does not say of which version it is.", "Choose the file as it was taken out.")])
    if version > VERSION:
        words = f"It was made by a newer Yperon (version {version}; this one reads up to {VERSION})."
        raise refused([fault(1, words, "Bring this Yperon up to date first.")])
    for step in range(version, VERSION):
        document = UPGRADES[step](document)
    return document


def fault(line: int, problem: str, fix: str) -> dict[str, Any]:
    """One thing that is wrong with a file."""
    return {"line": line, "problem": problem, "fix": fix}


def refused(lines: list[dict[str, Any]]) -> InvalidValue:
    """The refusal of a file, with what is wrong at which line. Nothing of it was brought in."""
    first = lines[0]
    return InvalidValue(
        f"Line {first['line']}: {first['problem']} Nothing was brought in.", field="file", fix=first["fix"], lines=lines
    )


def _fault_of(data: bytes, document: dict[str, Any], error: Any) -> dict[str, Any]:
    """Where in the file something is wrong: an id stands on the line of what it is of."""
    where = list(error["loc"])
    near: Any = document
    line = 1
    for key in where:
        try:
            near = near[key]
        except (KeyError, IndexError, TypeError):
            break
        if isinstance(near, dict) and isinstance(near.get("id"), str):
            line = line_of(data, near["id"])
    field = ".".join(str(key) for key in where)
    return fault(line, f"{field}: {error['msg']}.", "Correct it, or take the file out again.")


def line_of(data: bytes, its_id: str) -> int:
    """The line of a file on which something with this id stands first."""
    at = data.find(f'"{its_id}"'.encode())
    return data.count(b"\n", 0, at) + 1 if at >= 0 else 1
