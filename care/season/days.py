"""On which days a season may have visits: weekdays on which somebody has time, but days that are barred."""

from datetime import date, timedelta
from itertools import pairwise

from care.due.schedule import WEEKDAYS
from care.season.chore import ChoreKey
from care.season.model import SEASON_DAYS, Day
from care.season.wishes import Pin, Wishes
from care.vocabulary import Skill

NEAR_DAYS = 42
"""So far ahead every weekday with time is weighed [days]; beyond, which of many it is will be decided when near."""
FAR_A_WEEK = 2
"""On so many weekdays visits that are far off are planned: those with the most time [-]. Ours."""


def days_of(wishes: Wishes, today: date, length: int = SEASON_DAYS) -> list[Day]:
    """The days of a season from today on that may have a visit; a pinned day has the hands of the household's best."""
    pinned = {pin.day for pin in wishes.pins}
    far = _far_weekdays(wishes)
    made = []
    for index in range(length):
        day = today + timedelta(days=index)
        if wishes.bars(day) is not None:
            continue
        weekday = WEEKDAYS[day.weekday()]
        minutes = _minutes(wishes, weekday) if index < NEAR_DAYS or weekday in far or day in pinned else {}
        if not minutes and day in pinned:
            minutes = _best(wishes)
        if minutes:
            made.append(Day(index, day, minutes))
    return made


def _far_weekdays(wishes: Wishes) -> set[str]:
    """The weekdays with the most time, and one of everybody who goes further into a machine than who has time then."""
    far = sorted(WEEKDAYS, key=lambda weekday: -sum(_minutes(wishes, weekday).values()))[:FAR_A_WEEK]
    for hands in wishes.hands:
        there = [one.skill for one in wishes.hands if set(one.weekdays) & set(far)]
        if not any(skill.reaches(hands.skill) for skill in there):
            far.append(hands.weekdays[0])
    return set(far)


def _minutes(wishes: Wishes, weekday: str) -> dict[Skill, float]:
    made: dict[Skill, float] = {}
    for hands in wishes.hands:
        if weekday in hands.weekdays:
            made[hands.skill] = made.get(hands.skill, 0.0) + hands.minutes
    return made


def _best(wishes: Wishes) -> dict[Skill, float]:
    each = [_minutes(wishes, weekday) for weekday in WEEKDAYS]
    return max(each, key=lambda minutes: sum(minutes.values()), default={})


def usual_gap(wishes: Wishes) -> int:
    """The longest usual distance from one weekday with time to the next [days]; 7 where there is one, or none."""
    on = sorted({WEEKDAYS.index(day) for hands in wishes.hands for day in hands.weekdays})
    return max((b - a for a, b in pairwise([*on, on[0] + 7])), default=7) if on else 7


def contradictions(wishes: Wishes, today: date, length: int = SEASON_DAYS) -> tuple[list[Pin], list[tuple[Pin, str]]]:
    """Pins that can be kept, and those that cannot with what they contradict: "outside" the season, what bars the day,
    or a "later" pin of the same chores.
    """
    kept: list[Pin] = []
    dropped: list[tuple[Pin, str]] = []
    asked: set[ChoreKey] = set()
    for pin in reversed(wishes.pins):  # the later word counts
        barred = wishes.bars(pin.day)
        twice = pin.chores & asked
        if not today <= pin.day < today + timedelta(days=length):
            dropped.append((pin, "outside"))
        elif barred is not None:
            dropped.append((pin, barred.why or "no visits then"))
        else:
            dropped += [(Pin(pin.day, twice), "later")] if twice else []
            kept += [Pin(pin.day, pin.chores - asked)] if pin.chores - asked else []
            asked |= pin.chores
    return kept[::-1], dropped[::-1]
