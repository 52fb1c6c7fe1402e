"""What the household told of the sizes of its bags and bins; how long they take to fill follows from it."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import tzinfo
from uuid import UUID

from django.db import transaction
from pydantic import TypeAdapter

from care.due.assumed import Plan
from care.due.containers import Container, OtherContainer, told_filling
from care.due.fillings import holders
from care.due.loads import LoadLine
from care.due.usage import UsageLog, pace
from care.errors import require
from care.model import ToldFilling
from care.units import VOLUME
from care.vocabulary import LoadKind
from care.washability import NO_UNKNOWN_KEYS
from server.household.models import Member
from server.household.services import journal_by, require_writer
from server.logbook.models import Entry
from server.machines.models import ContainerVersion
from server.machines.services import with_dock


@dataclass(frozen=True, slots=True)
class Size:
    """What a container holds as somebody typed it, and what they know of another one: its size and weeks to fill."""

    volume: float
    unit: str = "L"
    known_volume: float | None = None
    known_unit: str = "L"
    known_weeks: float | None = None
    pressed: float = 1.0

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        both = (self.known_volume is None) == (self.known_weeks is None)
        require(both, "known_weeks", self.known_weeks, "the other container's size and its weeks to fill, or neither")

    @property
    def container(self) -> Container:
        """As the core has it. Raises `InvalidValue`."""
        return Container(VOLUME.accepted(self.volume, self.unit))

    @property
    def known(self) -> OtherContainer | None:
        """The other container. Raises `InvalidValue`."""
        if self.known_volume is None or self.known_weeks is None:
            return None
        return OtherContainer(VOLUME.accepted(self.known_volume, self.known_unit), self.known_weeks, self.pressed)


_size: TypeAdapter[Size] = TypeAdapter(Size)


def sizes_of(rows: Iterable[ContainerVersion]) -> dict[str, Size]:
    """The size that was last told of each place of a machine, from its rows in their order."""
    last = {row.slot: row.value for row in rows}
    return {slot: _size.validate_python(value) for slot, value in last.items() if value is not None}


def fillings_told(
    rows: Sequence[ContainerVersion], plans: Sequence[Plan], usage: UsageLog, loads: LoadLine, zone: tzinfo
) -> dict[str, ToldFilling]:
    """How long each bag or bin takes to fill by what was told of it, at the pace and the load of that time."""
    last = {row.slot: row.entry.happened_at for row in rows}
    made = {}
    for slot, size in sizes_of(rows).items():
        at = last[slot]
        then = [plan.schedule for plan in plans if plan.since <= at.astimezone(zone).date()]
        usual = pace(usage, then[-1] if then else None, at)
        made[slot] = told_filling(size.container, size.known, usual, loads.index(LoadKind.VOLUME, at, zone))
    return {slot: filling for slot, filling in made.items() if filling is not None}


@transaction.atomic
def tell_size(*, member: Member, machine_id: UUID, slot: str, size: Size | None) -> Entry:
    """What a bag or bin holds from now on; None forgets it. Raises `InvalidValue` for a place that holds no dirt."""
    require_writer(member)
    [machine] = [one for one in with_dock(member, machine_id) if one.id == machine_id]
    known = {place.key for place, _ in holders(machine.archetype, machine.features)}
    require(slot in known, "slot", slot, "a bag or bin of this machine")
    if size is not None:
        _ = size.container, size.known  # refused here, not when it is read
    journal = journal_by(member, machine.id)
    value = _size.dump_python(size, mode="json") if size else None
    return journal.tell(ContainerVersion, machine_id=machine.id, slot=slot, value=value)
