"""What rooms above are told or asked about sheets, inside the transaction that changes them."""

from django.dispatch import Signal

opening_for_case = Signal()
"""A sheet is about to open that puts a case right (`member`, `case_id`, `machines`): who must refuse it raises."""
finished = Signal()
"""A sitting ended (`member`, `sheet`: a `SheetState`)."""
