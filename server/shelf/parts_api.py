"""Wear of parts, bags and bins, and what a machine costs, over HTTP."""

from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router

from care.shelf import Place
from server.config.csv_out import csv_file
from server.config.http import REFUSALS, Problem
from server.household.auth import asking
from server.household.models import Member
from server.household.services import today_of, zone_of
from server.household.writes import changes_nothing
from server.machines.containers import tell_size
from server.machines.filterlog import filter_log
from server.machines.services import machine_of
from server.shelf import dust, services, wear, worth
from server.shelf.dust_schemas import DustsOut, SizeIn, dust_out
from server.shelf.filter_schemas import FilterLogOut, filter_log_out
from server.shelf.schemas import FitFoundIn, FitFoundOut
from server.shelf.told import tell_worth, told_of
from server.shelf.wear_schemas import MeasureIn, WearsOut, WearWritten, wear_out
from server.shelf.worth_schemas import (
    PricesOut,
    RepairIn,
    RepairWeighedOut,
    WorthOut,
    WorthToldIn,
    weighed_out,
    worth_out,
)

router = Router(tags=["wear"])


def _dust(member: Member, machine_id: UUID) -> DustsOut:
    found, zone = dust.estimates(member, machine_id), zone_of(member)
    return DustsOut(today=today_of(member), machine_id=machine_id, holders=[dust_out(one, zone) for one in found])


@router.get("/machines/{machine_id}/dust", response={200: DustsOut, 404: Problem}, operation_id="dust_get")
def get_dust(request: HttpRequest, machine_id: UUID) -> DustsOut:
    """How fast the bags and bins of a machine fill, and when they are full."""
    return _dust(asking(request), machine_id)


@router.put("/machines/{machine_id}/dust/{slot}", response={200: DustsOut, **REFUSALS}, operation_id="dust_tell")
def tell_dust(request: HttpRequest, machine_id: UUID, slot: str, data: SizeIn) -> DustsOut:
    """What a bag or bin holds, and what is known of another one."""
    member = asking(request)
    tell_size(member=member, machine_id=machine_id, slot=slot, size=data.size())
    return _dust(member, machine_id)


@router.delete("/machines/{machine_id}/dust/{slot}", response={200: DustsOut, **REFUSALS}, operation_id="dust_forget")
def forget_dust(request: HttpRequest, machine_id: UUID, slot: str) -> DustsOut:
    """Forget what a bag or bin was told to hold."""
    member = asking(request)
    tell_size(member=member, machine_id=machine_id, slot=slot, size=None)
    return _dust(member, machine_id)


@router.post(
    "/machines/{machine_id}/parts/{slot}/fit", response={201: FitFoundOut, **REFUSALS}, operation_id="parts_fit"
)
def fit(request: HttpRequest, machine_id: UUID, slot: str, data: FitFoundIn) -> tuple[int, FitFoundOut]:
    """Whether the part that went in fits as the old one did."""
    told = services.tell_fit(member=asking(request), place=Place(machine_id, slot), **data.model_dump())
    return 201, FitFoundOut(entry_id=told.pk)


@router.get("/machines/{machine_id}/wear", response={200: WearsOut, 404: Problem}, operation_id="wear_get")
def get_wear(request: HttpRequest, machine_id: UUID) -> WearsOut:
    """How worn the parts of a machine are."""
    return _wear(asking(request), machine_id)


def _wear(member: Member, machine_id: UUID) -> WearsOut:
    return WearsOut(
        machine_id=machine_id,
        machine=machine_of(member, machine_id).name,
        today=today_of(member),
        parts=[wear_out(one) for one in wear.wear_of(member, machine_id)],
    )


@router.post(
    "/machines/{machine_id}/wear/{item_id}", response={200: WearWritten, **REFUSALS}, operation_id="wear_measure"
)
def measure(request: HttpRequest, machine_id: UUID, item_id: UUID, data: MeasureIn) -> WearWritten:
    """What somebody measured on a part."""
    member = asking(request)
    entry = wear.measure(
        member=member,
        machine_id=machine_id,
        item_id=item_id,
        key=data.measure,
        value=data.value,
        unit=data.unit,
        day=data.day,
    )
    return WearWritten(entry_id=entry.pk, wear=_wear(member, machine_id))


@router.get("/machines/{machine_id}/worth", response={200: WorthOut, 404: Problem}, operation_id="worth_get")
def get_worth(request: HttpRequest, machine_id: UUID) -> WorthOut:
    """What a machine costs a year to keep going."""
    return worth_out(worth.worth_of_machine(asking(request), machine_id))


@router.get("/machines/{machine_id}/prices", response={200: PricesOut, 404: Problem}, operation_id="worth_prices")
def get_prices(request: HttpRequest, machine_id: UUID) -> PricesOut:
    """What new parts of a machine cost, where that is known, and their numbers."""
    member = asking(request)
    currency, prices = worth.prices_of(member, machine_id)
    return PricesOut(currency=currency, prices=prices, numbers=worth.numbers_of(member, machine_id))


@router.put("/machines/{machine_id}/worth", response={200: WorthOut, **REFUSALS}, operation_id="worth_tell")
def tell(request: HttpRequest, machine_id: UUID, data: WorthToldIn) -> WorthOut:
    """What a machine cost, how long such a one serves, what an hour is worth, until when its guarantee runs."""
    member = asking(request)
    tell_worth(member=member, machine_id=machine_id, told=data.told(), guarantee_until=data.guarantee_until)
    return worth_out(worth.worth_of_machine(member, machine_id))


@router.post(
    "/machines/{machine_id}/worth/repair", response={200: RepairWeighedOut, **REFUSALS}, operation_id="worth_repair"
)
@changes_nothing
def weigh(request: HttpRequest, machine_id: UUID, data: RepairIn) -> RepairWeighedOut:
    """Whether a repair pays against a new machine; nothing is recorded."""
    return weighed_out(worth.weigh_repair(asking(request), machine_id, data.repair()))


@router.get("/machines/{machine_id}/filters", response={200: FilterLogOut, 404: Problem}, operation_id="filters_log")
def filters(request: HttpRequest, machine_id: UUID) -> FilterLogOut:
    """Each time a filter of a machine was cleaned or renewed, and what comes next."""
    member = asking(request)
    return filter_log_out(filter_log(member, machine_id), machine_id, today_of(member), told_of(member, machine_id)[1])


@router.get("/machines/{machine_id}/filters.csv", operation_id="filters_csv")
def filters_csv(request: HttpRequest, machine_id: UUID) -> HttpResponse:
    """The filter log as CSV, newest first."""
    log = filter_log(asking(request), machine_id)
    rows = [
        (line.day.isoformat(), log.machine, line.slot_name, line.item, line.action, line.found or "", line.by)
        for line in log.lines
    ]
    return csv_file("filter-log", ("date", "machine", "place", "part", "action", "found before", "person"), rows)
