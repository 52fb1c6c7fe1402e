"""What was found of the lives of parts, and how a machine pulled after its filters were washed."""

from collections import defaultdict
from collections.abc import Iterable
from datetime import datetime, timedelta
from uuid import UUID

from care.items import REPLACED, MoveKind
from care.rules import WETTING
from care.units import Quantity
from care.vocabulary import Action, Found, Gone
from server.household.models import Member
from server.logbook.services import standing
from server.machines.models import Inspection, Move, Reading, Service

SOON_AFTER = timedelta(days=10)
"""Until when after a wash a reading tells of it: the part dries first. Ours."""


def life_looks(member: Member, machine_id: UUID) -> dict[UUID, list[tuple[datetime, Found]]]:
    """What was found about replacing each part of a machine, oldest first."""
    rows = standing(Inspection.objects.of(member.household_id).filter(machine=machine_id, about=Action.REPLACE))
    made: dict[UUID, list[tuple[datetime, Found]]] = defaultdict(list)
    for row in rows:
        made[row.item_id].append((row.entry.happened_at, Found(row.found)))
    return made


def pulls_after_washes(member: Member, machine_id: UUID) -> dict[UUID, list[float]]:
    """How the machine pulled [1..5] when it was first felt after each wash of a part, oldest first."""
    felt = standing(Reading.objects.of(member.household_id).filter(machine=machine_id, quantity=Quantity.FELT))
    pulls = [(row.entry.happened_at, row.value) for row in felt if row.moment != Reading.Moment.BEFORE]
    washed = standing(Service.objects.of(member.household_id).filter(machine=machine_id, action__in=WETTING))
    made: dict[UUID, list[float]] = defaultdict(list)
    for row in washed:
        at = row.entry.happened_at
        first = next((value for when, value in pulls if at <= when <= at + SOON_AFTER), None)
        if first is not None:
            made[row.item_id].append(first)
    return made


def why_gone(member: Member, item_ids: Iterable[UUID]) -> dict[UUID, str]:
    """Why parts went for good, those that did."""
    rows = Move.objects.of(member.household_id).filter(item__in=list(item_ids), kind=MoveKind.RETIRE)
    return dict(standing(rows).values_list("item_id", "reason"))


def gone_by_chance(member: Member) -> tuple[int, int]:
    """How many parts of the household went by chance, and of how many that were replaced, whyever."""
    rows = Move.objects.of(member.household_id).filter(kind=MoveKind.RETIRE, reason__in=[*Gone, REPLACED])
    reasons = list(standing(rows).values_list("reason", flat=True))
    return sum(reason != REPLACED and Gone(reason).tells is None for reason in reasons), len(reasons)
