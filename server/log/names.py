"""What things are called, for words of the Log: machines, places, parts, people."""

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from uuid import UUID

from server.household.models import Member
from server.machines.models import Item, Machine
from server.machines.records import archetype_of


@dataclass(frozen=True)
class Names:
    """The names of a household's things; places are looked up when they are needed."""

    household_id: UUID

    @cached_property
    def _rows(self) -> dict[UUID, Machine]:
        return {row.pk: row for row in Machine.objects.of(self.household_id).order_by("name")}

    @cached_property
    def machines(self) -> dict[UUID, str]:
        """Machines by name."""
        return {pk: row.name for pk, row in self._rows.items()}

    @cached_property
    def people(self) -> dict[UUID, str]:
        """Everybody who is or was here."""
        return dict(Member.objects.of(self.household_id).order_by("name").values_list("pk", "name"))

    @cached_property
    def places(self) -> dict[UUID, dict[str, str]]:
        """What the places of each machine are called; of one that cannot be worked out none."""
        return {pk: _places(row) for pk, row in self._rows.items()}

    @cached_property
    def items(self) -> dict[UUID, tuple[UUID, str]]:
        """Parts: of which machine, and their names."""
        rows = Item.objects.of(self.household_id).values_list("pk", "home_machine_id", "name")
        return {pk: (machine_id, name) for pk, machine_id, name in rows}

    def machine(self, machine_id: UUID | None) -> str:
        """The name of a machine; nothing for what is none."""
        return self.machines.get(machine_id, "") if machine_id else ""

    def place(self, machine_id: UUID | None, slot: str) -> str:
        """What a place of a machine is called."""
        return self.places.get(machine_id, {}).get(slot, slot) if machine_id else slot

    def item(self, item_id: UUID | None) -> str:
        """The name of a part."""
        return self.items[item_id][1] if item_id in self.items else "part"

    def places_called(self, word: str) -> Iterator[tuple[UUID, str]]:
        """Places whose name or part has this word in it."""
        for machine_id, places in self.places.items():
            for slot, name in places.items():
                if word in name.lower():
                    yield machine_id, slot


def _places(row: Machine) -> dict[str, str]:
    try:
        return {slot.key: slot.name for slot in archetype_of(row).slots}
    except (ValueError, LookupError):
        return {}
