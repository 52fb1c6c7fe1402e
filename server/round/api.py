"""Round over HTTP, and everything that is recorded from it: each write answers with the household after it."""

from http import HTTPStatus
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router

from server.bench.services import move_part
from server.config.http import REFUSALS, Problem
from server.household.auth import asking
from server.household.services import more_load, require_writer, today_of
from server.logbook.services import undo
from server.machines import changes, dangers, drying, duties, usage, work
from server.machines import services as machines
from server.machines.schemas import MachineOut
from server.machines.state import machine_states
from server.round import schemas
from server.round.answers import as_json, page, written
from server.round.board import round_of

router = Router(tags=["round"])


@router.get("/round", response=schemas.RoundOut, operation_id="round_get")
def get_round(request: HttpRequest) -> HttpResponse:
    """The whole household at this moment."""
    member = asking(request)
    return as_json(schemas.round_json(member, round_of(member)))


@router.get("/machines/{machine_id}", response={200: MachineOut, 404: Problem}, operation_id="machines_get")
def get_machine(request: HttpRequest, machine_id: UUID) -> MachineOut:
    """A machine's page."""
    member = asking(request)
    machines.machine_of(member, machine_id)
    [state] = machine_states(member, machine_id)
    return page(member, state)


@router.post("/machines/{machine_id}/week", response={201: schemas.Written, **REFUSALS}, operation_id="week_create")
def set_week(request: HttpRequest, machine_id: UUID, data: schemas.WeekIn) -> HttpResponse:
    """A machine's usual week from now on."""
    member = asking(request)
    entry = usage.set_schedule(
        member=member, machine_id=machine_id, schedule=data.schedule(today_of(member)), dock=data.at_dock()
    )
    return written(member, entry.pk, machine_id)


@router.post("/rests", response={201: schemas.Written, **REFUSALS}, operation_id="rests_create")
def rest(request: HttpRequest, data: schemas.RestIn) -> HttpResponse:
    """Days off: did not run, away, paused."""
    member = asking(request)
    entry = usage.rest(member=member, machine_id=data.machine_id, why=data.why, first=data.first, last=data.last)
    return written(member, entry.pk, data.machine_id)


@router.post("/loads", response={201: schemas.Written, **REFUSALS}, operation_id="loads_create")
def load(request: HttpRequest, data: schemas.MoreLoadIn) -> HttpResponse:
    """A time of more load than usual."""
    member = asking(request)
    entry = more_load(member=member, **data.model_dump())
    return written(member, entry.pk)


@router.post("/machines/{machine_id}/looks", response={201: schemas.Written, **REFUSALS}, operation_id="looks_create")
def look(request: HttpRequest, machine_id: UUID, data: schemas.LookIn) -> HttpResponse:
    """Record what was found on a part."""
    member = asking(request)
    entry = work.look(
        member=member, machine_id=machine_id, slot_key=data.slot, about=data.about, found=data.found, day=data.day
    )
    return written(member, entry.pk, machine_id)


