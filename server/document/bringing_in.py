"""A document becomes rows: looked at first on the very same way, all of it or nothing, and again without harm.

Records that are here already stay; those that are not are added behind them, in the order of the file. What follows
from records is made anew, and every machine has to be worked out before anything counts.
"""

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import islice
from typing import Any
from uuid import UUID, uuid4

from django.contrib.auth.models import User
from django.db import IntegrityError, models, transaction

from care.errors import CareError
from care.season.minutes import pace_of as pace_of_sittings
from server.base import clock
from server.base.problems import Conflict, NotAllowed
from server.base.storage import analyse
from server.bench.took import sittings_took
from server.document import format as doc
from server.document.bringing_sheets import bring_cases, bring_sheets
from server.document.checking import check
from server.document.kinds import Record
from server.document.models import Import
from server.document.parcel import Parcel
from server.document.tables import Kind, all_kinds
from server.document.taking_out import HEADER, records_of
from server.due.stored import board_rows
from server.household.models import Household, Member
from server.household.services import journal_by, keep_pace
from server.logbook.models import Entry, Revision
from server.logbook.scoping import by_ids
from server.machines.items import refresh
from server.machines.models import Item, Machine, Note
from server.season.models import LastPlan
from server.setup.overrides import refresh_machine

AT_ONCE = 400
"""So many rows are written at a time."""


@dataclass(frozen=True, slots=True)
class Brought:
    """What bringing a file in does: into which household, what is added, what is here already and what stays."""

    household_id: UUID
    name: str
    new: bool
    people: tuple[tuple[UUID, str], ...]
    """Those of the file: whoever brings in a new household may be one of them."""
    added: dict[str, int]
    known: int
    without_picture: int
    stays: tuple[str, ...]


def look(*, user: User, parcel: Parcel) -> Brought:
    """What bringing it in would do; nothing is kept. Raises as `bring_in`."""
    with transaction.atomic():
        brought = bring_in(user=user, parcel=parcel, name="")
        transaction.set_rollback(True)
    return brought


def bring_in(*, user: User, parcel: Parcel, name: str, me: UUID | None = None) -> Brought:
    """Bring a document in as `user`, who is `me` of its people or somebody new in a household that is not here yet.

    Raises `InvalidValue` with `lines` for what is wrong in it, `NotAllowed` for a household of others, `Conflict` for
    what does not go together with what is here; nothing of it is then kept.
    """
    try:
        with transaction.atomic():
            return _brought(user, parcel, name, me)
    except IntegrityError as error:
        raise Conflict(
            "Something of this file is here already in another household, or twice.",
            field="file",
            fix="Choose the file of this household.",
        ) from error


def _brought(user: User, parcel: Parcel, name: str, me: UUID | None) -> Brought:
    document = parcel.document
    household = Household.objects.filter(pk=document.household.id).first()
    new = household is None
    if household is not None:
        _refuse_others(household, user)
    check(parcel, document.household.id)
    if household is None:
        household = Household.objects.create(**document.household.model_dump())
    member, people = _people(household, document, user, me, new)
    added: Counter[str] = Counter(people=people)
    added["machines"] = _machines(household, document)
    added["parts"] = _parts(household, document)
    fresh = _new_records(household, parcel)
    added["records"] = len(fresh)
    added["pictures"], without = _write_records(household, fresh, parcel)
    sheets, stays = bring_sheets(household, document)
    added["sheets"] = sheets
    cases, more = bring_cases(household, document)
    added["cases"] = cases
    if document.plan is not None:
        values = document.plan.model_dump(mode="json")
        LastPlan.everything.get_or_create(household=household, defaults=values)
    _derive(member)
    if not new and fresh:
        journal_by(member).tell(Import, name=name, added=len(fresh))
    return Brought(
        household_id=household.pk,
        name=household.name,
        new=new,
        people=tuple((one.id, one.name) for one in document.people if one.left_at is None),
        added=dict(added),
        known=len(document.records) - len(fresh),
        without_picture=without,
        stays=(*stays, *more),
    )


def _refuse_others(household: Household, user: User) -> None:
    mine = Member.objects.of(household.pk).filter(user=user, left_at=None, role=Member.Role.OWNER)
    if not mine.exists():
        raise NotAllowed(
            "The household of this file is here already, and only its owners bring something into it.",
            field="file",
            fix="Ask one of its owners.",
        )


def _people(household: Household, document: doc.Document, user: User, me: UUID | None, new: bool) -> tuple[Member, int]:
    """Whoever brings it in as a member, and how many people were added."""
    here = set(Member.objects.of(household.pk).values_list("pk", flat=True))
    fresh = [one for one in document.people if one.id not in here]
    Member.everything.bulk_create(Member(household=household, **one.model_dump()) for one in fresh)
    if not new:
        return Member.objects.of(household.pk).select_related("household").get(user=user), len(fresh)
    found = Member.objects.of(household.pk).select_related("household").filter(pk=me).first()
    if found is None:
        name = next((one.name for one in Member.everything.filter(user=user)), user.username)
        found = Member(id=uuid4(), household=household, name=name, joined_at=clock.now())
    found.user, found.role, found.left_at = user, Member.Role.OWNER, None
    found.save()
    return found, len(fresh)


def _machines(household: Household, document: doc.Document) -> int:
    here = set(Machine.objects.of(household.pk).values_list("pk", flat=True))
    fresh = [one for one in document.machines if one.id not in here]
    Machine.everything.bulk_create(
        Machine(household=household, name=one.given_name, features=one.given_features, **one.model_dump())
        for one in fresh
    )
    return len(fresh)


