"""What setting machines up and changing them takes and gives."""

from __future__ import annotations

from datetime import date
from typing import Literal
from uuid import UUID

from care import kinds
from care.bench.depth import extras
from care.book import load_book
from care.due.upkeep import Upkeep
from care.own import Aspect, HowFar, habits, key_of
from care.water import Mark, Trait
from server.config import bounds
from server.config.schema import Schema
from server.household.models import Member
from server.machines import own
from server.machines.notes import NoteLine
from server.machines.schemas import ItemOut, item_out
from server.machines.setup import Earlier, New, Spare
from server.machines.state import MachineState
from server.round.schemas import WeekIn


class EarlierIn(Schema):
    """What is known of a machine's past: None is "do not know"."""

    bought: bounds.Day | None = None
    last_done: bounds.Day | None = None
    parts: bounds.Table[bounds.Day | None] = {}


class SpareIn(Schema):
    """A second part for a slot."""

    slot: bounds.Key
    name: bounds.Name


class DockIn(Schema):
    """The dock that a robot comes home to."""

    id: UUID
    name: bounds.Name
    archetype: bounds.Key


class MachineIn(WeekIn):
    """A machine to add, with its dock if it has one; the ids are the client's. Without `earlier` its parts are new.

    `marked` tells by slot whether somebody saw that a part is marked washable, `wires` whether there are any in it.
    """

    id: UUID
    name: bounds.Name
    archetype: bounds.Key
    features: bounds.Few[bounds.Key] = []
    serves: UUID | None = None
    earlier: EarlierIn | None = None
    spares: bounds.Few[SpareIn] = []
    marked: bounds.Table[Mark] = {}
    wires: bounds.Table[Mark] = {}
    dock: DockIn | None = None

    def machines(self, today: date) -> list[New]:
        """The machine, and its dock after it, as the service takes them; runs so many days apart count from today."""
        earlier = Earlier(**self.earlier.model_dump()) if self.earlier else None
        spares = tuple(Spare(spare.slot, spare.name) for spare in self.spares)
        made = New(
            id=self.id,
            name=self.name,
            archetype=self.archetype,
            schedule=self.schedule(today),
            spares=spares,
            features=tuple(self.features),
            serves=self.serves,
            dock=self.at_dock(),
            earlier=earlier,
            marked=self.marked,
            wires=self.wires,
        )
        if self.dock is None:
            return [made]
        past = Earlier(earlier.bought, earlier.last_done) if earlier else None
        return [made, New(self.dock.id, self.dock.name, self.dock.archetype, serves=self.id, earlier=past)]


class ReplaceIn(MachineIn):
    """A machine that stands in for another; `keep` are spares of the old one that stay."""

    keep: bounds.Many[UUID] = []
    same_name: bool = False


class OptionOut(Schema):
    """A feature to ask for."""

    key: str
    question: str


class KindPartOut(Schema):
    """A part that machines of a kind have; `asks`: what has to be seen of it before it may get wet. While one that
    `stops` dries after a wash, the machine does not run.
    """

    slot: str
    name: str
    station: str
    is_filter: bool
    removable: bool
    only_with: str | None
    unless_with: str | None
    asks: list[Trait]
    stops: bool


class KindChamberOut(Schema):
    """A chamber of a kind's air path, for its picture."""

    key: str
    column: kinds.Column
    label: str
    empty: bool


class KindOut(Schema):
    """A kind of machine the care book knows, with what tells it apart."""

    key: str
    name: str
    usual_run_min: float
    silence: kinds.Silence
    serves: bool
    has_dock: bool
    mops: bool
    options: list[OptionOut]
    traits: dict[str, str]
    chambers: list[KindChamberOut]
    parts: list[KindPartOut]


class QuestionOut(Schema):
    """A plain question that tells kinds apart."""

    key: str
    text: str
    answers: dict[str, str]


class CatalogueOut(Schema):
    """All kinds, and the questions that lead to one."""

    questions: list[QuestionOut]
    kinds: list[KindOut]


