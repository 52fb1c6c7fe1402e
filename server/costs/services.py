"""What a machine costs a year, whether washing its parts pays, whether a repair does, and its guarantee."""

from dataclasses import dataclass
from datetime import date, timedelta
from uuid import UUID

from care.due.upkeep import RunsEvery, if_it_ran, upkeep
from care.rules import WETTING
from care.shelf import FitCheck
from care.shelf.costs import (
    CostBasis,
    KeepGoing,
    Repair,
    RepairOrReplace,
    UsedUp,
    WashOrReplace,
    keep_going,
    repair_or_replace,
    wash_or_replace,
)
from care.shelf.renewals import YEAR_DAYS, washes_a_year
from care.vocabulary import Action
from server.base import clock
from server.due.history import washed_since
from server.due.renewals import Renewing
from server.due.state import MachineState, machine_states
from server.household.models import Member
from server.machines.services import machine_of
from server.shelf.buying import OnShelf, Shelf, shelf
from server.shelf.cost_basis import basis_of
from server.shelf.records import kinds_of


@dataclass(frozen=True, slots=True)
class Washable:
    """A part that is washed, its price, and both ways of it."""

    name: str
    price: int
    ways: WashOrReplace


@dataclass(frozen=True, slots=True)
class RunOften:
    """What a machine takes a year if it ran once in so many days: minutes, and its parts at known prices [cents]."""

    days: int
    minutes: float
    parts_cost: int


@dataclass(frozen=True, slots=True)
class Worth:
    """What a machine costs a year, by what was told of it.

    `saved` are parts that washing kept out of the bin in the last year; `age_years` counts from when it was set up or
    bought, whichever is known.
    """

    basis: CostBasis
    guarantee_until: date | None
    under_guarantee: bool
    age_years: float
    going: KeepGoing
    washing: tuple[Washable, ...]
    saved: int
    currency: str
    runs_a_week: float
    often: tuple[RunOften, ...]


def worth_of_machine(member: Member, machine_id: UUID) -> Worth:
    """What a machine costs a year to keep going. Raises `NotFound`."""
    machine_of(member, machine_id)
    [state] = machine_states(member, machine_id)
    on = shelf(member)
    basis, until = basis_of(member, machine_id)
    mine = [(kind, place) for kind in on.kinds for place in kind.places if place.renewal.machine_id == machine_id]
    context, machine = state.context, state.machine
    at_work = (machine.archetype, machine.features, context.pace, context.loads.own(context.now), context.school)
    going = keep_going(_used_up(mine, on, machine_id), upkeep(*at_work).minutes_a_year, basis.hour_value)
    since = clock.now() - timedelta(days=YEAR_DAYS)
    return Worth(
        basis=basis,
        guarantee_until=until,
        under_guarantee=until is not None and until >= context.today,
        age_years=_age(state),
        going=going,
        washing=tuple(one for pair in mine if (one := _washable(state, *pair, basis.hour_value)) is not None),
        saved=washed_since(member, machine_id, since),
        currency=on.currency,
        runs_a_week=context.pace.runs_per_week,
        often=tuple(_often(one, going) for one in if_it_ran(*at_work)),
    )


def _often(one: RunsEvery, going: KeepGoing) -> RunOften:
    prices = {part.name: part.price or 0 for part in going.parts}
    cost = sum(count * prices.get(name, 0) for name, count in one.takes.uses_up.items())
    return RunOften(one.days, one.takes.minutes_a_year, round(cost))


def _age(state: MachineState) -> float:
    """Since its first part was fitted: that is when it was set up, or bought where that was told."""
    first = min((f.start for f in state.fittings), default=state.context.now)
    return (state.context.now - first).days / YEAR_DAYS


def _used_up(mine: list[tuple[OnShelf, Renewing]], on: Shelf, machine_id: UUID) -> list[UsedUp]:
    kept = [UsedUp(place.slot_name, _a_year(place), price_of(kind)) for kind, place in mine]
    loose = [UsedUp(p.slot_name, _a_year(p), None) for p in on.loose if p.renewal.machine_id == machine_id]
    return [part for part in (*kept, *loose) if part.a_year]


def _a_year(place: Renewing) -> float:
    return YEAR_DAYS / place.renewal.every_days if place.renewal.every_days else 0.0


def price_of(kind: OnShelf) -> int | None:
    """What one of a kind costs at the cheapest offer that has only it [cents]."""
    sale = kind.cheapest
    return round(sale.offer.price / sale.contents[kind.id]) if sale else None


def prices_of(member: Member, machine_id: UUID) -> tuple[str, dict[str, int]]:
    """What a new part of each place of a machine costs, by its slot, where a price is known [cents]; the currency.

    Raises `NotFound`.
    """
    machine_of(member, machine_id)
    on = shelf(member)
    mine = ((kind, one.renewal) for kind in on.kinds for one in kind.places)
    found = {to.slot: price_of(kind) for kind, to in mine if to.machine_id == machine_id}
    return on.currency, {slot: price for slot, price in found.items() if price is not None}


def numbers_of(member: Member, machine_id: UUID) -> dict[str, list[str]]:
    """The numbers under which a part of each place of a machine is sold, by its slot, those left out that do not fit.

    A place of which no kind is kept is not among them. Raises `NotFound`.
    """
    machine_of(member, machine_id)
    found: dict[str, list[str]] = {}
    for kind in kinds_of(member).values():
        numbers = [one.number for one in kind.numbers if one.check is not FitCheck.NO]
        for place in kind.places:
            if place.machine_id == machine_id:
                found[place.slot] = [*found.get(place.slot, ()), *numbers]
    return found


def _washable(state: MachineState, kind: OnShelf, place: Renewing, hour_value: int) -> Washable | None:
    """None where it is not washed, or nothing tells what one costs."""
    slot, context = state.machine.archetype.slot(place.renewal.slot), state.context
    wash = next((rule for rule in slot.rules if rule.action in WETTING and slot.drying_of(rule.action)), None)
    price = price_of(kind)
    own, load = state.machine.archetype, context.loads.own(context.now)
    washes = washes_a_year(slot, own, context.pace, load, context.school)
    if wash is None or price is None or not washes:
        return None
    change = slot.rule(Action.REPLACE).card.effort_min
    ways = wash_or_replace(
        price,
        washes=washes,
        renewals=_a_year(place),
        wash_min=wash.card.effort_min,
        change_min=change,
        hour_value=hour_value,
    )
    return Washable(place.slot_name, price, ways)


def weigh_repair(member: Member, machine_id: UUID, repair: Repair) -> RepairOrReplace:
    """Whether a repair pays against a new machine; nothing is recorded."""
    machine_of(member, machine_id)
    [state] = machine_states(member, machine_id)
    return repair_or_replace(repair, basis_of(member, machine_id)[0], age_years=_age(state))
