"""What machines did: runs, usual weeks, days off, mishaps."""
