"""What somebody says of spare parts, over HTTP: numbers, counts, moves."""

from __future__ import annotations

from typing import Literal
from uuid import UUID

from care.shelf import FitCheck, PartNumber, PartPlace, SparePart
from server.base import bounds
from server.base.schema import Schema


class PartPlaceIn(Schema):
    """A place of a machine."""

    machine_id: UUID
    slot: bounds.Key

    def place(self) -> PartPlace:
        """As the core has it."""
        return PartPlace(self.machine_id, self.slot)


class NumberIn(Schema):
    """A part number, and whether it was found to fit."""

    number: bounds.Code
    maker: bool = True
    check: FitCheck = FitCheck.UNCHECKED
    note: bounds.Line = ""


class FitFoundIn(Schema):
    """Whether a part of a number was found to fit when it went in; the note says what is otherwise."""

    number: bounds.Code
    check: FitCheck
    maker: bool = False
    note: bounds.Line = ""


class FitFoundOut(Schema):
    """What was recorded; undoing the entry takes it back."""

    entry_id: UUID


class SparePartIn(Schema):
    """A kind of spare part to keep."""

    name: bounds.Name
    places: bounds.Few[PartPlaceIn]
    numbers: bounds.Few[NumberIn] = []
    least: bounds.Count = 0

    def part(self) -> SparePart:
        """As the core has it."""
        numbers = tuple(PartNumber(n.number.strip(), n.maker, n.check, n.note.strip()) for n in self.numbers)
        return SparePart(self.name.strip(), tuple(one.place() for one in self.places), numbers, self.least)


class CountIn(Schema):
    """What lies there, counted."""

    on_hand: bounds.Count


class StockMoveIn(Schema):
    """So many bought elsewhere, or gone."""

    count: bounds.Count
    why: Literal["bought", "gone"]
    number: bounds.Code = ""
    note: bounds.Line = ""


class TurnIn(Schema):
    """One that takes turns at a place from now on, under a name."""

    place: PartPlaceIn
    name: bounds.Name
