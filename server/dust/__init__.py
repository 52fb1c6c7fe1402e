"""How bags and bins fill."""
