"""The Log: everything that happened, found by machine, part, person, kind, time and words."""
