"""Bags and bins of a machine: what the household told of their size, how fast they fill, when they are full."""

from dataclasses import dataclass, field
from uuid import UUID

from django.db import transaction
from pydantic import TypeAdapter

from care.errors import require
from care.kinds import Action, Slot
from care.shelf import PartNumber, Place
from care.shelf.dust import Container, Filling, Known, filling, first_guess, learn, litres, weeks_full
from care.shelf.fillings import Filled, book_weeks, holders, log, seen, usual_weeks, weight_of_days
from care.water import NO_UNKNOWN_KEYS
from server.household.models import Member
from server.household.services import require_writer
from server.logbook.models import Entry
from server.logbook.services import standing
from server.machines.fillings import filled
from server.machines.services import machine_of
from server.machines.state import MachineState, machine_states
from server.shelf import records
from server.shelf.models import ContainerVersion
from server.shelf.sales import currency_of, sales_of
from server.shelf.services import journal_of


@dataclass(frozen=True, slots=True)
class Size:
    """What a container holds as somebody typed it, and what they know of another one: its size and weeks to fill."""

    volume: float
    unit: str = "L"
    known_volume: float | None = None
    known_unit: str = "L"
    known_weeks: float | None = None
    pressed: float = 1.0

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        both = (self.known_volume is None) == (self.known_weeks is None)
        require(both, "known_weeks", self.known_weeks, "the other container's size and its weeks to fill, or neither")

    @property
    def container(self) -> Container:
        """As the core has it. Raises `InvalidValue`."""
        return Container(litres(self.volume, self.unit))

    @property
    def known(self) -> Known | None:
        """The other container. Raises `InvalidValue`."""
        if self.known_volume is None or self.known_weeks is None:
            return None
        return Known(litres(self.known_volume, self.known_unit), self.known_weeks, self.pressed)


_size: TypeAdapter[Size] = TypeAdapter(Size)
UNTOLD = Container(1.0, 1.0)
"""A container whose size nobody told: what it fills is then counted in its own content."""


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
    """A bag or bin: what was told of its size, how fast it fills and when it is full; None where nothing tells.

    `log` is each filling against what was expected of it, oldest first; `prices` what a bag of each number comes to.
    """

    slot: Slot
    action: Action
    size: Size | None
    filling: Filling | None
    log: list[Filled] = field(default_factory=list)
    prices: list[BagPrice] = field(default_factory=list)


def estimates(member: Member, machine_id: UUID) -> list[Estimate]:
    """The bags and bins of a machine; none while nobody knows how much it runs. Raises `NotFound`."""
    machine_of(member, machine_id)
    [state] = machine_states(member, machine_id)
    if not state.context.pace.hours_per_week:
        return []
    rows = standing(ContainerVersion.objects.of(member.household_id).filter(machine_id=machine_id))
    told = {row.slot: row.value for row in rows}
    known = holders(state.machine.archetype, state.machine.features)
    return [_estimate(member, state, slot, action, told.get(slot.key)) for slot, action in known]


def _estimate(member: Member, state: MachineState, slot: Slot, action: Action, told: object) -> Estimate:
    size = _size.validate_python(told) if told else None
    context, container = state.context, size.container if size else UNTOLD
    guess = first_guess(
        container, size.known if size else None, book_weeks(slot, action, state.machine.archetype, context)
    )
    if guess is None:
        return Estimate(slot, action, size, None)
    past = filled(member, state, slot.key)
    rate = learn(guess, container, seen(past, context))
    since = usual_weeks(past.last, context.now, context)
    stands = filling(container, rate, since, today=context.today, weight=weight_of_days(context))
    prices = _prices(member, Place(state.machine.id, slot.key), weeks_full(container, rate.litres_per_week))
    return Estimate(slot, action, size, stands, log(past, context, guess, container), prices)


def _prices(member: Member, place: Place, weeks: float) -> list[BagPrice]:
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


@transaction.atomic
def tell_size(*, member: Member, machine_id: UUID, slot: str, size: Size | None) -> Entry:
    """What a bag or bin holds from now on; None forgets it. Raises `InvalidValue` for a place that holds no dirt."""
    require_writer(member)
    known = {one.slot.key for one in estimates(member, machine_id)}
    require(slot in known, "slot", slot, "a bag or bin of this machine")
    if size is not None:
        _ = size.container, size.known  # refused here, not when it is read
    journal = journal_of(member.household_id, member.pk)
    entry = journal.write(Entry.Kind.SPARE, journal.entered_at)
    value = _size.dump_python(size, mode="json") if size else None
    ContainerVersion.everything.create(
        entry=entry, household_id=member.household_id, machine_id=machine_id, slot=slot, value=value
    )
    return entry
