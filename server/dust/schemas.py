"""Bags and bins over HTTP."""

from datetime import date, tzinfo
from typing import Literal
from uuid import UUID

from care.due.fillings import Filled, usual_miss
from care.shelf import FitCheck
from care.units import VOLUME
from care.vocabulary import Action, Found
from server.base import bounds
from server.base.schema import Schema
from server.due.schemas import DueOut, due_out
from server.dust.services import BagPrice, Estimate
from server.machines.containers import Size


class SizeIn(Schema):
    """What a container holds, in its unit, and another one that somebody knows."""

    volume: bounds.Amount
    unit: Literal["L", "qt", "gal", "cup"] = "L"
    known_volume: bounds.Amount | None = None
    known_unit: Literal["L", "qt", "gal", "cup"] = "L"
    known_weeks: bounds.Amount | None = None
    pressed: bounds.Share = 1.0

    def size(self) -> Size:
        """As the services take it."""
        return Size(**self.model_dump())


class FilledOut(Schema):
    """A filling that is over: how long it took and was expected to take [usual weeks], how full it was found.

    `off_by` is how many times as long it took to fill as was expected [-].
    """

    first: date
    last: date
    weeks: float
    p10: float
    p50: float
    p90: float
    found: Found | None
    off_by: float | None


class BagPriceOut(Schema):
    """What a bag of one number costs and a week of it comes to [cents], and whether it was found to fit."""

    number: str
    maker: bool
    check: FitCheck
    note: str
    supplier: str
    name: str
    each: int
    a_week: int
    currency: str


class DustOut(Schema):
    """A bag or bin: how full it is taken to be [-], how fast it fills, when it is emptied or replaced, as Round has it.

    The rate is in the unit of its size a week; without a size, in contents a week. `weeks` is how long a filling takes
    at that rate, `weeks_since` how long this one lasts [usual weeks]. `missed` is by how much the times expected were
    missed of late, either way [-].
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
    weeks: float | None
    weeks_since: float | None
    due: DueOut | None
    log: list[FilledOut]
    missed: float | None
    prices: list[BagPriceOut]


class DustsOut(Schema):
    """The bags and bins of a machine."""

    today: date
    machine_id: UUID
    holders: list[DustOut]


def dust_out(one: Estimate, zone: tzinfo) -> DustOut:
    """A bag or bin."""
    found = one.filling
    log = found.log if found else ()
    rate = found.a_week if found else None
    usable = one.size.container.capacity_l if one.size else 1.0
    return DustOut(
        slot=one.slot.key,
        name=one.slot.name,
        action=one.action,
        words={str(found): words for found, words in one.slot.words(one.action).items()},
        size=SizeIn(**{name: getattr(one.size, name) for name in SizeIn.model_fields}) if one.size else None,
        share=round(found.share, 3) if found else None,
        per_week=_a_week(rate.p50 * usable, one) if rate else None,
        per_week_low=_a_week(rate.p10 * usable, one) if rate else None,
        per_week_high=_a_week(rate.p90 * usable, one) if rate else None,
        fillings=found.fillings if found else 0,
        weeks=round(found.weeks, 2) if found else None,
        weeks_since=round(found.weeks_since, 2) if found else None,
        due=due_out(one.due) if found else None,
        log=[_filled(filled, zone) for filled in log],
        missed=round(miss, 3) if (miss := usual_miss(log)) is not None else None,
        prices=[_price(price) for price in one.prices],
    )


def _filled(one: Filled, zone: tzinfo) -> FilledOut:
    expected = one.expected
    return FilledOut(
        first=one.start.astimezone(zone).date(),
        last=one.end.astimezone(zone).date(),
        weeks=round(one.weeks, 1),
        p10=round(expected.p10, 1),
        p50=round(expected.p50, 1),
        p90=round(expected.p90, 1),
        found=one.found,
        off_by=round(off, 2) if (off := one.off_by) is not None else None,
    )


def _price(one: BagPrice) -> BagPriceOut:
    number = one.number
    return BagPriceOut(
        number=number.number,
        maker=number.maker,
        check=number.check,
        note=number.note,
        supplier=one.supplier,
        name=one.name,
        each=round(one.each),
        a_week=round(one.a_week),
        currency=one.currency,
    )


def _a_week(litres: float, one: Estimate) -> float:
    return round(VOLUME.in_unit(litres, one.size.unit) if one.size else litres, 3)
