"""Spare parts: what is on the shelf and fits, what will be needed when, what to buy, how parts wear, what they cost."""

from care.shelf.buying import Need, PurchasePlan, Weighed, best, weigh
from care.shelf.demand import Demand, Renewal, Spread, early_share
from care.shelf.offers import read_csv, read_json
from care.shelf.stock import FitCheck, Offer, PartNumber, PartPlace, PriceList, SparePart
from care.shelf.supply import Cover, Holding, Supply, cover

__all__ = [
    "Cover",
    "Demand",
    "FitCheck",
    "Holding",
    "Need",
    "Offer",
    "PartNumber",
    "PartPlace",
    "PriceList",
    "PurchasePlan",
    "Renewal",
    "SparePart",
    "Spread",
    "Supply",
    "Weighed",
    "best",
    "cover",
    "early_share",
    "read_csv",
    "read_json",
    "weigh",
]
