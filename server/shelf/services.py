"""Use cases of the shelf: kinds of part, counting them, what comes and goes. What to buy stands in `buying`."""

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import replace
from datetime import datetime
from uuid import UUID, uuid4, uuid5

from django.db import transaction
from django.dispatch import receiver

from care.errors import require
from care.parts import Slot
from care.shelf import FitCheck, PartNumber, PartPlace, SparePart
from server.base.problems import Conflict, NotFound
from server.due.renewals import Renewing
from server.due.stored import renewing
from server.household.models import Member
from server.household.services import require_writer
from server.logbook.models import Entry
from server.logbook.services import Journal, standing
from server.logbook.signals import voided
from server.machines.items import NewPart
from server.machines.services import machine_of
from server.machines.signals import renewed, spares_came
from server.setup.parts import add_spare
from server.shelf import records
from server.shelf.models import Movement, Order, SpareVersion

Why = Movement.Why


def journal_of(household_id: UUID, by_id: UUID | None, action_id: UUID | None = None) -> Journal:
    """A journal of the shelf: its entries move no machine's dates."""
    return Journal(household_id, by_id=by_id, subject_id=uuid5(household_id, "shelf"), action_id=action_id)


def kind_of(member: Member, spare_id: UUID) -> SparePart:
    """A kind of spare part. Raises `NotFound`."""
    found = records.kinds_of(member).get(spare_id)
    if found is None:
        raise NotFound("spare part: there is none with this id", field="id", fix="Load the shelf again.")
    return found


@transaction.atomic
def keep_kind(*, member: Member, spare_id: UUID, part: SparePart) -> Entry:
    """A kind of spare part to keep, or changed.

    Raises `InvalidValue` for a place that no machine has, `Conflict` for one that another kind of part goes into.
    """
    require_writer(member)
    known = {(one.renewal.machine_id, one.renewal.slot) for one in renewing(member)}
    for place in part.places:
        require((place.machine_id, place.slot) in known, "places", place.slot, "places of machines that are renewed")
    kinds = records.kinds_of(member)
    if spare_id not in kinds and SpareVersion.everything.filter(spare_id=spare_id).exclude(
        household_id=member.household_id
    ):
        raise NotFound("spare part: this id is not yours", field="id", fix="Add it again.")
    for other_id, other in kinds.items():
        if other_id == spare_id:
            continue
        if taken := set(part.places) & set(other.places):
            raise Conflict(
                f"places: {next(iter(taken)).slot} is kept as {other.name}", field="places", fix="Change that one."
            )
        require(other.name.lower() != part.name.lower(), "name", part.name, "a name that no other part has")
    return _write_kind(journal_of(member.household_id, member.pk), spare_id, part)


def _write_kind(journal: Journal, spare_id: UUID, part: SparePart | None) -> Entry:
    value = records.spare_json(part) if part else None
    return journal.tell(SpareVersion, spare_id=spare_id, value=value)


@transaction.atomic
def tell_fit(
    *, member: Member, place: PartPlace, number: str, check: FitCheck, maker: bool = False, note: str = ""
) -> Entry:
    """Whether a part of a number was found to fit when it went into a place. A number that nobody kept is kept now.

    Raises `NotFound` for a place of which no kind of part is kept, `InvalidValue` as `PartNumber` does.
    """
    require_writer(member)
    machine_of(member, place.machine_id)
    kinds = records.kinds_of(member)
    spare_id = next((key for key, part in kinds.items() if place in part.places), None)
    if spare_id is None:
        raise NotFound(
            "place: no kind of part is kept for it", field="slot", fix="Add it on the Shelf, with its number, first."
        )
    part = kinds[spare_id]
    known = part.number(number)
    found = PartNumber(known.number if known else number.strip(), known.maker if known else maker, check, note.strip())
    others = tuple(one for one in part.numbers if one is not known)
    with_number = replace(part, numbers=(*others, found))
    return _write_kind(journal_of(member.household_id, member.pk), spare_id, with_number)


