"""How a made-up household is lived through: events in order, each called with the clock held at its time."""

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, datetime, time, timedelta
from functools import partial
from heapq import merge
from uuid import UUID, uuid4

from care.bench.drying import Hanging
from care.due.schedule import Schedule
from care.model import Provenance
from care.vocabulary import Action, Found, Gone
from server.base import clock
from server.bench.ending import finish
from server.bench.opening import Pick, open_sheet
from server.bench.services import Given, answer
from server.bench.sheets import SheetState
from server.drying.services import check_dry, hang
from server.due.state import machine_states
from server.faults.services import NewEvent, open_case, tell
from server.household.models import Member
from server.household.services import zone_of
from server.notes.readings import Figure, take
from server.use.services import log_run
from server.work.services import already_done, fit_item, look

Task = tuple[str, Action]
"""A slot and what is done to it."""

ANCHOR = date(2026, 11, 24)
"""The Tuesday on which the story stands as written. On any other day everything moves with it, the days of the usual
weeks too, so that whoever opens the demo finds the same house."""
DAYS = ("MO", "TU", "WE", "TH", "FR", "SA", "SU")


@dataclass(frozen=True, slots=True, order=True)
class Event:
    """Something in the story: when, and what is called then."""

    at: datetime
    name: str
    call: Callable[[], object] = field(compare=False)


@dataclass(frozen=True, slots=True)
class Habit:
    """Something done again and again: every so many days, from `first` to `last` days before day zero.

    `found` is what was found, in turn; None where nobody said. A wash is told two days later, dry and refitted.
    """

    slot: str
    action: Action
    every: int
    first: int
    last: int
    found: Sequence[Found | None] = (None,)