@router.post(
    "/machines/{machine_id}/counters", response={201: schemas.Written, **REFUSALS}, operation_id="counters_create"
)
def counter(request: HttpRequest, machine_id: UUID, data: schemas.CounterIn) -> HttpResponse:
    """Record what the machine's own counter says."""
    member = asking(request)
    entry = work.read_counter(
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


@router.post(
    "/machines/{machine_id}/changes", response={201: schemas.Written, **REFUSALS}, operation_id="changes_create"
)
def home_changed(request: HttpRequest, machine_id: UUID, data: schemas.HomeChangedIn) -> HttpResponse:
    """Say whether something changed at home."""
    member = asking(request)
    entry = changes.home_changed(member=member, machine_id=machine_id, **data.model_dump())
    return written(member, entry.pk, machine_id)


@router.post("/machines/{machine_id}/kits", response={201: schemas.Written, **REFUSALS}, operation_id="kits_create")
def kit(request: HttpRequest, machine_id: UUID, data: schemas.KitIn) -> HttpResponse:
    """Record that a kit was renewed."""
    member = asking(request)
    entry = work.renew_kit(member=member, machine_id=machine_id, kit=data.kit, day=data.day)
    return written(member, entry.pk, machine_id)


@router.post("/items/{item_id}/move", response={201: schemas.Written, **REFUSALS}, operation_id="moves_create")
def move(request: HttpRequest, item_id: UUID, data: schemas.MoveIn) -> HttpResponse:
    """Move a part to another machine."""
    member = asking(request)
    entry = move_part(member=member, item_id=item_id, machine_id=data.machine_id, slot=data.slot)
    return written(member, entry.pk, data.machine_id)


@router.post("/machines/{machine_id}/runs", response={201: schemas.Written, **REFUSALS}, operation_id="runs_create")
def log_run(request: HttpRequest, machine_id: UUID, data: schemas.RunIn) -> HttpResponse:
    """Log a run."""
    member = asking(request)
    start = machines.last_time(member, data.day, data.started) if data.started else None
    entry = usage.log_run(
        member=member,
        run_id=data.id,
        machine_id=machine_id,
        day=data.day,
        minutes=data.minutes,
        start=start,
        mopped=data.mopped,
        part_was_out=data.part_was_out,
    )
    return written(member, entry.pk, machine_id)


@router.post(
    "/machines/{machine_id}/services", response={201: schemas.Written, **REFUSALS}, operation_id="services_create"
)
def already_done(request: HttpRequest, machine_id: UUID, data: schemas.ServiceIn) -> HttpResponse:
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


@router.post("/machines/{machine_id}/waits", response={201: schemas.Written, **REFUSALS}, operation_id="waits_create")
def put_off(request: HttpRequest, machine_id: UUID, data: schemas.WaitIn) -> HttpResponse:
    """Let a task wait until a day, with a reason."""
    member = asking(request)
    entry = duties.put_off(member=member, machine_id=machine_id, **data.model_dump())
    return written(member, entry.pk, machine_id)


@router.post("/machines/{machine_id}/claims", response={201: schemas.Written, **REFUSALS}, operation_id="claims_create")
def take_on(request: HttpRequest, machine_id: UUID, data: schemas.ClaimIn) -> HttpResponse:
    """Say that oneself does a task."""
    member = asking(request)
    entry = duties.take_on(member=member, machine_id=machine_id, slot=data.slot, action=data.action)
    return written(member, entry.pk, machine_id)


@router.post(
    "/machines/{machine_id}/mishaps", response={201: schemas.Written, **REFUSALS}, operation_id="mishaps_create"
)
def mishap(request: HttpRequest, machine_id: UUID, data: schemas.MishapIn) -> HttpResponse:
    """Tell what a machine ran over or took in that it is not made for."""
    member = asking(request)
    entry = usage.mishap(member=member, machine_id=machine_id, kind=data.kind, day=data.day)
    return written(member, entry.pk, machine_id)


@router.post(
    "/machines/{machine_id}/dangers", response={201: schemas.Written, **REFUSALS}, operation_id="dangers_create"
)
def danger(request: HttpRequest, machine_id: UUID, data: schemas.DangerIn) -> HttpResponse:
    """Tell of a danger at a machine, or that one is over."""
    member = asking(request)
    record = dangers.is_over if data.over else dangers.tell
    entry = record(member=member, machine_id=machine_id, danger=data.danger)
    return written(member, entry.pk, machine_id)


@router.post("/entries/{entry_id}/undo", response={200: schemas.Written, **REFUSALS}, operation_id="entries_undo")
def undo_entry(request: HttpRequest, entry_id: UUID) -> HttpResponse:
    """Undo an entry and all that was recorded with it."""
    member = asking(request)
    require_writer(member)
    undo(household_id=member.household_id, by_id=member.pk, entry_id=entry_id)
    return written(member, None, status=HTTPStatus.OK)


@router.post("/items/{item_id}/dry-check", response={201: schemas.Written, **REFUSALS}, operation_id="dry_check_create")
def dry_check(request: HttpRequest, item_id: UUID, data: schemas.DryIn) -> HttpResponse:
    """The check of a part on the rack."""
    member = asking(request)
    entry = drying.check_dry(member=member, item_id=item_id, dry=data.dry)
    return written(member, entry.pk)


@router.post("/items/{item_id}/fit", response={201: schemas.Written, **REFUSALS}, operation_id="items_fit")
def fit(request: HttpRequest, item_id: UUID, data: schemas.FitIn) -> HttpResponse:
    """Put a part back into its empty slot."""
    member = asking(request)
    entry = work.fit_item(member=member, item_id=item_id, early_reason=data.early_reason)
    return written(member, entry.pk)
