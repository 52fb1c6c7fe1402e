"""The season: all that falls due in half a year, in few visits on the days that a household likes."""

from care.season.chores import InStock, Told, chores_of, with_parts_back
from care.season.model import Barred, Chore, ChoreKey, Hands, NotOn, Pin, Season, Visit, Weights, Wishes
from care.season.plan import plan
from care.season.waiting import DueNow, spared_min, waits

__all__ = [
    "Barred",
    "Chore",
    "ChoreKey",
    "DueNow",
    "Hands",
    "InStock",
    "NotOn",
    "Pin",
    "Season",
    "Told",
    "Visit",
    "Weights",
    "Wishes",
    "chores_of",
    "plan",
    "spared_min",
    "waits",
    "with_parts_back",
]
