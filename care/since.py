"""Facts of when a clock started."""

from dataclasses import dataclass
from datetime import date
from typing import Literal

from care.vocabulary import Action, Found


@dataclass(frozen=True, slots=True, kw_only=True)
class SinceServiceFact:
    """Its clock runs since it was last seen to."""

    day: date
    action: Action
    code: Literal["since_service"] = "since_service"


@dataclass(frozen=True, slots=True, kw_only=True)
class SinceFittedFact:
    """Its clock runs since it went in, seen to on a day before."""

    day: date
    action: Action
    cleaned: date
    code: Literal["since_fitted"] = "since_fitted"


@dataclass(frozen=True, slots=True, kw_only=True)
class SinceNewFact:
    """Its clock runs since it was new."""

    day: date
    code: Literal["since_new"] = "since_new"


@dataclass(frozen=True, slots=True, kw_only=True)
class SinceUnknownFact:
    """Nobody knows how far it was when it was set up."""

    day: date
    code: Literal["since_unknown"] = "since_unknown"


@dataclass(frozen=True, slots=True, kw_only=True)
class SinceLookFact:
    """Nobody knew how far it was until a look settled it."""

    day: date
    found: Found
    code: Literal["since_look"] = "since_look"


SinceFact = SinceServiceFact | SinceFittedFact | SinceNewFact | SinceUnknownFact | SinceLookFact
