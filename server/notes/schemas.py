"""What notes, photos and felt suction take and give."""

from __future__ import annotations

from datetime import date
from typing import Literal
from uuid import UUID

from server.base import bounds
from server.base.schema import Schema
from server.notes.services import NoteLine


class PullIn(Schema):
    """How a machine pulls at the floor, 1 (hardly) to 5 (as new), before or after the work of a sheet."""

    felt: bounds.Count
    moment: Literal["before", "after"]
    sheet_id: UUID | None = None


class NoteIn(Schema):
    """The words of a note, the part it is about if any, and from when on Round reminds of it."""

    slot: bounds.Key = ""
    text: bounds.Text = ""
    remind_on: bounds.Day | None = None


class NoteOut(Schema):
    """A note of a machine or of one of its parts; with a width and height [px] it has a picture."""

    entry_id: UUID
    slot: str
    text: str
    day: date
    by: str
    width: int
    height: int


class NotesOut(Schema):
    """The notes of a machine, newest first."""

    notes: list[NoteOut]


def notes_out(lines: list[NoteLine]) -> NotesOut:
    """Notes as the API gives them."""
    return NotesOut(notes=[NoteOut.model_validate(line, from_attributes=True) for line in lines])
