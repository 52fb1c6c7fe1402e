"""Washed parts: where they hang, what they weigh, until when they are locked. Each use case is one transaction.

What moves the lock is written beside it as a move of the part, so that a replay gives the same lock again.
"""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from uuid import UUID

from django.db import transaction

from care import items as core_items
from care.bench.drying import Basis, Estimate, Hanging, Stay, estimate, quickest, share_dried, slow_of
from care.bench.weighing import Weighing, refuse_lighter
from care.book import load_book
from care.errors import IllegalMove, InvalidValue, require
from care.household import DryingPlace, Profile
from care.items import Move, MoveKind, State
from care.rules import Drying
from care.units import WEIGHT
from care.vocabulary import Action, School
from server.base import clock
from server.household.models import Member
from server.household.services import answer_profile, answers_at, journal_by, require_writer
from server.logbook.models import Entry
from server.logbook.services import Journal, standing
from server.machines import items, models, records
from server.machines.air import measured_air
from server.machines.services import item_of
from server.setup.overrides import end_own_risk

WET = (State.WASHED, State.DRYING)


@dataclass(frozen=True, slots=True)
class Job:
    """A part that dries: since when, where it hung, what it weighed, and when it is ready."""

    item: core_items.Item
    drying: Drying
    washed_at: datetime
    stays: tuple[Stay, ...]
    weighings: tuple[Weighing, ...]
    dry_g: float | None
    estimate: Estimate

    @property
    def stay(self) -> Stay:
        """Where it hangs now."""
        return self.stays[-1]

    def share(self, at: datetime) -> float:
        """How far it has dried by the air [-]."""
        return share_dried(self.drying, self.stays, at)


def places_of(household_id: UUID) -> tuple[DryingPlace, ...]:
    """The drying places the household told of."""
    profile = answers_at(household_id, clock.now()).profile
    return profile.places if profile else ()


def usual_hanging(household_id: UUID) -> Hanging:
    """Where a part is taken to hang when nobody says: where the last one hung, else the place that dries fastest."""
    places = places_of(household_id)
    last = standing(models.Hung.objects.of(household_id).exclude(place="")).last()
    if last is not None and last.place in {place.name for place in places}:
        return Hanging(last.place)
    best = quickest(places)
    return Hanging(best.name if best else None)


def still_there(household_id: UUID, hanging: Hanging | None) -> Hanging:
    """Where a part was said to hang, or the usual place: nobody said, or the household has dropped the place since."""
    usual = usual_hanging(household_id)
    if hanging is None:
        return usual
    known = {place.name.lower() for place in places_of(household_id)}
    gone = hanging.place is not None and hanging.place.strip().lower() not in known
    return replace(hanging, place=usual.place) if gone else hanging


def slowness(household_id: UUID, place: str) -> float:
    """How many times as long a place was found to take [-]."""
    checks = standing(models.DryCheck.objects.of(household_id).filter(place=place))
    return slow_of(checks.values_list("share", "damp"))


def job_of(row: models.Item) -> Job:
    """How a wet part dries. Raises `IllegalMove` for one that does not."""
    washes = standing(models.Move.objects.of(row.household_id).filter(item=row, kind=MoveKind.WASH))
    last = washes.last()
    if row.state not in WET or last is None:
        raise IllegalMove(f"{row.name} is {row.state}, not drying", field="item_id", fix="Load the page again.")
    washed_at, drying = last.entry.happened_at, load_book().drying.get(last.drying) or drying_of(row)
    hung = standing(models.Hung.objects.of(row.household_id).filter(item=row, entry__happened_at__gte=washed_at))
    weights = standing(models.Weight.objects.of(row.household_id).filter(item=row))
    stays = tuple(records.to_stay(one) for one in hung) or (Stay(washed_at),)
    readings = tuple(records.to_weighing(w) for w in weights if w.entry.happened_at >= washed_at)
    dry = weights.filter(dry=True).last()
    dry_g, floor_at = dry.grams if dry else None, row.floor_until or washed_at
    made = estimate(drying, stays, floor_at=floor_at, weighings=readings, dry_g=dry_g)
    return Job(records.to_item(row), drying, washed_at, stays, readings, dry_g, made)


