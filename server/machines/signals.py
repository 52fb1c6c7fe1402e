"""What rooms above are told or asked about machines and their parts, inside the transaction that changes them."""

from django.dispatch import Signal

changing = Signal()
"""Machines are about to change otherwise than on a sheet (`household_id`, `machine_ids`, `field`): who must refuse it
raises `Conflict` and names the field.
"""
renewed = Signal()
"""A new part went into its place (`journal` of the action, `part`: a `NewPart`)."""
spares_came = Signal()
"""A machine came with spares that wait to be used up (`journal`, `machine_id`, `machine`: its name, `spares`: the
places they fit, each as often as there are spares for it).
"""
