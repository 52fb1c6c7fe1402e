"""How worn parts are, by what was measured."""
