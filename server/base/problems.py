"""Refusals as services raise them; `api` turns them, and the core's errors, into problem+json."""

from care.errors import CareError


class NotFound(CareError, LookupError):
    """Nothing of this household has that id."""

    code = "not_found"


class Conflict(CareError):
    """It clashes with what is on record."""

    code = "conflict"


class NotAllowed(CareError):
    """This member may look, not change."""

    code = "not_allowed"


class BadToken(CareError):
    """No device that may post has this token."""

    code = "bad_token"
