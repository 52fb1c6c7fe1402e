"""Work on parts over HTTP: what was found, done, read off and put back."""

from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router

from server.base.csv_out import csv_file
from server.base.http import Problem
from server.household.auth import asking
from server.household.services import today_of
from server.round.answer import WRITTEN, written
from server.shelf.cost_basis import basis_of
from server.work import counters
from server.work import services as work
from server.work.filterlog import filter_log
from server.work.filterlog_schemas import FilterLogOut, FilterRow, filter_log_out
from server.work.schemas import CounterIn, FitIn, KitIn, LookIn, MoveIn, ServiceIn

router = Router(tags=["work"])


@router.post("/machines/{machine_id}/looks", response=WRITTEN, operation_id="looks_create")
def look(request: HttpRequest, machine_id: UUID, data: LookIn) -> HttpResponse:
    """Record what was found on a part."""
    member = asking(request)
    entry = work.look(
        member=member, machine_id=machine_id, slot_key=data.slot, about=data.about, found=data.found, day=data.day
    )
    return written(member, entry.pk, machine_id)


@router.post("/machines/{machine_id}/counters", response=WRITTEN, operation_id="counters_create")
def counter(request: HttpRequest, machine_id: UUID, data: CounterIn) -> HttpResponse:
    """Record what the machine's own counter says."""
    member = asking(request)
    entry = counters.read_counter(
        member=member,
        machine_id=machine_id,
        slot_key=data.slot,
        value=data.value,
        unit=data.unit,
        sense=data.sense,
        day=data.day,
        trusted=data.trusted,
    )
    return written(member, entry.pk, machine_id)


@router.post("/machines/{machine_id}/kits", response=WRITTEN, operation_id="kits_create")
def kit(request: HttpRequest, machine_id: UUID, data: KitIn) -> HttpResponse:
    """Record that a kit was renewed."""
    member = asking(request)
    entry = work.renew_kit(member=member, machine_id=machine_id, kit=data.kit, day=data.day)
    return written(member, entry.pk, machine_id)


@router.post("/items/{item_id}/move", response=WRITTEN, operation_id="moves_create")
def move(request: HttpRequest, item_id: UUID, data: MoveIn) -> HttpResponse:
    """Move a part to another machine."""
    member = asking(request)
    entry = work.move_item(member=member, item_id=item_id, machine_id=data.machine_id, slot_key=data.slot)
    return written(member, entry.pk, data.machine_id)


@router.post("/machines/{machine_id}/services", response=WRITTEN, operation_id="services_create")
def already_done(request: HttpRequest, machine_id: UUID, data: ServiceIn) -> HttpResponse:
    """Record a task that is done already."""
    member = asking(request)
    entry = work.already_done(
        member=member,
        machine_id=machine_id,
        slot_key=data.slot,
        action=data.action,
        day=data.day,
        found=data.found,
        gone=data.gone,
    )
    return written(member, entry.pk, machine_id)


@router.post("/items/{item_id}/fit", response=WRITTEN, operation_id="items_fit")
def fit(request: HttpRequest, item_id: UUID, data: FitIn) -> HttpResponse:
    """Put a part back into its empty slot."""
    member = asking(request)
    entry = work.fit_item(member=member, item_id=item_id, early_reason=data.early_reason)
    return written(member, entry.pk)


@router.get("/machines/{machine_id}/filters", response={200: FilterLogOut, 404: Problem}, operation_id="filters_log")
def filters(request: HttpRequest, machine_id: UUID) -> FilterLogOut:
    """Each time a filter of a machine was cleaned or renewed, and what comes next."""
    member = asking(request)
    return filter_log_out(filter_log(member, machine_id), machine_id, today_of(member), basis_of(member, machine_id)[1])


@router.get("/machines/{machine_id}/filters.csv", operation_id="filters_csv")
def filters_csv(request: HttpRequest, machine_id: UUID) -> HttpResponse:
    """The filter log as CSV, newest first."""
    log = filter_log(asking(request), machine_id)
    rows = [
        FilterRow(one.day.isoformat(), log.machine, one.slot_name, one.item, one.action, one.found or "", one.by)
        for one in log.lines
    ]
    return csv_file("filter-log", FilterRow, rows)
