"""Square codes to be scanned."""

from functools import lru_cache

from django.http import HttpRequest


@lru_cache(maxsize=500)
def rows(address: str) -> list[str]:
    """The rows of the code of an address, 1 is dark: the same each time, and most of the work of a page of labels."""
    import segno

    return ["".join(str(dark) for dark in row) for row in segno.make(address, error="m", micro=False).matrix]


def only_here(request: HttpRequest) -> bool:
    """Whether the address under which this was asked leads nowhere from another device."""
    return request.get_host().rsplit(":", 1)[0] in ("127.0.0.1", "localhost", "[::1]")
