"""What the API says of the kinds of machine, and of what one takes."""

from __future__ import annotations

from care.book import load_book
from care.due.upkeep import Upkeep
from care.kinds import Archetype
from care.vocabulary import Column, Silence
from care.washability import Trait
from server.base.schema import Schema


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
    column: Column
    label: str
    empty: bool


class KindOut(Schema):
    """A kind of machine the care book knows, with what tells it apart."""

    key: str
    name: str
    usual_run_min: float
    silence: Silence
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


def _kind_out(kind: Archetype) -> KindOut:
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
                is_filter=kind.is_filter(slot),
                removable=slot.removable,
                only_with=slot.only_with,
                unless_with=slot.unless_with,
                asks=list(slot.asks_first),
                stops=slot.stops_while_wet,
            )
            for slot in kind.slots
        ],
    )


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