@transaction.atomic
def drop_kind(*, member: Member, spare_id: UUID) -> Entry:
    """A kind of spare part that is no longer kept; its movements stay on record."""
    require_writer(member)
    kind_of(member, spare_id)
    return _write_kind(journal_of(member.household_id, member.pk), spare_id, None)


@transaction.atomic
def propose(*, member: Member) -> Entry:
    """Keep a kind of part for every place that is renewed by use or date and is not kept yet; alike places share one.

    Raises `Conflict` when there is nothing to add.
    """
    require_writer(member)
    journal = journal_of(member.household_id, member.pk)
    groups: dict[tuple[UUID, str], list[Renewing]] = defaultdict(list)
    kept = {place for part in records.kinds_of(member).values() for place in part.places}
    for one in renewing(member):
        if one.renewal.due is not None and place_of(one) not in kept:
            groups[one.renewal.machine_id, one.part].append(one)
    entries = [_write_kind(journal, uuid4(), _proposed(group)) for group in groups.values()]
    if not entries:
        raise Conflict("Every part that wears by use or date is kept.", field="shelf", fix="Add others by hand.")
    return entries[0]


def place_of(one: Renewing) -> PartPlace:
    """The place as a kind of spare part names it."""
    return PartPlace(one.renewal.machine_id, one.renewal.slot)


def _proposed(group: list[Renewing]) -> SparePart:
    first = group[0]
    name = first.slot_name if len(group) == 1 else first.part.capitalize()
    return SparePart(f"{name}, {first.machine_name}"[:60], tuple(place_of(one) for one in group))


def on_hand(member: Member) -> dict[UUID, int]:
    """How many there are of each kind that fit: those of a number that was found not to never count."""
    return {spare_id: max(0, count) for spare_id, count in _counted(member).items()}


def _counted(member: Member) -> dict[UUID, int]:
    """The sum of what came and went, without numbers that do not fit.

    Below nothing where one was fitted whose number is known only now not to fit.
    """
    kinds = records.kinds_of(member)
    counted: dict[UUID, int] = defaultdict(int)
    for row in records.movements_of(member):
        part = kinds.get(row.spare_id)
        number = part.number(row.number) if part and row.number else None
        if number is None or number.check is not FitCheck.NO:
            counted[row.spare_id] += row.count
    return counted


@transaction.atomic
def move(*, member: Member, spare_id: UUID, count: int, why: str, number: str = "", note: str = "") -> Entry:
    """So many came in or went out. Raises `InvalidValue` for more than there are, or a number that it does not have."""
    require_writer(member)
    part = kind_of(member, spare_id)
    require(why in (Why.BOUGHT, Why.GONE), "why", why, "bought or gone")
    require(1 <= count <= 100, "count", count, "1 to 100")
    require(not number or part.number(number) is not None, "number", number, "one of the part's numbers")
    signed = -count if why == Why.GONE else count
    have = _of_number(member, spare_id, number) if number else on_hand(member).get(spare_id, 0)
    require(have + signed >= 0, "count", count, f"at most the {have} that are there")
    journal = journal_of(member.household_id, member.pk)
    return write_movement(journal, spare_id, signed, why, number=number, note=note.strip())


def _of_number(member: Member, spare_id: UUID, number: str) -> int:
    """How many came under a number and did not go: also of one that does not fit, which is sent back."""
    rows = (row for row in records.movements_of(member) if row.spare_id == spare_id)
    return sum(row.count for row in rows if row.number.lower() == number.strip().lower())


@transaction.atomic
def count(*, member: Member, spare_id: UUID, there: int) -> Entry:
    """Somebody counted what is there. Raises `InvalidValue` for less than none, `Conflict` when it is as recorded."""
    require_writer(member)
    kind_of(member, spare_id)
    require(0 <= there <= 500, "on_hand", there, "0 to 500: what lies there, counted")
    off = there - _counted(member).get(spare_id, 0)
    if not off:
        raise Conflict("That is what the records say.", field="on_hand", fix="Nothing is left to do.")
    return write_movement(journal_of(member.household_id, member.pk), spare_id, off, Why.COUNTED)


