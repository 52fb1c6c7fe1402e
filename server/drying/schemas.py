"""What the rack takes and gives. Weights are in grams; a client shows them in the reader's units."""

from datetime import date, datetime, timedelta
from math import exp
from typing import Literal
from uuid import UUID

from care.bench.drying import REFERENCE_C, REFERENCE_RH_PCT, SURE, Basis, Hanging, factors, mildews
from care.bench.weighing import curve, tolerance_g
from server.base import bounds, clock
from server.base.schema import Schema
from server.drying.rack import InPlace, OnRackNow
from server.drying.services import Job
from server.due.schemas import ItemOut, item_out
from server.machines.records import archetype_of

CURVE_POINTS = 24


class WeighIn(Schema):
    """A reading of the scale in `unit` (g or oz); `dry`: it is clean and bone dry."""

    value: bounds.Amount
    unit: Literal["g", "oz"] = "g"
    dry: bool = False


class WeighingOut(Schema):
    """A weight at an instant [g]."""

    at: datetime
    grams: float


class WhyOut(Schema):
    """Why it takes so long where it hangs: factors on the time in the reference air, and the hours they make.

    They may be off by the share `sure` either way.
    """

    kind: str
    reference_h: float
    reference_c: float
    reference_rh_pct: float
    sure: float
    climate: float
    pressing: float
    moving: float
    slow: float
    hours: float


class InPlaceOut(Schema):
    """When it would be ready in a place from now on."""

    name: str | None
    ready_at: datetime
    mildew: bool


class SetsOut(Schema):
    """How many there are, and how many would keep the machine running."""

    have: int
    needed: int


class RackJobOut(Schema):
    """A part that dries. `share` is how far it is [0..1]; `spare` lies ready to go in meanwhile.

    `runner_*` is the machine whose runs need it: for a part of a dock, its robot. `missed` are its runs before the part
    is ready, `pause_until` the local day of the last of them.
    """

    item: ItemOut
    machine_id: UUID
    machine_name: str
    slot_name: str
    slot_empty: bool
    needed: bool
    washed_at: datetime
    floor_at: datetime
    ready_at: datetime
    early: datetime
    late: datetime
    basis: Basis
    share: float
    rested: bool
    place: str | None
    temp_c: float | None
    rh_pct: float | None
    pressed: bool
    moving: bool
    pressable: bool
    why: WhyOut
    mildew: bool
    better: InPlaceOut | None
    weighings: list[WeighingOut]
    dry_g: float | None
    tolerance_g: float | None
    curve: list[WeighingOut]
    runner_id: UUID
    runner_name: str
    runs_itself: bool
    empties_robot: bool
    missed: list[datetime]
    pause_until: date | None
    spare: ItemOut | None
    sets: SetsOut | None


class RackPageOut(Schema):
    """All that dries now, and whether the household has scales to weigh it."""

    now: datetime
    has_scale: bool
    jobs: list[RackJobOut]


class HangingOptionsOut(Schema):
    """Where a part can hang."""

    pressable: bool
    places: list[InPlaceOut]


def place_out(one: InPlace) -> InPlaceOut:
    """A place as the API gives it."""
    return InPlaceOut(name=one.air.name if one.air else None, ready_at=one.ready_at, mildew=one.mildew)


def job_out(one: OnRackNow) -> RackJobOut:
    """A part on the rack as the API gives it."""
    job, stay, now = one.job, one.job.stay, clock.now()
    made, air = job.estimate, stay.air
    return RackJobOut(
        item=item_out(one.on.item),
        machine_id=one.on.machine_id,
        machine_name=one.on.machine_name,
        slot_name=one.on.slot_name,
        slot_empty=one.on.slot_empty,
        needed=one.needed,
        washed_at=job.washed_at,
        floor_at=made.floor_at,
        ready_at=made.ready_at,
        early=max(made.floor_at, made.early),
        late=max(made.floor_at, made.late),
        basis=made.basis,
        share=min(1.0, job.share(now)),
        rested=made.ready_at <= now or one.on.item.locked_until is None,
        place=air.name if air else None,
        temp_c=air.temp_c if air else None,
        rh_pct=air.rh_pct if air else None,
        pressed=stay.pressed,
        moving=stay.moving,
        pressable=job.drying.pressable,
        why=_why_out(job),
        mildew=air is not None and mildews(air),
        better=place_out(one.better) if one.better else None,
        weighings=[WeighingOut(at=w.at, grams=w.grams) for w in job.weighings],
        dry_g=job.dry_g,
        tolerance_g=tolerance_g(job.dry_g) if job.dry_g else None,
        curve=_curve_out(job),
        runner_id=one.runner.pk,
        runner_name=one.runner.name,
        runs_itself=archetype_of(one.runner).traits.get("moves") == "itself",
        empties_robot=one.empties_robot,
        missed=one.missed,
        pause_until=one.missed[-1].date() if one.missed else None,
        spare=item_out(one.spare) if one.spare else None,
        sets=SetsOut(have=one.sets.have, needed=one.sets.needed) if one.sets else None,
    )


def _why_out(job: Job) -> WhyOut:
    made = factors(job.drying, job.stay)
    return WhyOut(
        kind=job.drying.name,
        reference_h=made.reference_h,
        reference_c=REFERENCE_C,
        reference_rh_pct=REFERENCE_RH_PCT,
        sure=SURE,
        climate=made.climate,
        pressing=made.pressing,
        moving=made.moving,
        slow=made.slow,
        hours=made.hours,
    )


def _curve_out(job: Job) -> list[WeighingOut]:
    """The fitted curve from the first reading until it is dry, as points to draw."""
    fitted = curve(job.weighings, job.dry_g) if job.dry_g else None
    if fitted is None or job.dry_g is None:
        return []
    water_g, rate = fitted
    first = min(w.at for w in job.weighings if w.grams > job.dry_g)
    hours = max(1.0, (job.estimate.dry_at - first) / timedelta(hours=1))
    steps = [hours * n / (CURVE_POINTS - 1) for n in range(CURVE_POINTS)]
    return [WeighingOut(at=first + timedelta(hours=h), grams=job.dry_g + water_g * exp(-rate * h)) for h in steps]


class DryIn(Schema):
    """What the check on the rack said."""

    dry: bool


class HangingIn(Schema):
    """Where a washed part hangs."""

    place: bounds.Name | None = None
    pressed: bool = False
    moving: bool = False

    def hanging(self) -> Hanging:
        """As the core has it."""
        return Hanging(self.place, self.pressed, self.moving)
