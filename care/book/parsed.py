"""The book as it was read from its files, kept beside the compiled modules: reading it takes a second, this a tenth.

It is true for one state of the book's files and of the core's own, as a compiled module is for its source.
"""

import os
import pickle
import sys
from collections.abc import Callable, Iterable
from contextlib import suppress
from hashlib import sha256
from pathlib import Path
from typing import TypeVar

T = TypeVar("T")
CORE = Path(__file__).resolve().parents[1]


def digest(files: Iterable[Path]) -> str:
    """Hexadecimal digits that differ when any of the files does."""
    hashed = sha256()
    for path in sorted(files):
        hashed.update(path.read_bytes())
    return hashed.hexdigest()


def kept(folder: Path, read: Callable[[Path], T]) -> T:
    """What `read` makes of `folder`, from where it was kept if nothing changed since; else read, and kept."""
    made_from = digest([*folder.rglob("*.toml"), *CORE.rglob("*.py")])[:16]
    path = folder / "__pycache__" / f"book.{sys.implementation.cache_tag}-{made_from}.pickle"
    with suppress(OSError, pickle.UnpicklingError, EOFError, AttributeError, ImportError):
        return pickle.loads(path.read_bytes())  # type: ignore[no-any-return]  # noqa: S301 - as trusted as a .pyc
    book = read(folder)
    with suppress(OSError):  # a folder that may not be written: it is read each time
        _keep(path, pickle.dumps(book, pickle.HIGHEST_PROTOCOL))
    return book


def _keep(path: Path, data: bytes) -> None:
    path.parent.mkdir(exist_ok=True)
    for old in path.parent.glob("book.*.pickle"):
        old.unlink(missing_ok=True)
    fresh = path.with_suffix(f".{os.getpid()}")
    fresh.write_bytes(data)
    fresh.replace(path)