def catalogue() -> CatalogueOut:
    """The care book's kinds, by name, for set-up."""
    book = load_book()
    return CatalogueOut(
        questions=[QuestionOut.model_validate(q, from_attributes=True) for q in book.questions],
        kinds=[_kind_out(kind) for kind in sorted(book.archetypes.values(), key=lambda kind: (kind.wide, kind.name))],
    )


def _kind_out(kind: kinds.Archetype) -> KindOut:
    plain = ("key", "name", "usual_run_min", "silence", "serves", "has_dock", "mops")
    at = {station.key: station for station in kind.stations}
    used = {slot.station for slot in kind.slots}
    return KindOut(
        **{name: getattr(kind, name) for name in plain},
        options=[OptionOut.model_validate(option, from_attributes=True) for option in kind.options],
        traits=dict(kind.traits),
        chambers=[
            KindChamberOut(key=s.key, column=s.column, label=s.label, empty=s.key not in used) for s in kind.stations
        ],
        parts=[
            KindPartOut(
                slot=slot.key,
                name=slot.name,
                station=at[slot.station].label,
                is_filter=at[slot.station].column in (kinds.Column.FILTER, kinds.Column.EXHAUST),
                removable=slot.removable,
                only_with=slot.only_with,
                unless_with=slot.unless_with,
                asks=list(slot.asks_first),
                stops=slot.stops_while_wet,
            )
            for slot in kind.slots
        ],
    )


class UpkeepIn(WeekIn):
    """A kind of machine at a usual week."""

    archetype: bounds.Key
    features: bounds.Few[bounds.Key] = []
    dock: bounds.Key | None = None
    marked: bounds.Table[Mark] = {}
    wires: bounds.Table[Mark] = {}


class UsesOut(Schema):
    """A part that is used up so many times a year."""

    part: str
    a_year: float


class UpkeepOut(Schema):
    """What keeping a machine takes: hands-on minutes, and parts used up."""

    minutes_a_run: float
    minutes_a_week: float
    minutes_a_year: float
    uses_up: list[UsesOut]


def upkeep_out(each: list[Upkeep]) -> UpkeepOut:
    """What a machine and its dock take together."""
    used = [UsesOut(part=part, a_year=count) for one in each for part, count in one.uses_up.items()]
    return UpkeepOut(
        minutes_a_run=sum(one.minutes_a_run for one in each),
        minutes_a_week=sum(one.minutes_a_week for one in each),
        minutes_a_year=sum(one.minutes_a_year for one in each),
        uses_up=sorted(used, key=lambda one: -one.a_year),
    )


class NameIn(Schema):
    """A name; none for the book's."""

    name: bounds.Name | None


class PlaceIn(Schema):
    """Where a part sits; no station for where the book has it."""

    station: bounds.Key | None = None
    air_order: bounds.Order = 1
    refit_order: bounds.Order = 1


class PullIn(Schema):
    """How a machine pulls at the floor, 1 (hardly) to 5 (as new), before or after the work of a sheet."""

    felt: bounds.Count
    moment: Literal["before", "after"]
    sheet_id: UUID | None = None


class SchoolIn(Schema):
    """The school of a machine, or of one part of it; none for the household's."""

    slot: bounds.Key = ""
    school: kinds.School | None = None


class LevelIn(Schema):
    """How far a machine is cleaned, always; none: as its tasks fall due."""

    level: HowFar | None = None


class RoundIn(Schema):
    """A round or a kit and its interval [days]; none: each of its tasks by itself."""

    key: bounds.Key
    days: bounds.RoundDays | None = None


class HabitIn(Schema):
    """Something extra of a part, and whether it is done in each sitting that lays it open."""

    slot: bounds.Key
    action: kinds.Action
    kept: bool


class FeatureIn(Schema):
    """An option of a machine's kind, and whether this one has it."""

    feature: bounds.Key
    has: bool


class FigureIn(Schema):
    """The household's own figure for a task, or that it is left out; neither for the book's."""

    action: kinds.Action
    meter: kinds.Meter | None = None
    figure: bounds.Amount | None = None
    off: bool = False
    why: bounds.Line = ""


