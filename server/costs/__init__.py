"""What a machine costs a year to keep going, and whether a repair pays."""
