"""What was worked out from the records, kept in this process for as long as no record about its subjects was added.

Only what is committed is kept: within a transaction nothing is put here, so that what is rolled back leaves nothing.
A subject's mark is the id of the latest entry about it, which no other history has.
"""

from collections import OrderedDict
from collections.abc import Callable, Hashable
from threading import Lock
from typing import Any, TypeVar, cast
from uuid import UUID

from django.db import connection

from server.logbook.models import Entry, Revision
from server.logbook.services import revisions

T = TypeVar("T")
MOST = 128
"""How many results are kept, the latest used: a machine with years of records is two, of some megabytes. Ours."""
_kept: OrderedDict[Hashable, Any] = OrderedDict()
_lock = Lock()


def marks(household_id: UUID) -> dict[UUID, UUID]:
    """The latest entry about each machine, and about the household itself under its own id."""
    numbers = revisions(household_id)
    ids = dict(Entry.objects.of(household_id).filter(sequence__in=numbers.values()).values_list("sequence", "pk"))
    return {subject: ids[number] for subject, number in numbers.items()}


def latest(household_id: UUID, subject_id: UUID) -> UUID | None:
    """The latest entry about one of them."""
    number = Revision.objects.of(household_id).filter(subject_id=subject_id).values("number")
    return Entry.objects.of(household_id).filter(sequence__in=number).values_list("pk", flat=True).first()


def of_all(household_id: UUID) -> Hashable:
    """The mark of everything on record of a household."""
    return (household_id, frozenset(marks(household_id).items()))


def recalled(key: Hashable) -> Any:
    """What was kept under this key; None where nothing was. It is shared: nobody may change it."""
    with _lock:
        if key in _kept:
            _kept.move_to_end(key)
        return _kept.get(key)


def keep(key: Hashable, value: Any) -> None:
    """Keep a result, unless what it was made from may still be rolled back."""
    if connection.in_atomic_block:
        return
    with _lock:
        _kept[key] = value
        while len(_kept) > MOST:
            _kept.popitem(last=False)


def forget() -> None:
    """Everything that was kept."""
    with _lock:
        _kept.clear()


def remembered(key: Hashable, make: Callable[[], T]) -> T:
    """What `make` gave for this key before, else what it gives now."""
    found = recalled(key)
    if found is None:
        found = make()
        keep(key, found)
    return cast(T, found)
