"""How machines stand: what is due and why, what was agreed about it, what puts one out of use, its history."""
