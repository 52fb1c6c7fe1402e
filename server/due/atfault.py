"""Which record keeps a machine from being worked out: each of the latest is taken away for a moment to see."""

import logging
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from django.db import transaction
from django.db.models import QuerySet

from care.errors import CareError
from server.household.models import Member
from server.logbook.models import Entry
from server.logbook.services import undo

log = logging.getLogger(__name__)
TRIED = 30
"""How many actions of a sort are tried: what goes wrong is mostly young."""
PLAIN = (Entry.Kind.MOVE, Entry.Kind.RUN, Entry.Kind.SERVICE, Entry.Kind.INSPECTION)
"""What is recorded most often and is at fault least often: tried after everything else."""


@dataclass(frozen=True, slots=True)
class RecordAtFault:
    """A record that is at fault: without it the machine can be worked out."""

    entry_id: UUID
    kind: str
    at: datetime
    by: str


def record_at_fault(
    member: Member, subjects: Sequence[UUID], works: Callable[[], object], hints: Sequence[UUID] = ()
) -> RecordAtFault | None:
    """The record about one of `subjects` without which `works` raises nothing; None when no single one is at fault.

    `hints` are records to try first: what is wrong with one machine is often wrong with all. Nothing is changed.
    """
    for entry in _candidates(member, subjects, hints):
        if _works_without(member, entry, works):
            return RecordAtFault(entry.pk, entry.kind, entry.happened_at, entry.by.name if entry.by else "")
    return None


def _candidates(member: Member, subjects: Sequence[UUID], hints: Sequence[UUID]) -> Iterator[Entry]:
    rows = Entry.objects.of(member.household_id).filter(subject_id__in=[member.household_id, *subjects], voided_by=None)
    rows = rows.exclude(kind__in=[Entry.Kind.VOID, Entry.Kind.MACHINE]).select_related("by").order_by("-sequence")
    yield from rows.filter(pk__in=hints)
    yield from _one_an_action(rows.exclude(kind__in=PLAIN))
    yield from _one_an_action(rows.filter(kind__in=PLAIN))


def _one_an_action(rows: QuerySet[Entry]) -> Iterator[Entry]:
    seen: set[UUID] = set()
    for entry in rows[: 4 * TRIED]:
        if entry.action_id not in seen and len(seen) < TRIED:
            seen.add(entry.action_id)
            yield entry


def _works_without(member: Member, entry: Entry, works: Callable[[], object]) -> bool:
    with transaction.atomic():
        try:
            undo(household_id=member.household_id, by_id=member.pk, entry_id=entry.pk)
            works()
        except CareError:
            return False
        except Exception:
            log.debug("still not without %s", entry.pk, exc_info=True)
            return False
        finally:
            transaction.set_rollback(True)
    return True
