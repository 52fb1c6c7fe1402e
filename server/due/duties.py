"""Who does what when: tasks put off with a reason, and tasks that somebody took on."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from uuid import UUID

from django.db import transaction

from care import model as core
from care.vocabulary import Action
from server.base import clock
from server.base.problems import Conflict
from server.household.models import Member
from server.household.services import journal_by, require_writer, today_of
from server.logbook.models import Entry
from server.logbook.services import Journal, standing
from server.machines import records
from server.machines.models import Claim, Machine, Wait
from server.machines.services import machine_of

CLAIM_LASTS = timedelta(days=7)
"""How long a task stays taken when nothing happens; then anybody may take it. Ours."""
Key = tuple[str, Action]


@dataclass(frozen=True, slots=True)
class Taken:
    """Who took a task on, and the entry that says so."""

    by: str
    member_id: UUID | None
    entry_id: UUID


@dataclass(frozen=True, slots=True)
class Waiting:
    """A task put off, and the entry that says so."""

    put_off: core.PutOff
    entry_id: UUID


@dataclass(frozen=True, slots=True)
class Duties:
    """What was put off and taken on at one machine, by task."""

    waits: dict[Key, Waiting] = field(default_factory=dict)
    claims: dict[Key, Taken] = field(default_factory=dict)

    def put_off(self, slot: str, action: Action, today: date) -> core.PutOff | None:
        """Until when a task waits; None where it does not, or no more."""
        waiting = self.waits.get((slot, action))
        return waiting.put_off if waiting and waiting.put_off.until > today else None

    def taken(self, slot: str, action: Action) -> str | None:
        """The name of who took it on."""
        taken = self.claims.get((slot, action))
        return taken.by if taken else None


def duties_of(waits: Iterable[Wait], claims: Iterable[Claim], services: Sequence[core.ServiceRecord]) -> Duties:
    """What still holds: doing a task ends both, and a claim lapses after a week."""
    last = {(s.slot, s.action): s.at for s in services}
    made = Duties()
    for wait in waits:
        key = (wait.slot, Action(wait.action))
        if key not in last or last[key] < wait.entry.happened_at:
            postponed = core.PutOff(*key, wait.until, wait.reason, wait.entry.by.name if wait.entry.by else "")
            made.waits[key] = Waiting(postponed, wait.entry_id)
    for claim in claims:
        key, at = (claim.slot, Action(claim.action)), claim.entry.happened_at
        if clock.now() - at < CLAIM_LASTS and (key not in last or last[key] < at):
            by = claim.entry.by
            made.claims[key] = Taken(by.name if by else "", by.pk if by else None, claim.entry_id)
    return made


@transaction.atomic
def put_off(*, member: Member, machine_id: UUID, slot: str, action: Action, until: date, reason: str) -> Entry:
    """Let a task wait until a day. Raises `InvalidValue` without a reason, for too long, or of what keeps one safe."""
    machine, journal = _begin(member, machine_id)
    rule = records.archetype_of(machine).slot(slot).rule(action)
    wait = core.PutOff(slot, action, until, reason.strip()[:200])
    core.check_wait(wait, rule.stake, today=today_of(member))
    return journal.tell(Wait, machine=machine, slot=slot, action=action, until=until, reason=wait.reason)


@transaction.atomic
def take_on(*, member: Member, machine_id: UUID, slot: str, action: Action) -> Entry:
    """Say that oneself does a task. Raises `Conflict` when somebody else has it."""
    machine, journal = _begin(member, machine_id)
    records.archetype_of(machine).slot(slot).rule(action)
    rows = standing(Claim.objects.of(member.household_id).filter(machine=machine, slot=slot, action=action))
    taken = duties_of([], rows.select_related("entry__by"), []).claims.get((slot, action))
    if taken is not None and taken.member_id != member.pk:
        raise Conflict(f"action: {taken.by} has this one", field="action", fix="Agree with them, or take another.")
    return journal.tell(Claim, machine=machine, slot=slot, action=action)


def _begin(member: Member, machine_id: UUID) -> tuple[Machine, Journal]:
    require_writer(member)
    machine = machine_of(member, machine_id)
    return machine, journal_by(member, machine.pk)
