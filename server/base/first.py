"""The first start: nobody has an account yet, and whoever sits at this computer makes the first one."""

import base64
from ipaddress import ip_address

from django.contrib.auth import get_user_model
from django.http import HttpRequest
from django.utils.crypto import constant_time_compare, salted_hmac

from server.base.middleware import address_of
from server.base.problems import NotAllowed

FORWARDED = ("X-Forwarded-For", "X-Real-Ip", "Forwarded", "Via")
"""Something in front of this server says for whom it asks: it may be anybody."""


def nobody_yet() -> bool:
    """Whether nobody has an account here."""
    return not get_user_model().objects.exists()


def code() -> str:
    """What proves that somebody sees this computer's terminal: the same until the secret key changes, 60 bits.

    Good only while nobody has an account.
    """
    digest = salted_hmac("server.base.first", "first owner", algorithm="sha256").digest()
    letters = base64.b32encode(digest)[:12].decode().lower()
    return "-".join((letters[:4], letters[4:8], letters[8:]))


def is_here(request: HttpRequest) -> bool:
    """Whether a request comes from this computer itself, and was not passed on by anything."""
    if any(name in request.headers for name in FORWARDED):
        return False
    try:
        return ip_address(address_of(request)).is_loopback
    except ValueError:
        return False


def allow(request: HttpRequest, told_code: str) -> None:
    """Raise `NotAllowed` for a request from elsewhere that does not tell the code."""
    if not is_here(request) and not constant_time_compare(told_code.strip().lower(), code()):
        raise NotAllowed(
            "This is not the code that the start printed.",
            field="code",
            fix="Look in the terminal where it was started, or open the page on that computer.",
        )