def drying_of(row: models.Item, action: Action | None = None) -> Drying:
    """How the part of an item's home slot dries after `action`, or else after what wets it most."""
    slot = records.archetype_of(row.home_machine).slot(row.home_slot)
    drying = slot.drying_of(action) if action else slot.slowest_drying or slot.drying
    require(drying is not None, "item_id", row.name, "a part that is washed")
    assert drying is not None
    return drying


@transaction.atomic
def hang(*, member: Member, item_id: UUID, hanging: Hanging) -> Entry:
    """A wet part hangs there from now on. Raises `InvalidValue` for a place nobody told of, `IllegalMove` when dry."""
    require_writer(member)
    row = item_of(member, item_id)
    journal = _journal(member, row)
    job_of(row)
    if row.state == State.WASHED:
        items.record_moves(journal, [(row.pk, Move(MoveKind.RACK, journal.entered_at))])
    entry = write_hung(journal, row.pk, hanging, journal.entered_at)
    rest_again(journal, row.pk, journal.entered_at)
    return entry


def write_hung(journal: Journal, item_id: UUID, hanging: Hanging, at: datetime) -> Entry:
    """Where a part hangs, with the place's air as it is told now; inside the caller's transaction."""
    stay = _stay(journal.household_id, hanging, at)
    return journal.tell(
        models.Hung,
        at,
        item_id=item_id,
        place=stay.air.name if stay.air else "",
        temp_c=stay.air.temp_c if stay.air else None,
        rh_pct=stay.air.rh_pct if stay.air else None,
        pressed=stay.pressed,
        moving=stay.moving,
        slow=stay.slow,
    )


def refuse_place(household_id: UUID, hanging: Hanging) -> None:
    """Refuse a place that the household did not tell of. Raises `InvalidValue`."""
    _stay(household_id, hanging, clock.now())


def _stay(household_id: UUID, hanging: Hanging, at: datetime) -> Stay:
    known = {place.name.lower(): place for place in places_of(household_id)}
    air = known.get(hanging.place.strip().lower()) if hanging.place else None
    if air is not None:
        air = measured_air(household_id, air.name, at) or air
    if hanging.place and air is None:
        names = ", ".join(place.name for place in known.values()) or "none yet"
        raise InvalidValue(
            f"place: {hanging.place!r} is no drying place of this household ({names})",
            field="place",
            fix="Choose one of them, or tell of a new one on Household.",
        )
    slow = slowness(household_id, air.name) if air else 1.0
    return Stay(at, air, hanging.pressed, hanging.moving, slow)


def ready_at(row: models.Item, action: Action, hanging: Hanging, at: datetime) -> datetime:
    """When a part that is washed by `action` and hung up so at `at` will be ready."""
    drying = drying_of(row, action)
    stay = _stay(row.household_id, hanging, at)
    return estimate(drying, [stay], floor_at=at + timedelta(hours=drying.floor_h)).ready_at


def hours_to_dry(household_id: UUID, drying: Drying) -> float:
    """How long a part that dries so takes where the household usually hangs them [h]."""
    now = clock.now()
    stay = _stay(household_id, usual_hanging(household_id), now)
    ready = estimate(drying, [stay], floor_at=now + timedelta(hours=drying.floor_h)).ready_at
    return (ready - now) / timedelta(hours=1)


def rest_again(journal: Journal, item_id: UUID, at: datetime) -> None:
    """Lock a wet part until it is ready by what is known now; inside the caller's transaction."""
    job = job_of(models.Item.objects.of(journal.household_id).get(pk=item_id))
    items.record_moves(journal, [(item_id, Move(MoveKind.REST, at, until=job.estimate.ready_at))])


