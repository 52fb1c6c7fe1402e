"""Machines and parts as rows, finding them, and the moves of parts."""
