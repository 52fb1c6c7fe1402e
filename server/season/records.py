"""What a household told of its season as rows, and as core values."""

from dataclasses import dataclass, field
from datetime import date, datetime, time
from typing import Any
from uuid import UUID

from pydantic import TypeAdapter

from care.errors import require
from care.season import Barred, ChoreKey, Hands, NotOn, Pin, Weights
from care.season.calendar import Entry
from care.season.chores import VISIT_AT
from care.vocabulary import Action, Skill
from care.washability import NO_UNKNOWN_KEYS
from server.household.models import Member
from server.logbook.services import standing
from server.season.models import HabitsVersion, LastPlan, Wish

What = Wish.What
USUAL = Weights()


@dataclass(frozen=True, slots=True)
class Weighing:
    """What a household may change of what its season is weighed by; see `care.season.Weights`."""

    visit_min: float = USUAL.visit_min
    wait_min: float = USUAL.wait_min
    hour_value: int = USUAL.hour_value

    __pydantic_config__ = NO_UNKNOWN_KEYS

    @property
    def weights(self) -> Weights:
        """As the core weighs. Raises `InvalidValue`."""
        return Weights(visit_min=self.visit_min, wait_min=self.wait_min, hour_value=self.hour_value)


@dataclass(frozen=True, slots=True)
class Habits:
    """Who has time on which weekdays, at what time of day a visit begins, what it is weighed by."""

    hands: tuple[Hands, ...]
    at: time = VISIT_AT
    weighing: Weighing = field(default_factory=Weighing)

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        require(0 < len(self.hands) <= 8, "hands", len(self.hands), "one to eight people")
        names = [one.who.strip().lower() for one in self.hands]
        require(len(set(names)) == len(names), "hands.who", names, "a name of its own for each")


_habits: TypeAdapter[Habits] = TypeAdapter(Habits)


def usual_habits(skill: Skill) -> Habits:
    """What is proposed to a household that told nothing: Saturdays, three quarters of an hour."""
    return Habits((Hands("We", ("SA",), 45, skill),))


def habits_of(member: Member) -> Habits | None:
    """What the household told; None where it told nothing yet."""
    row = standing(HabitsVersion.objects.of(member.household_id)).last()
    return _habits.validate_python(row.value) if row else None


def habits_json(habits: Habits) -> dict[str, Any]:
    """The JSON that a row keeps."""
    made: dict[str, Any] = _habits.dump_python(habits, mode="json")
    return made


@dataclass(frozen=True, slots=True)
class Asked:
    """A wish that stands, with the entry that takes it back, who asked it and when."""

    entry_id: UUID
    what: str
    first: date
    last: date
    chores: tuple[ChoreKey, ...]
    note: str
    by: str
    at: datetime

    @property
    def pin(self) -> Pin:
        """Chores on a day."""
        return Pin(self.first, frozenset(self.chores))

    @property
    def barred(self) -> Barred:
        """Days without a visit."""
        return Barred(self.first, self.last, self.note or "no visit asked for")

    @property
    def left_out(self) -> list[NotOn]:
        """Chores that are not done on these days."""
        return [NotOn(key, self.first, self.last) for key in self.chores]


def wishes_of(member: Member, today: date) -> list[Asked]:
    """What was asked and is not past, in the order of asking."""
    rows = standing(Wish.objects.of(member.household_id).filter(last__gte=today)).select_related("entry__by")
    return [
        Asked(
            row.entry_id, row.what, row.first, row.last, tuple(map(_key, row.chores)), row.note,
            row.entry.by.name if row.entry.by else "", row.entry.entered_at,
        )
        for row in rows.order_by("entry__sequence")
    ]  # fmt: skip


def _key(parts: list[str]) -> ChoreKey:
    machine, slot, action = parts
    return ChoreKey(UUID(machine), slot, Action(action))


def key_json(key: ChoreKey) -> list[str]:
    """A chore's key as rows keep it."""
    return [str(key.machine_id), key.slot, str(key.action)]


def last_plan(member: Member) -> tuple[date | None, dict[ChoreKey, list[date]]]:
    """When the last plan was made, and on which days it had each chore."""
    row = LastPlan.objects.of(member.household_id).first()
    if row is None:
        return None, {}
    return row.made_on, doing_of(row)


def doing_of(row: LastPlan) -> dict[ChoreKey, list[date]]:
    """On which days a plan that was kept has each chore."""
    return {_key(one[:3]): [date.fromisoformat(day) for day in one[3]] for one in row.doing}


_entries: TypeAdapter[list[Entry]] = TypeAdapter(list[Entry])


def entries_of(member: Member) -> list[Entry]:
    """The visits of the last plan as entries of calendars."""
    row = LastPlan.objects.of(member.household_id).first()
    return _entries.validate_python(row.calendar) if row else []


def entries_json(entries: list[Entry]) -> list[dict[str, Any]]:
    """The JSON that a row keeps."""
    made: list[dict[str, Any]] = _entries.dump_python(entries, mode="json")
    return made
