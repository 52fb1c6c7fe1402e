"""Notes and photos of machines and parts. A picture is kept small, upright and without what a camera writes into it."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date
from io import BytesIO
from threading import Lock
from uuid import UUID

from django.db import transaction
from PIL import Image, ImageOps

from care.errors import InvalidValue, require
from server.base.problems import NotFound
from server.household.models import Member
from server.household.services import journal_by, require_writer, today_of, zone_of
from server.logbook.models import Entry
from server.logbook.services import standing
from server.machines import records
from server.machines.models import Note
from server.machines.services import machine_of

LARGEST_BYTES = 25_000_000
"""A file that is larger is refused [bytes]; phones make up to about 15 MB."""
LARGEST_PIXELS = 64_000_000
"""A picture with more is refused before it is unpacked [pixels], which would take some 200 MB; phones make up to 50."""
FORMATS = ("JPEG", "PNG", "WEBP")
"""What phones and screens make. Other decoders are not asked: each is a door of its own."""
_one_at_a_time = Lock()
"""Held while a picture is unpacked, so that several at once do not take the memory of several."""
LONG_SIDE_PX = 1600
"""The longer side of a picture as it is kept [px]: enough to see a screw."""
QUALITY = 82


@dataclass(frozen=True, slots=True)
class NoteLine:
    """A note: its entry, the part it is about if any, its words, and the size of its picture [px], 0 for none."""

    entry_id: UUID
    slot: str
    text: str
    day: date
    by: str
    width: int
    height: int


@dataclass(frozen=True, slots=True)
class Picture:
    """A clean JPEG and its size [px]."""

    data: bytes
    width: int
    height: int


def clean_picture(data: bytes) -> Picture:
    """`data` as an upright JPEG of at most `LONG_SIDE_PX`, without metadata. Raises `InvalidValue`."""
    require(len(data) <= LARGEST_BYTES, "picture", f"{len(data) / 1e6:.0f} MB", "a file of at most 25 MB")
    try:
        with _one_at_a_time, Image.open(BytesIO(data), formats=FORMATS) as opened:
            pixels = opened.width * opened.height
            require(pixels <= LARGEST_PIXELS, "picture", f"{pixels / 1e6:.0f} megapixels", "at most 64 megapixels")
            opened.draft("RGB", (LONG_SIDE_PX, LONG_SIDE_PX))  # a JPEG is unpacked no larger than it is needed
            return _small(opened)
    except InvalidValue:
        raise
    except Exception as error:  # a decoder may raise whatever it likes on what is not what it seems to be
        raise InvalidValue(
            "picture: this file is not a picture that can be read",
            field="picture",
            fix="Choose a photo (JPEG, PNG or WebP), or take it again.",
        ) from error


def _small(opened: Image.Image) -> Picture:
    opened.thumbnail((LONG_SIDE_PX, LONG_SIDE_PX))
    upright = ImageOps.exif_transpose(opened).convert("RGB")
    out = BytesIO()
    upright.save(out, "JPEG", quality=QUALITY, optimize=True)
    return Picture(out.getvalue(), *upright.size)


@transaction.atomic
def add_note(
    *,
    member: Member,
    machine_id: UUID,
    slot: str = "",
    text: str = "",
    picture: bytes | None = None,
    remind_on: date | None = None,
) -> Entry:
    """A note or a photo of a machine, or of one of its parts; from `remind_on` on Round reminds of it until it is done.

    Raises `InvalidValue`; nothing is then kept.
    """
    require_writer(member)
    machine = machine_of(member, machine_id)
    if slot:
        records.archetype_of(machine).slot(slot)
    words = text.strip()
    require(bool(words) or picture is not None, "text", repr(text), "a few words or a picture")
    require(bool(words) or remind_on is None, "text", repr(text), "what to be reminded of")
    require(len(words) <= 1000, "text", f"{len(words)} characters", "at most 1000")
    clean = clean_picture(picture) if picture is not None else None
    journal = journal_by(member, machine.pk)
    return journal.tell(
        Note,
        machine=machine,
        slot=slot,
        text=words,
        picture=clean.data if clean else None,
        width=clean.width if clean else 0,
        height=clean.height if clean else 0,
        remind_on=remind_on,
    )


@dataclass(frozen=True, slots=True)
class Reminder:
    """Something that somebody wanted to be reminded of."""

    entry_id: UUID
    machine_id: UUID
    machine_name: str
    text: str
    on: date


@transaction.atomic
def reminded(*, member: Member, entry_id: UUID) -> Entry:
    """What somebody wanted to be reminded of is done; undoing the entry brings it back.

    Raises `NotFound` where nobody is to be reminded of it, done by somebody else meanwhile.
    """
    require_writer(member)
    asked = next((one for one in reminders(member) if one.entry_id == entry_id), None)
    if asked is None:
        raise NotFound("reminder: it is done, or taken back", field="id", fix="Load the page again.")
    journal = journal_by(member, asked.machine_id)
    return journal.tell(Note, machine_id=asked.machine_id, text=f"Done: {asked.text}"[:1000], done_id=entry_id)


def reminders(member: Member) -> list[Reminder]:
    """What the household is reminded of today: what stands since today or an earlier day, the oldest first."""
    mine = Note.objects.of(member.household_id)
    done = standing(mine.filter(done__isnull=False)).values("done")
    rows = standing(mine.filter(remind_on__lte=today_of(member)).exclude(pk__in=done))
    rows = rows.select_related("machine").defer("picture").order_by("remind_on", "entry__sequence")
    return [Reminder(row.pk, row.machine_id, row.machine.name, row.text, row.remind_on) for row in rows]


def notes(member: Member, machine_id: UUID) -> list[NoteLine]:
    """The notes of a machine that stand, newest first."""
    rows = standing(Note.objects.of(member.household_id).filter(machine=machine_id)).select_related("entry__by")
    zone = zone_of(member)
    return [
        NoteLine(
            row.entry_id,
            row.slot,
            row.text,
            row.entry.happened_at.astimezone(zone).date(),
            row.entry.by.name if row.entry.by else "",
            row.width,
            row.height,
        )
        for row in rows.defer("picture").reverse()
    ]


def newest_pictures(member: Member, machine_ids: Iterable[UUID]) -> dict[tuple[UUID, str], UUID]:
    """The entry of the newest photo of each part of these machines, by machine and slot."""
    rows = standing(Note.objects.of(member.household_id).filter(machine__in=list(machine_ids)).exclude(width=0))
    return {(machine_id, slot): entry_id for machine_id, slot, entry_id in rows.values_list("machine", "slot", "pk")}


def picture_of(member: Member, entry_id: UUID) -> bytes:
    """The picture of a note that stands. Raises `NotFound`."""
    row = standing(Note.objects.of(member.household_id).filter(pk=entry_id).exclude(width=0)).first()
    if row is None:
        raise NotFound("picture: there is none with this id", field="id", fix="Load the page again.")
    return bytes(row.picture)
