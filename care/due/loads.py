"""The household's load over time: dated answers, and times of more load than usual.

Load enters the arithmetic once: it places a rule's figure in its range. Where the load changed while a part was in use,
each stretch counts by the figure of its own time.
"""

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta, tzinfo
from itertools import pairwise

from care.model import Load, LoadEvent
from care.vocabulary import LoadKind


@dataclass(frozen=True, slots=True)
class Stretch:
    """A span of time with one index of load [0..1]."""

    start: datetime
    end: datetime
    index: float


@dataclass(frozen=True)
class LoadLine:
    """`answers` hold from their instant until the next one; before the first one the first holds."""

    answers: Sequence[tuple[datetime, Load]] = ()
    events: Sequence[LoadEvent] = ()

    def own(self, at: datetime) -> Load:
        """The household's answers in force at an instant; the middle of every range before there are any."""
        if not self.answers:
            return Load()
        if len(self.answers) == 1:
            return self.answers[0][1]
        i = bisect_right([since for since, _ in self.answers], at)
        return self.answers[max(0, i - 1)][1]

    def index(self, kind: LoadKind, at: datetime, zone: tzinfo) -> float:
        """The index of `kind` at an instant [0..1], with what is on at that time."""
        if not self.events:
            return self.own(at).of(kind)
        day = at.astimezone(zone).date()
        raised = [e.level for e in self.events if e.kind is kind and e.first <= day <= e.last]
        return max([self.own(at).of(kind), *raised])

    def on(self, kind: LoadKind, first: date, last: date) -> list[LoadEvent]:
        """The times of more load of `kind` that touch the days from `first` to `last`."""
        return [e for e in self.events if e.kind is kind and e.first <= last and e.last >= first]

    def stretches(self, kind: LoadKind, start: datetime, end: datetime, zone: tzinfo) -> list[Stretch]:
        """The span from `start` to `end` cut where the index of `kind` may change."""
        if not self.events and len(self.answers) < 2:
            return [Stretch(start, end, self.own(start).of(kind))] if end > start else []
        cuts = {since for since, _ in self.answers[1:]}
        for event in self.events:
            if event.kind is kind:
                cuts.add(datetime.combine(event.first, time(), tzinfo=zone))
                cuts.add(datetime.combine(event.last + timedelta(days=1), time(), tzinfo=zone))
        edges = [start, *sorted(cut for cut in cuts if start < cut < end), end]
        return [Stretch(a, b, self.index(kind, a, zone)) for a, b in pairwise(edges) if b > a]
