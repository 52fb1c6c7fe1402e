"""Openings at the bench: undone, closed, their screws counted, what is said where something does not go in."""

from collections.abc import Sequence
from dataclasses import replace

from care.bench.steps import (
    SCREWS,
    Step,
)
from care.kinds import Opening

COUNT_OUT = "Count the screws out into the tray, and note which came from where."


NOT_ON = "Nothing is switched on before that is back."


COUNT_IN = "As many screws in as came out: an empty tray."


def counted(step: Step, way: Opening, opened: str) -> Step:
    """The step with the screws of an opening counted, by the step that opens it; as it is where it has none."""
    return replace(step, counts=opened, answers=(f"{SCREWS}1",)) if way.screws else step


def closing(step: Step, way: Opening, opened: str, untouched: tuple[str, ...]) -> Step:
    """A step that closes an opening, with what it tells besides its words; its screws are counted with the last one."""
    step = replace(step, opening=way.key, seat=way.seat or NO_CLICK, drawing=way.drawing, each=untouched)
    return step if way.last else counted(step, way, opened)


SEAT = (
    "Hair or grit in its seat? Clear it.",
    "Which way round? Notches, arrows and keyed ends go one way only: hold it against your photo.",
    "Do not force it: what is pressed in askew leaks or breaks.",
)
"""What to look for where a part does not go in and the book says nothing of its own."""


NO_CLICK = (
    "Open it again: is all that lies behind it home and flat?",
    "Grit in the catch? Brush it out.",
    "Look along the edge: in on one side and not on the other looks closed.",
)
"""What to look for where something does not close or click, and the book says nothing of its own."""


def opening_words(way: Opening) -> tuple[str, ...]:
    """How an opening is undone, its screws counted out."""
    return (way.undo, COUNT_OUT) if way.screws else (way.undo,)


def without_words(way: Opening, names: Sequence[str]) -> tuple[str, ...]:
    """How an opening is closed while a part that belongs behind it is away."""
    away = f"Still away{', all or some' if len(names) > 1 else ''}: {', '.join(names)}."
    words = (f"Shut it as it is, so that nothing falls in or gets lost. {away}", NOT_ON)
    if way.last:
        return (*words, "Its own screws go in; those of the pack wait in the closed tray.")
    return (*words, COUNT_IN) if way.screws else words


def closing_words(way: Opening) -> tuple[str, ...]:
    """How an opening is closed, its screws counted in unless the last ones wait."""
    return (way.close, COUNT_IN) if way.screws and not way.last else (way.close,)
