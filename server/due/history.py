"""What happened to a machine, newest first, for its page."""

from dataclasses import dataclass
from datetime import date, datetime
from uuid import UUID

from care.book import load_book
from care.vocabulary import Action
from server.due.state import MachineState
from server.household.models import Member
from server.logbook.memo import of_all, remembered
from server.logbook.models import Detail
from server.logbook.services import standing
from server.machines.models import (
    CaseRecord,
    DangerRecord,
    DryCheck,
    HomeChanged,
    Hung,
    Inspection,
    Reading,
    Run,
    Service,
    Weight,
)
from server.machines.records import archetype_of
from server.machines.services import machine_of


@dataclass(frozen=True, slots=True)
class HistoryLine:
    """A line of a machine's history, newest first."""

    entry_id: UUID
    kind: str
    at: datetime
    day: date
    by: str
    slot: str = ""
    item: str = ""
    action: str = ""
    found: str = ""
    minutes: float | None = None
    provenance: str = ""
    told: str = ""
    """Where it hangs, what it weighs [g], whether it was damp, how it pulls."""


def history(member: Member, state: MachineState, most: int = 40) -> list[HistoryLine]:
    """What happened to a machine: the latest runs, services and findings that stand (`most` of each), newest first."""
    key = ("history", of_all(member.household_id), state.machine.id, most)
    return remembered(key, lambda: _history(member, state, most))


def _history(member: Member, state: MachineState, most: int) -> list[HistoryLine]:
    household_id, machine_id = member.household_id, state.machine.id
    lines: list[HistoryLine] = []
    for run in _latest(Run.objects.of(household_id).filter(machine=machine_id), most):
        lines.append(_line(run, state, minutes=run.run_s / 60, provenance=run.provenance, day=run.day))
    for service in _latest(Service.objects.of(household_id).filter(machine=machine_id).select_related("item"), most):
        lines.append(_line(service, state, slot=service.slot, item=service.item.name, action=service.action))
    for saw in _latest(Inspection.objects.of(household_id).filter(machine=machine_id).select_related("item"), most):
        lines.append(_line(saw, state, slot=saw.slot, item=saw.item.name, action=saw.about, found=saw.found))
    for read in _latest(Reading.objects.of(household_id).filter(machine=machine_id), most):
        told = f"{read.typed:g} {read.unit}".strip()
        lines.append(_line(read, state, told=told, action=read.moment, found=read.quantity))
    for case in _latest(CaseRecord.objects.of(household_id).filter(machine=machine_id), most):
        noticed = ", ".join(one["name"] for one in case.symptoms)
        causes = ", ".join(one["name"] for one in case.causes)
        lines.append(_line(case, state, told=noticed, found=causes, action=case.stand))
    for answer in _latest(HomeChanged.objects.of(household_id).filter(machine=machine_id), most):
        said = "something changed at home" if answer.changed else "nothing changed at home"
        lines.append(_line(answer, state, slot=answer.slot, told=said))
    for told in _latest(DangerRecord.objects.of(household_id).filter(machine=machine_id), most):
        danger = load_book().dangers[told.danger]
        lines.append(_line(told, state, told=danger.over if told.over else danger.name))
    lines += _of_the_rack(household_id, state, most)
    return sorted(lines, key=lambda line: line.at, reverse=True)


def _of_the_rack(household_id: UUID, state: MachineState, most: int) -> list[HistoryLine]:
    """Where its parts hung, what they weighed, and what a feel told."""
    mine = {"item__home_machine": state.machine.id}
    made: list[HistoryLine] = []
    for hung in _latest(Hung.objects.of(household_id).filter(**mine).select_related("item"), most):
        made.append(_line(hung, state, slot=hung.item.home_slot, item=hung.item.name, told=hung.place))
    for weight in _latest(Weight.objects.of(household_id).filter(**mine).select_related("item"), most):
        grams = f"{weight.grams:g}"
        made.append(_line(weight, state, slot=weight.item.home_slot, item=weight.item.name, told=grams))
    for check in _latest(DryCheck.objects.of(household_id).filter(**mine).select_related("item"), most):
        damp = "damp" if check.damp else "dry"
        made.append(_line(check, state, slot=check.item.home_slot, item=check.item.name, told=damp))
    return made


def _latest(rows, most: int):  # type: ignore[no-untyped-def]
    return standing(rows).select_related("entry__by").order_by("-entry__happened_at", "-entry__sequence")[:most]


def _line(row: Detail, state: MachineState, **more: object) -> HistoryLine:
    entry = row.entry
    values = {"day": state.context.local_day(entry.happened_at), **more}
    return HistoryLine(
        entry_id=entry.pk,
        kind=entry.kind,
        at=entry.happened_at,
        by=entry.by.name if entry.by else "",
        **values,  # type: ignore[arg-type]
    )


def washed_since(member: Member, machine_id: UUID, since: datetime) -> int:
    """How often parts that could have been renewed instead were washed since: what that kept out of the bin."""
    rows = standing(Service.objects.of(member.household_id).filter(machine=machine_id, action=Action.WASH))
    used_up = {slot.key for slot in archetype_of(machine_of(member, machine_id)).slots if slot.is_used_up}
    return rows.filter(entry__happened_at__gte=since, slot__in=used_up).count()