def _parts(household: Household, document: doc.Document) -> int:
    here = set(Item.objects.of(household.pk).values_list("pk", flat=True))
    fresh = [one for one in document.parts if one.id not in here]
    Item.everything.bulk_create(
        (
            Item(
                household=household, home_machine_id=one.first_machine_id, home_slot=one.first_slot, **one.model_dump()
            )
            for one in fresh
        ),
        AT_ONCE,
    )
    return len(fresh)


def _new_records(household: Household, parcel: Parcel) -> list[Record]:
    """Records that are not here yet. Raises `InvalidValue` for one that is here and says something else."""
    wanted: dict[UUID, Record] = {one.id: one for one in parcel.document.records}
    here: dict[UUID, Record] = {}
    if Entry.objects.of(household.pk).exists():
        for some in by_ids(Entry.objects.of(household.pk), wanted):
            rows = list(some.values(*HEADER))
            here |= {one.id: one for one in records_of(household.pk, rows)}
    other = [pk for pk, one in here.items() if one != wanted[pk]]
    if other:
        words = "This record is here already and says something else; records are never changed."
        faults = [doc.fault(parcel.line(pk), words, "Choose the file of this household.") for pk in other]
        raise doc.refused(faults[: doc.MOST_FAULTS])
    return [one for pk, one in wanted.items() if pk not in here]


def _write_records(household: Household, fresh: Sequence[Record], parcel: Parcel) -> tuple[int, int]:
    """Entries and details; how many pictures came, and how many of notes that have one did not."""
    last = Entry.objects.of(household.pk).aggregate(last=models.Max("sequence"))["last"] or 0
    kinds = all_kinds()
    entries = (_entry(household, one, last + n, kinds) for n, one in enumerate(fresh, 1))
    while some_entries := list(islice(entries, AT_ONCE)):
        Entry.everything.bulk_create(some_entries)
    by_kind: dict[str, list[Record]] = {}
    for one in fresh:
        by_kind.setdefault(one.what, []).append(one)  # type: ignore[attr-defined]
    for what, some in by_kind.items():
        if what != "note":
            _write_details(household, kinds[what], some)
    return _write_notes(household, kinds["note"], by_kind.get("note", []), parcel)


def _entry(household: Household, one: Any, sequence: int, kinds: dict[str, Kind]) -> Entry:
    return Entry(
        id=one.id,
        household=household,
        action_id=one.action_id,
        subject_id=one.subject_id or household.pk,
        kind=kinds[one.what].entry_kind,
        happened_at=one.happened_at,
        entered_at=one.entered_at,
        by_id=one.by,
        source=one.source,
        sequence=sequence,
        voids_id=one.voids if one.what == "void" else None,
        reason=one.reason if one.what == "void" else "",
    )


def _write_details(household: Household, kind: Kind, some: Iterable[Record]) -> None:
    if kind.table is None:
        return
    table = kind.table
    rows = (table(entry_id=one.id, household=household, **_columns(kind, one)) for one in some)
    while part := list(islice(rows, AT_ONCE)):
        table.everything.bulk_create(part)


def _columns(kind: Kind, one: Record) -> dict[str, Any]:
    """The values of a detail's columns: whole values as JSON where a column holds JSON."""
    assert kind.table is not None
    values: dict[str, Any] = {}
    plain: dict[str, Any] | None = None
    for field, column in kind.columns.items():
        if isinstance(kind.table._meta.get_field(column), models.JSONField):
            plain = plain or one.model_dump(mode="json")
            values[column] = plain[field]
        else:
            values[column] = getattr(one, field)
    return values


def _write_notes(household: Household, kind: Kind, some: Iterable[Record], parcel: Parcel) -> tuple[int, int]:
    came = without = 0
    for one in some:
        columns = _columns(kind, one)
        get = parcel.pictures.get(one.id)
        if get is not None:
            columns["picture"], came = get(), came + 1
        elif columns["width"]:
            columns["width"], columns["height"], without = 0, 0, without + 1
        Note.everything.create(entry_id=one.id, household=household, **columns)
    return came, without


def _derive(member: Member) -> None:
    """Make anew what follows from the records, and see that every machine can be worked out from them."""
    household_id = member.household_id
    try:
        for machine in Machine.objects.of(household_id):
            refresh_machine(machine)
        refresh(household_id, Item.objects.of(household_id).values_list("pk", flat=True))
        latest = Entry.objects.of(household_id).values("subject_id").annotate(number=models.Max("sequence"))
        Revision.everything.bulk_create(
            [Revision(household_id=household_id, **one) for one in latest],
            update_conflicts=True,
            unique_fields=["household", "subject_id"],
            update_fields=["number"],
        )
        analyse()
        pace = pace_of_sittings(sittings_took(member))
        keep_pace(household_id, pace.factor, pace.sittings)
        board_rows(member, strict=True)
    except IntegrityError:
        raise
    except CareError as error:
        raise _does_not_fit(error.detail) from error
    except Exception as error:  # whatever a page would fail with later, it fails with now
        raise _does_not_fit(f"{type(error).__name__}: {error}"[:200]) from error


def _does_not_fit(why: str) -> Conflict:
    return Conflict(
        f"With these records a machine could not be worked out: {why}. Nothing was brought in.",
        field="file",
        fix="Choose the file as it was taken out; if both went on differently since, keep one of them.",
    )
