"""Sittings: what one would take, sheets, their answers and their end."""
