"""What all due states of one machine share: its use, the household's load and school, the moment."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime, timedelta, tzinfo
from functools import cached_property

from care.due.forecast import LOOK_BACK_WEEKS, Futures
from care.due.loads import LoadLine
from care.due.schedule import Schedule
from care.due.usage import Pace, UsageLog, pace
from care.model import Rest, ToldFilling
from care.vocabulary import Mishap, School


@dataclass(frozen=True)
class Context:
    """The circumstances of an assessment. `loads` holds dated answers, `rests` the days off, past and to come,
    `mishaps` what the machine ran over or took in (instant, kind), `week_since` the day from which its usual week
    holds, where another one held before, `told` what was told of the sizes of its bags and bins, by slot.
    """

    usage: UsageLog
    schedule: Schedule | None
    loads: LoadLine
    school: School
    now: datetime
    zone: tzinfo
    rests: Sequence[Rest] = field(default_factory=tuple)
    mishaps: Sequence[tuple[datetime, Mishap]] = field(default_factory=tuple)
    week_since: date | None = None
    told: Mapping[str, ToldFilling] = field(default_factory=dict)

    @property
    def changed(self) -> date | None:
        """The day from which another usual week holds, as long as it is not long ago."""
        since = self.week_since
        return since if since and since > self.today - LOOK_BACK_WEEKS * timedelta(weeks=1) else None

    @property
    def today(self) -> date:
        """The local day of the household."""
        return self.now.astimezone(self.zone).date()

    def local_day(self, at: datetime) -> date:
        """The household's local day of an instant."""
        return at.astimezone(self.zone).date()

    @property
    def next_run_from(self) -> date:
        """The first day on which the next usual run can be: tomorrow, once it has run today."""
        last = self.usage.last_before(self.now)
        ran_today = last is not None and self.local_day(last) == self.today
        return self.today + timedelta(days=1) if ran_today else self.today

    @cached_property
    def pace(self) -> Pace:
        """The machine's usual pace."""
        return pace(self.usage, self.schedule, self.now)

    @cached_property
    def futures(self) -> Futures:
        """Draws of the machine's coming use, shared by all its rules."""
        return Futures(
            self.usage,
            self.schedule,
            today=self.today,
            from_day=self.next_run_from,
            rests=self.rests,
            fills_per_hour=self.usage.fills_per_hour(self.now),
            week_since=self.week_since,
        )