@transaction.atomic
def weigh(
    *,
    member: Member,
    item_id: UUID,
    value: float,
    unit: str = "g",
    dry: bool = False,
    at: datetime | None = None,
    entry_id: UUID | None = None,
) -> Entry:
    """A reading of the scale, in `unit` (g or oz), now or of an instant `at`; `dry`: it is clean and bone dry, the
    weight to come back to.

    Raises `InvalidValue` for a weight out of range, or clearly below the dry one: then that one has to be told anew.
    """
    require_writer(member)
    row = item_of(member, item_id)
    journal = _journal(member, row)
    reading = Weighing(at or journal.entered_at, WEIGHT.in_kept(value, unit))
    wet = row.state in WET
    require(wet or dry, "item_id", row.name, "a part that is drying, or its dry weight")
    if wet and not dry and (known := job_of(row).dry_g) is not None:
        refuse_lighter(reading.grams, known)
    entry = _write_weight(journal, row.pk, reading, typed=value, unit=unit, dry=dry, entry_id=entry_id)
    if wet:
        rest_again(journal, row.pk, journal.entered_at)
    return entry


def _write_weight(
    journal: Journal,
    item_id: UUID,
    reading: Weighing,
    *,
    typed: float,
    unit: str,
    dry: bool,
    entry_id: UUID | None = None,
) -> Entry:
    figures = {"grams": reading.grams, "typed": typed, "unit": unit, "dry": dry}
    return journal.tell(models.Weight, reading.at, entry_id=entry_id, item_id=item_id, **figures)


def note_checks(journal: Journal, moves: Iterable[tuple[UUID, Move]]) -> None:
    """What checks for damp tell of the place and of the dry weight; before the moves are recorded."""
    for item_id, step in moves:
        row = models.Item.objects.of(journal.household_id).filter(pk=item_id, state__in=WET).first()
        if step.kind not in (MoveKind.RELEASE, MoveKind.STILL_DAMP) or row is None:
            continue
        job, damp = job_of(row), step.kind is MoveKind.STILL_DAMP
        if job.stay.air is not None:
            journal.tell(
                models.DryCheck,
                step.at,
                item_id=item_id,
                place=job.stay.air.name,
                share=job.share(step.at),
                damp=damp,
            )
        if not damp and job.estimate.basis is Basis.SETTLED:
            last = Weighing(step.at, job.weighings[-1].grams)
            _write_weight(journal, item_id, last, typed=last.grams, unit="g", dry=True)


@transaction.atomic
def check_dry(*, member: Member, item_id: UUID, dry: bool) -> Entry:
    """The check of a part on the rack: dry and ready, or still damp and 12 h more. Raises `IllegalMove` too early."""
    require_writer(member)
    item = item_of(member, item_id)
    journal = _journal(member, item)
    step = (item.pk, Move(MoveKind.RELEASE if dry else MoveKind.STILL_DAMP, journal.entered_at))
    note_checks(journal, [step])
    return items.record_moves(journal, [step])[0]


@transaction.atomic
def answer_household(*, member: Member, profile: Profile, school: School) -> Entry:
    """New answers of the household; what hangs in a place whose air changed goes on drying in the new air.

    Where somebody is allergic, nothing is washed at one's own risk any more that could let fine dust through.
    """
    entry = answer_profile(member=member, profile=profile, school=school)
    if profile.allergy:
        end_own_risk(member, entry.action_id)
    air = {place.name: place for place in profile.places}
    for row in models.Item.objects.of(member.household_id).filter(state__in=WET).select_related("home_machine"):
        stay = job_of(row).stay
        now = air.get(stay.air.name) if stay.air else None
        if now is None or now == stay.air:
            continue
        journal = journal_by(member, row.home_machine_id, action_id=entry.action_id)
        write_hung(journal, row.pk, Hanging(now.name, stay.pressed, stay.moving), journal.entered_at)
        rest_again(journal, row.pk, journal.entered_at)
    return entry


def _journal(member: Member, row: models.Item) -> Journal:
    return journal_by(member, row.home_machine_id)
