"""What is drying now."""

from dataclasses import dataclass
from uuid import UUID

from care.items import Item, State
from server.household.models import Member
from server.machines import models, records


@dataclass(frozen=True, slots=True)
class OnRack:
    """A part on the rack, the machine and slot it belongs to, and whether that slot is empty meanwhile."""

    item: Item
    machine_id: UUID
    machine_name: str
    slot_name: str
    slot_empty: bool


def rack(member: Member) -> list[OnRack]:
    """All washed parts that are not fitted, the one that is ready first at the top."""
    wet = models.Item.objects.of(member.household_id).filter(state__in=[State.WASHED, State.DRYING])
    rows = list(wet.select_related("home_machine"))
    taken = set(
        models.Fitting.objects.of(member.household_id)
        .filter(machine__in=[row.home_machine_id for row in rows], end=None)
        .values_list("machine_id", "slot")
    )
    made = [
        OnRack(
            item=records.to_item(row),
            machine_id=row.home_machine_id,
            machine_name=row.home_machine.name,
            slot_name=records.archetype_of(row.home_machine).slot(row.home_slot).name,
            slot_empty=(row.home_machine_id, row.home_slot) not in taken,
        )
        for row in rows
    ]
    return sorted(made, key=lambda on: (on.item.damp_until is None, on.item.damp_until, on.item.name))
