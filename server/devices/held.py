"""What devices said and nobody believes yet: asked once for each doubt, counted or dropped, or set right."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from uuid import UUID, uuid4

from django.db import transaction

from care.errors import require
from care.heard.sense import Doubt
from server.base.problems import Conflict, NotFound
from server.devices.lines import LINES, AnyLine
from server.devices.models import Device, Held, Settled
from server.devices.services import journal_of_device
from server.devices.taking import Doubted, Heard, Sure, take_line
from server.household.models import Member
from server.household.services import require_writer
from server.logbook.models import Entry
from server.logbook.services import as_one_action, standing
from server.machines.models import Machine

MOST_ASKED = 200
"""So many lines of one doubt are answered at once."""


@dataclass(frozen=True, slots=True)
class Asked:
    """What one device said that is in one doubt, oldest first: asked about once, however often it said so."""

    device_id: UUID
    name: str
    machine: Machine | None
    place: str
    doubt: Doubt
    rows: tuple[Held, ...]

    @property
    def last(self) -> Held:
        """What it said last."""
        return self.rows[-1]

    @property
    def since(self) -> datetime:
        """When it said so first."""
        at: datetime = self.rows[0].entry.happened_at
        return at


def asked(member: Member) -> Sequence[Asked]:
    """All that waits for an answer, what was said last first."""
    groups: dict[tuple[UUID, str], list[Held]] = {}
    for row in _waiting(member):
        groups.setdefault((row.device_id, row.doubt), []).append(row)
    made = [
        Asked(device_id, some[-1].name, some[-1].machine, some[-1].place, Doubt(doubt), tuple(some))
        for (device_id, doubt), some in groups.items()
    ]
    return sorted(made, key=lambda one: one.last.entry.happened_at, reverse=True)


def _waiting(member: Member) -> Sequence[Held]:
    """The lines that nobody settled, in the order of their time."""
    settled = standing(Settled.objects.of(member.household_id)).order_by().values("held")
    rows = Held.objects.of(member.household_id).exclude(pk__in=settled)
    return list(standing(rows).select_related("entry", "machine"))


@transaction.atomic
def drop(*, member: Member, entry_ids: Collection[UUID]) -> Entry:
    """None of it counts. Raises `NotFound` where it was answered meanwhile."""
    require_writer(member)
    return _settle(member, _rows(member, entry_ids), counts=False)


@transaction.atomic
def count(*, member: Member, entry_ids: Collection[UUID], sure: Sure) -> Entry:
    """Let what was said count; undone, it is asked about again.

    Raises `NotFound` where it was answered meanwhile, `Conflict` where it clashes with what is on record,
    `InvalidValue` for what cannot be.
    """
    require_writer(member)
    rows = _rows(member, entry_ids)
    settled = _settle(member, rows, counts=True)
    for row in rows:
        line = _line(row)
        asked_dry = row.doubt == Doubt.TOO_LIGHT
        heard = Heard(member, _device(member, row), uuid4(), replace(sure, bone_dry=asked_dry))
        try:
            take_line(heard, line)
        except Doubted as doubt:
            raise Conflict(f"line: {doubt.why}", field="line", fix="Drop it, or mend what it clashes with.") from doubt
    made = Entry.objects.of(member.household_id).filter(sequence__gte=settled.sequence)
    as_one_action([settled, *made.exclude(kind=Entry.Kind.VOID)])
    settled.refresh_from_db()
    return settled


def _rows(member: Member, entry_ids: Collection[UUID]) -> list[Held]:
    require(0 < len(entry_ids) <= MOST_ASKED, "entry_ids", len(entry_ids), f"1 to {MOST_ASKED} of them")
    rows = [row for row in _waiting(member) if row.pk in set(entry_ids)]
    if len(rows) < len(set(entry_ids)):
        raise NotFound("Somebody answered this meanwhile.", field="entry_ids", fix="Load the page again.")
    return rows


def _settle(member: Member, rows: Sequence[Held], *, counts: bool) -> Entry:
    journal = journal_of_device(member, rows[0].machine_id)
    first, *_ = [journal.tell(Settled, held=row, counts=counts) for row in rows]
    return first


def _line(row: Held) -> AnyLine:
    return LINES.validate_python(row.line, strict=False)


def _device(member: Member, row: Held) -> Device:
    """The device, or what is kept of it where it was connected at another installation."""
    found: Device | None = Device.objects.of(member.household_id).filter(pk=row.device_id).first()
    if found is not None:
        return found
    return Device(
        id=row.device_id,
        household_id=member.household_id,
        kind=row.kind,
        name=row.name,
        machine=row.machine,
        place=row.place,
    )
