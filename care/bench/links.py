"""How the steps of a sheet hang together: which applies by the answers so far, and that no link leads nowhere."""

from collections.abc import Iterable, Mapping
from dataclasses import replace

from care.bench.steps import AGAIN, DAMP, DANGER, SKIP, Gap, Step, danger_in


def linked(steps: Iterable[Step]) -> tuple[Step, ...]:
    """The steps of a sheet; each of their links leads to one that is there, or it raises `AssertionError`.

    What may fill a place is named by all that could; of those only what this sheet has is kept.
    """
    made = tuple(steps)
    keys = [step.key for step in made]
    there = set(keys)
    assert len(keys) == len(there), [key for key in there if keys.count(key) > 1]

    def filled(places: tuple[Gap, ...]) -> tuple[Gap, ...]:
        return tuple((out, *(key for key in back if key in there)) for out, *back in places)

    for step in made:
        of_places = (place[0] for place in (*step.whole, *step.missing) if place[0])
        only_if = (step.only_if[0],) if step.only_if else ()
        counts = (step.counts,) if step.counts else ()
        lost = {*step.needs, *step.halted_by, *only_if, *counts, *of_places} - there
        assert not lost, f"{step.key}: there is no step {sorted(lost)}"
    return tuple(replace(step, whole=filled(step.whole), missing=filled(step.missing)) for step in made)


def applies(step: Step, answers: Mapping[str, str]) -> bool:
    """Whether the step is to be done, by the answers (step key -> value) so far.

    The web app has the same rule for a sheet worked on without a connection (`follow.ts`).
    """
    if step.only_if is not None and answers.get(step.only_if[0]) != step.only_if[1]:
        return False
    if not all(_done(key, answers) for key in step.needs):
        return False
    if any(danger_in(answers.get(key, "")) for key in step.halted_by):
        return False
    if step.missing and all(_is_filled(place, answers) for place in step.missing):
        return False
    return all(_is_filled(place, answers) for place in step.whole)


def _is_filled(place: Gap, answers: Mapping[str, str]) -> bool:
    out, *back = place
    return (bool(out) and not _done(out, answers)) or any(_done(key, answers) for key in back)


def _done(key: str, answers: Mapping[str, str]) -> bool:
    said = answers.get(key)
    return said not in (None, SKIP, DAMP, AGAIN) and not said.startswith(DANGER)
