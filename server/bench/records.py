"""Sheets and their events to core values and back."""

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from pydantic import TypeAdapter

from care.bench import Answer
from care.bench import Sheet as CoreSheet
from care.bench.drying import Hanging
from care.items import Item
from server.bench.models import Sheet, SheetEvent

BACK = "back"
"""The value of an event that takes the last standing answer back."""


@dataclass(frozen=True, slots=True)
class Frozen:
    """What a sheet was made of."""

    sheet: CoreSheet
    items: dict[UUID, Item]


_frozen = TypeAdapter(Frozen)


def freeze(sheet: CoreSheet, items: dict[UUID, Item]) -> dict[str, Any]:
    """The JSON that a sheet's row keeps."""
    data: dict[str, Any] = _frozen.dump_python(Frozen(sheet, items), mode="json")
    return data


def thaw(row: Sheet) -> Frozen:
    """The core's sheet and items of a row."""
    return _frozen.validate_python(row.frozen)


def standing_answers(events: Iterable[SheetEvent]) -> list[Answer]:
    """The answers that stand, in order: a step back takes the last one away, late ones never counted."""
    stack: list[Answer] = []
    for event in events:
        if event.late:
            continue
        if event.value == BACK:
            if stack:
                stack.pop()
        else:
            hanging = Hanging(**event.hanging) if event.hanging else None
            stack.append(Answer(event.step, event.value, event.at, event.reason, hanging))
    return stack
