"""Secrets that open something without a password: made here, shown once, and kept as a digest only."""

from hashlib import sha256
from secrets import token_urlsafe

SECRET_BYTES = 32
"""So long that nobody guesses one."""
LONGEST = 200
"""A longer one was never made here [characters]."""


def fresh() -> tuple[str, str]:
    """A new secret, and the digest under which it is found again."""
    secret = token_urlsafe(SECRET_BYTES)
    return secret, digest_of(secret)


def digest_of(secret: str) -> str:
    """What is kept of a secret; of one that cannot be ours, what no secret has."""
    if not secret.isascii() or not 0 < len(secret) <= LONGEST:
        return ""
    return sha256(secret.encode()).hexdigest()
