"""Bags and bins over HTTP."""

from datetime import date
from uuid import UUID

from ninja import Schema

from care.kinds import Action
from care.shelf.dust import in_unit
from server.machines.schemas import BecauseOut, because_out
from server.shelf.dust import Estimate, Size


class SizeIn(Schema):
    """What a container holds, in its unit, and another one that somebody knows."""

    volume: float
    unit: str = "L"
    known_volume: float | None = None
    known_unit: str = "L"
    known_weeks: float | None = None
    pressed: float = 1.0

    def size(self) -> Size:
        """As the services take it."""
        return Size(**self.model_dump())


class FullOut(Schema):
    """When it is expected to be full."""

    p10: date
    p50: date
    p90: date
    certain: bool


class DustOut(Schema):
    """A bag or bin: how full it is taken to be [-], how fast it fills, when it is full.

    The rate is in the unit of its size a week; without a size, in contents a week.
    """

    slot: str
    name: str
    action: Action
    words: dict[str, str]
    size: SizeIn | None
    share: float | None
    per_week: float | None
    per_week_low: float | None
    per_week_high: float | None
    fillings: int
    full: FullOut | None
    because: BecauseOut | None


class DustsOut(Schema):
    """The bags and bins of a machine."""

    today: date
    machine_id: UUID
    holders: list[DustOut]


def dust_out(one: Estimate) -> DustOut:
    """A bag or bin."""
    found = one.filling
    rate, full = (found.rate, found.full) if found else (None, None)
    return DustOut(
        slot=one.slot.key,
        name=one.slot.name,
        action=one.action,
        words={str(found): words for found, words in one.slot.words(one.action).items()},
        size=SizeIn(**{name: getattr(one.size, name) for name in SizeIn.model_fields}) if one.size else None,
        share=round(found.share, 3) if found else None,
        per_week=_a_week(rate.litres_per_week, one) if rate else None,
        per_week_low=_a_week(rate.quantile(0.1), one) if rate else None,
        per_week_high=_a_week(rate.quantile(0.9), one) if rate else None,
        fillings=rate.fillings if rate else 0,
        full=FullOut(p10=full.p10, p50=full.p50, p90=full.p90, certain=full.certain) if full else None,
        because=because_out(found.because) if found else None,
    )


def _a_week(litres: float, one: Estimate) -> float:
    return round(in_unit(litres, one.size.unit) if one.size else litres, 3)
