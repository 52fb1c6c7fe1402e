"""Setting machines up and changing them over HTTP: each write answers with the household after it."""

from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router

from care.book import load_book
from care.due.upkeep import upkeep
from care.due.usage import Pace
from care.overrides import PlacedAt, as_seen, tailored
from server.base import clock
from server.base.http import Problem
from server.due.state import machine_states
from server.household.auth import asking
from server.household.services import answers_at, today_of
from server.household.writes import changes_nothing
from server.round.answer import WRITTEN, written
from server.setup import bookparts, overrides, parts, rounds
from server.setup import services as setup
from server.setup import status as status_
from server.setup.catalogue_schemas import CatalogueOut, UpkeepOut, catalogue, upkeep_out
from server.setup.listing_schemas import PutAwayOut, SetupOut, put_away_out, setup_out
from server.setup.schemas import (
    AssignIn,
    FeatureIn,
    FigureIn,
    HabitIn,
    LevelIn,
    MachineIn,
    NameIn,
    PartIn,
    PlaceIn,
    ReasonIn,
    ReplaceIn,
    RoundIn,
    SchoolIn,
    SpareIn,
    StatusIn,
    UpkeepIn,
)

router = Router(tags=["machines"])


@router.get("/kinds", response=CatalogueOut, operation_id="kinds_list")
def kinds(request: HttpRequest) -> CatalogueOut:
    """The kinds of machine the care book knows, and the questions that tell them apart."""
    return catalogue()


@router.post("/kinds/upkeep", response={200: UpkeepOut, 422: Problem}, operation_id="kinds_upkeep")
@changes_nothing
def kind_upkeep(request: HttpRequest, data: UpkeepIn) -> UpkeepOut:
    """What a machine of a kind, with its dock, would take at a usual week in this household."""
    member = asking(request)
    answers = answers_at(member.household_id, clock.now())
    schedule = data.schedule(today_of(member))
    week = schedule.weekly if schedule else None
    pace = Pace(week.run_hours, week.runs) if week else Pace(0.0, 0.0)
    book, load = load_book(), answers.loads.own(clock.now())
    dock = book.archetypes.get(data.dock) if data.dock else None
    features = frozenset([*data.features, *(dock.provides if dock else ())])
    known = [kind for key in (data.archetype, data.dock) if key and (kind := book.archetypes.get(key))]
    mine = [tailored(kind, as_seen(data.marked, data.wires), book.parts, data.features) for kind in known]
    return upkeep_out([upkeep(kind, features, pace, load, answers.school) for kind in mine])


@router.post("/machines", response=WRITTEN, operation_id="machines_create")
def add_machine(request: HttpRequest, data: MachineIn) -> HttpResponse:
    """Add a machine, with its dock if it has one."""
    member = asking(request)
    setup.set_up(member=member, machines=data.machines(today_of(member)))
    return written(member, None, data.id)


@router.get("/machines", response=list[PutAwayOut], operation_id="machines_put_away")
def put_away_list(request: HttpRequest) -> list[PutAwayOut]:
    """The machines that are not in use."""
    return put_away_out(asking(request))


@router.get("/machines/{machine_id}/setup", response={200: SetupOut, 404: Problem}, operation_id="setup_get")
def get_setup(request: HttpRequest, machine_id: UUID) -> SetupOut:
    """All that can be changed on a machine."""
    member = asking(request)
    listed = overrides.listing(member, machine_id)
    [state] = machine_states(member, machine_id)
    return setup_out(listed, state)


@router.post("/machines/{machine_id}/name", response=WRITTEN, operation_id="machines_rename")
def rename(request: HttpRequest, machine_id: UUID, data: NameIn) -> HttpResponse:
    """Give a machine another name."""
    member = asking(request)
    entry = overrides.rename_machine(member=member, machine_id=machine_id, name=data.name or "")
    return written(member, entry.pk, machine_id)


@router.post("/machines/{machine_id}/status", response=WRITTEN, operation_id="machines_status")
def status(request: HttpRequest, machine_id: UUID, data: StatusIn) -> HttpResponse:
    """Put a machine away, lend it, sell it, or take it back into use."""
    member = asking(request)
    entry = status_.set_status(member=member, machine_id=machine_id, status=data.status, keep=data.keep)
    return written(member, entry.pk, machine_id)


@router.post("/machines/{machine_id}/replacement", response=WRITTEN, operation_id="machines_replace")
def replacement(request: HttpRequest, machine_id: UUID, data: ReplaceIn) -> HttpResponse:
    """Set a machine up that stands in for this one."""
    member = asking(request)
    machines = data.machines(today_of(member))
    status_.replace_machine(
        member=member, old_id=machine_id, machines=machines, keep=data.keep, same_name=data.same_name
    )
    return written(member, None, data.id)


@router.post("/machines/{machine_id}/school", response=WRITTEN, operation_id="machines_school")
def school(request: HttpRequest, machine_id: UUID, data: SchoolIn) -> HttpResponse:
    """Keep a machine, or one part of it, by another school than the rest."""
    member = asking(request)
    entry = overrides.choose_school(member=member, machine_id=machine_id, slot=data.slot, school=data.school)
    return written(member, entry.pk, machine_id)


@router.post("/machines/{machine_id}/level", response=WRITTEN, operation_id="machines_level")
def level(request: HttpRequest, machine_id: UUID, data: LevelIn) -> HttpResponse:
    """How far a machine is cleaned, always."""
    member = asking(request)
    entry = rounds.keep_level(member=member, machine_id=machine_id, level=data.level)
    return written(member, entry.pk, machine_id)


