"""The only file that reads the environment: typed readers that name the bad variable."""

import os
from contextlib import suppress
from datetime import datetime
from pathlib import Path
from tempfile import mkstemp

from django.core.exceptions import ImproperlyConfigured

PREFIX = "YPERON_"


def text(name: str, default: str) -> str:
    """The variable `YPERON_<name>`."""
    return os.environ.get(PREFIX + name, default)


def flag(name: str, default: bool) -> bool:
    """A yes/no variable. Raises `ImproperlyConfigured` naming it."""
    value = text(name, "1" if default else "0")
    if value not in ("0", "1"):
        raise ImproperlyConfigured(f"{PREFIX}{name} is {value!r}: set it to 1 or 0")
    return value == "1"


def choice(name: str, values: tuple[str, ...]) -> str:
    """One of these; the first without the variable. Raises `ImproperlyConfigured` naming it."""
    value = text(name, values[0])
    if value not in values:
        raise ImproperlyConfigured(f"{PREFIX}{name} is {value!r}: set it to {' or '.join(values)}")
    return value


def path(name: str, default: Path) -> Path:
    """A path variable."""
    return Path(text(name, str(default)))


def words(name: str, default: list[str]) -> list[str]:
    """A comma-separated variable."""
    value = text(name, "")
    return [word.strip() for word in value.split(",") if word.strip()] or default


def http_address(name: str) -> str:
    """An http or https address, or nothing when unset. Raises `ImproperlyConfigured` naming it."""
    value = text(name, "")
    if value and not value.startswith(("http://", "https://")):
        raise ImproperlyConfigured(f"{PREFIX}{name} is {value!r}: write it as http://127.0.0.1:8199/offers.json")
    return value


def times(name: str, most: float) -> float:
    """How many times as fast, 1 when unset. Raises `ImproperlyConfigured` naming it."""
    value = text(name, "1")
    try:
        factor = float(value)
    except ValueError:
        factor = 0.0
    if not 1 <= factor <= most:
        raise ImproperlyConfigured(f"{PREFIX}{name} is {value!r}: set it to a number from 1 to {most:g}")
    return factor


def moment(name: str) -> datetime | None:
    """An instant with its offset, or None when unset. Raises `ImproperlyConfigured` naming it."""
    value = text(name, "")
    if not value:
        return None
    try:
        at = datetime.fromisoformat(value)
    except ValueError as error:
        raise ImproperlyConfigured(f"{PREFIX}{name} is {value!r}: write it as 2026-11-24T09:00:00+00:00") from error
    if at.tzinfo is None:
        raise ImproperlyConfigured(f"{PREFIX}{name} is {value!r}: it needs an offset such as +00:00")
    return at


def secret(name: str, file: Path) -> str:
    """The variable, or a key made once and kept in `file`, readable by its owner only."""
    value = text(name, "")
    if value:
        return value
    if not file.exists():
        try:
            _make_secret(file)
        except OSError as error:
            raise ImproperlyConfigured(
                f"{file} cannot be written ({error.strerror}): free some space, give the right to write there,"
                f" or set {PREFIX}VAR to another folder"
            ) from error
    return file.read_text()


def _make_secret(file: Path) -> None:
    """A key in `file`, there whole or not at all: of several programs that start at once the first one's counts."""
    from django.core.management.utils import get_random_secret_key

    file.parent.mkdir(parents=True, exist_ok=True)
    handle, name = mkstemp(dir=file.parent)  # readable by its owner only
    try:
        with os.fdopen(handle, "w") as made:
            made.write(get_random_secret_key())
        with suppress(FileExistsError):
            os.link(name, file)
    finally:
        os.unlink(name)
