"""When the disk does not take what is to be kept: what is wrong with it, in words, and the way out."""

import errno
from dataclasses import dataclass

from django.conf import settings
from django.db import DatabaseError


@dataclass(frozen=True, slots=True)
class Trouble:
    """What keeps a record from being kept: a code, the words, what to do; `soon`: it passes by itself."""

    code: str
    detail: str
    fix: str
    soon: bool = False


FULL = Trouble(
    "disk_full",
    "The disk of the machine that runs Yperon is full; nothing was recorded.",
    "Free some space there and try again; Yperon need not be started anew.",
)
READ_ONLY = Trouble(
    "read_only",
    "Yperon may not write into its folder; nothing was recorded.",
    "Give the account that runs Yperon the right to write there, then try again.",
)
BUSY = Trouble(
    "busy", "Others are recording at this moment; nothing was recorded.", "Try again in a few seconds.", soon=True
)
UNREADABLE = Trouble(
    "unreadable",
    "The file that holds the records cannot be opened or read; nothing was recorded.",
    "Look whether its disk is there and whole. The terminal that runs Yperon says more.",
)
_SAID = (
    ("disk is full", FULL),
    ("readonly database", READ_ONLY),
    ("attempt to write", READ_ONLY),
    ("is locked", BUSY),
    ("unable to open", UNREADABLE),
    ("disk i/o error", UNREADABLE),
    ("malformed", UNREADABLE),
    ("not a database", UNREADABLE),
)
_NUMBERS = {errno.ENOSPC: FULL, errno.EDQUOT: FULL, errno.EROFS: READ_ONLY, errno.EACCES: READ_ONLY}


def trouble_of(error: BaseException | None) -> Trouble | None:
    """What is wrong with the disk if that is why `error` was raised; None for any other error."""
    if isinstance(error, DatabaseError):
        said = str(error).lower()
        return next((trouble for words, trouble in _SAID if words in said), None)
    if isinstance(error, OSError):
        return _NUMBERS.get(error.errno or 0)
    return None


def folder() -> str:
    """Where the records are kept, for words in the terminal."""
    return str(settings.DATABASES["default"]["NAME"])
