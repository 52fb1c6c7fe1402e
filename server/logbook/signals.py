"""What rooms above are told of records, inside the transaction that writes them."""

from django.dispatch import Signal

voided = Signal()
"""An action was voided (`household_id`, `action`: its entries): bring what follows from it up to date.

A receiver refuses by raising `CareError`: then nothing is voided.
"""
