"""How much of what could be is tried: little in `make test`, twenty times as much in `make test-deep`."""

import os

from hypothesis import settings

DEEP = os.environ.get("YPERON_EFFORT") == "deep"
TIMES = 20 if DEEP else 1
settings.register_profile("effort", max_examples=60 * TIMES, deadline=None)
settings.load_profile("effort")


def examples(few: int, **more: object) -> settings:
    """So many random examples in `make test`; no deadline, since machines are noisy."""
    return settings(max_examples=few * TIMES, deadline=None, **more)
