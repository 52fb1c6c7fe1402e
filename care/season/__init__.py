"""The season: all that falls due in half a year, in few visits on the days that a household likes."""

from care.season.chore import Chore, ChoreKey
from care.season.chores import Circumstances, InStock, chores_of, with_parts_back
from care.season.model import Season, Visit
from care.season.plan import plan
from care.season.waiting import DueNow, spared_min, waits
from care.season.weights import Weights
from care.season.wishes import Barred, Hands, NotOn, Pin, Wishes

__all__ = [
    "Barred",
    "Chore",
    "ChoreKey",
    "Circumstances",
    "DueNow",
    "Hands",
    "InStock",
    "NotOn",
    "Pin",
    "Season",
    "Visit",
    "Weights",
    "Wishes",
    "chores_of",
    "plan",
    "spared_min",
    "waits",
    "with_parts_back",
]
