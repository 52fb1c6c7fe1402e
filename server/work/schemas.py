"""What is told of work on parts."""

from typing import Literal
from uuid import UUID

from care.vocabulary import Action, Found, Gone
from server.base import bounds
from server.base.schema import Schema


class LookIn(Schema):
    """What was found on a part, nothing done."""

    slot: bounds.Key
    about: Action
    found: Found
    day: bounds.Day | None = None


class CounterIn(Schema):
    """What the machine's own counter says of a part.

    `trusted` tells which counts on where it is far from our own count: the machine's figure, or ours.
    """

    slot: bounds.Key
    value: bounds.Amount
    unit: Literal["percent", "hours"]
    sense: Literal["left", "used"]
    day: bounds.Day | None = None
    trusted: bool | None = None


class KitIn(Schema):
    """A kit renewed."""

    kit: bounds.Key
    day: bounds.Day | None = None


class MoveIn(Schema):
    """Where a part goes."""

    machine_id: UUID
    slot: bounds.Key


class ServiceIn(Schema):
    """A task that is done already; of a part that was replaced, why it went."""

    slot: bounds.Key
    action: Action
    day: bounds.Day | None = None
    found: Found | None = None
    gone: Gone | None = None


class FitIn(Schema):
    """Putting a part back; before it is dry only with a reason."""

    early_reason: bounds.Line = ""
