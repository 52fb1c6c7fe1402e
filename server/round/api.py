"""Round over HTTP, and everything that is recorded from it: each write answers with the household after it."""

from http import HTTPStatus
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router

from care.book import load_book
from server.bench.services import move_part
from server.config.http import REFUSALS, Problem
from server.household.auth import asking
from server.household.models import Member
from server.household.services import more_load, require_writer
from server.logbook.services import undo
from server.machines import services as machines
from server.machines import usage, work
from server.machines.history import history
from server.machines.schemas import MachineOut, machine_out
from server.machines.state import MachineState, machine_states
from server.round import schemas
from server.round.board import round_of

router = Router(tags=["round"])


def _written(
    member: Member, entry_id: UUID | None, machine_id: UUID | None = None, status: int = HTTPStatus.CREATED
) -> HttpResponse:
    """The household after a write, as `Written`; sent as it is stored, without building it up and down again."""
    known = machine_states(member, machine_id) if machine_id else []
    round_ = schemas.round_json(member, round_of(member, known))
    return _json(schemas.written_json(entry_id, round_, _page(member, known[0]) if known else None), status)


def _json(text: str, status: int = HTTPStatus.OK) -> HttpResponse:
    return HttpResponse(text, status=status, content_type="application/json")


def _page(member: Member, state: MachineState) -> MachineOut:
    return machine_out(state, history(member, state))


@router.get("/round", response=schemas.RoundOut, operation_id="round_get")
def get_round(request: HttpRequest) -> HttpResponse:
    """The whole household at this moment."""
    member = asking(request)
    return _json(schemas.round_json(member, round_of(member)))


@router.get("/machines/{machine_id}", response={200: MachineOut, 404: Problem}, operation_id="machines_get")
def get_machine(request: HttpRequest, machine_id: UUID) -> MachineOut:
    """A machine's page."""
    member = asking(request)
    machines.machine_of(member, machine_id)
    [state] = machine_states(member, machine_id)
    return _page(member, state)


@router.get("/kinds", response=list[schemas.KindOut], operation_id="kinds_list")
def kinds(request: HttpRequest) -> list[schemas.KindOut]:
    """The kinds of machine the care book knows."""
    book = load_book().archetypes.values()
    return [schemas.KindOut.model_validate(a, from_attributes=True) for a in sorted(book, key=lambda a: a.name)]


@router.post("/machines", response={201: schemas.Written, **REFUSALS}, operation_id="machines_create")
def add_machine(request: HttpRequest, data: schemas.MachineIn) -> HttpResponse:
    """Add a machine with new parts."""
    member = asking(request)
    machines.add_machine(
        member=member,
        machine_id=data.id,
        name=data.name,
        archetype=data.archetype,
        schedule=data.schedule(),
        features=data.features,
        serves=data.serves,
        return_min=data.return_min,
    )
    return _written(member, None, data.id)


@router.post("/machines/{machine_id}/week", response={201: schemas.Written, **REFUSALS}, operation_id="week_create")
def set_week(request: HttpRequest, machine_id: UUID, data: schemas.WeekIn) -> HttpResponse:
    """A machine's usual week from now on."""
    member = asking(request)
    entry = usage.set_schedule(
        member=member, machine_id=machine_id, schedule=data.schedule(), return_min=data.return_min
    )
    return _written(member, entry.pk, machine_id)


@router.post("/rests", response={201: schemas.Written, **REFUSALS}, operation_id="rests_create")
def rest(request: HttpRequest, data: schemas.RestIn) -> HttpResponse:
    """Days off: did not run, away, paused."""
    member = asking(request)
    entry = usage.rest(member=member, machine_id=data.machine_id, why=data.why, first=data.first, last=data.last)
    return _written(member, entry.pk, data.machine_id)


@router.post("/loads", response={201: schemas.Written, **REFUSALS}, operation_id="loads_create")
def load(request: HttpRequest, data: schemas.MoreLoadIn) -> HttpResponse:
    """A time of more load than usual."""
    member = asking(request)
    entry = more_load(member=member, **data.model_dump())
    return _written(member, entry.pk)


@router.post("/machines/{machine_id}/looks", response={201: schemas.Written, **REFUSALS}, operation_id="looks_create")
def look(request: HttpRequest, machine_id: UUID, data: schemas.LookIn) -> HttpResponse:
    """Record what was found on a part."""
    member = asking(request)
    entry = work.look(
        member=member, machine_id=machine_id, slot_key=data.slot, about=data.about, found=data.found, day=data.day
    )
    return _written(member, entry.pk, machine_id)


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
    )
    return _written(member, entry.pk, machine_id)


@router.post("/machines/{machine_id}/kits", response={201: schemas.Written, **REFUSALS}, operation_id="kits_create")
def kit(request: HttpRequest, machine_id: UUID, data: schemas.KitIn) -> HttpResponse:
    """Record that a kit was renewed."""
    member = asking(request)
    entry = work.renew_kit(member=member, machine_id=machine_id, kit=data.kit, day=data.day)
    return _written(member, entry.pk, machine_id)


@router.post("/items/{item_id}/move", response={201: schemas.Written, **REFUSALS}, operation_id="moves_create")
def move(request: HttpRequest, item_id: UUID, data: schemas.MoveIn) -> HttpResponse:
    """Move a part to another machine."""
    member = asking(request)
    entry = move_part(member=member, item_id=item_id, machine_id=data.machine_id, slot=data.slot)
    return _written(member, entry.pk, data.machine_id)


@router.post("/machines/{machine_id}/runs", response={201: schemas.Written, **REFUSALS}, operation_id="runs_create")
def log_run(request: HttpRequest, machine_id: UUID, data: schemas.RunIn) -> HttpResponse:
    """Log a run."""
    member = asking(request)
    start = machines.local_time(member, data.day, data.started) if data.started else None
    entry = usage.log_run(
        member=member,
        run_id=data.id,
        machine_id=machine_id,
        day=data.day,
        minutes=data.minutes,
        start=start,
        mopped=data.mopped,
    )
    return _written(member, entry.pk, machine_id)


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
    )
    return _written(member, entry.pk, machine_id)


@router.post("/entries/{entry_id}/undo", response={200: schemas.Written, **REFUSALS}, operation_id="entries_undo")
def undo_entry(request: HttpRequest, entry_id: UUID) -> HttpResponse:
    """Undo an entry and all that was recorded with it."""
    member = asking(request)
    require_writer(member)
    undo(household_id=member.household_id, by_id=member.pk, entry_id=entry_id)
    return _written(member, None, status=HTTPStatus.OK)


@router.post("/items/{item_id}/dry-check", response={201: schemas.Written, **REFUSALS}, operation_id="dry_check_create")
def dry_check(request: HttpRequest, item_id: UUID, data: schemas.DryIn) -> HttpResponse:
    """The check of a part on the rack."""
    member = asking(request)
    entry = work.check_dry(member=member, item_id=item_id, dry=data.dry)
    return _written(member, entry.pk)


@router.post("/items/{item_id}/fit", response={201: schemas.Written, **REFUSALS}, operation_id="items_fit")
def fit(request: HttpRequest, item_id: UUID, data: schemas.FitIn) -> HttpResponse:
    """Put a part back into its empty slot."""
    member = asking(request)
    entry = work.fit_item(member=member, item_id=item_id, early_reason=data.early_reason)
    return _written(member, entry.pk)
