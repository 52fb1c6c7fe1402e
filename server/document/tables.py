"""Which table keeps each kind of record, and which columns a kind has."""

from dataclasses import dataclass
from functools import cache
from typing import Any, get_args

from server.devices.models import DeviceChange, Held, Settled
from server.document.kinds import AnyRecord, Record, Ref
from server.document.models import Import
from server.faults.models import Said
from server.household.models import MoreLoad, Settings
from server.logbook.models import Detail, Entry
from server.machines import models as machines
from server.people.models import PeopleChange
from server.season.models import HabitsVersion, Wish
from server.shelf import models as shelf

TABLES: dict[str, type[Detail]] = {
    "run": machines.Run, "week": machines.ScheduleVersion, "rest": machines.Rest, "move": machines.Move,
    "service": machines.Service, "look": machines.Inspection, "counter": machines.Counter,
    "not_known": machines.NotKnown, "setting": machines.OwnSetting, "status": machines.StatusChange,
    "mishap": machines.MishapRecord, "danger": machines.DangerRecord, "wait": machines.Wait,
    "claim": machines.Claim, "changed": machines.HomeChanged, "hung": machines.Hung, "weight": machines.Weight,
    "dry_check": machines.DryCheck, "reading": machines.Reading, "case": machines.CaseRecord,
    "note": machines.Note, "size": machines.ContainerVersion, "answers": Settings, "more_load": MoreLoad,
    "season_habits": HabitsVersion, "wish": Wish, "spare": shelf.SpareVersion, "prices": shelf.PricesVersion,
    "order": shelf.Order, "order_closed": shelf.OrderClosed, "stock": shelf.Movement,
    "measured": shelf.Measured, "worth": shelf.WorthVersion, "people": PeopleChange, "import": Import,
    "air": machines.AirReading, "said": Said, "device": DeviceChange, "held": Held, "settled": Settled,
}  # fmt: skip
KINDS = {"machine": Entry.Kind.MACHINE, "void": Entry.Kind.VOID}
"""The kind of entry of what has no table of its own."""
COLUMNS = {"wish": {"wish": "what"}, "people": {"change": "what"}, "device": {"change": "what"}}
"""Fields that are called otherwise than their column, since `what` says the kind of record."""
BESIDE = {"note": {"picture"}}
"""Columns that do not stand in the document: a picture is a file beside it."""


@dataclass(frozen=True, slots=True)
class Kind:
    """A kind of record: its model, its table if it has one, its columns by field, and fields that hold ids."""

    what: str
    model: type[Record]
    table: type[Detail] | None
    columns: dict[str, str]
    refs: dict[str, str]

    @property
    def entry_kind(self) -> str:
        """The kind of its entry."""
        return KINDS.get(self.what) or self.table.entry_kind  # type: ignore[union-attr]


@cache
def all_kinds() -> dict[str, Kind]:
    """Every kind of record by its word."""
    models = get_args(get_args(AnyRecord)[0])
    made = {}
    for model in models:
        what = get_args(model.model_fields["what"].annotation)[0]
        own = [name for name in model.model_fields if name not in (*Record.model_fields, "what", "voids", "reason")]
        table = TABLES.get(what)
        if table is not None and "reason" in model.model_fields:
            own.append("reason")
        made[what] = Kind(what, model, table, {n: COLUMNS.get(what, {}).get(n, n) for n in own}, refs_of(model))
    return made


def refs_of(model: Any) -> dict[str, str]:
    """The fields of a model that hold an id of something else, and of what."""
    found: dict[str, str] = {}
    for name, field in model.model_fields.items():
        marks = [*field.metadata, *(mark for one in get_args(field.annotation) for mark in _marks(one))]
        for mark in marks:
            if isinstance(mark, Ref):
                found[name] = mark.table
    return found


def _marks(annotation: Any) -> tuple[Any, ...]:
    return getattr(annotation, "__metadata__", ())
