"""What the API says of a machine's page."""

from __future__ import annotations

from datetime import date, datetime, timedelta
from uuid import UUID

from care.bench.bundles import full_service
from care.bench.pieces import PHASE
from care.due.chambers import first_part
from care.items import State
from care.kinds import Kit
from care.parts import Slot
from care.vocabulary import Action, School
from server.base.schema import Schema
from server.due.history import HistoryLine
from server.due.schemas import AskedOut, ItemOut, StateOut, asked_out, item_out, state_out
from server.due.state import MachineState
from server.due.strip_schemas import StripOut, strip_out
from server.setup.rounds import OneGo


class PartOut(Schema):
    """A slot of a machine with what sits in it and how it stands."""

    slot: str
    name: str
    station: str
    item: ItemOut | None
    away: ItemOut | None
    spares: list[ItemOut]
    states: list[StateOut]
    asked: dict[Action, AskedOut]
    counted_by_machine: bool
    school: School | None
    material: str


class OneGoTaskOut(Schema):
    """A task that is done in one go with others, here or at the dock."""

    machine_id: UUID
    slot: str
    action: Action


class OneGoOut(Schema):
    """What is done in one go: against a complaint, as a round with an interval of its own, or a kit that is renewed.

    `parts` are the names of its parts. A round or a kit comes every `low` to `high` days; `days` is what the household
    took up, and `sooner` names parts that the book lets go no longer than their own figure.
    """

    key: str
    name: str
    why: str
    is_kit: bool
    is_round: bool
    low: float
    high: float
    days: float | None
    sooner: list[str]
    parts: list[str]
    tasks: list[OneGoTaskOut]


class WeekOut(Schema):
    """Use of one local week, from its Monday: hours told and hours assumed [h]."""

    monday: date
    told_h: float
    assumed_h: float


class MachineOut(Schema):
    """A machine's page; `first_slot` is its part that wants hands first, `service` all regular care."""

    now: datetime
    today: date
    strip: StripOut
    parts: list[PartOut]
    first_slot: str | None
    in_one_go: list[OneGoOut]
    service: list[OneGoTaskOut]
    weeks: list[WeekOut]
    history: list[HistoryLine]


def part_out(slot: Slot, state: MachineState) -> PartOut:
    """A slot with its item, what is away on the rack, what lies ready, and every rule."""
    fitted = state.machine.fitted.get(slot.key)
    meant = [item for item in state.items.values() if state.homes[item.id] == slot.key and item.id != fitted]
    away = next((item for key, item in state.on_rack if key == slot.key), None)
    states = [s for s in state.due if s.slot == slot.key and s.item_id is not None]
    states.sort(key=lambda s: (slot.rule(s.action).is_life, PHASE[s.action]))
    return PartOut(
        slot=slot.key,
        name=slot.name,
        station=slot.station,
        item=item_out(state.items[fitted]) if fitted else None,
        away=item_out(away) if away else None,
        spares=[item_out(item) for item in meant if item.state is State.READY],
        states=[state_out(s, state.machine.archetype, state.home.pace) for s in states],
        asked={rule.action: asked_out(slot, rule.about or rule.action) for rule in slot.rules},
        counted_by_machine=slot.counted_by_machine,
        school=slot.over.school,
        material=slot.over.material,
    )


def one_go_out(one: OneGo) -> OneGoOut:
    """What is done in one go, as the API gives it."""
    tasks = [(machine.pk, slot, action) for machine, _, chosen in one.on for slot, action in chosen]
    names = {(machine.pk, slot.key): slot.name for machine, kind, _ in one.on for slot in kind.slots}
    kind = one.on[0][1]
    whose = [kind.slot(key).name for key in one.kit.slots] if one.kit else [slot.name for _, slot, _ in tasks]
    kept = one.kept(one.days or one.of.high) if one.comes_round else iter(())
    return OneGoOut(
        key=one.key,
        name=one.of.name,
        why="" if isinstance(one.of, Kit) else one.of.why,
        is_kit=one.kit is not None,
        is_round=one.comes_round and one.kit is None,
        low=one.of.low,
        high=one.of.high,
        days=one.days,
        sooner=[names[machine.pk, task.slot] for machine, task in kept if task.keeps_its_own],
        parts=list(dict.fromkeys(whose)),
        tasks=[OneGoTaskOut(machine_id=pk, slot=slot.key, action=action) for pk, slot, action in tasks],
    )


WEEKS_SHOWN = 12


def weeks_out(state: MachineState) -> list[WeekOut]:
    """The last weeks of use, the running one last."""
    by_day, today = state.context.usage.by_day(), state.context.today
    this = today - timedelta(days=today.weekday())
    made = []
    for n in range(WEEKS_SHOWN - 1, -1, -1):
        monday = this - timedelta(weeks=n)
        days = [by_day[day] for d in range(7) if (day := monday + timedelta(days=d)) in by_day]
        assumed = sum(day.assumed_h for day in days)
        made.append(WeekOut(monday=monday, told_h=sum(d.run_hours for d in days) - assumed, assumed_h=assumed))
    return made


def machine_out(state: MachineState, lines: list[HistoryLine], together: list[OneGo]) -> MachineOut:
    """A machine's page."""
    here = state.machine.archetype.parts(state.machine.features)
    return MachineOut(
        first_slot=first_part(state.machine, state.due),
        now=state.context.now,
        today=state.context.today,
        strip=strip_out(state),
        parts=[part_out(slot, state) for slot in here],
        in_one_go=[one_go_out(one) for one in together],
        service=[
            OneGoTaskOut(machine_id=state.machine.id, slot=slot, action=action)
            for slot, action in full_service(state.machine.archetype, state.due)
        ],
        weeks=weeks_out(state),
        history=lines,
    )
