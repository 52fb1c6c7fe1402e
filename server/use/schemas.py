"""What use takes and gives: runs, days off, mishaps, what to see to before a run."""

from uuid import UUID

from care.book import load_book
from care.content import MayTakeIn
from care.model import Why
from care.vocabulary import Action, Mishap
from server.base import bounds
from server.base.schema import Schema
from server.due.state import MachineState


class RunIn(Schema):
    """A run to log; the id is the client's. Without a day it is today; the start, if known, is the household's time.

    `part_was_out` says that it ran although a part that it needs is out by the records.
    """

    id: UUID
    minutes: bounds.Minutes
    day: bounds.Day | None = None
    started: bounds.Clock | None = None
    mopped: bool | None = None
    part_was_out: bool = False


class RestIn(Schema):
    """Days off, of one machine or of the whole house."""

    machine_id: UUID | None = None
    why: Why
    first: bounds.Day
    last: bounds.Day | None = None


class MishapIn(Schema):
    """What a machine ran over or took in."""

    kind: Mishap
    day: bounds.Day | None = None


class BeforeRunOut(Schema):
    """Something to see to before a run; `only` for machines that move so. Where it may be left for later, `by_hand` is
    what one is reminded of then.
    """

    key: str
    text: str
    by_hand: str
    such_as: list[str]
    only: str | None


class PickupOut(Schema):
    """Whether something may be picked up, and what it brings forward if it was."""

    key: str
    name: str
    verdict: MayTakeIn
    why: str
    instead: str
    also: list[str]
    mishap: Mishap | None


class BroughtOut(Schema):
    """A task that a mishap makes due at once."""

    part: str
    action: Action


class FloorOut(Schema):
    """What to know before and while a machine runs; what a mishap brings forward is told of the machine asked for."""

    checks: list[BeforeRunOut]
    pickups: list[PickupOut]
    brings_forward: dict[Mishap, list[BroughtOut]]


def floor_out(state: MachineState | None) -> FloorOut:
    """The book's checks and verdicts, and what each mishap would bring forward on this machine."""
    book = load_book()
    forward: dict[Mishap, list[BroughtOut]] = {}
    if state is not None and not state.dangers:  # on a machine out of use nobody works
        archetype, features = state.machine.archetype, state.machine.features
        for mishap in Mishap:
            brought = archetype.brought_forward(mishap, features, state.context.school)
            forward[mishap] = [BroughtOut(part=slot.name, action=action) for slot, action in brought]
    return FloorOut(
        checks=[BeforeRunOut.model_validate(c, from_attributes=True) for c in book.before_run],
        pickups=[PickupOut.model_validate(p, from_attributes=True) for p in book.pickups],
        brings_forward=forward,
    )
