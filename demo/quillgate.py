"""Quillgate 9: a shared house with a bookbinding workshop, long hair and a moulting rabbit. First part: the robot of
the ground floor, with two months of runs.

Dates hang on a fixed anchor and move with today by whole weeks, so that weekdays stay true.
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from functools import partial
from heapq import merge
from uuid import UUID, uuid4

from care.due.usage import Schedule
from care.model import Action, Found, Load, Provenance, School
from server.bench.services import Pick, SheetState, answer, finish, open_sheet
from server.config import clock
from server.household.models import Member
from server.household.services import answer as answer_household
from server.household.services import create_household, zone_of
from server.machines.services import Spare, add_machine, already_done, check_dry, log_run
from server.machines.state import machine_states

ANCHOR = date(2026, 11, 24)
"""The Tuesday on which the story stands as written."""
ROBOT = "Ground robot"
WEEKDAYS = "RRULE:FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR"
SET_UP_DAYS_AGO = 63
MINUTES = (50, 52, 48, 50, 47, 51, 50, 35, 50, 49, 53)
"""Lengths of runs, in turn [min]; the short one met a sock."""
NO_RUN_DAYS_AGO = (55, 42, 41, 40, 39, 33, 20)
"""Days on which it did not run: a week in which nobody was at home, and a few when the door was shut."""


@dataclass(frozen=True, slots=True, order=True)
class Event:
    """Something in the story: when, and what is called then."""

    at: datetime
    name: str
    call: Callable[[], object]


@dataclass(slots=True)
class Story:
    """The household being lived through, until `now`."""

    member: Member
    now: datetime
    robot: UUID

    @property
    def day_zero(self) -> date:
        """The anchor moved by whole weeks to the latest one that is not after today."""
        today = self.now.astimezone(zone_of(self.member)).date()
        return ANCHOR + timedelta(weeks=(today - ANCHOR).days // 7)

    def when(self, days_ago: int, hour: int, minute: int = 0) -> datetime:
        """A local time so many days before day zero."""
        return datetime.combine(
            self.day_zero - timedelta(days=days_ago), time(hour, minute), tzinfo=zone_of(self.member)
        )

    # --- What happens ---

    def runs(self) -> Iterator[Event]:
        """The robot's own reports, on weekdays at 10:15, until now."""
        zone, start_of_story = zone_of(self.member), self.when(SET_UP_DAYS_AGO, 18)
        skipped = {self.day_zero - timedelta(days=n) for n in NO_RUN_DAYS_AGO}
        for n, day in enumerate(
            Schedule(WEEKDAYS, 50).days(start_of_story.date(), self.now.date() + timedelta(days=1))
        ):
            start = datetime.combine(day, time(10, 15), tzinfo=zone)
            minutes = MINUTES[n % len(MINUTES)]
            end = start + timedelta(minutes=minutes)
            if day not in skipped and start > start_of_story and end <= self.now:
                yield Event(end, f"run {day}", partial(self._ran, start, minutes))

    def _ran(self, start: datetime, minutes: float) -> None:
        log_run(
            member=self.member,
            run_id=uuid4(),
            machine_id=self.robot,
            start=start,
            minutes=minutes,
            provenance=Provenance.MEASURED,
        )

    def done(self, days_ago: int, hour: int, slot: str, action: Action, found: Found | None = None) -> Event:
        """A task done without a sheet."""
        return Event(
            self.when(days_ago, hour),
            f"{slot} {action}",
            lambda: already_done(member=self.member, machine_id=self.robot, slot_key=slot, action=action, found=found),
        )

    def sheet(self, days_ago: int, hour: int, picks: list[Pick], found: Found) -> Event:
        """A service at the bench, worked through to its end."""
        return Event(self.when(days_ago, hour), "sheet", lambda: self._work(picks, found))

    def _work(self, picks: list[Pick], found: Found) -> None:
        state = open_sheet(member=self.member, sheet_id=uuid4(), machine_id=self.robot, picks=picks)
        while state.progress.current is not None:
            state = self._answer(state, found)
        finish(member=self.member, sheet_id=state.row.pk)

    def _answer(self, state: SheetState, found: Found) -> SheetState:
        step = state.progress.current
        assert step is not None
        value = found if found in step.answers else next(v for v in ("done", "pass", "dry") if v in step.answers)
        return answer(member=self.member, sheet_id=state.row.pk, event_id=uuid4(), step=step.key, value=value)

    def care(self) -> Iterator[Event]:
        """What people did, oldest first."""
        rollers = [Pick("bristle-roller", Action.DE_HAIR), Pick("rubber-roller", Action.DE_HAIR)]
        filter_wash = Pick("filter", Action.WASH)
        yield self.sheet(50, 18, [*rollers, filter_wash, Pick("side-brush", Action.DE_HAIR)], Found.DUE)
        yield self.rack_check(48, 20)
        yield self.done(36, 19, "contacts", Action.WIPE)
        yield self.sheet(35, 18, [*rollers, filter_wash, Pick("caster", Action.DE_HAIR)], Found.DUE)
        yield self.rack_check(33, 20)
        yield self.done(29, 19, "wheels", Action.WIPE, Found.LIGHT)
        yield self.done(26, 19, "sensors", Action.WIPE, Found.LIGHT)
        yield self.sheet(24, 18, [*rollers, filter_wash], Found.OVERDUE)
        yield self.rack_check(22, 20)
        yield self.done(14, 18, "side-brush", Action.DE_HAIR, Found.DUE)
        yield self.done(14, 19, "rubber-roller", Action.DE_HAIR, Found.DUE)
        yield self.sheet(12, 18, [filter_wash], Found.DUE)
        yield self.rack_check(10, 12)
        yield self.done(10, 18, "caster", Action.DE_HAIR, Found.LIGHT)
        yield self.done(8, 18, "bristle-roller", Action.DE_HAIR, Found.DUE)
        yield self.done(4, 18, "bin", Action.EMPTY)

    def rack_check(self, days_ago: int, hour: int) -> Event:
        """Somebody feels the washed filter on the rack and finds it dry."""
        return Event(self.when(days_ago, hour), "dry check", self._check_rack)

    def _check_rack(self) -> None:
        for state in machine_states(self.member, self.robot):
            for _, item in state.on_rack:
                check_dry(member=self.member, item_id=item.id, dry=True)


def load(*, now: datetime, user_name: str, password: str) -> Member:
    """Make the household and live its story until `now`. Raises `Conflict` when the user name is taken."""
    member = create_household(
        name="Quillgate 9", time_zone="Europe/Dublin", user_name=user_name, password=password, person="Wren"
    )
    story = Story(member, now, uuid4())
    begin = story.when(SET_UP_DAYS_AGO, 18)
    with clock.at(begin):
        answer_household(member=member, load=Load(hair=0.8, dust=0.7, volume=0.5), school=School.LABEL)
        add_machine(
            member=member,
            machine_id=story.robot,
            name=ROBOT,
            archetype="robot-two-roller",
            schedule=Schedule(WEEKDAYS, 50, time(10, 15)),
            spares=[Spare("filter", "Filter B")],
        )
    for event in merge(story.runs(), sorted(story.care()), key=lambda e: e.at):
        with clock.at(event.at):
            event.call()
    return member