@router.post("/machines/{machine_id}/rounds", response=WRITTEN, operation_id="machines_round")
def keep_round(request: HttpRequest, machine_id: UUID, data: RoundIn) -> HttpResponse:
    """Take up a round or a kit at an interval of one's own, or let each of its tasks fall due by itself again."""
    member = asking(request)
    entry = rounds.keep_round(member=member, machine_id=machine_id, key=data.key, days=data.days)
    return written(member, entry.pk, machine_id)


@router.post("/machines/{machine_id}/habits", response=WRITTEN, operation_id="machines_habit")
def habit(request: HttpRequest, machine_id: UUID, data: HabitIn) -> HttpResponse:
    """Do something extra in each sitting that lays it open, or no longer."""
    member = asking(request)
    slot, action = data.slot, data.action
    entry = rounds.keep_habit(member=member, machine_id=machine_id, slot=slot, action=action, kept=data.kept)
    return written(member, entry.pk, machine_id)


@router.post("/machines/{machine_id}/features", response=WRITTEN, operation_id="machines_feature")
def feature(request: HttpRequest, machine_id: UUID, data: FeatureIn) -> HttpResponse:
    """Tell that a machine has an option of its kind, or has not: its parts and tasks follow."""
    member = asking(request)
    entry = bookparts.tell_feature(member=member, machine_id=machine_id, feature=data.feature, has=data.has)
    return written(member, entry.pk, machine_id)


@router.post("/machines/{machine_id}/parts", response=WRITTEN, operation_id="parts_create")
def add_part(request: HttpRequest, machine_id: UUID, data: PartIn) -> HttpResponse:
    """Add a part that this machine has beside those of its kind."""
    member = asking(request)
    entry = parts.add_part(member=member, machine_id=machine_id, **data.model_dump())
    return written(member, entry.pk, machine_id)


@router.delete("/machines/{machine_id}/parts/{slot}", response=WRITTEN, operation_id="parts_remove")
def remove_part(request: HttpRequest, machine_id: UUID, slot: str) -> HttpResponse:
    """Take a part off the machine's list; its history stays."""
    member = asking(request)
    entry = parts.remove_part(member=member, machine_id=machine_id, slot=slot)
    return written(member, entry.pk, machine_id)


@router.post("/machines/{machine_id}/parts/{slot}/back", response=WRITTEN, operation_id="parts_back")
def bring_back(request: HttpRequest, machine_id: UUID, slot: str) -> HttpResponse:
    """Put a part of its kind on the machine's list again."""
    member = asking(request)
    entry = parts.bring_back_part(member=member, machine_id=machine_id, slot=slot)
    return written(member, entry.pk, machine_id)


@router.post("/machines/{machine_id}/parts/{slot}/name", response=WRITTEN, operation_id="parts_rename")
def rename_part(request: HttpRequest, machine_id: UUID, slot: str, data: NameIn) -> HttpResponse:
    """Give a part another name, or the book's."""
    member = asking(request)
    entry = overrides.rename_part(member=member, machine_id=machine_id, slot=slot, name=data.name)
    return written(member, entry.pk, machine_id)


@router.post("/machines/{machine_id}/parts/{slot}/place", response=WRITTEN, operation_id="parts_place")
def place_part(request: HttpRequest, machine_id: UUID, slot: str, data: PlaceIn) -> HttpResponse:
    """Say where a part sits, or that the book has it right."""
    member = asking(request)
    place = PlacedAt(data.station, data.air_order, data.refit_order) if data.station else None
    entry = overrides.place_part(member=member, machine_id=machine_id, slot=slot, place=place)
    return written(member, entry.pk, machine_id)


@router.post("/machines/{machine_id}/parts/{slot}/figure", response=WRITTEN, operation_id="parts_figure")
def own_figure(request: HttpRequest, machine_id: UUID, slot: str, data: FigureIn) -> HttpResponse:
    """Set a figure of one's own beside the book's, leave a task out, or follow the book again."""
    member = asking(request)
    entry = overrides.own_figure(member=member, machine_id=machine_id, slot=slot, **data.model_dump())
    return written(member, entry.pk, machine_id)


@router.post("/machines/{machine_id}/spares", response=WRITTEN, operation_id="spares_create")
def add_spare(request: HttpRequest, machine_id: UUID, data: SpareIn) -> HttpResponse:
    """A second part for a slot, dry and ready."""
    member = asking(request)
    entry = parts.add_spare(member=member, machine_id=machine_id, slot=data.slot, name=data.name)
    return written(member, entry.pk, machine_id)


@router.post("/items/{item_id}/assign", response=WRITTEN, operation_id="items_assign")
def assign(request: HttpRequest, item_id: UUID, data: AssignIn) -> HttpResponse:
    """Mean a spare for another slot."""
    member = asking(request)
    entry = parts.assign_spare(member=member, item_id=item_id, machine_id=data.machine_id, slot=data.slot)
    return written(member, entry.pk, data.machine_id)


@router.post("/items/{item_id}/retire", response=WRITTEN, operation_id="items_retire")
def retire(request: HttpRequest, item_id: UUID, data: ReasonIn) -> HttpResponse:
    """Throw a part away that is in no machine."""
    member = asking(request)
    entry = parts.retire_item(member=member, item_id=item_id, reason=data.reason)
    return written(member, entry.pk)
