"""The entry of everything that happens, taking it back, and keeping households apart."""