@dataclass(slots=True)
class Story:
    """A household being lived through, until `now`."""

    member: Member
    now: datetime
    machines: dict[str, UUID] = field(default_factory=dict)

    @property
    def day_zero(self) -> date:
        """Today: what the story tells lies so many days before it."""
        return self.now.astimezone(zone_of(self.member)).date()

    def weekdays(self, days: Iterable[int]) -> list[int]:
        """Weekdays (0 is Monday) as they lie around today, told as they lie around the anchor."""
        return sorted((day + (self.day_zero - ANCHOR).days) % 7 for day in days)

    def week(self, usual: Schedule) -> Schedule:
        """A usual week by weekdays, told for the anchor, as it is around today."""
        rule, days = usual.rule.split("BYDAY=")
        moved = self.weekdays(DAYS.index(day) for day in days.split(","))
        return replace(usual, rule=f"{rule}BYDAY={','.join(DAYS[day] for day in moved)}")

    def day(self, days_ago: int) -> date:
        """The day so many days before day zero."""
        return self.day_zero - timedelta(days=days_ago)

    def when(self, days_ago: int, hour: int, minute: int = 0) -> datetime:
        """A local time so many days before day zero."""
        return datetime.combine(self.day(days_ago), time(hour, minute), tzinfo=zone_of(self.member))

    def live(self, *streams: Iterable[Event]) -> None:
        """Let everything happen that lies before now, in order."""
        for event in merge(*(sorted(stream) for stream in streams), key=lambda e: e.at):
            if event.at <= self.now:
                with clock.at(event.at):
                    event.call()

    # --- What happens ---

    def runs(
        self,
        machine: str,
        week: Schedule,
        *,
        minutes: Sequence[float],
        since: int,
        skipped: Iterable[int] = (),
        every: int = 1,
        mops: Sequence[int] = (),
        provenance: Provenance = Provenance.MEASURED,
    ) -> Iterator[Event]:
        """Runs of a machine's usual week from `since` days ago; of a plug-in machine only every n-th is told."""
        week, mops = self.week(week), self.weekdays(mops)
        off = {self.day(n) for n in skipped}
        starts = week.starts or time(10)
        days = week.days(self.day(since), self.now.date() + timedelta(days=1))
        for n, day in enumerate(days):
            start = datetime.combine(day, starts, tzinfo=zone_of(self.member))
            length = minutes[n % len(minutes)]
            if day not in off and n % every == 0:
                call = partial(self._ran, machine, start, length, day.weekday() in mops, provenance)
                yield Event(start + timedelta(minutes=length), f"{machine} runs", call)

    def _ran(self, machine: str, start: datetime, minutes: float, mopped: bool, provenance: Provenance) -> None:
        log_run(
            member=self.member,
            run_id=uuid4(),
            machine_id=self.machines[machine],
            start=start,
            minutes=minutes,
            mopped=mopped,
            provenance=provenance,
        )

    def habits(self, machine: str, *habits: Habit) -> Iterator[Event]:
        """What somebody does now and then."""
        for number, habit in enumerate(habits):
            for n, ago in enumerate(range(habit.first, habit.last - 1, -habit.every)):
                told = habit.found[n % len(habit.found)]
                wet = habit.action is Action.WASH
                yield self.done(machine, ago, 18 + number % 4, habit.slot, habit.action, told, days_later=2 * wet)
                if (habit.slot, habit.action) == ("bin", Action.WIPE):
                    yield Event(self.when(ago - 1, 10, 30), "bin back", partial(self._put_back, machine))

    def done(
        self,
        machine: str,
        days_ago: int,
        hour: int,
        slot: str,
        action: Action,
        found: Found | None = None,
        *,
        days_later: int = 0,
    ) -> Event:
        """A task done without a sheet; told some days later. What was found worn and replaced went because of that."""
        worn = action is Action.REPLACE and found in (Found.DUE, Found.OVERDUE)

        def call() -> object:
            return already_done(
                member=self.member,
                machine_id=self.machines[machine],
                slot_key=slot,
                action=action,
                day=self.day(days_ago),
                found=found,
                gone=Gone.WORN if worn else None,
            )

        return Event(self.when(days_ago - days_later, hour), f"{machine} {slot} {action}", call)

    def read(self, machine: str, days_ago: int, hour: int, figure: Figure) -> Event:
        """Somebody takes a reading."""
        call = partial(take, member=self.member, figure=figure)
        return Event(self.when(days_ago, hour), f"{machine} read", lambda: call(machine_id=self.machines[machine]))

    def noticed(
        self, machine: str, days_ago: int, hour: int, symptoms: list[str], answers: list[tuple[str, str]]
    ) -> Event:
        """Somebody opens a case, answers some checks, and lets it rest."""

        def begin() -> None:
            case_id = uuid4()
            state = open_case(member=self.member, case_id=case_id, machine_id=self.machines[machine], symptoms=symptoms)
            for key, says in answers:
                event = NewEvent(uuid4(), state.event_count, "answered", key, says)
                state = tell(member=self.member, case_id=case_id, event=event)

        return Event(self.when(days_ago, hour), f"{machine} case", begin)

    def looked(self, machine: str, days_ago: int, hour: int, slot: str, about: Action, found: Found) -> Event:
        """Somebody looks and does nothing."""
        call = partial(
            look, member=self.member, machine_id=self.machines[machine], slot_key=slot, about=about, found=found
        )
        return Event(self.when(days_ago, hour), f"{machine} {slot} look", call)

    def sheet(self, machine: str, days_ago: int, hour: int, tasks: list[Task], found: Found) -> Event:
        """A service at the bench, worked through to its end."""
        return Event(self.when(days_ago, hour), "sheet", lambda: self._work(machine, tasks, found))

    def _work(self, machine: str, tasks: list[Task], found: Found) -> None:
        picks = [Pick(self.machines[machine], slot, action) for slot, action in tasks]
        state = open_sheet(member=self.member, sheet_id=uuid4(), picks=picks)
        while state.progress.current is not None:
            state = self._answer(state, found)
        finish(member=self.member, sheet_id=state.row.pk)

    def _answer(self, state: SheetState, found: Found) -> SheetState:
        step = state.progress.current
        assert step is not None
        value = (
            found
            if found in step.answers
            else next(v for v in ("done", "pass", "dry", "screws:1") if v in step.answers)
        )
        return answer(member=self.member, sheet_id=state.row.pk, given=Given(uuid4(), step.key, value))

    def rack_check(self, machine: str, days_ago: int, hour: int) -> Event:
        """Somebody feels what is on the rack and finds it dry."""
        return Event(self.when(days_ago, hour), "dry check", lambda: self._check_rack(machine))

    def hung(self, machine: str, days_ago: int, hour: int, place: str) -> Event:
        """Somebody hangs what a machine has on the rack in another place."""
        return Event(self.when(days_ago, hour, 20), "hung", lambda: self._hang(machine, place))

    def _put_back(self, machine: str) -> None:
        """The bin that was wiped the evening before goes back, dry."""
        [state] = machine_states(self.member, self.machines[machine])
        for slot, item in state.on_rack:
            if slot == "bin":
                check_dry(member=self.member, item_id=item.id, dry=True)
                fit_item(member=self.member, item_id=item.id)

    def _hang(self, machine: str, place: str) -> None:
        [state] = machine_states(self.member, self.machines[machine])
        for _, item in state.on_rack:
            hang(member=self.member, item_id=item.id, hanging=Hanging(place))

    def _check_rack(self, machine: str) -> None:
        [state] = machine_states(self.member, self.machines[machine])
        for _, item in state.on_rack:
            check_dry(member=self.member, item_id=item.id, dry=True)
