"""Writing entries and voiding them. Everything else builds on these few functions."""

from collections.abc import Collection, Iterable
from datetime import datetime
from typing import Any, TypeVar
from uuid import UUID, uuid4

from django.db import models, transaction

from care.errors import CareError
from server.base import clock, live
from server.base.problems import Conflict, NotFound
from server.logbook.models import Detail, Entry, Revision
from server.logbook.signals import voided

D = TypeVar("D", bound=Detail)


class Journal:
    """Writes the entries of one action: same household, same member, same subject, same instant of entering.

    The subject is the machine it is about, or None for the whole household; its revision moves with each entry.

    Made inside the transaction that writes them, so that the household's sequence has no gap and no double.
    """

    def __init__(
        self,
        household_id: UUID,
        *,
        by_id: UUID | None,
        subject_id: UUID | None = None,
        action_id: UUID | None = None,
        source: str = Entry.Source.PERSON,
    ) -> None:
        self.household_id, self.by_id, self.source = household_id, by_id, source
        self.action_id = action_id or uuid4()
        self.entered_at = clock.now()
        last = Entry.objects.of(household_id).aggregate(last=models.Max("sequence"))["last"]
        self._sequence: int = last or 0
        self._subject = subject_id or household_id

    def write(self, kind: str, happened_at: datetime, *, entry_id: UUID | None = None) -> Entry:
        """One entry header. Its detail row is the caller's."""
        return self._write([self._entry(kind, happened_at, entry_id=entry_id)])[0]

    def write_all(self, kind: str, happened: Iterable[datetime]) -> list[Entry]:
        """Headers of one kind, one for each instant at which it happened."""
        return self._write([self._entry(kind, at) for at in happened])

    def void_all(self, entries: Iterable[Entry], reason: str) -> list[Entry]:
        """Corrections that void these entries."""
        rows = [self._entry(Entry.Kind.VOID, self.entered_at, voids=one, reason=reason) for one in entries]
        return self._write(rows)

    def _entry(
        self,
        kind: str,
        happened_at: datetime,
        *,
        entry_id: UUID | None = None,
        voids: Entry | None = None,
        reason: str = "",
    ) -> Entry:
        self._sequence += 1
        return Entry(
            id=entry_id or uuid4(),
            household_id=self.household_id,
            action_id=self.action_id,
            subject_id=voids.subject_id if voids else self._subject,
            kind=kind,
            happened_at=happened_at,
            entered_at=self.entered_at,
            by_id=self.by_id,
            source=self.source,
            sequence=self._sequence,
            voids=voids,
            reason=reason,
        )

    def _write(self, rows: list[Entry]) -> list[Entry]:
        """In one go, and the latest number of each subject they are about."""
        Entry.everything.bulk_create(rows)
        latest = {row.subject_id: row.sequence for row in rows}
        Revision.everything.bulk_create(
            [Revision(household_id=self.household_id, subject_id=about, number=n) for about, n in latest.items()],
            update_conflicts=True,
            unique_fields=["household", "subject_id"],
            update_fields=["number"],
        )
        transaction.on_commit(live.tell)
        return rows

    def tell(
        self, detail: type[Detail], happened_at: datetime | None = None, *, entry_id: UUID | None = None, **fields: Any
    ) -> Entry:
        """An entry with its detail row; it happened now, unless told otherwise."""
        entry = self.write(detail.entry_kind, happened_at or self.entered_at, entry_id=entry_id)
        detail.everything.create(entry=entry, household_id=self.household_id, **fields)
        return entry


def as_one_action(entries: Collection[Entry]) -> None:
    """Let entries of one transaction be one action, so that they are undone together."""
    first = next(iter(entries))
    Entry.everything.filter(pk__in=[entry.pk for entry in entries]).update(action_id=first.action_id)


def revisions(household_id: UUID) -> dict[UUID, int]:
    """The number of the latest entry about each machine, and about the household itself under its own id."""
    rows = Revision.objects.of(household_id).values_list("subject_id", "number")
    return dict(rows)


def standing(rows: models.QuerySet[D]) -> models.QuerySet[D]:
    """Detail rows whose entry has not been voided, in the order they happened."""
    return rows.filter(entry__voided_by=None).select_related("entry").order_by("entry__happened_at", "entry__sequence")


@transaction.atomic
def undo(
    *, household_id: UUID, by_id: UUID | None, entry_id: UUID, also: Collection[UUID] = (), reason: str = "undone"
) -> list[Entry]:
    """Void all entries of the action that wrote `entry_id`, and of those that wrote the entries `also`.

    Raises `NotFound` for an unknown id, `Conflict` when it is undone already or when a later record builds on it.
    """
    wanted = {entry_id, *also}
    found = Entry.objects.of(household_id).exclude(kind=Entry.Kind.VOID).filter(pk__in=wanted)
    if len(found) < len(wanted):
        raise NotFound("record: there is none with this id", field="id", fix="Load the page again.")
    actions = {entry.action_id for entry in found}
    action = list(Entry.objects.of(household_id).filter(action_id__in=actions, voided_by=None))
    if not action:
        raise Conflict("This is undone already.", field="id", fix="Nothing is left to do.")
    journal = Journal(household_id, by_id=by_id)
    journal.void_all(action, reason)
    try:
        voided.send(sender=undo, household_id=household_id, action=action)
    except Conflict:
        raise
    except CareError as error:
        raise Conflict(
            f"A later record builds on this one: {error.detail}", field="id", fix="Undo the later record first."
        ) from error
    return action
