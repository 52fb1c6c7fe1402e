"""How much of what could be is tried: little in `make test`, twenty times as much in `make test-deep`.

`make test` says of one commit the same every time: what it tries is drawn from the test itself. `make test-deep` draws
anew each time, and is what finds more.
"""

import os

from hypothesis import settings

DEEP = os.environ.get("YPERON_EFFORT") == "deep"
LOSES_ANSWERS = DEEP or bool(os.environ.get("YPERON_LOSES_ANSWERS"))
"""Whether the first answer of every write of a screen gets lost: what is told is recorded once all the same."""
TIMES = 20 if DEEP else 1
settings.register_profile("effort", max_examples=60 * TIMES, deadline=None, derandomize=not DEEP)
settings.load_profile("effort")


def examples(few: int, **more: object) -> settings:
    """So many random examples in `make test`; no deadline, since machines are noisy."""
    return settings(max_examples=few * TIMES, deadline=None, **more)
