"""Cases of machines with something wrong: what was noticed and answered, and what it comes to."""
