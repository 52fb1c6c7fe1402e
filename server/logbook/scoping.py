"""Rows are reached only through the household they belong to."""

from collections.abc import Iterable, Iterator
from itertools import islice
from typing import Any, ClassVar, TypeVar
from uuid import UUID

from django.db import models

from server.base.problems import NotFound

M = TypeVar("M", bound=models.Model)


IDS_AT_ONCE = 200
"""So many rows are asked for by their ids at once: from some three hundred on SQLite reads all of a household instead,
which takes two seconds in a log of 660,000 records.
"""


def by_ids(rows: models.QuerySet[M], ids: Iterable[UUID]) -> Iterator[models.QuerySet[M]]:
    """Those of the rows that have one of these ids, some at a time."""
    left = iter(ids)
    while some := list(islice(left, IDS_AT_ONCE)):
        yield rows.filter(pk__in=some)


class UnscopedQueryError(RuntimeError):
    """Somebody asked for rows without saying whose."""


class ScopedManager(models.Manager[M]):
    """A manager that gives rows of one household and refuses to give any others."""

    def get_queryset(self) -> models.QuerySet[M]:
        """Refuse: there is no query over all households."""
        raise UnscopedQueryError(f"{self.model.__name__}.objects needs .of(household_id)")

    def of(self, household_id: UUID) -> models.QuerySet[M]:
        """The rows of one household."""
        return super().get_queryset().filter(household_id=household_id)

    def one(self, household_id: UUID, row_id: UUID, what: str) -> M:
        """The row with that id. Raises `NotFound`, also for another household's row."""
        row = self.of(household_id).filter(pk=row_id).first()
        if row is None:
            raise NotFound(f"{what}: there is none with this id", field="id", fix="Go back to Round and start there.")
        return row


class OfHousehold(models.Model):
    """A row of one household. `everything` is for Django itself; the project uses `objects.of(...)`."""

    household = models.ForeignKey("household.Household", on_delete=models.CASCADE, related_name="+")

    everything: ClassVar[models.Manager[Any]] = models.Manager()
    objects: ClassVar[ScopedManager[Any]] = ScopedManager()

    class Meta:
        abstract = True
        base_manager_name = "everything"
        default_manager_name = "everything"
