"""What a machine's own figures lose over weeks: floor covered, minutes of a charge. Drag is asked before battery."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from statistics import median

LATELY, WINDOW = 7, 12
"""So many of the last figures are held against the best so many in a row before them. Ours."""
LOOK_BACK = timedelta(days=400)
"""What is older says nothing of now. Ours: over a year, so that a season is held against the one before."""
LEAST_FALL = 0.15
"""A smaller fall is the day's luck [-]. Ours."""
SURE = 0.01
"""By luck alone figures must be that low this rarely, for as many windows as were looked at [-]. Ours."""


@dataclass(frozen=True, slots=True)
class Fall:
    """A figure that fell: by which share [-], from what to what, since the window that began and ended then."""

    share: float
    before: float
    now: float
    best_from: datetime
    best_until: datetime


def fall(figures: Sequence[tuple[datetime, float]], now: datetime) -> Fall | None:
    """How far the last figures lie below the best of before, in the figures' unit; None where they do not, or few are.

    Best and last are medians. Whether luck could do it is asked of a rank test, made stricter by how many windows the
    best was chosen from.
    """
    known = [one for one in sorted(figures) if now - LOOK_BACK <= one[0] <= now]
    earlier, last = known[:-LATELY], [value for _, value in known[-LATELY:]]
    if len(earlier) < WINDOW or min(last) <= 0:
        return None
    windows = [earlier[i : i + WINDOW] for i in range(len(earlier) - WINDOW + 1)]
    best = max(windows, key=lambda window: median(value for _, value in window))
    high, low = median(value for _, value in best), median(last)
    share = 1 - low / high
    if share < LEAST_FALL or _by_luck([value for _, value in best], last) * (len(earlier) / WINDOW) > SURE:
        return None
    return Fall(share, high, low, best[0][0], best[-1][0])


def _by_luck(before: Sequence[float], last: Sequence[float]) -> float:
    """How likely figures so low are if nothing fell (Mann and Whitney's rank test, one-sided) [-]."""
    from scipy.stats import mannwhitneyu  # late: it takes a while to load

    return float(mannwhitneyu(last, before, alternative="less").pvalue)
