"""Errors of the core: each says what, what it got, what the limit is and the way out."""

from typing import Any


class CareError(Exception):
    """Base of every refusal of the core.

    `code` is stable and meant for programs; `field` names the input at fault; `fix` says what to do instead; `values`
    keeps the figures, so that a screen can show them in the person's units.
    """

    code = "care_error"

    def __init__(self, detail: str, *, field: str | None = None, fix: str = "", **values: Any) -> None:
        super().__init__(detail)
        self.detail = detail
        self.field = field
        self.fix = fix
        self.values = values


class InvalidValue(CareError, ValueError):
    """A value outside its limits."""

    code = "invalid_value"


class IllegalMove(CareError, ValueError):
    """An item cannot go from its present state by this move."""

    code = "illegal_move"


class BookError(CareError, ValueError):
    """A file of the care book is wrong; the message names file, key and reason."""

    code = "book_error"


def require(ok: bool, field: str, got: object, limit: str) -> None:
    """Raise `InvalidValue` naming `field`, what it got and its limit, unless `ok`."""
    if not ok:
        raise InvalidValue(f"{field}: got {got}, needs {limit}", field=field, fix=f"Give {limit}.", got=got)
