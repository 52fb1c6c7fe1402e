"""What somebody can measure on a part with a ruler or by counting, as the care book has it."""

from dataclasses import dataclass

from care.errors import require
from care.units import SCALES, Scale
from care.washability import NO_UNKNOWN_KEYS


@dataclass(frozen=True, slots=True)
class Measure:
    """Something measured on `parts` (keys of the book), how, and where it ends: at `limit`, or at a share of new.

    `new` is what a new one has; where it is missing, the first reading stands for it. `off` is how far one reading may
    be off, in its scale.
    """

    key: str
    name: str
    how: str
    scale: Scale
    parts: tuple[str, ...]
    why: str
    off: float
    new: float | None = None
    limit: float | None = None
    limit_share: float | None = None

    __pydantic_config__ = NO_UNKNOWN_KEYS

    def __post_init__(self) -> None:
        one = (self.limit is None) != (self.limit_share is None)
        require(one, "limit", self.limit, "a limit, or a share of new, not both")
        require(self.off >= 0, "off", self.off, "0 or more")
        require(bool(self.parts), "parts", "none", "at least one part")

    def ends_at(self, new: float) -> float:
        """The figure at which the part has to go, for one that had `new`."""
        return self.limit if self.limit is not None else new * (self.limit_share or 0.0)

    def is_past(self, value: float, first: float) -> bool:
        """Whether a part of which `first` was read first has to go at `value`: the figure may rise or fall to its end.

        >>> bend = Measure("bend", "Bend", "", Scale.MM, ("brush",), "", 1.0, new=0.0, limit=10.0)
        >>> bend.is_past(9.0, 0.0), bend.is_past(10.0, 0.0)
        (False, True)
        """
        new = first if self.new is None else self.new
        end = self.ends_at(new)
        return value >= end if end > new else value <= end

    @property
    def units(self) -> tuple[str, ...]:
        """The units it may be told in, its own first."""
        return SCALES[self.scale].units

    def accepted(self, typed: float, unit: str = "") -> float:
        """What was typed in `unit`, in the scale of the measure. Raises `InvalidValue` for what cannot be.

        >>> width = Measure("width", "Width", "", Scale.MM, ("belt",), "", 0.3, limit=8.0)
        >>> width.accepted(0.5, "in"), width.accepted(9.5)
        (12.7, 9.5)
        """
        return SCALES[self.scale].accepted(typed, unit or self.scale)
