"""Round over HTTP, and everything that is recorded from it: each write answers with the household after it."""

from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from care.book import load_book
from care.due.usage import weekly
from server.config.http import REFUSALS, Problem
from server.household.auth import asking
from server.household.models import Member
from server.household.services import require_writer
from server.logbook.services import undo
from server.machines import services as machines
from server.machines.schemas import MachineOut, machine_out
from server.machines.state import history, machine_states
from server.round import schemas
from server.round.board import round_of

router = Router(tags=["round"])


def _written(member: Member, entry_id: UUID | None, machine_id: UUID | None = None) -> schemas.Written:
    page = _page(member, machine_id) if machine_id else None
    return schemas.Written(entry_id=entry_id, round=schemas.RoundOut.of(member, round_of(member)), machine=page)


def _page(member: Member, machine_id: UUID) -> MachineOut:
    machines.machine_of(member, machine_id)
    [state] = machine_states(member, machine_id)
    return machine_out(state, history(member, state))


@router.get("/round", response=schemas.RoundOut, operation_id="round_get")
def get_round(request: HttpRequest) -> schemas.RoundOut:
    """The whole household at this moment."""
    member = asking(request)
    return schemas.RoundOut.of(member, round_of(member))


@router.get("/machines/{machine_id}", response={200: MachineOut, 404: Problem}, operation_id="machines_get")
def get_machine(request: HttpRequest, machine_id: UUID) -> MachineOut:
    """A machine's page."""
    return _page(asking(request), machine_id)


@router.get("/kinds", response=list[schemas.KindOut], operation_id="kinds_list")
def kinds(request: HttpRequest) -> list[schemas.KindOut]:
    """The kinds of machine the care book knows."""
    book = load_book().archetypes.values()
    return [schemas.KindOut(key=a.key, name=a.name, usual_run_min=a.usual_run_min) for a in book]


@router.post("/machines", response={201: schemas.Written, **REFUSALS}, operation_id="machines_create")
def add_machine(request: HttpRequest, data: schemas.MachineIn) -> tuple[int, schemas.Written]:
    """Add a machine with new parts."""
    member = asking(request)
    schedule = weekly(data.days, data.minutes, data.starts) if data.days else None
    machines.add_machine(member=member, machine_id=data.id, name=data.name, archetype=data.archetype, schedule=schedule)
    return 201, _written(member, None, data.id)


@router.post("/machines/{machine_id}/runs", response={201: schemas.Written, **REFUSALS}, operation_id="runs_create")
def log_run(request: HttpRequest, machine_id: UUID, data: schemas.RunIn) -> tuple[int, schemas.Written]:
    """Log a run."""
    member = asking(request)
    start = machines.local_time(member, data.day, data.started) if data.started else None
    entry = machines.log_run(
        member=member, run_id=data.id, machine_id=machine_id, day=data.day, minutes=data.minutes, start=start
    )
    return 201, _written(member, entry.pk, machine_id)


@router.post(
    "/machines/{machine_id}/services", response={201: schemas.Written, **REFUSALS}, operation_id="services_create"
)
def already_done(request: HttpRequest, machine_id: UUID, data: schemas.ServiceIn) -> tuple[int, schemas.Written]:
    """Record a task that is done already."""
    member = asking(request)
    entry = machines.already_done(
        member=member,
        machine_id=machine_id,
        slot_key=data.slot,
        action=data.action,
        day=data.day,
        found=data.found,
    )
    return 201, _written(member, entry.pk, machine_id)


@router.post("/entries/{entry_id}/undo", response={200: schemas.Written, **REFUSALS}, operation_id="entries_undo")
def undo_entry(request: HttpRequest, entry_id: UUID) -> schemas.Written:
    """Undo an entry and all that was recorded with it."""
    member = asking(request)
    require_writer(member)
    undo(household_id=member.household_id, by_id=member.pk, entry_id=entry_id)
    return _written(member, None)


@router.post("/items/{item_id}/dry-check", response={201: schemas.Written, **REFUSALS}, operation_id="dry_check_create")
def dry_check(request: HttpRequest, item_id: UUID, data: schemas.DryIn) -> tuple[int, schemas.Written]:
    """The check of a part on the rack."""
    member = asking(request)
    entry = machines.check_dry(member=member, item_id=item_id, dry=data.dry)
    return 201, _written(member, entry.pk)


@router.post("/items/{item_id}/fit", response={201: schemas.Written, **REFUSALS}, operation_id="items_fit")
def fit(request: HttpRequest, item_id: UUID, data: schemas.FitIn) -> tuple[int, schemas.Written]:
    """Put a part back into its empty slot."""
    member = asking(request)
    entry = machines.fit_item(member=member, item_id=item_id, early_reason=data.early_reason)
    return 201, _written(member, entry.pk)
