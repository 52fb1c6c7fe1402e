"""Why a date is what it is: facts, each of a kind of its own. Words are made where they are shown.

No rule reads an explanation back: what a rule needs stands beside it. `code` tells the kinds apart where they travel;
the screens say something of each kind, or do not compile.
"""

from dataclasses import dataclass
from datetime import date, datetime
from typing import Annotated, Literal

from pydantic import Field

from care.since import SinceFact
from care.vocabulary import Action, Calendar, Figure, Found, LoadKind, Meter, Mishap, School


@dataclass(frozen=True, slots=True, kw_only=True)
class TriggerFact:
    """A limit and where its clock stands: the book's range, what the home and what was found made of it, the longest
    figure the school allows (`cap`), and the clock in its own unit. `longest`: it stands at that; `learned`: it counts
    use, so that what is found teaches its pace; `index` is the load that moved it [-].
    """

    meter: Meter
    calendar: Calendar | None
    low: float
    high: float
    figure: float
    by_load: float
    cap: float
    longest: bool
    index: float | None
    after: Mishap | None
    learned: bool
    clock: Meter
    used: float
    limit: float
    code: Literal["trigger"] = "trigger"


@dataclass(frozen=True, slots=True, kw_only=True)
class UsedFact:
    """What ran since then, and how much of it was assumed [h]."""

    run_hours: float
    runs: float
    assumed_h: float
    mop_runs: float
    fills: float
    assumed_fills: float
    code: Literal["used"] = "used"


@dataclass(frozen=True, slots=True, kw_only=True)
class UsualUseFact:
    """The pace that dates are expected at, and since when it is another than before."""

    hours_per_week: float
    runs_per_week: float
    changed: date | None
    code: Literal["usual_use"] = "usual_use"


@dataclass(frozen=True, slots=True, kw_only=True)
class SchoolFact:
    """The school in force, how far it lets an interval go [-], and why it has a rule of its own."""

    school: School
    stretch: float
    why: str | None
    code: Literal["school"] = "school"


@dataclass(frozen=True, slots=True, kw_only=True)
class BookFact:
    """Where the figure comes from, why the task is done at all, and which load moves it."""

    figure_kind: Figure
    reason: str
    moved_by: LoadKind | None
    code: Literal["book"] = "book"


@dataclass(frozen=True, slots=True, kw_only=True)
class PrintFact:
    """Another figure that is told for the same thing."""

    figure: str
    by: Figure
    told: str
    code: Literal["print"] = "print"


@dataclass(frozen=True, slots=True, kw_only=True)
class EasedFact:
    """Good enough is enough here: it is let go so many times as long [-]."""

    times: float
    code: Literal["eased"] = "eased"


@dataclass(frozen=True, slots=True, kw_only=True)
class OwnFigureFact:
    """The household set a figure of its own, and why."""

    why: str
    code: Literal["own_figure"] = "own_figure"


@dataclass(frozen=True, slots=True, kw_only=True)
class ToldFillingFact:
    """By the sizes that were told a filling takes so many weeks."""

    weeks: float
    hours_per_week: float
    code: Literal["told_filling"] = "told_filling"


@dataclass(frozen=True, slots=True, kw_only=True)
class MishapFact:
    """Something came in that makes it due at once."""

    kind: Mishap
    code: Literal["mishap"] = "mishap"


@dataclass(frozen=True, slots=True, kw_only=True)
class LearnedFact:
    """How fast it loads by what was found: as many times as the book says [-], in the middle and from 10 to 90 %."""

    factor: float
    p10: float
    p90: float
    looks: int
    last_found: Found
    last_day: date
    code: Literal["learned"] = "learned"


@dataclass(frozen=True, slots=True, kw_only=True)
class LastLookFact:
    """What was found last, where that teaches no pace."""

    found: Found
    day: date
    code: Literal["last_look"] = "last_look"


@dataclass(frozen=True, slots=True, kw_only=True)
class ContradictedFact:
    """The last looks say otherwise than what was believed: faster (1) or more slowly (-1)."""

    way: int
    since: datetime
    code: Literal["contradicted"] = "contradicted"


@dataclass(frozen=True, slots=True, kw_only=True)
class SeenFineFact:
    """It was found not in need of it: what was counted before that counts for no more than the answer."""

    found: Found
    day: date
    code: Literal["seen_fine"] = "seen_fine"


@dataclass(frozen=True, slots=True, kw_only=True)
class LoadEventFact:
    """A time of more load."""

    kind: LoadKind
    first: date
    last: date
    level: float
    note: str
    code: Literal["load_event"] = "load_event"


@dataclass(frozen=True, slots=True, kw_only=True)
class CounterFact:
    """What the machine's own counter said beside our count [h]; `chosen`: somebody said which one counts on."""

    day: date
    counter_h: float
    ours_h: float
    looks_reset: bool
    ignored: bool
    chosen: bool
    code: Literal["counter"] = "counter"


@dataclass(frozen=True, slots=True, kw_only=True)
class NoCounterFact:
    """No machine counts this part's life, so we do."""

    code: Literal["no_counter"] = "no_counter"


@dataclass(frozen=True, slots=True, kw_only=True)
class OtherTriggersFact:
    """What else would make it due, if sooner."""

    triggers: tuple[TriggerFact, ...]
    code: Literal["other_triggers"] = "other_triggers"


@dataclass(frozen=True, slots=True, kw_only=True)
class LimitFact:
    """A limit in words: its figure, and the same in the unit of its clock."""

    meter: Meter
    calendar: Calendar | None
    after: Mishap | None
    figure: float
    clock: Meter
    limit: float


@dataclass(frozen=True, slots=True, kw_only=True)
class OtherSchoolFact:
    """What another school would say; no limit where it does without."""

    school: School
    why: str | None
    limit: LimitFact | None
    code: Literal["other_school"] = "other_school"


@dataclass(frozen=True, slots=True, kw_only=True)
class GuardMissedFact:
    """A look that comes sooner: the filter before it was left for too long."""

    part: str
    code: Literal["guard_missed"] = "guard_missed"


@dataclass(frozen=True, slots=True, kw_only=True)
class BeforeWorkFact:
    """A look that comes no later than the work that it could spare."""

    action: Action
    code: Literal["before_work"] = "before_work"


@dataclass(frozen=True, slots=True, kw_only=True)
class SlotEmptyFact:
    """Nothing sits where a part has to be."""

    slot: str
    code: Literal["slot_empty"] = "slot_empty"


Fact = Annotated[
    TriggerFact
    | SinceFact
    | UsedFact
    | UsualUseFact
    | SchoolFact
    | BookFact
    | PrintFact
    | EasedFact
    | OwnFigureFact
    | ToldFillingFact
    | MishapFact
    | LearnedFact
    | LastLookFact
    | ContradictedFact
    | SeenFineFact
    | LoadEventFact
    | CounterFact
    | NoCounterFact
    | OtherTriggersFact
    | OtherSchoolFact
    | GuardMissedFact
    | BeforeWorkFact
    | SlotEmptyFact,
    Field(discriminator="code"),
]
Because = tuple[Fact, ...]
"""Why, in the order it is told."""
_IN_SHORT = TriggerFact | SinceFact | BookFact | OwnFigureFact | ToldFillingFact | SlotEmptyFact | MishapFact


def brief(because: Because) -> Because:
    """The facts that one sentence is made of."""
    return tuple(fact for fact in because if isinstance(fact, _IN_SHORT))
