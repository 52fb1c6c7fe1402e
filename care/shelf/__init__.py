"""Spare parts: what is on the shelf and fits, what will be needed when, what to buy, how parts wear, what they cost."""

from care.shelf.buying import Need, Way, Weighed, best, weigh
from care.shelf.demand import Demand, Renewal, Spread, early_share
from care.shelf.offers import BadLines, LineProblem, read_csv, read_json
from care.shelf.stock import Check, Offer, PartNumber, Place, PriceList, SparePart
from care.shelf.supply import Cover, Holding, Supply, cover

__all__ = [
    "BadLines",
    "Check",
    "Cover",
    "Demand",
    "Holding",
    "LineProblem",
    "Need",
    "Offer",
    "PartNumber",
    "Place",
    "PriceList",
    "Renewal",
    "SparePart",
    "Spread",
    "Supply",
    "Way",
    "Weighed",
    "best",
    "cover",
    "early_share",
    "read_csv",
    "read_json",
    "weigh",
]
