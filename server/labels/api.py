"""Labels to print: a code for each machine and for each part that takes turns, that opens its page."""

from django.http import HttpRequest
from ninja import Router

from care.items import State
from server.base import codes
from server.base.schema import Schema
from server.due.state import MachineState, machine_states
from server.household.auth import asking

router = Router(tags=["labels"])


class LabelOut(Schema):
    """A label: what stands on it, the address it opens, and the rows of its code: 1 is dark."""

    machine_name: str
    part_name: str | None
    address: str
    rows: list[str]


class LabelsOut(Schema):
    """All labels of a household; `only_here`: the address leads nowhere from another device."""

    only_here: bool
    labels: list[LabelOut]


@router.get("/labels", response=LabelsOut, operation_id="labels_get")
def labels(request: HttpRequest) -> LabelsOut:
    """A label for each machine, and for each part of which the household has several."""
    made = [label for state in machine_states(asking(request)) for label in _of_machine(request, state)]
    return LabelsOut(only_here=codes.only_here(request), labels=made)


def _of_machine(request: HttpRequest, state: MachineState) -> list[LabelOut]:
    name, page = state.machine.name, f"/#/machines/{state.machine.id}"
    made = [_label(request, name, None, page)]
    slots = [slot for item_id, slot in state.homes.items() if state.items[item_id].state is not State.RETIRED]
    for item_id, slot in state.homes.items():
        item = state.items[item_id]
        if item.state is not State.RETIRED and slots.count(slot) > 1:
            made.append(_label(request, name, item.name, f"{page}/{slot}"))
    return made


def _label(request: HttpRequest, machine: str, part: str | None, page: str) -> LabelOut:
    address = request.build_absolute_uri("/").rstrip("/") + page
    return LabelOut(machine_name=machine, part_name=part, address=address, rows=codes.rows(address))