class PartIn(Schema):
    """A part to add: one of the book, or one of the household's own with a task and how often."""

    name: bounds.Name
    station: bounds.Key
    use: bounds.Key | None = None
    material: bounds.Key = ""
    action: kinds.Action | None = None
    meter: kinds.Meter = kinds.Meter.DAYS
    figure: bounds.Amount | None = None
    is_new: bool = True


class StatusIn(Schema):
    """Whether a machine is in use; `keep` are spares that stay when it goes for good."""

    status: Literal["in_use", "archived", "lent", "sold"]
    keep: bounds.Many[UUID] = []


class NoteIn(Schema):
    """The words of a note, the part it is about if any, and from when on Round reminds of it."""

    slot: bounds.Key = ""
    text: bounds.Text = ""
    remind_on: bounds.Day | None = None


class ReasonIn(Schema):
    """Why."""

    reason: bounds.Line


class AssignIn(Schema):
    """What a spare is meant for."""

    machine_id: UUID
    slot: bounds.Key


class TriggerOut(Schema):
    """A figure of the book: from, to, in the unit of its meter."""

    meter: kinds.Meter
    low: float
    high: float
    calendar: kinds.Calendar | None
    after: kinds.Mishap | None


class SetupRuleOut(Schema):
    """A task with what the book says, and what the household set beside it."""

    action: kinds.Action
    reason: str
    guarded: bool
    book: list[TriggerOut]
    own_meter: kinds.Meter | None
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
    school: kinds.School | None
    rules: list[SetupRuleOut]
    items: list[ItemOut]


class StationOut(Schema):
    """A place on the machine."""

    key: str
    label: str
    column: kinds.Column


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
    action: kinds.Action
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
    school: kinds.School | None
    household_school: kinds.School
    replaces: UUID | None
    stations: list[StationOut]
    parts: list[SetupPartOut]
    gone: list[GoneOut]
    of_book: list[PartOfBookOut]
    features: list[FeatureOut]
    level: HowFar | None
    extras: list[ExtraOut]


def _extras_out(row: own.Listing, state: MachineState) -> list[ExtraOut]:
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


def setup_out(row: own.Listing, state: MachineState) -> SetupOut:
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
    slot: kinds.Slot, row: own.Listing, state: MachineState, names: dict[str, str], places: dict[str, str]
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
        added=slot.added,
        removable=slot.removable,
        material=slot.material,
        school=row.own.get(key_of(Aspect.SCHOOL, slot.key)),
        rules=[_rule_out(rule) for rule in slot.rules if rule.holds_with(state.machine.features)],
        items=[item_out(item) for item in sorted(known, key=lambda item: (item.id != fitted, item.name))],
    )


def _rule_out(rule: kinds.Rule) -> SetupRuleOut:
    mine = rule.own
    return SetupRuleOut(
        action=rule.action,
        reason=rule.reason,
        guarded=rule.never_stretch or rule.stake is kinds.Consequence.SAFETY,
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
        for row in own.not_in_use(member)
    ]


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
    verdict: kinds.Verdict
    why: str
    instead: str
    also: list[str]
    mishap: kinds.Mishap | None


class BroughtOut(Schema):
    """A task that a mishap makes due at once."""

    part: str
    action: kinds.Action


class FloorOut(Schema):
    """What to know before and while a machine runs; what a mishap brings forward is told of the machine asked for."""

    checks: list[BeforeRunOut]
    pickups: list[PickupOut]
    brings_forward: dict[kinds.Mishap, list[BroughtOut]]


def floor_out(state: MachineState | None) -> FloorOut:
    """The book's checks and verdicts, and what each mishap would bring forward on this machine."""
    book = load_book()
    forward: dict[kinds.Mishap, list[BroughtOut]] = {}
    if state is not None and not state.dangers:  # on a machine out of use nobody works
        archetype, features = state.machine.archetype, state.machine.features
        for mishap in kinds.Mishap:
            brought = archetype.brought_forward(mishap, features, state.context.school)
            forward[mishap] = [BroughtOut(part=slot.name, action=action) for slot, action in brought]
    return FloorOut(
        checks=[BeforeRunOut.model_validate(c, from_attributes=True) for c in book.before_run],
        pickups=[PickupOut.model_validate(p, from_attributes=True) for p in book.pickups],
        brings_forward=forward,
    )
