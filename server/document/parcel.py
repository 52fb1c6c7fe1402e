"""A file that somebody gives to be brought in: the document alone, or a ZIP that also holds the pictures."""

import zipfile
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from functools import partial
from io import BytesIO
from typing import IO
from uuid import UUID

from PIL import Image

from care.errors import InvalidValue
from server.document import format as doc
from server.document.taking_out import DOCUMENT, PHOTOS

LARGEST_DOCUMENT = 600_000_000
LARGEST_PICTURE = 8_000_000
LARGEST_PIXELS = 64_000_000
"""More of a document [bytes] or of a picture [bytes, px] is not unpacked."""


@dataclass(frozen=True, slots=True)
class Parcel:
    """A document as it was read, its text for the lines of faults, and how to get the picture of a note."""

    document: doc.Document
    data: bytes
    pictures: Mapping[UUID, Callable[[], bytes]] = field(default_factory=dict)

    def line(self, its_id: UUID) -> int:
        """The line on which something of the document stands."""
        return doc.line_of(self.data, str(its_id))


def opened(file: IO[bytes]) -> Parcel:
    """Read a file. Raises `InvalidValue` with `lines` for one that is none of ours, damaged, newer or too large."""
    if not zipfile.is_zipfile(file):
        file.seek(0)
        data = file.read(LARGEST_DOCUMENT + 1)
        return Parcel(doc.read(_fits(data)), data)
    file.seek(0)
    try:
        packed = zipfile.ZipFile(file)
        data = _fits(_unpacked(packed, DOCUMENT, LARGEST_DOCUMENT))
        return Parcel(doc.read(data), data, _pictures(packed))
    except InvalidValue:
        raise
    except Exception as error:  # what is broken on purpose makes an unpacker raise whatever it likes
        fix = "Choose the file as it was taken out."
        raise doc.refused([doc.fault(1, "This ZIP is damaged, or holds no household.", fix)]) from error


def _fits(data: bytes) -> bytes:
    if len(data) > LARGEST_DOCUMENT:
        words = f"It is larger than {LARGEST_DOCUMENT // 1_000_000} MB."
        raise doc.refused([doc.fault(1, words, "Choose the file as it was taken out.")])
    return data


def _unpacked(packed: zipfile.ZipFile, name: str, largest: int) -> bytes:
    """One file of a ZIP, and never more of it than that."""
    with packed.open(name) as file:
        return file.read(largest + 1)


def _pictures(packed: zipfile.ZipFile) -> dict[UUID, Callable[[], bytes]]:
    found: dict[UUID, Callable[[], bytes]] = {}
    for name in packed.namelist():
        folder, _, file = name.partition("/")
        if folder == PHOTOS and file.endswith(".jpg"):
            found[UUID(file.removesuffix(".jpg"))] = partial(_picture, packed, name)
    return found


def _picture(packed: zipfile.ZipFile, name: str) -> bytes:
    """A picture of a ZIP that is one: a JPEG that can be unpacked whole. Raises `InvalidValue`."""
    try:
        data = _unpacked(packed, name, LARGEST_PICTURE)
        with Image.open(BytesIO(data), formats=["JPEG"]) as image:
            if len(data) <= LARGEST_PICTURE and image.width * image.height <= LARGEST_PIXELS:
                image.load()
                return data
    except Exception as error:  # as above
        raise _no_picture(name) from error
    raise _no_picture(name)


def _no_picture(name: str) -> InvalidValue:
    return doc.refused([doc.fault(1, f"{name} is no picture that can be kept.", "Take the file out again.")])
