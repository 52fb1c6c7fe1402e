"""What the API says of all that can be changed on a machine."""

from __future__ import annotations

from uuid import UUID

from care.bench.depth import extras
from care.book import load_book
from care.overrides import Aspect, HowFar, habits, key_of
from care.parts import Slot
from care.rules import Rule
from care.vocabulary import Action, Calendar, Column, Consequence, Meter, Mishap, School
from server.base.schema import Schema
from server.due.schemas import ItemOut, item_out
from server.due.state import MachineState
from server.household.models import Member
from server.setup import overrides


class TriggerOut(Schema):
    """A figure of the book: from, to, in the unit of its meter."""

    meter: Meter
    low: float
    high: float
    calendar: Calendar | None
    after: Mishap | None


class SetupRuleOut(Schema):
    """A task with what the book says, and what the household set beside it."""

    action: Action
    reason: str
    guarded: bool
    book: list[TriggerOut]
    own_meter: Meter | None
    own_figure: float | None
    own_off: bool
    own_why: str


class SetupPartOut(Schema):
    """A part with its place, its name here and in the book, its rules, spares and school."""

    slot: str
    name: str
    book_name: str | None
    station: str
    air_order: int
    refit_order: int
    moved: bool
    added: bool
    removable: bool
    material: str
    school: School | None
    rules: list[SetupRuleOut]
    items: list[ItemOut]


class StationOut(Schema):
    """A place on the machine."""

    key: str
    label: str
    column: Column


class PartOfBookOut(Schema):
    """A part of the book that can be added."""

    key: str
    name: str


class GoneOut(Schema):
    """A part that was taken off the machine."""

    slot: str
    name: str


class FeatureOut(Schema):
    """An option of a machine's kind, and whether this one has it."""

    key: str
    question: str
    has: bool


class ExtraOut(Schema):
    """Something extra that may be done while a part lies open; `kept`: in each sitting that lays it open."""

    slot: str
    slot_name: str
    action: Action
    why: str
    effort_min: float
    kept: bool


class SetupOut(Schema):
    """All that can be changed on a machine."""

    id: UUID
    name: str
    kind: str
    archetype: str
    status: str
    school: School | None
    household_school: School
    replaces: UUID | None
    stations: list[StationOut]
    parts: list[SetupPartOut]
    gone: list[GoneOut]
    of_book: list[PartOfBookOut]
    features: list[FeatureOut]
    level: HowFar | None
    extras: list[ExtraOut]


def _extras_out(row: overrides.Listing, state: MachineState) -> list[ExtraOut]:
    kind, kept = state.machine.archetype, habits(row.own)
    ways = {slot.opening for slot in kind.slots}
    return [
        ExtraOut(
            slot=slot.key,
            slot_name=slot.name,
            action=rule.action,
            why=rule.reason,
            effort_min=rule.card.effort_min,
            kept=(slot.key, rule.action) in kept,
        )
        for slot, rule in extras(kind, state.machine.features, state.context.school, ways)
    ]


def setup_out(row: overrides.Listing, state: MachineState) -> SetupOut:
    """A machine's set-up."""
    book = load_book()
    original, kind = book.archetypes[row.archetype], state.machine.archetype
    names = {slot.key: slot.name for slot in original.slots}
    places = {slot.key: slot.station for slot in original.slots}
    return SetupOut(
        id=row.id,
        name=row.name,
        kind=kind.name,
        archetype=row.archetype,
        status=row.status,
        school=row.own.get(key_of(Aspect.SCHOOL)),
        household_school=state.context.school,
        replaces=row.replaces,
        stations=[StationOut.model_validate(station, from_attributes=True) for station in kind.stations],
        parts=[_part_out(slot, row, state, names, places) for slot in kind.parts(state.machine.features)],
        gone=[
            GoneOut(slot=slot.key, name=slot.name)
            for slot in original.slots
            if key_of(Aspect.GONE, slot.key) in row.own
        ],
        of_book=[PartOfBookOut(key=key, name=slot.name) for key, slot in book.parts.items() if slot.removable],
        features=[
            FeatureOut(key=option.key, question=option.question, has=option.key in state.machine.features)
            for option in original.options
        ],
        level=row.own.get(key_of(Aspect.LEVEL)),
        extras=_extras_out(row, state),
    )


def _part_out(
    slot: Slot, row: overrides.Listing, state: MachineState, names: dict[str, str], places: dict[str, str]
) -> SetupPartOut:
    fitted = state.machine.fitted.get(slot.key)
    known = [item for item in state.items.values() if state.homes[item.id] == slot.key]
    known = [item for item in known if item.state not in ("retired", "unknown")]
    return SetupPartOut(
        slot=slot.key,
        name=slot.name,
        book_name=names.get(slot.key),
        station=slot.station,
        air_order=slot.air_order,
        refit_order=slot.refit_order,
        moved=places.get(slot.key, slot.station) != slot.station,
        added=slot.over.added,
        removable=slot.removable,
        material=slot.over.material,
        school=row.own.get(key_of(Aspect.SCHOOL, slot.key)),
        rules=[_rule_out(rule) for rule in slot.rules if rule.holds_with(state.machine.features)],
        items=[item_out(item) for item in sorted(known, key=lambda item: (item.id != fitted, item.name))],
    )


def _rule_out(rule: Rule) -> SetupRuleOut:
    mine = rule.own
    return SetupRuleOut(
        action=rule.action,
        reason=rule.reason,
        guarded=rule.never_stretch or rule.stake is Consequence.SAFETY,
        book=[TriggerOut.model_validate(trigger, from_attributes=True) for trigger in rule.triggers],
        own_meter=mine.trigger.meter if mine and mine.trigger else None,
        own_figure=mine.trigger.high if mine and mine.trigger else None,
        own_off=mine.off if mine else False,
        own_why=mine.why if mine else "",
    )


class PutAwayOut(Schema):
    """A machine that is not in use."""

    id: UUID
    name: str
    kind: str
    status: str


def put_away_out(member: Member) -> list[PutAwayOut]:
    """The machines that are not in use."""
    kinds_ = load_book().archetypes
    return [
        PutAwayOut(id=row.id, name=row.name, kind=kinds_[row.archetype].name, status=row.status)
        for row in overrides.not_in_use(member)
    ]
