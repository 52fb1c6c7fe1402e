"""What a value that is told from outside may be: days, figures, words, lists. Every schema takes its limits from here.

In the contract they stand as `minimum`, `maximum`, `minLength`, `maxLength`, `maxItems`, and of days as `x-first` and
`x-years-ahead`; the screens read them there. What else is refused is a rule of the job and stands in `care`.
"""

from datetime import date, datetime, time
from functools import lru_cache
from typing import Annotated, Any, Literal, TypeVar

from dateutil.relativedelta import relativedelta
from pydantic import AfterValidator, AwareDatetime, Field, StringConstraints

from server.base import clock

FIRST_DAY = date(2000, 1, 1)
"""No machine that is looked after here has a record from before."""
YEARS_AHEAD = 5
"""Nothing is planned further ahead [years]: a later day is a slip of the finger."""
NAME, REMARK, LINE, TEXT, WORD = 60, 80, 200, 1000, 120
"""The longest name, few words, reason in a line, note, key [characters]."""
MOST = 1000
"""The most entries of a list or table."""

T = TypeVar("T")
Day_ = TypeVar("Day_", date, datetime)


def latest_day() -> date:
    """The last day that may be told, some years ahead of today."""
    return _ahead_of(clock.now().date())


@lru_cache(maxsize=8)
def _ahead_of(day: date) -> date:
    """Kept, since it is asked for with each day of a long file."""
    return day + relativedelta(years=YEARS_AHEAD)


def _within(value: Day_) -> Day_:
    day = value.date() if isinstance(value, datetime) else value
    if not FIRST_DAY <= day <= latest_day():
        raise ValueError(f"got {day}, needs a day from {FIRST_DAY} to {latest_day()}")
    return value


def _readable(value: str) -> str:
    """Refuse what no screen can show and no other program reads: NUL and other control characters, lone surrogates."""
    for sign in value:
        if (ord(sign) < 32 and sign not in "\t\n\r") or ord(sign) == 127 or 0xD800 <= ord(sign) <= 0xDFFF:
            raise ValueError(f"the character U+{ord(sign):04X} cannot be kept")
    return value


def _local(value: time) -> time:
    if value.tzinfo is not None:
        raise ValueError("a time of day of the household takes no offset")
    return value


_AHEAD: dict[str, Any] = {"x-first": FIRST_DAY.isoformat(), "x-years-ahead": YEARS_AHEAD}
CLEAN = AfterValidator(_readable)

Day = Annotated[date, AfterValidator(_within), Field(json_schema_extra=_AHEAD)]
"""A day from 2000 to five years ahead."""
Instant = Annotated[AwareDatetime, AfterValidator(_within)]
"""An instant with its offset from UTC, within the same days."""
Clock = Annotated[time, AfterValidator(_local)]
"""A time of day of the household."""

Key = Annotated[str, StringConstraints(max_length=WORD), CLEAN]
"""A word of the care book or of this program: a slot, a kind, a step."""
Name = Annotated[str, StringConstraints(max_length=NAME), CLEAN]
"""What somebody calls something."""
Line = Annotated[str, StringConstraints(max_length=LINE), CLEAN]
"""A reason or a remark."""
Remark = Annotated[str, StringConstraints(max_length=REMARK), CLEAN]
"""A few words beside something."""
Text = Annotated[str, StringConstraints(max_length=TEXT), CLEAN]
"""A note."""
Code = Annotated[str, StringConstraints(max_length=NAME), CLEAN]
"""A number or code that somebody else gave: of a part, of a shop."""
Secret = Annotated[str, StringConstraints(max_length=1024)]
"""A password; a longer one only costs time."""

Minutes = Annotated[float, Field(ge=0.1, le=24 * 60, allow_inf_nan=False)]
"""How long a run takes [min]: from six seconds to a day."""
RoundDays = Annotated[float, Field(ge=1, le=730, allow_inf_nan=False)]
"""How many days lie between two rounds [days]."""
DaysApart = Annotated[int, Field(ge=2, le=60)]
"""Once in how many days a machine runs [days]."""
ReturnMinutes = Annotated[float, Field(ge=5, le=24 * 60, allow_inf_nan=False)]
"""After how many minutes a robot comes home to be emptied [min]; more often than this it would not clean."""
DryHours = Annotated[float, Field(ge=0.5, le=24, allow_inf_nan=False)]
"""How long a dock dries the mops after a run [h]."""
Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
"""A share of a whole [-]."""
Amount = Annotated[float, Field(ge=0, le=1_000_000, allow_inf_nan=False)]
"""What somebody measured, in their unit."""
Percent = Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)]
"""A share in hundredths [%]."""
Degrees = Annotated[float, Field(ge=-60, le=140, allow_inf_nan=False)]
"""A temperature in degrees of either scale."""
Years = Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)]
"""A span [years]."""
Pence = Annotated[int, Field(ge=0, le=100_000_000)]
"""Money in hundredths of its unit."""
Count = Annotated[int, Field(ge=0, le=10_000)]
"""How many."""
Order = Annotated[int, Field(ge=0, le=100)]
"""A place in a row."""

Few = Annotated[list[T], Field(max_length=100)]
"""A list that a person makes."""
Many = Annotated[list[T], Field(max_length=MOST)]
"""A list that a page makes."""
Table = Annotated[dict[Key, T], Field(max_length=MOST)]
"""Something told of each of several things, by key."""
Weekday = Literal["MO", "TU", "WE", "TH", "FR", "SA", "SU"]
