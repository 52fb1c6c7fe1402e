"""The people of a household: who may do what, how they get in, and how each likes things shown."""
