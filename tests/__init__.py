"""Tests; how much each tries is set before any of them."""

from tests import effort

__all__ = ["effort"]
