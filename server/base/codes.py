"""Square codes to be scanned."""

from functools import lru_cache


@lru_cache(maxsize=500)
def rows(address: str) -> list[str]:
    """The rows of the code of an address, 1 is dark: the same each time, and most of the work of a page of labels."""
    import segno

    return ["".join(str(dark) for dark in row) for row in segno.make(address, error="m", micro=False).matrix]
