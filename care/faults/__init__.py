"""Finding faults: the air of a machine, what may be wrong with it, the odds, and what to look at next."""