def write_movement(
    journal: Journal,
    spare_id: UUID,
    count: int,
    why: str,
    *,
    number: str = "",
    note: str = "",
    item_id: UUID | None = None,
    order_id: UUID | None = None,
    at: datetime | None = None,
) -> Entry:
    """One movement; inside the caller's transaction."""
    return journal.tell(
        Movement,
        at or journal.entered_at,
        spare_id=spare_id,
        count=count,
        why=why,
        number=number,
        note=note[:200],
        item_id=item_id,
        order_id=order_id,
    )


@transaction.atomic
def take_turn(*, member: Member, spare_id: UUID, place: PartPlace, name: str) -> Entry:
    """One from the shelf takes turns with the part of a place from now on: while one dries, the other runs."""
    require_writer(member)
    part = kind_of(member, spare_id)
    require(place in part.places, "place", place.slot, "a place that this part fits")
    require(on_hand(member).get(spare_id, 0) > 0, "spare_id", part.name, "one on the shelf")
    entry = add_spare(member=member, machine_id=place.machine_id, slot=place.slot, name=name)
    write_movement(journal_of(member.household_id, member.pk, entry.action_id), spare_id, -1, Why.TURN)
    return entry


@receiver(renewed)
def _took_from_shelf(journal: Journal, part: NewPart, **_: object) -> None:
    """A new part went into its place: where the shelf has one that fits, it was that."""
    member = Member.objects.of(journal.household_id).filter(pk=journal.by_id).first()
    if member is None:
        return
    place = PartPlace(part.machine_id, part.slot)
    spare_id = next((key for key, kind in records.kinds_of(member).items() if place in kind.places), None)
    if spare_id is not None and on_hand(member).get(spare_id, 0) > 0:
        own = journal_of(journal.household_id, journal.by_id, journal.action_id)
        write_movement(own, spare_id, -1, Why.FITTED, item_id=part.item_id, at=part.at)


@receiver(spares_came)
def _from_the_box(journal: Journal, machine_id: UUID, machine: str, spares: Sequence[Slot], **_: object) -> None:
    """Spares that came with a machine go on the shelf; alike ones are one kind of part."""
    own = journal_of(journal.household_id, journal.by_id, journal.action_id)
    by_part: dict[str, list[Slot]] = defaultdict(list)
    for slot in spares:
        by_part[slot.part].append(slot)
    for part, slots in by_part.items():
        places = tuple(dict.fromkeys(PartPlace(machine_id, slot.key) for slot in slots))
        name = slots[0].name if len(places) == 1 else part.capitalize()
        spare_id = uuid4()
        _write_kind(own, spare_id, SparePart(f"{name}, {machine}"[:60], places))
        write_movement(own, spare_id, len(slots), Why.BOUGHT, note="came in the box")


@receiver(voided)
def _still_true(household_id: UUID, action: list[Entry], **_: object) -> None:
    """What came in cannot be taken back once it went out, nor two kinds of part be kept for one place."""
    touched = Movement.objects.of(household_id).filter(entry__in=action).values_list("spare_id", flat=True)
    for spare_id in set(touched):
        rows = standing(Movement.objects.of(household_id).filter(spare_id=spare_id))
        if sum(row.count for row in rows) < 0:
            raise Conflict(
                "What came in then went out since.", field="id", fix="Undo what went out first, or count what is there."
            )
    for order in Order.objects.of(household_id).filter(entry__in=action):
        if standing(order.arrivals.all()).exists():
            raise Conflict(
                "Some of this order came.", field="id", fix="Undo that first, or say that the rest does not come."
            )
    if SpareVersion.objects.of(household_id).filter(entry__in=action).exists():
        places = [place for part in records.kinds_in(household_id).values() for place in part.places]
        if len(places) != len(set(places)):
            raise Conflict("Another kind of part is kept for its place by now.", field="id", fix="Drop that one first.")
