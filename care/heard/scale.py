"""Which drying part lies on a scale that says nothing but a weight."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from math import log
from uuid import UUID

from care.bench.weighing import SCALE_STEP_G, is_lighter

WETTEST = 8.0
"""A soaked foam weighs at most so many times as much as a dry one [-]. Ours."""
CLEARER = 1.5
"""The next best part must be so many times as far off, else somebody is asked [-]. Ours."""


@dataclass(frozen=True, slots=True)
class Drying:
    """A part on the rack: what it weighs dry, and what it weighed last in this drying [g]; None: nobody knows."""

    item_id: UUID
    dry_g: float | None
    last_g: float | None


def might_be(grams: float, parts: Iterable[Drying]) -> list[UUID]:
    """The parts that can weigh so much now, nearest first: by their last weight, which a drying part only loses from,
    else by their dry one. One whose dry weight nobody knows may weigh anything, and comes last.
    """
    far = sorted((off, n, one.item_id) for n, one in enumerate(parts) if (off := _off(grams, one)) is not None)
    return [item_id for _, _, item_id in far]


def on_scale(grams: float, parts: Sequence[Drying]) -> UUID | None:
    """The part that lies on the scale; None where it could be several, or none.

    A part alone on the rack is it, if it can weigh so much.
    """
    possible = [(one, off) for one in parts if (off := _off(grams, one)) is not None]
    ranked = sorted(possible, key=lambda pair: pair[1])
    if len(ranked) == 1:
        return ranked[0][0].item_id
    if len(ranked) > 1 and ranked[1][1] > CLEARER * max(ranked[0][1], _step(grams)):
        return ranked[0][0].item_id
    return None


def _off(grams: float, one: Drying) -> float | None:
    """How far off a weight is from what the part should weigh [natural log]; None: it cannot weigh that."""
    if one.dry_g is not None and (is_lighter(grams, one.dry_g) or grams > one.dry_g * WETTEST):
        return None
    if one.last_g is not None:
        return abs(log(grams / one.last_g)) if grams <= one.last_g + 2 * SCALE_STEP_G else None
    return abs(log(grams / one.dry_g)) if one.dry_g is not None else log(WETTEST)


def _step(grams: float) -> float:
    return SCALE_STEP_G / grams
