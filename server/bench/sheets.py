"""Sheets as they stand: their steps, what was answered, and which of them are open."""

from collections.abc import Iterable
from dataclasses import dataclass
from uuid import UUID

from care.bench import Progress, follow
from care.bench import Sheet as CoreSheet
from care.items import Item
from care.kinds import Archetype
from server.base.problems import Conflict
from server.bench import records
from server.bench.models import Sheet, SheetEvent
from server.household.models import Member
from server.machines.records import archetype_of
from server.machines.services import last_moves, machines_of
from server.notes.readings import pulls_of
from server.notes.services import newest_pictures
from server.work.services import times_worked_on


@dataclass(frozen=True, slots=True)
class OnSheet:
    """A machine that a sheet is for."""

    name: str
    archetype: Archetype


@dataclass(frozen=True, slots=True)
class SheetState:
    """A sheet with where it stands, and its machines in the order in which they are opened.

    `pictures` are the newest photos of its parts by machine and slot: how they sat; `taken` the ids of all
    answers, `late` counts those that came late; `pulls` how each machine was felt to pull before and after. It is
    `practised` where each of its parts was done at the bench twice.
    """

    row: Sheet
    sheet: CoreSheet
    progress: Progress
    machines: dict[UUID, OnSheet]
    overtaken: bool
    taken: list[UUID]
    late: int
    pictures: dict[tuple[UUID, str], UUID]
    pulls: dict[tuple[UUID, str], int]
    practised: bool

    @property
    def may_drop(self) -> bool:
        """Whether giving it up leaves the records true: no part was moved on it, or others recorded otherwise."""
        return self.overtaken or not self.progress.moves


def origin_of(member: Member, items: dict[UUID, Item]) -> Sheet | None:
    """The last finished sheet that put one of these parts on the rack."""
    ended = Sheet.objects.of(member.household_id).filter(status=Sheet.Status.FINISHED).order_by("-ended_at")
    wanted = {str(item_id) for item_id in items}
    return next((row for row in ended[:50] if wanted & set(row.frozen["items"])), None)


def sheet_state(member: Member, sheet_id: UUID) -> SheetState:
    """A sheet and where it stands. Raises `NotFound`."""
    row: Sheet = Sheet.objects.one(member.household_id, sheet_id, "sheet")
    frozen = records.thaw(row)
    events = list(SheetEvent.objects.of(member.household_id).filter(sheet=row).order_by("number"))
    answers = records.standing_answers(events)
    progress = follow(frozen.sheet, frozen.items, answers)
    overtaken = row.status == Sheet.Status.OPEN and _overtaken(member, frozen.items)
    rows = machines_of(member, frozen.sheet.machines)
    machines = {machine_id: OnSheet(machine.name, archetype_of(machine)) for machine_id, machine in rows.items()}
    late = sum(event.late for event in events)
    taken = [event.pk for event in events]
    pictures = newest_pictures(member, machines)
    pulls = pulls_of(member, [x for x in (row.pk, row.follows_id) if x])
    practised = _is_practised(member, frozen.sheet)
    return SheetState(row, frozen.sheet, progress, machines, overtaken, taken, late, pictures, pulls, practised)


PRACTISED = 2
"""So often a part was done at the bench until its steps are known."""


def _is_practised(member: Member, sheet: CoreSheet) -> bool:
    """Whether everything that is done on a sheet was done on finished ones often enough to be known."""
    places = {(step.machine_id, step.slot) for step in sheet.steps if step.slot is not None}
    ended = Sheet.objects.of(member.household_id).filter(status=Sheet.Status.FINISHED)
    actions = ended.filter(machines__in=sheet.machines).exclude(action_id=None).values("action_id")
    done = times_worked_on(member.household_id, sheet.machines, actions)
    return all(done[place] >= PRACTISED for place in places)


def ended_sheets(member: Member, most: int) -> list[Sheet]:
    """The sheets that were finished, the latest first."""
    rows = Sheet.objects.of(member.household_id).filter(status=Sheet.Status.FINISHED).prefetch_related("machines")
    return list(rows.order_by("-ended_at")[:most])


def _overtaken(member: Member, items: dict[UUID, Item]) -> bool:
    """Whether a part was moved in the records since the sheet was made."""
    return any(items[item_id].at != at for item_id, at in last_moves(member, items).items() if at is not None)


def open_sheets(member: Member) -> list[SheetState]:
    """The sheets that are open, oldest first."""
    rows = Sheet.objects.of(member.household_id).filter(status=Sheet.Status.OPEN).order_by("made_at")
    return [sheet_state(member, row.pk) for row in rows]


def refuse_ended(state: SheetState) -> None:
    """Refuse to go on with a sheet that has ended. Raises `Conflict`."""
    if state.row.status != Sheet.Status.OPEN:
        raise Conflict("This sheet has ended.", field="sheet", fix="Open a new one from Round.")


def sheet_of_case(member: Member, case_id: UUID) -> UUID | None:
    """The open sheet that puts right what a search for a fault found."""
    rows = Sheet.objects.of(member.household_id).filter(case_id=case_id, status=Sheet.Status.OPEN)
    return rows.order_by("-made_at").values_list("pk", flat=True).first()


def cases_of_actions(household_id: UUID, actions: Iterable[UUID]) -> list[UUID]:
    """The searches for faults whose sheets ended with one of these actions."""
    rows = Sheet.objects.of(household_id).filter(action_id__in=list(actions)).exclude(case_id=None)
    return list(rows.values_list("case_id", flat=True))


def sheets_of_actions(household_id: UUID, actions: Iterable[UUID]) -> dict[UUID, UUID]:
    """Which sitting wrote the records of each of these actions; those of no sitting are left out."""
    rows = Sheet.objects.of(household_id).filter(action_id__in=list(actions))
    return dict(rows.values_list("action_id", "pk"))
