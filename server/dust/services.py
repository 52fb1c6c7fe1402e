"""Bags and bins of a machine: their size as it was told, how fast they fill, when they are emptied, what that costs."""

from dataclasses import dataclass, field
from uuid import UUID

from care.due.fillings import Filling, filling, holders
from care.due_state import DueDate
from care.parts import Slot
from care.rules import Rule
from care.shelf import PartNumber, PartPlace
from care.vocabulary import Action
from server.due.state import MachineState, machine_states
from server.household.models import Member
from server.machines.containers import Size
from server.machines.services import machine_of
from server.shelf import records
from server.shelf.sales import currency_of, sales_of


@dataclass(frozen=True, slots=True)
class BagPrice:
    """What one bag costs in the cheapest offer of one number, and what a usual week comes to [cents]."""

    number: PartNumber
    supplier: str
    name: str
    each: float
    a_week: float
    currency: str


@dataclass(frozen=True, slots=True)
class Estimate:
    """A bag or bin: what was told of its size, how fast it fills, when it is emptied; None where nothing tells.

    `due` is the date of its task as every screen has it; `prices` what a bag of each number comes to.
    """

    slot: Slot
    action: Action
    size: Size | None
    filling: Filling | None
    due: DueDate | None = None
    prices: list[BagPrice] = field(default_factory=list)


def estimates(member: Member, machine_id: UUID) -> list[Estimate]:
    """The bags and bins of a machine; none while nobody knows how much it runs. Raises `NotFound`."""
    machine_of(member, machine_id)
    [state] = machine_states(member, machine_id)
    if not state.context.pace.hours_per_week:
        return []
    known = holders(state.machine.archetype, state.machine.features)
    return [_estimate(member, state, slot, rule) for slot, rule in known]


def _estimate(member: Member, state: MachineState, slot: Slot, rule: Rule) -> Estimate:
    size, item_id = state.sizes.get(slot.key), state.machine.fitted.get(slot.key)
    if item_id is None:
        return Estimate(slot, rule.action, size, None)
    past = state.facts.of(slot.key, item_id)
    fills = filling(rule, slot, state.items[item_id], past, state.context)
    if fills is None:
        return Estimate(slot, rule.action, size, None)
    task = next((one for one in state.due if (one.slot, one.action) == (slot.key, rule.action)), None)
    prices = _prices(member, PartPlace(state.machine.id, slot.key), fills.weeks)
    return Estimate(slot, rule.action, size, fills, task.due if task else None, prices)


def _prices(member: Member, place: PartPlace, weeks: float) -> list[BagPrice]:
    """What a bag of each number that is sold comes to, the cheapest first; none where no such part is kept."""
    kinds = records.kinds_of(member)
    key = next((key for key, part in kinds.items() if place in part.places), None)
    if key is None:
        return []
    cheapest: dict[str, BagPrice] = {}
    lists = records.lists_of(member)
    currency = currency_of(lists)
    for sale in sales_of({key: kinds[key]}, lists):
        number = kinds[key].number(sale.numbers[key])
        if number is None or sale.foreign or not sale.offer.in_stock:
            continue
        each = sale.offer.price / sale.contents[key]
        if number.number not in cheapest or each < cheapest[number.number].each:
            cheapest[number.number] = BagPrice(number, sale.supplier, sale.offer.name, each, each / weeks, currency)
    return sorted(cheapest.values(), key=lambda one: one.each)
