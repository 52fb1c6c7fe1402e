"""What a machine's records say beforehand: each moves the odds of a fault, and says by how much in bits.

One bit doubles the odds. The sizes are ours, set so that no record alone settles a case.
"""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from math import log2

import numpy as np

from care.faults.book import Record
from care.faults.likelihood import Array
from care.faults.subject import Subject, Suspect
from care.vocabulary import Action, Found

CLOCK_BITS = 2.0
"""For each doubling of how far a task has gone [bits]."""
CLOCK_FROM = 0.7
"""From this share of its interval on a clock speaks for its fault, below it against it [-]."""
MOST_BITS = 3.0
"""As far as any one record goes, either way [bits]."""
SERVICED_BITS = 3.5
"""For what a service of today may have left behind, its first suspects; less each day after it."""
SERVICED_DAYS = 14.0
"""After so many days a service is no suspect any more [days]."""
CLEANED_BITS = -1.5
"""For what that service has just put right."""
EARLY_BITS = 4.0
"""For a part fitted again before it was dry."""
SLOW_BITS, SLOW_FROM = 1.5, 1.5
"""For each doubling of how long drying takes where a part hung lately [bits], from so many times as long on [-]."""
WASHES_FULL = 10.0
"""Washes at which a filter is half used up by washing [-]."""
CASE_BITS = 1.0
"""For each earlier case of this machine that ended with this fault, up to two."""
AGAIN_BITS = -1.5
"""For each time it was put right for the same complaint lately, up to two: what comes back had another cause."""
FOUND_BITS: Mapping[Found, float] = {Found.CLEAN: -1.0, Found.LIGHT: 0.0, Found.DUE: 1.5, Found.OVERDUE: 2.5}


@dataclass(frozen=True, slots=True)
class PartBackground:
    """What the records say of one part: how far each task's clock has gone (1 = its interval), and what was found.

    `washes` counts them; `refitted_early` tells that it was fitted before it was dry, `dried_slowly` how many times as
    long as usual drying takes where it hung lately [-], None where it did not. `serviced` is how many days ago
    somebody last had it in hand [days], None where that is long ago; `cleaned` what was done to it since. `life` is how
    far its life has gone, None where nobody knows.
    """

    clocks: Mapping[Action, float] = field(default_factory=dict)
    use: str = ""
    life: float | None = None
    found: Found | None = None
    washes: int = 0
    refitted_early: bool = False
    dried_slowly: float | None = None
    serviced: float | None = None
    cleaned: frozenset[Action] = frozenset()


@dataclass(frozen=True, slots=True)
class Background:
    """The records of a machine (role "") and its dock: parts by (role, slot), and earlier cases by suspect.

    `again` counts those of the same complaint in the last weeks, `cases` the others. `serviced` tells by role how many
    days ago somebody last worked on it, whatever the part [days].
    """

    parts: Mapping[tuple[str, str], PartBackground] = field(default_factory=dict)
    cases: Mapping[str, int] = field(default_factory=dict)
    again: Mapping[str, int] = field(default_factory=dict)
    serviced: Mapping[str, float] = field(default_factory=dict)


NOTHING_KNOWN = Background()


@dataclass(frozen=True, slots=True)
class Influence:
    """That a record moved the odds of a suspect by so many bits; `value` is what it says, in the record's own sense."""

    suspect: str
    record: str
    bits: float
    value: float | str


def influences(subject: Subject, background: Background) -> list[Influence]:
    """Everything in the records that moves a suspect of `subject`, none of it less than a tenth of a bit."""
    found = [one for suspect in subject.suspects for one in _of(suspect, background)]
    return [one for one in found if abs(one.bits) >= 0.1]


def odds(subject: Subject, moved: Iterable[Influence]) -> Array:
    """The odds of each suspect from the book's chances and what the records say."""
    chances = np.array([s.p for s in subject.suspects])
    bits = {suspect.key: 0.0 for suspect in subject.suspects}
    for one in moved:
        bits[one.suspect] += one.bits
    factor: Array = chances / (1 - chances) * np.exp2(np.array([bits[s.key] for s in subject.suspects]))
    return factor


def _of(suspect: Suspect, background: Background) -> Iterator[Influence]:
    part = background.parts.get((suspect.at.role, suspect.at.slot.key if suspect.at.slot else ""), PartBackground())
    for record in suspect.fault.moved:
        for value, bits in _MOVES[record](suspect, part, background):
            yield Influence(suspect.key, record, float(np.clip(bits, -MOST_BITS, max(MOST_BITS, EARLY_BITS))), value)
    if cases := background.cases.get(suspect.key, 0):
        yield Influence(suspect.key, "cases", CASE_BITS * min(cases, 2), float(cases))
    if again := background.again.get(suspect.key, 0):
        yield Influence(suspect.key, "again", AGAIN_BITS * min(again, 2), float(again))


Move = Iterator[tuple[float | str, float]]


def _by_clock(suspect: Suspect, part: PartBackground, background: Background) -> Move:
    clocks = [part.clocks[Action(key)] for key in suspect.fault.clocks if Action(key) in part.clocks]
    just = {Action(key) for key in suspect.fault.clocks} & part.cleaned
    if just:
        yield 0.0, CLEANED_BITS
    elif clocks:
        gone = max(min(clocks), 0.05)  # the task that was done last is the one that tells
        yield round(gone, 2), CLOCK_BITS * log2(gone / CLOCK_FROM)


def _by_find(suspect: Suspect, part: PartBackground, background: Background) -> Move:
    if part.found is not None:
        yield str(part.found), FOUND_BITS[part.found]


def _by_early_refit(suspect: Suspect, part: PartBackground, background: Background) -> Move:
    if part.refitted_early:
        yield 1.0, EARLY_BITS


def _by_slow_air(suspect: Suspect, part: PartBackground, background: Background) -> Move:
    if part.dried_slowly is not None and part.dried_slowly >= SLOW_FROM:
        yield round(part.dried_slowly, 1), SLOW_BITS * log2(part.dried_slowly)


def _by_washes(suspect: Suspect, part: PartBackground, background: Background) -> Move:
    if part.washes:
        yield float(part.washes), CLOCK_BITS * log2(part.washes / WASHES_FULL)


def _by_service(suspect: Suspect, part: PartBackground, background: Background) -> Move:
    """What a service may have left behind: by what was done to its part, or to the parts one works at to reach it."""
    fault, role = suspect.fault, suspect.at.role
    days = part.serviced
    if fault.served_at:
        near = (one.serviced for (at, _), one in background.parts.items() if at == role and one.use in fault.served_at)
        days = min((day for day in near if day is not None), default=None)
    elif fault.served_by and not {str(action) for action in part.cleaned} & set(fault.served_by):
        days = None
    if days is not None:
        yield round(days, 1), SERVICED_BITS * max(0.0, 1 - days / SERVICED_DAYS)
    elif not fault.served_by and not fault.served_at and role in background.serviced:
        days = background.serviced[role]
        yield round(days, 1), SERVICED_BITS / 2 * max(0.0, 1 - days / SERVICED_DAYS)


def _by_age(suspect: Suspect, part: PartBackground, background: Background) -> Move:
    if part.life is not None:
        yield round(part.life, 2), CLOCK_BITS * log2(max(part.life, 0.1))


_MOVES = {
    Record.CLOCK: _by_clock,
    Record.AS_FOUND: _by_find,
    Record.REFITTED_EARLY: _by_early_refit,
    Record.DRIED_SLOWLY: _by_slow_air,
    Record.WASHES: _by_washes,
    Record.SERVICED: _by_service,
    Record.AGE: _by_age,
}
