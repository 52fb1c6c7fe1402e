"""What of the due waits for its visit, and what that spares meanwhile."""

from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from uuid import UUID

from care.season.chore import ChoreKey


@dataclass(frozen=True, slots=True)
class DueNow:
    """A task that is due: whether it is small, whether somebody took it on, and its hands-on minutes [min]."""

    key: ChoreKey
    small: bool
    taken_on: bool
    effort_min: float


def waits(due: Iterable[DueNow], comes_on: Mapping[ChoreKey, date], today: date) -> dict[ChoreKey, date]:
    """The small ones whose visit comes on a later day, and that day; what somebody took on is theirs already."""
    return {
        one.key: on
        for one in due
        if one.small and not one.taken_on and (on := comes_on.get(one.key)) is not None and on > today
    }


def spared_min(due: Sequence[DueNow], waiting: Collection[ChoreKey], small_min: Mapping[UUID, float]) -> float:
    """Minutes spared while these wait: of a machine whose small ones all wait (`small_min`) its openings, too [min]."""
    total = 0.0
    for machine_id, whole in small_min.items():
        small = [one for one in due if one.key.machine_id == machine_id and one.small]
        those = [one.effort_min for one in small if one.key in waiting]
        total += whole if len(those) == len(small) else sum(those)
    return total
